"""What each rule says: a line in the table, a function here. Each gives an exact position, or why there is none."""

from collections.abc import Callable, Mapping
from fractions import Fraction
from typing import TYPE_CHECKING, Any

from lumbek.core.model import plan as model
from lumbek.core.plan.nudged import grid_chosen
from lumbek.core.plan.outline import along, box_round, corners_of, inward_of
from lumbek.core.plan.position import PlacingError, Position
from lumbek.core.plan.spans import Stretch

if TYPE_CHECKING:
    from lumbek.core.plan.placing import MarkPlacing

# The sine of an angle between walls below which they run alike.
_ALIKE = 1e-6


def _from_corner(placing: "MarkPlacing", mark: model.Mark, rule: model.FromCorner) -> Position:
    length = placing.wall(mark, rule.wall).length_mm
    return placing.on(mark, rule.wall, Fraction(rule.mm if rule.side == "left" else length - rule.mm))


def _beside(placing: "MarkPlacing", mark: model.Mark, rule: model.BesideThing) -> Position:
    part, span = placing.span(mark, rule.thing)
    away = Fraction(part.width_mm + rule.cabinet_mm, 2)
    return placing.on(mark, part.wall, span.middle + (away if rule.side == "right" else -away))


def _between(placing: "MarkPlacing", mark: model.Mark, rule: model.BetweenTwo) -> Position:
    one, first = placing.span(mark, rule.one)
    other, second = placing.span(mark, rule.other)
    if one.wall != other.wall:
        raise PlacingError("what it is between is on two walls")
    left, right = sorted((first, second), key=lambda span: span.left)
    return placing.on(mark, one.wall, (left.right + right.left) / 2)


def _middle(placing: "MarkPlacing", mark: model.Mark, rule: model.MiddleOf) -> Position:
    wall = placing.outline(mark.room).wall(rule.of)
    if wall is not None:
        return placing.on(mark, wall.id, Fraction(wall.length_mm, 2))
    part, span = placing.span(mark, rule.of)
    if rule.part is None:
        return placing.on(mark, part.wall, span.middle)
    widths = part.parts_mm if isinstance(part, model.Thing) else ()
    if rule.part > len(widths):
        raise PlacingError(f"there is no unit {rule.part}")
    before = sum(widths[: rule.part - 1])
    return placing.on(mark, part.wall, span.left + before + Fraction(widths[rule.part - 1], 2))


def _beside_door(placing: "MarkPlacing", mark: model.Mark, rule: model.BesideDoor) -> Position:
    door, span = placing.span(mark, rule.door)
    if not isinstance(door, model.Opening) or door.hinge is None:
        raise PlacingError("nobody has said on which side the door hangs")
    at = span.right + rule.mm if door.hinge == "left" else span.left - rule.mm
    return placing.on(mark, door.wall, at)


def _edge(placing: "MarkPlacing", mark: model.Mark, rule: model.AtEdge) -> Position:
    part, span = placing.span(mark, rule.of)
    inward = rule.mm if rule.outside is False else -rule.mm
    at = span.left + inward if rule.side == "left" else span.right - inward
    return placing.on(mark, part.wall, at)


def _spread(placing: "MarkPlacing", mark: model.Mark, rule: model.Spread) -> Position:
    wall = placing.outline(mark.room).wall(rule.over)
    if wall is not None:
        span, on = Stretch(Fraction(0), Fraction(wall.length_mm)), wall.id
    else:
        part, span = placing.span(mark, rule.over)
        on = part.wall
    share = Fraction(2 * rule.at - 1, 2 * rule.count)
    return placing.on(mark, on, span.left + (span.right - span.left) * share)


def _straight(placing: "MarkPlacing", mark: model.Mark, rule: model.Straight) -> Position:
    there = placing.position_of(placing.mark(rule.mark))
    if there.room != mark.room:
        raise PlacingError("what it is measured from is in another room")
    if not there.wall:
        raise PlacingError("what it is measured from is on no wall")
    return placing.on(mark, there.wall, there.along_mm + (rule.mm if rule.side == "right" else -rule.mm))


