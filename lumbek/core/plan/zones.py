"""The zone of a bath or shower that a mark is in, by distance (BS 7671 701.32, IEC 60364-7-701).

Zone 0 is inside the tub or tray; zone 1 above it, to 2.25 m or the highest fixed head if that is higher; zone 2 to
0.60 m beside, as high. Without a tray zone 0 is 0.10 m high and zone 1 goes 1.20 m round the fixed head; there is no
zone 2. Beside is measured by a string round walls and fixed partitions that are as high as the zone.
"""

from collections.abc import Sequence
from math import isinf
from typing import Literal

from lumbek.core.model import plan as model
from lumbek.core.plan.outline import Corner, along, inward_of
from lumbek.core.plan.placing import MarkPlacing
from lumbek.core.plan.position import Placed, plate_width_mm
from lumbek.core.plan.spans import span_of
from lumbek.core.plan.string import Rectangle, Strings, rectangle_of
from lumbek.core.value import Frozen

TOP_MM, BESIDE_MM, NO_TRAY_MM, FLOOR_MM = 2250, 600, 1200, 100
ZoneWord = Literal["0", "1", "2", "outside", "unknown"]
_ORDER: tuple[ZoneWord, ...] = ("0", "1", "2", "unknown", "outside")
_NOWHERE = "no string gets there: it is not in the room, or walled off"
_NONE = "nobody has said whether the shower has a tray"


class MarkZone(Frozen):
    """The zone of a mark: by which bath or shower, how far from zone 1; `why` where it cannot be told."""

    mark: str
    zone: ZoneWord
    of: str
    from_zone_1_mm: int
    why: str = ""


def zones_of(placing: MarkPlacing, placed: Sequence[Placed]) -> tuple[MarkZone, ...]:
    """Return the zone of every mark in a room with a bath or a shower: the gravest of several."""
    found = []
    for each in placed:
        if each.at is None:
            continue
        outline = placing.outline(each.at.room)
        wet = [thing for thing in outline.things if thing.kind in ("bath", "shower") and thing.fate != "remove"]
        told = [_zone(outline, thing, each) for thing in wet]
        if told:
            found.append(min(told, key=lambda one: (_ORDER.index(one.zone), one.from_zone_1_mm)))
    return tuple(found)


def _zone(outline: model.Outline, wet: model.Thing, placed: Placed) -> MarkZone:
    height = placed.height_mm
    if height is None or (wet.kind == "shower" and wet.tray is None):
        why = _NONE if height is not None else "nobody has said how high it is"
        return MarkZone(mark=placed.mark.id, zone="unknown", of=wet.id, from_zone_1_mm=0, why=why)
    top = max(TOP_MM, wet.head_mm or 0)
    away = min(_away_mm(outline, wet, spot, top) for spot in _spots(outline, placed))
    if isinf(away):
        return MarkZone(mark=placed.mark.id, zone="unknown", of=wet.id, from_zone_1_mm=0, why=_NOWHERE)
    lowest = height - placed.mark.box.plate_height_mm / 2
    zone = _by_distance(wet, away, lowest, top)
    if zone == "outside" and lowest > top and wet.kind == "shower" and wet.head_mm is None:
        why = "above 2.25 m: is a fixed head higher?"
        if _by_distance(wet, away, top, top) != "outside":
            return MarkZone(mark=placed.mark.id, zone="unknown", of=wet.id, from_zone_1_mm=round(away), why=why)
    # Shown against the user: never farther than it is.
    return MarkZone(mark=placed.mark.id, zone=zone, of=wet.id, from_zone_1_mm=int(away))


def _by_distance(wet: model.Thing, away_mm: float, lowest_mm: float, top_mm: int) -> ZoneWord:
    """Return the zone of what is so far from zone 1 in plan, its lower edge so high."""
    if lowest_mm > top_mm:
        return "outside"
    if away_mm <= 0:
        return "0" if lowest_mm < (FLOOR_MM if wet.tray is False else wet.top_mm) else "1"
    if wet.tray is False:
        return "outside"
    return "2" if away_mm <= BESIDE_MM else "outside"


def _away_mm(outline: model.Outline, wet: model.Thing, spot: Corner, top_mm: int) -> float:
    """Return how far a spot is from zone 1 in plan, by a string; 0 inside it."""
    partitions = [
        rectangle_of(outline, each).into_the_wall()
        for each in outline.things
        if each.kind == "partition" and each.top_mm >= top_mm and each.fate != "remove"
    ]
    strings = Strings(outline, partitions)
    if wet.kind == "shower" and wet.tray is False:
        span, wall = span_of(outline, wet), outline.wall(wet.wall)
        assert wall is not None, "its span was found on it"
        head, out = along(outline, wall.id, float(span.middle)), inward_of(wall)
        head = Corner(head.x + out.x * wet.out_mm, head.y + out.y * wet.out_mm)
        return max(0.0, strings.between_mm(head, spot) - NO_TRAY_MM)
    tub: Rectangle = rectangle_of(outline, wet)
    return 0.0 if tub.holds(spot) else strings.from_rectangle_mm(tub, spot)


def _spots(outline: model.Outline, placed: Placed) -> list[Corner]:
    """Return the spots of a mark in plan: its middle, and the ends of its plate where it is on a wall."""
    assert placed.at is not None, "only asked of what has a position"
    here = Corner(placed.at.x, placed.at.y)
    wall = outline.wall(placed.at.wall) if placed.at.wall else None
    if wall is None:
        return [here]
    half = plate_width_mm(placed.mark.box) / 2
    middle = float(placed.at.along_mm)
    ends = (min(max(middle + each, 0.0), wall.length_mm) for each in (-half, half))
    return [here, *(along(outline, wall.id, mm) for mm in ends)]
