"""Where marks come by their rules: exact positions that follow when a room changes, or why there is none.

A position is an exact fraction from the left end of a wall, never worked out from one that was rounded; it is rounded
once, where it is shown. x and y, east and north of the room's first corner, are for drawing and for the ceiling.
"""

from fractions import Fraction
from functools import cached_property

from lumbek.core.model import plan as model
from lumbek.core.model.places import Places
from lumbek.core.plan.by_rule import RULES
from lumbek.core.plan.frame import rooms_below_others
from lumbek.core.plan.guidance import height_by_use
from lumbek.core.plan.outline import along
from lumbek.core.plan.position import Placed, PlacingError, Position
from lumbek.core.plan.spans import Stretch, span_of


class MarkPlacing:
    """The marks of a house as their rules place them."""

    def __init__(self, places: Places, rulebook: str) -> None:
        self._places, self._rulebook, self.between = places, rulebook, places.between
        self._outlines = {room.id: room.outline for room in places.rooms if room.outline is not None}
        self._marks = {mark.id: mark for mark in places.marks}
        self._found: dict[str, Position] = {}
        self._open: list[str] = []

    def all(self) -> tuple[Placed, ...]:
        """Return every mark with its position and height, or why it has none."""
        return tuple(self.placed(mark) for mark in self._places.marks)

    def placed(self, mark: model.Mark) -> Placed:
        """Return a mark with its position and height, or why it has none."""
        try:
            height = self.height_of(mark)
        except PlacingError:
            height = None
        try:
            return Placed(mark, self.position_of(mark), height)
        except PlacingError as error:
            return Placed(mark, None, height, str(error))

    def outline(self, room: str) -> model.Outline:
        """Return the outline of a room. Raises PlacingError where it has none."""
        found = self._outlines.get(room)
        if found is None:
            raise PlacingError("its room has no measures yet")
        return found

    @cached_property
    def _below_others(self) -> frozenset[str]:
        return rooms_below_others(self._places)

    def has_room_above(self, room: str) -> bool:
        """Whether another room is known to be above a room: seated over it, or on a storey above that is lived in."""
        return room in self._below_others

    def position_of(self, mark: model.Mark) -> Position:
        """Return where a mark comes. Raises PlacingError."""
        if mark.id in self._found:
            return self._found[mark.id]
        if mark.id in self._open:
            raise PlacingError("its rule leads back to itself")
        self._open.append(mark.id)
        try:
            found = RULES[type(mark.rule)](self, mark, mark.rule)
        finally:
            self._open.pop()
        self._found[mark.id] = found
        return found

    def height_of(self, mark: model.Mark, seen: tuple[str, ...] = ()) -> int | None:
        """Return how high a mark is in mm above the finished floor; None where nobody can say. Raises PlacingError."""
        rule = mark.height
        if isinstance(rule, model.AtHeight):
            return rule.mm
        if isinstance(rule, model.AboveThing):
            thing = self.part(mark, rule.thing)
            top = thing.top_mm if isinstance(thing, model.Thing) else thing.head_mm
            return top + rule.mm
        if isinstance(rule, model.AboveStair):
            return self._on_pitch(mark, rule)
        if isinstance(rule, model.SameAs):
            if rule.mark in (mark.id, *seen):
                raise PlacingError("its height leads back to itself")
            return self.height_of(self.mark(rule.mark), (*seen, mark.id))
        if isinstance(mark.rule, model.OnCeiling | model.InGrid | model.OverEdge):
            return self.outline(mark.room).height_mm
        return height_by_use(self._rulebook, mark.kind)

    def _on_pitch(self, mark: model.Mark, rule: model.AboveStair) -> int:
        """The pitch line rises evenly over the stair; before it and past it it is level."""
        stair, span = self.span(mark, rule.thing)
        if not isinstance(stair, model.Thing) or stair.kind != "stair" or stair.rises is None:
            raise PlacingError("nobody has said which way the stair rises")
        part = (self.position_of(mark).along_mm - span.left) / (span.right - span.left)
        part = min(max(part, Fraction(0)), Fraction(1))
        return round(stair.bottom_mm + stair.height_mm * (part if stair.rises == "right" else 1 - part)) + rule.mm

    def mark(self, mark_id: str) -> model.Mark:
        """Return a mark that another is measured from. Raises PlacingError where it is gone."""
        found = self._marks.get(mark_id)
        if found is None:
            raise PlacingError("what it is measured from is gone")
        return found

    def wall(self, mark: model.Mark, wall_id: str) -> model.Wall:
        """Return a wall of the room of a mark. Raises PlacingError where it is gone."""
        found = self.outline(mark.room).wall(wall_id)
        if found is None:
            raise PlacingError("its wall is gone")
        return found

    def length(self, face: model.WallFace) -> int:
        """Return the length of a wall of any room, in mm. Raises PlacingError where it is gone."""
        wall = self.outline(face.room).wall(face.wall)
        if wall is None:
            raise PlacingError("a wall between the two rooms is gone")
        return wall.length_mm

    def part(self, mark: model.Mark, part_id: str) -> model.Opening | model.Thing:
        """Return what a mark is measured from in its room. Raises PlacingError where it is gone."""
        found = self.outline(mark.room).part(part_id)
        if found is None:
            raise PlacingError("what it is measured from is gone")
        return found

    def span(self, mark: model.Mark, part_id: str) -> tuple[model.Opening | model.Thing, Stretch]:
        """Return what a mark is measured from, and where it lies on its wall. Raises PlacingError where it is gone."""
        part = self.part(mark, part_id)
        return part, span_of(self.outline(mark.room), part)

    def on(self, mark: model.Mark, wall_id: str, mm: Fraction) -> Position:
        """Return the position of a mark so far along a wall. Raises PlacingError where the wall is gone."""
        self.wall(mark, wall_id)
        x, y = along(self.outline(mark.room), wall_id, float(mm))
        return Position(mark.room, wall_id, mm, x, y)
