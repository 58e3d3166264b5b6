"""Everything the checks of one circuit share, worked out once: graph, shape, demand, network figures."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from math import hypot
from typing import Any

from lumbek.core.circuit.graph import CircuitGraph, by_name
from lumbek.core.circuit.shape import Shape, recognise
from lumbek.core.feeds import Feed, feeds_of
from lumbek.core.loads.demand import Demand, demand
from lumbek.core.model.circuit import BOARD, Cable, Circuit, Device, Leg, Point
from lumbek.core.model.supply import Supply
from lumbek.core.network.capacity import Capacity, segment_capacity
from lumbek.core.network.expand import CONDUCTORS, Conductor, OpenCore, core_ohm, hot_loop_ohm
from lumbek.core.network.figures import (
    Flow,
    Resistances,
    flow,
    hot_cores,
    joined_legs,
    resistances,
)
from lumbek.core.network.opened import least_opened_drop_v
from lumbek.core.network.operating import leg_ct, settled
from lumbek.core.numbers import plain
from lumbek.core.result import Clause, Place
from lumbek.core.rulebooks import Rulebook

# Rounds of currents and Ct in a loop; three or four are enough, the rest is for odd cases.
_MOST_ROUNDS = 20


@dataclass(frozen=True)
class Context:
    """One circuit on one supply under one rulebook. Figures are computed when first asked for, and kept."""

    rulebook: Rulebook
    supply: Supply
    circuit: Circuit
    open_cores: frozenset[OpenCore] = frozenset()

    # Limits of Zs found so far, by device: filled by the check that knows how.
    zs_limits: dict[tuple[str, float] | None, Any] = field(default_factory=dict, compare=False, repr=False)

    # What it is

    @cached_property
    def graph(self) -> CircuitGraph:
        """The circuit's graph."""
        return CircuitGraph(self.circuit)

    @cached_property
    def shape(self) -> Shape:
        """What the circuit really is."""
        return recognise(self.graph)

    @property
    def group(self) -> str:
        """The group of the circuit's kind: sockets, lighting, fixed..."""
        return self.rulebook.kinds[self.circuit.kind].group

    @property
    def phases(self) -> int:
        """How many lines the circuit's loads are shared by."""
        return self.rulebook.kinds[self.circuit.kind].phases

    @property
    def drop_base_v(self) -> float:
        """The voltage that drops are a part of: U0, or line to line for three phases."""
        return self.rulebook.u0_v if self.phases == 1 else self.rulebook.data.supply.u_v

    @property
    def is_socket_ring(self) -> bool:
        """Whether the ring rule applies."""
        return self.group == "sockets" and self.shape.is_ring

    @property
    def by_ring_rule(self) -> bool:
        """Whether the cable is held to the ring's own 20 A instead of the device's rating (433.1.204)."""
        return self.is_socket_ring and self.circuit.device.rating_a in self.rulebook.data.ring.ratings_a

    # What is not known

    @cached_property
    def unknown_lengths(self) -> tuple[str, ...]:
        """What stands in the way of the network: legs without a length, sizes without a resistance."""
        missing = []
        for leg in joined_legs(self.graph):
            if leg.length_m is None:
                missing.append(f"length of {self.circuit.leg_title(leg)}")
                continue
            cable = leg.cable or self.circuit.cable
            for conductor in CONDUCTORS:
                if core_ohm(self.rulebook, cable, conductor, leg.length_m) is None:
                    missing.append(f"cable of {self.circuit.leg_title(leg)}: {_no_resistance(self, cable, conductor)}")
                    break
        return tuple(missing)

    # Network figures

    @cached_property
    def cores_ohm(self) -> Mapping[str, Mapping[Conductor, float]]:
        """Cores of every joined leg in Ω at 20 °C; ask only where `unknown_lengths` is empty."""
        return {
            leg.id: {
                conductor: core_ohm(self.rulebook, leg.cable or self.circuit.cable, conductor, leg.length_m or 0.0)
                or 0.0
                for conductor in CONDUCTORS
            }
            for leg in joined_legs(self.graph)
        }

    @cached_property
    def cold(self) -> Resistances | None:
        """Resistances at 20 °C, or None while something is unknown."""
        if self.unknown_lengths or self.shape.kind == "empty":
            return None
        return resistances(self.graph, self.shape, self.cores_ohm, self.open_cores)

    @cached_property
    def hot_joined_ohm(self) -> Mapping[str, float] | None:
        """R1 + R2 in Ω of each point with conductors at their working temperature."""
        if self.cold is None:
            return None
        factors = {
            self.rulebook.hot_factor(leg.cable or self.circuit.cable, conductor)
            for leg in joined_legs(self.graph)
            for conductor in CONDUCTORS
        }
        if len(factors) == 1:
            # One factor for all: the network's answer scales with it.
            (factor,) = factors
            return {point: ohm * factor for point, ohm in self.cold.joined_ohm.items()}
        hot = hot_cores(self.rulebook, self.graph, self.cores_ohm)
        return resistances(self.graph, self.shape, hot, self.open_cores).joined_ohm

    @cached_property
    def demand(self) -> Demand | None:
        """The design current and where it is drawn."""
        rating = self.circuit.device.rating_a if self.protection is None else self.protection.rating_a
        return demand(self.rulebook, self.circuit, self.graph, self.shape.is_ring, rating, self._farthest)

    def _farthest(self, points: list[str]) -> str:
        """Return the point with the most line resistance; of several alike the first by name, however drawn."""
        ordered = sorted(points, key=by_name)
        if self.cold is None:
            return max(ordered, key=lambda point: self.graph.distance[point])
        line = self.cold.r1_ohm
        # A hair of binary rounding does not make one point farther than its like.
        return max(ordered, key=lambda point: round(line[point], 9))

    @property
    def shares_current(self) -> bool:
        """Whether some loop shares the current, so that the tabulated mV/A/m alone gives no answer."""
        return bool(self.graph.loop_legs)

    @cached_property
    def flow(self) -> Flow | None:
        """Currents and voltage drops under the demand, with Ct where the circuit asks for it.

        How a loop shares its current depends a little on Ct, and Ct on the current: solved in rounds until they
        agree. In an open run the first round is exact.
        """
        full = self._drop_ohm
        if full is None or self.demand is None:
            return None
        found = flow(self.graph, full, self.demand.at_points)
        if not self.circuit.drop_with_ct:
            return self._no_worse_than_opened(found, full)
        ct: dict[str, float] = dict.fromkeys(full, 1.0)
        for _ in range(_MOST_ROUNDS):
            before, ct = ct, {leg_id: self._leg_ct(leg_id, found.leg_a[leg_id]) for leg_id in full}
            cooled = {leg_id: (line * ct[leg_id], neutral * ct[leg_id]) for leg_id, (line, neutral) in full.items()}
            found = replace(flow(self.graph, cooled, self.demand.at_points), ct=ct)
            if settled(before, ct):
                break
        return found

    def _no_worse_than_opened(self, found: Flow, full: Mapping[str, tuple[float, float]]) -> Flow:
        """Hold a ring's drops to what the table gives for it opened at the board, where the network's drop more.

        The table's figures are rounded: for 4 and 6 mm² they lie a hair under the hot conductors of the network.
        """
        table = self._table_ohm if self.shape.is_ring else None
        if table is None or self.demand is None or all(sum(full[leg]) <= sum(table[leg]) for leg in full):
            return found
        least = least_opened_drop_v(self.graph, self.shape, table, self.demand.at_points)
        opened = {point: leg for point, (drop, leg) in least.items() if drop < found.drop_v[point]}
        drops = {point: least[point][0] if point in opened else drop for point, drop in found.drop_v.items()}
        return replace(found, drop_v=drops, opened=opened)

    @cached_property
    def _drop_ohm(self) -> Mapping[str, tuple[float, float]] | None:
        """Line and neutral of each leg in Ω at the insulation's limit; None where a figure is missing.

        Without loops each leg has its tabulated mV/A/m. Where a loop shares the current, the conductors are taken
        at their working temperature.
        """
        if self.cold is None:
            return None
        if self.shares_current:
            hot = hot_cores(self.rulebook, self.graph, self.cores_ohm)
            return {leg.id: (hot[leg.id]["L"], hot[leg.id]["N"]) for leg in joined_legs(self.graph)}
        return self._table_ohm

    @cached_property
    def _table_ohm(self) -> Mapping[str, tuple[float, float]] | None:
        """The tabulated mV/A/m of each leg as Ω, half in each conductor; None where a size is not listed."""
        ohm: dict[str, tuple[float, float]] = {}
        for leg in joined_legs(self.graph):
            each = self.rulebook.volt_drop_mv_per_a_m(leg.cable or self.circuit.cable, self.phases)
            if each is None:
                return None
            ohm[leg.id] = (each * (leg.length_m or 0.0) / 2000,) * 2
        return ohm

    def _leg_ct(self, leg_id: str, current_a: float) -> float:
        leg = self.graph.legs[leg_id]
        return leg_ct(leg, leg.cable or self.circuit.cable, self.capacities[leg_id], current_a)

    # Capacity and fuses

    @cached_property
    def capacities(self) -> Mapping[str, tuple[Capacity, ...]]:
        """Iz of every segment of every joined leg.

        Cf fits a slow BS 3036 fuse to the cable it guards; the ring's 20 A is the cable's own, whatever the fuse.
        """
        device = self.protection or self.circuit.device
        semi = self.rulebook.devices[device.standard].semi_enclosed and not self.by_ring_rule
        loaded = 2 if self.phases == 1 else 3
        return {
            leg.id: tuple(
                segment_capacity(
                    self.rulebook, self.circuit, leg, index, semi and leg.id not in self.fused, loaded=loaded
                )
                for index in range(len(leg.segments))
            )
            for leg in joined_legs(self.graph)
        }

    @cached_property
    def fused(self) -> Mapping[str, Point]:
        """Legs that lie behind a fused spur, each with the last fused spur before it."""
        behind: dict[str, Point] = {}
        spurs = [point for point in self.circuit.points if point.kind == "fused-spur"]
        # Nearest to the board first, so that a later fuse takes over what lies behind it.
        for point in sorted(spurs, key=lambda each: self.graph.distance.get(each.id, 0)):
            if point.id in self.graph.distance:
                behind.update(dict.fromkeys(self.graph.beyond(point.id), point))
        return behind

    def fuse_before(self, point_id: str) -> Point | None:
        """Return the fused spur that a point lies behind, if any."""
        for leg in self.graph.at[point_id]:
            fuse = self.fused.get(leg.id)
            if fuse is not None and fuse.id != point_id:
                return fuse
        return None

    # What stands ahead

    @cached_property
    def protection(self) -> Device | None:
        """The device that protects the circuit's cable: its own, else the nearest ahead that can.

        A switch-disconnector protects nothing: then the last device ahead that can, then the main fuse;
        None where the main fuse is not known.
        """
        for device in (self.circuit.device, *(ahead.device for ahead in reversed(self.circuit.ahead))):
            if device is not None and self.rulebook.devices[device.standard].overload_protection:
                return device
        return self.main_fuse

    @property
    def main_fuse(self) -> Device | None:
        """The distributor's fuse as a device; None where it is not known."""
        fuse = self.supply.main_fuse
        if fuse.rating_a is None or fuse.standard == "unknown":
            return None
        return Device(standard=fuse.standard, curve=None, rating_a=fuse.rating_a, rcd=self.circuit.device.rcd)

    @property
    def behind_switch(self) -> bool:
        """Whether the circuit's own device only switches."""
        return not self.rulebook.devices[self.circuit.device.standard].overload_protection

    @cached_property
    def feeds(self) -> tuple[Feed, ...]:
        """The feed cables between the origin and the circuit's device, each with what protects it."""
        return feeds_of(self.rulebook, self.circuit, self.main_fuse)

    @cached_property
    def feed_loop_ohm(self) -> float | None:
        """Line and cpc of the feeds in Ω, hot; None where a size is not listed."""
        total = 0.0
        for feed in self.feeds:
            ohm = hot_loop_ohm(self.rulebook, feed.cable, feed.length_m)
            if ohm is None:
                return None
            total += ohm
        return total

    @cached_property
    def feed_drop_v(self) -> float | None:
        """Voltage drop in the feeds in V, by the table, for their stated current or else Ib."""
        total = 0.0
        for feed in self.feeds:
            each = self.rulebook.volt_drop_mv_per_a_m(feed.cable, self.phases)
            current = self.feed_current_a(feed)
            if each is None or current is None:
                return None
            total += each * current * feed.length_m / 1000
        return total

    def feed_current_a(self, feed: Feed) -> float | None:
        """Return the current in A of a feed: as stated for all it feeds, else this circuit's Ib."""
        if feed.stated_a is not None:
            return feed.stated_a
        return self.demand.ib_a if self.demand else None

    # Supply

    @property
    def earthing(self) -> str | None:
        """The earthing system that serves this circuit: an electrode of its own makes it TT."""
        return "TT" if self.circuit.own_earth is not None else self.supply.earthing

    @property
    def ze_ohm(self) -> float | None:
        """The loop outside this circuit in Ω, at its board: Ze as surveyed or assumed, and the feeds' loop.

        With an electrode of its own, that electrode's resistance. None where it is not known.
        """
        if self.circuit.own_earth is not None:
            return self.circuit.own_earth.electrode_ohm
        origin = self.origin_ze_ohm
        return None if origin is None or self.feed_loop_ohm is None else origin + self.feed_loop_ohm

    @property
    def origin_ze_ohm(self) -> float | None:
        """Ze in Ω at the origin: as surveyed, or what the rulebook lets one assume of such a supply."""
        if self.supply.ze_ohm is not None:
            return self.supply.ze_ohm
        return self.rulebook.data.supply.assumed_ze_ohm.get(self.supply.earthing or "")

    @property
    def fault_current_ka(self) -> float | None:
        """Prospective fault current in kA at the origin: surveyed, or the greatest that may be declared."""
        return self.supply.fault_current_ka or self.rulebook.data.supply.assumed_fault_current_ka

    @cached_property
    def feed_fault_ohm(self) -> float | None:
        """The least resistance in Ω that the feeds put in the way of a fault, cold; None where a size is not listed.

        Between the lines of three phases only one conductor counts; else a line and the better way back.
        """
        total = 0.0
        for feed in self.feeds:
            line, *back = (core_ohm(self.rulebook, feed.cable, each, feed.length_m) for each in CONDUCTORS)
            if line is None:
                return None
            ways = [0.0] if self.supply.phases == 3 else [ohm for ohm in back if ohm is not None]
            total += line + min(ways, default=0.0)
        return total

    @cached_property
    def board_fault_current_ka(self) -> float | None:
        """Prospective fault current in kA at the circuit's own board, behind the feeds: no less than the true one.

        I = U0 / √((U0 / I0)² + R²): the source taken as a reactance and the feed, cold, as a resistance, which
        is the least that the two together can be. None where a feed's size is not listed.
        """
        origin = self.fault_current_ka
        if origin is None or not self.feeds:
            return origin
        if self.feed_fault_ohm is None:
            return None
        u0 = self.rulebook.u0_v
        return u0 / hypot(u0 / (origin * 1000), self.feed_fault_ohm) / 1000

    # Words

    def clause(self, key: str) -> Clause:
        """Return a clause of the rulebook in force."""
        return self.rulebook.clause(key)

    def point_place(self, point_id: str) -> Place:
        """Return a point as a place."""
        return Place(kind="point", id=point_id, name=self.circuit.point_title(point_id))

    def leg_place(self, leg_id: str, segment: int | None = None) -> Place:
        """Return a leg, or one segment of it where it has several, as a place."""
        leg: Leg = self.graph.legs[leg_id]
        name = self.circuit.leg_title(leg)
        if segment is None or len(leg.segments) == 1:
            return Place(kind="leg", id=leg_id, name=name)
        return Place(kind="segment", id=leg_id, name=f"{name}, segment {segment + 1}")

    @property
    def whole(self) -> Place:
        """The circuit itself as a place."""
        return Place(kind="circuit", id=BOARD, name=self.circuit.name)


def _no_resistance(context: Context, cable: Cable, conductor: str) -> str:
    """Return why a core's resistance cannot be told."""
    if conductor == "E" and cable.cpc_by == "armour":
        return f"armour of {cable.cores} × {plain(cable.csa_mm2)} mm² is not listed: use its maker's figure"
    if conductor == "E" and cable.cpc_by == "conduit":
        return "resistance of the conduit per metre, from its maker"
    csa = context.rulebook.cpc_mm2(cable) if conductor == "E" else cable.csa_mm2
    return "no usual cpc" if csa is None else f"{plain(csa)} mm² is not a listed size"
