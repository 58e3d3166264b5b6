"""What a circuit carries and what that costs in volts."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

from lumbek.core.circuit.graph import by_name
from lumbek.core.model.leg import Leg
from lumbek.core.network.flows import Flow, flow
from lumbek.core.network.opened import least_opened_drop_v
from lumbek.core.network.solver import Solution
from lumbek.core.network.wiring import IN_SERVICE, CoresOhm, Node
from lumbek.core.rulebooks import Rulebook
from lumbek.core.sizing.capacity import Capacity
from lumbek.core.sizing.demand import Demand, demand
from lumbek.core.sizing.operating import agree, leg_ct
from lumbek.core.study.ahead import AheadOf
from lumbek.core.study.feeds import Feed
from lumbek.core.study.wires import Wires

# Rounds of currents and Ct in a loop; three or four are enough, the rest is for odd cases.
_MOST_ROUNDS = 20
# Proportions that only the hair of binary fractions parts are one.
_ALIKE = 1e-12


@dataclass(frozen=True)
class Currents:
    """The demand of a circuit, the current in each leg, the drop at each point."""

    rulebook: Rulebook
    wires: Wires
    ahead: AheadOf
    capacities: Mapping[str, Sequence[Capacity]]
    phases: int

    @property
    def drop_base_v(self) -> float:
        """The voltage that drops are a part of: U0, or line to line for three phases."""
        return self.rulebook.u0_v if self.phases == 1 else self.rulebook.data.supply.u_v

    @cached_property
    def demand(self) -> Demand | None:
        """The design current and where it is drawn."""
        wires, protection = self.wires, self.ahead.protection
        rating = wires.circuit.device.rating_a if protection is None else protection.rating_a
        return demand(self.rulebook, wires.circuit, wires.graph, wires.shape.is_ring, rating, self._farthest)

    def _farthest(self, points: list[str]) -> str:
        """Return the point with the most line resistance; of several alike the first by name, however drawn."""
        ordered = sorted(points, key=by_name)
        if self.wires.cold is None:
            return max(ordered, key=lambda point: self.wires.graph.distance[point])
        line = self.wires.cold.r1_ohm
        # A hair of binary rounding does not make one point farther than its like.
        return max(ordered, key=lambda point: round(line[point], 9))

    @property
    def are_shared(self) -> bool:
        """Whether some loop shares the current, so that the tabulated mV/A/m alone gives no answer."""
        return bool(self.wires.graph.loop_legs)

    @cached_property
    def flow(self) -> Flow | None:
        """Currents and voltage drops under the demand, with Ct where the circuit asks for it.

        How a loop shares its current depends a little on Ct, and Ct on the current: solved in rounds until they
        agree. In an open run the first round is exact.
        """
        full = self.drop_ohm
        if full is None or self.demand is None:
            return None
        found = self._flow(full, self.demand.at_points)
        if not self.wires.circuit.drop_with_ct:
            return self._no_worse_than_opened(found, full)
        ct: dict[str, float] = dict.fromkeys(full, 1.0)
        for _ in range(_MOST_ROUNDS):
            before, ct = ct, {leg.id: self._leg_ct(leg, found.leg_a.get(leg.id, 0.0)) for leg in self.wires.legs}
            cooled = {leg_id: {core: ohm * ct[leg_id] for core, ohm in cores.items()} for leg_id, cores in full.items()}
            found = replace(self._flow(cooled, self.demand.at_points), ct=ct)
            if agree(before, ct):
                break
        return found

    def _flow(self, cores_ohm: CoresOhm, at_points: Mapping[str, float]) -> Flow:
        wires = self.wires
        return flow(wires.wiring, cores_ohm, at_points, wires.points, like=self._like(cores_ohm), fed=wires.fed)

    def _like(self, cores_ohm: CoresOhm) -> tuple[Solution[Node], float] | None:
        """Return the network as it reads cold, and by how much line and neutral of every leg are more in these Ω.

        None where not every leg is more by the same, or it is found otherwise than it is drawn.
        """
        wires = self.wires
        if wires.wired is None or wires.as_found is not IN_SERVICE:
            return None
        scale = None
        for leg, cores in wires.cores_ohm.items():
            for core in ("L", "N"):
                if not cores.get(core):
                    return None
                each = cores_ohm[leg][core] / cores[core]
                if scale is not None and abs(each - scale) > _ALIKE * scale:
                    return None
                scale = each if scale is None else scale
        return None if scale is None else (wires.wired.solved(), scale)

    def _no_worse_than_opened(self, found: Flow, full: CoresOhm) -> Flow:
        """Hold a ring's drops to what the table gives for it opened at the board, where the network's drop more.

        The table's figures are rounded: for 4 and 6 mm² they lie a hair under the hot conductors of the network.
        """
        table = self._table_ohm if self.wires.shape.is_ring else None
        if table is None or self.demand is None or all(_live(full[leg]) <= _live(table[leg]) for leg in full):
            return found
        least = least_opened_drop_v(
            self.wires.wiring, self.wires.shape.ring_legs, table, self.demand.at_points, self.wires.points
        )
        opened = {point: leg for point, (drop, leg) in least.items() if drop < found.drop_v.get(point, float("-inf"))}
        drops = {point: least[point][0] if point in opened else drop for point, drop in found.drop_v.items()}
        return replace(found, drop_v=drops, opened=opened)

    @cached_property
    def drop_ohm(self) -> CoresOhm | None:
        """The cores of each leg in Ω at the insulation's limit; None where a figure is missing.

        Without loops line and neutral have the tabulated mV/A/m. Where a loop shares the current, the conductors are
        taken at their working temperature.
        """
        if self.wires.cold is None:
            return None
        return self.wires.hot_ohm if self.are_shared else self._table_ohm

    @cached_property
    def _table_ohm(self) -> CoresOhm | None:
        """The tabulated mV/A/m of each leg as Ω, half in each live conductor; None where a size is not listed."""
        ohm: dict[str, Mapping[str, float]] = {}
        for leg in self.wires.legs:
            each = self.rulebook.volt_drop_mv_per_a_m(self.wires.cable_of(leg), self.phases)
            if each is None:
                return None
            half = each * (leg.length_m or 0.0) / 2000
            ohm[leg.id] = {core: half if core != "E" else cold for core, cold in self.wires.cores_ohm[leg.id].items()}
        return ohm

    def _leg_ct(self, leg: Leg, current_a: float) -> float:
        return leg_ct(self.rulebook, leg, self.wires.cable_of(leg), self.capacities[leg.id], current_a)

    # The feeds carry it too

    def of_feed_a(self, feed: Feed) -> float | None:
        """Return the current in A of a feed: as stated for all it feeds, but no less than this circuit's Ib."""
        own = self.demand.ib_a if self.demand else None
        known = [ampere for ampere in (feed.stated_a, own) if ampere is not None]
        return max(known, default=None)

    @cached_property
    def feed_drop_v(self) -> float | None:
        """Voltage drop in the feeds in V, by the table, for their stated current or else Ib."""
        return self._drop_of_feeds_v(self.of_feed_a)

    @property
    def most_feed_drop_v(self) -> float | None:
        """The same where a feed of which no current is stated carries all that its device lets through."""
        return self._drop_of_feeds_v(self._most_of_feed_a)

    def _most_of_feed_a(self, feed: Feed) -> float | None:
        if feed.stated_a is not None:
            return self.of_feed_a(feed)
        return feed.device.rating_a if feed.device else None

    def _drop_of_feeds_v(self, current_of: Callable[[Feed], float | None]) -> float | None:
        total = 0.0
        for feed in self.ahead.feeds:
            each = self.rulebook.volt_drop_mv_per_a_m(feed.cable, self.phases)
            current = current_of(feed)
            if each is None or current is None or feed.length_m is None:
                return None
            total += each * current * feed.length_m / 1000
        return total


def _live(cores: Mapping[str, float]) -> float:
    return cores.get("L", 0.0) + cores.get("N", 0.0)
