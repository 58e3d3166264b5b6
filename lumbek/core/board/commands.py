"""Small named changes of the boards and storeys of a house. Fields that a command does not name stay."""

from collections.abc import Callable, Mapping
from typing import Annotated, Literal, TypeVar, assert_never

from pydantic import Field

from lumbek.core.board.tree import free_id, moved, seated
from lumbek.core.circuit.edit import EditRefusedError
from lumbek.core.model.board import (
    Board,
    Enclosure,
    Group,
    Line,
    Need,
    Poles,
    Storey,
    Surge,
    Way,
    board_problems,
)
from lumbek.core.model.device import Device, Rcd, RcdType
from lumbek.core.model.extent import WholeState, Year
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
    place: Name = ""
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


class SetStorey(Change):
    """Which rooms lie on a storey; a room is on one only. With no rooms the storey goes."""

    op: Literal["storey"] = "storey"
    name: GivenName
    rooms: tuple[Name, ...] = ()


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
    | SetStorey
    | SetHouse
    | NumberCircuit
    | NumberByWay
)
_Tree = tuple[Board, ...]
Part = TypeVar("Part", Board, Group, Way)


def carry_out_on_boards(
    boards: _Tree, storeys: tuple[Storey, ...], circuits: tuple[str, ...], command: BoardCommand
) -> tuple[_Tree, tuple[Storey, ...]]:
    """Return boards and storeys after a command; the boards are those with every circuit in a way.

    Raises EditRefusedError for what is not there or would not be a tree, ValidationError at the limits.
    """
    boards = seated(boards, circuits)
    if isinstance(command, SetStorey):
        return boards, _with_storey(storeys, command)
    if isinstance(command, NumberCircuit | NumberByWay):
        # Numbers are the circuits': `numbers_after` says them.
        return boards, storeys
    boards = _changed(boards, command)
    if isinstance(command, SetHouse):
        # Circuits may have come or gone since those boards stood.
        boards = seated(boards, circuits)
    problems = board_problems(boards, set(circuits))
    if problems:
        raise EditRefusedError(f"That cannot be: {problems[0][0]} {problems[0][1]}.")
    return seated(boards, circuits), storeys


def numbers_after(boards: _Tree, numbers: Mapping[str, int], command: NumberCircuit | NumberByWay) -> dict[str, int]:
    """Return the number of each circuit after a command. Raises EditRefusedError for one that is another's."""
    if isinstance(command, NumberByWay):
        in_order = dict.fromkeys(key for board in boards for way in board.ways for key in way.circuits)
        return {key: number for number, key in enumerate(in_order, start=1)}
    if command.circuit not in numbers:
        raise EditRefusedError("That circuit is not there any more.")
    if any(number == command.number and key != command.circuit for key, number in numbers.items()):
        raise EditRefusedError(f"{command.number} is another circuit's number already.")
    return {**numbers, command.circuit: command.number}


def _changed(boards: _Tree, command: BoardCommand) -> _Tree:
    match command:
        case AddBoard():
            return (*boards, _new_board(boards, command))
        case SetBoard():
            return _on_board(boards, command.board, lambda board: _set_board(board, command))
        case DropBoard():
            return _drop_board(boards, command.board)
        case AddGroup():
            # Of what was found nothing is written that nobody has read.
            found = _need_board(boards, command.board).state == "as-found"
            group = Group(id=free_id(boards), rcd=Rcd() if found else Rcd(rated_ma=30, type="A"))
            return _on_board(boards, command.board, lambda board: _with(board, groups=(*board.groups, group)))
        case SetGroup():
            found = _need_group(boards, command.group)[0].state == "as-found"
            return _on_group(boards, command.group, lambda group: _set_group(group, command, found))
        case DropGroup():
            return _drop_group(boards, command.group)
        case AddWay():
            board = _need_group(boards, command.group)[0]
            way = Way(id=free_id(boards), blank=board.state == "new")
            return _on_group(boards, command.group, lambda group: _with(group, ways=(*group.ways, way)))
        case SetWay():
            return _on_way(boards, command.way, lambda way: (_set_way(way, command),))
        case DropWay():
            return _on_way(boards, command.way, _drop_empty)
        case MoveWay():
            return _move(boards, command)
        case SeatCircuit():
            return _seat(boards, command)
        case SetHouse():
            return command.boards
        case SetStorey() | NumberCircuit() | NumberByWay():
            return boards
        case _:
            assert_never(command)


