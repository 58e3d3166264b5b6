"""Where the rooms of a house lie: one frame for all that lean on each other, by shared walls and by what is over what.

x runs east and y north in mm, from the first corner of the first room of each group. Rooms that nothing ties to others
are groups of their own. Where two ways to one room disagree, by how much is told, and the first way stands.
"""

from collections.abc import Iterator, Mapping, Sequence
from math import hypot
from typing import NamedTuple

from lumbek.core.model import plan as model
from lumbek.core.model.places import Places, Room, folded
from lumbek.core.plan.outline import CLOSES_MM, BoxRound, along, box_round, inward_of, step_of
from lumbek.core.value import Frozen

USUAL_BUILD_UP_MM = 300


class Disagreement(Frozen):
    """Two ways to one room that end apart."""

    room: str
    by_mm: int


class InFrame(NamedTuple):
    """Where the first corner of a room is in its group."""

    group: int
    x: float
    y: float


class HouseFrame(NamedTuple):
    """Where each room lies, and what disagrees."""

    rooms: Mapping[str, InFrame]
    disagreements: tuple[Disagreement, ...]


class _Tie(NamedTuple):
    """From one room's first corner to another's."""

    to: str
    x: float
    y: float


def frame_of(rooms: Sequence[Room], between: Sequence[model.SharedWall]) -> HouseFrame:
    """Return where the measured rooms lie; in the order they were listed, by the fewest ties."""
    ties = _ties(rooms, between)
    found: dict[str, InFrame] = {}
    apart: dict[str, int] = {}
    group = 0
    for start in ties:
        if start in found:
            continue
        found[start] = InFrame(group, 0.0, 0.0)
        waiting = [start]
        while waiting:
            here = waiting.pop(0)
            _, x, y = found[here]
            for tie in ties[here]:
                there = InFrame(group, x + tie.x, y + tie.y)
                if tie.to not in found:
                    found[tie.to] = there
                    waiting.append(tie.to)
                else:
                    off = round(hypot(found[tie.to].x - there.x, found[tie.to].y - there.y))
                    if off > CLOSES_MM:
                        apart[max(here, tie.to)] = off
        group += 1
    told = tuple(Disagreement(room=room, by_mm=off) for room, off in sorted(apart.items()))
    return HouseFrame(found, told)


def _ties(rooms: Sequence[Room], between: Sequence[model.SharedWall]) -> dict[str, list[_Tie]]:
    outlines = {room.id: room.outline for room in rooms if room.outline is not None}
    found: dict[str, list[_Tie]] = {room: [] for room in outlines}
    for one, other, x, y in (*_by_walls(outlines, between), *_by_seats(rooms, outlines)):
        found[one].append(_Tie(other, x, y))
        found[other].append(_Tie(one, -x, -y))
    return found


def _by_walls(
    outlines: Mapping[str, model.Outline], between: Sequence[model.SharedWall]
) -> Iterator[tuple[str, str, float, float]]:
    for shared in between:
        one, other = outlines.get(shared.one.room), outlines.get(shared.other.room)
        wall = None if one is None else one.wall(shared.one.wall)
        face = None if other is None else other.wall(shared.other.wall)
        if one is None or other is None or wall is None or face is None:
            continue
        # The right end of the other face is as far along this one, and the wall's thickness out of the room.
        start, inward = along(one, wall.id, shared.offset_mm), inward_of(wall)
        end = along(other, face.id, face.length_mm)
        x = start.x - inward.x * shared.thickness_mm - end.x
        y = start.y - inward.y * shared.thickness_mm - end.y
        yield shared.one.room, shared.other.room, x, y


def _by_seats(rooms: Sequence[Room], outlines: Mapping[str, model.Outline]) -> Iterator[tuple[str, str, float, float]]:
    for room in rooms:
        seat = room.seat
        if seat is None or room.id not in outlines or seat.of not in outlines:
            continue
        own, its = box_round(outlines[room.id]), box_round(outlines[seat.of])
        yield seat.of, room.id, its.west + seat.east_mm - own.west, its.south + seat.north_mm - own.south


def runs_against(one: model.Wall, other: model.Wall) -> bool:
    """Whether two walls can be the two faces of one: they run opposite ways."""
    a, b = step_of(one), step_of(other)
    turn = (a.x * b.y - a.y * b.x) / one.length_mm / other.length_mm
    return abs(turn) < 1e-3 and a.x * b.x + a.y * b.y < 0


def floor_levels_mm(places: Places) -> dict[str, int]:
    """Return how high the finished floor of each storey is above the lowest one, in mm.

    Storeys are listed from the top down. Up from each: its own height, by its floor or else its highest room, and what
    is built up above it; 300 mm of that where nobody has said.
    """
    level, found = 0, {}
    for storey in reversed(places.storeys):
        if storey.floor.is_apart:
            found[storey.id] = 0
            continue
        found[storey.id] = level
        floor = storey.floor
        level += floor.height_mm or _highest_mm(places, storey.id)
        level += floor.build_up_mm if floor.build_up_mm is not None else USUAL_BUILD_UP_MM
    return found


def _highest_mm(places: Places, storey: str) -> int:
    heights = [r.outline.height_mm for r in places.rooms if r.storey == storey and r.outline is not None]
    return max(heights, default=2400)


def rooms_below_others(places: Places) -> frozenset[str]:
    """Return the rooms that another room lies over, as far as seats and storeys tell: lofts do not count.

    By the frame where both rooms are in it; a room that nothing ties to the storey above is not said to be below it.
    """
    frame = frame_of(places.rooms, places.between)
    order = {storey.id: at for at, storey in enumerate(s for s in places.storeys if not s.floor.is_apart)}
    boxes = {room.id: _box(frame, room) for room in places.rooms if room.id in frame.rooms and room.outline is not None}
    found = set()
    for low in places.rooms:
        for high in places.rooms:
            if low.id not in boxes or high.id not in boxes or "loft" in folded(high.name):
                continue
            above = order.get(high.storey or "")
            if above is None or order.get(low.storey or "") != above + 1:
                continue
            if frame.rooms[low.id].group == frame.rooms[high.id].group and _overlap(boxes[low.id], boxes[high.id]):
                found.add(low.id)
    return frozenset(found)


def _box(frame: HouseFrame, room: Room) -> BoxRound:
    assert room.outline is not None, "only measured rooms are in a frame"
    own, (_, x, y) = box_round(room.outline), frame.rooms[room.id]
    return BoxRound(own.west + x, own.east + x, own.south + y, own.north + y)


def _overlap(one: BoxRound, other: BoxRound) -> bool:
    across = one.west < other.east and other.west < one.east
    return across and one.south < other.north and other.south < one.north
