"""The tree of boards itself: every circuit in a way, ids that are free, a way in another group."""

from collections.abc import Iterable, Iterator, Sequence

from lumbek.core.model.board import Board, Group, Way
from lumbek.core.model.places import Spot


def seated(boards: tuple[Board, ...], circuits: Iterable[str], place: str = "") -> tuple[Board, ...]:
    """Return the tree with every circuit in a way: what is in none gets one at the end of the first board.

    With no board there is one. Ways let go of circuits that are there no longer.
    """
    keys = dict.fromkeys(circuits)
    if not boards:
        # What nobody has described is as it was found.
        boards = (Board(id="B1", name="Main board", at=Spot(words=place), state="as-found"),)
    held = {key for board in boards for way in board.ways for key in way.circuits}
    fed = {board.fed_by for board in boards if board.fed_by is not None}
    if not held | fed <= keys.keys():
        boards = tuple(
            board.with_ways(lambda way: way.holding(key for key in way.circuits if key in keys)).model_copy(
                update={"fed_by": board.fed_by if board.fed_by in keys else None}
            )
            for board in boards
        )
    left = [key for key in keys if key not in held]
    if not left:
        return boards
    root = first_board(boards)
    index = boards.index(root)
    free = _free_ids(boards)
    ways = tuple(Way(id=next(free), circuits=(key,)) for key in left)
    groups = root.groups
    if groups and groups[-1].rcd is None:
        groups = (*groups[:-1], groups[-1].model_copy(update={"ways": (*groups[-1].ways, *ways)}))
    else:
        groups = (*groups, Group(id=next(free), ways=ways))
    return (*boards[:index], root.model_copy(update={"groups": groups}), *boards[index + 1 :])


def first_board(boards: Sequence[Board]) -> Board:
    """Return the board of some that circuits in no way yet get one on: the first that nothing feeds."""
    return next((board for board in boards if board.is_root), boards[0])


def _free_ids(boards: tuple[Board, ...]) -> Iterator[str]:
    taken = {board.id for board in boards}
    taken |= {group.id for board in boards for group in board.groups} | {way.id for each in boards for way in each.ways}
    number = 0
    while True:
        number += 1
        if f"W{number}" not in taken:
            yield f"W{number}"


def free_id(boards: tuple[Board, ...]) -> str:
    """Return an id that nothing in the tree has."""
    return next(_free_ids(boards))


def moved(boards: tuple[Board, ...], way: Way, group_id: str, index: int | None = None) -> tuple[Board, ...]:
    """Return the boards with a way in a group, before its way of that index, at its end without one.

    A neutral that moves with its way ends at its new group's bar.
    """
    way = way.model_copy(update={"neutral_at": None})

    def changed(group: Group) -> Group:
        ways = [each for each in group.ways if each.id != way.id]
        if group.id == group_id:
            ways.insert(len(ways) if index is None else index, way)
        return group.model_copy(update={"ways": tuple(ways)})

    return tuple(
        board.model_copy(update={"groups": tuple(changed(group) for group in board.groups)}) for board in boards
    )
