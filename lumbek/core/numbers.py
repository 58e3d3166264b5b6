"""How figures are shown: rounded against the user, never in favour, and never so that a failure looks like a pass."""

from collections.abc import Callable
from math import ceil, floor
from operator import ge, le
from typing import Literal

# How a figure below zero begins, and what stands where there is none.
MINUS = "\u2212"
NONE = "–"
# Binary fractions such as 1.37 x 0.8 land a hair off the decimal that was meant; figures are taken to nine places.
_PLACES = 9
_HAIR = 0.5 * 10.0**-_PLACES


def floor_to(value: float, decimals: int) -> float:
    """Return `value` rounded down to `decimals` places: for showing an upper limit."""
    scale = 10.0**decimals
    return floor((value + _HAIR) * scale) / scale


def ceil_to(value: float, decimals: int) -> float:
    """Return `value` rounded up to `decimals` places: for showing a lower limit."""
    scale = 10.0**decimals
    return ceil((value - _HAIR) * scale) / scale


def show(value: float, decimals: int = 2) -> str:
    """Return a figure for a line of working, trailing zeros kept so that its precision can be read."""
    return f"{value:.{decimals}f}"


def show_up(value: float, decimals: int = 2) -> str:
    """Return a figure that is better low, rounded up: a drop, a loop, a current."""
    return show(ceil_to(value, decimals), decimals)


def show_down(value: float, decimals: int = 2) -> str:
    """Return a figure that is better high, rounded down: a capacity, a length one may go."""
    return show(floor_to(value, decimals), decimals)


def plain(value: float) -> str:
    """Return a figure as one would say it: 2.5, 32, 0.35, without an idle decimal point."""
    return f"{value:.10g}"


def counted(number: int, one: str, several: str) -> str:
    """Return so many of something in words: 1 point, 2 points."""
    return f"{number} {one if number == 1 else several}"


def _is_round(value: float) -> bool:
    """Whether a figure is whole, but for the hair that binary fractions put on it."""
    return abs(value - round(value)) <= _HAIR


def show_margin(margin: float, sense: Literal["at most", "at least"] | None) -> str:
    """Return in words what is left of a limit, rounded against the user; far inside a least value as a multiple."""
    if margin < 0:
        return f"{ceil_to(-100 * margin, 0):.0f} % {'short' if sense == 'at least' else 'over'}"
    return f"{floor_to(margin + 1, 0):.0f} × enough" if margin > 1 else f"{floor_to(100 * margin, 0):.0f} % left"


def show_held(
    value: float, limit: float, sense: Literal["at most", "at least"], met: bool, decimals: int
) -> tuple[str, str]:
    """Return a value and its limit as texts, both rounded against the user and told apart as the verdict has them.

    As many decimals are shown as it takes: 1.096 against 1.0956 does not read "1.10, at most 1.10: fails".
    Round figures are shown as such.
    """
    up, down = (ceil_to, floor_to) if sense == "at most" else (floor_to, ceil_to)
    meets: Callable[[float, float], bool] = le if sense == "at most" else ge
    if met and not meets(value, limit):
        # What only a hair of binary fractions puts beyond its limit is at it.
        value = limit
    for places in range(decimals, _PLACES + 1):
        shown_value, shown_limit = up(value, places), down(limit, places)
        if meets(shown_value, shown_limit) == met:
            round_limit = _is_round(limit)
            value_words = plain(shown_value) if round_limit and _is_round(value) else show(shown_value, places)
            return value_words, plain(shown_limit) if round_limit else show(shown_limit, places)
    return repr(value), repr(limit)
