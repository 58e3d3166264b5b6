"""The feed cables between the origin and a circuit's device, each with what protects it."""

from dataclasses import dataclass

from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.device import Device, Rcd
from lumbek.core.rulebooks import Rulebook


@dataclass(frozen=True)
class Feed:
    """A feed cable with the last device and RCD before it; `stated_a` is the current of all it feeds, in A.

    A device of None is not known: nothing stands ahead of the feed, and the main fuse has not been found out; so is a
    length of None. `least_m` is the length behind which a fault is greatest.
    """

    title: str
    cable: Cable
    length_m: float | None
    least_m: float | None
    method: str
    stated_a: float | None
    device: Device | None
    rcd: Rcd | None


def feeds_of(rulebook: Rulebook, circuit: Circuit, main_fuse: Device | None) -> tuple[Feed, ...]:
    """Return the feeds ahead of a circuit, from the origin on. A switch protects none of them."""
    device, rcd = main_fuse, None
    feeds: list[Feed] = []
    for ahead in circuit.ahead:
        if ahead.device is not None:
            rcd = ahead.device.known_rcd or rcd
            if rulebook.protects(ahead.device):
                device = ahead.device
        elif ahead.feed is not None:
            title = ahead.name or f"Feed {len(feeds) + 1}"
            feeds.append(
                Feed(title, ahead.feed, ahead.length_m, ahead.least_m, ahead.method, ahead.current_a, device, rcd)
            )
    return tuple(feeds)
