"""The corners of a room: whether its walls close, and by how much they do not; its area; which way round it was typed.

A wall's step is its length along its heading (plane geometry); quarter turns give whole millimetres exactly.
"""

from collections.abc import Sequence
from functools import cache
from math import cos, hypot, radians, sin
from typing import NamedTuple

from lumbek.core.model.plan import Outline, Wall
from lumbek.core.value import Frozen

_QUARTERS = {0: (0, 1), 90: (1, 0), 180: (0, -1), 270: (-1, 0)}
# By so much a tape may be out over a whole room and still be called closed.
CLOSES_MM = 10


class Corner(NamedTuple):
    """A spot in a room, in mm: x to the east and y to the north of its first corner."""

    x: float
    y: float


class Closure(Frozen):
    """Whether walls close: what is missing from the last corner to the first, and which walls may be to blame."""

    east_mm: int
    north_mm: int
    suspects: tuple[str, ...] = ()

    @property
    def gap_mm(self) -> int:
        """How far the last corner is from the first."""
        return round(hypot(self.east_mm, self.north_mm))

    @property
    def closes(self) -> bool:
        """Whether a tape may read so."""
        return self.gap_mm <= CLOSES_MM


def step_of(wall: Wall) -> Corner:
    """Return how far a wall goes, east and north in mm."""
    if wall.heading in _QUARTERS:
        east, north = _QUARTERS[wall.heading]
        return Corner(wall.length_mm * east, wall.length_mm * north)
    angle = radians(wall.heading)
    return Corner(wall.length_mm * sin(angle), wall.length_mm * cos(angle))


def inward_of(wall: Wall) -> Corner:
    """Return the unit step into the room from a wall: to the right of how it runs."""
    east, north = step_of(wall)
    return Corner(north / wall.length_mm, -east / wall.length_mm)


@cache
def corners_of(outline: Outline) -> tuple[Corner, ...]:
    """Return the left end of each wall, in their order; the first is at (0, 0)."""
    found, x, y = [], 0.0, 0.0
    for wall in outline.walls:
        found.append(Corner(x, y))
        east, north = step_of(wall)
        x, y = x + east, y + north
    return tuple(found)


class BoxRound(NamedTuple):
    """The box round a room, in mm east and north of its first corner."""

    west: float
    east: float
    south: float
    north: float

    @property
    def whole(self) -> tuple[int, int, int, int]:
        """West, east, south and north in whole mm."""
        return round(self.west), round(self.east), round(self.south), round(self.north)


def box_round(outline: Outline) -> BoxRound:
    """Return the box round a room."""
    xs, ys = zip(*corners_of(outline), strict=True)
    return BoxRound(min(xs), max(xs), min(ys), max(ys))


def closure_of(walls: Sequence[Wall]) -> Closure:
    """Return what is missing from the end of the last wall to the start of the first.

    A gap along one axis names its suspects: the walls that run along it, or whose length is short or long by the gap.
    """
    steps = [step_of(wall) for wall in walls]
    east, north = -sum(step.x for step in steps), -sum(step.y for step in steps)
    found = Closure(east_mm=round(east), north_mm=round(north))
    if found.closes:
        return found
    along_x, along_y = abs(east) > CLOSES_MM, abs(north) > CLOSES_MM
    suspects = tuple(
        wall.id
        for wall, step in zip(walls, steps, strict=True)
        if (not along_x or abs(step.x) > 1) and (not along_y or abs(step.y) > 1)
    )
    return found.model_copy(update={"suspects": suspects})


def twice_area_mm2(walls: Sequence[Wall]) -> float:
    """Return twice the area within walls, in mm²: negative where they run clockwise (the shoelace formula)."""
    total, x, y = 0.0, 0.0, 0.0
    for wall in walls:
        east, north = step_of(wall)
        total += x * (y + north) - (x + east) * y
        x, y = x + east, y + north
    return total


def area_m2(outline: Outline) -> float:
    """Return the area of a room in m²."""
    return abs(twice_area_mm2(outline.walls)) / 2e6


def clockwise(walls: Sequence[Wall]) -> tuple[Wall, ...]:
    """Return walls so that they run clockwise, whichever way they were typed: each then runs the other way."""
    if twice_area_mm2(walls) <= 0:
        return tuple(walls)
    return tuple(wall.model_copy(update={"heading": (wall.heading + 180) % 360}) for wall in reversed(walls))


def crosses_itself(walls: Sequence[Wall]) -> bool:
    """Whether two walls that are no neighbours meet or cross: then it is no room."""
    ends, x, y = [], 0.0, 0.0
    for wall in walls:
        east, north = step_of(wall)
        ends.append((Corner(x, y), Corner(x + east, y + north)))
        x, y = x + east, y + north
    last = len(ends) - 1
    return any(
        _meet(*ends[one], *ends[other])
        for one in range(len(ends))
        for other in range(one + 2, len(ends))
        if (one, other) != (0, last)
    )


def _turn(a: Corner, b: Corner, c: Corner) -> float:
    return (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x)


def _meet(a: Corner, b: Corner, c: Corner, d: Corner) -> bool:
    """Whether two stretches meet, ends included."""
    if max(a.x, b.x) < min(c.x, d.x) or max(c.x, d.x) < min(a.x, b.x):
        return False
    if max(a.y, b.y) < min(c.y, d.y) or max(c.y, d.y) < min(a.y, b.y):
        return False
    return _turn(a, b, c) * _turn(a, b, d) <= 0 and _turn(c, d, a) * _turn(c, d, b) <= 0


def along(outline: Outline, wall_id: str, mm: float) -> Corner:
    """Return the spot on a wall so far from its left end. Raises KeyError where the wall is not there."""
    for corner, wall in zip(corners_of(outline), outline.walls, strict=True):
        if wall.id == wall_id:
            east, north = step_of(wall)
            return Corner(corner.x + east * mm / wall.length_mm, corner.y + north * mm / wall.length_mm)
    raise KeyError(wall_id)


def holds(outline: Outline, x: float, y: float) -> bool:
    """Whether a spot lies inside a room."""
    return is_inside(corners_of(outline), x, y)


def is_inside(corners: Sequence[Corner], x: float, y: float) -> bool:
    """Whether a spot lies inside these corners (even and odd crossings of a ray to the east)."""
    inside = False
    for at, one in enumerate(corners):
        other = corners[(at + 1) % len(corners)]
        if (one.y > y) != (other.y > y) and x < one.x + (other.x - one.x) * (y - one.y) / (other.y - one.y):
            inside = not inside
    return inside
