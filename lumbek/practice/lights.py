"""Lighting of a level: switches, lights, what switches what; and wired with the least cable by the planner."""

from collections.abc import Sequence
from random import Random

from lumbek.core.circuit.routes import school_routes
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.point import Load, Point
from lumbek.core.model.scheme import Control, GangAt, Link, Output, Route, Scheme, Wishes
from lumbek.core.rulebooks import Rulebook
from lumbek.core.switching.plan import plan
from lumbek.practice.exercise import School

_PLACES = ("foot of the stair", "head of the stair", "landing", "hall door", "kitchen door", "porch")
_SENSOR_FROM = _FAN_FROM = 4
_LAMP = Load(power_w=10, diversity="lighting")
_FAN = Load(power_w=8, diversity="lighting", line="S")
# By level: of each light, by how many switches it is switched.
_LEVELS: dict[int, tuple[tuple[int, ...], ...]] = {
    1: ((1,),),
    2: ((2,),),
    3: ((2, 1), (1, 1)),
    4: ((3,), (2, 2)),
    5: ((3, 2), (4,)),
}


def lighting(book: Rulebook, chance: Random, level: int, school: School) -> Circuit:
    """Return lights and their switches of a level, and nothing else, wired by the planner."""
    return planned(book, bare(chance, *_lights(chance, level), (), school))


def lights(chance: Random, level: int, school: School) -> Circuit:
    """Return lights and their switches, from some level on with a sensor or a fan, with no cable yet."""
    points, controls = _lights(chance, level)
    if level >= _SENSOR_FROM and chance.random() < 0.5:
        points.append(Point(id="S9", name="sensor, yard", kind="switch", class_ii=True))
        controls[0] = controls[0].model_copy(update={"sensors": (GangAt(point="S9"),)})
    if level >= _FAN_FROM and chance.random() < 0.5:
        points.append(Point(id="F1", name="fan with overrun", kind="light", loads=(_LAMP, _FAN)))
        first = controls[0]
        controls[0] = first.model_copy(update={"outputs": (*first.outputs, Output(point="F1", line="S"))})
        controls.append(Control(id="C9", name="fan", outputs=(Output(point="F1"),)))
    return bare(chance, points, controls, (), school)


def _lights(chance: Random, level: int) -> tuple[list[Point], list[Control]]:
    for_lights = chance.choice(_LEVELS[level])
    places = chance.sample(_PLACES, max(for_lights))
    points = [
        Point(id=f"S{at}", name=f"switch, {place}", kind="switch", class_ii=True)
        for at, place in enumerate(places, start=1)
    ]
    controls, gangs = [], dict.fromkeys(range(max(for_lights)), 0)
    for at, many in enumerate(for_lights, start=1):
        points.append(Point(id=f"Z{at}", name=f"light {at}", kind="light", loads=(_LAMP,)))
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
    return points, controls


def alarms(chance: Random, level: int, school: School) -> Circuit:
    """Return alarms in a row, fed for good and linked so that all sound together, with no cable yet."""
    places = chance.sample(_PLACES, min(level, 4))
    points = [
        Point(id=f"A{at}", name=f"alarm, {place}", kind="light", loads=(_LAMP,))
        for at, place in enumerate(places, start=1)
    ]
    control = Control(id="C1", name="alarms", outputs=tuple(Output(point=point.id) for point in points))
    link = Link(id="K1", name="interlink", ends=tuple(Output(point=point.id, line="I") for point in points))
    return bare(chance, points, [control], (link,), school)


def two_circuits(chance: Random, school: School) -> tuple[Circuit, Circuit]:
    """Return the lights of two storeys, with no cable yet: both have a gang at the foot of the stair.

    The landing is of the upper circuit, switched from below as well: there the line of the lower one lies ready, and
    is not to be borrowed.
    """
    foot = Point(id="S1", name="plate, foot of the stair", kind="switch", class_ii=True)
    head = Point(id="S2", name="switch, head of the stair", kind="switch", class_ii=True)
    hall = Point(id="Z1", name="light, hall", kind="light", loads=(_LAMP,))
    landing = Point(id="Z2", name="light, landing", kind="light", loads=(_LAMP,))
    below = Control(id="C1", name="hall", outputs=(Output(point="Z1"),), gangs=(GangAt(point="S1", gang=1),))
    gangs = (GangAt(point="S2"), GangAt(point="S1", gang=2))
    above = Control(id="C2", name="landing", outputs=(Output(point="Z2"),), gangs=gangs)
    at_light = school.loop == "at-light"
    lower = (("board", "Z1"), ("Z1", "S1")) if at_light else (("board", "S1"), ("S1", "Z1"))
    upper = (("board", "Z2"), ("Z2", "S2")) if at_light else (("board", "S2"), ("S2", "Z2"))
    one = bare(chance, [foot, hall], [below], (), school, lower)
    other = bare(chance, [foot, head, landing], [above], (), school, (*upper, ("S2", "S1")))
    return (
        one.model_copy(update={"number": 1, "name": "Lights downstairs"}),
        other.model_copy(update={"number": 2, "name": "Lights upstairs"}),
    )


def bare(
    chance: Random,
    points: Sequence[Point],
    controls: Sequence[Control],
    links: tuple[Link, ...],
    school: School,
    ways: Sequence[tuple[str, str]] = (),
) -> Circuit:
    """Return a circuit of lights with no cable yet, its runs as they are said or as its school has them."""
    scheme = Scheme(
        feed="board", controls=tuple(controls), links=links, wishes=Wishes(school=school.loop, colours=school.colours)
    )
    found = [Route(a=a, b=b) for a, b in ways] or school_routes(school.loop, scheme)
    routes = tuple(route.model_copy(update={"length_m": float(chance.randint(2, 8))}) for route in found)
    return Circuit(
        kind="lighting",
        name="Lights",
        cable=Cable(csa_mm2=1.5, cpc_by="core", colours=school.colours),
        points=tuple(points),
        scheme=scheme.model_copy(update={"routes": routes}),
    )


def planned(book: Rulebook, circuit: Circuit) -> Circuit:
    """Return a circuit wired with the least cable, what lies there used first. Raises ValueError."""
    assert circuit.scheme is not None, "lights have a scheme"
    found = plan(book, circuit, circuit.scheme)
    if found.best is None:
        raise ValueError(f"nothing wires it: {found.problems}")
    return found.best.design
