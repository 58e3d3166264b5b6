"""All there is to say of a plan: where every mark comes, what it runs into, zones, alarms, light, how to set it out."""

from collections import Counter
from collections.abc import Mapping, Sequence
from types import MappingProxyType

from lumbek.core.model.places import Places, Room
from lumbek.core.model.plan import InGrid, LampSaid, Mark, Outline, Thing
from lumbek.core.plan.alarm_levels import LevelReached, levels_of
from lumbek.core.plan.alarms import AlarmReach, reach_of, troubles_of
from lumbek.core.plan.conflicts import Conflict, conflicts_of
from lumbek.core.plan.frame import Disagreement, frame_of
from lumbek.core.plan.guidance import plan_rules
from lumbek.core.plan.light import LampAbove, light_of
from lumbek.core.plan.naming import wall_names
from lumbek.core.plan.nudged import grid_chosen, grid_in
from lumbek.core.plan.outline import area_m2, closure_of, corners_of
from lumbek.core.plan.placing import MarkPlacing
from lumbek.core.plan.position import Placed
from lumbek.core.plan.set_out import SetOut, set_out_of
from lumbek.core.plan.spans import span_of
from lumbek.core.plan.string import rectangle_of
from lumbek.core.plan.zone_rules import in_zone
from lumbek.core.plan.zones import MarkZone, zones_of
from lumbek.core.rulebooks import Rulebook
from lumbek.core.value import Frozen

NO_MARKINGS: Mapping[tuple[str, str], str] = MappingProxyType({})
_ALARMS = ("smoke-alarm", "heat-alarm", "co-alarm")


class InPlan(Frozen):
    """A spot of a room in plan, in mm east and north of its first corner."""

    x: int
    y: int


class PartDrawn(Frozen):
    """An opening or a thing, as it is drawn in plan: its corners round, and where it lies on its wall."""

    id: str
    corners: tuple[InPlan, ...]
    left_mm: int
    right_mm: int


class MarkPlaced(Frozen):
    """A mark with where it comes: on a wall from its left, or on the ceiling; empty where nowhere."""

    mark: str
    wall: str
    left_mm: int | None
    height_mm: int | None
    x: int | None
    y: int | None
    departs: str = ""


class RoomLight(Frozen):
    """The light of a room on a plane, by its lamps as they are said: in lx, and where it is least."""

    plane_mm: int
    average_lx: int
    least_lx: int
    uniformity: float
    least_x: int
    least_y: int
    cell_mm: int
    # Row by row from the south-west corner of its box: 0 to 9 of the greatest, None outside.
    rows: tuple[tuple[int | None, ...], ...]


class GridTold(Frozen):
    """A grid that clears the joists: how far any lamp went for it, and what gave way."""

    columns: int
    rows: int
    greatest_mm: int
    gave_way: tuple[str, ...]
    # The other grid, where symmetry is dear: how far its lamps go, and whether it is the one that was chosen.
    other_mm: int | None = None
    is_unsymmetric: bool = False


class RoomPlan(Frozen):
    """One room: how it is drawn, what is wrong in it, what it wants, how its marks are set out."""

    room: str
    corners: tuple[InPlan, ...]
    walls: dict[str, str]
    area_m2: float
    gap_mm: int
    parts: tuple[PartDrawn, ...]
    marks: tuple[MarkPlaced, ...]
    conflicts: tuple[Conflict, ...]
    zones: tuple[MarkZone, ...]
    reaches: tuple[AlarmReach, ...]
    light: RoomLight | None
    grids: tuple[GridTold, ...]
    wants: dict[str, int]
    set_out: tuple[SetOut, ...]


class RoomSeat(Frozen):
    """Where the first corner of a room is in the house: in its group, in mm east and north."""

    room: str
    group: int
    x: int
    y: int


