"""The marks of a wall or a ceiling as one sets them out: running dimensions from one end a tape can be held to.

Every figure is from the same end, never from mark to mark: a slip stays where it was made.
"""

from collections.abc import Iterable, Sequence

from lumbek.core.model import plan as model
from lumbek.core.plan.naming import wall_names
from lumbek.core.plan.outline import box_round
from lumbek.core.plan.placing import MarkPlacing
from lumbek.core.plan.position import Placed, plate_width_mm
from lumbek.core.value import Frozen


class SetOutMark(Frozen):
    """A mark to make: to its middle, and the edges of its box; `up_mm` above the finished floor.

    On a ceiling `across_mm` is from the west and `up_mm` from the south of the room.
    """

    mark: str
    kind: str
    name: str
    across_mm: int
    up_mm: int | None
    left_edge_mm: int
    right_edge_mm: int
    width_mm: int
    height_mm: int
    depth_mm: int
    is_existing: bool
    goes: bool
    is_made: bool
    moved: str = ""
    entry: str = ""


class SetOut(Frozen):
    """One wall, seen from inside, or a ceiling, seen from above: its size, and its marks from the left."""

    face: str
    called: str
    width_mm: int
    height_mm: int
    marks: tuple[SetOutMark, ...]


def set_out_of(placing: MarkPlacing, room: str, placed: Sequence[Placed]) -> tuple[SetOut, ...]:
    """Return every wall of a room with marks on it, then its ceiling."""
    outline = placing.outline(room)
    names = wall_names(outline)
    here = [each for each in placed if each.at is not None and each.at.room == room]
    walls = [
        SetOut(
            face=wall.id,
            called=names[wall.id],
            width_mm=wall.length_mm,
            height_mm=outline.height_mm,
            marks=_sorted(_on_wall(each) for each in here if each.at is not None and each.at.wall == wall.id),
        )
        for wall in outline.walls
    ]
    return (*(wall for wall in walls if wall.marks), *_ceiling(outline, here))


def _ceiling(outline: model.Outline, here: Sequence[Placed]) -> tuple[SetOut, ...]:
    west, east, south, north = box_round(outline)
    marks = _sorted(
        _mark(each, round(each.at.x - west), round(each.at.y - south))
        for each in here
        if each.at is not None and not each.at.wall
    )
    if not marks:
        return ()
    wide = round(east - west)
    deep = round(north - south)
    return (SetOut(face="ceiling", called="ceiling", width_mm=wide, height_mm=deep, marks=marks),)


def _on_wall(placed: Placed) -> SetOutMark:
    return _mark(placed, placed.left_mm, placed.height_mm)


def _mark(placed: Placed, across_mm: int, up_mm: int | None) -> SetOutMark:
    mark, box = placed.mark, placed.mark.box
    width = plate_width_mm(box)
    return SetOutMark(
        mark=mark.id,
        kind=mark.kind,
        name=mark.name,
        across_mm=across_mm,
        up_mm=up_mm,
        left_edge_mm=across_mm - width // 2,
        right_edge_mm=across_mm + width // 2,
        width_mm=width,
        height_mm=box.plate_height_mm,
        depth_mm=box.depth_mm,
        is_existing=mark.is_existing,
        goes=mark.fate == "remove",
        is_made=mark.is_made,
        moved=_moved(mark),
        entry=box.entry or "",
    )


def _moved(mark: model.Mark) -> str:
    if mark.moved is None:
        return ""
    right, up = mark.moved.right_mm, mark.moved.up_mm
    ways = [
        f"{abs(mm)} mm {word}"
        for mm, word in ((right, "right" if right > 0 else "left"), (up, "up" if up > 0 else "down"))
        if mm
    ]
    return f"{' and '.join(ways) or 'not moved'}: {mark.moved_why}"


def _sorted(marks: Iterable[SetOutMark]) -> tuple[SetOutMark, ...]:
    return tuple(sorted(marks, key=lambda each: (each.across_mm, each.up_mm or 0)))
