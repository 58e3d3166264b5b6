"""Supplementary bonding of a bath or shower room, and when it may be left out."""

from lumbek.core.checks.rcd import additional
from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.study.study import Study

QUESTION = Question(
    "bath-bonding",
    "Bonding of the bath room",
    "Are the metal parts of the bath room bonded to each other, or may that be left out?",
    "bath-bonding",
)


def check_bath_bonding(study: Study) -> Check:
    """Supplementary bonding, or 30 mA and main bonding of every metal service (701.415.2).

    Services of which nothing is known are the survey's to ask for; here they are a caution.
    """
    if study.standing.bath_room is not True:
        return QUESTION.not_applicable(study, "No bath or shower room")
    said = study.circuit.surroundings.supplementary_bonding
    if said:
        return QUESTION.check(study, Verdict.PASS, "Bonded to each other", place=study.whole)
    has_rcd = additional(study)
    services = study.supply.services
    metal = [each for each in services if each.material != "plastic"]
    unbonded = [each for each in metal if each.bonded == "no"]
    unknown = not services or any(each.material == "unknown" or each.bonded == "unknown" for each in metal)
    steps: tuple[Step, ...] = (
        Step(text="30 mA on this circuit", sum={True: "yes", False: "no", None: "not known"}[has_rcd]),
        Step(
            text="Every metal service bonded at its entry",
            sum="no" if unbonded else "not known" if unknown else "yes",
        ),
    )
    fellow = study.circuit.surroundings.bath_fellow
    if fellow:
        steps = (*steps, Step(text=f"30 mA on {fellow}, which is in the same room", sum="not known to be there"))
    if has_rcd and not unbonded and not fellow:
        others = "Only where every other circuit of the room has 30 mA and disconnects in time too"
        bonding = ", and every metal service is bonded at its entry: nobody has said" if unknown else ""
        return QUESTION.check(
            study, Verdict.PASS, "May be left out", place=study.whole, steps=steps, caution=f"{others}{bonding}."
        )
    if said is False and (has_rcd is False or unbonded or fellow):
        return QUESTION.check(
            study, Verdict.FAIL, "Not bonded, and may not be left out", place=study.whole, steps=steps
        )
    missing = ["whether the metal parts of the bath room are bonded to each other"] if said is None else []
    if has_rcd is None:
        missing.append("RCD of the circuit")
    return QUESTION.cannot_tell(study, tuple(missing), steps=steps)
