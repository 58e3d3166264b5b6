"""Breaking capacity of the circuit's device, and of those ahead of it, against the fault current where they stand."""

from collections.abc import Iterator

from lumbek.core.checks.fault_protection import device_name
from lumbek.core.checks.question import Question
from lumbek.core.context import Context
from lumbek.core.model.circuit import Device
from lumbek.core.numbers import ceil_to, plain, show
from lumbek.core.result import Check, Step, Verdict, judge

QUESTION = Question(
    "breaking", "Breaking capacity", "Can each device break the greatest fault current where it stands?", "breaking"
)


def _devices(context: Context) -> Iterator[tuple[str, Device, float | None]]:
    """Yield each device that breaks faults, from the origin on, with the fault current there in kA.

    One ahead of the circuit is held to the fault current of the origin, whatever feeds lie between.
    """
    for ahead in context.circuit.ahead:
        if ahead.device is not None and context.rulebook.devices[ahead.device.standard].form != "switch":
            yield ahead.name or device_name(context, ahead.device), ahead.device, context.fault_current_ka
    if not context.behind_switch:
        yield device_name(context, context.circuit.device), context.circuit.device, context.board_fault_current_ka


def check_breaking(context: Context) -> Check:
    """Breaking capacity >= prospective fault current for every device on the way, kA (434.5.1)."""
    devices = list(_devices(context))
    if not devices:
        return QUESTION.not_applicable(context, "A switch breaks no fault")
    missing = [f"breaking capacity of {name}" for name, device, _ in devices if device.breaking_capacity_ka is None]
    if any(fault_ka is None for _, _, fault_ka in devices):
        missing.append("prospective fault current of the supply")
    if missing:
        return QUESTION.cannot_tell(context, tuple(missing))
    known = [(name, device.breaking_capacity_ka or 0.0, fault_ka or 0.0) for name, device, fault_ka in devices]
    _, capacity, fault_ka = min(known, key=lambda each: each[1] / each[2])
    verdict, margin = judge(capacity, fault_ka, "at least")
    measured = context.supply.fault_current_ka is not None
    if not measured and verdict is not Verdict.PASS:
        # The distributor's declared maximum is no finding; a measurement settles it.
        return QUESTION.cannot_tell(context, ("prospective fault current of the supply",))
    origin = context.supply.fault_current_origin if measured else "declared maximum"
    return QUESTION.check(
        context,
        verdict,
        f"{plain(capacity)} kA against {plain(ceil_to(fault_ka, 2))} kA",
        value=capacity,
        limit=fault_ka,
        sense="at least",
        unit="kA",
        decimals=1,
        margin=margin,
        place=context.whole,
        steps=(
            Step(
                text="Prospective fault current at the origin",
                sum=f"{plain(context.fault_current_ka or 0.0)} kA, {origin}",
            ),
            *(
                Step(text=each, sum=f"breaks {plain(breaks)} kA, up to {show(fault)} kA there")
                for each, breaks, fault in known
            ),
        ),
    )
