"""The graph of the ways in a house: lines in walls, lines in the layers between storeys, uprights that join them.

A wall holds only the lines where cable is looked for (BS 7671 522.6.202: upright and level from an accessory, within
150 mm of a corner or of the ceiling): what has no line cannot be used, so no route leaves a safe zone. In a layer cable
runs along x or y, on the lines through whatever matters there. Two nodes to each spot, one for each direction, joined
by the price of a bend: else routes become staircases. Costs are in mm of cable that lies free.
"""

from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import Any, NamedTuple

import numpy as np

from lumbek.core.model.routes import RouteRules, WayOutside
from lumbek.core.routes.lay_of_house import OVER_WALL_MM, LayOfHouse, Panel, RoutedFace

# Lines beside a corner and under a ceiling, inside of the 150 mm that are reckoned with.
ZONE_MM = 100
# Joists are drilled in the middle of their depth, between these parts of their span from either end.
DRILLED_FROM, DRILLED_TO = 0.25, 0.40
# An edge of nought would vanish in a sparse matrix.
_TRIFLE = 1e-3
# Of two ways that cost as much the shorter one counts.
_BY_LENGTH = 1e-6


class Spots(NamedTuple):
    """Where each node is: x, y, z in mm, and in what: a layer or a face by its place in the list."""

    x: Any
    y: Any
    z: Any
    layer: Any
    face: Any


class Graph(NamedTuple):
    """Nodes, weighed edges between them, and the node of each end of a leg by its mark."""

    spots: Spots
    matrix: Any
    ends: dict[str, int]
    faces: tuple[RoutedFace, ...]
    ways: dict[tuple[int, int], WayOutside]


class _Builder:
    def __init__(self, house: LayOfHouse, rules: RouteRules) -> None:
        self.house, self.rules, self.weights = house, rules, rules.weights
        self.spots: list[tuple[int, int, int, int, int]] = []
        self.edges: list[tuple[int, int, float]] = []
        self.blocks: list[tuple[Any, Any, Any]] = []
        self.ends: dict[str, int] = {}
        self.ways: dict[tuple[int, int], WayOutside] = {}
        barred = set(rules.barred)
        self.faces = tuple(
            face
            for (room, wall), face in house.faces.items()
            if not any(each.room == room and each.wall == wall for each in barred)
        )
        # Per face: the node of a line and a height; then what comes up into each layer, with its price.
        self.on_wall: list[dict[tuple[int, int], int]] = []
        self.into: dict[int, list[tuple[int, int, int, float]]] = {layer: [] for layer in range(len(house.layers))}

    def node(self, x: int, y: int, z: int, layer: int, face: int) -> int:
        self.spots.append((x, y, z, layer, face))
        return len(self.spots) - 1

    def join(self, one: int, other: int, mm: float, more: float = 0.0) -> None:
        self.edges.append((one, other, max(mm * (1 + _BY_LENGTH) + more, _TRIFLE)))


def build_graph(house: LayOfHouse, rules: RouteRules) -> Graph:
    """Return the graph of a house."""
    build = _Builder(house, rules)
    for at, face in enumerate(build.faces):
        _wall(build, at, face)
    _corners(build)
    _outside(build)
    for mark, end in house.ends.items():
        if not end.wall:
            level = house.level_of(_room_of(house, end.room))
            node = build.node(end.x, end.y, house.floor_mm(level) + end.height_mm, -1, -1)
            layer = house.layer_of(level, end.room)
            build.into[layer].append((node, end.x, end.y, build.weights.through))
            build.ends[mark] = node
    for layer in range(len(house.layers)):
        _layer(build, layer)
    return _finished(build)


def _room_of(house: LayOfHouse, room_id: str) -> Any:
    return next(room for room in house.measured if room.id == room_id)


# -- walls -------------------------------------------------------------------------------------------------------


