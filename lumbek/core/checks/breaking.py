"""Breaking capacity of the circuit's device, and of those ahead of it, against the fault current where they stand."""

from collections.abc import Iterator

from lumbek.core.model.device import Device
from lumbek.core.numbers import plain, show
from lumbek.core.protection.who import device_name
from lumbek.core.question import Question
from lumbek.core.result import Check, Step
from lumbek.core.study.study import Study

QUESTION = Question(
    "breaking", "Breaking capacity", "Can each device break the greatest fault current where it stands?", "breaking"
)


def _devices(study: Study) -> Iterator[tuple[str, Device, float | None]]:
    """Yield each device that breaks faults, from the origin on, with the fault current there in kA.

    One ahead of the circuit is held to the fault current of the origin, whatever feeds lie between.
    """
    for ahead in study.circuit.ahead:
        if ahead.device is not None and study.rulebook.devices[ahead.device.standard].form != "switch":
            yield ahead.name or device_name(study.rulebook, ahead.device), ahead.device, study.ahead.fault_current_ka
    if not study.ahead.behind_switch:
        yield (
            device_name(study.rulebook, study.circuit.device),
            study.circuit.device,
            study.ahead.board_fault_current_ka,
        )


def check_breaking(study: Study) -> Check:
    """Breaking capacity >= prospective fault current for every device on the way, kA (434.5.1)."""
    devices = list(_devices(study))
    if not devices:
        return QUESTION.not_applicable(study, "A switch breaks no fault")
    missing = [f"breaking capacity of {name}" for name, device, _ in devices if device.breaking_capacity_ka is None]
    if any(fault_ka is None for _, _, fault_ka in devices):
        missing.append("prospective fault current of the supply")
    if missing:
        return QUESTION.cannot_tell(study, tuple(missing))
    known = [(name, device.breaking_capacity_ka or 0.0, fault_ka or 0.0) for name, device, fault_ka in devices]
    _, capacity, fault_ka = min(known, key=lambda each: each[1] / each[2])
    measured = study.supply.fault_current_ka is not None
    if not measured and capacity < fault_ka:
        # The distributor's declared maximum is no finding; a measurement settles it.
        return QUESTION.cannot_tell(study, ("prospective fault current of the supply",))
    origin = study.supply.fault_current_origin if measured else "declared maximum"
    return QUESTION.held(
        study,
        capacity,
        fault_ka,
        "at least",
        f"{plain(capacity)} kA against {{limit}} kA",
        unit="kA",
        place=study.whole,
        steps=(
            Step(
                text="Prospective fault current at the origin",
                sum=f"{plain(study.ahead.fault_current_ka or 0.0)} kA, {origin}",
            ),
            *(
                Step(text=each, sum=f"breaks {plain(breaks)} kA, up to {show(fault)} kA there")
                for each, breaks, fault in known
            ),
        ),
    )
