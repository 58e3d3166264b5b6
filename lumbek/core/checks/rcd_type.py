"""Does the RCD see the faults of its loads, and is it left in peace by their leakage?"""

from lumbek.core.checks.build import not_applicable
from lumbek.core.context import Context
from lumbek.core.model.circuit import DcPart
from lumbek.core.numbers import plain, show
from lumbek.core.result import Check, Step, Verdict, judge

TITLE, ASKS = "RCD type", "Can the RCD see a fault beside the d.c. part of its loads?"
TITLE_LEAK, ASKS_LEAK = "Leakage on the RCD", "Do the loads leave the RCD in peace?"
# From the blindest to the one that sees all.
ORDER = ("AC", "A", "F", "B")
NEEDED: dict[DcPart, str] = {"none": "AC", "pulsed": "A", "mixed": "F", "smooth-6ma": "A", "smooth": "B"}


def needed_type(context: Context) -> tuple[str, str]:
    """Return the least type of RCD for the loads (531.3.3), and the load that asks for it.

    With no loads stated type A is the working default: most appliances hold electronics.
    """
    loads = [(NEEDED[load.dc], load.name or point.title) for point in context.circuit.points for load in point.loads]
    if context.circuit.kind == "vehicle-charging" and not loads:
        return "B", "vehicle charging without stated 6 mA detection"
    if not loads:
        return "A", "electronics, as most appliances have"
    return max(loads, key=lambda each: ORDER.index(each[0]))


def check_rcd_type(context: Context) -> Check:
    """Type AC < A < F < B, by the d.c. part of the loads (531.3.3)."""
    rcd = context.circuit.device.rcd
    if rcd is None:
        return not_applicable(context, "rcd-type", TITLE, ASKS, "rcd-type", "No RCD")
    needed, why = needed_type(context)
    fits = ORDER.index(rcd.type) >= ORDER.index(needed)
    stated = any(point.loads for point in context.circuit.points)
    return Check(
        id="rcd-type",
        title=TITLE,
        asks=ASKS,
        verdict=Verdict.PASS if fits or not stated else Verdict.FAIL,
        answer=f"Type {rcd.type}, needs {needed}",
        clause=context.clause("rcd-type"),
        place=context.whole,
        steps=(Step(text=f"Asked for by {why}", sum=f"type {needed}"),),
        caution="" if fits or stated else f"Type {rcd.type} only where no load has electronics: say what is fed.",
    )


def check_leakage(context: Context) -> Check:
    """Sum of protective-conductor currents <= 0.3 x rated residual current, mA (531.3.2)."""
    rcd = context.circuit.device.rcd
    leaks = [load.leakage_ma for point in context.circuit.points for load in point.loads if load.leakage_ma]
    if rcd is None or not leaks:
        why = "No RCD" if rcd is None else "No leakage stated"
        return not_applicable(context, "leakage", TITLE_LEAK, ASKS_LEAK, "leakage", why)
    part = context.rulebook.data.residual.leakage_fraction
    total, limit = sum(leaks), part * rcd.rated_ma
    verdict, margin = judge(total, limit, "at most")
    return Check(
        id="leakage",
        title=TITLE_LEAK,
        asks=ASKS_LEAK,
        verdict=verdict,
        answer=f"{show(total)} mA, limit {plain(limit)} mA",
        value=total,
        limit=limit,
        sense="at most",
        unit="mA",
        margin=margin,
        clause=context.clause("leakage"),
        place=context.whole,
        steps=(
            Step(text="The loads together", sum=f"{' + '.join(show(leak) for leak in leaks)} = {show(total)} mA"),
            Step(text="Limit", sum=f"{plain(part)} × {plain(rcd.rated_ma)} = {plain(limit)} mA"),
        ),
        caution="The RCD is shared: add what its other circuits leak." if rcd.shared else "",
    )
