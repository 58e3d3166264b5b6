"""Named changes of a plan: rooms by the tape, what is in them, and the marks to make."""

from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from lumbek.core.model.places import MOST_ROOMS, MOST_STOREYS, Room, Storey
from lumbek.core.model.plan import (
    MOST_LAMPS,
    MOST_MARKS,
    AboveCeiling,
    Agreed,
    CeilingBuild,
    Floor,
    Joists,
    LampSaid,
    Mark,
    Mm,
    MovedBy,
    Opening,
    RoomLies,
    SharedWall,
    Size,
    Thing,
    WallBuild,
)
from lumbek.core.model.routes import RouteRules
from lumbek.core.model.text import Id, Name
from lumbek.core.value import Change

Typed = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=400)]


class TypeRoom(Change):
    """A room as it is read off a tape: `Bedroom 4.20 x 3.60 h 2.40`; one of that name is measured anew."""

    op: Literal["type-room"] = "type-room"
    typed: Typed
    storey: Id | None = None


class Measure(Change):
    """The walls of a room: `4.20 x 3.60`, or in their order, `4.20 n, 1.10 e, ...`."""

    op: Literal["measure"] = "measure"
    room: Id
    typed: Typed


class TypeLine(Change):
    """Something in a room, as one says it: `door 838 s left 100 hinge left`, `socket both sides of bed`."""

    op: Literal["line"] = "line"
    room: Id
    typed: Typed


class TapeWasWrong(Change):
    """A wall is as long as this: what was measured from its ends is still as far from them.

    `also` is the wall across that is as much longer or shorter; where only one can be, it is that.
    """

    op: Literal["tape"] = "tape"
    room: Id
    wall: Id
    length_mm: Size
    also: Id | None = None


class MoveWall(Change):
    """A wall is moved, outwards where positive: what exists stays where it is, what is planned follows its rule."""

    op: Literal["move-wall"] = "move-wall"
    room: Id
    wall: Id
    by_mm: Annotated[int, Field(ge=-50_000, le=50_000)]


class SetWall(Change):
    """How a wall is built."""

    op: Literal["wall"] = "wall"
    room: Id
    wall: Id
    build: WallBuild | None = None
    depth_mm: Mm | None = None
    plaster_mm: Mm | None = None
    tiled: bool | None = None


class SetCeiling(Change):
    """How high a room is, and what is over it."""

    op: Literal["ceiling"] = "ceiling"
    room: Id
    height_mm: Size = 2400
    ceiling: CeilingBuild | None = None
    void_mm: Mm | None = None
    is_insulated: bool | None = None
    joists: Joists | None = None


class PutAbove(Change):
    """A pipe, a duct or a beam over a ceiling, as it is from now on."""

    op: Literal["above"] = "above"
    room: Id
    above: AboveCeiling


class PutOpening(Change):
    """An opening as it is from now on."""

    op: Literal["opening"] = "opening"
    room: Id
    opening: Opening


class PutThing(Change):
    """What stands at a wall, as it is from now on."""

    op: Literal["thing"] = "thing"
    room: Id
    thing: Thing


class DropPart(Change):
    """Take an opening or a thing away; marks that were measured from it stay where they were, and say so."""

    op: Literal["drop-part"] = "drop-part"
    room: Id
    part: Id


class PutMark(Change):
    """A mark as it is from now on."""

    op: Literal["mark"] = "mark"
    mark: Mark


class DropMark(Change):
    """Take a mark away."""

    op: Literal["drop-mark"] = "drop-mark"
    mark: Id


class TickMark(Change):
    """A mark was made on site; or could not be, and went so far to the right and up."""

    op: Literal["tick"] = "tick"
    mark: Id
    is_made: bool = True
    moved: MovedBy | None = None
    why: Name = ""


class AgreeHeight(Change):
    """A height that departs from the guidance was agreed."""

    op: Literal["agree"] = "agree"
    mark: Id
    agreed: Agreed


class SetFloor(Change):
    """What is between a storey and the one above."""

    op: Literal["floor"] = "floor"
    storey: Id
    floor: Floor


class PutBetween(Change):
    """A wall that two rooms share."""

    op: Literal["between"] = "between"
    between: SharedWall


class PutSeat(Change):
    """Where a room lies from another: over it, or beside it with what is between them unknown; None takes that back."""

    op: Literal["seat"] = "seat"
    room: Id
    seat: RoomLies | None = None


class PutLamps(Change):
    """The lamps to choose from, all of them as they are from now on."""

    op: Literal["lamps"] = "lamps"
    lamps: Annotated[tuple[LampSaid, ...], Field(max_length=MOST_LAMPS)]


class PutWays(Change):
    """What is said of the ways that cable takes, as it is from now on."""

    op: Literal["ways"] = "ways"
    ways: RouteRules


class TakeIn(Change):
    """Storeys, rooms and marks from a file: those of the same ids are replaced, others stay."""

    op: Literal["take-in"] = "take-in"
    storeys: Annotated[tuple[Storey, ...], Field(max_length=MOST_STOREYS)] = ()
    rooms: Annotated[tuple[Room, ...], Field(max_length=MOST_ROOMS)] = ()
    between: Annotated[tuple[SharedWall, ...], Field(max_length=2 * MOST_ROOMS)] = ()
    marks: Annotated[tuple[Mark, ...], Field(max_length=MOST_MARKS)] = ()
    lamps: Annotated[tuple[LampSaid, ...], Field(max_length=MOST_LAMPS)] = ()
    # What is said of the ways that cable takes, whole; None leaves it as it is.
    ways: RouteRules | None = None


PlanCommand = (
    TypeRoom
    | Measure
    | TypeLine
    | TapeWasWrong
    | MoveWall
    | SetWall
    | SetCeiling
    | PutOpening
    | PutThing
    | DropPart
    | PutMark
    | DropMark
    | TickMark
    | AgreeHeight
    | SetFloor
    | PutBetween
    | PutAbove
    | PutSeat
    | PutLamps
    | TakeIn
    | PutWays
)
