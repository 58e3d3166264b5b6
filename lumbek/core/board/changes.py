"""What each command of the boards does to their tree: a line in the table, a function here."""

from collections.abc import Callable, Mapping
from typing import Any, TypeVar

from lumbek.core.board import commands as ask
from lumbek.core.board.tree import free_id, moved, seated
from lumbek.core.circuit.edit import EditRefusedError
from lumbek.core.model.board import Board, Enclosure, Group, Surge, Way, board_problems
from lumbek.core.model.device import Device, Rcd
from lumbek.core.value import Change

Tree = tuple[Board, ...]
Part = TypeVar("Part", Board, Group, Way)


def carry_out_on_boards(boards: Tree, circuits: tuple[str, ...], command: ask.BoardCommand) -> Tree:
    """Return boards after a command: with every circuit in a way.

    Raises EditRefusedError for what is not there or would not be a tree, ValidationError at the limits.
    """
    boards = seated(boards, circuits)
    if isinstance(command, ask.NumberCircuit | ask.NumberByWay):
        # Numbers are the circuits': `numbers_after` says them.
        return boards
    boards = CHANGES[type(command)](boards, command)
    if isinstance(command, ask.SetHouse):
        # Circuits may have come or gone since those boards stood.
        boards = seated(boards, circuits)
    problems = board_problems(boards, set(circuits))
    if problems:
        raise EditRefusedError(f"That cannot be: {problems[0][0]} {problems[0][1]}.")
    return seated(boards, circuits)


def numbers_after(
    boards: Tree, numbers: Mapping[str, int], command: ask.NumberCircuit | ask.NumberByWay
) -> dict[str, int]:
    """Return the number of each circuit after a command. Raises EditRefusedError for one that is another's."""
    if isinstance(command, ask.NumberByWay):
        in_order = dict.fromkeys(key for board in boards for way in board.ways for key in way.circuits)
        return {key: number for number, key in enumerate(in_order, start=1)}
    if command.circuit not in numbers:
        raise EditRefusedError("That circuit is not there any more.")
    if any(number == command.number and key != command.circuit for key, number in numbers.items()):
        raise EditRefusedError(f"{command.number} is another circuit's number already.")
    return {**numbers, command.circuit: command.number}


def _with(part: Part, **changes: object) -> Part:
    return _held(part, changes)


def _held(part: Part, changes: Mapping[str, object]) -> Part:
    """Return a part changed, held to its model again."""
    return type(part).model_validate(part.model_copy(update=changes).model_dump())


# Finding the part


def _need_board(boards: Tree, board_id: str) -> Board:
    for board in boards:
        if board.id == board_id:
            return board
    raise EditRefusedError("That board is not there any more.")


def _need_group(boards: Tree, group_id: str) -> tuple[Board, Group]:
    for board in boards:
        for group in board.groups:
            if group.id == group_id:
                return board, group
    raise EditRefusedError("That group is not there any more.")


def _need_way(boards: Tree, way_id: str) -> tuple[Group, Way]:
    for board in boards:
        for group in board.groups:
            for way in group.ways:
                if way.id == way_id:
                    return group, way
    raise EditRefusedError("That way is not there any more.")


def _on_board(boards: Tree, board_id: str, change: Callable[[Board], Board]) -> Tree:
    found = _need_board(boards, board_id)
    return tuple(change(board) if board is found else board for board in boards)


def _on_group(boards: Tree, group_id: str, change: Callable[[Group], Group]) -> Tree:
    board, found = _need_group(boards, group_id)
    groups = tuple(change(group) if group is found else group for group in board.groups)
    return _on_board(boards, board.id, lambda board: _with(board, groups=groups))


def _on_way(boards: Tree, way_id: str, change: Callable[[Way], tuple[Way, ...]]) -> Tree:
    group, found = _need_way(boards, way_id)
    ways = tuple(new for way in group.ways for new in (change(way) if way is found else (way,)))
    return _on_group(boards, group.id, lambda group: _with(group, ways=ways))


# What each command does


def _new_board(boards: Tree, command: ask.AddBoard) -> Board:
    taken = {board.id for board in boards}
    board_id = next(f"B{number}" for number in range(1, len(taken) + 2) if f"B{number}" not in taken)
    beside = command.beside
    if command.fed_by is None and beside is None:
        root = next((board for board in boards if board.is_root), None)
        beside = None if root is None else root.id
    group = Group(id=free_id(boards))
    return Board(id=board_id, name=command.name, state="new", fed_by=command.fed_by, beside=beside, groups=(group,))


def _set_board(board: Board, command: ask.SetBoard) -> Board:
    said = command.said("board")
    changes: dict[str, object] = {
        name: said[name] for name in ("name", "state", "year", "main_poles", "neutral_side", "stated_a") if name in said
    }
    if "at" in said:
        changes["at"] = command.at
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