def _wall(build: _Builder, at: int, face: RoutedFace) -> None:
    """The lines of one wall: upright through each place and beside the corners, level at each and under the ceiling."""
    here = [end for end in build.house.ends.values() if (end.room, end.wall) == (face.room, face.wall.id)]
    places, corners, gates = {end.at_mm for end in here}, _corner_lines(face.wall.length_mm), _gates(build, face)
    uprights, heights = sorted({*places, *corners, *gates}), _heights(build, face)
    floor = build.house.floor_mm(face.storey)
    nodes: dict[tuple[int, int], int] = {}
    for mm in uprights:
        x, y = face.spot(mm)
        for height in heights:
            # The node of the upright line; that of the level one comes after it.
            nodes[mm, height] = build.node(x, y, floor + height, -1, at)
            build.join(nodes[mm, height], build.node(x, y, floor + height, -1, at), 0, build.weights.bend)
    build.on_wall.append(nodes)
    level_at = {end.height_mm for end in here} | {face.height_mm - ZONE_MM}
    _lines_in_wall(build, face, nodes, uprights, heights, level_at)
    first = face.wall.id == next(wall for room, wall in build.house.faces if room == face.room)
    _into_layers(build, face, nodes, sorted({*places, *gates, *(corners if first else ())}))
    for end in here:
        node = build.node(end.x, end.y, floor + end.height_mm, -1, at)
        build.join(node, nodes[end.at_mm, end.height_mm], 0)
        build.join(node, nodes[end.at_mm, end.height_mm] + 1, 0)
        build.ends[end.mark] = node


