"""A circuit in its job with definite lengths: its parts, each worked out when first asked for, and kept."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

from lumbek.core.circuit.graph import CircuitGraph, graph_of
from lumbek.core.circuit.shape import Shape, recognise
from lumbek.core.circuit.standing import Standing
from lumbek.core.judging.check import Clause, Place
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.device import Rcd
from lumbek.core.model.leg import BOARD, Leg
from lumbek.core.model.point import Point
from lumbek.core.model.supply import Supply
from lumbek.core.network.wiring import IN_SERVICE, Setup
from lumbek.core.rulebooks import Rulebook
from lumbek.core.sizing.capacity import Capacity, capacities_of
from lumbek.core.study.ahead import AheadOf
from lumbek.core.study.currents import Currents
from lumbek.core.study.evidence import Evidence
from lumbek.core.study.fused import FusedSpurs
from lumbek.core.study.read import NOT_READ, Read
from lumbek.core.study.residual import RcdOnTheWay, rcds_of
from lumbek.core.study.wires import Wires


@dataclass(frozen=True)
class Study:
    """One circuit on one supply under one rulebook, every length settled. Made by `study_of`, and nowhere else."""

    rulebook: Rulebook
    supply: Supply
    circuit: Circuit
    as_found: Setup = IN_SERVICE
    # What was read of it; None where its design is judged by the drawing alone.
    read: Read | None = None

    # Limits of Zs found so far, by device: filled by the room that knows how.
    zs_limits: dict[tuple[str, float] | None, Any] = field(default_factory=dict, compare=False, repr=False)

    # What it is

    @cached_property
    def graph(self) -> CircuitGraph:
        """How its points and legs are joined, by their names."""
        return graph_of(self.circuit)

    @cached_property
    def points(self) -> Mapping[str, Point]:
        """Its points by name."""
        return {point.id: point for point in self.circuit.points}

    @cached_property
    def legs(self) -> Mapping[str, Leg]:
        """Its legs by name, in the graph's order."""
        legs = {leg.id: leg for leg in self.circuit.legs}
        return {name: legs[name] for name in self.graph.legs}

    @cached_property
    def shape(self) -> Shape:
        """What the circuit really is."""
        return recognise(self.graph)

    @cached_property
    def standing(self) -> Standing:
        """What stands at its points."""
        return Standing(self.circuit, self.rulebook.kinds[self.circuit.kind])

    @cached_property
    def rcds(self) -> tuple[RcdOnTheWay, ...]:
        """The RCDs on the way from the origin to it."""
        return rcds_of(self.circuit)

    @property
    def known_rcds(self) -> tuple[Rcd, ...]:
        """Those RCDs of which something is known."""
        return tuple(each.rcd for each in self.rcds if each.rcd is not None)

    @property
    def phases(self) -> int:
        """How many lines the circuit's loads are shared by."""
        return self.rulebook.kinds[self.circuit.kind].phases

    @cached_property
    def is_socket_ring(self) -> bool:
        """Whether the ring rule applies: a ring of socket-outlets or fused units."""
        return self.shape.is_ring and bool(self.standing.ring_outlets)

    @cached_property
    def by_ring_rule(self) -> bool:
        """Whether the cable is held to the ring's own 20 A instead of the device's rating (433.1.204).

        Only behind an overcurrent device of a ring's rating, or a lesser one: a switch is none.
        """
        device = self.ahead.protection
        return self.is_socket_ring and device is not None and device.rating_a in self.rulebook.data.ring.ratings_a

    # Its parts

    @cached_property
    def wires(self) -> Wires:
        """The conductors, and what reads on them."""
        return Wires(self.rulebook, self.circuit, self.graph, self.legs, self.shape, self.as_found)

    @cached_property
    def evidence(self) -> Evidence:
        """What its readings prove of it, beside what is drawn."""
        read = (self.read or NOT_READ).at(self.graph.distance)
        return Evidence(self.rulebook, self.graph, self.shape, self.wires, self.ahead, read)

    @cached_property
    def asked_points(self) -> tuple[str, ...]:
        """The points that Zs and drop are asked at: all; of a circuit that is altered the new ones, if any."""
        reached = self.wires.points
        if self.circuit.state != "altered":
            return tuple(reached)
        return tuple(point for point in reached if self.points[point].state == "new") or tuple(reached)

    @cached_property
    def ahead(self) -> AheadOf:
        """What stands between the supply and the circuit."""
        return AheadOf(self.rulebook, self.supply, self.circuit)

    @cached_property
    def fused(self) -> FusedSpurs:
        """What lies behind fused spurs."""
        return FusedSpurs(self.circuit, self.graph)

    @cached_property
    def capacities(self) -> Mapping[str, tuple[Capacity, ...]]:
        """Iz of every segment of every joined leg.

        Cf fits a slow BS 3036 fuse to the cable it guards; the ring's 20 A is the cable's own, whatever the fuse.
        """
        device = self.ahead.protection or self.circuit.device
        semi = self.rulebook.devices[device.standard].semi_enclosed and not self.by_ring_rule
        loaded = 2 if self.phases == 1 else 3
        return capacities_of(
            self.rulebook, self.circuit, self.wires.legs, lambda leg: semi and leg.id not in self.fused.legs, loaded
        )

    def least_iz_a(self, leg_id: str) -> float:
        """Return Iz in A of a leg: that of its worst segment, 0 where one has none in the tables."""
        return min(each.iz_a or 0.0 for each in self.capacities[leg_id])

    @cached_property
    def currents(self) -> Currents:
        """What it carries, and what that costs in volts."""
        return Currents(self.rulebook, self.wires, self.ahead, self.capacities, self.phases)

    # Words

    @cached_property
    def _names(self) -> Mapping[str, str]:
        """The points as a leg is called by them, without their rooms."""
        return {BOARD: "the board", **{point.id: point.name or point.id for point in self.circuit.points}}

    def leg_title(self, leg_id: str) -> str:
        """Return how a person would name a leg: by the points it joins."""
        leg = self.legs[leg_id]
        return f"{self._names[leg.a]} to {self._names[leg.b]}"

    def clause(self, key: str) -> Clause:
        """Return a clause of the rulebook in force."""
        return self.rulebook.clause(key)

    def point_place(self, point_id: str) -> Place:
        """Return a point as a place."""
        return Place(kind="point", id=point_id, name=self.circuit.point_title(point_id))

    def leg_place(self, leg_id: str, segment: int | None = None) -> Place:
        """Return a leg, or one segment of it where it has several, as a place."""
        leg = self.legs[leg_id]
        name = self.leg_title(leg_id)
        if segment is None or len(leg.segments) == 1:
            return Place(kind="leg", id=leg_id, name=name)
        return Place(kind="segment", id=leg_id, name=f"{name}, segment {segment + 1}")

    @property
    def whole(self) -> Place:
        """The circuit itself as a place."""
        return Place(kind="circuit", id=BOARD, name=self.circuit.name)
