"""Breaking capacity of the device against the fault current at its board."""

from lumbek.core.checks.build import cannot_tell, not_applicable
from lumbek.core.context import Context
from lumbek.core.numbers import plain
from lumbek.core.result import Check, Step, judge

TITLE, ASKS = "Breaking capacity", "Can the device break the greatest fault current at its board?"


def check_breaking(context: Context) -> Check:
    """Breaking capacity >= prospective fault current, kA (434.5.1)."""
    supply, capacity = context.supply, context.circuit.device.breaking_capacity_ka
    fault_ka = context.fault_current_ka
    if context.behind_switch:
        return not_applicable(context, "breaking", TITLE, ASKS, "breaking", "A switch breaks no fault")
    missing = []
    if capacity is None:
        missing.append("breaking capacity of the device")
    if fault_ka is None:
        missing.append("prospective fault current of the supply")
    if capacity is None or fault_ka is None:
        return cannot_tell(context, "breaking", TITLE, ASKS, "breaking", tuple(missing))
    verdict, margin = judge(capacity, fault_ka, "at least")
    measured = supply.fault_current_ka is not None
    if not measured and verdict != "pass":
        # The distributor's declared maximum is no finding; a measurement settles it.
        return cannot_tell(context, "breaking", TITLE, ASKS, "breaking", ("prospective fault current of the supply",))
    return Check(
        id="breaking",
        title=TITLE,
        asks=ASKS,
        verdict=verdict,
        answer=f"{plain(capacity)} kA against {plain(fault_ka)} kA",
        value=capacity,
        limit=fault_ka,
        sense="at least",
        unit="kA",
        decimals=1,
        margin=margin,
        clause=context.clause("breaking"),
        place=context.whole,
        steps=(
            Step(
                text="Prospective fault current at the board",
                sum=f"{plain(fault_ka)} kA, {supply.fault_current_origin if measured else 'declared maximum'}",
            ),
            Step(text="The device breaks", sum=f"{plain(capacity)} kA"),
        ),
    )
