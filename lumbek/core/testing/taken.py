"""The readings of one circuit beside its predicted figures."""

from collections.abc import Mapping
from dataclasses import dataclass

from lumbek.core.model.reading import Key, Quantity, Reading, figure_of
from lumbek.core.study.study import Study

Readings = Mapping[Key, Reading]


@dataclass(frozen=True)
class Taken:
    """What has been read of a circuit, with the insulation of its fellows in MΩ and the copper's temperature in °C.

    `ranged` where some length is only known within a range: then a reading may lie far from what is expected.
    """

    study: Study
    readings: Readings
    peers_mohm: tuple[float, ...] = ()
    ambient_c: float = 20.0
    ranged: bool = False

    def value(self, quantity: Quantity, point: str | None = None) -> float | None:
        """Return the figure read, or None where there is none or it lies beyond the display."""
        return figure_of(self.readings, quantity, point)
