"""A house by the tape: outlines of rooms, what is in their walls, what stands there, and the marks to make.

Everything is in whole millimetres. A wall runs from left to right as one faces it from inside its room, so that the
walls of a room follow each other clockwise, seen from above with north up. Things are kept as they were measured, by
their nearest edge from the left or the right end of a wall: where they lie follows from that.
"""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from lumbek.core.model.text import Id, Name, Note
from lumbek.core.value import Frozen

MOST_WALLS, MOST_IN_A_ROOM, MOST_MARKS, MOST_LAMPS = 40, 80, 1000, 200

Mm = Annotated[int, Field(ge=0, le=100_000)]
Size = Annotated[int, Field(gt=0, le=100_000)]
Heading = Annotated[int, Field(ge=0, lt=360)]
Side = Literal["left", "right"]
# What stays, is moved, goes, or comes; None where nobody has said.
Fate = Literal["keep", "move", "remove", "new"]
WallBuild = Literal["brick", "block", "stud", "lath-and-plaster", "stone", "timber"]
CeilingBuild = Literal["board", "lath-and-plaster", "boarded-over", "concrete", "timber"]


class Wall(Frozen):
    """A wall of a room: which way it runs (degrees from north, clockwise) and how long it is."""

    id: Id
    heading: Heading
    length_mm: Size
    build: WallBuild | None = None
    # How deep a box may go before it is through, or meets what is behind; how much of that is plaster.
    depth_mm: Mm | None = None
    plaster_mm: Mm | None = None
    tiled: bool | None = None


class Measured(Frozen):
    """Along a wall, as the tape had it: the nearest edge from one end, and the width."""

    id: Id
    wall: Id
    side: Side = "left"
    offset_mm: Mm
    width_mm: Size


OpeningKind = Literal["door", "window", "gap"]


class Opening(Measured):
    """A door, a window, or a gap in a wall; `hinge` and `opens` of a door's leaf."""

    kind: OpeningKind
    sill_mm: Mm = 0
    head_mm: Mm = 2040
    hinge: Side | None = None
    opens: Literal["in", "out"] = "in"

    @model_validator(mode="after")
    def _is_above_its_sill(self) -> Self:
        if self.head_mm <= self.sill_mm:
            raise ValueError("head_mm: the head is above the sill")
        return self


ThingKind = Literal[
    "bed",
    "cabinet",
    "units",
    "wall-units",
    "desk",
    "appliance",
    "built-in",
    "hob",
    "extraction",
    "sink",
    "basin",
    "bath",
    "shower",
    "radiator",
    "stove",
    "partition",
    "water-stop",
    "meter",
    "stair",
    "other",
]


class Thing(Measured):
    """What stands at a wall: how far it comes into the room, from which height to which.

    `parts_mm` are the widths of a run of units, from the left; `outlet` where an appliance's outlet sits; `tray` and
    `head_out_mm` of a shower: whether it has a tray, and how far its fixed head is from the wall.
    """

    kind: ThingKind
    name: Name = ""
    depth_mm: Size = 600
    out_mm: Mm = 0
    bottom_mm: Mm = 0
    height_mm: Size = 900
    parts_mm: Annotated[tuple[Size, ...], Field(max_length=30)] = ()
    fate: Fate | None = None
    is_wired: bool | None = None
    can_be_pulled_out: bool | None = None
    outlet: Literal["beside", "above", "neighbour", "behind"] | None = None
    tray: bool | None = None
    head_mm: Mm | None = None
    # Towards which end of its wall a stair rises.
    rises: Side | None = None

    @model_validator(mode="after")
    def _parts_fill_it(self) -> Self:
        if self.parts_mm and sum(self.parts_mm) != self.width_mm:
            raise ValueError(f"parts_mm: {sum(self.parts_mm)} together, and it is {self.width_mm} wide")
        return self

    @property
    def top_mm(self) -> int:
        """Its upper edge above the floor."""
        return self.bottom_mm + self.height_mm


