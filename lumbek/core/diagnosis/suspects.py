"""Suspects: what may be wrong and where. A suspect of unknown size has a hypothesis for each size it may have.

Suspects that no test parts are one: a core with its two terminations; a leg with a cable of its own cores crossed at
either end.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from math import log, sqrt
from typing import Literal, NamedTuple

from lumbek.core.network.wiring import Node

SuspectKind = Literal[
    "sound",
    "drawing",
    "leads",
    "gain",
    "open",
    "loose",
    "cut",
    "open-accessory",
    "loose-accessory",
    "crossed-accessory",
    "crossed-leg",
    "rings-crossed",
    "bridged",
    "not-as-drawn",
    "wrong-size",
    "insulation-leg",
    "insulation-point",
    "load-left-in",
    "load-fault",
    "mixed-neutral",
    "parallel-earth",
    "pair",
]
# Where nothing is wrong with the circuit itself: it is as it should be, or drawing or meter are off.
NO_FAULT: tuple[SuspectKind, ...] = ("sound", "drawing", "leads", "gain")


# What holds a path that is gone with every other neutral out of the bar, as a load's is with the load unplugged.
# No point can have this id.
BAR = ".bar"


class Series(NamedTuple):
    """More resistance in one core of one leg; a break is very much more."""

    branch: int


class Across(NamedTuple):
    """A path between two cores of one leg, at its first (0) or second (1) end."""

    one: int
    other: int
    side: int


class Over(NamedTuple):
    """A path from the first end of one core to the second end of another: cores that changed places."""

    one: int
    other: int


class Between(NamedTuple):
    """A path between two places."""

    a: Node
    b: Node


Port = Series | Across | Over | Between


class FaultChange(NamedTuple):
    """What differs from the drawing at one place, in Ω: so much more in series, or a path of so much.

    `load` is the point whose load holds a path: unplugged, it is gone.
    """

    port: Port
    ohm: float
    load: str | None = None


@dataclass(frozen=True)
class Suspect:
    """What may be wrong: its kind, the place (leg or point, or the board), the conductors, in words."""

    id: str
    kind: SuspectKind
    place_kind: Literal["leg", "point", "board", "circuit"]
    place: str
    cores: str
    title: str
    prior: float
    # Both of what two faults at once are made of.
    parts: tuple[str, ...] = ()


@dataclass(frozen=True)
class Hypothesis:
    """One way in which a suspect may be at fault; `prior` is its share of the suspect's.

    `cell_ln` is the standard deviation of the logarithm of its changes' size within the step it stands for.
    `exchanged` are terminals that hold each other's conductors. `tails` are terminals of accessories, each joined to
    the conductors there by so many Ω more: what runs past them is sound.
    """

    suspect: str
    prior: float
    changes: tuple[FaultChange, ...] = ()
    cell_ln: float = 0.0
    exchanged: tuple[Node, Node] | None = None
    tails: tuple[tuple[Node, float], ...] = ()
    gain: float = 0.0
    offset_ohm: float = 0.0
    length_part: float | None = None
    common_part: float | None = None

    @cached_property
    def branches(self) -> frozenset[int]:
        """The branches that it has more in series with."""
        return frozenset(each.port.branch for each in self.changes if isinstance(each.port, Series))

    @cached_property
    def paths(self) -> tuple[FaultChange, ...]:
        """Those of its changes that insulation should prevent."""
        return tuple(each for each in self.changes if isinstance(each.port, Across | Between))


def steps_of(sizes_ohm: tuple[float, ...]) -> Iterator[tuple[float, float]]:
    """Yield each size with the standard deviation of its logarithm within its step.

    A size is even over its step: step / sqrt(12).
    """
    for at, ohm in enumerate(sizes_ohm):
        below, above = sizes_ohm[max(0, at - 1)], sizes_ohm[min(len(sizes_ohm) - 1, at + 1)]
        steps = (at > 0) + (at < len(sizes_ohm) - 1)
        yield ohm, log(above / below) / steps / sqrt(12) if steps else 0.0


def sized(
    suspect: str, ports: tuple[Port, ...], sizes_ohm: tuple[float, ...], load: str | None = None
) -> list[Hypothesis]:
    """Return a hypothesis for each size at each port, all as likely."""
    share = 1.0 / (len(sizes_ohm) * len(ports))
    return [
        Hypothesis(suspect, share, (FaultChange(port, ohm, load),), cell)
        for ohm, cell in steps_of(sizes_ohm)
        for port in ports
    ]
