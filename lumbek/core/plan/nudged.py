"""A grid of lamps in its room, nudged off the joists over it; worked out once for the same room and the same lamps."""

from collections.abc import Iterator
from functools import lru_cache

from lumbek.core.model import plan as model
from lumbek.core.plan.grid import Barred, GridSpan, Nudged, nudge
from lumbek.core.plan.outline import box_round


def grid_in(outline: model.Outline, rule: model.InGrid, lamp: model.LampSaid) -> tuple[Nudged, ...]:
    """Return the least grid that clears the joists of a room, in mm; a second where that is dear."""
    west, east, south, north = box_round(outline).whole
    clear_mm = -(-lamp.cut_out_mm // 2) + lamp.clear_mm
    bars = bars_over(outline, lamp)
    across = GridSpan(west, east, rule.columns, rule.spacing_mm)
    return _nudged(across, GridSpan(south, north, rule.rows, rule.spacing_mm), bars, clear_mm)


def grid_chosen(outline: model.Outline, rule: model.InGrid, lamp: model.LampSaid) -> Nudged | None:
    """Return the grid that a rule goes by: the symmetric one, or the nearer one that is not; None where none clears."""
    grids = grid_in(outline, rule, lamp)
    if not grids:
        return None
    return grids[-1] if rule.is_unsymmetric else grids[0]


def bars_over(outline: model.Outline, lamp: model.LampSaid) -> tuple[Barred, ...]:
    """Return what is over a ceiling that a lamp's cut-out has to clear, in plan, as far as it touches the room.

    Joists, pipes, ducts and beams; and the ends of the joists, by the length of the driver that is pushed in between.
    """
    west, east, south, north = box_round(outline).whole
    found = [*_joists(outline)]
    for each in outline.above:
        if each.runs == "n":
            found.append(Barred(west + each.at_mm, west + each.at_mm + each.width_mm, south, north))
        else:
            found.append(Barred(west, east, south + each.at_mm, south + each.at_mm + each.width_mm))
    # What is clear round the cut-out counts towards the driver's room.
    end = 0 if lamp.driver_mm is None else max(lamp.driver_mm - lamp.clear_mm, 0)
    if outline.joists is not None and end:
        if outline.joists.runs == "n":
            found += [Barred(west, east, south, south + end), Barred(west, east, north - end, north)]
        else:
            found += [Barred(west, west + end, south, north), Barred(east - end, east, south, north)]
    return tuple(found)


def _joists(outline: model.Outline) -> Iterator[Barred]:
    joists, (west, east, south, north) = outline.joists, box_round(outline).whole
    if joists is None:
        return
    start, end = (west, east) if joists.runs == "n" else (south, north)
    for edge in range(start + joists.first_mm % joists.pitch_mm - joists.pitch_mm, end, joists.pitch_mm):
        if joists.runs == "n":
            yield Barred(edge, edge + joists.width_mm, south, north)
        else:
            yield Barred(west, east, edge, edge + joists.width_mm)


@lru_cache(maxsize=256)
def _nudged(across: GridSpan, up: GridSpan, barred: tuple[Barred, ...], clear_mm: int) -> tuple[Nudged, ...]:
    return nudge(across, up, barred, clear_mm)
