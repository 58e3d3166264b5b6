"""The device at the origin's boards that breaks least: what a measured fault current is held to."""

from dataclasses import dataclass

from lumbek.core.board.house import House
from lumbek.core.board.trips import way_title
from lumbek.core.protection.conditional import conditional_ka
from lumbek.core.protection.who import device_name


@dataclass(frozen=True)
class Weakest:
    """What the weakest device breaks in kA, by its name, and the ways whose devices nobody has read."""

    ka: float | None
    name: str
    unread: tuple[str, ...]


def weakest(house: House) -> Weakest:
    """Return what the devices of the boards fed from the origin break, their enclosure's rating counted in (434.5.1).

    Behind a feed less may flow: there each circuit is judged for itself.
    """
    least, name, unread = None, "", list[str]()
    conditional = conditional_ka(house.rulebook, house.supply)
    for board in (each for each in house.boards if each.fed_by is None):
        for way in board.ways:
            device = house.device_of(way)
            if device is None or house.rulebook.devices[device.standard].form == "switch":
                continue
            breaks = max(device.breaking_capacity_ka or 0.0, conditional)
            if not breaks:
                unread.append(way_title(house, way))
            elif least is None or breaks < least:
                least, name = breaks, f"{device_name(house.rulebook, device)} of {way_title(house, way)}"
    return Weakest(least, name, tuple(unread))
