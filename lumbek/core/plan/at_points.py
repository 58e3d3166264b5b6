"""What the plan says of the points that sit at its marks: the zone of a bath or shower that each is in."""

from collections.abc import Mapping

from lumbek.core.model.circuit import Circuit
from lumbek.core.model.places import Places
from lumbek.core.model.plan import CircuitPoint
from lumbek.core.model.point import Point
from lumbek.core.plan.placing import MarkPlacing
from lumbek.core.plan.zones import MarkZone, zones_of

PlanZones = Mapping[tuple[str, str], MarkZone]


def renamed_points(places: Places, names: Mapping[str, str]) -> Places:
    """Return a plan whose marks and forced ways name their circuits otherwise; what has no new name is let go of."""
    marks = (
        mark.model_copy(update={"point": _renamed(mark.point, names)}) if mark.point is not None else mark
        for mark in places.marks
    )
    forced = (
        each.model_copy(update={"circuit": names[each.circuit]}) for each in places.ways.forced if each.circuit in names
    )
    ways = places.ways.model_copy(update={"forced": tuple(forced)})
    return places.model_copy(update={"marks": tuple(marks), "ways": ways})


def _renamed(point: CircuitPoint, names: Mapping[str, str]) -> CircuitPoint | None:
    return point.model_copy(update={"circuit": names[point.circuit]}) if point.circuit in names else None


def zones_at_points(places: Places, rulebook: str) -> PlanZones:
    """Return the zone of each point that sits at a mark, by its circuit's key and its id; none that cannot be told."""
    sits = {mark.id: mark.point for mark in places.marks if mark.point is not None}
    if not sits:
        return {}
    placing = MarkPlacing(places, rulebook)
    placed = [placing.placed(mark) for mark in places.marks if mark.id in sits]
    found: dict[tuple[str, str], MarkZone] = {}
    for zone in zones_of(placing, placed):
        point = sits[zone.mark]
        if point is not None and zone.zone != "unknown":
            found[point.circuit, point.point] = zone
    return found


def zoned(design: Circuit, key: str, zones: PlanZones) -> Circuit:
    """Return a design whose points say the zone that the plan has them in; where a person says one, that stands too."""
    if not zones or all((key, point.id) not in zones for point in design.points):
        return design
    points = tuple(_in_zone(point, zones.get((key, point.id))) for point in design.points)
    return design.model_copy(update={"points": points})


def _in_zone(point: Point, found: MarkZone | None) -> Point:
    if found is None or found.zone == "unknown":
        return point
    said: dict[str, object] = {"plan_zone": found.zone}
    if point.zone is None:
        said["zone"] = found.zone
    if point.from_zone_1_m is None and found.zone == "outside":
        # Down, never up: it is no farther than that.
        said["from_zone_1_m"] = min(found.from_zone_1_mm, 50_000) / 1000
    return point.model_copy(update=said)
