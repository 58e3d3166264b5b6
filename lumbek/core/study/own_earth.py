"""The electrode that a circuit stands on instead of the house's earth, as it was measured."""

from collections.abc import Iterable

from lumbek.core.model.ahead import OwnEarth
from lumbek.core.model.reading import Quantity, Reading, figure_of, standing
from lumbek.core.model.supply import greatest_known_ohm

# The reading that measures it, on the sheet of a circuit that stands on it.
OWN: Quantity = "own-electrode"


def read_electrode_ohm(readings: Iterable[Reading]) -> float | None:
    """Return what the electrode was read at, Ω; None where it was not, or no electrode reads so."""
    return figure_of(standing(tuple(readings)), OWN) or None


def as_measured(own: OwnEarth, read_ohm: float) -> OwnEarth:
    """Return an electrode with what was read of it, Ω."""
    ohm = greatest_known_ohm(read_ohm, own.electrode_ohm, own.electrode_origin)
    return own.model_copy(update={"electrode_ohm": ohm, "electrode_origin": "measured"})
