"""The electrode that a circuit stands on instead of the house's earth, as it was measured."""

from collections.abc import Iterable

from lumbek.core.model.ahead import OwnEarth
from lumbek.core.model.reading import Quantity, Reading, standing

# The reading that measures it, on the sheet of a circuit that stands on it.
OWN: Quantity = "own-electrode"


def read_electrode_ohm(readings: Iterable[Reading]) -> float | None:
    """Return what the electrode was read at, Ω; None where it was not, or lies beyond the display."""
    found = standing(tuple(each for each in readings if each.quantity == OWN)).get((OWN, None))
    return None if found is None or found.beyond or not found.value else found.value


def as_measured(own: OwnEarth, read_ohm: float) -> OwnEarth:
    """Return an electrode with what was read of it, which stands for what was only declared.

    Of figures that are not declared the greater counts: the loop is no better than the worst that is known of it.
    """
    noted = None if own.electrode_origin == "declared" else own.electrode_ohm
    return own.model_copy(update={"electrode_ohm": max(read_ohm, noted or 0.0), "electrode_origin": "measured"})
