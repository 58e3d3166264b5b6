"""The figures of a circuit, all read off its conductor network."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from lumbek.core.circuit.graph import CircuitGraph
from lumbek.core.circuit.shape import Shape
from lumbek.core.model.circuit import BOARD, Leg
from lumbek.core.network.expand import Conductor, Ends, OpenCore, Terminal, expand, terminal
from lumbek.core.network.solver import OPEN, Network, Solution
from lumbek.core.rulebooks import Rulebook

CoresOhm = Mapping[str, Mapping[Conductor, float]]


@dataclass(frozen=True)
class RingReadings:
    """What a ring reads: end to end in Ω, and cross-joined at each point."""

    r1_ohm: float
    rn_ohm: float
    r2_ohm: float
    cross_ln_ohm: Mapping[str, float]
    cross_le_ohm: Mapping[str, float]
    own_ends_ln_ohm: Mapping[str, float]


@dataclass(frozen=True)
class Resistances:
    """Resistances in Ω from the board to each reached point; infinite where a core is broken.

    `joined` is what a tester at the board reads with line and cpc linked at the point: R1 + R2.
    """

    r1_ohm: Mapping[str, float]
    rn_ohm: Mapping[str, float]
    r2_ohm: Mapping[str, float]
    joined_ohm: Mapping[str, float]
    ring: RingReadings | None = None


@dataclass(frozen=True)
class Flow:
    """Currents and drops: line current in each leg in A (from its end a to b), drop to each point in V.

    `ct` holds each leg's Ct where the drop is worked out with it. `opened` names, for points of a ring whose drop is
    that of the table for the opened run, the leg it is opened at.
    """

    leg_a: Mapping[str, float] = field(default_factory=dict)
    drop_v: Mapping[str, float] = field(default_factory=dict)
    ct: Mapping[str, float] = field(default_factory=dict)
    opened: Mapping[str, str] = field(default_factory=dict)


def joined_legs(graph: CircuitGraph) -> list[Leg]:
    """Return the legs that the board reaches."""
    return [leg for leg in graph.legs.values() if leg.a in graph.distance]


def resistances(
    graph: CircuitGraph,
    shape: Shape,
    cores_ohm: CoresOhm,
    open_cores: frozenset[OpenCore] = frozenset(),
) -> Resistances:
    """Return every resistance figure of a circuit from its network, for cores in Ω at one temperature."""
    legs = joined_legs(graph)
    points = [point for point in graph.distance if point != BOARD]
    solved = expand(legs, cores_ohm, open_cores=open_cores).solve()
    to_board = {
        conductor: {
            point: solved.ohm_between(terminal(conductor, BOARD), terminal(conductor, point)) for point in points
        }
        for conductor in ("L", "N", "E")
    }
    joined = {
        point: solved.ohm_between_when_joined(
            terminal("L", BOARD), terminal("E", BOARD), terminal("L", point), terminal("E", point)
        )
        for point in points
    }
    ring = _ring_readings(graph, shape, cores_ohm, open_cores, points) if shape.is_ring else None
    return Resistances(to_board["L"], to_board["N"], to_board["E"], joined, ring)


def _ring_readings(
    graph: CircuitGraph,
    shape: Shape,
    cores_ohm: CoresOhm,
    open_cores: frozenset[OpenCore],
    points: list[str],
) -> RingReadings:
    legs = joined_legs(graph)
    first, last = shape.ring_legs[0], shape.ring_legs[-1]

    def solved(ends: Ends) -> Solution[Terminal]:
        return expand(legs, cores_ohm, ends, (first, last), open_cores).solve()

    opened = solved(Ends.OPEN)
    r1, rn, r2 = (
        opened.ohm_between(terminal(conductor, BOARD, first), terminal(conductor, BOARD, last))
        for conductor in ("L", "N", "E")
    )

    def across(ends: Ends, other: Conductor) -> dict[str, float]:
        joined = solved(ends)
        return {point: joined.ohm_between(terminal("L", point), terminal(other, point)) for point in points}

    return RingReadings(
        r1_ohm=r1,
        rn_ohm=rn,
        r2_ohm=r2,
        cross_ln_ohm=across(Ends.CROSSED_LN, "N"),
        cross_le_ohm=across(Ends.CROSSED_LE, "E"),
        own_ends_ln_ohm=across(Ends.OWN_LN, "N"),
    )


def hot_cores(rulebook: Rulebook, graph: CircuitGraph, cores_ohm: CoresOhm) -> CoresOhm:
    """Return the cores at their working temperature: 20 °C resistance times 1.20 or 1.28."""
    circuit = graph.circuit
    hot = {}
    for leg_id, cores in cores_ohm.items():
        cable = graph.legs[leg_id].cable or circuit.cable
        hot[leg_id] = {conductor: ohm * rulebook.hot_factor(cable, conductor) for conductor, ohm in cores.items()}
    return hot


def flow(
    graph: CircuitGraph, resistance_ohm: Mapping[str, tuple[float, float]], at_points: Mapping[str, float]
) -> Flow:
    """Return currents and drops for loads in A at points, with (line, neutral) Ω of each leg.

    Loads are constant currents; the current that leaves by the line at a point returns by its neutral.
    """
    network: Network[Terminal] = Network()
    for conductor in ("L", "N"):
        network.node(terminal(conductor, BOARD))
    legs = joined_legs(graph)
    line_branch = {}
    for leg in legs:
        line, neutral = resistance_ohm[leg.id]
        line_branch[leg.id] = network.join(terminal("L", leg.a), terminal("L", leg.b), line)
        network.join(terminal("N", leg.a), terminal("N", leg.b), neutral)
    if not legs:
        return Flow()
    solved = network.solve()
    injected = {}
    for point, ampere in at_points.items():
        injected[terminal("L", point)] = -ampere
        injected[terminal("N", point)] = ampere
    volts = solved.potentials_v(injected)
    currents = solved.branch_currents_a(volts)
    return Flow(
        leg_a={leg_id: float(currents[branch]) for leg_id, branch in line_branch.items()},
        drop_v={
            point: solved.potential_of(volts, terminal("N", point)) - solved.potential_of(volts, terminal("L", point))
            for point in graph.distance
            if point != BOARD
        },
    )


def is_open(ohm: float) -> bool:
    """Whether a reading is of an open circuit."""
    return ohm == OPEN
