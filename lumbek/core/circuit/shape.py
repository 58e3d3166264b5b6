"""Recognising what a circuit really is from how its legs join: ring, spurs, radial, tree, or a mistake."""

from functools import lru_cache
from typing import Literal

from lumbek.core.circuit.graph import CircuitGraph
from lumbek.core.model.leg import BOARD
from lumbek.core.value import Frozen

ShapeKind = Literal[
    "empty",
    "ring",
    "ring-with-spurs",
    "radial",
    "branched-radial",
    "loop-off-the-board",
    "bridged-ring",
    "two-rings",
    "two-rings-joined",
    "ends-on-two-devices",
]

_TITLES: dict[ShapeKind, str] = {
    "empty": "Nothing drawn yet",
    "ring": "Ring",
    "ring-with-spurs": "Ring with spurs",
    "radial": "Radial",
    "branched-radial": "Branched radial",
    "loop-off-the-board": "Loop fed at one end",
    "bridged-ring": "Ring bridged inside",
    "two-rings": "Two rings on one device",
    "two-rings-joined": "Two rings joined together",
    "ends-on-two-devices": "Ends on two devices",
}

_SENTENCES: dict[ShapeKind, str] = {
    "empty": "No cable leaves the board yet.",
    "ring": "The run leaves the board and comes back to it.",
    "ring-with-spurs": "The run leaves the board and comes back to it; other points hang off it.",
    "radial": "One run from the board to its last point.",
    "branched-radial": "The run divides: currents are not shared, each branch ends by itself.",
    "loop-off-the-board": "A loop closes away from the board, on a single cable that carries everything.",
    "bridged-ring": "A cable crosses the ring from one side to the other: ring tests will not read true.",
    "two-rings": "Two closed runs leave the same device.",
    "two-rings-joined": "Two closed runs from the same device are tied together somewhere.",
    "ends-on-two-devices": "The run is fed from two devices: switching one off does not make it dead.",
}


class Spur(Frozen):
    """What hangs off a point of the ring, or off the board beside a ring."""

    from_point: str
    legs: tuple[str, ...]
    points: tuple[str, ...]


class ChainStep(Frozen):
    """One leg of a chain and the point it arrives at."""

    leg: str
    point: str


class Chain(Frozen):
    """Legs one after the other from a point already drawn: what a pencil does without lifting."""

    start: str
    steps: tuple[ChainStep, ...]


class Shape(Frozen):
    """What the circuit is. `walk` lists every joined leg once, the main run first."""

    kind: ShapeKind
    title: str
    sentence: str
    ring_legs: tuple[str, ...] = ()
    ring_points: tuple[str, ...] = ()
    spurs: tuple[Spur, ...] = ()
    walk: tuple[Chain, ...] = ()
    detached: tuple[str, ...] = ()

    @property
    def is_ring(self) -> bool:
        """Whether there is one sound ring from the board and back."""
        return self.kind in ("ring", "ring-with-spurs")

    def hangs_at(self, point: str) -> str:
        """Return the point of the ring, or the board, that a point's spur hangs at: itself where it is on none."""
        return next((spur.from_point for spur in self.spurs if point in spur.points), point)


@lru_cache(maxsize=256)
def recognise(graph: CircuitGraph) -> Shape:
    """Return the shape of a circuit. It does not depend on the order or direction legs were drawn in."""
    kind, ring = _kind(graph)
    ring_steps = _round(graph, ring) if ring else ()
    ring_points = tuple(step.point for step in ring_steps if step.point != BOARD)
    return Shape(
        kind=kind,
        title=_TITLES[kind],
        sentence=_SENTENCES[kind],
        ring_legs=tuple(step.leg for step in ring_steps),
        ring_points=ring_points,
        spurs=_spurs(graph, (BOARD, *ring_points)) if ring else (),
        walk=_walk(graph, ring_steps),
        detached=graph.detached,
    )


def _kind(graph: CircuitGraph) -> tuple[ShapeKind, frozenset[str] | None]:
    """Return the kind, and the legs of the ring where there is one sound ring."""
    if not graph.at[BOARD]:
        return "empty", None
    if any(leg.elsewhere for leg in graph.at[BOARD]):
        return "ends-on-two-devices", None
    loops = graph.loops()
    if not loops:
        branched = len(graph.at[BOARD]) > 1 or any(len(legs) > 2 for point, legs in graph.at.items() if point != BOARD)
        return ("branched-radial" if branched else "radial"), None
    group = next((group for group in loops if any(leg.id in group for leg in graph.at[BOARD])), None)
    if group is None:
        return "loop-off-the-board", None
    if len(loops) == 1 and _independent_loops(graph, group) == 1:
        return ("ring-with-spurs" if set(graph.legs) - group else "ring"), group
    return _several_loops(graph, group), None


