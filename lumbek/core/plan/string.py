"""How far it is between two spots of a room by a taut string, round corners and fixed partitions.

The shortest way inside a polygon bends only at corners that stick into it (visibility graph, Dijkstra over it).
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise
from math import hypot, inf

from lumbek.core.model import plan as model
from lumbek.core.plan.outline import Corner, along, corners_of, inward_of, is_inside
from lumbek.core.plan.spans import span_of

# What is nearer than this to a line counts as on it.
_EDGE_MM = 1e-6
# What comes so near to a wall closes with it.
_CLOSES_MM = 10.0


@dataclass(frozen=True)
class Rectangle:
    """What stands at a wall, in plan: its corner at the left, the steps along and out of the wall, its size."""

    start: Corner
    right: Corner
    out: Corner
    wide_mm: float
    deep_mm: float

    @cached_property
    def corners(self) -> tuple[Corner, Corner, Corner, Corner]:
        """Its corners, round."""
        return (
            self._at(0, 0),
            self._at(self.wide_mm, 0),
            self._at(self.wide_mm, self.deep_mm),
            self._at(0, self.deep_mm),
        )

    def _at(self, right_mm: float, out_mm: float) -> Corner:
        return Corner(
            self.start.x + self.right.x * right_mm + self.out.x * out_mm,
            self.start.y + self.right.y * right_mm + self.out.y * out_mm,
        )

    def into_the_wall(self) -> "Rectangle":
        """Return it as it closes with the wall behind it: there is no way round an end at a wall."""
        return Rectangle(self._at(0, -_CLOSES_MM), self.right, self.out, self.wide_mm, self.deep_mm + _CLOSES_MM)

    def own(self, spot: Corner) -> tuple[float, float]:
        """Return a spot by how far it is along and out of the rectangle, in mm."""
        dx, dy = spot.x - self.start.x, spot.y - self.start.y
        return dx * self.right.x + dy * self.right.y, dx * self.out.x + dy * self.out.y

    def nearest(self, spot: Corner) -> Corner:
        """Return the spot of it that is nearest to another: that itself where it is inside."""
        right, out = self.own(spot)
        return self._at(min(max(right, 0.0), self.wide_mm), min(max(out, 0.0), self.deep_mm))

    def holds(self, spot: Corner) -> bool:
        """Whether a spot lies inside it, its edge included."""
        right, out = self.own(spot)
        return -_EDGE_MM <= right <= self.wide_mm + _EDGE_MM and -_EDGE_MM <= out <= self.deep_mm + _EDGE_MM

    def is_crossed(self, a: Corner, b: Corner) -> bool:
        """Whether a stretch goes through it, and not only along its edge (clipping by Liang and Barsky)."""
        (ax, ay), (bx, by) = self.own(a), self.own(b)
        enter, leave = 0.0, 1.0
        for start, step, most in ((ax, bx - ax, self.wide_mm), (ay, by - ay, self.deep_mm)):
            if abs(step) < _EDGE_MM:
                if start <= _EDGE_MM or start >= most - _EDGE_MM:
                    return False
                continue
            one, other = (0 - start) / step, (most - start) / step
            enter, leave = max(enter, min(one, other)), min(leave, max(one, other))
        return leave - enter > _EDGE_MM and leave > enter


def rectangle_of(outline: model.Outline, thing: model.Thing) -> Rectangle:
    """Return a thing in plan. Raises KeyError where its wall is not there."""
    span, wall = span_of(outline, thing), outline.wall(thing.wall)
    assert wall is not None, "its span was found on it"
    left, right = along(outline, wall.id, float(span.left)), along(outline, wall.id, float(span.right))
    out = inward_of(wall)
    step = Corner((right.x - left.x) / thing.width_mm, (right.y - left.y) / thing.width_mm)
    start = Corner(left.x + out.x * thing.out_mm, left.y + out.y * thing.out_mm)
    return Rectangle(start, step, out, thing.width_mm, thing.depth_mm)


class Strings:
    """Strings in one room, round its corners and what stands in the way."""

    def __init__(self, outline: model.Outline, in_the_way: Sequence[Rectangle] = ()) -> None:
        self._in_the_way = tuple(in_the_way)
        self._corners = corners_of(outline)
        self._bends = (*self._reflex(), *self._free_corners())

    @property
    def is_convex(self) -> bool:
        """Whether every spot sees every other."""
        return not self._bends and not self._in_the_way

    def holds(self, spot: Corner) -> bool:
        """Whether a spot lies in the room or on its walls."""
        return is_inside(self._corners, spot.x, spot.y) or self._on_edge(spot)

    def from_rectangle_mm(self, rectangle: Rectangle, spot: Corner) -> float:
        """Return the shortest string from a rectangle to a spot, in mm; infinite where none gets there."""
        starts = (rectangle.nearest(spot), *rectangle.corners, *(rectangle.nearest(bend) for bend in self._bends))
        return self._shortest(starts, spot)

    def between_mm(self, one: Corner, other: Corner) -> float:
        """Return the shortest string between two spots, in mm; infinite where none gets there."""
        if self.is_convex and self.holds(one) and self.holds(other):
            return hypot(other.x - one.x, other.y - one.y)
        return self._shortest((one,), other)

    def _shortest(self, starts: Sequence[Corner], end: Corner) -> float:
        direct = min((hypot(end.x - s.x, end.y - s.y) for s in starts if self.sees(s, end)), default=inf)
        best = [
            min((hypot(bend.x - s.x, bend.y - s.y) for s in starts if self.sees(s, bend)), default=inf)
            for bend in self._bends
        ]
        open_ = set(range(len(best)))
        while open_:
            at = min(open_, key=best.__getitem__)
            open_.discard(at)
            if best[at] >= direct:
                break
            here = self._bends[at]
            if self.sees(here, end):
                direct = min(direct, best[at] + hypot(end.x - here.x, end.y - here.y))
            for other in open_:
                there = self._bends[other]
                if self.sees(here, there):
                    best[other] = min(best[other], best[at] + hypot(there.x - here.x, there.y - here.y))
        return direct

    def sees(self, a: Corner, b: Corner) -> bool:
        """Whether a straight stretch between two spots stays in the room, and goes through nothing in the way."""
        if any(each.is_crossed(a, b) for each in self._in_the_way):
            return False
        if hypot(b.x - a.x, b.y - a.y) <= _EDGE_MM:
            return True
        count = len(self._corners)
        edges = [(self._corners[at], self._corners[(at + 1) % count]) for at in range(count)]
        if any(_crosses(a, b, one, other) for one, other in edges):
            return False
        # It may run along a wall, or leave the room through a corner: its parts between corners lie inside.
        cuts = sorted({0.0, 1.0, *(t for corner in self._corners if (t := _part_at(a, b, corner)) is not None)})
        return all(self._is_inside(a, b, (one + other) / 2) for one, other in pairwise(cuts))

    def _is_inside(self, a: Corner, b: Corner, part: float) -> bool:
        x, y = a.x + (b.x - a.x) * part, a.y + (b.y - a.y) * part
        return self.holds(Corner(x, y))

    def _on_edge(self, spot: Corner) -> bool:
        count = len(self._corners)
        return any(distance_mm(spot, self._corners[at], self._corners[(at + 1) % count]) <= 1e-3 for at in range(count))

    def _reflex(self) -> list[Corner]:
        """The corners that stick into the room: where its wall turns left, going clockwise."""
        count, found = len(self._corners), []
        for at in range(count):
            before, here, after = (self._corners[(at + each) % count] for each in (-1, 0, 1))
            if _turn(before, here, after) > _EDGE_MM:
                found.append(here)
        return found

    def _free_corners(self) -> list[Corner]:
        """The corners of what is in the way that a string can go round: an end at a wall is no way round."""
        return [
            corner
            for each in self._in_the_way
            for corner in each.corners
            if is_inside(self._corners, corner.x, corner.y) and not self._on_edge(corner)
        ]


def _turn(a: Corner, b: Corner, c: Corner) -> float:
    return (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x)


def _crosses(a: Corner, b: Corner, c: Corner, d: Corner) -> bool:
    """Whether two stretches cross in the middle of both."""
    size = max(1.0, hypot(b.x - a.x, b.y - a.y) * hypot(d.x - c.x, d.y - c.y))
    one, other = _turn(a, b, c) / size, _turn(a, b, d) / size
    third, fourth = _turn(c, d, a) / size, _turn(c, d, b) / size
    tiny = 1e-9
    return one * other < 0 and third * fourth < 0 and min(map(abs, (one, other, third, fourth))) > tiny


def _part_at(a: Corner, b: Corner, spot: Corner) -> float | None:
    """Return how far along a stretch a spot lies on it, from 0 to 1; None where it lies beside it."""
    length = hypot(b.x - a.x, b.y - a.y)
    if abs(_turn(a, b, spot)) > 1e-3 * length:
        return None
    part = ((spot.x - a.x) * (b.x - a.x) + (spot.y - a.y) * (b.y - a.y)) / length**2
    return part if 0 < part < 1 else None


def distance_mm(spot: Corner, a: Corner, b: Corner) -> float:
    """Return how far a spot is from the nearest of a stretch, in mm."""
    length2 = (b.x - a.x) ** 2 + (b.y - a.y) ** 2
    part = 0.0 if length2 == 0 else ((spot.x - a.x) * (b.x - a.x) + (spot.y - a.y) * (b.y - a.y)) / length2
    part = min(max(part, 0.0), 1.0)
    return hypot(spot.x - a.x - part * (b.x - a.x), spot.y - a.y - part * (b.y - a.y))