def _behind(placing: "MarkPlacing", mark: model.Mark, rule: model.BackToBack) -> Position:
    """The left of one face is the right of the other: what is s along one is offset + length - s along the other."""
    there = placing.position_of(placing.mark(rule.mark))
    for wall in placing.between:
        for here, over in ((wall.other, wall.one), (wall.one, wall.other)):
            if (there.room, there.wall) == (over.room, over.wall) and here.room == mark.room:
                at = wall.offset_mm + placing.length(wall.other) - there.along_mm
                return placing.on(mark, here.wall, at + (rule.mm if rule.side == "right" else -rule.mm))
    raise PlacingError("no wall between the two rooms has it on its other face")


def _ceiling(placing: "MarkPlacing", mark: model.Mark, rule: model.OnCeiling) -> Position:
    """So far from two walls: where the two lines meet that run along them inside (Cramer's rule)."""
    outline, rows = placing.outline(mark.room), []
    for wall_id, mm in ((rule.wall, rule.mm), (rule.other, rule.other_mm)):
        wall = placing.wall(mark, wall_id)
        start, inward = corners_of(outline)[outline.walls.index(wall)], inward_of(wall)
        rows.append((inward.x, inward.y, inward.x * start.x + inward.y * start.y + mm))
    (a, b, p), (c, d, q) = rows
    det = a * d - b * c
    if abs(det) < _ALIKE:
        raise PlacingError("the two walls that it is measured from run alike")
    return Position(mark.room, "", Fraction(0), (p * d - b * q) / det, (a * q - p * c) / det)


def _in_grid(placing: "MarkPlacing", mark: model.Mark, rule: model.InGrid) -> Position:
    """A divided span: half a spacing from the walls, a whole one between rows."""
    outline = placing.outline(mark.room)
    if rule.clears:
        grid = grid_chosen(outline, rule, mark.lamp or model.LampSaid())
        if grid is None:
            raise PlacingError(f"no grid of {rule.columns} by {rule.rows} clears what is above: try another count")
        column, row = grid.columns[rule.column - 1], grid.rows[rule.row - 1]
        return Position(mark.room, "", Fraction(0), column, row)
    box = box_round(outline)
    x = _in_row(box.west, box.east, rule.column, rule.columns, rule.spacing_mm)
    y = _in_row(box.south, box.north, rule.row, rule.rows, rule.spacing_mm)
    return Position(mark.room, "", Fraction(0), x, y)


def _in_row(low: float, high: float, at: int, count: int, spacing: int | None) -> float:
    if spacing is None:
        return low + (high - low) * (2 * at - 1) / (2 * count)
    return (low + high) / 2 + spacing * (at - (count + 1) / 2)


def _over_edge(placing: "MarkPlacing", mark: model.Mark, rule: model.OverEdge) -> Position:
    part, span = placing.span(mark, rule.thing)
    if not isinstance(part, model.Thing):
        raise PlacingError("an opening has no front edge")
    share = Fraction(2 * rule.at - 1, 2 * rule.count)
    outline, wall = placing.outline(mark.room), placing.wall(mark, part.wall)
    at = along(outline, part.wall, float(span.left + (span.right - span.left) * share))
    inward, out = inward_of(wall), part.out_mm + part.depth_mm + rule.out_mm
    return Position(mark.room, "", Fraction(0), at.x + inward.x * out, at.y + inward.y * out)


def _kept(placing: "MarkPlacing", mark: model.Mark, rule: model.StaysAt) -> Position:
    return placing.on(mark, rule.wall, Fraction(rule.mm))


RULES: Mapping[type[Any], Callable[["MarkPlacing", model.Mark, Any], Position]] = {
    model.FromCorner: _from_corner,
    model.BesideThing: _beside,
    model.BetweenTwo: _between,
    model.MiddleOf: _middle,
    model.BesideDoor: _beside_door,
    model.AtEdge: _edge,
    model.Spread: _spread,
    model.Straight: _straight,
    model.BackToBack: _behind,
    model.OnCeiling: _ceiling,
    model.InGrid: _in_grid,
    model.OverEdge: _over_edge,
    model.StaysAt: _kept,
}
