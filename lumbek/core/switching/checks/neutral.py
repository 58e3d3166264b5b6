"""Is every lamp's neutral its own circuit's, never switched alone, and never live?"""

from itertools import permutations

import numpy as np

from lumbek.core.judging.check import Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.accessory import ISOLATING
from lumbek.core.network.wiring import node
from lumbek.core.switching.proving import Hazard, ProvedAnswer, Proving
from lumbek.core.switching.states import Bits, Lamp

QUESTION = Question(
    "neutral",
    "Neutrals",
    "Is only the line switched, each lamp's neutral that of its own circuit, and nothing live on it?",
    "single-pole",
)


def check_neutral(proving: Proving) -> ProvedAnswer:
    """Fail switched, borrowed and live neutrals (BS 7671 132.14.1, 314.4, 643.6; IEC 60364-1 132.14, 314)."""
    hazards = [hazard for lamp in proving.states.lamps for hazard in _of_lamp(proving, lamp)]
    hazards += _switched_at(proving)
    if hazards:
        unlike = list({hazard.words: hazard for hazard in hazards}.values())
        steps = tuple(Step(text=each.words) for each in unlike)
        check = QUESTION.check(proving, Verdict.FAIL, unlike[0].words, place=unlike[0].place, steps=steps)
        return ProvedAnswer(check, tuple(unlike))
    if not proving.states.lamps:
        return ProvedAnswer(QUESTION.not_applicable(proving, "Nothing to light"))
    return ProvedAnswer(QUESTION.check(proving, Verdict.PASS, "Each lamp returns by its own circuit's neutral"))


def _of_lamp(proving: Proving, lamp: Lamp) -> list[Hazard]:
    states = proving.states
    cluster, lit = states.lit(lamp)
    line, neutral = states.ends(lamp)
    name, place = proving.lamp_title(lamp), proving.place(lamp.circuit, lamp.point)

    def hazard(kind: str, words: str, symptom: str, bits: Bits, worse: Bits) -> Hazard:
        # One that shows it best: with the line there too, or with the lamp dark and its holder live.
        shows = bits & worse if (bits & worse).any() else bits
        stands = proving.first(cluster, shows)
        return Hazard(id=kind, check=QUESTION.id, words=words, symptom=symptom, place=place, stands=stands)

    use = np.ones(1, np.bool_) if cluster is None else proving.in_use(cluster)
    if line is None or neutral is None:
        return []
    found = []
    live = states.joined(cluster, neutral, "L") & use
    returns = states.joined(cluster, neutral, "N")
    on = states.joined(cluster, line, "L")
    if (live & lit).any() or (live.any() and not returns.any()):
        words = f"Line and neutral are crossed at {name}"
        found.append(hazard("crossed", words, "The lampholder is live with the switch off", live, ~lit))
    elif live.any():
        words = f"The neutral of {name} is live in some positions"
        found.append(hazard("live-neutral", words, "The lampholder is live with the lamp off", live, ~lit))
    elif not returns.any():
        words = f"No neutral reaches {name}"
        symptom = f"{name} stays dark, and its neutral is live through the lamp"
        found.append(hazard("no-neutral", words, symptom, use, on))
    elif (use & ~returns).any():
        words = f"The neutral of {name} is switched"
        symptom = "Works, but the lampholder stays live with the switch off"
        found.append(hazard("switched-neutral", words, symptom, use & ~returns, on))
    for other, mine in permutations(states.circuits, 2):
        crossed = states.joined(cluster, line, "L", mine) & states.joined(cluster, neutral, "N", other) & lit
        if crossed.any():
            words = f"{name} takes its line from circuit {mine} and its neutral from circuit {other}"
            symptom = "RCDs trip when it is switched on; its neutral stays live with one circuit off"
            found.append(hazard("borrowed-neutral", words, symptom, crossed, lit))
    return found


def _switched_at(proving: Proving) -> list[Hazard]:
    """Return single-pole switches that stand in a neutral."""
    found = []
    for number, point in proving.points():
        for accessory in point.accessories:
            if accessory.kind in ISOLATING:
                continue
            for name in ("COM", "L1", "L2", "L3", "L4", "L"):
                part = proving.states.copper.of(node(accessory.terminal(name), point.id, number))
                supplies = proving.states.supplies.get(part, ()) if part is not None else ()
                if any(supply.kind == "N" for supply in supplies):
                    title = proving.title(number, point.id)
                    words = f"The neutral goes through the switch at {title}"
                    symptom = "Works, but the lampholder stays live with the switch off"
                    place = proving.place(number, point.id)
                    found.append(
                        Hazard(id="switched-neutral", check=QUESTION.id, words=words, symptom=symptom, place=place)
                    )
                    break
    return found
