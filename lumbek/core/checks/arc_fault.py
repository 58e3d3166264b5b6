"""Arc-fault detection: required in homes of higher risk, recommended elsewhere."""

from lumbek.core.checks.build import not_applicable
from lumbek.core.context import Context
from lumbek.core.result import Check, Step, Verdict

TITLE, ASKS = "Arc-fault detection", "Is arc-fault detection there where it must be?"


def check_arc_fault(context: Context) -> Check:
    """Socket circuits up to 32 A in high-rise, shared, student and care homes (421.1.7)."""
    rules, device = context.rulebook.data.rcd, context.circuit.device
    if context.group != "sockets" or device.rating_a > rules.sockets_up_to_a:
        return not_applicable(context, "arc-fault", TITLE, ASKS, "afdd", "Not a socket circuit up to 32 A")
    if device.afdd or context.supply.higher_risk:
        return Check(
            id="arc-fault",
            title=TITLE,
            asks=ASKS,
            verdict=Verdict.PASS if device.afdd else Verdict.FAIL,
            answer="Fitted" if device.afdd else "None, and the home is of higher risk",
            clause=context.clause("afdd"),
            place=context.whole,
            steps=(
                Step(text="Home of higher risk" if context.supply.higher_risk else "Not required here, and fitted"),
            ),
        )
    return not_applicable(context, "arc-fault", TITLE, ASKS, "afdd", "Recommended here, not required")
