"""What a mark runs into: openings, leaves, radiators, hobs, sinks, other plates, walls that are too thin.

Rectangles on a wall conflict where they overlap; edges that touch do not, but boxes that touch meet.
"""

from collections.abc import Iterator, Sequence
from fractions import Fraction
from math import hypot
from typing import NamedTuple

from lumbek.core.model import plan as model
from lumbek.core.plan.guidance import plan_rules
from lumbek.core.plan.outline import along, holds, inward_of
from lumbek.core.plan.placing import MarkPlacing
from lumbek.core.plan.position import Placed, plate_width_mm
from lumbek.core.plan.recessed import recessed_troubles
from lumbek.core.plan.spans import Stretch, span_of
from lumbek.core.value import Frozen

_SOCKETS = ("socket", "fused-spur", "cooker-switch", "switch", "outlet", "data")
# What stands in front of a plate and hides it, by kind.
_HIDES = {"radiator": "behind a radiator", "stove": "behind a stove", "bath": "behind a bath", "shower": "in a shower"}
_PULLED_OUT = ("appliance", "built-in")


class Conflict(Frozen):
    """Something wrong with where a mark is: which mark, what in words, and what it runs into."""

    mark: str
    why: str
    of: str = ""


class _Plate(NamedTuple):
    """A plate on a wall: what it covers along it and up it."""

    mark: model.Mark
    across: Stretch
    up: Stretch

    def covers(self, across: Stretch, up: Stretch) -> bool:
        return self.across.overlaps(across) and self.up.overlaps(up)


def conflicts_of(placing: MarkPlacing, placed: Sequence[Placed]) -> tuple[Conflict, ...]:
    """Return everything that marks run into, mark by mark."""
    by_wall: dict[tuple[str, str], list[_Plate]] = {}
    found: list[Conflict] = []
    for each in placed:
        if each.at is None:
            found.append(Conflict(mark=each.mark.id, why=each.why))
        elif not each.at.wall:
            found += _on_ceiling(placing, each)
        else:
            plate = _plate(each)
            outline = placing.outline(each.at.room)
            others = by_wall.setdefault((each.at.room, each.at.wall), [])
            found += _in_room(outline, each, plate)
            found += _with_others(plate, others)
            others.append(plate)
    found += _back_to_back(placing, by_wall)
    return tuple(found)


def _plate(placed: Placed) -> _Plate:
    assert placed.at is not None, "only asked of what has a position"
    box, middle = placed.mark.box, placed.at.along_mm
    half, tall = Fraction(plate_width_mm(box), 2), Fraction(box.plate_height_mm, 2)
    height = Fraction(placed.height_mm or 0)
    return _Plate(placed.mark, Stretch(middle - half, middle + half), Stretch(height - tall, height + tall))


def _on_ceiling(placing: MarkPlacing, placed: Placed) -> Iterator[Conflict]:
    assert placed.at is not None
    outline = placing.outline(placed.at.room)
    if not holds(outline, placed.at.x, placed.at.y):
        yield Conflict(mark=placed.mark.id, why="outside its room")
    if placed.mark.kind == "downlight" and not placed.mark.is_existing:
        for why in recessed_troubles(outline, placed, placing.has_room_above(placed.at.room)):
            yield Conflict(mark=placed.mark.id, why=why)


def _in_room(outline: model.Outline, placed: Placed, plate: _Plate) -> Iterator[Conflict]:
    mark = placed.mark
    assert placed.at is not None
    wall = outline.wall(placed.at.wall)
    assert wall is not None, "a position names a wall that is there"
    if plate.across.left < 0 or plate.across.right > wall.length_mm:
        yield Conflict(mark=mark.id, why="past the end of its wall", of=wall.id)
    if placed.height_mm is None:
        yield Conflict(mark=mark.id, why="nobody has said how high")
        return
    if plate.up.left < 0 or plate.up.right > outline.height_mm:
        yield Conflict(mark=mark.id, why="above the ceiling or below the floor")
    if wall.depth_mm is not None and not mark.box.is_surface and mark.box.depth_mm > wall.depth_mm:
        why = f"a box of {mark.box.depth_mm} mm in a wall of {wall.depth_mm} mm"
        yield Conflict(mark=mark.id, why=why, of=wall.id)
    for opening in outline.openings:
        yield from _with_opening(outline, opening, placed, plate)
    for thing in outline.things:
        if thing.fate != "remove":
            yield from _with_thing(outline, thing, placed, plate)


def _with_opening(outline: model.Outline, opening: model.Opening, placed: Placed, plate: _Plate) -> Iterator[Conflict]:
    assert placed.at is not None
    span, up = span_of(outline, opening), Stretch(Fraction(opening.sill_mm), Fraction(opening.head_mm))
    if opening.wall == placed.at.wall and plate.covers(span, up):
        yield Conflict(mark=placed.mark.id, why=f"in the {opening.kind}", of=opening.id)
    elif opening.kind == "door" and opening.hinge is not None and opening.opens == "in":
        leaf = _leaf(outline, opening, placed.at.wall)
        if leaf is not None and plate.covers(leaf, up):
            yield Conflict(mark=placed.mark.id, why="behind the door when it is open", of=opening.id)


