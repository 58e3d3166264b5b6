"""Lighting circuits to test with, as short as they can be said; a second prover and a second way to the least."""

import random
from collections.abc import Iterable, Iterator
from itertools import permutations, product

import networkx as nx

from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Leg, Segment
from lumbek.core.model.point import Load, Point
from lumbek.core.model.scheme import Control, GangAt, Output, Route, Scheme, Wishes
from lumbek.core.model.terminals import CoreEnd, Join
from lumbek.core.switching.choose import Chooser, Chosen
from lumbek.core.switching.wire import wire
from tests.support.houses import BS


def switch(point_id: str, **more: object) -> Point:
    return Point(id=point_id, name=point_id, kind="switch", **more)


def light(point_id: str, **more: object) -> Point:
    loads = more.pop("loads", (Load(power_w=10, diversity="lighting"),))
    return Point(id=point_id, name=point_id, kind="light", loads=loads, **more)


def ways(*pairs: str, closed: Iterable[str] = (), **cables: tuple[int, ...]) -> tuple[Route, ...]:
    """Routes as "H-T 5": two places and the metres between them."""
    found = []
    for text in pairs:
        ends, metres = text.split()
        a, b = ends.split("-")
        there = tuple({"live": live} for live in cables.get(a + b, ()))
        found.append(
            Route.model_validate({"a": a, "b": b, "length_m": float(metres), "cables": there, "closed": ends in closed})
        )
    return tuple(found)


def control(name: str, lights: str, switches: str = "", sensor: str | None = None, **more: object) -> Control:
    """A control by its places: `control("Stair", "Z", "H T2")` is light Z from H and from gang 2 of T."""
    given: dict[str, object] = {
        "id": name,
        "name": name,
        "outputs": [Output(point=each) for each in lights.split()],
        "gangs": [_gang(each) for each in switches.split()],
        "sensors": [_gang(each) for each in (sensor or "").split()],
    }
    return Control.model_validate({**given, **more})


def _gang(text: str) -> GangAt:
    return GangAt(point=text[0], gang=int(text[1:] or 1))


def lit(
    feed: str, points: Iterable[Point], controls: Iterable[Control], routes: Iterable[Route], **wishes: object
) -> Circuit:
    """A lighting circuit with a scheme, nothing wired yet but its feed."""
    scheme = Scheme(feed=feed, controls=tuple(controls), routes=tuple(routes), wishes=Wishes.model_validate(wishes))
    legs = (Leg(id="L1", a="board", b=feed, segments=(Segment(length_m=6),)),) if feed != "board" else ()
    return Circuit(
        number=3,
        kind="lighting",
        cable=Cable(csa_mm2=1.0, cpc_by="core"),
        points=tuple(points),
        legs=legs,
        scheme=scheme,
    )


def stair(feed: str = "H", switches: str = "H T", routes: tuple[Route, ...] | None = None, **wishes: object) -> Circuit:
    """A stair: switches at foot, half landing and head in a row, its light beyond the head."""
    points = [switch(each) for each in "HMT"] + [light("Z")]
    return lit(feed, points, [control("Stair", "Z", switches)], routes or ways("H-M 4", "M-T 5", "T-Z 2"), **wishes)


def chooser(circuit: Circuit) -> Chooser:
    data = BS.switching
    return Chooser(circuit, circuit.scheme or Scheme(), data.prices, data.usual_length_m)


def wired(circuit: Circuit) -> Circuit:
    """The circuit wired in the least way."""
    found = chooser(circuit)
    best = found.best()
    assert best is not None
    return wire(BS, found, best)


def every_way(circuit: Circuit) -> Iterator[Chosen]:
    """The least of each method and order, one after another."""
    found = chooser(circuit)
    left = frozenset[tuple[object, ...]]()
    while True:
        best = Chooser(found.circuit, found.scheme, found.prices, found.usual_length_m, left).best()
        if best is None:
            return
        yield best
        left |= {option.label for option in best.options if len(option.label) > 2}
        if all(option.method not in ("commons-at-ends", "commons-joined") for option in best.options):
            return


def as_found(circuit: Circuit) -> Circuit:
    """The same as somebody finds it: cables and boxes are there."""
    legs = tuple(leg.model_copy(update={"state": "as-found"}) for leg in circuit.legs)
    points = tuple(point.model_copy(update={"state": "as-found"}) for point in circuit.points)
    return circuit.model_copy(update={"legs": legs, "points": points})


