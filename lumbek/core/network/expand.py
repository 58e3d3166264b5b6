"""Expanding a circuit to its conductor network: a node per conductor and point, a branch per core and leg."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from enum import Enum
from functools import lru_cache
from typing import Literal, NamedTuple

from lumbek.core.model.circuit import BOARD, Cable, Leg
from lumbek.core.network.solver import Network
from lumbek.core.rulebooks import Rulebook

Conductor = Literal["L", "N", "E"]
CONDUCTORS: tuple[Conductor, ...] = ("L", "N", "E")


class Terminal(NamedTuple):
    """A node: a conductor at a point; at the board, the end of one leg where it is not with its fellows."""

    conductor: str
    point: str
    end: str = ""


@lru_cache(maxsize=8192)
def terminal(conductor: str, point: str, end: str = "") -> Terminal:
    """Return a terminal; the same few are asked for in every network of a circuit, and making one takes time."""
    return Terminal(conductor, point, end)


class Ends(Enum):
    """What the two ends of a ring are joined to at the board."""

    IN_SERVICE = "all ends in their terminals"
    OPEN = "ring ends taken out and left open"
    CROSSED_LN = "line of each end joined to neutral of the other"
    CROSSED_LE = "line of each end joined to cpc of the other"
    OWN_LN = "line of each end joined, by mistake, to neutral of the same end"


@dataclass(frozen=True)
class OpenCore:
    """A break in one conductor of one leg."""

    leg: str
    conductor: Conductor


def core_ohm(rulebook: Rulebook, cable: Cable, conductor: Conductor, length_m: float) -> float | None:
    """Return the resistance in Ω at 20 °C of one core: R = ρ' l. None if the size is not listed."""
    milliohm = rulebook.milliohm_per_m(cable, conductor)
    return None if milliohm is None else milliohm * length_m / 1000


def hot_loop_ohm(rulebook: Rulebook, cable: Cable, length_m: float) -> float | None:
    """Return line and cpc of a cable together in Ω at working temperature. None if a size is not listed."""
    line, earth = core_ohm(rulebook, cable, "L", length_m), core_ohm(rulebook, cable, "E", length_m)
    if line is None or earth is None:
        return None
    return line * rulebook.hot_factor(cable, "L") + earth * rulebook.hot_factor(cable, "E")


def expand(
    legs: Iterable[Leg],
    cores_ohm: Mapping[str, Mapping[Conductor, float]],
    ends: Ends = Ends.IN_SERVICE,
    ring: tuple[str, str] | None = None,
    open_cores: frozenset[OpenCore] = frozenset(),
) -> Network[Terminal]:
    """Return the network of these legs.

    `cores_ohm` gives each leg's cores in Ω. `ring` names the first and last leg of a ring, whose ends at the
    board are joined as `ends` says. Broken cores are left out.
    """
    network: Network[Terminal] = Network()
    for conductor in CONDUCTORS:
        # The board's nodes come first, so that potentials are counted from it.
        network.node(terminal(conductor, BOARD))
    for leg in legs:
        taken_out = ring is not None and ends is not Ends.IN_SERVICE and leg.id in ring
        for conductor, ohm in cores_ohm[leg.id].items():
            if open_cores and OpenCore(leg.id, conductor) in open_cores:
                continue
            a, b = terminal(conductor, leg.a), terminal(conductor, leg.b)
            if taken_out and ring is not None:
                a = _ring_end(conductor, leg.id, ends, ring) if leg.a == BOARD else a
                b = _ring_end(conductor, leg.id, ends, ring) if leg.b == BOARD else b
            network.join(a, b, ohm)
    return network


def _ring_end(conductor: Conductor, leg_id: str, ends: Ends, ring: tuple[str, str]) -> Terminal:
    """Return where the end of a ring's leg is at the board while the ring is tested."""
    other = "E" if ends is Ends.CROSSED_LE else "N"
    if ends is Ends.OPEN or conductor not in ("L", other):
        return terminal(conductor, BOARD, leg_id)
    swapped = ends is not Ends.OWN_LN and conductor == other
    side = ring[1 - ring.index(leg_id)] if swapped else leg_id
    return terminal("joined", BOARD, side)
