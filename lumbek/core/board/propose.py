"""What a board could be: from scratch in either school, or as found with the least changes that put it right."""

from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import combinations, islice, product
from typing import Literal

from lumbek.core.board.division import check_division
from lumbek.core.board.house import House
from lumbek.core.board.labels import MODULE_MM
from lumbek.core.board.leakage import leakage_checks
from lumbek.core.board.member import Member
from lumbek.core.board.ratings import rating_checks
from lumbek.core.board.tree import moved
from lumbek.core.board.trips import trips, way_title
from lumbek.core.judging.check import Check, Verdict
from lumbek.core.model.board import Board, Group, Way
from lumbek.core.model.device import Rcd
from lumbek.core.model.job import School
from lumbek.core.numbers import counted
from lumbek.core.value import Frozen

Order = Literal["heavy-first", "by-storey", "by-number"]
# One way in so many is left spare, and never fewer than two.
_SPARE = 5
_RCCB_WIDTH = 2
# The largest search for changes: two ways at once, and no more tries than this.
_MOST_CHANGES = 2
_MOST_TRIES = 400


class Count(Frozen):
    """What a board takes: modules wide, and devices by kind."""

    ways: int
    rcbos: int
    breakers: int
    rccbs: int


class BoardLayout(Frozen):
    """A board from scratch: what it takes, what it still does not settle, and the boards to take over."""

    title: str
    school: School
    gives_up: str
    count: Count
    # Circuits whose own device would have to change with it.
    change: tuple[str, ...]
    # What has to reach across where the neutral bar changes sides.
    reach: str
    fails: tuple[str, ...]
    boards: tuple[Board, ...]


class BoardMend(Frozen):
    """Few moves that put a board right as found, in words, and the boards after them."""

    title: str
    steps: tuple[str, ...]
    settles: tuple[str, ...]
    boards: tuple[Board, ...]


class Split(Frozen):
    """Sockets of people at work side by side on two circuits, so that one fault leaves every other working."""

    circuit: str
    room: str
    first: tuple[str, ...]
    second: tuple[str, ...]


class BoardProposals(Frozen):
    """What a house could be made into, all of it worked out."""

    layouts: tuple[BoardLayout, ...]
    mends: tuple[BoardMend, ...]
    splits: tuple[Split, ...]


def propose_boards(house: House, order: Order = "heavy-first") -> BoardProposals:
    """Return layouts of the first board in each school, mends of the boards as they are, and sockets to split."""
    root = next(board for board in house.boards if board.is_root)
    keys = dict.fromkeys(key for way in root.ways for key in way.circuits)
    layouts = []
    if keys:
        members = sorted((house.members[key] for key in keys), key=lambda each: _sort(house, each, order))
        layouts.append(_one_each(house, root, members))
        for groups in (2, 3):
            if len(members) >= groups:
                layouts.append(_shared(house, root, members, groups))
    return BoardProposals(layouts=tuple(layouts), mends=tuple(_mends(house)), splits=tuple(_splits(house)))


def _sort(house: House, member: Member, order: Order) -> tuple[object, ...]:
    if order == "heavy-first":
        return -member.device.rating_a, member.number
    if order == "by-number":
        return (member.number,)
    storeys = [storey.name for storey in house.places.storeys]
    where = [storeys.index(name) for room in member.rooms if (name := house.storey_of(room)) in storeys]
    return min(where, default=len(storeys)), member.number