def with_point(circuit: Circuit, place: str, **changes: object) -> Circuit:
    """The circuit with one of its points otherwise."""
    points = tuple(point.model_copy(update=changes) if point.id == place else point for point in circuit.points)
    return circuit.model_copy(update={"points": points})


def core_in(circuit: Circuit, place: str, terminal: str, at: int = 0) -> tuple[str, str]:
    """The core that is in a terminal."""
    join = next(each for each in circuit.point(place).joins if terminal in each.terminals)
    end = join.ends[at]
    return end.leg, end.core


def crossed(circuit: Circuit, place: str, one: tuple[str, str], other: tuple[str, str]) -> Circuit:
    """The circuit with two core ends of a place taken for each other."""
    swap = {one: other, other: one}

    def end(each: CoreEnd) -> CoreEnd:
        leg, core = swap.get((each.leg, each.core), (each.leg, each.core))
        return each.model_copy(update={"leg": leg, "core": core})

    def joins(point: Point) -> tuple[Join, ...]:
        return tuple(join.model_copy(update={"ends": tuple(end(each) for each in join.ends)}) for join in point.joins)

    points = tuple(
        point.model_copy(update={"joins": joins(point)}) if point.id == place else point for point in circuit.points
    )
    return Circuit.model_validate(circuit.model_copy(update={"points": points}).model_dump())


# A second prover: it knows the circuit's own words and nothing of the conductor network


def second_proof(circuit: Circuit) -> list[str]:
    """What is wrong with a circuit's lighting, found by walking its joins with a graph library, state by state."""
    copper = nx.Graph()
    for point in (None, *circuit.points):
        place, joins = ("board", circuit.board_joins) if point is None else (point.id, point.joins)
        said = {(end.leg, end.core) for join in joins for end in join.ends}
        for at, join in enumerate(joins):
            hub = ("join", place, at)
            copper.add_node(hub)
            copper.add_edges_from((hub, ("end", place, end.leg, end.core)) for end in join.ends)
            copper.add_edges_from((hub, ("terminal", place, name)) for name in join.terminals)
        for leg in circuit.legs:
            for core in circuit.cable_of(leg).core_names:
                if place in (leg.a, leg.b) and (leg.id, core) not in said and core in ("L", "N", "E"):
                    copper.add_edge(("end", place, leg.id, core), ("terminal", place, core))
    for leg in circuit.legs:
        for core in circuit.cable_of(leg).core_names:
            copper.add_edge(("end", leg.a, leg.id, core), ("end", leg.b, leg.id, core))
    gangs = [(point.id, gang) for point in circuit.points for gang in point.accessories]
    isolating = ("double-pole", "isolator-3", "fused-unit")
    free = [(0,) if gang.kind in isolating else (0, 1) for _, gang in gangs]
    lamps = [(point.id, load.line) for point in circuit.points for load in point.loads]
    meant = {
        (output.point, output.line): each for each in (circuit.scheme or Scheme()).controls for output in each.outputs
    }
    wrong: list[str] = []
    parity: dict[tuple[str, str], bool] = {}
    for state in product(*free):
        now = copper.copy()
        stands = {}
        for (place, gang), at in zip(gangs, state, strict=True):
            stands[place, gang.gang] = at
            for pair in gang.switch.positions[at]:
                now.add_edge(("terminal", place, pair.a), ("terminal", place, pair.b))
        line, neutral, earth = (_part(now, ("terminal", "board", name)) for name in ("L", "N", "E"))
        if line & neutral or line & earth or neutral & earth:
            wrong.append(f"{state}: supplies meet")
        for place, name in lamps:
            if ("terminal", place, "N") not in neutral:
                wrong.append(f"{state}: no neutral at {place}")
            lights = ("terminal", place, name) in line
            each = meant.get((place, name))
            if each is None:
                continue
            at = {gang: stands[gang.point, gang.gang] for gang in each.switches}
            sensed = any(at[sensor] == 0 for sensor in each.sensors)
            # A master and what holds on are on at rest.
            if each.master is not None and at[each.master] == 1:
                wanted = False
            elif any(at[hold] == 0 for hold in each.holds):
                wanted = True
            elif each.sensors and sensed != each.sensors_behind:
                wanted = sensed
            elif not each.gangs:
                wanted = not each.sensors
            else:
                odd = sum(at[gang] for gang in each.gangs) % 2 == 1
                wanted = parity.setdefault((place, name), lights ^ odd) ^ odd
            if lights != wanted:
                wrong.append(f"{state}: {place} is {'lit' if lights else 'dark'}")
        for point in circuit.points:
            reached = any(point.id in (leg.a, leg.b) for leg in circuit.legs)
            if reached and ("terminal", point.id, "E") not in earth:
                wrong.append(f"no cpc at {point.id}")
    return wrong


