"""Where cable crosses joists and is let into walls, taken from the ways of all legs, for `limits.py` to judge."""

from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence

from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.plan.naming import wall_names
from lumbek.core.routes.find import FoundWay, WayStep
from lumbek.core.routes.graph import Graph
from lumbek.core.routes.lay_of_house import LayOfHouse
from lumbek.core.routes.limit_words import told_of
from lumbek.core.routes.limits import Bears, ChaseCut, JoistsCut, bears_chase, bears_joists, worst
from lumbek.core.routes.new_legs import new_legs
from lumbek.core.routes.pieces import Surveyor, edge_of


def bearing_of(
    house: LayOfHouse,
    graph: Graph,
    surveyor: Surveyor,
    ways: Mapping[tuple[str, str], FoundWay | None],
    designs: Sequence[tuple[str, Circuit]],
) -> tuple[Bears, ...]:
    """Return how joists and walls bear the cable that is laid now; what was there already is not cut for again."""
    cables: dict[tuple[int, int], list[Cable]] = defaultdict(list)
    steps: dict[tuple[int, int], WayStep] = {}
    for key, design, leg in new_legs(designs):
        way = ways.get((key, leg.id))
        for step in () if way is None else way.steps:
            if step.mm:
                cables[edge_of(step)].append(leg.cable or design.cable)
                steps[edge_of(step)] = step
    found: list[Bears] = []
    for edge, step in steps.items():
        together = tuple(cables[edge])
        panel = surveyor.panel(step)
        if panel is not None and surveyor.holes(step):
            depth = house.joist_depth_mm(house.layers[max(int(graph.spots.layer[node]) for node in step[:2])][0])
            found.append(bears_joists(JoistsCut(panel.room, depth, together)))
        found += (bears_chase(cut) for cut in _chases(house, graph, step, together))
    name_of = house.places.name_of
    return tuple(
        each.model_copy(update={"told": told_of(each, name_of(each.room), _called(house, each.room, each.wall))})
        for each in worst(found)
    )


def _called(house: LayOfHouse, room: str, wall: str) -> str:
    return wall_names(house.placing.outline(room))[wall] if wall else ""


def _chases(house: LayOfHouse, graph: Graph, step: WayStep, cables: tuple[Cable, ...]) -> Iterator[ChaseCut]:
    spots = graph.spots
    faces = {int(spots.face[node]) for node in step[:2]} - {-1}
    if not faces or any(int(spots.layer[node]) >= 0 for node in step[:2]):
        return
    face = graph.faces[min(faces)]
    if not face.is_masonry:
        return
    yield ChaseCut(
        room=face.room,
        wall=face.wall.id,
        is_level=int(spots.z[step.one]) == int(spots.z[step.other]),
        # How deep a box may go is no more than how thick it is.
        thickness_mm=_thickness(house, face.room, face.wall.id) or face.wall.depth_mm,
        plaster_mm=face.wall.plaster_mm or 0,
        cables=cables,
    )


def _thickness(house: LayOfHouse, room: str, wall: str) -> int | None:
    """Return how thick a wall is: known where two rooms share it."""
    for each in house.places.between:
        if any(face.room == room and face.wall == wall for face in (each.one, each.other)):
            return each.thickness_mm
    return None
