"""The energy that reaches a circuit before its device has cleared a fault."""

from dataclasses import dataclass

from lumbek.core.model.device import Device
from lumbek.core.numbers import plain, show
from lumbek.core.protection.who import device_name
from lumbek.core.result import Step
from lumbek.core.study.study import Study


@dataclass(frozen=True)
class Energy:
    """The energy in A²s that a device lets through, how it was found, and whether it is only a bound on it."""

    a2s: float
    step: Step
    bound: bool = False


def let_through(study: Study, device: Device, fault_ka: float) -> Energy | None:
    """Return the energy that reaches the circuit, or None where neither table nor formula gives it.

    Breakers: the lesser of I² x 0.1 s and the class 3 limit of EN 60898-1, which holds at 6 kA; below that it is
    taken in proportion to the current (the published 3 kA figures lie under that line). Fuses: Ia² t at the
    disconnection time, which greater currents do not exceed.
    """
    if device.curve is None:
        return _of_a_fuse(study, device)
    rules = study.rulebook.data.withstand
    bound = (fault_ka * 1000) ** 2 * rules.fast_s
    listed = study.rulebook.let_through_a2s(device)
    if (
        listed is not None
        and fault_ka <= rules.let_through_at_ka
        and listed * fault_ka / rules.let_through_at_ka < bound
    ):
        energy = listed * fault_ka / rules.let_through_at_ka
        text = f"Class 3 limit of {device_name(study.rulebook, device)}, in proportion to the fault current"
        return Energy(
            energy,
            Step(
                text=text, sum=f"{listed:.0f} × {show(fault_ka)} / {plain(rules.let_through_at_ka)} = {energy:.0f} A²s"
            ),
        )
    step = Step(text=f"I² × {plain(rules.fast_s)} s at the fault current of the board", sum=f"{bound:.0f} A²s")
    # Up to the current of the table this is less than the class allows, so it decides; above it is all there is.
    return Energy(bound, step, bound=listed is None or fault_ka > rules.let_through_at_ka)


def _of_a_fuse(study: Study, device: Device) -> Energy | None:
    book = study.rulebook
    final = book.kinds[study.circuit.kind].final
    time_s = book.disconnection_time_s(device, study.group, final, study.ahead.earthing or "TN-S")
    trip = book.trip_current_a(device, time_s)
    if trip is None:
        return None
    energy = trip**2 * time_s
    text = f"{device_name(study.rulebook, device)}: Ia² t at {plain(time_s)} s"
    return Energy(energy, Step(text=text, sum=f"{show(trip)}² × {plain(time_s)} = {energy:.0f} A²s"), bound=True)
