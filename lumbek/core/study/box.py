"""What can flow and drop over every length that is possible: bounds, where trying single lengths may miss the worst.

Resistances and loops only grow with every length, so their worst is where all are greatest. How a ring shares its
current, and where the far point lies that the conventional load is taken at, does not: that is bounded here.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import accumulate

from lumbek.core.evidence.intervals import Interval
from lumbek.core.model.leg import BOARD
from lumbek.core.network.flows import flow
from lumbek.core.sizing.demand import conventional
from lumbek.core.study.study import Study


@dataclass(frozen=True)
class Box:
    """A circuit between its shortest and its longest; both are the same circuit otherwise."""

    shortest: Study
    longest: Study

    # --- what may be drawn where

    @cached_property
    def _demands(self) -> tuple[Mapping[str, float], ...]:
        """The currents in A at the points, for every point that may be the far one."""
        demand = self.longest.currents.demand
        if demand is None:
            return ()
        if demand.stated or demand.far is None:
            return (demand.at_points,)
        return tuple(conventional(demand, far) for far in self._may_be_far(demand.far_of))

    def _may_be_far(self, points: Sequence[str]) -> list[str]:
        """Return the points that no other is farther than at every length (by their line resistance)."""
        least, most = self.shortest.wires.cold, self.longest.wires.cold
        if least is None or most is None:
            return list(points)
        nearest = max(least.r1_ohm[point] for point in points)
        return [point for point in points if most.r1_ohm[point] >= nearest - 1e-9]

    # --- the ring

    def _ring_ohm(self, study: Study, core: str) -> list[float]:
        return [study.wires.hot_ohm[leg][core] for leg in study.shape.ring_legs]

    @cached_property
    def _below(self) -> Mapping[str, str]:
        """The point of the ring that each reached point hangs at, itself for those on it; the board for its spurs."""
        return {point: self.longest.shape.hangs_at(point) for point in self.longest.wires.points}

    def _on_ring(self, at_points: Mapping[str, float]) -> list[float]:
        """Return what is drawn at each point of the ring, its spurs with it, in A, in their order."""
        drawn = dict.fromkeys(self.longest.shape.ring_points, 0.0)
        for point, ampere in at_points.items():
            at = self._below.get(point, BOARD)
            if at in drawn:
                drawn[at] += ampere
        return list(drawn.values())

    def ring_currents_a(self) -> Iterator[Mapping[str, Interval]]:
        """Yield the least and most current in A in each leg of the ring, for each way the loads may lie.

        The current in the first leg is Σ R c / Σ R, with c what is drawn before each leg: round the ring the drops
        R (i - c) come to nothing. Such a quotient is greatest with the legs before some point short and those after it
        long, and least the other way round; the current in every other leg is less by what is drawn before it.
        """
        legs = self.longest.shape.ring_legs
        short, long = self._ring_ohm(self.shortest, "L"), self._ring_ohm(self.longest, "L")
        for at_points in self._demands:
            drawn = self._on_ring(at_points)
            taken = [0.0, *accumulate(drawn)]
            first = []
            for split in range(len(legs) + 1):
                for one, other in ((long, short), (short, long)):
                    ohm = [*one[:split], *other[split:]]
                    first.append(sum(r * c for r, c in zip(ohm, taken, strict=True)) / sum(ohm))
            least, most = min(first), max(first)
            yield {leg: Interval(least - gone, most - gone) for leg, gone in zip(legs, taken, strict=True)}

    def ring_drops_v(self) -> Iterator[Mapping[str, Interval]]:
        """Yield a lower and an upper bound of the drop in V at each point, for each way the loads may lie.

        What a load at q drops at p is I a b / (a + m + b), with a and b the ways from the board to the nearer of the
        two on either side and m the way between: it grows with a and b and falls with m, so each has its extreme
        where they have theirs.
        """
        spans = [
            [low + more for low, more in zip(self._ring_ohm(study, "L"), self._ring_ohm(study, "N"), strict=True)]
            for study in (self.shortest, self.longest)
        ]
        low, high = ([0.0, *accumulate(each)] for each in spans)
        place = {point: index for index, point in enumerate(self.longest.shape.ring_points, start=1)}
        for at_points in self._demands:
            drawn = self._on_ring(at_points)
            spur = [self._spur_drops_v(study, at_points) for study in (self.shortest, self.longest)]
            found = {}
            for point in self.longest.wires.points:
                at = place.get(self._below[point])
                least, most = (0.0, 0.0) if at is None else _drawn_by_all(drawn, at, low, high)
                found[point] = Interval(least + spur[0].get(point, 0.0), most + spur[1].get(point, 0.0))
            yield found

    def _spur_drops_v(self, study: Study, at_points: Mapping[str, float]) -> dict[str, float]:
        """Return the drop in V from where each spur leaves the ring to each of its points."""
        ring, graph, hot = set(study.shape.ring_legs), study.graph, study.wires.hot_ohm
        carried: dict[str, float] = {}
        paths = {point: [leg for leg in graph.path_to(point) if leg not in ring] for point in study.wires.points}
        for point, ampere in at_points.items():
            for leg in paths.get(point, ()):
                carried[leg] = carried.get(leg, 0.0) + ampere
        return {
            point: sum(carried.get(leg, 0.0) * (hot[leg]["L"] + hot[leg]["N"]) for leg in path)
            for point, path in paths.items()
        }

    # --- what hangs in the open

    def open_drops_v(self) -> Iterator[Mapping[str, Interval]]:
        """Yield the least and most drop in V at each point of an open run, for each way the loads may lie."""
        for at_points in self._demands:
            least, most = (
                flow(study.wires.wiring, ohm, at_points, study.wires.points).drop_v
                for study in (self.shortest, self.longest)
                if (ohm := study.currents.drop_ohm) is not None
            )
            yield {point: Interval(least[point], most[point]) for point in most}


def _drawn_by_all(drawn: Sequence[float], at: int, low: Sequence[float], high: Sequence[float]) -> tuple[float, float]:
    """Return the least and most drop in V at a point of a ring by the loads at each, A, of a short and a long ring."""
    least = most = 0.0
    for index, ampere in enumerate(drawn, start=1):
        near, far = sorted((index, at))
        least += ampere * _shared(low, high, near, far)
        most += ampere * _shared(high, low, near, far)
    return least, most


def _shared(ends: Sequence[float], between: Sequence[float], near: int, far: int) -> float:
    """Return a b / (a + m + b) in Ω for two points of a ring, from running sums of its legs."""
    a, b, m = ends[near], ends[-1] - ends[far], between[far] - between[near]
    return a * b / (a + m + b) if a + m + b else 0.0
