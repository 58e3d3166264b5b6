"""Where what was measured lies on its wall, from the left end: exact, as fractions of a millimetre."""

from fractions import Fraction
from math import floor
from typing import NamedTuple

from lumbek.core.model.plan import Measured, Outline


class Stretch(NamedTuple):
    """A stretch of a wall, in mm from its left end."""

    left: Fraction
    right: Fraction

    @property
    def middle(self) -> Fraction:
        """The middle of it."""
        return (self.left + self.right) / 2

    def overlaps(self, other: "Stretch") -> bool:
        """Whether two stretches have more than an edge in common."""
        return self.left < other.right and other.left < self.right


def span_of(outline: Outline, part: Measured) -> Stretch:
    """Return where an opening or a thing lies on its wall. Raises KeyError where the wall is not there."""
    wall = outline.wall(part.wall)
    if wall is None:
        raise KeyError(part.wall)
    if part.side == "left":
        return Stretch(Fraction(part.offset_mm), Fraction(part.offset_mm + part.width_mm))
    right = wall.length_mm - part.offset_mm
    return Stretch(Fraction(right - part.width_mm), Fraction(right))


def whole_mm(exact: Fraction) -> int:
    """Return a figure in whole millimetres, halves away from nought: rounded once, where it is shown."""
    return floor(exact + Fraction(1, 2)) if exact >= 0 else -floor(-exact + Fraction(1, 2))
