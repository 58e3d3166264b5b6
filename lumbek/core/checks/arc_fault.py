"""Arc-fault detection: required in homes of higher risk, recommended elsewhere."""

from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.study.study import Study

QUESTION = Question("arc-fault", "Arc-fault detection", "Is arc-fault detection there where it must be?", "afdd")


def check_arc_fault(study: Study) -> Check:
    """Socket-outlets up to 32 A in high-rise, shared, student and care homes (421.1.7; IEC: recommended).

    The rating is the outlet's: those drawn here take plugs of no more than that, whatever device they are on.
    """
    device = study.circuit.device
    if not study.standing.sockets:
        return QUESTION.not_applicable(study, "No socket-outlets")
    required = required_here(study)
    if not device.afdd and not required:
        return QUESTION.not_applicable(study, "Recommended here, not required")
    return QUESTION.check(
        study,
        Verdict.PASS if device.afdd else Verdict.FAIL,
        "Fitted" if device.afdd else "None, and the home is of higher risk",
        place=study.whole,
        steps=(Step(text="Home of higher risk" if required else "Not required here, and fitted"),),
    )


def required_here(study: Study) -> bool:
    """Whether this home is one where the rulebook asks for arc-fault detection on sockets."""
    return study.supply.higher_risk and study.rulebook.data.arc_fault.required_in_higher_risk
