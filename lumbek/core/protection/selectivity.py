"""Whether a device ahead leaves the faults of a circuit to the circuit's own."""

from dataclasses import dataclass
from math import sqrt

from lumbek.core.judging.check import Verdict
from lumbek.core.model.device import Device
from lumbek.core.numbers import plain, show
from lumbek.core.protection.let_through import let_through
from lumbek.core.protection.who import device_name
from lumbek.core.rulebooks import Rulebook


@dataclass(frozen=True)
class Selectivity:
    """Whether the downstream device goes alone, up to which fault in kA that is sure, and why."""

    verdict: Verdict
    why: str
    up_to_ka: float | None = None


def selective(rulebook: Rulebook, upstream: Device, own: Device, fault_ka: float | None) -> Selectivity:
    """Return whether a device ahead leaves the faults of a circuit to the circuit's own (536.4).

    RCDs: the upstream one delayed, the own one not, and of at least three times IΔn (531.3.6). Overcurrent: a greater
    rating, for overloads; for faults of up to `fault_ka` the least current of the upstream breaker's magnetic release,
    or the energy that melts the upstream fuse against what the downstream device lets through. Never a ratio of
    ratings, but of two fuses, whose standard makes it so.
    """
    before, rcd = upstream.known_rcd, own.known_rcd
    if before is not None and rcd is not None and rcd.rated_ma is not None:
        least = rulebook.data.residual.selective_ratio * rcd.rated_ma
        if before.delayed and rcd.delayed:
            return Selectivity(Verdict.FAIL, "both RCDs are time-delayed (S): neither waits for the other")
        if not before.delayed or (before.rated_ma or 0.0) < least:
            return Selectivity(Verdict.FAIL, f"its RCD must be time-delayed (S) and at least {plain(least)} mA")
    if not rulebook.protects(upstream):
        return Selectivity(Verdict.PASS, "a switch does not trip")
    if not rulebook.protects(own):
        return Selectivity(Verdict.FAIL, f"only {device_name(rulebook, upstream)} clears the fault")
    if upstream.rating_a <= own.rating_a:
        why = (
            f"{plain(upstream.rating_a)} A ahead is no more than {plain(own.rating_a)} A: an overload may open it first"
        )
        return Selectivity(Verdict.FAIL, why)
    if upstream.curve is not None:
        return _behind_breaker(rulebook, upstream, own, fault_ka)
    if own.curve is None:
        return _two_fuses(rulebook, upstream, own)
    return _behind_fuse(rulebook, upstream, own, fault_ka)


def _behind_breaker(rulebook: Rulebook, upstream: Device, own: Device, fault_ka: float | None) -> Selectivity:
    """Compare the currents of the magnetic releases: below the least of the upstream one it stays put."""
    name = device_name(rulebook, upstream)
    stays_a = rulebook.data.selectivity.least_multiple[upstream.curve or "B"] * upstream.rating_a
    if own.curve is not None:
        surely_a = rulebook.data.fault_protection.trip_multiple[upstream.curve or "B"] * upstream.rating_a
        waits_a = rulebook.data.selectivity.least_multiple[own.curve] * own.rating_a
        if surely_a <= waits_a:
            return Selectivity(Verdict.FAIL, f"{name} surely trips at {plain(surely_a)} A, where the other still waits")
    up_to = f"{name} stays put up to {plain(stays_a)} A"
    if fault_ka is not None and fault_ka * 1000 <= stays_a:
        return Selectivity(Verdict.PASS, f"{up_to}, and no fault here is greater", stays_a / 1000)
    return Selectivity(Verdict.CANNOT_TELL, f"{up_to}; beyond that both may trip: makers' tables say", stays_a / 1000)


def _two_fuses(rulebook: Rulebook, upstream: Device, own: Device) -> Selectivity:
    """Fuses of one kind part where the ratio of their ratings is 1.6 (IEC 60269-1)."""
    ratio_a = rulebook.data.residual.rating_ratio
    fits = upstream.rating_a >= ratio_a * own.rating_a
    sense = "at least" if fits else "less than"
    why = f"{plain(upstream.rating_a)} A is {sense} {plain(ratio_a)} × {plain(own.rating_a)} A"
    return Selectivity(Verdict.PASS if fits else Verdict.FAIL, why)


def _behind_fuse(rulebook: Rulebook, upstream: Device, own: Device, fault_ka: float | None) -> Selectivity:
    """Compare what melts the fuse with what the breaker lets through, A²s."""
    rules, name = rulebook.data.selectivity, device_name(rulebook, upstream)
    melts = _prearcing_a2s(rulebook, upstream)
    if melts is None:
        return Selectivity(Verdict.CANNOT_TELL, f"what melts {name} is not known: its maker's curve says")
    # However the breaker limits it, a half-cycle of this current does not melt the fuse.
    up_to_ka = sqrt(melts / rules.half_cycle_s) / 1000
    if fault_ka is None:
        return Selectivity(Verdict.CANNOT_TELL, f"up to {show(up_to_ka)} kA; the fault current is not known", up_to_ka)
    energy = let_through(rulebook, own, fault_ka, None)
    if energy is None:
        return Selectivity(
            Verdict.CANNOT_TELL, f"what {device_name(rulebook, own)} lets through is not known", up_to_ka
        )
    held = f"{energy.a2s:.0f} A²s at {show(fault_ka)} kA, and {name} melts at {melts:.0f} A²s"
    if energy.a2s <= melts:
        return Selectivity(Verdict.PASS, held, max(fault_ka, up_to_ka))
    if not energy.bound:
        return Selectivity(Verdict.FAIL, held, up_to_ka)
    return Selectivity(Verdict.CANNOT_TELL, f"up to {show(up_to_ka)} kA; beyond, makers' tables say: {held}", up_to_ka)


def _prearcing_a2s(rulebook: Rulebook, fuse: Device) -> float | None:
    """Return the least energy that melts a fuse, by its rating or the next smaller listed; None where none is."""
    rules = rulebook.data.selectivity
    if fuse.standard not in rules.prearcing_of:
        return None
    known = [(float(rating), a2s) for rating, a2s in rules.prearcing_a2s.items() if float(rating) <= fuse.rating_a]
    return max(known)[1] if known else None
