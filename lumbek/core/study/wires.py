"""The conductors of a circuit and what reads on them, worked out when first asked for."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cached_property

from lumbek.core.circuit.graph import CircuitGraph
from lumbek.core.circuit.shape import Shape
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD, Leg
from lumbek.core.model.point import Point
from lumbek.core.model.terminals import CONDUCTORS
from lumbek.core.network.feeding import Fed, feeding, switched_on
from lumbek.core.network.flows import Resistances, resistances
from lumbek.core.network.measure import Wired
from lumbek.core.network.wiring import ALONE, IN_SERVICE, CoresOhm, Node, Setup, Wiring, expand, node
from lumbek.core.numbers import plain
from lumbek.core.rulebooks import Rulebook
from lumbek.core.study.resistance import core_ohm


@dataclass(frozen=True)
class Wires:
    """The legs that the board reaches, their cores in Ω, and the readings that follow.

    `drawn` are its legs by name, `said` breaks and links that the drawing does not show.
    """

    rulebook: Rulebook
    circuit: Circuit
    graph: CircuitGraph
    drawn: Mapping[str, Leg]
    shape: Shape
    said: Setup = IN_SERVICE

    @cached_property
    def without_cpc(self) -> tuple[str, ...]:
        """The legs whose cable has no cpc."""
        if not any(has_no_cpc(cable) for cable in self._cables):
            return ()
        return tuple(leg.id for leg in self.legs if has_no_cpc(self.cable_of(leg)))

    @cached_property
    def parted(self) -> bool:
        """Whether line and neutral go separate ways somewhere: a way of legs is no loop of both then."""
        return any(cable.lone is not None for cable in self._cables)

    @cached_property
    def as_found(self) -> Setup:
        """How the network stands: as said, and a cpc that is not there is a cpc with a break."""
        if not self.without_cpc:
            return self.said
        broken = self.said.broken | {(ALONE, leg, "E") for leg in self.without_cpc}
        return self.said._replace(broken=broken)

    @cached_property
    def legs(self) -> tuple[Leg, ...]:
        """The legs that the board reaches, in the order of their names."""
        return tuple(leg for leg in self.drawn.values() if leg.a in self.graph.distance)

    @cached_property
    def cables(self) -> frozenset[Cable]:
        """The sorts of cable that these legs are."""
        return frozenset(map(self.cable_of, self.legs))

    def cable_of(self, leg: Leg) -> Cable:
        """Return the cable of a leg."""
        return self.circuit.cable_of(leg)

    @cached_property
    def unknown_lengths(self) -> tuple[str, ...]:
        """What stands in the way of the network: legs without a length, sizes without a resistance."""
        circuit, missing = self.circuit, list[str]()
        if all(leg.length_m is not None for leg in self.legs) and all(self._listed(cable) for cable in self._cables):
            return ()
        for leg in self.legs:
            if leg.length_m is None:
                missing.append(f"length of {circuit.leg_title(leg)}")
                continue
            cable = self.cable_of(leg)
            for core in _cores_of(cable):
                if core_ohm(self.rulebook, cable, core, leg.length_m) is None:
                    missing.append(f"cable of {circuit.leg_title(leg)}: {_no_resistance(self.rulebook, cable, core)}")
                    break
        return tuple(missing)

    @cached_property
    def _cables(self) -> tuple[Cable, ...]:
        """The cables of the joined legs, each once."""
        return tuple(dict.fromkeys([self.circuit.cable, *(leg.cable for leg in self.legs if leg.cable)]))

    def _listed(self, cable: Cable) -> bool:
        return all(self.rulebook.milliohm_per_m(cable, core) is not None for core in _cores_of(cable))

    @cached_property
    def cores_ohm(self) -> CoresOhm:
        """Cores of every joined leg in Ω at 20 °C; ask only where `unknown_lengths` is empty.

        A cpc that is not there has a line's figure: it is broken in every reading, and carries nothing in service.
        """
        book = self.rulebook

        def milliohm_per_m(cable: Cable, core: str) -> float:
            return book.milliohm_per_m(cable, "L" if core == "E" and has_no_cpc(cable) else core) or 0.0

        per_m = self._by_core(milliohm_per_m)
        return {
            leg.id: {core: each * (leg.length_m or 0.0) / 1000 for core, each in per_m[leg.id].items()}
            for leg in self.legs
        }

    @cached_property
    def hot_ohm(self) -> CoresOhm:
        """The cores at their working temperature: 20 °C resistance times the factor of their insulation."""
        factors = self._by_core(self.rulebook.hot_factor)
        return {
            leg_id: {core: ohm * factors[leg_id][core] for core, ohm in cores.items()}
            for leg_id, cores in self.cores_ohm.items()
        }

    def _by_core(self, figure: Callable[[Cable, str], float]) -> Mapping[str, Mapping[str, float]]:
        """Return a figure for each core of every joined leg, asked for once a cable and not once a leg."""
        each = {cable: {core: figure(cable, core) for core in cable.core_names} for cable in self._cables}
        usual = each[self.circuit.cable]
        return {leg.id: each[leg.cable] if leg.cable else usual for leg in self.legs}

    @cached_property
    def wiring(self) -> Wiring:
        """The network of the joined legs, for all that is worked out of this circuit."""
        return expand(self.circuit, self.legs)

    @cached_property
    def wired(self) -> Wired | None:
        """The network with its cores at 20 °C, to be measured on; None while something is unknown."""
        if self.unknown_lengths or self.shape.kind == "empty":
            return None
        return Wired(self.wiring, self.wiring.ohms(self.cores_ohm))

    @cached_property
    def cold(self) -> Resistances | None:
        """Resistances at 20 °C, or None while something is unknown."""
        return None if self.wired is None else self._read(self.wired)

    @cached_property
    def hot_joined_ohm(self) -> Mapping[str, float] | None:
        """R1 + R2 in Ω of each point with conductors at their working temperature."""
        if self.cold is None:
            return None
        factors = {self.rulebook.hot_factor(cable, core) for cable in self._cables for core in CONDUCTORS}
        if len(factors) == 1:
            # One factor for all: the network's answer scales with it.
            (factor,) = factors
            return {point: ohm * factor for point, ohm in self.cold.joined_ohm.items()}
        return self._read(Wired(self.wiring, self.wiring.ohms(self.hot_ohm))).joined_ohm

    @cached_property
    def fed(self) -> Mapping[str, Fed]:
        """For each point behind a switch: where its line is while it is on, and how the switches stand then.

        Nothing where every point has its line plainly.
        """
        if not self.wiring.contacts:
            return {}
        wanted = {point: _lines_of(self.circuit.point(point)) for point in self.points}
        return feeding(self.wiring, node("L", BOARD), wanted, self.as_found)

    def switched_on(self, point: str) -> tuple[Setup, Node | None]:
        """Return how the network stands while a point is read, and where its line is, switched as a test asks."""
        return switched_on(self.fed, point, self.as_found)

    @property
    def points(self) -> list[str]:
        """The points that the board reaches."""
        return [point for point in self.graph.distance if point != BOARD]

    @property
    def ring_ends(self) -> tuple[str, str] | None:
        """The first and last leg of the ring, where there is one."""
        return (self.shape.ring_legs[0], self.shape.ring_legs[-1]) if self.shape.is_ring else None

    def _read(self, wired: Wired) -> Resistances:
        return resistances(wired, self.points, self.ring_ends, self.as_found, self.fed)


def _lines_of(point: Point) -> tuple[Node, ...]:
    """Return the terminals of a point that may hold its line: those of its loads, its own, those of its gangs."""
    loads = (load.line for load in point.loads)
    gangs = (terminal for accessory in point.accessories for terminal in accessory.terminals)
    switches = (
        end for switch in point.switches for pairs in switch.positions for pair in pairs for end in (pair.a, pair.b)
    )
    return tuple(node(name, point.id) for name in dict.fromkeys((*loads, "L", *gangs, *switches)))


def _cores_of(cable: Cable) -> tuple[str, ...]:
    """Return the conductors of a circuit that a cable has: without a cpc only the live ones."""
    return tuple(core for core in cable.core_names if core in CONDUCTORS and not (core == "E" and has_no_cpc(cable)))


def has_no_cpc(cable: Cable) -> bool:
    """Whether it is known that no conductor of a cable can be its cpc."""
    return cable.earth_by == "none" or cable.lacks_core


def _no_resistance(rulebook: Rulebook, cable: Cable, core: str) -> str:
    """Return why a core's resistance cannot be told."""
    if core == "E" and cable.earth_by is None:
        return "what its cpc is: a core, or the armour"
    if core == "E" and cable.earth_by == "armour":
        return f"armour of {cable.cores} × {plain(cable.csa_mm2)} mm² is not listed: use its maker's figure"
    if core == "E" and cable.earth_by == "conduit":
        return "size and gauge of the conduit, or its resistance per metre"
    csa = rulebook.cpc_mm2(cable) if core == "E" else cable.csa_mm2
    return "no usual cpc" if csa is None else f"{plain(csa)} mm² is not a listed size"
