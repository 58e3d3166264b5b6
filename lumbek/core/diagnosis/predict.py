"""What each hypothesis says that each test would read, and how that goes with what is not known exactly."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lumbek.core.diagnosis.catalogue import Test
from lumbek.core.diagnosis.patient import Patient
from lumbek.core.diagnosis.suspects import Across, Between, FaultChange, Hypothesis, Over, Port, Series
from lumbek.core.network.changed import LEAK_OHM, OPEN_FROM_OHM, Changes, DrawnNetwork, Meters, Places, Reals
from lumbek.core.network.wiring import Laid, Node, Setup

# So many networks are taken together: more would not stay in the processor's own memory.
_AT_ONCE = 128
Flags = NDArray[np.bool_]
# Less than any path has, in S.
_NOTHING = 1e-30


@dataclass(frozen=True)
class Predicted:
    """Low-ohm readings, in Ω: shape (hypotheses, tests), `by_leg` (hypotheses, tests, legs).

    `by_leg` is how a reading changes with each leg's length, as a part of it; `slope` with the logarithm of the
    fault's size; `joints` is the sum of fourth powers of the currents: what scatter of joints makes of it.
    """

    ohm: Reals
    by_leg: Reals
    slope: Reals
    joints: Reals


def predict(
    patient: Patient, hypotheses: Sequence[Hypothesis], tests: Sequence[Test], currents: bool = True
) -> Predicted:
    """Return what low-ohm tests read under each hypothesis.

    Without `currents` nothing is said of legs and joints, which takes a fraction of the time.
    """
    shape = (len(hypotheses), len(tests))
    by_leg = np.zeros((*shape, len(patient.legs) if currents else 0))
    found = Predicted(np.zeros(shape), by_leg, np.zeros(shape), np.zeros(shape))
    by_setup: dict[Setup, list[int]] = {}
    for at, test in enumerate(tests):
        by_setup.setdefault(test.how.setup, []).append(at)
    cases = _Cases(hypotheses)
    for setup, columns in by_setup.items():
        _fill(patient, cases, [tests[at] for at in columns], setup, np.array(columns), found)
    _add_tails(hypotheses, tests, found)
    return found


def _add_tails(hypotheses: Sequence[Hypothesis], tests: Sequence[Test], found: Predicted) -> None:
    """Add what is in series with a terminal to whatever is read at it."""
    through: dict[Node, Flags] = {}
    for row, each in enumerate(hypotheses):
        for terminal, ohm in each.tails:
            if terminal not in through:
                ends = [(*test.how.probes, *(test.how.linked or ())) for test in tests]
                through[terminal] = np.array([terminal in some for some in ends], dtype=np.bool_)
            # All that the meter sends goes through it.
            hit = through[terminal]
            found.ohm[row, hit] = np.clip(found.ohm[row, hit] + ohm, 0.0, 2 * LEAK_OHM)
            found.slope[row, hit] = ohm


def alike(patient: Patient, hypotheses: Sequence[Hypothesis], tests: Sequence[Test]) -> tuple[list[int], Places]:
    """Return the first of all hypotheses that low-ohm tests cannot part, and for each hypothesis which of them it is.

    A path in a cable, behind the accessory where it ends and in the load there is one path to a low-ohm meter, and one
    of more than it can read is none.
    """
    paths = {
        at: each.changes[0]
        for at, each in enumerate(hypotheses)
        if len(each.changes) == 1 and each.paths and not each.tails and each.exchanged is None
    }
    ports = Ports([path.port for path in paths.values()])
    laid = [patient.laid(setup) for setup in dict.fromkeys(test.how.setup for test in tests)]
    nodes = [np.sort(ports.nodes(one), axis=1) for one in laid]
    between = dict(zip(paths, np.concatenate(nodes, axis=1).tolist() if nodes else [[]] * len(paths), strict=True))
    first: dict[object, int] = {}
    rows: list[int] = []
    which = np.zeros(len(hypotheses), dtype=np.intp)
    for at, each in enumerate(hypotheses):
        key: object = at
        if at in paths:
            open_ = paths[at].ohm > OPEN_FROM_OHM
            key = "no path" if open_ else (paths[at].ohm, each.cell_ln, *between[at])
        if key not in first:
            first[key] = len(rows)
            rows.append(at)
        which[at] = first[key]
    return rows, which


def _fill(
    patient: Patient,
    cases: "_Cases",
    tests: Sequence[Test],
    setup: Setup,
    columns: Places,
    found: Predicted,
) -> None:
    laid = patient.laid(setup)
    at = [_exchanged(laid, pair) for pair in cases.exchanged]
    base = DrawnNetwork(laid, patient.ohms, Meters(at, laid.size, [test.how for test in tests]))
    currents = found.by_leg.shape[2] > 0
    for rows, meter, changed in cases.groups:
        every = changed.laid(laid)
        for start in range(0, len(rows), _AT_ONCE):
            some = slice(start, start + _AT_ONCE)
            changes = Changes(every.nodes[some], every.branch[some], every.ohm[some])
            read = base.read(changes, meter[some], currents)
            cells = np.ix_(rows[some], columns)
            found.ohm[cells] = np.clip(read.ohm, 0.0, 2 * LEAK_OHM)
            # No size tells by more than the whole reading, and no branch carries more than the meter sends.
            found.slope[cells] = np.clip(read.slope, 0.0, found.ohm[cells])
            if currents:
                square = np.clip(read.ampere**2, 0.0, 1.0)
                found.by_leg[cells] = square @ patient.leg_rows
                found.joints[cells] = (square**2).sum(axis=2)


class _Cases:
    """Hypotheses by how many changes they are from the drawing, and which terminals are exchanged in each."""

    def __init__(self, hypotheses: Sequence[Hypothesis]) -> None:
        self.exchanged = list(dict.fromkeys(each.exchanged for each in hypotheses))
        number = {pair: at for at, pair in enumerate(self.exchanged)}
        by: dict[int, list[int]] = {}
        for at, each in enumerate(hypotheses):
            by.setdefault(len(each.changes), []).append(at)
        self.groups = [
            (
                np.array(rows, dtype=np.intp),
                np.array([number[hypotheses[at].exchanged] for at in rows], dtype=np.intp),
                _Changed([hypotheses[at].changes for at in rows]),
            )
            for rows in by.values()
        ]


class _Changed:
    """Networks that differ from the drawing in as many changes each."""

    def __init__(self, cases: Sequence[tuple[FaultChange, ...]]) -> None:
        self._shape = (len(cases), len(cases[0]))
        self._ports = Ports([change.port for case in cases for change in case])
        self._ohm = np.array([[change.ohm for change in case] for case in cases], dtype=np.float64)

    def laid(self, laid: Laid) -> Changes:
        """Return the changes as they lie in the network as it is set up."""
        nodes, branch = self._ports.nodes(laid), self._ports.branch
        return Changes(nodes.reshape(*self._shape, 2), branch.reshape(self._shape), self._ohm)


def _exchanged(laid: Laid, pair: tuple[Node, Node] | None) -> Mapping[Node, int]:
    """Return where a meter finds the terminals, two of them exchanged: the network itself is as drawn."""
    if pair is None:
        return laid.at
    a, b = pair
    return {**laid.at, a: laid.at[b], b: laid.at[a]}


class Ports:
    """Where many changes lie, to be found in the network however it is set up."""

    def __init__(self, ports: Sequence[Port]) -> None:
        """Note the branch and the end of it, or the name, that each of the two sides is."""
        numbers: dict[Port, int] = {}
        self._which = np.array([numbers.setdefault(port, len(numbers)) for port in ports], dtype=np.intp)
        self._ends = np.array([_ends(port) for port in numbers], dtype=np.intp).reshape(-1, 2, 2)
        self._named = [(at, port) for port, at in numbers.items() if isinstance(port, Between)]
        own = np.array([port.branch if isinstance(port, Series) else -1 for port in numbers], dtype=np.intp)
        # The branch that each lies in, -1 where it lies in none.
        self.branch = own[self._which]

    def nodes(self, laid: Laid) -> Places:
        """Return the nodes that each lies between, shape (ports, 2); -1 for one that is not there."""
        if not len(self._which):
            return np.zeros((0, 2), dtype=np.intp)
        found = laid.ends[self._ends[..., 0], self._ends[..., 1]]
        for at, port in self._named:
            found[at] = laid.at.get(port.a, -1), laid.at.get(port.b, -1)
        return np.asarray(found[self._which])


def _ends(port: Port) -> tuple[tuple[int, int], tuple[int, int]]:
    """Return the branch and which of its ends, for both sides; any for a port between places with names."""
    if isinstance(port, Series):
        return (port.branch, 0), (port.branch, 1)
    if isinstance(port, Across):
        return (port.one, port.side), (port.other, port.side)
    if isinstance(port, Over):
        return (port.one, 0), (port.other, 1)
    return (0, 0), (0, 0)


class InsulationPaths:
    """What insulation tests have between their probes under each of many hypotheses."""

    def __init__(self, patient: Patient, hypotheses: Sequence[Hypothesis]) -> None:
        """Gather the paths that insulation should prevent."""
        self.patient, self.hypotheses = patient, hypotheses
        paths = [(at, path) for at, each in enumerate(hypotheses) for path in each.paths]
        self._row = np.array([at for at, _ in paths], dtype=np.intp)
        self._ports = Ports([path.port for _, path in paths])
        self._siemens = 1.0 / np.array([path.ohm for _, path in paths])
        self._loads = [path.load for _, path in paths]

    def seen_ohm(self, test: Test) -> Reals:
        """Return what a test has between its probes, in Ω, shape (hypotheses,); infinite for nothing.

        Copper is nothing beside insulation: what hangs together by it is one. A path to a third conductor and one from
        there on are a way as well.
        """
        laid, part = self.patient.laid(test.how.setup), self.patient.parts(test.how.setup)
        probes = sorted({int(part[laid.at[each]]) for each in test.how.probes if each in laid.at})
        siemens = np.zeros(len(self.hypotheses))
        if len(probes) == 2:
            nodes = self._ports.nodes(laid)
            there = (nodes >= 0).all(axis=1)
            there &= np.array([load not in test.unplugged for load in self._loads], dtype=np.bool_)
            ends = np.where(there[:, None], np.sort(part[nodes], axis=1), -1)
            siemens = self._between(ends, *probes)
            for third in np.setdiff1d(ends, [-1, *probes]).tolist():
                one, other = (self._between(ends, third, probe) for probe in probes)
                siemens += one * other / np.maximum(one + other, _NOTHING)
        with np.errstate(divide="ignore"):
            return np.asarray(1.0 / siemens)

    def _between(self, ends: Places, one: int, other: int) -> Reals:
        """Return the paths from one part to another, in S, shape (hypotheses,)."""
        found = np.zeros(len(self.hypotheses))
        there = (ends == sorted((one, other))).all(axis=1)
        np.add.at(found, self._row[there], self._siemens[there])
        return found