class PlanAnswer(Frozen):
    """All rooms that are measured and where they lie, alarms of the house, and the guidance that heights go by."""

    rooms: tuple[RoomPlan, ...]
    seats: tuple[RoomSeat, ...]
    apart: tuple[Disagreement, ...]
    alarm_levels: tuple[LevelReached, ...]
    heights_source: str
    usual_source: str


def answer_plan(places: Places, book: Rulebook, markings: Mapping[tuple[str, str], str] = NO_MARKINGS) -> PlanAnswer:
    """Return all there is to say of a plan; `markings` is how tight circuits say their points are, by key and id."""
    places = places.model_copy(update={"marks": tuple(_marked(mark, markings) for mark in places.marks)})
    rulebook = book.data.id
    placing = MarkPlacing(places, rulebook)
    placed = placing.all()
    conflicts, zones = conflicts_of(placing, placed), zones_of(placing, placed)
    rooms = tuple(
        _room(placing, room, placed, conflicts, zones, book) for room in places.rooms if room.outline is not None
    )
    rules = plan_rules()
    frame = frame_of(places.rooms, places.between)
    seats = (RoomSeat(room=key, group=at.group, x=round(at.x), y=round(at.y)) for key, at in frame.rooms.items())
    return PlanAnswer(
        rooms=rooms,
        seats=tuple(seats),
        apart=frame.disagreements,
        alarm_levels=levels_of(places, rulebook),
        heights_source=rules.heights[rulebook].source,
        usual_source=str(rules.usual["source"]),
    )


def _marked(mark: Mark, markings: Mapping[tuple[str, str], str]) -> Mark:
    """Return a mark that is as tight as its lamp or the point that sits there, where it does not say so itself."""
    if mark.lamp is not None and mark.lamp.ip and not mark.ip:
        return mark.model_copy(update={"ip": mark.lamp.ip})
    ip = "" if mark.point is None else markings.get((mark.point.circuit, mark.point.point), "")
    return mark.model_copy(update={"ip": ip}) if ip and not mark.ip else mark


def _room(
    placing: MarkPlacing,
    room: Room,
    placed: Sequence[Placed],
    conflicts: Sequence[Conflict],
    zones: Sequence[MarkZone],
    book: Rulebook,
) -> RoomPlan:
    outline = placing.outline(room.id)
    here = [each for each in placed if each.mark.room == room.id]
    ids = {each.mark.id for each in here}
    zoned = tuple(each for each in zones if each.mark in ids)
    wrong = [each for each in conflicts if each.mark in ids]
    marks = {each.mark.id: each.mark for each in here}
    wrong += [each for zone in zoned for each in in_zone(zone, marks[zone.mark], book.data.bath)]
    wrong += [
        Conflict(mark=each.mark.id, why=why)
        for each in here
        if each.mark.kind in _ALARMS
        for why in troubles_of(outline, each, here)
    ]
    reaches = (reach_of(outline, here, kind) for kind in _ALARMS)
    return RoomPlan(
        room=room.id,
        corners=tuple(InPlan(x=round(each.x), y=round(each.y)) for each in corners_of(outline)),
        walls=wall_names(outline),
        area_m2=round(area_m2(outline), 2),
        gap_mm=closure_of(outline.walls).gap_mm,
        parts=tuple(_parts(placing, room.id)),
        marks=tuple(_mark(each, book.data.id) for each in here),
        conflicts=tuple(wrong),
        zones=zoned,
        reaches=tuple(each for each in reaches if each is not None),
        light=_light(outline, here),
        grids=_grids(outline, here),
        wants=_wants(room.name, here),
        set_out=set_out_of(placing, room.id, placed),
    )


