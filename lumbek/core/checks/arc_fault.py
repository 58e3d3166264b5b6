"""Arc-fault detection: required in homes of higher risk, recommended elsewhere."""

from lumbek.core.checks.question import Question
from lumbek.core.context import Context
from lumbek.core.result import Check, Step, Verdict

QUESTION = Question("arc-fault", "Arc-fault detection", "Is arc-fault detection there where it must be?", "afdd")


def check_arc_fault(context: Context) -> Check:
    """Socket circuits up to 32 A in high-rise, shared, student and care homes (421.1.7; IEC: recommended)."""
    rules, device = context.rulebook.data.arc_fault, context.circuit.device
    if context.group != "sockets" or device.rating_a > rules.sockets_up_to_a:
        return QUESTION.not_applicable(context, "Not a socket circuit up to 32 A")
    required = required_here(context)
    if not device.afdd and not required:
        return QUESTION.not_applicable(context, "Recommended here, not required")
    return QUESTION.check(
        context,
        Verdict.PASS if device.afdd else Verdict.FAIL,
        "Fitted" if device.afdd else "None, and the home is of higher risk",
        place=context.whole,
        steps=(Step(text="Home of higher risk" if required else "Not required here, and fitted"),),
    )


def required_here(context: Context) -> bool:
    """Whether this home is one where the rulebook asks for arc-fault detection on sockets."""
    return context.supply.higher_risk and context.rulebook.data.arc_fault.required_in_higher_risk
