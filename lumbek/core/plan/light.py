"""The light of a room point by point: inverse square and cosine, with the fall-off of the beam; a reflected part.

I = I0 cos^m a with m = ln 0.5 / ln cos(beam / 2), so that half is left at half the beam; I0 = lumens (m + 1) / 2 pi
(all of it below). E = I0 h^(m + 1) / d^(m + 3). The reflected part is even everywhere,
(F_floor r_floor + F_walls r_walls) / (A (1 - mean r)), within about a tenth of radiosity. It is a help to choose, no
measurement; the least depends on the cells it is asked for, which the answer states.
"""

from collections.abc import Sequence
from functools import lru_cache
from math import ceil, cos, log, pi, radians
from typing import Any, NamedTuple

import numpy as np

from lumbek.core.model.plan import Outline
from lumbek.core.plan.outline import Corner, area_m2, box_round, corners_of, is_inside
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


def direct_lx(lamp: LampAbove, x: Any, y: Any, plane_mm: float) -> Any:
    """Return what one lamp gives at a spot of a level plane, in lx; nothing above itself.

    x and y are two figures, or two arrays of one shape, and so is the answer.
    """
    height_m = (lamp.height_mm - plane_mm) / 1000
    if height_m <= 0:
        return 0.0 * x
    m = exponent_of(lamp.beam_deg)
    away_m = np.hypot(np.hypot(x - lamp.x, y - lamp.y) / 1000, height_m)
    return intensity_cd(lamp.lumens, lamp.beam_deg) * (height_m / away_m) ** (m + 1) / away_m**2


def light_of(outline: Outline, lamps: Sequence[LampAbove], plane_mm: float) -> LightMap | None:
    """Return the light over a plane of a room, at the middles of cells of at most 250 mm; None without a lamp."""
    return _light_of(outline, tuple(lamps), plane_mm) if lamps else None


@lru_cache(maxsize=512)
def _light_of(outline: Outline, lamps: tuple[LampAbove, ...], plane_mm: float) -> LightMap:
    across, up, wide, deep = _cells(outline)
    x, y = np.meshgrid(np.array(across), np.array(up))
    corners = corners_of(outline)
    inside = np.array([[is_inside(corners, x, y) for x in across] for y in up])
    seen = [_seen(outline, lamp, x, y, inside) for lamp in lamps]
    direct = _direct(lamps, seen, x, y, plane_mm)
    floor = float(_direct(lamps, seen, x, y, 0.0)[inside].sum())
    reflected = _reflected_lx(outline, floor * wide * deep / 1e6, sum(lamp.lumens for lamp in lamps))
    lit = direct + reflected
    # The least; of several alike that farthest west, then south.
    least, least_x, least_y = min(zip(lit[inside].tolist(), x[inside].tolist(), y[inside].tolist(), strict=True))
    rows = zip(lit.tolist(), inside.tolist(), strict=True)
    return LightMap(
        cell_mm=(wide, deep),
        rows=tuple(tuple(lx if there else None for lx, there in zip(*row, strict=True)) for row in rows),
        average_lx=float(lit[inside].mean()),
        least_lx=least,
        reflected_lx=reflected,
        least_x=round(least_x),
        least_y=round(least_y),
    )


def _direct(lamps: Sequence[LampAbove], seen: Sequence[Any], x: Any, y: Any, plane_mm: float) -> Any:
    """Return what all lamps give each cell, in lx: rows from the south, columns from the west."""
    found = np.zeros(x.shape)
    for lamp, where in zip(lamps, seen, strict=True):
        found += where * direct_lx(lamp, x, y, plane_mm)
    return found


def _seen(outline: Outline, lamp: LampAbove, x: Any, y: Any, inside: Any) -> Any:
    """Return which cells a lamp sees: not what the walls of an L hide."""
    strings, there = Strings(outline), Corner(lamp.x, lamp.y)
    if strings.is_convex:
        return inside
    hidden = [
        not is_in or strings.sees(there, Corner(a, b))
        for a, b, is_in in zip(x.ravel().tolist(), y.ravel().tolist(), inside.ravel().tolist(), strict=True)
    ]
    return np.array(hidden).reshape(x.shape)


def _cells(outline: Outline) -> tuple[list[float], list[float], float, float]:
    left, right, low, high = box_round(outline)
    columns, rows = ceil((right - left) / CELL_MM), ceil((high - low) / CELL_MM)
    wide, deep = (right - left) / columns, (high - low) / rows
    across = [left + wide * (at + 0.5) for at in range(columns)]
    return across, [low + deep * (at + 0.5) for at in range(rows)], wide, deep


def _reflected_lx(outline: Outline, floor_lm: float, lumens: float) -> float:
    floor_m2 = area_m2(outline)
    walls_m2 = sum(wall.length_mm for wall in outline.walls) * outline.height_mm / 1e6
    whole_m2 = 2 * floor_m2 + walls_m2
    mean = (_REFLECTS_FLOOR * floor_m2 + _REFLECTS_WALLS * walls_m2 + _REFLECTS_CEILING * floor_m2) / whole_m2
    first = min(floor_lm, lumens) * _REFLECTS_FLOOR + max(lumens - floor_lm, 0.0) * _REFLECTS_WALLS
    return first / (whole_m2 * (1 - mean))