def _corner_lines(length_mm: int) -> tuple[int, int]:
    beside = min(ZONE_MM, length_mm // 2)
    return beside, length_mm - beside


def _gates(build: _Builder, face: RoutedFace) -> set[int]:
    """Where ways outside begin in a wall."""
    found = {way.one_mm for way in build.rules.outside if _is_at(way.one, face)}
    return found | {way.other_mm for way in build.rules.outside if _is_at(way.other, face)}


def _heights(build: _Builder, face: RoutedFace) -> list[int]:
    """The heights at which lines of a room may meet: those of its places, under the ceiling, floor and ceiling."""
    in_room = {end.height_mm for end in build.house.ends.values() if end.room == face.room and end.wall}
    inside = {height for height in in_room if 0 < height < face.height_mm}
    return sorted({0, face.height_mm, face.height_mm - ZONE_MM, *inside})


def _lines_in_wall(
    build: _Builder,
    face: RoutedFace,
    nodes: dict[tuple[int, int], int],
    uprights: Sequence[int],
    heights: Sequence[int],
    level_at: set[int],
) -> None:
    price = _chase(build, face)
    for mm in uprights:
        for low, high in pairwise(heights):
            if face.is_open(mm, mm, low, high):
                build.join(nodes[mm, low], nodes[mm, high], high - low, (high - low) * price)
    for height in sorted(level_at & set(heights)):
        for left, right in pairwise(uprights):
            if face.is_open(left, right, height, height):
                span = right - left
                build.join(nodes[left, height] + 1, nodes[right, height] + 1, span, span * price)


def _is_at(one: Any, face: RoutedFace) -> bool:
    return bool(one.room == face.room and one.wall == face.wall.id)


def _chase(build: _Builder, face: RoutedFace) -> float:
    """Return what a metre let into a wall costs more than one that lies free, in parts of that; unknown as masonry."""
    weights = build.weights
    price = weights.chase_masonry if face.is_masonry else weights.chase_hollow
    return (price + (weights.chase_tiled if face.wall.tiled else 0)) / 1000


def _into_layers(build: _Builder, face: RoutedFace, nodes: dict[tuple[int, int], int], uprights: Sequence[int]) -> None:
    """Uprights end in the layer over the storey, and in that under it, where its floor may be opened."""
    weights, level = build.weights, face.storey
    for mm in uprights:
        x, y = face.spot(mm)
        over = build.house.layer_of(level, face.room)
        build.into[over].append((nodes[mm, face.height_mm], x, y, weights.through))
        if build.house.has_below(level) and face.room not in build.rules.closed:
            under = build.house.layer_of(level - 1, face.room)
            build.into[under].append((nodes[mm, 0], x, y, weights.through + weights.floor_opened))


def _corners(build: _Builder) -> None:
    """Walls that meet join their corner lines, half the way in each."""
    by_wall = {(face.room, face.wall.id): at for at, face in enumerate(build.faces)}
    for room in build.house.measured:
        assert room.outline is not None, "only measured rooms are listed"
        walls = room.outline.walls
        for at, wall in enumerate(walls):
            one, other = by_wall.get((room.id, wall.id)), by_wall.get((room.id, walls[(at + 1) % len(walls)].id))
            if one is None or other is None:
                continue
            right = _corner_lines(wall.length_mm)[1]
            left = _corner_lines(build.faces[other].wall.length_mm)[0]
            way = wall.length_mm - right + left
            for mm, height in build.on_wall[one]:
                if mm == right and (left, height) in build.on_wall[other]:
                    # Level lines meet: round the corner is a bend.
                    nodes = build.on_wall[one][mm, height] + 1, build.on_wall[other][left, height] + 1
                    build.join(*nodes, way, build.weights.bend)


def _outside(build: _Builder) -> None:
    by_wall = {(face.room, face.wall.id): at for at, face in enumerate(build.faces)}
    for way in build.rules.outside:
        one, other = by_wall.get((way.one.room, way.one.wall)), by_wall.get((way.other.room, way.other.wall))
        if one is None or other is None:
            continue
        nodes = build.on_wall[one].get((way.one_mm, 0)), build.on_wall[other].get((way.other_mm, 0))
        if nodes[0] is None or nodes[1] is None:
            continue
        mm = length_of(way, build.faces[one], build.faces[other])
        build.join(nodes[0], nodes[1], mm, mm * build.weights.outside / 1000 + 2 * build.weights.through)
        build.ways[min(nodes[0], nodes[1]), max(nodes[0], nodes[1])] = way


def length_of(way: WayOutside, one: RoutedFace, other: RoutedFace) -> int:
    """Return how long a way outside is, in mm: as was said, else along two straight lines."""
    if way.length_mm is not None:
        return way.length_mm
    (ax, ay), (bx, by) = one.spot(way.one_mm), other.spot(way.other_mm)
    return abs(ax - bx) + abs(ay - by)


# -- layers ------------------------------------------------------------------------------------------------------


def _layer(build: _Builder, layer: int) -> None:
    """The lines of a layer through whatever ends in it, the edges of its panels, and where joists may be drilled."""
    panels, into, level = build.house.panels[layer], build.into[layer], build.house.layers[layer][0]
    if not into or not panels:
        return
    xs = sorted({x for _, x, _, _ in into} | {x for panel in panels for x in _lines(panel, "n")})
    ys = sorted({y for _, _, y, _ in into} | {y for panel in panels for y in _lines(panel, "e")})
    z = build.house.floor_mm(level) + _ceiling_mm(build, level)
    first = len(build.spots)
    for y in ys:
        for x in xs:
            build.spots += [(x, y, z, layer, -1), (x, y, z, layer, -1)]
    wide = len(xs)
    # The node of running along x is even, that of running along y odd.
    along_x = first + 2 * (np.arange(len(ys))[:, None] * wide + np.arange(wide)[None, :])
    across, up = np.array(xs, dtype=float), np.array(ys, dtype=float)
    _edges(build, along_x[:, :-1], along_x[:, 1:], _costs(build, panels, across, up))
    turned = [_turned(panel) for panel in panels]
    _edges(build, along_x.T[:, :-1] + 1, along_x.T[:, 1:] + 1, _costs(build, turned, up, across))
    bends = np.full(along_x.shape, max(float(build.weights.bend), _TRIFLE))
    _edges(build, along_x, along_x + 1, bends)
    column, row = {value: at for at, value in enumerate(xs)}, {value: at for at, value in enumerate(ys)}
    for node, at_x, at_y, price in into:
        spot = int(along_x[row[at_y], column[at_x]])
        rise = abs(build.spots[node][2] - z)
        build.join(node, spot, rise, price)
        build.join(node, spot + 1, rise, price)


def _ceiling_mm(build: _Builder, level: int) -> int:
    rooms = [room for room in build.house.measured if build.house.level_of(room) == level]
    return max((room.outline.height_mm for room in rooms if room.outline is not None), default=2400)


def _lines(panel: Panel, runs: str) -> Iterator[int]:
    """Yield the lines of a panel that run north or east: its edges, and between which its joists are drilled."""
    low, high = (panel.west, panel.east) if runs == "n" else (panel.south, panel.north)
    yield from (low, high)
    joists = panel.joists
    if joists is not None and panel.is_drilled and joists.runs != runs:
        span = high - low
        yield from (low + round(span * part) for part in (DRILLED_FROM, DRILLED_TO, 1 - DRILLED_TO, 1 - DRILLED_FROM))


def _turned(panel: Panel) -> Panel:
    """Return a panel with its axes swapped, so that both directions are reckoned alike."""
    joists = panel.joists
    if joists is not None:
        joists = joists.model_copy(update={"runs": "e" if joists.runs == "n" else "n"})
    return panel._replace(west=panel.south, east=panel.north, south=panel.west, north=panel.east, joists=joists)


def _costs(build: _Builder, panels: Sequence[Panel], along: Any, aside: Any) -> Any:
    """Return what each step along one axis costs, a row for each line; infinite where there is none."""
    middle = (along[1:] + along[:-1]) / 2
    found = np.full((len(aside), len(middle)), np.inf)
    for over in (OVER_WALL_MM, 0):
        # What lies over a room itself stands before what only reaches over its wall; what is under one stands first.
        for panel in reversed(panels):
            rows = (panel.south - over <= aside) & (aside <= panel.north + over)
            columns = (panel.west - over <= middle) & (middle <= panel.east + over)
            if rows.any() and columns.any():
                found[np.ix_(rows, columns)] = _over(build, panel, along, aside[rows])[:, columns]
    return found


def _over(build: _Builder, panel: Panel, along: Any, aside: Any) -> Any:
    """Return what each step over one panel costs: joists that it crosses are drilled, where that is allowed."""
    steps = np.diff(along)
    cost = np.tile(steps * (1 + _BY_LENGTH), (len(aside), 1))
    joists = panel.joists
    if joists is None or joists.runs != "n" or not panel.is_drilled:
        return cost
    centres = np.array(panel.joist_centres)
    holes = np.searchsorted(centres, along[1:]) - np.searchsorted(centres, along[:-1])
    span = panel.north - panel.south
    part = np.minimum(aside - panel.south, panel.north - aside) / span
    # Where a band begins and ends is on a line of whole mm.
    slip = 1 / span
    may = (part >= DRILLED_FROM - slip) & (part <= DRILLED_TO + slip)
    cost = cost + holes[None, :] * float(build.weights.joist_hole)
    cost[np.ix_(~may, holes > 0)] = np.inf
    return cost


def _edges(build: _Builder, one: Any, other: Any, cost: Any) -> None:
    there = np.isfinite(cost)
    build.blocks.append((one[there], other[there], cost[there]))


def _finished(build: _Builder) -> Graph:
    # Loading it takes a while, and only routes need it.
    from scipy.sparse import coo_matrix  # noqa: PLC0415

    if build.edges:
        one, other, cost = zip(*build.edges, strict=True)
        build.blocks.append((np.array(one), np.array(other), np.array(cost)))
    count = len(build.spots)
    rows, columns, costs = (
        (np.concatenate([block[at] for block in build.blocks]) for at in range(3)) if build.blocks else ([], [], [])
    )
    matrix = coo_matrix((costs, (rows, columns)), shape=(count, count)).tocsr()
    table = np.array(build.spots, dtype=np.int64).reshape(count, 5)
    return Graph(Spots(*(table[:, at] for at in range(5))), matrix, build.ends, build.faces, build.ways)