def _light(outline: Outline, here: Sequence[Placed]) -> RoomLight | None:
    """Light on the worktop where units stand, else on the floor: by lamps of which lumens and beam are said."""
    lamps = [
        LampAbove(each.at.x, each.at.y, each.height_mm, each.mark.lamp.lumens, each.mark.lamp.beam_deg)
        for each in here
        if each.at is not None and each.mark.lamp is not None and each.height_mm is not None
        if each.mark.lamp.lumens is not None and each.mark.lamp.beam_deg is not None
    ]
    plane = max((each.top_mm for each in outline.things if each.kind == "units"), default=0)
    found = light_of(outline, lamps, plane)
    if found is None:
        return None
    greatest = max(lx for row in found.rows for lx in row if lx is not None)
    rows = tuple(tuple(None if lx is None else int(9 * lx / greatest) for lx in row) for row in found.rows)
    return RoomLight(
        plane_mm=plane,
        average_lx=round(found.average_lx),
        # Down: the least is not rounded in favour.
        least_lx=int(found.least_lx),
        uniformity=int(100 * found.uniformity) / 100,
        least_x=found.least_x,
        least_y=found.least_y,
        cell_mm=round(max(found.cell_mm)),
        rows=rows,
    )


def _grids(outline: Outline, here: Sequence[Placed]) -> tuple[GridTold, ...]:
    found: dict[tuple[int, int], GridTold] = {}
    for each in here:
        rule = each.mark.rule
        if not isinstance(rule, InGrid) or not rule.clears or (rule.columns, rule.rows) in found:
            continue
        lamp = each.mark.lamp or LampSaid()
        grid, grids = grid_chosen(outline, rule, lamp), grid_in(outline, rule, lamp)
        if grid is not None:
            other = next((one.greatest_mm for one in grids if one is not grid), None)
            found[rule.columns, rule.rows] = GridTold(
                columns=rule.columns,
                rows=rule.rows,
                greatest_mm=grid.greatest_mm,
                gave_way=grid.gave_way,
                other_mm=other,
                is_unsymmetric=rule.is_unsymmetric,
            )
    return tuple(found.values())


def _parts(placing: MarkPlacing, room: str) -> list[PartDrawn]:
    outline, found = placing.outline(room), []
    for part in (*outline.openings, *outline.things):
        span = span_of(outline, part)
        corners = rectangle_of(outline, part).corners if isinstance(part, Thing) else ()
        drawn = tuple(InPlan(x=round(each.x), y=round(each.y)) for each in corners)
        found.append(PartDrawn(id=part.id, corners=drawn, left_mm=int(span.left), right_mm=int(span.right)))
    return found


def _mark(placed: Placed, rulebook: str) -> MarkPlaced:
    at = placed.at
    return MarkPlaced(
        mark=placed.mark.id,
        wall="" if at is None else at.wall,
        left_mm=placed.left_mm if at is not None and at.wall else None,
        height_mm=placed.height_mm,
        x=None if at is None else round(at.x),
        y=None if at is None else round(at.y),
        departs=_departs(placed, rulebook),
    )


def _departs(placed: Placed, rulebook: str) -> str:
    """Say in words how a height departs from the guidance; nothing where it does not, or that was agreed."""
    heights = plan_rules().heights[rulebook]
    mark, mm = placed.mark, placed.height_mm
    if mm is None or mark.kind not in plan_rules().asked_of_access or mark.agreed is not None or mark.is_existing:
        return ""
    if not heights.least_mm <= mm <= heights.most_mm:
        return f"{mm} mm: guidance has {heights.least_mm} to {heights.most_mm} mm"
    return ""


def _wants(name: str, here: Sequence[Placed]) -> dict[str, int]:
    """Return what a room of this name usually wants and has not yet; nothing where its use is not known."""
    usual = plan_rules().usual
    use = next((use for use in usual if use != "source" and use in name.lower()), None)
    wanted = usual[use] if use is not None else {}
    there = Counter[str]("light" if each.mark.kind == "downlight" else each.mark.kind for each in here)
    if isinstance(wanted, str):
        return {}
    gangs = sum(each.mark.box.gangs - 1 for each in here if each.mark.kind == "socket")
    there["socket"] += gangs
    return {kind: count - there[kind] for kind, count in wanted.items() if count > there[kind]}
