"""Lighting of a level: switches, lights, what switches what, wired with the least cable by the planner."""

from random import Random

from lumbek.core.circuit.routes import school_routes
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.point import Load, Point
from lumbek.core.model.scheme import Control, GangAt, Output, Scheme, Wishes
from lumbek.core.rulebooks import Rulebook
from lumbek.core.switching.plan import plan
from lumbek.practice.exercise import School

_PLACES = ("foot of the stair", "head of the stair", "landing", "hall door", "kitchen door", "porch")
_SENSOR_FROM = 4
# By level: of each light, by how many switches it is switched.
_LEVELS: dict[int, tuple[tuple[int, ...], ...]] = {
    1: ((1,),),
    2: ((2,),),
    3: ((2, 1), (1, 1)),
    4: ((3,), (2, 2)),
    5: ((3, 2), (4,)),
}


def lighting(book: Rulebook, chance: Random, level: int, school: School) -> Circuit:
    """Return a lighting circuit of a level, wired as the planner wires it."""
    for_lights = chance.choice(_LEVELS[level])
    places = chance.sample(_PLACES, max(for_lights))
    points = [
        Point(id=f"S{at}", name=f"switch, {place}", kind="switch", class_ii=True)
        for at, place in enumerate(places, start=1)
    ]
    controls, gangs = [], dict.fromkeys(range(max(for_lights)), 0)
    for at, many in enumerate(for_lights, start=1):
        points.append(
            Point(id=f"Z{at}", name=f"light {at}", kind="light", loads=(Load(power_w=10, diversity="lighting"),))
        )
        some = sorted(chance.sample(range(max(for_lights)), many))
        for each in some:
            gangs[each] += 1
        controls.append(
            Control(
                id=f"C{at}",
                name=f"light {at}",
                outputs=(Output(point=f"Z{at}"),),
                gangs=tuple(GangAt(point=f"S{each + 1}", gang=gangs[each]) for each in some),
            )
        )
    if level >= _SENSOR_FROM and chance.random() < 0.5:
        points.append(Point(id="S9", name="sensor, yard", kind="switch", class_ii=True))
        controls[0] = controls[0].model_copy(update={"sensors": (GangAt(point="S9"),)})
    scheme = Scheme(feed="board", controls=tuple(controls), wishes=Wishes(school=school.loop, colours=school.colours))
    routes = tuple(
        route.model_copy(update={"length_m": float(chance.randint(2, 8))})
        for route in school_routes(school.loop, scheme)
    )
    scheme = scheme.model_copy(update={"routes": routes})
    circuit = Circuit(
        kind="lighting",
        name="Lights",
        cable=Cable(csa_mm2=1.5, cpc_by="core", colours=school.colours),
        points=tuple(points),
        scheme=scheme,
    )
    found = plan(book, circuit, scheme)
    if found.best is None:
        raise ValueError(f"nothing wires it: {found.problems}")
    return found.best.design
