"""The greatest resistance of an electrode beside an RCD."""

from lumbek.core.rulebooks import Rulebook


def electrode_limit_ohm(book: Rulebook, rated_ma: float) -> float:
    """Return RA in Ω at most: RA × IΔn, in mA, no more than 50 V (BS 7671 411.5.3; IEC 60364-4-41, 411.5.3)."""
    return book.data.fault_protection.touch_voltage_v / (rated_ma / 1000)
