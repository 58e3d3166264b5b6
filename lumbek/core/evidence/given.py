"""What is given of a circuit: its legs with what may be their lengths, and what was read, each as a range."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from lumbek.core.evidence.intervals import Interval

# Ohms per metre of line, neutral and cpc.
Cores = tuple[float, float, float]
# How often each conductor counts in a reading, in the same order.
LOOP: Cores = (1.0, 0.0, 1.0)
LIVE: Cores = (1.0, 1.0, 0.0)
CPC: Cores = (0.0, 0.0, 1.0)


def per_m(cores: Cores, counts: Cores) -> float:
    """Return what a metre adds to a reading in Ω."""
    return sum(ohm * count for ohm, count in zip(cores, counts, strict=True))


@dataclass(frozen=True)
class GivenLeg:
    """A leg from `near` the board to `far`: its conductors in Ω/m at 20 °C, and the lengths in m it may have.

    One that is not `known` has no length drawn: it may be anything from nothing on.
    """

    id: str
    near: str
    far: str
    cores: Cores
    length_m: Interval
    known: bool


@dataclass(frozen=True)
class GivenReading:
    """A reading from the board to a place: which conductors it counts, and the ohms at 20 °C that it may stand for."""

    counts: Cores
    ohm: Interval


@dataclass(frozen=True)
class RingGiven:
    """A ring's own readings in Ω at 20 °C: end to end of each conductor, and cross-joined at places."""

    ends: Mapping[int, Interval] = field(default_factory=dict)
    cross_ln: Mapping[str, Interval] = field(default_factory=dict)
    cross_le: Mapping[str, Interval] = field(default_factory=dict)


@dataclass(frozen=True)
class Bounds:
    """What line and cpc together (`loop`) and line and neutral together (`live`) can read to a place, Ω at 20 °C."""

    loop: Interval
    live: Interval
