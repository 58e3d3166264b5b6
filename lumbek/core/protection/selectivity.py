"""Whether a device ahead leaves the faults of a circuit to the circuit's own."""

from lumbek.core.model.device import Device
from lumbek.core.numbers import plain
from lumbek.core.rulebooks import Rulebook


def selective(rulebook: Rulebook, upstream: Device, own: Device) -> tuple[bool, str]:
    """Return whether a device ahead leaves the faults of a circuit to the circuit's own, and why.

    RCDs: the upstream one delayed and of at least three times IΔn (531.3.6). Overcurrent: a rating of so many
    times the downstream one; full selectivity of breakers in series is for their maker's tables.
    """
    before, rcd = upstream.known_rcd, own.known_rcd
    if before is not None and rcd is not None and rcd.rated_ma is not None:
        least = rulebook.data.residual.selective_ratio * rcd.rated_ma
        if not before.delayed or (before.rated_ma or 0.0) < least:
            return False, f"its RCD must be time-delayed (S) and at least {plain(least)} mA"
    if not rulebook.devices[upstream.standard].overload_protection:
        return True, "a switch does not trip"
    ratio_a = rulebook.data.residual.rating_ratio
    if upstream.rating_a < ratio_a * own.rating_a:
        return False, f"{plain(upstream.rating_a)} A is less than {plain(ratio_a)} × {plain(own.rating_a)} A"
    return (
        True,
        f"{plain(upstream.rating_a)} A is at least {plain(ratio_a)} × {plain(own.rating_a)} A; "
        "makers' tables say up to what fault",
    )
