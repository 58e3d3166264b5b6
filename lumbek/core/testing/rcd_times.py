"""How soon, and of a delayed one how late, an RCD trips in its test."""

from lumbek.core.model.device import Rcd
from lumbek.core.rulebooks import Rulebook


def trip_bounds_ms(rulebook: Rulebook, rcd: Rcd | None, five: bool) -> tuple[float, float]:
    """Return the least and the greatest trip time in ms at IΔn or at 5 IΔn (EN 61008-1): a delayed RCD waits."""
    rules, delayed = rulebook.data.testing, rcd is not None and rcd.delayed
    if five:
        return rules.rcd_s_five_times_ms if delayed else (0.0, rules.rcd_five_times_ms)
    return rules.rcd_s_trip_ms if delayed else (0.0, rules.rcd_trip_ms)