def _with(part: Part, **changes: object) -> Part:
    return _held(part, changes)


def _held(part: Part, changes: Mapping[str, object]) -> Part:
    """Return a part changed, held to its model again."""
    return type(part).model_validate(part.model_copy(update=changes).model_dump())


# Finding the part


def _need_board(boards: _Tree, board_id: str) -> Board:
    for board in boards:
        if board.id == board_id:
            return board
    raise EditRefusedError("That board is not there any more.")


def _need_group(boards: _Tree, group_id: str) -> tuple[Board, Group]:
    for board in boards:
        for group in board.groups:
            if group.id == group_id:
                return board, group
    raise EditRefusedError("That group is not there any more.")


def _need_way(boards: _Tree, way_id: str) -> tuple[Group, Way]:
    for board in boards:
        for group in board.groups:
            for way in group.ways:
                if way.id == way_id:
                    return group, way
    raise EditRefusedError("That way is not there any more.")


def _on_board(boards: _Tree, board_id: str, change: Callable[[Board], Board]) -> _Tree:
    found = _need_board(boards, board_id)
    return tuple(change(board) if board is found else board for board in boards)


def _on_group(boards: _Tree, group_id: str, change: Callable[[Group], Group]) -> _Tree:
    board, found = _need_group(boards, group_id)
    groups = tuple(change(group) if group is found else group for group in board.groups)
    return _on_board(boards, board.id, lambda board: _with(board, groups=groups))


def _on_way(boards: _Tree, way_id: str, change: Callable[[Way], tuple[Way, ...]]) -> _Tree:
    group, found = _need_way(boards, way_id)
    ways = tuple(new for way in group.ways for new in (change(way) if way is found else (way,)))
    return _on_group(boards, group.id, lambda group: _with(group, ways=ways))


# What each command does


def _new_board(boards: _Tree, command: AddBoard) -> Board:
    taken = {board.id for board in boards}
    board_id = next(f"B{number}" for number in range(1, len(taken) + 2) if f"B{number}" not in taken)
    beside = command.beside
    if command.fed_by is None and beside is None:
        root = next((board for board in boards if board.is_root), None)
        beside = None if root is None else root.id
    group = Group(id=free_id(boards))
    return Board(id=board_id, name=command.name, state="new", fed_by=command.fed_by, beside=beside, groups=(group,))


def _set_board(board: Board, command: SetBoard) -> Board:
    said = command.said("board")
    changes: dict[str, object] = {
        name: said[name]
        for name in ("name", "place", "state", "year", "main_poles", "neutral_side", "stated_a")
        if name in said
    }
    enclosure = {name: said[name] for name in ("material", "ip", "cabinet") if name in said}
    if enclosure:
        changes["enclosure"] = Enclosure.model_validate({**board.enclosure.model_dump(), **enclosure})
    if "main" in said:
        changes["main"] = _main(command.main, board.known_main)
    elif said.keys() & {"main_rating_a", "main_rated_ma"} and board.known_main is not None:
        changes["main"] = _main_figures(board.known_main, said)
    if "surge" in said or "surge_lead_m" in said:
        changes["surge"] = _surge(board, said)
    if "fed_by" in said or "beside" in said:
        changes |= {"fed_by": said.get("fed_by"), "beside": said.get("beside"), "beside_group": None}
    return _held(board, changes)


def _main(kind: MainKind, was: Device | None) -> Device | str | None:
    """Return a main of a kind, of the rating it had."""
    if kind in ("unknown", "none"):
        return "unknown" if kind == "unknown" else None
    rating = 100.0 if was is None else was.rating_a
    if kind == "switch":
        return Device(standard="switch", curve=None, rating_a=rating, rcd=None)
    if kind == "rccb":
        return Device(standard="bs-en-61008", curve=None, rating_a=rating, rcd="unknown")
    if kind == "switch-fuse":
        return Device(standard="bs88-3", curve=None, rating_a=rating, rcd=None)
    return Device(standard="bs-en-60898", curve="C", rating_a=rating, rcd=None)


def _main_figures(main: Device, said: Mapping[str, object]) -> Device:
    changes: dict[str, object] = {}
    if "main_rating_a" in said:
        changes["rating_a"] = said["main_rating_a"]
    if "main_rated_ma" in said and main.may_have_rcd:
        was = main.known_rcd or Rcd()
        changes["rcd"] = was.model_copy(update={"rated_ma": said["main_rated_ma"]})
    return Device.model_validate(main.model_copy(update=changes).model_dump())


