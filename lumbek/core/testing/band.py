"""The band a reading should fall in: what the network gives, with room for lengths and joints."""

from lumbek.core.result import Frozen

# Lengths scaled off a plan or paced out are good to about a tenth.
LENGTH_TOLERANCE = 0.10
# Probe contact and terminals between them add up to this much on a sound circuit.
CONTACT_OHM = 0.05
# One digit of the display.
DIGIT_OHM = 0.01
# Change of copper's resistance per K from 20 °C (BS 7671 Appendix 3: R = R20 (1 + 0.004 (t - 20))).
PER_KELVIN = 0.004


class Expected(Frozen):
    """What the tester should show, in Ω: the figure itself and the band around it."""

    value: float
    low: float
    high: float


def temperature_factor(ambient_c: float) -> float:
    """Return the factor on 20 °C resistance at an ambient temperature in °C."""
    return 1 + PER_KELVIN * (ambient_c - 20)


def band(cable_ohm: float, fixed_ohm: float = 0.0) -> Expected:
    """Return the band for a reading of `cable_ohm` of copper on top of a known `fixed_ohm`."""
    return Expected(
        value=fixed_ohm + cable_ohm,
        low=max(0.0, fixed_ohm + cable_ohm * (1 - LENGTH_TOLERANCE) - DIGIT_OHM),
        high=fixed_ohm + cable_ohm * (1 + LENGTH_TOLERANCE) + CONTACT_OHM,
    )
