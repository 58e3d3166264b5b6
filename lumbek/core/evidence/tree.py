"""Runs that divide and never close: the resistance to each place is bounded, not the length of each leg.

A reading bounds one place, a leg the step between two. Narrowed from the leaves to the board and back, the bounds
are exact, and all the upper ones are possible together, as are all the lower ones.
"""

from collections.abc import Mapping, Sequence
from dataclasses import replace

from lumbek.core.evidence.given import LIVE, LOOP, Bounds, Cores, GivenLeg, GivenReading, per_m
from lumbek.core.evidence.intervals import ANYTHING, Interval

Readings = Mapping[str, Sequence[GivenReading]]
ROOT = Interval(0.0, 0.0)


def outward(legs: Sequence[GivenLeg], root: str) -> list[GivenLeg]:
    """Return the legs that hang on a place, each after the one that it hangs on."""
    at: dict[str, list[GivenLeg]] = {}
    for leg in legs:
        at.setdefault(leg.near, []).append(leg)
    order, queue = list[GivenLeg](), [root]
    for here in queue:
        for leg in at.get(here, ()):
            order.append(leg)
            queue.append(leg.far)
    return order


def paths(legs: Sequence[GivenLeg], root: str) -> dict[str, tuple[GivenLeg, ...]]:
    """Return the way from the root to each place; `legs` are in their order outward."""
    found: dict[str, tuple[GivenLeg, ...]] = {root: ()}
    for leg in legs:
        found[leg.far] = (*found[leg.near], leg)
    return found


def as_counted(reading: GivenReading, path: Sequence[GivenLeg], counts: Cores) -> Interval | None:
    """Return what a reading says of other conductors of the same way, by their sizes; None where it says nothing.

    Where sizes differ along the way the least and the greatest ratio bound it.
    """
    if reading.counts == counts:
        return reading.ohm
    ratios = []
    for leg in path:
        given = per_m(leg.cores, reading.counts)
        if not given:
            return None
        ratios.append(per_m(leg.cores, counts) / given)
    if not ratios:
        return None
    return Interval(max(0.0, reading.ohm.least) * min(ratios), reading.ohm.most * max(ratios))


def _most_ohm(path: Sequence[GivenLeg], counts: Cores, together_m: float) -> float | None:
    """Return what a way can read at the most, Ω, its unknown legs so long together; None where all are known."""
    unknown = [per_m(leg.cores, counts) for leg in path if not leg.known]
    if not unknown:
        return None
    return sum(leg.length_m.most * per_m(leg.cores, counts) for leg in path if leg.known) + together_m * max(unknown)


def bounded(
    legs: Sequence[GivenLeg],
    readings: Readings,
    counts: Cores,
    root: str,
    at_root: Interval = ROOT,
    together_m: float = float("inf"),
) -> dict[str, Interval] | None:
    """Return what these conductors can read from the board to each place, Ω; None where no lengths agree.

    `legs` in their order outward from `root`, where `at_root` is read already. Legs of unknown length are
    `together_m` long at the most, on any one way.
    """
    ways = paths(legs, root)
    found = dict.fromkeys(ways, ANYTHING)
    found[root] = at_root
    for place, path in ways.items():
        most = _most_ohm(path, counts, together_m)
        if most is not None:
            found[place] = Interval(0.0, at_root.most + most)
        for reading in readings.get(place, ()):
            says = as_counted(reading, path, counts)
            if says is not None:
                found[place] = found[place].meet(says)
    for leg in reversed(legs):
        step = leg.length_m.times(per_m(leg.cores, counts))
        found[leg.near] = found[leg.near].meet(found[leg.far].less(step))
    for leg in legs:
        step = leg.length_m.times(per_m(leg.cores, counts))
        found[leg.far] = found[leg.far].meet(found[leg.near].plus(step))
    return None if any(each.is_empty for each in found.values()) else found


def tree_bounds(legs: Sequence[GivenLeg], readings: Readings, root: str, together_m: float) -> dict[str, Bounds] | None:
    """Return the bounds of every place of an open run, the board left out; None where no lengths agree."""
    order = outward(legs, root)
    loop = bounded(order, readings, LOOP, root, together_m=together_m)
    live = bounded(order, readings, LIVE, root, together_m=together_m)
    if loop is None or live is None:
        return None
    return {leg.far: Bounds(loop[leg.far], live[leg.far]) for leg in order}


def proved_by_live(legs: Sequence[GivenLeg], readings: Readings, root: str) -> dict[str, float]:
    """Return the greatest loop in Ω that known legs and readings of live conductors prove to each place.

    A leg of unknown length that nothing of the kind bounds proves no more than it must be.
    """
    endless = Interval(0.0, float("inf"))
    order = [leg if leg.known else replace(leg, length_m=endless) for leg in outward(legs, root)]
    only = {place: [each for each in some if each.counts == LIVE] for place, some in readings.items()}
    found = bounded(order, only, LOOP, root)
    if found is None:
        return {}
    return {
        leg.far: found[leg.far].least if found[leg.far].most == float("inf") else found[leg.far].most for leg in order
    }
