"""How full is a box? The ends of its cables beside the room behind what sits in it, by a rule of the firm's."""

from collections.abc import Sequence
from math import ceil, pi
from typing import NamedTuple

from lumbek.core.model.cable import Cable
from lumbek.core.model.plan import Mark
from lumbek.core.rulebooks.cable_size import singles_mm2, size_of
from lumbek.core.work.box_fit import box_rules, least_depth_mm


class BoxEnd(NamedTuple):
    """The end of a cable in a box: how many cores it has, its cpc among them, and how thick they are."""

    cores: int
    csa_mm2: float


def taken_mm3(ends: Sequence[BoxEnd]) -> float:
    """Return the room that cable ends take in mm³: each core as a single, as long as it is left to be made off."""
    return sum(each.cores * _across_mm2(each.csa_mm2) * box_rules().end_mm for each in ends)


def _across_mm2(csa_mm2: float) -> float:
    """Return the cross-section of a core with its insulation in mm²: πd²/4 of such a single, or the next known."""
    singles = singles_mm2()
    known = next((each for each in singles if each >= csa_mm2), singles[-1])
    size = size_of(Cable(type="single-core", csa_mm2=known))
    assert size is not None, "a single's size is in the table"
    return pi * size.wide_mm**2 / 4


def room_mm3(mark: Mark, depth_mm: float) -> float | None:
    """Return the room behind what sits in a box so deep, in mm³; None for what sits in none."""
    rules = box_rules()
    body = rules.body_mm.get(mark.kind)
    if body is None:
        return None
    wide = rules.inner_mm + rules.each_gang_more_mm * (mark.box.gangs - 1)
    return max(depth_mm - body, 0.0) * wide * rules.inner_mm


def fill_percent(mark: Mark, ends: Sequence[BoxEnd], depth_mm: float) -> int | None:
    """Return how much of the room in a box so deep its cable ends take, in percent, rounded up; None for no box."""
    room = room_mm3(mark, depth_mm)
    if room is None:
        return None
    return ceil(100 * taken_mm3(ends) / room) if room else 100


def too_full(mark: Mark, ends: Sequence[BoxEnd]) -> str:
    """Return what is said of a box that is too full; nothing of one that is not, or is on the surface."""
    fill = fill_percent(mark, ends, mark.box.depth_mm)
    most = box_rules().most_fill_percent
    if fill is None or fill <= most or mark.box.is_surface:
        return ""
    return f"Its cables fill {fill} % of the room behind what sits in it: {most} % at most by the firm's rule."


def least_box_mm(mark: Mark, ends: Sequence[BoxEnd], boxes_mm: Sequence[int]) -> int | None:
    """Return the shallowest of some boxes that is deep enough and not too full; None where none of them is."""
    least = least_depth_mm(mark, [each.csa_mm2 for each in ends]) or 0
    return next((each for each in sorted(boxes_mm) if each >= least and _holds(mark, ends, each)), None)


def _holds(mark: Mark, ends: Sequence[BoxEnd], depth_mm: int) -> bool:
    fill = fill_percent(mark, ends, depth_mm)
    return fill is None or fill <= box_rules().most_fill_percent
