"""Where cable may lie in a house: walls with their openings, the layers over and under its rooms, the ends of legs.

All in whole mm in the frame of the house. A layer is the space over a storey: under the floor above it, or the roof.
"""

from collections.abc import Mapping
from functools import cached_property
from math import hypot
from typing import NamedTuple

from lumbek.core.model import plan as model
from lumbek.core.model.places import Places, Room
from lumbek.core.plan.frame import HouseFrame, floor_levels_mm, frame_of
from lumbek.core.plan.outline import along, box_round, holds, step_of
from lumbek.core.plan.placing import MarkPlacing
from lumbek.core.plan.position import Placed
from lumbek.core.plan.spans import span_of

# Boxes of rooms reach so far over their walls: rooms beside each other are one layer.
OVER_WALL_MM = 200


class Panel(NamedTuple):
    """The space over one room: its box, which joists lie in it, and whether they are drilled to cross them."""

    room: str
    west: int
    east: int
    south: int
    north: int
    joists: model.Joists | None
    is_drilled: bool
    is_insulated: bool
    # Whether it is what lies under the floor of its room, and not over its ceiling.
    is_floor: bool

    @property
    def joist_centres(self) -> tuple[float, ...]:
        """The middles of its joists, along the axis that they do not run along; none where nobody has said."""
        joists = self.joists
        if joists is None:
            return ()
        start, end = (self.west, self.east) if joists.runs == "n" else (self.south, self.north)
        first = start + joists.first_mm % joists.pitch_mm - joists.pitch_mm
        centres = (edge + joists.width_mm / 2 for edge in range(first, end, joists.pitch_mm))
        return tuple(each for each in centres if start < each < end)

    def holds(self, x: float, y: float, over: int = 0) -> bool:
        """Whether a spot lies in it, or so far over its edge."""
        return self.west - over <= x <= self.east + over and self.south - over <= y <= self.north + over


class PipeAbove(NamedTuple):
    """A pipe over the ceiling of a room: which way it runs, its edges across that, and its ends along it."""

    room: str
    storey: str
    runs: str
    edges: tuple[int, int]
    ends: tuple[int, int]


class RoutedFace(NamedTuple):
    """A wall as it is seen in a room: its left end in the frame, its step, and what is in the way in it."""

    room: str
    wall: model.Wall
    storey: int
    x: float
    y: float
    height_mm: int
    # From left to right and from bottom to top, in mm.
    holes: tuple[tuple[int, int, int, int], ...]

    @property
    def is_masonry(self) -> bool:
        """Whether cable is cut into it; of what nobody has said what it is built of that is reckoned with."""
        return self.wall.build in (None, "brick", "block", "stone")

    def spot(self, mm: int) -> tuple[int, int]:
        """Return a spot along it in the frame."""
        step = step_of(self.wall)
        part = mm / self.wall.length_mm
        return round(self.x + step.x * part), round(self.y + step.y * part)

    def along(self, x: int, y: int) -> int:
        """Return how far a spot of the frame is along it from its left end."""
        step = step_of(self.wall)
        return round(((x - self.x) * step.x + (y - self.y) * step.y) / hypot(step.x, step.y))

    def is_open(self, left: int, right: int, low: int, high: int) -> bool:
        """Whether a stretch of it, upright or level, meets no opening; along the edge of one it is beside it."""
        return not any(left < b and a < right and low < d and c < high for a, b, c, d in self.holes)


class LegEnd(NamedTuple):
    """Where a leg may end: at a mark, on a wall or on a ceiling."""

    mark: str
    room: str
    wall: str
    at_mm: int
    height_mm: int
    x: int
    y: int


def _is_in_room(outline: model.Outline, placed: Placed) -> bool:
    """Whether a mark is on its wall, or over its room: past the end or the ceiling no cable is led to it."""
    at, height, left = placed.at, placed.height_mm, placed.left_mm
    assert at is not None, "only asked of what has a position"
    if not at.wall:
        return holds(outline, at.x, at.y)
    wall = outline.wall(at.wall)
    on_wall = wall is not None and left is not None and 0 <= left <= wall.length_mm
    return on_wall and height is not None and 0 <= height <= outline.height_mm


