"""Does line meet neutral, earth or another circuit without a load between?"""

import numpy as np

from lumbek.core.judging.check import Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.switching.proving import Hazard, ProvedAnswer, Proving
from lumbek.core.switching.states import Bits, Cluster, SupplyName

QUESTION = Question(
    "paths",
    "Paths round the load",
    "Is there no way from line to neutral or earth but through a load, and none to another circuit?",
    "circuits-apart",
)


def check_supply(proving: Proving) -> ProvedAnswer:
    """Fail a part that is two supplies at once in any state (BS 7671 314.4, 411.4, 430.3; IEC 60364 likewise)."""
    hazards: dict[tuple[str, frozenset[SupplyName]], Hazard] = {}
    for supplies in proving.states.supplies.values():
        for one, other in _pairs(supplies):
            hazards.setdefault(("always", frozenset((one, other))), _hazard(one, other, "for good"))
    for cluster in proving.states.clusters:
        for one, other in _pairs(tuple(cluster.own)):
            met = _met(cluster, one, other)
            if met.any() and ("always", frozenset((one, other))) not in hazards:
                hazard = _hazard(one, other, "in every state" if met.all() else "in some positions")
                state = proving.first(cluster, met)
                hazards.setdefault(("state", frozenset((one, other))), hazard.model_copy(update={"stands": state}))
    found = tuple(hazards.values())
    if found:
        steps = tuple(Step(text=each.words) for each in found)
        return ProvedAnswer(QUESTION.check(proving, Verdict.FAIL, found[0].words, steps=steps), found)
    return ProvedAnswer(QUESTION.check(proving, Verdict.PASS, "No way but through a load"))


def _pairs(supplies: tuple[SupplyName, ...]) -> list[tuple[SupplyName, SupplyName]]:
    return [(a, b) for at, a in enumerate(supplies) for b in supplies[at + 1 :] if a != b]


def _met(cluster: Cluster, one: SupplyName, other: SupplyName) -> Bits:
    return np.asarray((cluster.own[one] & cluster.own[other]).any(axis=1))


# What two supplies that meet are called, and what is seen of it.
_MET = {
    frozenset("LN"): ("short", "Line joined to neutral", "The breaker trips at once"),
    frozenset("LE"): ("line-earth", "Line joined to the cpc", "Device or RCD trips; metal may be live"),
    frozenset("NE"): ("neutral-earth", "Neutral joined to the cpc", "The RCD trips, or will not reset"),
    frozenset("L"): ("two-lines", "Lines of circuits {a} and {b} joined", "Switching one circuit off leaves it live"),
    frozenset("N"): ("mixed-neutrals", "Neutrals of circuits {a} and {b} joined", "RCDs trip without a reason"),
}


def _hazard(one: SupplyName, other: SupplyName, when: str) -> Hazard:
    kind, words, symptom = _MET[frozenset((one.kind, other.kind))]
    named = words.format(a=one.circuit, b=other.circuit)
    return Hazard(id=kind, check=QUESTION.id, words=f"{named} {when}", symptom=symptom)
