"""Whether a device ahead leaves the faults of a circuit to the circuit's own."""

from lumbek.core.model.device import Device
from lumbek.core.numbers import plain
from lumbek.core.rulebooks import Rulebook


def selective(rulebook: Rulebook, upstream: Device, own: Device) -> tuple[bool, str]:
    """Return whether a device ahead leaves the faults of a circuit to the circuit's own, and why.

    RCDs: the upstream one delayed and of at least three times IΔn (531.3.6). Overcurrent: a rating of so many
    times the downstream one; full selectivity of breakers in series is for their maker's tables.
    """
    if upstream.rcd is not None and own.rcd is not None:
        ratio = rulebook.data.residual.selective_ratio
        if not upstream.rcd.delayed or upstream.rcd.rated_ma < ratio * own.rcd.rated_ma:
            return False, f"its RCD must be time-delayed (S) and at least {plain(ratio * own.rcd.rated_ma)} mA"
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