def _surge(board: Board, said: Mapping[str, object]) -> Surge | str | None:
    kind = said.get("surge", "")
    if kind in ("unknown", "none"):
        return "unknown" if kind == "unknown" else None
    was = board.surge if isinstance(board.surge, Surge) else Surge()
    return Surge.model_validate({"type": kind or was.type, "lead_m": said.get("surge_lead_m", was.lead_m)})


def _set_way(way: Way, command: SetWay) -> Way:
    changes = command.said("way")
    if "unused_a" in changes:
        rating = changes.pop("unused_a")
        fitted = Device(standard="bs-en-60898", curve="B", rating_a=rating, rcd=None) if rating else None
        changes |= {"device": fitted, "blank": False} if fitted else {"device": None}
    return _held(way, changes)


def _set_group(group: Group, command: SetGroup, found: bool) -> Group:
    """Return a group changed; of an RCD that was `found` nothing is written but that it is there."""
    said = command.said("group")
    changes: dict[str, object] = {
        name: said[name] for name in ("name", "rating_a", "stated_a", "unsure") if name in said
    }
    rcd = group.rcd
    if "rcd" in said:
        usual = Rcd() if found else Rcd(rated_ma=30, type="A")
        known = rcd if isinstance(rcd, Rcd) else usual
        rcd = {"unknown": "unknown", "none": None}.get(command.rcd, known)
    figures = {name: said[name] for name in ("rated_ma", "type", "delayed") if name in said}
    if figures:
        was = rcd if isinstance(rcd, Rcd) else Rcd()
        rcd = Rcd.model_validate({**was.model_dump(), **figures})
    if rcd is None:
        changes["rating_a"] = None
    return _held(group, {**changes, "rcd": rcd})


def _drop_board(boards: _Tree, board_id: str) -> _Tree:
    _need_board(boards, board_id)
    if any(board.beside == board_id for board in boards):
        raise EditRefusedError("Another board stands beside this one: take that away first.")
    left = tuple(board for board in boards if board.id != board_id)
    if not any(board.is_root for board in left):
        raise EditRefusedError("This is the first board of the house: it stays.")
    return left


def _drop_group(boards: _Tree, group_id: str) -> _Tree:
    board, found = _need_group(boards, group_id)
    if any(each.beside_group == group_id for each in boards):
        raise EditRefusedError("Another board hangs on this group: take that away first.")
    at = board.groups.index(found)
    if len(board.groups) == 1:
        return _on_group(boards, group_id, lambda group: _with(group, rcd=None, rating_a=None))
    ways = board.groups[at].ways
    to = at - 1 if at else 1
    kept = _with(board.groups[to], ways=(*board.groups[to].ways, *ways) if at else (*ways, *board.groups[to].ways))
    groups = tuple(kept if index == to else group for index, group in enumerate(board.groups) if index != at)
    return _on_board(boards, board.id, lambda each: _with(each, groups=groups))


def _drop_empty(way: Way) -> tuple[Way, ...]:
    if way.circuits:
        raise EditRefusedError("This way feeds a circuit: move that first.")
    return ()


def _move(boards: _Tree, command: MoveWay) -> _Tree:
    _, way = _need_way(boards, command.way)
    _need_group(boards, command.group)
    return moved(boards, way, command.group, command.index)


def _seat(boards: _Tree, command: SeatCircuit) -> _Tree:
    if not command.also:
        boards = tuple(
            board.with_ways(lambda way: way.holding(key for key in way.circuits if key != command.circuit))
            for board in boards
        )

    def take(way: Way) -> tuple[Way, ...]:
        if command.circuit in way.circuits:
            return (way,)
        return (_with(way, circuits=(*way.circuits, command.circuit), device=None, blank=False),)

    return _on_way(boards, command.way, take)


def _with_storey(storeys: tuple[Storey, ...], command: SetStorey) -> tuple[Storey, ...]:
    rooms = set(command.rooms)
    others = [
        Storey(name=each.name, rooms=tuple(room for room in each.rooms if room not in rooms))
        for each in storeys
        if each.name != command.name
    ]
    if not command.rooms:
        return tuple(others)
    new = Storey(name=command.name, rooms=command.rooms)
    at = next((index for index, each in enumerate(storeys) if each.name == command.name), len(others))
    return (*others[:at], new, *others[at:])
