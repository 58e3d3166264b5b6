"""The device at the origin's boards that breaks least: what a measured fault current is held to."""

from collections.abc import Iterator
from dataclasses import dataclass

from lumbek.core.board.house import House
from lumbek.core.board.trips import way_title
from lumbek.core.model.board import Way
from lumbek.core.model.device import Device
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
    for way, device in _at_the_origin(house):
        breaks = max(device.breaking_capacity_ka or 0.0, conditional)
        if not breaks:
            unread.append(way_title(house, way))
        elif least is None or breaks < least:
            least, name = breaks, f"{device_name(house.rulebook, device)} of {way_title(house, way)}"
    return Weakest(least, name, tuple(unread))


def _at_the_origin(house: House) -> Iterator[tuple[Way, Device]]:
    """Yield the ways that nothing feeds but the supply, each with the device that has to break a fault."""
    for board in house.boards:
        for way in board.ways if board.fed_by is None else ():
            device = house.device_of(way)
            if device is not None and house.rulebook.devices[device.standard].form != "switch":
                yield way, device