def _part(graph: nx.Graph, node: object) -> set[object]:
    return set(nx.node_connected_component(graph, node)) if node in graph else set()


# A second way to the least: every order of every control, both methods, every pair tapped


def least_by_trying(circuit: Circuit, prices: dict[int, float], held: dict[str, int] | None = None) -> float:
    """The least cable of a scheme on a tree, by trying everything; with `held`, the fewest cores that are missing."""
    scheme = circuit.scheme
    assert scheme is not None
    tree = nx.Graph((route.a, route.b) for route in scheme.routes)
    length = {frozenset((route.a, route.b)): route.length_m or 0.0 for route in scheme.routes}

    def joined(places: Iterable[str]) -> set[frozenset[str]]:
        first, *others = dict.fromkeys(places)
        return {frozenset(pair) for place in others for pair in nx.utils.pairwise(nx.shortest_path(tree, first, place))}

    def ways_of(each: Control) -> Iterator[tuple[list[set[frozenset[str]]], list[str]]]:
        """Nets of its own, and where it wants the line."""
        lights = [output.point for output in each.outputs]
        for row in permutations([gang.point for gang in each.gangs]):
            if len(row) == 1:
                yield [joined([*lights, *row])], [row[0]]
                continue
            pairs = list(nx.utils.pairwise(row))
            strappers = [[joined(pair)] * 2 for pair in pairs]
            yield [*(net for pair in strappers for net in pair), joined([*lights, row[-1]])], [row[0]]
            for tapped, (x, y) in enumerate(pairs):
                others = [net for at, pair in enumerate(strappers) if at != tapped for net in pair]
                yield [*others, joined([row[0], row[-1]]), joined([*lights, x, y])], [x, y]

    neutral = joined([scheme.feed, *(output.point for each in scheme.controls for output in each.outputs)])
    best = float("inf")
    for way in product(*(list(ways_of(each)) for each in scheme.controls)):
        line = joined([scheme.feed, *(place for _, at in way for place in at)])
        total = 0.0
        for run, metres in length.items():
            cores = (run in neutral) + (run in line) + sum(run in net for nets, _ in way for net in nets)
            total += metres * _price(cores, prices) if held is None else max(0, cores - held["".join(sorted(run))])
        best = min(best, total)
    return best


def _price(cores: int, prices: dict[int, float]) -> float:
    """Cables of two and three cores side by side."""
    if cores <= 0:
        return 0.0
    return min(price + _price(cores - live, prices) for live, price in prices.items() if live <= 3)


def random_scheme(chance: random.Random) -> Circuit:
    """A tree of places with up to five switches in all, one or two controls."""
    names = "ABCDEFGH"[: chance.randint(3, 8)]
    routes = tuple(
        Route(a=chance.choice(names[max(0, at - 3) : at]), b=names[at], length_m=chance.randint(1, 9))
        for at in range(1, len(names))
    )
    boxes, lamps = list(names), list(names)
    chance.shuffle(boxes)
    chance.shuffle(lamps)
    first = chance.randint(1, min(5, len(boxes) - 1))
    controls = [control("One", " ".join(lamps[: chance.randint(1, 2)]), " ".join(boxes[:first]))]
    rest = boxes[first : first + min(2, 5 - first)]
    if rest and len(lamps) > 2 and chance.random() < 0.5:
        controls.append(control("Two", lamps[-1], " ".join(rest)))
    lit_at = {output.point for each in controls for output in each.outputs}
    points = [light(each) if each in lit_at else switch(each) for each in names]
    return lit(chance.choice(names), points, controls, routes)
