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


_SAID = {True: "yes", False: "no", None: "not known"}


def _services_bonded(study: Study) -> bool | None:
    """Whether every metal service is bonded where it comes in; None where nobody has said of one, or of any."""
    services = study.supply.services
    metal = [each for each in services if each.material != "plastic"]
    if any(each.bonded == "no" for each in metal):
        return False
    unknown = not services or any("unknown" in (each.material, each.bonded) for each in metal)
    return None if unknown else True


def check_bath_bonding(study: Study) -> Check:
    """Supplementary bonding, or 30 mA and main bonding of every metal service (701.415.2).

    Services of which nothing is known are the survey's to ask for; here they are a caution.
    """
    if study.standing.bath_room is not True:
        return QUESTION.not_applicable(study, "No bath or shower room")
    said = study.circuit.surroundings.supplementary_bonding
    if said:
        return QUESTION.check(study, Verdict.PASS, "Bonded to each other", place=study.whole)
    has_rcd, bonded, fellow = additional(study), _services_bonded(study), study.circuit.surroundings.bath_fellow
    steps = (
        Step(text="30 mA on this circuit", sum=_SAID[has_rcd]),
        Step(text="Every metal service bonded at its entry", sum=_SAID[bonded]),
        *((Step(text=f"30 mA on {fellow}, which is in the same room", sum="not known to be there"),) if fellow else ()),
    )
    if has_rcd and bonded is not False and not fellow:
        others = "Only where every other circuit of the room has 30 mA and disconnects in time too"
        bonding = "" if bonded else ", and every metal service is bonded at its entry: nobody has said"
        return QUESTION.check(
            study, Verdict.PASS, "May be left out", place=study.whole, steps=steps, caution=f"{others}{bonding}."
        )
    if said is False and (has_rcd is False or bonded is False or fellow):
        return QUESTION.check(
            study, Verdict.FAIL, "Not bonded, and may not be left out", place=study.whole, steps=steps
        )
    missing = ["whether the metal parts of the bath room are bonded to each other"] if said is None else []
    if has_rcd is None:
        missing.append("RCD of the circuit")
    return QUESTION.cannot_tell(study, tuple(missing), steps=steps)
