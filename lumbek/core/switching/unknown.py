"""Cables of which only one end has been found: which continuity test tells most of where they go.

Every way of pairing the ends that are left is a world; a test joins two cores at one end and reads at another. The
test that parts the worlds most evenly is the one to make (Shannon: no other tells more on average).
"""

from collections.abc import Iterator, Sequence
from itertools import combinations

from lumbek.core.circuit.joining import known_ends
from lumbek.core.model.circuit import Circuit
from lumbek.core.rulebooks import Rulebook
from lumbek.core.switching.colours import colour_of
from lumbek.core.value import Frozen

# More ends than these are not paired in every way.
_MOST_ENDS = 10


class LooseEnd(Frozen):
    """A cable end in a box whose other end has not been found."""

    leg: str
    place: str
    words: str


class ContinuityTest(Frozen):
    """The next test: join two cores at one end, read between the same two at another.

    `worlds` is how many ways the ends can be paired still, `closed` in how many of them it reads closed.
    """

    join: LooseEnd
    read: LooseEnd
    cores: tuple[str, ...]
    words: str
    worlds: int
    closed: int


def loose_ends(circuit: Circuit) -> tuple[LooseEnd, ...]:
    """Return every cable end of which the other end is unknown."""
    found = []
    for leg_id, place in known_ends(circuit).items():
        live = len(circuit.cable_of(circuit.leg(leg_id)).live_cores)
        words = f"the {live}-core cable {leg_id} at {circuit.point_title(place)}"
        found.append(LooseEnd(leg=leg_id, place=place, words=words))
    return tuple(found)


def worlds_of(circuit: Circuit, ends: Sequence[LooseEnd]) -> list[frozenset[frozenset[str]]]:
    """Return every way in which ends can be pairs of one cable each, those not paired leading elsewhere.

    Two ends are of one cable only where both have as many cores of the same colours, in different boxes, and no test
    has shown otherwise. The fewer are left over, the likelier: only the ways that leave least are kept.
    """
    apart = {frozenset((pair.one, pair.other)) for pair in (circuit.scheme.apart if circuit.scheme else ())}

    def kind(end: LooseEnd) -> tuple[int, str]:
        cable = circuit.cable_of(circuit.leg(end.leg))
        return len(cable.live_cores), cable.colours

    alike = (pair for pair in combinations(ends, 2) if kind(pair[0]) == kind(pair[1]))
    fits = {frozenset((one.leg, other.leg)) for one, other in alike if one.place != other.place} - apart

    def paired(left: tuple[str, ...]) -> Iterator[frozenset[frozenset[str]]]:
        if not left:
            yield frozenset()
            return
        first, rest = left[0], left[1:]
        yield from paired(rest)
        for other in rest:
            pair = frozenset((first, other))
            if pair in fits:
                yield from (more | {pair} for more in paired(tuple(each for each in rest if each != other)))

    every = list(paired(tuple(end.leg for end in ends)))
    most = max(map(len, every), default=0)
    return [world for world in every if len(world) == most] if most else []


def next_test(book: Rulebook, circuit: Circuit) -> ContinuityTest | None:
    """Return the continuity test that tells most; None where nothing is left to be told."""
    ends = loose_ends(circuit)[:_MOST_ENDS]
    worlds = worlds_of(circuit, ends)
    if not worlds:
        return None
    best: tuple[int, ContinuityTest] | None = None
    for one, other in combinations(ends, 2):
        pair = frozenset((one.leg, other.leg))
        closed = sum(1 for world in worlds if pair in world)
        if not closed:
            continue
        uneven = abs(2 * closed - len(worlds))
        if best is not None and uneven >= best[0]:
            continue
        cable = circuit.cable_of(circuit.leg(one.leg))
        cores = cable.live_cores[:2]
        colours = " and ".join(colour_of(book, cable, core) for core in cores)
        words = f"Isolated and proved dead: join {colours} of {one.words}, read between {colours} of {other.words}"
        test = ContinuityTest(join=one, read=other, cores=cores, words=words, worlds=len(worlds), closed=closed)
        best = uneven, test
    return None if best is None else best[1]
