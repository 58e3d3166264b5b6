"""The same readings by a network that is put together and solved for one hypothesis: what `predict` is held to."""

from collections.abc import Sequence

from lumbek.core.diagnosis.catalogue import Test
from lumbek.core.diagnosis.patient import Patient
from lumbek.core.diagnosis.suspects import Across, Hypothesis, Over, Port, Series
from lumbek.core.network.changed import BROKEN_OHM
from lumbek.core.network.solver import OPEN, Network, Solution
from lumbek.core.network.wiring import Laid, Node, Setup


def read_anew(patient: Patient, each: Hypothesis, tests: Sequence[Test]) -> list[float]:
    """Return what each low-ohm test reads under a hypothesis, in Ω; infinite for open.

    Each way of setting up is solved once.
    """
    solved: dict[Setup, tuple[dict[Node, int], Solution[int]]] = {}
    found = []
    for test in tests:
        if test.how.setup not in solved:
            solved[test.how.setup] = _solved(patient, each, test.how.setup)
        at, solution = solved[test.how.setup]
        places = [at.get(name, -1) for name in (*test.how.probes, *(test.how.linked or ()))]
        if len(places) == 4:
            found.append(solution.ohm_between_when_joined(places[0], places[1], places[2], places[3]))
        else:
            found.append(solution.ohm_between(places[0], places[1]))
    return found


def _solved(patient: Patient, each: Hypothesis, setup: Setup) -> tuple[dict[Node, int], Solution[int]]:
    laid = patient.laid(setup)
    at = dict(laid.at)
    if each.exchanged is not None:
        a, b = each.exchanged
        at[a], at[b] = laid.at[b], laid.at[a]
    ohms = [float(ohm) if whole else OPEN for ohm, whole in zip(patient.ohms, laid.whole, strict=True)]
    network: Network[int] = Network()
    for change in each.changes:
        if isinstance(change.port, Series):
            ohms[change.port.branch] += change.ohm
        elif min(_nodes(laid, change.port)) >= 0:
            network.join(*_nodes(laid, change.port), change.ohm)
    for (one, other), ohm in zip(laid.ends.tolist(), ohms, strict=True):
        if ohm < BROKEN_OHM:
            network.join(one, other, ohm)
    return at, network.solve()


def _nodes(laid: Laid, port: Port) -> tuple[int, int]:
    """Return the nodes that a path lies between as the network is set up; -1 for one that is not there."""
    if isinstance(port, Series):
        return int(laid.ends[port.branch, 0]), int(laid.ends[port.branch, 1])
    if isinstance(port, Across):
        return int(laid.ends[port.one, port.side]), int(laid.ends[port.other, port.side])
    if isinstance(port, Over):
        return int(laid.ends[port.one, 0]), int(laid.ends[port.other, 1])
    return laid.at.get(port.a, -1), laid.at.get(port.b, -1)
