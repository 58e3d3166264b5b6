"""Breaking capacity of the circuit's device, and of those ahead of it, against the fault current where they stand."""

from collections.abc import Iterator, Sequence
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


_FAULT_CURRENT = "prospective fault current of the supply"


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


def _missing(devices: Sequence[_Breaks]) -> tuple[str, ...]:
    capacities = tuple(f"breaking capacity of {each.name}" for each in devices if each.capacity_ka is None)
    return capacities + (_FAULT_CURRENT,) * any(each.fault_ka is None for each in devices)


def check_breaking(study: Study) -> Check:
    """Breaking capacity >= prospective fault current for every device on the way, kA (434.5.1).

    The conditional rating of an enclosure counts for the devices in it, behind a service fuse that it holds for.
    """
    devices = list(_devices(study))
    if not devices:
        return QUESTION.not_applicable(study, "A switch breaks no fault")
    missing = _missing(devices)
    if missing:
        return QUESTION.cannot_tell(study, missing)
    known = [(each.name, each.capacity_ka or 0.0, each.fault_ka or 0.0) for each in devices]
    _, capacity, fault_ka = min(known, key=lambda each: each[1] / each[2])
    return _not_sure(study, capacity, fault_ka) or QUESTION.held(
        study,
        capacity,
        fault_ka,
        "at least",
        f"{plain(capacity)} kA against {{limit}} kA",
        unit="kA",
        place=study.whole,
        steps=(
            *_origin(study),
            *(
                Step(text=name, sum=f"breaks {plain(breaks)} kA, up to {show(fault)} kA there")
                for name, breaks, fault in known
            ),
        ),
    )


def _not_sure(study: Study, capacity: float, fault_ka: float) -> Check | None:
    """Return what is asked where a device breaks less than may flow, as far as is known, and that is no finding yet."""
    if capacity >= fault_ka:
        return None
    declared = study.supply.fault_current_ka is None
    if declared and capacity >= (study.ahead.known_fault_current_ka or 0.0):
        # The distributor's declared maximum is no finding; a measurement settles it.
        return QUESTION.cannot_tell(study, (_FAULT_CURRENT,))
    in_board = all(ahead.feed is None for ahead in study.circuit.ahead)
    if in_board and may_be_conditional(study.rulebook, study.supply, fault_ka):
        steps = (Step(text=f"Devices that break {plain(capacity)} kA, and {show(fault_ka)} kA may flow"),)
        return QUESTION.cannot_tell(study, (UNSAID,), steps=steps, place=study.whole)
    return None


def _origin(study: Study) -> Iterator[Step]:
    """Yield where the fault current at the origin comes from, and what the enclosure there is good for."""
    origin, stated = study.ahead.fault_current_ka or 0.0, study.supply.fault_current_ka
    how = "declared maximum" if stated is None else "U0 / Ze" if origin > stated else "as surveyed"
    yield Step(text="Prospective fault current at the origin", sum=f"{show(origin)} kA, {how}")
    conditional = conditional_ka(study.rulebook, study.supply)
    if conditional:
        yield Step(text="The enclosure's conditional rating behind the service fuse", sum=f"{plain(conditional)} kA")
