"""Which pipe takes what is drawn into it: by fill, less by its bends; and where a box is needed to draw from.

Fill: the sum of the outside diameters squared over the inner one squared, 45 % at most; a twentieth less for each bend
after the second (a firm's rule where no standard has a figure). Inner diameters are the least of EN 61386-22, about.
"""

from collections.abc import Sequence
from functools import cache
from math import ceil

from lumbek.core.rulebooks.tables import DATA, rows

MOST_FILL, LESS_PER_BEND, FREE_BENDS = 0.45, 0.05, 2
# A pull of so much, or of so many bends, wants a box.
MOST_MM, MOST_BENDS = 15_000, 3


@cache
def _inner_mm() -> dict[int, float]:
    return {int(row["size_mm"]): float(row["inner_mm"]) for row in rows(DATA / "common" / "pipe_size.csv")}


def fill_of(diameters_mm: Sequence[float], size_mm: int) -> float:
    """Return how full a pipe is, as a part."""
    inner = _inner_mm()[size_mm]
    return float(sum(each**2 for each in diameters_mm) / inner**2)


def most_fill(bends: int) -> float:
    """Return how full a pipe with so many bends may be."""
    return MOST_FILL - LESS_PER_BEND * max(bends - FREE_BENDS, 0)


def pipe_for(diameters_mm: Sequence[float], bends: int) -> int | None:
    """Return the smallest pipe that takes what is drawn in; None where none does."""
    sizes = (size for size in sorted(_inner_mm()) if fill_of(diameters_mm, size) <= most_fill(bends) + 1e-9)
    return next(sizes, None)


def draw_boxes(mm: int, bends: int) -> int:
    """Return how many boxes are put between, so that no pull is too long or has too many bends."""
    pulls = max(ceil(mm / MOST_MM), ceil(bends / MOST_BENDS), 1)
    return pulls - 1
