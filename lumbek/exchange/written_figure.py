"""Figures as they leave the program."""

from typing import Any

# Far beyond what anything is known to, and short of where binary fractions show.
_DIGITS = 12


def without_noise(value: Any) -> Any:
    """Return decoded JSON with its figures rid of the noise of binary fractions: 6.000000000000001 is 6."""
    if isinstance(value, float):
        return float(f"{value:.{_DIGITS}g}")
    if isinstance(value, dict):
        return {key: without_noise(each) for key, each in value.items()}
    if isinstance(value, list | tuple):
        return [without_noise(each) for each in value]
    return value
