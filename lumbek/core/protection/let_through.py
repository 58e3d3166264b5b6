"""The energy that reaches a circuit before its device has cleared a fault."""

from dataclasses import dataclass
from math import log

from lumbek.core.judging.check import Step
from lumbek.core.model.device import Device
from lumbek.core.numbers import plain, show
from lumbek.core.protection.who import device_name
from lumbek.core.rulebooks import Rulebook

# The times in s that fuses are listed for.
_FUSE_TIMES_S = (0.4, 5.0)


@dataclass(frozen=True)
class Energy:
    """The energy in A²s that a device lets through, how it was found, and whether it is only a bound on it."""

    a2s: float
    step: Step
    bound: bool = False


def let_through(rulebook: Rulebook, device: Device, fault_ka: float, least_fault_a: float | None) -> Energy | None:
    """Return the energy that reaches what a device protects, or None where neither table nor formula gives it.

    Breakers: their maker's figure where it is stated; else the least of the class 3 limit of EN 60898-1 at the fault
    current, I² through a half-cycle, and I² x 0.1 s. None of these is more than a bound, so they may pass a conductor
    and never fail it. Fuses: by their curve at `least_fault_a`, the current of a fault at the far end, which lasts
    longest.
    """
    if device.let_through_a2s is not None:
        step = Step(
            text=f"{device_name(rulebook, device)}: its maker's figure", sum=f"{device.let_through_a2s:.0f} A²s"
        )
        return Energy(device.let_through_a2s, step)
    if device.curve is None:
        return _of_a_fuse(rulebook, device, least_fault_a)
    rules = rulebook.data.withstand
    listed = rulebook.let_through_a2s(device, fault_ka)
    # A half-cycle is what today's breakers are made for; of the old ones only their standard's time is known.
    time_s = rules.fast_s if device.standard == "bs3871" else rules.half_cycle_s
    for_its_time = (fault_ka * 1000) ** 2 * time_s
    if listed is not None and listed[0] <= for_its_time:
        text = f"Class 3 limit of {device_name(rulebook, device)} up to {plain(listed[1])} kA"
        return Energy(listed[0], Step(text=text, sum=f"{listed[0]:.0f} A²s"), bound=True)
    text = f"I² × {plain(time_s)} s at the fault current of the board"
    return Energy(for_its_time, Step(text=text, sum=f"{for_its_time:.0f} A²s"), bound=True)


def _of_a_fuse(rulebook: Rulebook, device: Device, least_fault_a: float | None) -> Energy | None:
    """Return the energy of a fuse: I² t by its curve, through the two currents that the tables give.

    From the current of the shorter time on the element melts by what heats it, so I² t stays what it is there. A
    current that does not act within the longer time counts as that which does: its loop fails by itself. Where the
    shorter time is not listed its current is in the proportion that the fuses of its kind have, and only bounds.
    """
    quick_s, slow_s = _FUSE_TIMES_S
    least, trip = (rulebook.trip_current_a(device, time) for time in (slow_s, quick_s))
    if least is None:
        return None
    alike = trip is None
    if trip is None:
        trip = least * _proportion(rulebook, device)
    name = device_name(rulebook, device)
    if least_fault_a is None or least_fault_a >= trip:
        energy = trip**2 * quick_s
        like = ", in proportion to its kind" if alike else ""
        text = f"{name}: I² t at {plain(quick_s)} s{like}, which greater currents do not exceed"
        # What is listed of cartridge fuses is slower than they are; a wire in the air has no more than its curve.
        bound = alike or not rulebook.devices[device.standard].semi_enclosed
        return Energy(energy, Step(text=text, sum=f"{show(trip)}² × {plain(quick_s)} = {energy:.0f} A²s"), bound=bound)
    current = max(least_fault_a, least)
    # Straight between the two on double logarithmic paper, as the curves are drawn.
    part = log(current / least) / log(trip / least) if trip > least else 0.0
    acts_s = slow_s * (quick_s / slow_s) ** part
    energy = current**2 * acts_s
    text = f"{name}: by its curve {show(acts_s)} s at the current of a fault at the far end"
    return Energy(energy, Step(text=text, sum=f"{show(current)}² × {show(acts_s)} = {energy:.0f} A²s"), bound=alike)


def _proportion(rulebook: Rulebook, device: Device) -> float:
    """Return how much greater the current of the shorter time is, as the largest smaller fuse of the kind has it.

    1 where no fuse of the kind has both: then the longer time counts for every current.
    """
    for rating in sorted(rulebook.devices[device.standard].ratings_a, reverse=True):
        fuse = device.model_copy(update={"rating_a": rating})
        quick, slow = (rulebook.published_zs_ohm(fuse, time) for time in _FUSE_TIMES_S)
        if rating < device.rating_a and quick is not None and slow is not None:
            return slow / quick
    return 1.0
