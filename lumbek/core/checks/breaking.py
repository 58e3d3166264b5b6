"""Breaking capacity of the circuit's device, and of those ahead of it, against the fault current where they stand."""

from collections.abc import Iterator
from typing import NamedTuple

from lumbek.core.judging.check import Check, Step
from lumbek.core.judging.question import Question
from lumbek.core.model.device import Device
from lumbek.core.numbers import plain, show
from lumbek.core.protection.conditional import UNSAID, conditional_ka, may_be_conditional
from lumbek.core.protection.who import device_name
from lumbek.core.study.study import Study

QUESTION = Question(
    "breaking", "Breaking capacity", "Can each device break the greatest fault current where it stands?", "breaking"
)


class _Breaks(NamedTuple):
    """A device that breaks faults: what it can break, and the fault current where it stands, in kA."""

    name: str
    capacity_ka: float | None
    fault_ka: float | None


def _devices(study: Study) -> Iterator[_Breaks]:
    """Yield each device that breaks faults, from the origin on.

    One ahead of the circuit is held to the fault current of the origin, whatever feeds lie between. The conditional
    rating of the board at the origin counts for the devices in it, which no feed parts from it.
    """
    book, at_origin = study.rulebook, True
    conditional = conditional_ka(book, study.supply)

    def breaks(device: Device) -> float | None:
        known = [ka for ka in (device.breaking_capacity_ka, conditional if at_origin else None) if ka]
        return max(known, default=None)

    for ahead in study.circuit.ahead:
        if ahead.device is None:
            at_origin = False
        elif book.devices[ahead.device.standard].form != "switch":
            name = ahead.name or device_name(book, ahead.device)
            yield _Breaks(name, breaks(ahead.device), study.ahead.fault_current_ka)
    if not study.ahead.behind_switch:
        own = study.circuit.device
        yield _Breaks(device_name(book, own), breaks(own), study.ahead.board_fault_current_ka)


def check_breaking(study: Study) -> Check:
    """Breaking capacity >= prospective fault current for every device on the way, kA (434.5.1).

    The conditional rating of an enclosure counts for the devices in it, behind a service fuse that it holds for.
    """
    devices = list(_devices(study))
    if not devices:
        return QUESTION.not_applicable(study, "A switch breaks no fault")
    conditional = conditional_ka(study.rulebook, study.supply)
    missing = [f"breaking capacity of {each.name}" for each in devices if each.capacity_ka is None]
    if any(each.fault_ka is None for each in devices):
        missing.append("prospective fault current of the supply")
    if missing:
        return QUESTION.cannot_tell(study, tuple(missing))
    known = [(each.name, each.capacity_ka or 0.0, each.fault_ka or 0.0) for each in devices]
    _, capacity, fault_ka = min(known, key=lambda each: each[1] / each[2])
    measured = study.supply.fault_current_ka is not None
    if not measured and capacity < fault_ka and capacity >= (study.ahead.known_fault_current_ka or 0.0):
        # The distributor's declared maximum is no finding; a measurement settles it.
        return QUESTION.cannot_tell(study, ("prospective fault current of the supply",))
    in_board = all(ahead.feed is None for ahead in study.circuit.ahead)
    if capacity < fault_ka and in_board and may_be_conditional(study.rulebook, study.supply, fault_ka):
        steps = (Step(text=f"Devices that break {plain(capacity)} kA, and {show(fault_ka)} kA may flow"),)
        return QUESTION.cannot_tell(study, (UNSAID,), steps=steps, place=study.whole)
    origin, stated = study.ahead.fault_current_ka or 0.0, study.supply.fault_current_ka or 0.0
    how = "declared maximum" if not measured else "U0 / Ze" if origin > stated else "as surveyed"
    because = (
        (Step(text="The enclosure's conditional rating behind the service fuse", sum=f"{plain(conditional)} kA"),)
        if conditional
        else ()
    )
    return QUESTION.held(
        study,
        capacity,
        fault_ka,
        "at least",
        f"{plain(capacity)} kA against {{limit}} kA",
        unit="kA",
        place=study.whole,
        steps=(
            Step(text="Prospective fault current at the origin", sum=f"{show(origin)} kA, {how}"),
            *because,
            *(
                Step(text=each, sum=f"breaks {plain(breaks)} kA, up to {show(fault)} kA there")
                for each, breaks, fault in known
            ),
        ),
    )