class Joists(Frozen):
    """The joists over a room: which way they run, how far apart, how wide, and where the first one's near edge is.

    That is from the west wall where they run north, from the south wall where they run east: a trial hole tells it.
    """

    runs: Literal["n", "e"]
    pitch_mm: Size
    width_mm: Size = 47
    first_mm: Mm = 0

    @model_validator(mode="after")
    def _have_room_between(self) -> Self:
        if self.pitch_mm <= self.width_mm:
            raise ValueError("pitch_mm: it is from edge to like edge, wider than a joist")
        return self


class AboveCeiling(Frozen):
    """A pipe, a duct or a beam over a ceiling: which way it runs, and its near edge from the west or the south wall."""

    id: Id
    kind: Literal["pipe", "duct", "beam"]
    runs: Literal["n", "e"]
    at_mm: Mm
    width_mm: Size


class Outline(Frozen):
    """A room by the tape: its walls clockwise, its height, what is in the walls and what stands at them."""

    walls: Annotated[tuple[Wall, ...], Field(min_length=3, max_length=MOST_WALLS)]
    height_mm: Size = 2400
    ceiling: CeilingBuild | None = None
    # Over the ceiling: how far up, what lies there.
    void_mm: Mm | None = None
    is_insulated: bool | None = None
    joists: Joists | None = None
    above: Annotated[tuple[AboveCeiling, ...], Field(max_length=20)] = ()
    openings: Annotated[tuple[Opening, ...], Field(max_length=MOST_IN_A_ROOM)] = ()
    things: Annotated[tuple[Thing, ...], Field(max_length=MOST_IN_A_ROOM)] = ()

    @model_validator(mode="after")
    def _each_once(self) -> Self:
        walls = [wall.id for wall in self.walls]
        ids = [*walls, *(each.id for each in (*self.openings, *self.things)), *(each.id for each in self.above)]
        if len(set(ids)) < len(ids):
            raise ValueError("walls: an id is used twice")
        lost = next((each for each in (*self.openings, *self.things) if each.wall not in walls), None)
        if lost is not None:
            raise ValueError(f"wall: {lost.id} is at wall {lost.wall}, which is not there")
        return self

    def wall(self, wall_id: str) -> Wall | None:
        """Return a wall; None where it is not there."""
        return next((wall for wall in self.walls if wall.id == wall_id), None)

    def part(self, part_id: str) -> Opening | Thing | None:
        """Return an opening or a thing; None where it is not there."""
        opening = next((each for each in self.openings if each.id == part_id), None)
        return opening or next((each for each in self.things if each.id == part_id), None)


class Floor(Frozen):
    """What is between a storey and the one above: how high the storey is, what is built up, and how it is reached.

    `joists` are those of the whole storey: a room that says its own goes by those.
    """

    height_mm: Size | None = None
    build_up_mm: Mm | None = None
    joist_depth_mm: Size | None = None
    void_mm: Mm | None = None
    screed_mm: Mm | None = None
    reached_from_above: bool | None = None
    joists: Joists | None = None
    # A yard, an outbuilding: no storey under the one above it in the list, but beside the lowest.
    is_apart: bool = False


class WallFace(Frozen):
    """A wall as it is seen in one room."""

    room: Id
    wall: Id


class SharedWall(Frozen):
    """Two walls of two rooms that are one wall: its two faces, its thickness, and how they lie.

    Seen from `one`, the right end of `other`'s face is `offset_mm` to the right of the left end of its own.
    """

    one: WallFace
    other: WallFace
    thickness_mm: Mm
    offset_mm: Annotated[int, Field(ge=-100_000, le=100_000)] = 0


class RoomLies(Frozen):
    """Where a room lies from another on any storey: from that one's south-west corner to its own, east and north."""

    of: Id
    east_mm: Annotated[int, Field(ge=-100_000, le=100_000)] = 0
    north_mm: Annotated[int, Field(ge=-100_000, le=100_000)] = 0


# -- places by rule ----------------------------------------------------------------------------------------------


class FromCorner(Frozen):
    """So far from an end of a wall."""

    rule: Literal["from-corner"] = "from-corner"
    wall: Id
    side: Side = "left"
    mm: Mm