def _leaf(outline: model.Outline, door: model.Opening, wall_id: str) -> Stretch | None:
    """Return what the leaf of a door covers of a wall when it is open: its own beyond the hinge, or the return wall."""
    span, wall = span_of(outline, door), outline.wall(door.wall)
    assert wall is not None and door.hinge is not None
    if wall_id == door.wall:
        if door.hinge == "left":
            return Stretch(span.left - door.width_mm, span.left)
        return Stretch(span.right, span.right + door.width_mm)
    walls = outline.walls
    at = walls.index(wall)
    room_left = span.left if door.hinge == "left" else wall.length_mm - span.right
    if room_left >= plan_rules().leaf_return_mm:
        return None
    beside = walls[at - 1] if door.hinge == "left" else walls[(at + 1) % len(walls)]
    if beside.id != wall_id:
        return None
    if door.hinge == "left":
        return Stretch(Fraction(beside.length_mm - door.width_mm), Fraction(beside.length_mm))
    return Stretch(Fraction(0), Fraction(door.width_mm))


def _with_thing(outline: model.Outline, thing: model.Thing, placed: Placed, plate: _Plate) -> Iterator[Conflict]:
    assert placed.at is not None
    mark, span = placed.mark, span_of(outline, thing)
    here = thing.wall == placed.at.wall
    up = Stretch(Fraction(thing.bottom_mm), Fraction(thing.top_mm))
    if thing.kind in ("sink", "basin"):
        if mark.kind in _SOCKETS and _from_bowl_mm(outline, thing, placed, plate) < plan_rules().from_sink_mm:
            yield Conflict(mark=mark.id, why=f"within {plan_rules().from_sink_mm} mm of the {thing.kind}", of=thing.id)
    elif not here:
        return
    elif thing.kind in ("hob", "extraction"):
        over = Stretch(Fraction(thing.top_mm), Fraction(_hood_mm(outline, span, thing)))
        if thing.kind == "hob" and plate.covers(span, over):
            yield Conflict(mark=mark.id, why="over the hob", of=thing.id)
    elif plate.covers(span, up):
        if thing.kind in _HIDES:
            yield Conflict(mark=mark.id, why=_HIDES[thing.kind], of=thing.id)
        elif thing.kind in _PULLED_OUT and mark.kind in _SOCKETS and thing.can_be_pulled_out is not True:
            why = "behind what cannot be pulled out" if thing.can_be_pulled_out is False else "behind an appliance"
            more = "" if thing.can_be_pulled_out is False else ": can it be pulled out?"
            yield Conflict(mark=mark.id, why=f"{why}{more}", of=thing.id)


def _hood_mm(outline: model.Outline, span: Stretch, hob: model.Thing) -> int:
    """Return how high the space over a hob goes: to its extraction, else to the ceiling."""
    above = [
        each.bottom_mm
        for each in outline.things
        if each.kind == "extraction" and each.wall == hob.wall and span_of(outline, each).overlaps(span)
    ]
    return min(above, default=outline.height_mm)


def _from_bowl_mm(outline: model.Outline, sink: model.Thing, placed: Placed, plate: _Plate) -> float:
    """Return how far the nearest edge of a plate is from a bowl, in plan and round corners, in mm."""

    assert placed.at is not None
    span, wall = span_of(outline, sink), outline.wall(sink.wall)
    assert wall is not None
    left, right = along(outline, wall.id, float(span.left)), along(outline, wall.id, float(span.right))
    inward = inward_of(wall)
    axis = ((right.x - left.x) / sink.width_mm, (right.y - left.y) / sink.width_mm)
    nearest = float("inf")
    for mm in (plate.across.left, placed.at.along_mm, plate.across.right):
        spot = along(outline, placed.at.wall, float(mm))
        dx, dy = spot.x - left.x, spot.y - left.y
        u, v = dx * axis[0] + dy * axis[1], dx * inward.x + dy * inward.y
        aside = max(0.0, -u, u - sink.width_mm)
        away = max(0.0, sink.out_mm - v, v - sink.out_mm - sink.depth_mm)
        nearest = min(nearest, hypot(aside, away))
    return nearest


def _with_others(plate: _Plate, others: Sequence[_Plate]) -> Iterator[Conflict]:
    for other in others:
        if plate.covers(other.across, other.up) and not _replaces(plate.mark, other.mark):
            yield Conflict(
                mark=plate.mark.id, why=f"its plate meets that of {other.mark.name or other.mark.id}", of=other.mark.id
            )


def _replaces(one: model.Mark, other: model.Mark) -> bool:
    """Whether one of two goes, so that the other may come where it is."""
    return "remove" in (one.fate, other.fate)


def _back_to_back(placing: MarkPlacing, by_wall: dict[tuple[str, str], list[_Plate]]) -> Iterator[Conflict]:
    """Boxes in the two faces of one wall: together deeper than it, and one behind the other, they meet."""
    for wall in placing.between:
        length = placing.length(wall.other)
        for one in by_wall.get((wall.one.room, wall.one.wall), ()):
            for other in by_wall.get((wall.other.room, wall.other.wall), ()):
                shift = wall.offset_mm + length
                seen = Stretch(shift - other.across.right, shift - other.across.left)
                deep = one.mark.box.depth_mm + other.mark.box.depth_mm
                touch = seen.left <= one.across.right and one.across.left <= seen.right
                if deep >= wall.thickness_mm and touch and one.up.overlaps(other.up):
                    why = f"its box meets the one behind it: {deep} mm in a wall of {wall.thickness_mm} mm"
                    yield Conflict(mark=one.mark.id, why=why, of=other.mark.id)
