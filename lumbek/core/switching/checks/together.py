"""Do the currents in every cable cancel, in every state?"""

from collections.abc import Mapping

import numpy as np

from lumbek.core.circuit.graph import graph_of
from lumbek.core.judging.check import Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.leg import BOARD
from lumbek.core.network.wiring import Node, Setup, node
from lumbek.core.switching.proving import Hazard, ProvedAnswer, Proving, listed
from lumbek.core.switching.states import Cluster

QUESTION = Question(
    "together",
    "Currents cancel in each cable",
    "Does what goes out in a cable come back in it?",
    "conductors-together",
)
# In lamps: far less than one, and far more than what rounding leaves.
_NOTHING = 1e-6
_Leg = tuple[int, str]


def check_together(proving: Proving) -> ProvedAnswer:
    """Sum the currents of each cable over all states (BS 7671 521.5, 521.8.1; IEC 60364-5-52 521.5, 521.8).

    What lies on no loop of cables cancels by Kirchhoff's law; singles that part line and neutral make loops. Several
    cables side by side on one way are judged together, each noted: what is left of one lies an inch from what is left
    of the other.
    """
    if not proving.states.lamps:
        return ProvedAnswer(QUESTION.not_applicable(proving, "Nothing to light"))
    alone, beside = _looped(proving)
    if not alone and not beside:
        return ProvedAnswer(QUESTION.check(proving, Verdict.PASS, "No loop of cables: they cancel in every state"))
    worst = _worst(proving, [*alone, *beside])
    hazards = [
        _hazard(proving, {legs: worst[legs] for legs in worst if legs in bundles}, grave)
        for grave, bundles in ((True, alone), (False, beside))
        if any(legs in bundles for legs in worst)
    ]
    steps = tuple(Step(text=hazard.words) for hazard in hazards)
    caution = hazards[0].words if hazards else ""
    bad = sum(1 for legs in worst if legs in alone)
    answer = f"Not in {bad} cables" if bad else "Not in every cable by itself"
    answer = answer if hazards else "Cancel in every state"
    # It is bad practice, and in steel it heats: a warning, not a danger by itself.
    return ProvedAnswer(QUESTION.check(proving, Verdict.PASS, answer, steps=steps, caution=caution), tuple(hazards))


# Of a bundle of legs what is left of its currents at the worst, in lamps, and in which state.
_Worst = dict[tuple[_Leg, ...], tuple[float, Cluster | None, int]]


def _worst(proving: Proving, bundles: list[tuple[_Leg, ...]]) -> _Worst:
    """Return the bundles whose currents do not cancel in every state."""
    worst: _Worst = {}
    for cluster in (*proving.states.clusters, None):
        for state in range(1 if cluster is None else len(cluster.stands)):
            sums = _sums(proving, cluster, state)
            for legs in bundles:
                left = abs(sum(sums.get(leg, 0.0) for leg in legs))
                if left > max(_NOTHING, worst.get(legs, (0.0, None, 0))[0]):
                    worst[legs] = left, cluster, state
    return worst


def _hazard(proving: Proving, found: _Worst, grave: bool) -> Hazard:
    names = listed([_name(proving, leg) for legs in found for leg in legs])
    _, cluster, state = next(iter(found.values()))
    words = (
        f"Currents do not cancel in the cable from {names}"
        if grave
        else f"From {names} cables lie side by side whose currents cancel only together: keep them together"
    )
    return Hazard(
        id="not-cancelling",
        check=QUESTION.id,
        words=words,
        symptom="Hums, heats steel it passes, trips RCDs, disturbs radio" if grave else "",
        stands=proving.stands(cluster, state),
        grave=grave,
    )


def _name(proving: Proving, leg: _Leg) -> str:
    number, leg_id = leg
    circuit = proving.circuits[number]
    return circuit.leg_title(circuit.leg(leg_id))


def _looped(proving: Proving) -> tuple[list[tuple[_Leg, ...]], list[tuple[_Leg, ...]]]:
    """Return bundles of legs that lie on a loop of cables, and single legs of a bundle that has several.

    Circuits that are wired into each other hang together at the board too: there every leg may lie on a loop.
    """
    bundles: dict[tuple[int, frozenset[str]], list[_Leg]] = {}
    looped: set[_Leg] = set()
    for number, circuit in proving.circuits.items():
        found = graph_of(circuit).loop_legs
        for leg in circuit.legs:
            bundles.setdefault((number, frozenset((leg.a, leg.b))), []).append((number, leg.id))
            if leg.id in found:
                looped.add((number, leg.id))
    several = len(proving.circuits) > 1
    alone = [tuple(legs) for legs in bundles.values() if several or _still_looped(proving, legs, looped)]
    beside: list[tuple[_Leg, ...]] = [(leg,) for legs in bundles.values() if len(legs) > 1 for leg in legs]
    return alone, beside


def _still_looped(proving: Proving, legs: list[_Leg], looped: set[_Leg]) -> bool:
    """Whether a bundle lies on a loop that is not only made by its own cables side by side."""
    number = legs[0][0]
    circuit = proving.circuits[number]
    if any(circuit.cable_of(circuit.leg(leg)).lone for _, leg in legs):
        return True
    if legs[0] not in looped:
        return False
    if len(legs) == 1:
        return True
    others = {leg for _, leg in legs[1:]}
    thin = circuit.model_copy(update={"legs": tuple(leg for leg in circuit.legs if leg.id not in others)})
    return legs[0][1] in graph_of(thin).loop_legs


def _sums(proving: Proving, cluster: Cluster | None, state: int) -> Mapping[_Leg, float]:
    """Return what does not cancel in each leg in a state, a lamp taking 1."""
    states = proving.states
    stands = {} if cluster is None else states.stand(cluster, state)
    injected: dict[Node, float] = {}
    for lamp in states.lamps:
        mine, lit = states.lit(lamp)
        # Lamps of other clusters are off meanwhile: what each adds is its own.
        if mine is not cluster or not lit[state if cluster is not None else 0]:
            continue
        for end, ampere in (
            (node(lamp.line, lamp.point, lamp.circuit), -1.0),
            (node("N", lamp.point, lamp.circuit), 1.0),
        ):
            injected[end] = injected.get(end, 0.0) + ampere
    if not injected:
        return {}
    wiring = states.wiring
    # The supply joins the lines and neutrals of all circuits, as the board does.
    link = ((node("L", BOARD), node("N", BOARD)),)
    solved = wiring.solve(np.ones(len(wiring.branches)), Setup(positions=frozenset(stands.items()), links=link))
    currents = solved.branch_currents_a(solved.potentials_v(injected))
    sums: dict[_Leg, float] = {}
    # Branches run from end a of their leg to end b.
    for (number, leg, core), current in zip(wiring.branches, currents, strict=True):
        if core != "E":
            sums[number, leg] = sums.get((number, leg), 0.0) + float(current)
    return sums