class BesideThing(Frozen):
    """Beside a bed: half of it and half of what stands beside it, from its middle."""

    rule: Literal["beside"] = "beside"
    thing: Id
    side: Side
    cabinet_mm: Mm = 450


class BetweenTwo(Frozen):
    """In the middle between two openings or things on one wall."""

    rule: Literal["between"] = "between"
    one: Id
    other: Id


class MiddleOf(Frozen):
    """On the middle of an opening, a thing, or a part of a run of units, counted from 1 at the left."""

    rule: Literal["middle"] = "middle"
    of: Id
    part: Annotated[int, Field(ge=1, le=30)] | None = None


class BesideDoor(Frozen):
    """Beside a door on its opening side: so far from the edge of the opening."""

    rule: Literal["beside-door"] = "beside-door"
    door: Id
    mm: Mm = 150


class AtEdge(Frozen):
    """At the end of a thing: so far inside of it, or outside where `outside`."""

    rule: Literal["edge"] = "edge"
    of: Id
    side: Side
    mm: Mm = 150
    outside: bool = False


class Spread(Frozen):
    """One of several spread evenly over a wall, or over a thing that stands at it."""

    rule: Literal["spread"] = "spread"
    over: Id
    at: Annotated[int, Field(ge=1, le=60)]
    count: Annotated[int, Field(ge=1, le=60)]

    @model_validator(mode="after")
    def _is_one_of_them(self) -> Self:
        if self.at > self.count:
            raise ValueError(f"at: there are {self.count}")
        return self


class Straight(Frozen):
    """Straight above or below another mark, so far to a side: so a hole that was drilled is measured from, too."""

    rule: Literal["straight"] = "straight"
    mark: Id
    side: Side = "right"
    mm: Mm = 0


class BackToBack(Frozen):
    """On the other face of a wall between two rooms, straight behind a mark in the other room, so far to a side."""

    rule: Literal["behind"] = "behind"
    mark: Id
    side: Side = "right"
    mm: Mm = 0


class OnCeiling(Frozen):
    """On the ceiling: so far from two walls, as the tape has it."""

    rule: Literal["ceiling"] = "ceiling"
    wall: Id
    mm: Mm
    other: Id
    other_mm: Mm


class InGrid(Frozen):
    """On the ceiling, one lamp of a grid of rows over the room, counted from the west and from the south."""

    rule: Literal["grid"] = "grid"
    column: Annotated[int, Field(ge=1, le=20)]
    columns: Annotated[int, Field(ge=1, le=20)]
    row: Annotated[int, Field(ge=1, le=20)]
    rows: Annotated[int, Field(ge=1, le=20)]
    # Whether the grid is nudged so that every cut-out clears the joists; and, where that costs symmetry, without it.
    clears: bool = False
    is_unsymmetric: bool = False
    # From lamp to lamp, both ways, the grid in the middle of the room; else the span is divided.
    spacing_mm: Size | None = None


class OverEdge(Frozen):
    """On the ceiling, over the front edge of what stands at a wall, or so far in front: one of several."""

    rule: Literal["over-edge"] = "over-edge"
    thing: Id
    at: Annotated[int, Field(ge=1, le=60)]
    count: Annotated[int, Field(ge=1, le=60)]
    out_mm: Annotated[int, Field(ge=-2000, le=2000)] = 0

    @model_validator(mode="after")
    def _is_one_of_them(self) -> Self:
        if self.at > self.count:
            raise ValueError(f"at: there are {self.count}")
        return self


class StaysAt(Frozen):
    """Where it was when what its rule speaks of went away: on its wall, from the left."""

    rule: Literal["kept"] = "kept"
    wall: Id
    mm: Annotated[int, Field(ge=-100_000, le=100_000)]
    why: Name = ""


Rule = Annotated[
    FromCorner
    | BesideThing
    | BetweenTwo
    | MiddleOf
    | BesideDoor
    | AtEdge
    | Spread
    | Straight
    | BackToBack
    | OnCeiling
    | InGrid
    | OverEdge
    | StaysAt,
    Field(discriminator="rule"),
]


