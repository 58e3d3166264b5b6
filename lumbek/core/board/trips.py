"""What goes dark when something trips: by storey and room, and what somebody would miss."""

from collections.abc import Iterable, Iterator
from typing import Literal

from lumbek.core.board.house import House
from lumbek.core.board.member import Member
from lumbek.core.model.board import Board, Group, Need, Way
from lumbek.core.protection.who import device_name
from lumbek.core.value import Frozen


class Lost(Frozen):
    """What is lost in one room, by its id; none where the points say no room."""

    id: str
    room: str
    storey: str
    what: tuple[str, ...]


class Trip(Frozen):
    """Something that may open, and all that is lost when it does."""

    kind: Literal["board", "group", "way"]
    id: str
    board: str
    title: str
    device: str
    circuits: tuple[str, ...]
    lost: tuple[Lost, ...]
    needs: tuple[Need, ...]
    # Whether it is not sure that all of these go together.
    unsure: bool
    # Storeys that lose lights and sockets together; rooms that do, whatever storey they are on.
    dark_storeys: tuple[str, ...]
    dark_rooms: tuple[str, ...]

    @property
    def weight(self) -> tuple[int, int, int]:
        """How bad it is: storeys and rooms left with nothing, what is missed, circuits."""
        return len(self.dark_storeys) + len(self.dark_rooms), len(self.needs), len(self.circuits)


def _of_ways(house: House, board: Board, group: Group) -> Iterator[Trip]:
    for way in group.ways:
        device = house.device_of(way)
        if way.circuits and device is not None:
            name = device_name(house.rulebook, device)
            yield _trip(house, "way", board, way.id, way_title(house, way), name, house.members_in((way,)))


def trips(house: House, ways: bool = True) -> Iterator[Trip]:
    """Yield everything that trips, board by board: its main where that does, its groups' RCDs, its ways.

    Without `ways` only what ways share.
    """
    for board in house.boards:
        main = board.known_main
        if main is not None and (main.may_have_rcd or house.rulebook.protects(main)):
            device = device_name(house.rulebook, main)
            yield _trip(house, "board", board, board.id, f"Main of {board.name}", device, house.behind_board(board))
        for group in board.groups:
            if group.rcd is not None:
                title = house.group_title(board, group)
                yield _trip(house, "group", board, group.id, title, rcd_title(group), house.behind_group(group))
            yield from _of_ways(house, board, group) if ways else ()


def rcd_title(group: Group) -> str:
    """Return a group's RCD as it is called."""
    rcd = group.rcd
    if rcd is None or rcd == "unknown":
        return "RCD not read" if rcd else ""
    rating = f"{group.rating_a:g} A " if group.rating_a else ""
    rated = f"{rcd.rated_ma:g} mA" if rcd.rated_ma else "not read"
    return f"RCCB {rating}{rated}" + (f" type {rcd.type}" if rcd.type else "") + (", delayed" if rcd.delayed else "")


def way_title(house: House, way: Way) -> str:
    """Return what a way is called by: its circuits."""
    return " and ".join(house.members[key].title for key in way.circuits) or "spare"


def _trip(
    house: House,
    kind: Literal["board", "group", "way"],
    board: Board,
    part: str,
    title: str,
    device: str,
    members: Iterable[Member],
) -> Trip:
    by_room: dict[str, set[str]] = {}
    keys, needs = [], set[Need]()
    for member in members:
        keys.append(member.key)
        seat = house.seats.get(member.key)
        needs |= set(seat.way.needs) if seat else set()
        if member.kind == "alarms":
            needs.add("alarms")
        for room, what in member.rooms.items():
            by_room.setdefault(room, set()).update(what)
    storeys: dict[str, set[str]] = {}
    for room, found in by_room.items():
        if house.storey_of(room):
            storeys.setdefault(house.storey_of(room), set()).update(found)
    both = {"lights", "sockets"}
    return Trip(
        kind=kind,
        id=part,
        board=board.id,
        title=title,
        device=device,
        circuits=tuple(keys),
        lost=tuple(
            Lost(id=room, room=house.room_name(room), storey=house.storey_of(room), what=tuple(sorted(what)))
            for room, what in sorted(
                by_room.items(), key=lambda each: (house.storey_of(each[0]), house.room_name(each[0]))
            )
        ),
        needs=tuple(sorted(needs)),
        unsure=any(group.unsure and group.id == part for group in board.groups),
        dark_storeys=tuple(name for name, what in storeys.items() if both <= what),
        dark_rooms=tuple(sorted(house.room_name(room) for room, what in by_room.items() if both <= what)),
    )
