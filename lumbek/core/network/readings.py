"""The measurements of a circuit's tests, each as data: what is taken out, linked and probed."""

from functools import lru_cache

from lumbek.core.model.leg import BOARD
from lumbek.core.model.terminals import CONDUCTORS
from lumbek.core.network.measure import Measurement
from lumbek.core.network.wiring import IN_SERVICE, CoreAt, Node, Setup, loose, node


def end_to_end(ring: tuple[str, str], core: str, broken: Setup = IN_SERVICE) -> Measurement:
    """Return the reading of one conductor of a ring from end to end; `ring` are its first and last leg."""
    first, last = (loose(CoreAt(leg, core, BOARD)) for leg in ring)
    return Measurement("resistance", (first, last), ends_out(ring, (), broken))


def crossed(ring: tuple[str, str], other: str, point: str, broken: Setup = IN_SERVICE, one: str = "L") -> Measurement:
    """Return the reading at a point with the line (or `one`) of each end linked to the `other` of the opposite end."""
    first, last = ring
    return _across(ring, (one, other), point, ((first, last), (last, first)), broken)


def own_ends(ring: tuple[str, str], point: str, broken: Setup = IN_SERVICE) -> Measurement:
    """Return the reading at a point where line and neutral of each end are linked with each other by mistake."""
    first, last = ring
    return _across(ring, ("L", "N"), point, ((first, first), (last, last)), broken)


def r1_plus_r2(point: str, broken: Setup = IN_SERVICE, line: Node | None = None) -> Measurement:
    """Return the reading at the board between line and cpc, linked at the point; its `line` may be in a terminal."""
    linked = (line or node("L", point), node("E", point))
    return Measurement("resistance", (node("L", BOARD), node("E", BOARD)), broken, linked)


def r1_plus_rn(point: str, broken: Setup = IN_SERVICE, line: Node | None = None) -> Measurement:
    """Return the reading at the board between line and neutral, linked at the point."""
    linked = (line or node("L", point), node("N", point))
    return Measurement("resistance", (node("L", BOARD), node("N", BOARD)), broken, linked)


def fault_loop(point: str, broken: Setup = IN_SERVICE, line: Node | None = None) -> Measurement:
    """Return the reading of Zs at a point: out by the line, back by the cpc, and through what lies outside."""
    return r1_plus_r2(point, broken, line)._replace(function="loop")


def one_way(core: str, point: str, broken: Setup = IN_SERVICE, line: Node | None = None) -> Measurement:
    """Return the reading of one conductor from the board to a point, by a long lead."""
    return Measurement("resistance", (node(core, BOARD), line or node(core, point)), broken)


# Two conductors, and the legs whose ends are linked: of the first leg the one, of the second the other.
_Pair = tuple[str, str]


def _across(ring: _Pair, cores: _Pair, point: str, legs: tuple[_Pair, _Pair], broken: Setup) -> Measurement:
    one, other = cores
    return Measurement("resistance", (node(one, point), node(other, point)), _linked(ring, cores, legs, broken))


@lru_cache(maxsize=1024)
def _linked(ring: _Pair, cores: _Pair, legs: tuple[_Pair, _Pair], broken: Setup) -> Setup:
    one, other = cores
    links = tuple((loose(CoreAt(a, one, BOARD)), loose(CoreAt(b, other, BOARD))) for a, b in legs)
    return ends_out(ring, links, broken)


@lru_cache(maxsize=1024)
def ends_out(ring: tuple[str, str], links: tuple[tuple[Node, Node], ...] = (), broken: Setup = IN_SERVICE) -> Setup:
    """Return how a network stands with both ends of a ring taken out at the board, and `links` made meanwhile."""
    out = frozenset(CoreAt(leg, core, BOARD) for leg in ring for core in CONDUCTORS)
    return broken._replace(taken_out=broken.taken_out | out, links=(*broken.links, *links))
