"""What a way leads through, piece by piece, with the surroundings that its rating depends on.

Reference methods (BS 7671 table 4A2, IEC 60364-5-52 table A.52.1): in plaster, in a solid wall or clipped to a joist C;
in a hollow wall B (a building void); under insulation as if that were thick, for nobody has said how thick it is; in
the ground D. Whether cables share a stretch is counted by edge, over all circuits of the house.
"""

from collections.abc import Mapping, Sequence
from typing import Literal, NamedTuple

from lumbek.core.model.leg import Segment
from lumbek.core.routes.find import FoundWay, WayStep
from lumbek.core.routes.graph import Graph
from lumbek.core.routes.lay_of_house import OVER_WALL_MM, LayOfHouse, Panel
from lumbek.core.value import Frozen

# In a wall, over a ceiling, under a floor, along a way outside.
Within = Literal["wall", "over", "under", "outside"]
# So many segments a leg holds.
_MOST = 12
_HOLLOW = ("stud", "lath-and-plaster", "timber")
# By rulebook: in plaster, in a hollow wall, under insulation, in a duct in the ground, direct in the ground.
_METHODS: Mapping[str, Mapping[str, str]] = {
    "bs7671": {"solid": "C", "hollow": "B", "insulated": "101", "duct": "D", "buried": "D", "clipped": "C"},
    "iec60364": {"solid": "C", "hollow": "B2", "insulated": "A2", "duct": "D1", "buried": "D2", "clipped": "C"},
}


class Corner3(Frozen):
    """A spot in the house, in mm."""

    x: int
    y: int
    z: int


class RoutePiece(Frozen):
    """A stretch of a way in one thing: in which wall, over which room, along which way outside."""

    within: Within
    storey: str
    room: str
    wall: str = ""
    way: str = ""
    mm: int
    method: str
    grouped: int
    joist_holes: int = 0
    line: tuple[Corner3, ...]


class _Seen(NamedTuple):
    within: Within
    storey: str
    room: str
    wall: str
    way: str
    surroundings: str


