"""The figures of a circuit, all read off its one conductor network."""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from lumbek.core.model.leg import BOARD
from lumbek.core.model.terminals import CONDUCTORS
from lumbek.core.network.feeding import Fed, switched_on
from lumbek.core.network.measure import Measurement, Wired, measure, measure_at
from lumbek.core.network.readings import crossed, end_to_end, one_way, own_ends, r1_plus_r2
from lumbek.core.network.solver import OPEN, Solution
from lumbek.core.network.wiring import ALONE, IN_SERVICE, CoresOhm, Node, Setup, Wiring, node

# Where no switch stands between the board and any point.
NOTHING_SWITCHED: Mapping[str, Fed] = {}


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


def resistances(
    wired: Wired,
    points: list[str],
    ring: tuple[str, str] | None,
    as_found: Setup = IN_SERVICE,
    fed: Mapping[str, Fed] = NOTHING_SWITCHED,
) -> Resistances:
    """Return what reads at these points; `ring` names the first and last leg of a ring, `as_found` its breaks.

    `fed` says of points behind switches where their line is, and how the switches stand for them.
    """

    here = points[0] if points else BOARD

    def everywhere(reading: Measurement) -> dict[str, float]:
        return dict(zip(points, measure_at(wired, reading, here, points), strict=True))

    def switched(how: Callable[[str, Setup, Node | None], Measurement]) -> dict[str, float]:
        if not fed:
            return everywhere(how(here, as_found, None))
        return {point: measure(wired, how(point, *switched_on(fed, point, as_found))) for point in points}

    return Resistances(
        r1_ohm=switched(lambda *at: one_way("L", *at)),
        rn_ohm=everywhere(one_way("N", here, as_found)),
        r2_ohm=everywhere(one_way("E", here, as_found)),
        joined_ohm=switched(r1_plus_r2),
        ring=None
        if ring is None
        else RingReadings(
            r1_ohm=measure(wired, end_to_end(ring, "L", as_found)),
            rn_ohm=measure(wired, end_to_end(ring, "N", as_found)),
            r2_ohm=measure(wired, end_to_end(ring, "E", as_found)),
            cross_ln_ohm=everywhere(crossed(ring, "N", here, as_found)),
            cross_le_ohm=everywhere(crossed(ring, "E", here, as_found)),
            own_ends_ln_ohm=everywhere(own_ends(ring, here, as_found)),
        ),
    )


def flow(
    wiring: Wiring,
    cores_ohm: CoresOhm,
    at_points: Mapping[str, float],
    points: Iterable[str],
    without: str = "",
    like: tuple[Solution[Node], float] | None = None,
    fed: Mapping[str, Fed] = NOTHING_SWITCHED,
) -> Flow:
    """Return currents and drops for loads in A at points, with the cores of each leg in Ω.

    Loads are constant currents; the current that leaves by the line at a point returns by its neutral. A load whose
    line or neutral does not reach the board draws none. `without` names a leg that is taken out. Behind switches
    (`fed`) a leg's current is that of the core which carries most, with everything on; where no one state of the
    switches feeds all, each figure is the worst of several. `like` is the network solved already, with line and neutral
    of every leg in one proportion to `cores_ohm`: then nothing is solved again (Ohm's law).
    """
    if not wiring.branches:
        return Flow()
    if fed:
        return _switched(wiring, wiring.ohms(cores_ohm), at_points, points, fed)
    setup, branches = IN_SERVICE, wiring.branches
    if without:
        broken = frozenset((ALONE, without, core) for core in CONDUCTORS)
        setup, branches = Setup(broken=broken), tuple(each for each in branches if each not in broken)
    solved, scale = (wiring.solve(wiring.ohms(cores_ohm), setup), 1.0) if like is None or without else like
    line_in, neutral_in = node("L", BOARD), node("N", BOARD)
    ends = {point: (node("L", point), node("N", point)) for point in points}
    on = [
        point
        for point, (line, neutral) in ends.items()
        if solved.joined(line_in, line) and solved.joined(neutral_in, neutral)
    ]
    injected = {}
    for point in on:
        ampere = at_points.get(point)
        if ampere is not None:
            line, neutral = ends[point]
            injected[line], injected[neutral] = -ampere, ampere
    volts = solved.potentials_v(injected)
    level = solved.potentials_of(volts, [each for point in on for each in ends[point]])
    return Flow(
        leg_a=_by_leg(branches, solved.branch_currents_a(volts).tolist()),
        drop_v={point: scale * (level[2 * at + 1] - level[2 * at]) for at, point in enumerate(on)},
    )


def _by_leg(branches: Iterable[tuple[int, str, str]], currents: Sequence[float]) -> dict[str, float]:
    """Return the current of each leg in A, by those of its branches."""
    leg_a: dict[str, float] = {}
    for (_, leg, core), current in zip(branches, currents, strict=True):
        if core == "L":
            leg_a[leg] = current
        elif core == "N":
            # A single that takes the neutral its own way carries what comes back.
            leg_a.setdefault(leg, -current)
    return leg_a


def _switched(
    wiring: Wiring,
    ohms: NDArray[np.float64],
    at_points: Mapping[str, float],
    points: Iterable[str],
    fed: Mapping[str, Fed],
) -> Flow:
    """Return the same behind switches: the worst of every state that some point is on in."""
    lines = {point: fed[point].line if point in fed else node("L", point) for point in points}
    most_a: dict[str, float] = {}
    most_v: dict[str, float] = {}
    for setup in dict.fromkeys((IN_SERVICE, *(each.setup for each in fed.values()))):
        solved = wiring.solve(ohms, setup)
        ends = {point: (line, node("N", point)) for point, line in lines.items()}
        on = [
            point
            for point, (line, neutral) in ends.items()
            if solved.joined(node("L", BOARD), line) and solved.joined(node("N", BOARD), neutral)
        ]
        injected: dict[Node, float] = {}
        for point in on:
            for each, ampere in zip(ends[point], (-at_points.get(point, 0.0), at_points.get(point, 0.0)), strict=True):
                injected[each] = injected.get(each, 0.0) + ampere
        volts = solved.potentials_v(injected)
        level = solved.potentials_of(volts, [each for point in on for each in ends[point]])
        for at, point in enumerate(on):
            most_v[point] = max(most_v.get(point, 0.0), level[2 * at + 1] - level[2 * at])
        for (_, leg, core), current in zip(
            _carrying(wiring, ohms, setup), solved.branch_currents_a(volts), strict=True
        ):
            if core != "E":
                most_a[leg] = max(most_a.get(leg, 0.0), abs(float(current)), key=abs)
    return Flow(leg_a=most_a, drop_v=most_v)


def _carrying(wiring: Wiring, ohms: NDArray[np.float64], setup: Setup) -> list[tuple[int, str, str]]:
    """Return the branches that a solution has a current for: what has 0 Ω is a node to it, what is broken is not."""
    pairs = zip(wiring.branches, ohms, strict=True)
    return [branch for branch, ohm in pairs if ohm and branch not in setup.broken]


def is_open(ohm: float) -> bool:
    """Whether a reading is of an open circuit."""
    return ohm == OPEN
