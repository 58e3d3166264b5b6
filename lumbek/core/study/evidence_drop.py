"""The voltage drop to each point for all that agrees with what is known: bounds in V, from bounds on line and neutral.

What a load draws drops on the way that it shares with a point: in a run what reads to where the two ways part, round a
ring no more than the lesser of what reads to either (I x (T - y) / T for x before y).
"""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from math import isinf

from lumbek.core.evidence.intervals import Interval
from lumbek.core.model.leg import BOARD
from lumbek.core.sizing.demand import Demand, conventional
from lumbek.core.study.evidence import Evidence

_NOTHING = Interval(0.0, 0.0)


@dataclass(frozen=True)
class DropBounds:
    """Drops of one circuit under its demand; `hot` is the factor from 20 °C to working temperature, least and most."""

    evidence: Evidence
    demand: Demand
    hot: Interval
    asked: tuple[str, ...]

    def live(self, point: str) -> Interval | None:
        """Return line and neutral to a point in Ω, hot; None where no bounds are known."""
        if point == BOARD:
            return _NOTHING
        bounds = self.evidence.bounds.get(point)
        if bounds is None or isinf(bounds.live.most):
            return None
        return Interval(bounds.live.least * self.hot.least, bounds.live.most * self.hot.most)

    @cached_property
    def _drawn(self) -> list[Mapping[str, float]]:
        """What is drawn where, for each point that may be the far one."""
        demand = self.demand
        if demand.stated or demand.far is None:
            return [demand.at_points]
        return [conventional(demand, far) for far in demand.far_of]

    def drops(self) -> list[dict[str, Interval]] | None:
        """Return the drops at all points for each way the loads may lie; None where a bound is missing."""
        points = self.asked
        if any(self.live(point) is None for point in points):
            return None
        if self.evidence.shape.is_ring and not self.demand.stated:
            return [{point: self._by_convention(point) for point in points}]
        return [{point: self._drop(point, drawn) for point in points} for drawn in self._drawn]

    def _drop(self, point: str, drawn: Mapping[str, float]) -> Interval:
        total = _NOTHING
        for load_at, ampere in drawn.items():
            shared = self._shared(point, load_at)
            total = total.plus(shared.times(ampere))
        return total

    def _shared(self, point: str, load_at: str) -> Interval:
        """Return what the way to a point and that to a load share, Ω."""
        one = self.live(point) or _NOTHING
        # Of a load of which nothing is known the shared way is no longer than that to the point itself.
        other = self.live(load_at) or Interval(0.0, one.most)
        if point == load_at:
            return one
        if self.evidence.shape.is_ring:
            return Interval(0.0, min(one.most, other.most))
        return self.live(self._parting(point, load_at)) or Interval(0.0, min(one.most, other.most))

    def _parting(self, one: str, other: str) -> str:
        """Return the last point that two ways from the board share."""
        here, there = self._way(one), self._way(other)
        shared = [a for a, b in zip(here, there, strict=False) if a == b]
        return shared[-1]

    def _way(self, point: str) -> list[str]:
        way, here = [point], point
        for leg_id in reversed(self.evidence.graph.path_to(point)):
            here = self.evidence.graph.legs[leg_id].other_end(here)
            way.append(here)
        return way[::-1]

    def _by_convention(self, point: str) -> Interval:
        """Return a ring's drop where not all loads are stated: those that are, the far load there, the rest spread.

        Spread evenly along it, a current drops half of what it would at the place itself: so 26 q + 20 s of 32 A.
        """
        there, on_ring = self.live(point) or _NOTHING, self.live(self.evidence.shape.hangs_at(point)) or _NOTHING
        most = there.most * self.demand.far_a + on_ring.most * self.demand.spread_a / 2
        return self._drop(point, self.demand.said_at).plus(Interval(there.least * self.demand.far_a, most))
