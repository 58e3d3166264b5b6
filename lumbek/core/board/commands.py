"""Small named changes of the boards and storeys of a house. Fields that a command does not name stay."""

from typing import Annotated, Literal

from pydantic import Field

from lumbek.core.model.board import (
    Board,
    Line,
    Need,
    Poles,
)
from lumbek.core.model.device import RcdType
from lumbek.core.model.extent import WholeState, Year
from lumbek.core.model.places import Spot
from lumbek.core.model.text import CurrentA, GivenName, Id, Name, RatingA
from lumbek.core.value import Change

MainKind = Literal["unknown", "none", "switch", "rccb", "switch-fuse", "breaker"]
RcdKind = Literal["unknown", "none", "rcd"]


class AddBoard(Change):
    """Another board: fed by a circuit, or beside one that is there."""

    op: Literal["add-board"] = "add-board"
    name: GivenName = "Board"
    fed_by: Id | None = None
    beside: Id | None = None


class SetBoard(Change):
    """What a board is: its name and place, what it is made of, its main, its surge protection, what feeds it."""

    op: Literal["board"] = "board"
    board: Id
    name: GivenName = "Board"
    at: Spot = Spot()
    state: WholeState = "new"
    year: Year | None = None
    material: Literal["metal", "plastic", "timber", "unknown"] = "unknown"
    ip: str = ""
    cabinet: bool = False
    main: MainKind = "unknown"
    main_rating_a: RatingA = 100
    main_rated_ma: float | None = None
    main_poles: Poles | None = None
    surge: Literal["unknown", "none", "1", "2", "3", "1+2"] = "unknown"
    surge_lead_m: float | None = None
    neutral_side: Literal["left", "right", "unknown"] = "unknown"
    stated_a: CurrentA | None = None
    fed_by: Id | None = None
    beside: Id | None = None


class DropBoard(Change):
    """Take a board away; its circuits go to the first board."""

    op: Literal["drop-board"] = "drop-board"
    board: Id


class AddGroup(Change):
    """A group of ways more on a board, behind an RCD of its own."""

    op: Literal["add-group"] = "add-group"
    board: Id


class SetGroup(Change):
    """A group's RCD: whether there is one, its ratings, its type."""

    op: Literal["group"] = "group"
    group: Id
    name: Name = ""
    rcd: RcdKind = "none"
    rated_ma: float | None = None
    type: RcdType | None = None
    delayed: bool = False
    rating_a: RatingA | None = None
    stated_a: CurrentA | None = None
    unsure: bool = False


class DropGroup(Change):
    """Take a group's RCD away; its ways go to the group before it, or after it."""

    op: Literal["drop-group"] = "drop-group"
    group: Id


class AddWay(Change):
    """Another way in a group: blanked in a new board; in one that was found it is open until somebody has looked."""

    op: Literal["add-way"] = "add-way"
    group: Id


class SetWay(Change):
    """What a way is: blank or open, its line, where its neutral ends, what would be missed."""

    op: Literal["way"] = "way"
    way: Id
    blank: bool = False
    poles: Poles | None = None
    line: Line | None = None
    stays: bool = False
    direct: bool = False
    neutral_at: Id | None = None
    needs: tuple[Need, ...] = ()
    # The rating of a breaker that is fitted and feeds nothing; None takes it out.
    unused_a: RatingA | None = None


class DropWay(Change):
    """Take away a way that feeds nothing."""

    op: Literal["drop-way"] = "drop-way"
    way: Id


class MoveWay(Change):
    """Put a way into a group, before its way of that index; at its end without one."""

    op: Literal["move-way"] = "move-way"
    way: Id
    group: Id
    index: Annotated[int, Field(ge=0, le=5000)] | None = None


class SeatCircuit(Change):
    """Put a circuit into a way, out of all it is in; with `also`, into that one too, as it was found."""

    op: Literal["seat"] = "seat"
    circuit: Id
    way: Id
    also: bool = False


class SetHouse(Change):
    """The boards as a proposal has them, all at once."""

    op: Literal["house"] = "house"
    boards: Annotated[tuple[Board, ...], Field(max_length=20)]


class NumberCircuit(Change):
    """The number of a circuit, as it stands or shall stand on the board."""

    op: Literal["number"] = "number"
    circuit: Id
    number: Annotated[int, Field(ge=1, le=9999)]


class NumberByWay(Change):
    """Number all circuits as their ways follow one another, board by board."""

    op: Literal["number-by-way"] = "number-by-way"


BoardCommand = (
    AddBoard
    | SetBoard
    | DropBoard
    | AddGroup
    | SetGroup
    | DropGroup
    | AddWay
    | SetWay
    | DropWay
    | MoveWay
    | SeatCircuit
    | SetHouse
    | NumberCircuit
    | NumberByWay
)
