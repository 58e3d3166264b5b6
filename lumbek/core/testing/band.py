"""The band a reading should fall in: what the network gives, with room for lengths and joints."""

from lumbek.core.numbers import show
from lumbek.core.rulebooks import Rulebook
from lumbek.core.value import Frozen


class Expected(Frozen):
    """What the tester should show, in Ω: the figure itself and the band around it; `shown` as it is printed.

    The band has room for what a sound circuit may be off: its lengths, a contact. Twice as far off no sound circuit of
    this drawing reads.
    """

    value: float
    low: float
    high: float
    shown: str

    @property
    def least(self) -> float:
        """The least that a sound circuit of this drawing can read, Ω."""
        return self.value - 2 * (self.value - self.low)

    @property
    def most(self) -> float:
        """The most that a sound circuit of this drawing can read, Ω."""
        return self.value + 2 * (self.high - self.value)


def band(rulebook: Rulebook, cable_ohm: float, fixed_ohm: float = 0.0) -> Expected:
    """Return the band for a reading of `cable_ohm` of copper on top of a known `fixed_ohm`."""
    rules = rulebook.data.testing
    value = fixed_ohm + cable_ohm
    return Expected(
        value=value,
        low=max(0.0, fixed_ohm + cable_ohm * (1 - rules.length_tolerance) - rules.digit_ohm),
        high=fixed_ohm + cable_ohm * (1 + rules.length_tolerance) + rules.contact_ohm,
        shown=show(value),
    )
