"""The light of a room point by point: inverse square and cosine, with the fall-off of the beam; a reflected part.

I = I0 cos^m a with m = ln 0.5 / ln cos(beam / 2), so that half is left at half the beam; I0 = lumens (m + 1) / 2 pi
(all of it below). E = I0 h^(m + 1) / d^(m + 3). The reflected part is even everywhere,
(F_floor r_floor + F_walls r_walls) / (A (1 - mean r)), within about a tenth of radiosity. It is a help to choose, no
measurement; the least depends on the cells it is asked for, which the answer states.
"""

from collections.abc import Sequence
from math import ceil, cos, hypot, log, pi, radians
from typing import NamedTuple

from lumbek.core.model.plan import Outline
from lumbek.core.plan.outline import Corner, area_m2, box_round, holds
from lumbek.core.plan.string import Strings
from lumbek.core.value import Frozen

CELL_MM = 250
_REFLECTS_FLOOR, _REFLECTS_WALLS, _REFLECTS_CEILING = 0.2, 0.5, 0.7


class LampAbove(NamedTuple):
    """A lamp that shines straight down: where, from how high, how much, how wide."""

    x: float
    y: float
    height_mm: float
    lumens: float
    beam_deg: float


class LightMap(Frozen):
    """Illuminance over a plane, lx: row by row from the south, None outside the room; average, least, uniformity."""

    cell_mm: tuple[float, float]
    rows: tuple[tuple[float | None, ...], ...]
    average_lx: float
    least_lx: float
    reflected_lx: float
    least_x: int
    least_y: int

    @property
    def uniformity(self) -> float:
        """The least by the average."""
        return self.least_lx / self.average_lx if self.average_lx else 0.0


def exponent_of(beam_deg: float) -> float:
    """Return m of a beam, whose edge has half of what its middle has."""
    return log(0.5) / log(cos(radians(beam_deg / 2)))


def intensity_cd(lumens: float, beam_deg: float) -> float:
    """Return the intensity in the middle of a beam, in cd."""
    return lumens * (exponent_of(beam_deg) + 1) / (2 * pi)


def direct_lx(lamp: LampAbove, x: float, y: float, plane_mm: float) -> float:
    """Return what one lamp gives at a spot of a level plane, in lx; nothing above itself."""
    height_m = (lamp.height_mm - plane_mm) / 1000
    if height_m <= 0:
        return 0.0
    m = exponent_of(lamp.beam_deg)
    away_m = hypot(hypot(x - lamp.x, y - lamp.y) / 1000, height_m)
    ratio: float = intensity_cd(lamp.lumens, lamp.beam_deg) * (height_m / away_m) ** (m + 1) / away_m**2
    return ratio


def light_of(outline: Outline, lamps: Sequence[LampAbove], plane_mm: float) -> LightMap | None:
    """Return the light over a plane of a room, at the middles of cells of at most 250 mm; None without a lamp."""
    if not lamps:
        return None
    across, up, wide, deep = _cells(outline)
    strings = Strings(outline)
    inside = [[holds(outline, x, y) for x in across] for y in up]
    direct = [
        [_lit(strings, lamps, x, y, plane_mm) if there else None for x, there in zip(across, row, strict=True)]
        for y, row in zip(up, inside, strict=True)
    ]
    floor = sum(
        _lit(strings, lamps, x, y, 0.0)
        for y, row in zip(up, inside, strict=True)
        for x, there in zip(across, row, strict=True)
        if there
    )
    reflected = _reflected_lx(outline, floor * wide * deep / 1e6, sum(lamp.lumens for lamp in lamps))
    rows = tuple(tuple(None if lx is None else lx + reflected for lx in row) for row in direct)
    lit = [
        (lx, x, y) for row, y in zip(rows, up, strict=True) for lx, x in zip(row, across, strict=True) if lx is not None
    ]
    least, x, y = min(lit)
    return LightMap(
        cell_mm=(wide, deep),
        rows=rows,
        average_lx=sum(lx for lx, _, _ in lit) / len(lit),
        least_lx=least,
        reflected_lx=reflected,
        least_x=round(x),
        least_y=round(y),
    )


def _cells(outline: Outline) -> tuple[list[float], list[float], float, float]:
    left, right, low, high = box_round(outline)
    columns, rows = ceil((right - left) / CELL_MM), ceil((high - low) / CELL_MM)
    wide, deep = (right - left) / columns, (high - low) / rows
    across = [left + wide * (at + 0.5) for at in range(columns)]
    return across, [low + deep * (at + 0.5) for at in range(rows)], wide, deep


def _lit(strings: Strings, lamps: Sequence[LampAbove], x: float, y: float, plane_mm: float) -> float:
    """What lamps give that the walls of an L do not hide."""
    spot = Corner(x, y)
    return sum(
        direct_lx(lamp, x, y, plane_mm)
        for lamp in lamps
        if strings.is_convex or strings.sees(Corner(lamp.x, lamp.y), spot)
    )


def _reflected_lx(outline: Outline, floor_lm: float, lumens: float) -> float:
    floor_m2 = area_m2(outline)
    walls_m2 = sum(wall.length_mm for wall in outline.walls) * outline.height_mm / 1e6
    whole_m2 = 2 * floor_m2 + walls_m2
    mean = (_REFLECTS_FLOOR * floor_m2 + _REFLECTS_WALLS * walls_m2 + _REFLECTS_CEILING * floor_m2) / whole_m2
    first = min(floor_lm, lumens) * _REFLECTS_FLOOR + max(lumens - floor_lm, 0.0) * _REFLECTS_WALLS
    return first / (whole_m2 * (1 - mean))