def _main(kind: ask.MainKind, was: Device | None) -> Device | str | None:
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


def _set_way(way: Way, command: ask.SetWay) -> Way:
    changes = command.said("way")
    if "unused_a" in changes:
        rating = changes.pop("unused_a")
        fitted = Device(standard="bs-en-60898", curve="B", rating_a=rating, rcd=None) if rating else None
        changes |= {"device": fitted, "blank": False} if fitted else {"device": None}
    return _held(way, changes)


def _set_group(group: Group, command: ask.SetGroup, found: bool) -> Group:
    """Return a group changed; of an RCD that was `found` nothing is written but that it is there."""
    said = command.said("group")
    changes: dict[str, object] = {
        name: said[name] for name in ("name", "rating_a", "stated_a", "unsure") if name in said
    }
    rcd = _set_rcd(group.rcd, command, found)
    if rcd is None:
        changes["rating_a"] = None
    return _held(group, {**changes, "rcd": rcd})


def _set_rcd(rcd: Rcd | str | None, command: ask.SetGroup, found: bool) -> Rcd | str | None:
    """Return a group's RCD as it is said to be: there, unknown or none, and then what is read on it."""
    said = command.said("group")
    if "rcd" in said:
        usual = Rcd() if found else Rcd(rated_ma=30, type="A")
        known = rcd if isinstance(rcd, Rcd) else usual
        rcd = {"unknown": "unknown", "none": None}.get(command.rcd, known)
    figures = {name: said[name] for name in ("rated_ma", "type", "delayed") if name in said}
    if not figures:
        return rcd
    was = rcd if isinstance(rcd, Rcd) else Rcd()
    return Rcd.model_validate({**was.model_dump(), **figures})


def _drop_board(boards: Tree, board_id: str) -> Tree:
    _need_board(boards, board_id)
    if any(board.beside == board_id for board in boards):
        raise EditRefusedError("Another board stands beside this one: take that away first.")
    left = tuple(board for board in boards if board.id != board_id)
    if not any(board.is_root for board in left):
        raise EditRefusedError("This is the first board of the house: it stays.")
    return left


def _drop_group(boards: Tree, group_id: str) -> Tree:
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


def _move(boards: Tree, command: ask.MoveWay) -> Tree:
    _, way = _need_way(boards, command.way)
    _need_group(boards, command.group)
    return moved(boards, way, command.group, command.index)


def _seat(boards: Tree, command: ask.SeatCircuit) -> Tree:
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


def _add_board(boards: Tree, command: ask.AddBoard) -> Tree:
    return (*boards, _new_board(boards, command))


def _on_one_board(boards: Tree, command: ask.SetBoard) -> Tree:
    return _on_board(boards, command.board, lambda board: _set_board(board, command))


def _take_board_off(boards: Tree, command: ask.DropBoard) -> Tree:
    return _drop_board(boards, command.board)


def _add_group(boards: Tree, command: ask.AddGroup) -> Tree:
    # Of what was found nothing is written that nobody has read.
    found = _need_board(boards, command.board).state == "as-found"
    group = Group(id=free_id(boards), rcd=Rcd() if found else Rcd(rated_ma=30, type="A"))
    return _on_board(boards, command.board, lambda board: _with(board, groups=(*board.groups, group)))


def _on_one_group(boards: Tree, command: ask.SetGroup) -> Tree:
    found = _need_group(boards, command.group)[0].state == "as-found"
    return _on_group(boards, command.group, lambda group: _set_group(group, command, found))


def _take_group_off(boards: Tree, command: ask.DropGroup) -> Tree:
    return _drop_group(boards, command.group)


def _add_way(boards: Tree, command: ask.AddWay) -> Tree:
    board = _need_group(boards, command.group)[0]
    way = Way(id=free_id(boards), blank=board.state == "new")
    return _on_group(boards, command.group, lambda group: _with(group, ways=(*group.ways, way)))


def _on_one_way(boards: Tree, command: ask.SetWay) -> Tree:
    return _on_way(boards, command.way, lambda way: (_set_way(way, command),))


def _take_way_off(boards: Tree, command: ask.DropWay) -> Tree:
    return _on_way(boards, command.way, _drop_empty)


def _whole_house(_: Tree, command: ask.SetHouse) -> Tree:
    return command.boards


CHANGES: dict[type[Change], Callable[[Tree, Any], Tree]] = {
    ask.AddBoard: _add_board,
    ask.SetBoard: _on_one_board,
    ask.DropBoard: _take_board_off,
    ask.AddGroup: _add_group,
    ask.SetGroup: _on_one_group,
    ask.DropGroup: _take_group_off,
    ask.AddWay: _add_way,
    ask.SetWay: _on_one_way,
    ask.DropWay: _take_way_off,
    ask.MoveWay: _move,
    ask.SeatCircuit: _seat,
    ask.SetHouse: _whole_house,
}