def _several_loops(graph: CircuitGraph, group: frozenset[str]) -> ShapeKind:
    """Return the kind of a circuit with more than one loop, by the group of loops at the board."""
    at_board = sum(leg.id in group for leg in graph.at[BOARD])
    if at_board < 4:
        return "bridged-ring"
    crossing = _independent_loops(graph, group)
    apart = crossing == at_board // 2 and _parts_without_board(graph, group) == crossing
    return "two-rings" if apart else "two-rings-joined"


def _points_of(graph: CircuitGraph, group: frozenset[str]) -> set[str]:
    return {end for leg_id in group for end in (graph.legs[leg_id].a, graph.legs[leg_id].b)}


def _independent_loops(graph: CircuitGraph, group: frozenset[str]) -> int:
    """Return legs - points + 1 of a connected group: 1 for a plain ring (Kirchhoff's cyclomatic number)."""
    return len(group) - len(_points_of(graph, group)) + 1


def _parts_without_board(graph: CircuitGraph, group: frozenset[str]) -> int:
    left = _points_of(graph, group) - {BOARD}
    parts = 0
    while left:
        parts += 1
        queue = [left.pop()]
        for here in queue:
            for leg in graph.at[here]:
                there = leg.other_end(here)
                if leg.id in group and there in left:
                    left.remove(there)
                    queue.append(there)
    return parts


def _round(graph: CircuitGraph, ring: frozenset[str]) -> tuple[ChainStep, ...]:
    """Walk round a ring from the board, leaving by the leg whose name comes first."""
    here, steps = BOARD, list[ChainStep]()
    last = ""
    while not steps or here != BOARD:
        leg = next(each for each in graph.at[here] if each.id in ring and each.id != last)
        here, last = leg.other_end(here), leg.id
        steps.append(ChainStep(leg=leg.id, point=here))
    return tuple(steps)


def _spurs(graph: CircuitGraph, roots: tuple[str, ...]) -> tuple[Spur, ...]:
    spurs = []
    for root in roots:
        for first in graph.at[root]:
            if first.id in graph.loop_legs:
                continue
            legs, points = [first.id], [first.other_end(root)]
            for here in points:
                for leg in graph.at[here]:
                    if leg.id not in legs:
                        legs.append(leg.id)
                        points.append(leg.other_end(here))
            spurs.append(Spur(from_point=root, legs=tuple(legs), points=tuple(points)))
    return tuple(spurs)


def _walk(graph: CircuitGraph, ring_steps: tuple[ChainStep, ...]) -> tuple[Chain, ...]:
    """Return every leg that the board reaches, as chains from points already drawn."""
    drawn_legs = {step.leg for step in ring_steps}
    drawn = [BOARD, *(step.point for step in ring_steps if step.point != BOARD)]
    seen = set(drawn)
    depth = _depth_below(graph)
    chains = [Chain(start=BOARD, steps=ring_steps)] if ring_steps else []
    for root in drawn:
        for first in graph.at[root]:
            if first.id in drawn_legs:
                continue
            steps, here, leg = list[ChainStep](), root, first
            while True:
                here = leg.other_end(here)
                drawn_legs.add(leg.id)
                steps.append(ChainStep(leg=leg.id, point=here))
                if here in seen:
                    break
                seen.add(here)
                drawn.append(here)
                onward = [each for each in graph.at[here] if each.id not in drawn_legs]
                if not onward:
                    break
                # The longest way on is the run; shorter ones are its branches.
                at = here
                leg = max(onward, key=lambda each: depth[each.other_end(at)])
            chains.append(Chain(start=root, steps=tuple(steps)))
    return tuple(chains)


def _depth_below(graph: CircuitGraph) -> dict[str, int]:
    """Return for each reached point how many legs lie below it on shortest ways from the board."""
    depth = dict.fromkeys(graph.at, 0)
    for here in sorted(graph.distance, key=lambda point: -graph.distance[point]):
        for leg in graph.at[here]:
            there = leg.other_end(here)
            if graph.distance[there] < graph.distance[here]:
                depth[there] = max(depth[there], depth[here] + 1)
    return depth
