"""How figures are shown: limits rounded against the user, never in favour."""

from decimal import ROUND_CEILING, ROUND_FLOOR, Decimal

# Binary fractions such as 1.37 x 0.8 land a hair off the decimal that was meant; nine places settle them.
_SETTLED = Decimal("1e-9")


def _settled(value: float) -> Decimal:
    return Decimal(repr(value)).quantize(_SETTLED)


def floor_to(value: float, decimals: int) -> float:
    """Return `value` rounded down to `decimals` places: for showing an upper limit."""
    return float(_settled(value).quantize(Decimal(1).scaleb(-decimals), rounding=ROUND_FLOOR))


def ceil_to(value: float, decimals: int) -> float:
    """Return `value` rounded up to `decimals` places: for showing a lower limit."""
    return float(_settled(value).quantize(Decimal(1).scaleb(-decimals), rounding=ROUND_CEILING))


def show(value: float, decimals: int = 2) -> str:
    """Return a figure for a line of working, trailing zeros kept so that its precision can be read."""
    return f"{value:.{decimals}f}"


def plain(value: float) -> str:
    """Return a figure as one would say it: 2.5, 32, 0.35, without an idle decimal point."""
    return f"{value:.10g}"
