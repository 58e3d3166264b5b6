"""A grid of lamps in its room, nudged off the joists over it; worked out once for the same room and the same lamps."""

from functools import lru_cache

from lumbek.core.model import plan as model
from lumbek.core.plan.grid import Barred, GridSpan, Nudged, nudge
from lumbek.core.plan.outline import box_round


def grid_in(outline: model.Outline, rule: model.InGrid, lamp: model.LampSaid) -> tuple[Nudged, ...]:
    """Return the least grid that clears the joists of a room, in mm; a second where that is dear."""
    west, east, south, north = box_round(outline).whole
    clear_mm = -(-lamp.cut_out_mm // 2) + lamp.clear_mm
    return _nudged(GridSpan(west, east, rule.columns), GridSpan(south, north, rule.rows), bars_over(outline), clear_mm)


def bars_over(outline: model.Outline) -> tuple[Barred, ...]:
    """Return the joists over a room in plan, as far as they touch it."""
    joists, (west, east, south, north) = outline.joists, box_round(outline).whole
    if joists is None:
        return ()
    start, end = (west, east) if joists.runs == "n" else (south, north)
    edges = range(start + joists.first_mm % joists.pitch_mm - joists.pitch_mm, end, joists.pitch_mm)
    if joists.runs == "n":
        return tuple(Barred(edge, edge + joists.width_mm, south, north) for edge in edges)
    return tuple(Barred(west, east, edge, edge + joists.width_mm) for edge in edges)


@lru_cache(maxsize=256)
def _nudged(across: GridSpan, up: GridSpan, barred: tuple[Barred, ...], clear_mm: int) -> tuple[Nudged, ...]:
    return nudge(across, up, barred, clear_mm)