class LayOfHouse:
    """A house as cable sees it."""

    def __init__(self, places: Places, rulebook: str) -> None:
        self.places = places
        self.placing = MarkPlacing(places, rulebook)
        self.frame: HouseFrame = frame_of(places.rooms, places.between)
        # From the lowest up; what is apart is a storey by itself, with nothing over or under it.
        stacked = [storey for storey in reversed(places.storeys) if not storey.floor.is_apart]
        order = [*stacked, *(storey for storey in places.storeys if storey.floor.is_apart)]
        self._level = {storey.id: at for at, storey in enumerate(order)}
        self._stacked = max(len(stacked), 1)
        floors = floor_levels_mm(places)
        # Rooms of which nobody has said the storey lie on the lowest.
        self._floor_mm = [floors[storey.id] for storey in order] or [0]
        self._floors = [storey.floor for storey in order] or [model.Floor()]
        self._ids = [storey.id for storey in order] or [""]

    @property
    def storeys(self) -> int:
        """Return how many storeys there are."""
        return len(self._floor_mm)

    def level_of(self, room: Room) -> int:
        """Return the storey of a room, the lowest is 0."""
        return self._level.get(room.storey or "", 0)

    def storey_id(self, level: int) -> str:
        """Return the id of a storey; nothing where no storeys are said."""
        return self._ids[level]

    def has_below(self, level: int) -> bool:
        """Whether a storey stands on another one: the space under its floor is that one's layer."""
        return 0 < level < self._stacked

    def is_top(self, level: int) -> bool:
        """Whether there is nothing but the roof over a storey."""
        return level >= self._stacked - 1

    def floor_mm(self, level: int) -> int:
        """Return how high a storey's finished floor is over the lowest one."""
        return self._floor_mm[level]

    def joist_depth_mm(self, level: int) -> int | None:
        """Return how deep the joists over a storey are; None where nobody has said."""
        return self._floors[level].joist_depth_mm

    def screed_mm(self, level: int) -> int | None:
        """Return how much screed lies on a storey's floor; None where nobody has said.

        What is built up on a floor is said with the storey under it; of a house of one storey with its own.
        """
        if self.has_below(level):
            return self._floors[level - 1].screed_mm
        return self._floors[level].screed_mm if self.is_top(level) else None

    @cached_property
    def measured(self) -> tuple[Room, ...]:
        """The rooms that are measured."""
        return tuple(room for room in self.places.rooms if room.outline is not None)

    @cached_property
    def layers(self) -> tuple[tuple[int, int], ...]:
        """Every layer: over which storey, of which group of rooms; groups that nothing ties have nothing in common."""
        groups = sorted({seat.group for seat in self.frame.rooms.values()})
        return tuple((level, group) for level in range(self.storeys) for group in groups)

    def layer_of(self, level: int, room: str) -> int:
        """Return the place in the list of the layer over a storey, for the group of a room."""
        return self.layers.index((level, self.frame.rooms[room].group))

    @cached_property
    def panels(self) -> Mapping[int, tuple[Panel, ...]]:
        """The panels of each layer: over the rooms of its storey first, then under those of the next one up."""
        found: dict[int, list[Panel]] = {layer: [] for layer in range(len(self.layers))}
        for room in self.measured:
            level = self.level_of(room)
            found[self.layer_of(level, room.id)].append(self._panel(room, level, is_floor=False))
        for room in self.measured:
            level = self.level_of(room)
            if self.has_below(level):
                found[self.layer_of(level - 1, room.id)].append(self._panel(room, level - 1, is_floor=True))
        return {layer: tuple(panels) for layer, panels in found.items()}

    @cached_property
    def pipes(self) -> tuple[PipeAbove, ...]:
        """The pipes over the ceilings of measured rooms, each as long as its room."""
        found = []
        for room in self.measured:
            outline, seated = room.outline, self.frame.rooms[room.id]
            assert outline is not None, "only measured rooms are listed"
            box, storey = box_round(outline), self.storey_id(self.level_of(room))
            east = (round(seated.x + box.west), round(seated.x + box.east))
            north = (round(seated.y + box.south), round(seated.y + box.north))
            for pipe in (each for each in outline.above if each.kind == "pipe"):
                ends, across = (east, north) if pipe.runs == "e" else (north, east)
                edges = (across[0] + pipe.at_mm, across[0] + pipe.at_mm + pipe.width_mm)
                found.append(PipeAbove(room.id, storey, pipe.runs, edges, ends))
        return tuple(found)

    @cached_property
    def _kinds(self) -> Mapping[str, model.MarkKind]:
        return {mark.id: mark.kind for mark in self.places.marks}

    def kind_of(self, mark: str) -> model.MarkKind | None:
        """Return what a mark is; None where it is not there."""
        return self._kinds.get(mark)

    def _panel(self, room: Room, level: int, is_floor: bool) -> Panel:
        outline, seated = room.outline, self.frame.rooms[room.id]
        assert outline is not None, "only measured rooms are asked for"
        box, floor = box_round(outline), self._floors[level]
        own = None if is_floor else outline.joists
        return Panel(
            room=room.id,
            west=round(seated.x + box.west),
            east=round(seated.x + box.east),
            south=round(seated.y + box.south),
            north=round(seated.y + box.north),
            joists=own or floor.joists,
            # Over the topmost ceilings cable lies across the joists, not through them, where somebody gets there.
            is_drilled=not (self.is_top(level) and floor.reached_from_above),
            is_insulated=bool(not is_floor and outline.is_insulated),
            is_floor=is_floor,
        )

    @cached_property
    def faces(self) -> Mapping[tuple[str, str], RoutedFace]:
        """The walls of all measured rooms."""
        found: dict[tuple[str, str], RoutedFace] = {}
        for room in self.measured:
            outline, seated = room.outline, self.frame.rooms[room.id]
            assert outline is not None, "only measured rooms are listed"
            for wall in outline.walls:
                start = along(outline, wall.id, 0)
                holes = []
                for opening in outline.openings:
                    if opening.wall == wall.id:
                        span = span_of(outline, opening)
                        holes.append((int(span.left), int(span.right), opening.sill_mm, opening.head_mm))
                found[room.id, wall.id] = RoutedFace(
                    room.id,
                    wall,
                    self.level_of(room),
                    seated.x + start.x,
                    seated.y + start.y,
                    outline.height_mm,
                    tuple(holes),
                )
        return found

    @cached_property
    def ends(self) -> Mapping[str, LegEnd]:
        """Where every mark is that has a position and a height in its room."""
        found = {}
        for placed in self.placing.all():
            end = self._end(placed)
            if end is not None:
                found[placed.mark.id] = end
        return found

    def _end(self, placed: Placed) -> LegEnd | None:
        at = placed.at
        if at is None or placed.height_mm is None or placed.mark.room not in self.frame.rooms:
            return None
        if not _is_in_room(self.placing.outline(at.room), placed):
            return None
        seated = self.frame.rooms[at.room]
        x, y = round(seated.x + at.x), round(seated.y + at.y)
        return LegEnd(placed.mark.id, at.room, at.wall, placed.left_mm if at.wall else 0, placed.height_mm, x, y)
