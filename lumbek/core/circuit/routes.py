"""Where cable may run: as it runs already, or as the chosen school would have it."""

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from itertools import pairwise

from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD
from lumbek.core.model.point import JOINT_KINDS
from lumbek.core.model.scheme import LightingSchool, Route, RouteCable, Scheme


def routes_of(circuit: Circuit, scheme: Scheme) -> tuple[Route, ...]:
    """Return the routes of a scheme: those that are said, with the cables found in them; else those of the drawing.

    Where neither joins every place, the school's own ways join those that are left, of unknown length.
    """
    drawn = _drawn(circuit, scheme)
    said = {frozenset((route.a, route.b)): route for route in scheme.routes}
    found = {
        pair: said[pair].model_copy(update={"cables": _both(said[pair], route)}) if pair in said else route
        for pair, route in drawn.items()
        if (pair in said or not said) and not scheme.bars(route.a, route.b)
    }
    routes = {**said, **found}
    reached = reached_by(scheme.feed, routes.values())
    missing = [place for place in scheme.places if place not in reached]
    return tuple((_joined_up(circuit, scheme, routes) if missing else routes).values())


def _joined_up(
    circuit: Circuit, scheme: Scheme, routes: Mapping[frozenset[str], Route], known: Mapping[frozenset[str], Route] = {}
) -> dict[frozenset[str], Route]:
    """Return routes with those that the school has to what they do not reach yet, as far as these are not barred.

    Of a route that is `known` what is known of it stays.
    """
    found = dict(routes)
    joints = [point.id for point in circuit.points if point.kind in JOINT_KINDS]
    # Two plates make loops of the ways: the neutral goes another than the line.
    loops = scheme.wishes.school == "two-plate"
    for route in school_routes(scheme.wishes.school, scheme, joints):
        if scheme.bars(route.a, route.b):
            continue
        if loops or not {route.a, route.b} <= reached_by(scheme.feed, found.values()):
            pair = frozenset((route.a, route.b))
            found.setdefault(pair, known.get(pair, route))
    return found


def in_school(circuit: Circuit, scheme: Scheme, school: LightingSchool) -> Scheme:
    """Return a scheme looped otherwise: its runs as that school has them, beside those with cables found in them.

    What is known of a run's length stays with it.
    """
    wished = scheme.model_copy(update={"wishes": scheme.wishes.model_copy(update={"school": school})})
    known = {frozenset((route.a, route.b)): route for route in routes_of(circuit, scheme)}
    found = {pair: route for pair, route in known.items() if route.cables}
    return wished.model_copy(update={"routes": tuple(_joined_up(circuit, wished, found, known).values())})


def _both(said: Route, drawn: Route) -> tuple[RouteCable, ...]:
    """Return the cables of a route: as many of each sort as are said, or drawn, whichever are more."""
    more = Counter(drawn.cables) - Counter(said.cables)
    return (*said.cables, *more.elements())


def _drawn(circuit: Circuit, scheme: Scheme) -> dict[frozenset[str], Route]:
    """Return the routes that the legs between its places make; what was found stays in the wall."""
    places = set(scheme.places) | {point.id for point in circuit.points if point.kind in JOINT_KINDS}
    if scheme.feed != BOARD:
        places.discard(BOARD)
    found: dict[frozenset[str], Route] = {}
    for leg in circuit.legs:
        if not {leg.a, leg.b} <= places:
            continue
        pair = frozenset((leg.a, leg.b))
        route = found.get(pair, Route(a=leg.a, b=leg.b, length_m=leg.length_m))
        cable = circuit.cable_of(leg)
        if leg.state == "as-found":
            live = min(4, len(cable.live_cores))
            there = RouteCable(live=live, colours=cable.colours)
            route = route.model_copy(update={"cables": (*route.cables, there), "closed": True})
        found[pair] = route
    return found


def reached_by(feed: str, routes: Iterable[Route]) -> set[str]:
    """Return the places that routes lead to from the feed, itself among them."""
    found, ways = {feed}, list(routes)
    grew = True
    while grew:
        more = {end for route in ways if {route.a, route.b} & found for end in (route.a, route.b)}
        grew = not more <= found
        found |= more
    return found


def school_routes(school: LightingSchool, scheme: Scheme, joints: Sequence[str] = ()) -> tuple[Route, ...]:
    """Return the ways a school has between the places of a scheme, lengths unknown.

    At the light: from light to light, each control's switches hung off its first light in a row. At the switch: from
    switch to switch, each control's lights off its last switch. At joints all hang off the first joint box; where
    there is none, off the feed. In two plates: from switch to switch, from light to light, and from each control's
    last switch to its first light.
    """
    pairs: list[tuple[str, str]] = []
    spine = back = scheme.feed
    if school == "at-joint" and joints and spine not in joints:
        pairs.append((spine, joints[0]))
        spine = joints[0]
    for control in scheme.controls:
        lights = list(dict.fromkeys(output.point for output in control.outputs))
        switches = list(dict.fromkeys(gang.point for gang in (*control.gangs, *control.sensors)))
        if school == "two-plate":
            pairs += _row([back, *lights])
            pairs += _row([spine, *switches]) + (_row([switches[-1], lights[0]]) if switches else [])
            spine, back = (switches[0] if switches else spine), lights[-1]
        elif school == "at-joint":
            pairs += _row([spine, *switches]) + _row([spine, *lights])
        elif school == "at-light" or not switches:
            pairs += _row([spine, *lights])
            pairs += _row([lights[0], *switches])
            spine = lights[-1]
        else:
            pairs += _row([spine, *switches])
            pairs += _row([switches[-1], *lights])
            spine = switches[0]
    found: dict[frozenset[str], Route] = {}
    for a, b in pairs:
        if a != b:
            found.setdefault(frozenset((a, b)), Route(a=a, b=b))
    return tuple(found.values())


def _row(places: list[str]) -> list[tuple[str, str]]:
    return list(pairwise(places))