def _spare(count: int) -> int:
    return max(2, -(-count // _SPARE))


def _ways(house: House, members: Sequence[Member], prefix: str, spare: int) -> tuple[Way, ...]:
    """Return a way for each circuit as it has it now, but for its place, and blanked ones after them."""
    found = []
    for index, member in enumerate(members, start=1):
        was = house.seats[member.key].way
        keep = {"line": was.line, "stays": was.stays, "needs": was.needs, "poles": was.poles}
        found.append(Way(id=f"{prefix}{index}", circuits=(member.key,), **keep))
    return (*found, *(Way(id=f"{prefix}S{index}", blank=True) for index in range(1, spare + 1)))


def _laid_out(house: House, root: Board, groups: tuple[Group, ...]) -> tuple[Board, ...]:
    # A new board in a dwelling is of metal, where the rulebook asks for what does not burn.
    metal = house.rulebook.data.board.non_combustible and not root.enclosure.cabinet
    made = root.enclosure.model_copy(update={"material": "metal"}) if metal else root.enclosure
    new = root.model_copy(update={"groups": groups, "state": "new", "enclosure": made})
    return tuple(new if board.id == root.id else board for board in house.boards)


def _one_each(house: House, root: Board, members: Sequence[Member]) -> BoardLayout:
    spare = _spare(len(members))
    boards = _laid_out(house, root, (Group(id="GA", ways=_ways(house, members, "A", spare)),))
    own = [member for member in members if member.device.known_rcd is not None]
    return BoardLayout(
        title="One RCBO a way",
        school="rcbo-each",
        gives_up="More devices to buy; each fault stays with its own circuit, and leakage does not add up.",
        count=Count(ways=len(members) + spare, rcbos=len(members), breakers=0, rccbs=0),
        change=tuple(member.title for member in members if member not in own and member.feeder is None),
        reach=_reach(root, members),
        fails=_fails(replace(house, boards=boards)),
        boards=boards,
    )


def _shared(house: House, root: Board, members: Sequence[Member], count: int) -> BoardLayout:
    parts = _parted(house, members, count)
    spare = _spare(len(members))
    rated = Rcd(rated_ma=house.rulebook.data.rcd.most_ma, type="A")
    groups = tuple(
        Group(
            id=f"G{'ABC'[index]}",
            name=f"RCD {index + 1}",
            rcd=rated,
            rating_a=root.known_main.rating_a if root.known_main else house.supply.main_fuse.rating_a,
            ways=_ways(house, part, "ABC"[index], -(-spare // count)),
        )
        for index, part in enumerate(parts)
    )
    boards = _laid_out(house, root, groups)
    return BoardLayout(
        title=f"{'Two' if count == 2 else 'Three'} RCDs with breakers",
        school="shared-rcds",
        gives_up="One fault takes a whole group along; leakage of the group adds up on one device.",
        count=Count(
            ways=len(members) + count * -(-spare // count) + count * _RCCB_WIDTH,
            rcbos=0,
            breakers=len(members),
            rccbs=count,
        ),
        change=tuple(member.title for member in members if member.device.known_rcd is not None),
        reach=_reach(root, members),
        fails=_fails(replace(house, boards=boards)),
        boards=boards,
    )


def _reach(root: Board, members: Sequence[Member]) -> str:
    """Return which conductors must reach the other side; boards of today have their neutral bar on the left."""
    if root.state != "as-found" or root.neutral_side != "right":
        return ""
    wide = len(root.ways) * MODULE_MM
    numbers = ", ".join(str(number) for number in sorted(member.number for member in members))
    return (
        f"The neutral bar was right of the line and comes to its left: neutrals and cpcs of circuits {numbers} "
        f"must reach up to {wide} mm further. Look before the old board comes off."
    )


def _parted(house: House, members: Sequence[Member], count: int) -> list[list[Member]]:
    """Return the circuits in groups: no storey's lights with its sockets, leakage and load shared evenly.

    One after another where it costs least, then exchanged as long as that gets better.
    """
    at: dict[str, int] = {}
    for member in members:
        at[member.key] = min(
            range(count), key=lambda group: (_cost(house, members, {**at, member.key: group}, count), group)
        )
    better = True
    while better:
        better = False
        for member in members:
            now = _cost(house, members, at, count)
            for group in range(count):
                if _cost(house, members, {**at, member.key: group}, count) < now:
                    at[member.key], better = group, True
                    now = _cost(house, members, at, count)
    return [[member for member in members if at[member.key] == group] for group in range(count)]


def _cost(house: House, members: Sequence[Member], at: dict[str, int], count: int) -> tuple[int, float, float]:
    """Return how bad a division is: storeys left dark, then the greatest leakage, then the greatest load."""
    dark, leaks, loads = 0, [0.0] * count, [0.0] * count
    lost: dict[tuple[int, str], set[str]] = {}
    for member in members:
        if member.key not in at:
            continue
        group = at[member.key]
        leaks[group] += member.leakage_ma
        loads[group] += member.ib_a
        for room, what in member.rooms.items():
            lost.setdefault((group, house.storey_of(room) or room), set()).update(what)
    dark = sum({"lights", "sockets"} <= what for what in lost.values())
    return dark, round(max(leaks), 6), round(max(loads), 6)


def _judged(house: House) -> list[Check]:
    return [check_division(house, list(trips(house, ways=False))), *leakage_checks(house), *rating_checks(house)]


def _fails(house: House) -> tuple[str, ...]:
    return tuple(f"{check.title}: {check.answer}" for check in _judged(house) if check.verdict is Verdict.FAIL)


def _mends(house: House) -> Iterator[BoardMend]:
    """Yield the fewest moves of ways between the groups of a board that leave nothing failing that they can settle."""
    before = {check.id: check.title for check in _judged(house) if check.verdict is Verdict.FAIL}
    if not before:
        return
    moves, tries = list(_moves(house)), 0
    for size in range(1, _MOST_CHANGES + 1):
        every = (chosen for chosen in combinations(moves, size) if len({way.id for way, _, _ in chosen}) == size)
        some = list(islice(every, _MOST_TRIES - tries))
        tries += len(some)
        tried = [(*_after(house, chosen), chosen) for chosen in some]
        found = [each for each in tried if each[1] < before.keys()]
        if found:
            best = min(len(left) for _, left, _ in found)
            for boards, left, chosen in [each for each in found if len(each[1]) == best][:3]:
                yield BoardMend(
                    title=counted(size, "move", "moves"),
                    steps=tuple(words for _, _, words in chosen),
                    settles=tuple(before[each] for each in sorted(before.keys() - left)),
                    boards=boards,
                )
            return


# A way, the group it goes to, and the move in words.
_Move = tuple[Way, str, str]


def _moves(house: House) -> Iterator[_Move]:
    """Yield every move of a way that feeds something into another group of its board."""
    for board in house.boards:
        for group in board.groups:
            for way, to in product(group.ways, board.groups):
                if to.id != group.id and way.circuits and _may_move(house, way, group, to):
                    yield way, to.id, f"Move {way_title(house, way)} to {house.group_title(board, to)}"


def _after(house: House, moves: Sequence[_Move]) -> tuple[tuple[Board, ...], set[str]]:
    """Return the boards after some moves, and what fails there."""
    boards = house.boards
    for way, to, _ in moves:
        boards = moved(boards, way, to)
    return boards, {check.id for check in _judged(replace(house, boards=boards)) if check.verdict is Verdict.FAIL}


def _may_move(house: House, way: Way, group: Group, to: Group) -> bool:
    """Whether a way keeps one RCD, and no more, where it would go."""
    device = house.device_of(way)
    own = device is not None and device.known_rcd is not None
    return (to.rcd is None) if own else (to.rcd is not None) == (group.rcd is not None)


# From so many sockets in one room a workplace is worth two circuits.
_MANY = 4


def _splits(house: House) -> Iterator[Split]:
    """Yield the circuits on whose sockets several people work: every other outlet goes to a second circuit."""
    for key, seat in house.seats.items():
        member = house.members[key]
        if "business" not in seat.way.needs:
            continue
        for room, outlets in member.outlets.items():
            if len(outlets) >= _MANY:
                yield Split(circuit=member.title, room=house.room_name(room), first=outlets[::2], second=outlets[1::2])
