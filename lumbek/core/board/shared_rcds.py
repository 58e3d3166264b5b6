"""RCDs that several circuits share: where each is, what is behind it. Each is tested once, on the house's sheet."""

from collections.abc import Iterator
from dataclasses import dataclass

from lumbek.core.board.house import House
from lumbek.core.board.trips import way_title
from lumbek.core.judging.check import Place
from lumbek.core.model.device import Device, Rcd, Unknown


@dataclass(frozen=True)
class SharedRcd:
    """An RCD that several circuits share, by the id of the board, group or way it is in, and the circuits behind it."""

    key: str
    board: str
    place: Place
    rcd: Rcd | Unknown
    circuits: tuple[str, ...]
    unsure: bool = False

    @property
    def known(self) -> Rcd | None:
        """What is known of it."""
        return None if self.rcd == "unknown" else self.rcd


def shared_rcds(house: House, possible: bool = False) -> Iterator[SharedRcd]:
    """Yield the RCDs of main switches, of groups, and of ways that feed another board; those that are only `possible`
    too where asked.
    """
    has_one = (lambda device: device.may_have_rcd) if possible else _has_one
    for board in house.boards:
        main = board.known_main
        if main is not None and has_one(main):
            keys = tuple(member.key for member in house.behind_board(board))
            yield SharedRcd(board.id, board.id, house.board_place(board), main.rcd or "unknown", keys)
        for group in board.groups:
            if group.rcd is not None and any(way.circuits for way in group.ways):
                keys = tuple(member.key for member in house.behind_group(group))
                yield SharedRcd(group.id, board.id, house.group_place(board, group), group.rcd, keys, group.unsure)
            for way in group.ways:
                device = house.device_of(way)
                if device is not None and has_one(device) and any(map(house.hanging_on, way.circuits)):
                    place = Place(kind="way", id=way.id, name=way_title(house, way))
                    keys = tuple(member.key for member in house.members_in((way,)))
                    yield SharedRcd(way.id, board.id, place, device.rcd or "unknown", keys)


def _has_one(device: Device) -> bool:
    """Whether a device has an RCD: said, or it is one by its nature."""
    return device.known_rcd is not None or (
        device.rcd == "unknown" and device.standard in ("bs-en-61008", "bs-en-61009")
    )