class AtHeight(Frozen):
    """So high above the finished floor."""

    height: Literal["at"] = "at"
    mm: Mm


class ByUse(Frozen):
    """As the rulebook's guidance has it for what it is."""

    height: Literal["use"] = "use"


class SameAs(Frozen):
    """As high as another mark."""

    height: Literal["same"] = "same"
    mark: Id


class AboveThing(Frozen):
    """So far above a thing: a worktop."""

    height: Literal["above"] = "above"
    thing: Id
    mm: Mm = 150


class AboveStair(Frozen):
    """So far above the pitch line of a stair, where the mark is along it."""

    height: Literal["stair"] = "stair"
    thing: Id
    mm: Mm


HeightRule = Annotated[AtHeight | ByUse | SameAs | AboveThing | AboveStair, Field(discriminator="height")]

MarkKind = Literal[
    "socket",
    "switch",
    "light",
    "wall-light",
    "downlight",
    "fused-spur",
    "cooker-switch",
    "isolator",
    "cord-switch",
    "shaver-socket",
    "data",
    "smoke-alarm",
    "heat-alarm",
    "co-alarm",
    "fan",
    "thermostat",
    "board",
    "joint",
    "outlet",
]


class MarkBox(Frozen):
    """What it is set into: how wide and high its plate is, how deep its box."""

    gangs: Annotated[int, Field(ge=1, le=6)] = 1
    plate_width_mm: Size = 86
    plate_height_mm: Size = 86
    depth_mm: Mm = 35
    is_surface: bool = False
    # Where the cable comes in.
    entry: Literal["top", "bottom", "left", "right", "back"] | None = None


class CircuitPoint(Frozen):
    """The point of a circuit that sits at a mark."""

    circuit: Id
    point: Id


class Agreed(Frozen):
    """A height that departs from the guidance, with who agreed to it and when."""

    by: Name
    on: Name = ""
    why: Note = ""


class LampSaid(Frozen):
    """What a lamp gives and wants: lumens, the angle of its beam, its cut-out, and what stays clear round that.

    `driver_mm` is how long what lies beside it is, along the joists; `deep_mm` how much of the void it takes.
    """

    name: Name = ""

    lumens: Annotated[int, Field(gt=0, le=50_000)] | None = None
    beam_deg: Annotated[int, Field(ge=5, le=170)] | None = None
    cut_out_mm: Annotated[int, Field(gt=0, le=600)] = 70
    clear_mm: Annotated[int, Field(ge=0, le=500)] = 20
    driver_mm: Annotated[int, Field(gt=0, le=1000)] | None = None
    deep_mm: Annotated[int, Field(gt=0, le=1000)] | None = None
    is_fire_rated: bool | None = None
    may_be_covered: bool | None = None
    kelvin: Annotated[int, Field(ge=1000, le=10_000)] | None = None
    bezel: Name = ""
    ip: Annotated[str, Field(pattern=r"^(IP[0-6X][0-9X][A-D]?)?$")] = ""


class MovedBy(Frozen):
    """How far something went to the right and up, in mm."""

    right_mm: Annotated[int, Field(ge=-10_000, le=10_000)] = 0
    up_mm: Annotated[int, Field(ge=-10_000, le=10_000)] = 0


class Mark(Frozen):
    """A mark to make in a room: what comes there, by which rule, how high, in which box."""

    id: Id
    room: Id
    kind: MarkKind
    name: Name = ""
    rule: Rule
    height: HeightRule = ByUse()
    box: MarkBox = MarkBox()
    point: CircuitPoint | None = None
    is_existing: bool = False
    lamp: LampSaid | None = None
    fate: Fate | None = None
    agreed: Agreed | None = None
    ip: Annotated[str, Field(pattern=r"^(IP[0-6X][0-9X][A-D]?)?$")] = ""
    # Ticked on site; what could not be, with how far it went to the right and up instead.
    is_made: bool = False
    moved: MovedBy | None = None
    moved_why: Name = ""

    @property
    def is_put_in(self) -> bool:
        """Whether it is put in now: neither there already, nor on its way out."""
        return not self.is_existing and self.fate != "remove"
