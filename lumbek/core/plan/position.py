"""Where a mark is, or why it is nowhere."""

from fractions import Fraction
from typing import NamedTuple

from lumbek.core.model import plan as model
from lumbek.core.plan.spans import whole_mm


class Position(NamedTuple):
    """Where a mark is: on a wall, so far from its left end; or on the ceiling, where `wall` is empty."""

    room: str
    wall: str
    along_mm: Fraction
    x: float
    y: float


class Placed(NamedTuple):
    """A mark with where it comes and how high; without a position it says why."""

    mark: model.Mark
    at: Position | None
    height_mm: int | None
    why: str = ""

    @property
    def left_mm(self) -> int:
        """How far it is from the left end of its wall, in whole millimetres."""
        assert self.at is not None, "only asked of what has a position"
        return whole_mm(self.at.along_mm)


class PlacingError(Exception):
    """A rule leads nowhere; the message says why."""


# A plate is wider by so much for each gang after the first.
_GANG_MM = 60


def plate_width_mm(box: model.MarkBox) -> int:
    """Return how wide a plate of several gangs is: 86 mm, 146 mm."""
    return box.plate_width_mm + _GANG_MM * (box.gangs - 1)
