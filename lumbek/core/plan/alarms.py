"""Whether alarms reach every spot of a ceiling, and are far enough from walls, lights and what burns.

How far is measured by a string, round the corner of an L (BS 5839-6, BS EN 50292; the figures are in `plan.json`).
"""

from collections.abc import Iterable, Sequence
from functools import lru_cache
from math import hypot, isinf

from lumbek.core.model import plan as model
from lumbek.core.plan.guidance import plan_rules
from lumbek.core.plan.outline import Corner, box_round, corners_of, is_inside
from lumbek.core.plan.position import Placed
from lumbek.core.plan.string import Strings, distance_mm, rectangle_of
from lumbek.core.value import Frozen

_STEP_MM = 500
_LIGHTS = ("light", "downlight")


class AlarmReach(Frozen):
    """How far the farthest spot of a ceiling is from the nearest alarm of a kind, and how far it may be."""

    kind: str
    farthest_mm: int
    most_mm: int
    x: int
    y: int

    @property
    def is_covered(self) -> bool:
        """Whether no spot is farther."""
        return self.farthest_mm <= self.most_mm


def reach_of(outline: model.Outline, alarms: Sequence[Placed], kind: str) -> AlarmReach | None:
    """Return how far the alarms of a kind reach in a room; None where there are none in it, or they hear no ceiling."""
    heads = tuple(Corner(each.at.x, each.at.y) for each in alarms if each.mark.kind == kind and each.at is not None)
    return None if not heads or kind == "co-alarm" else _reach(outline, heads, kind)


@lru_cache(maxsize=512)
def _reach(outline: model.Outline, heads: tuple[Corner, ...], kind: str) -> AlarmReach | None:
    strings = Strings(outline)
    heads = tuple(head for head in heads if strings.holds(head))
    if not heads:
        return None
    spots = [*corners_of(outline), *_inside(outline)]
    found = [(min(strings.between_mm(head, spot) for head in heads), spot) for spot in spots]
    farthest, spot = max(found, key=lambda each: each[0])
    rules = plan_rules().alarms[kind]
    # Up, never down: a limit is not rounded in favour.
    return AlarmReach(
        kind=kind, farthest_mm=-int(-farthest // 1), most_mm=rules.reach_mm, x=round(spot.x), y=round(spot.y)
    )


def _inside(outline: model.Outline) -> Iterable[Corner]:
    box, corners = box_round(outline), corners_of(outline)
    x = box.west + _STEP_MM / 2
    while x < box.east:
        y = box.south + _STEP_MM / 2
        while y < box.north:
            if is_inside(corners, x, y):
                yield Corner(x, y)
            y += _STEP_MM
        x += _STEP_MM


def troubles_of(outline: model.Outline, alarm: Placed, others: Sequence[Placed]) -> tuple[str, ...]:
    """Return in words what an alarm is too near to, or too far from."""
    rules = plan_rules().alarms.get(alarm.mark.kind)
    if rules is None or alarm.at is None:
        return ()
    here, found = Corner(alarm.at.x, alarm.at.y), []
    if alarm.mark.kind == "co-alarm":
        return tuple(_from_flames(outline, here))
    if alarm.height_mm is not None and outline.height_mm - alarm.height_mm > rules.most_from_ceiling_mm:
        found.append(f"more than {rules.most_from_ceiling_mm} mm below the ceiling")
    if not alarm.at.wall and _from_walls_mm(outline, here) < rules.from_wall_mm:
        found.append(f"within {rules.from_wall_mm} mm of a wall")
    for other in others:
        if other.at is None or other.mark.kind not in _LIGHTS or other.at.room != alarm.at.room:
            continue
        if hypot(other.at.x - here.x, other.at.y - here.y) < rules.from_light_mm:
            found.append(f"within {rules.from_light_mm} mm of {other.mark.name or other.mark.id}")
    return tuple(found)


def _from_walls_mm(outline: model.Outline, spot: Corner) -> float:
    corners = corners_of(outline)
    return min(distance_mm(spot, one, corners[(at + 1) % len(corners)]) for at, one in enumerate(corners))


def _from_flames(outline: model.Outline, here: Corner) -> Iterable[str]:
    rules, least = plan_rules().alarms["co-alarm"], plan_rules().co_least_mm
    strings = Strings(outline)
    flames = [each for each in outline.things if each.kind == "stove" and each.fate != "remove"]
    if not flames:
        yield "no stove or fire is drawn in this room"
    for flame in flames:
        stove = rectangle_of(outline, flame)
        away = 0.0 if stove.holds(here) else strings.from_rectangle_mm(stove, here)
        if away == 0:
            yield f"over {flame.name or 'the stove'}"
        elif isinf(away):
            yield f"not in the room of {flame.name or 'the stove'}"
        elif not least <= away <= rules.reach_mm:
            wanted = f"{least / 1000:g} to {rules.reach_mm / 1000:g} m"
            yield f"{away / 1000:.2f} m from {flame.name or 'the stove'}: {wanted}"