class Surveyor:
    """Tells what each stretch of a way is in."""

    def __init__(self, house: LayOfHouse, graph: Graph, rulebook: str) -> None:
        self._house, self._graph, self._methods = house, graph, _METHODS[rulebook]

    def pieces(self, found: FoundWay, shared: Mapping[tuple[int, int], int]) -> tuple[RoutePiece, ...]:
        """Return the pieces of a way; `shared` is how many circuits each stretch holds."""
        pieces: list[RoutePiece] = []
        last: tuple[_Seen, int] | None = None
        for step in found.steps:
            if step.mm == 0:
                continue
            seen, grouped = self._seen(step), max(shared.get(edge_of(step), 1), 1)
            line = (self._spot(step.one), self._spot(step.other))
            holes = self.holes(step)
            if last == (seen, grouped):
                before = pieces[-1]
                joined = _straightened((*before.line, line[1]))
                more = {"mm": before.mm + step.mm, "joist_holes": before.joist_holes + holes, "line": joined}
                pieces[-1] = before.model_copy(update=more)
                continue
            last = seen, grouped
            pieces.append(
                RoutePiece(
                    within=seen.within,
                    storey=seen.storey,
                    room=seen.room,
                    wall=seen.wall,
                    way=seen.way,
                    mm=step.mm,
                    method=self._methods[seen.surroundings],
                    grouped=grouped,
                    joist_holes=holes,
                    line=line,
                )
            )
        return tuple(pieces)

    def _spot(self, node: int) -> Corner3:
        spots = self._graph.spots
        return Corner3(x=int(spots.x[node]), y=int(spots.y[node]), z=int(spots.z[node]))

    def _seen(self, step: WayStep) -> _Seen:
        way = self._graph.ways.get(edge_of(step))
        if way is not None:
            return _Seen("outside", "", "", "", way.id, way.kind)
        spots = self._graph.spots
        layers = {int(spots.layer[node]) for node in step[:2]} - {-1}
        faces = {int(spots.face[node]) for node in step[:2]} - {-1}
        if faces and not layers:
            face = self._graph.faces[min(faces)]
            how = "hollow" if face.wall.build in _HOLLOW else "solid"
            return _Seen("wall", self._house.storey_id(face.storey), face.room, face.wall.id, "", how)
        panel = self.panel(step)
        how = "insulated" if panel is not None and panel.is_insulated else "clipped"
        within: Within = "under" if panel is not None and panel.is_floor else "over"
        storey = self._house.storey_id(self._house.layers[max(layers, default=0)][0])
        return _Seen(within, storey, "" if panel is None else panel.room, "", "", how)

    def panel(self, step: WayStep) -> Panel | None:
        """Return the space over or under a room that a stretch lies in; None where it lies in none."""
        spots = self._graph.spots
        layer = max(int(spots.layer[step.one]), int(spots.layer[step.other]))
        if layer < 0:
            return None
        x, y = ((int(axis[step.one]) + int(axis[step.other])) / 2 for axis in (spots.x, spots.y))
        panels = self._house.panels[layer]
        inside = next((panel for panel in panels if panel.holds(x, y)), None)
        return inside or next((panel for panel in panels if panel.holds(x, y, OVER_WALL_MM)), None)

    def holes(self, step: WayStep) -> int:
        """Return how many joists are drilled for a stretch."""
        spots, panel = self._graph.spots, self.panel(step)
        if min(int(spots.layer[step.one]), int(spots.layer[step.other])) < 0 or panel is None:
            return 0
        if panel.joists is None or not panel.is_drilled:
            return 0
        axis = spots.x if panel.joists.runs == "n" else spots.y
        low, high = sorted((int(axis[step.one]), int(axis[step.other])))
        return sum(low <= centre < high for centre in panel.joist_centres)


def edge_of(step: WayStep) -> tuple[int, int]:
    """Return a stretch, whichever way it is gone."""
    return min(step.one, step.other), max(step.one, step.other)


def _straightened(line: tuple[Corner3, ...]) -> tuple[Corner3, ...]:
    """Return a line without the spots in the middle of a straight stretch."""
    kept = list(line[:2])
    for spot in line[2:]:
        before, here = kept[-2], kept[-1]
        moved = [b != a for a, b in zip(_xyz(before), _xyz(here), strict=True)]
        then = [b != a for a, b in zip(_xyz(here), _xyz(spot), strict=True)]
        if moved == then:
            kept[-1] = spot
        else:
            kept.append(spot)
    return tuple(kept)


def _xyz(spot: Corner3) -> tuple[int, int, int]:
    return spot.x, spot.y, spot.z


def segments_of(pieces: Sequence[RoutePiece], slack_mm: int, depths_m: Mapping[str, float]) -> tuple[Segment, ...]:
    """Return a way as segments of a leg, its slack in the first: pieces alike in their surroundings are one.

    Where there would be more than a leg holds, the shortest are reckoned with the worst beside them.
    """
    mm: dict[tuple[str, int, str], int] = {}
    for piece in pieces:
        key = (piece.method, piece.grouped, piece.way)
        mm[key] = mm.get(key, 0) + piece.mm
    if not mm:
        return (Segment(length_m=slack_mm / 1000),)
    longest = max(mm, key=lambda key: (mm[key], key))
    mm[longest] += slack_mm
    kept = sorted(mm, key=lambda key: (-mm[key], key))
    for key in kept[_MOST:]:
        most = max(kept[:_MOST], key=lambda each: each[1])
        mm[most] += mm[key]
    return tuple(
        Segment(length_m=mm[key] / 1000, method=key[0], grouped_circuits=key[1], depth_m=depths_m.get(key[2]))
        for key in kept[:_MOST]
    )
