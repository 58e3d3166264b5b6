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
    length of None. `least_m` is the length behind which a fault is greatest. `rcd_unsaid` where something before it may
    have an RCD of which nobody has spoken.
    """

    title: str
    cable: Cable
    length_m: float | None
    least_m: float | None
    method: str
    stated_a: float | None
    device: Device | None
    rcd: Rcd | None
    rcd_unsaid: bool


def wanted_of(feed: Feed) -> str:
    """Return what the loop of a feed wants, where it cannot be told."""
    return f"length of {feed.title}" if feed.length_m is None else f"{feed.title}: cable as listed"


def feeds_of(rulebook: Rulebook, circuit: Circuit, main_fuse: Device | None) -> tuple[Feed, ...]:
    """Return the feeds ahead of a circuit, from the origin on. A switch protects none of them."""
    device, rcd, unsaid = main_fuse, None, False
    feeds: list[Feed] = []
    for ahead in circuit.ahead:
        if ahead.device is not None:
            rcd = ahead.device.known_rcd or rcd
            unsaid = unsaid or ahead.device.rcd == "unknown"
            if rulebook.protects(ahead.device):
                device = ahead.device
        elif ahead.feed is not None:
            title = ahead.name or f"Feed {len(feeds) + 1}"
            lengths = ahead.length_m, ahead.least_m
            feeds.append(Feed(title, ahead.feed, *lengths, ahead.method, ahead.current_a, device, rcd, unsaid))
    return tuple(feeds)
