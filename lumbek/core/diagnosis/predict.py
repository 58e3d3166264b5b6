"""What each hypothesis says that each test would read, and how that goes with what is not known exactly."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lumbek.core.diagnosis.catalogue import Test
from lumbek.core.diagnosis.patient import Patient
from lumbek.core.diagnosis.suspects import Across, Change, Hypothesis, Over, Port, Series
from lumbek.core.network.changed import LEAK_OHM, OPEN_FROM_OHM, Base, Changes, Meter, Places, Readings, Reals
from lumbek.core.network.solver import parts_of
from lumbek.core.network.wiring import Laid, Node, Setup

# So many networks are taken together: more would not stay in the processor's own memory.
_AT_ONCE = 128
Flags = NDArray[np.bool_]


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


def predict(patient: Patient, hypotheses: Sequence[Hypothesis], tests: Sequence[Test]) -> Predicted:
    """Return what low-ohm tests read under each hypothesis."""
    shape = (len(hypotheses), len(tests))
    found = Predicted(np.zeros(shape), np.zeros((*shape, len(patient.legs))), np.zeros(shape), np.zeros(shape))
    by_setup: dict[Setup, list[int]] = {}
    for at, test in enumerate(tests):
        by_setup.setdefault(test.how.setup, []).append(at)
    for setup, columns in by_setup.items():
        _fill(patient, hypotheses, [tests[at] for at in columns], setup, np.array(columns), found)
    for row, each in enumerate(hypotheses):
        for terminal, ohm in each.tails:
            through = [terminal in (*test.how.probes, *(test.how.linked or ())) for test in tests]
            # All that the meter sends goes through it.
            found.ohm[row, through] = np.clip(found.ohm[row, through] + ohm, 0.0, 2 * LEAK_OHM)
            found.slope[row, through] = ohm
    return found


def alike(patient: Patient, hypotheses: Sequence[Hypothesis], tests: Sequence[Test]) -> tuple[list[int], Places]:
    """Return the first of all hypotheses that low-ohm tests cannot part, and for each hypothesis which of them it is.

    A path in a cable, behind the accessory where it ends and in the load there is one path to a low-ohm meter, and one
    of more than it can read is none.
    """
    laid = [patient.laid(setup) for setup in dict.fromkeys(test.how.setup for test in tests)]
    first: dict[object, int] = {}
    rows: list[int] = []
    which = np.zeros(len(hypotheses), dtype=np.intp)
    for at, each in enumerate(hypotheses):
        key: object = at
        if len(each.changes) == 1 and each.paths and not each.tails and each.exchanged is None:
            change = each.changes[0]
            if change.ohm > OPEN_FROM_OHM:
                key = "no path"
            else:
                key = (change.ohm, each.cell_ln, *(tuple(sorted(nodes_of(one, change.port))) for one in laid))
        if key not in first:
            first[key] = len(rows)
            rows.append(at)
        which[at] = first[key]
    return rows, which


def _fill(
    patient: Patient,
    hypotheses: Sequence[Hypothesis],
    tests: Sequence[Test],
    setup: Setup,
    columns: Places,
    found: Predicted,
) -> None:
    laid = patient.laid(setup)
    base = Base(laid, patient.ohms, [test.how for test in tests])

    def put(rows: Sequence[int], read: Readings) -> None:
        # No branch carries more than the meter sends, and no size tells by more than the whole reading.
        square = np.clip(read.ampere**2, 0.0, 1.0)
        cells = np.ix_(np.array(rows, dtype=np.intp), columns)
        found.ohm[cells] = np.clip(read.ohm, 0.0, 2 * LEAK_OHM)
        found.slope[cells] = np.clip(read.slope, 0.0, found.ohm[cells])
        if square.shape[2]:
            found.by_leg[cells] = square @ patient.leg_rows
            found.joints[cells] = (square**2).sum(axis=2)

    by_count: dict[int, list[int]] = {}
    for at, each in enumerate(hypotheses):
        if each.exchanged is None:
            by_count.setdefault(len(each.changes), []).append(at)
        else:
            meter = _exchanged(laid, tests, each.exchanged)
            put([at], base.read_by(meter, _changes(laid, [each.changes]) if each.changes else None))
    for count, rows in by_count.items():
        if count == 0:
            drawn = base.read()
            put(
                rows, Readings(*(np.repeat(each, len(rows), axis=0) for each in (drawn.ohm, drawn.ampere, drawn.slope)))
            )
            continue
        for start in range(0, len(rows), _AT_ONCE):
            some = rows[start : start + _AT_ONCE]
            put(some, base.read(_changes(laid, [hypotheses[at].changes for at in some])))


def _exchanged(laid: Laid, tests: Sequence[Test], pair: tuple[Node, Node]) -> Meter:
    """Return a meter that finds other conductors in two terminals: the network itself is as drawn."""
    at, (a, b) = dict(laid.at), pair
    at[a], at[b] = laid.at[b], laid.at[a]
    return Meter(at, laid.size, [test.how for test in tests])


def _changes(laid: Laid, cases: Sequence[tuple[Change, ...]]) -> Changes:
    nodes = np.array([[nodes_of(laid, change.port) for change in case] for case in cases], dtype=np.intp)
    branch = np.array([[_branch(change.port) for change in case] for case in cases], dtype=np.intp)
    return Changes(nodes, branch, np.array([[change.ohm for change in case] for case in cases]))


def _branch(port: Port) -> int:
    return port.branch if isinstance(port, Series) else -1


def nodes_of(laid: Laid, port: Port) -> tuple[int, int]:
    """Return the nodes that a change lies between as the network is set up; -1 for one that is not there."""
    if isinstance(port, Series):
        return int(laid.ends[port.branch, 0]), int(laid.ends[port.branch, 1])
    if isinstance(port, Across):
        return int(laid.ends[port.one, port.side]), int(laid.ends[port.other, port.side])
    if isinstance(port, Over):
        return int(laid.ends[port.one, 0]), int(laid.ends[port.other, 1])
    return laid.at.get(port.a, -1), laid.at.get(port.b, -1)


def seen_ohm(patient: Patient, hypotheses: Sequence[Hypothesis], test: Test) -> Reals:
    """Return the path that an insulation test has between its probes, in Ω, shape (hypotheses,); infinite for none.

    Copper is nothing beside insulation: what hangs together by it is one.
    """
    laid = patient.laid(test.how.setup)
    part = parts_of(laid.size, laid.ends[laid.whole].tolist())
    probes = {part[laid.at[each]] for each in test.how.probes if each in laid.at}
    siemens = np.zeros(len(hypotheses))
    for at, each in enumerate(hypotheses if len(probes) == 2 else ()):
        for path in each.paths:
            nodes = nodes_of(laid, path.port)
            if path.load not in test.unplugged and min(nodes) >= 0 and {part[node] for node in nodes} == probes:
                siemens[at] += 1.0 / path.ohm
    with np.errstate(divide="ignore"):
        return np.asarray(1.0 / siemens)
