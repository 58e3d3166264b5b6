"""Does a cpc reach every place, and is it nothing but a cpc?"""

from collections.abc import Iterator

from lumbek.core.circuit.standing import is_light, is_touchable
from lumbek.core.judging.check import Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.point import Point
from lumbek.core.network.wiring import CoreAt, node
from lumbek.core.switching.proving import Hazard, ProvedAnswer, Proving, answered
from lumbek.core.switching.states import Bits

REACHES = Question(
    "cpc-reaches",
    "Cpc at every place",
    "Does a cpc reach every box, lamp and metal plate?",
    "cpc-everywhere",
)
ONLY = Question("cpc-only", "Cpc as a cpc", "Is the cpc nowhere used for anything else?", "cpc-only")


def check_earth(proving: Proving) -> ProvedAnswer:
    """Fail a place that no cpc reaches, class II or not (411.3.1.1); what was found old without metal is told."""
    lacking = [(_needs_cpc(point), number, point) for number, point in _without_cpc(proving)]
    hazards = [_hazard(proving, number, point) for needs, number, point in lacking if needs]
    unseen = [_asked(proving, number, point) for needs, number, point in lacking if needs is None]
    cautions = [_caution(proving, number, point) for needs, number, point in lacking if needs is False]
    every = (*hazards, *cautions)
    steps = tuple(Step(text=each.words) for each in every)
    if hazards:
        check = REACHES.check(proving, Verdict.FAIL, hazards[0].words, place=hazards[0].place, steps=steps)
    elif unseen:
        check = REACHES.cannot_tell(proving, (unseen[0],), steps=steps)
    else:
        caution = cautions[0].words if cautions else ""
        check = REACHES.check(proving, Verdict.PASS, "At every place", steps=steps, caution=caution)
    return ProvedAnswer(check, every)


def _without_cpc(proving: Proving) -> Iterator[tuple[int, Point]]:
    """Yield the places that a cable comes to and no cpc, each with its circuit's number."""
    for number, point in proving.points():
        if point.kind == "unknown-end" or not proving.is_reached(number, point.id):
            continue
        part = proving.states.copper.of(node("E", point.id, number))
        supplies = proving.states.supplies.get(part, ()) if part is not None else ()
        if all(supply.kind != "E" for supply in supplies):
            yield number, point


def _needs_cpc(point: Point) -> bool | None:
    """Whether a place fails without a cpc: new work does whatever stands there. None where nobody has looked."""
    return point.state == "new" or is_touchable(point)


def _hazard(proving: Proving, number: int, point: Point) -> Hazard:
    title, metal = proving.title(number, point.id), is_touchable(point)
    if point.plate.metal:
        what = f"the metal plate at {title}"
    else:
        what = f"{title}, which is of class I" if point.class_ii is False else title
    symptom = "None, until a fault makes the metal live" if metal else "None, until metal is fitted there"
    place = proving.place(number, point.id)
    return Hazard(id="no-cpc", check=REACHES.id, words=f"No cpc reaches {what}", symptom=symptom, place=place)


def _caution(proving: Proving, number: int, point: Point) -> Hazard:
    title, place = proving.title(number, point.id), proving.place(number, point.id)
    words = f"No cpc at {title}: only what is of class II, or of plastic, may stand there"
    return Hazard(id="no-cpc", check=REACHES.id, words=words, place=place, grave=False)


def _asked(proving: Proving, number: int, point: Point) -> str:
    """Return what has to be said of a place that no cpc reaches: of a lamp its class, of a plate or box its metal."""
    title = proving.title(number, point.id)
    return f"whether {title} is of class II" if is_light(point) else f"whether there is metal at {title}"


def check_earth_only(proving: Proving) -> ProvedAnswer:
    """Fail a cpc that is live, or used as a strapper, in any state (514.4.2, 543.2; IEC 60364-5-51 514.3)."""
    hazards = []
    for number, circuit in proving.circuits.items():
        for leg in circuit.legs:
            part = proving.states.part_of(CoreAt(leg.id, "E", leg.a, number))
            used = None if part is None else _used(proving, part)
            if part is None or used is None or not used.any():
                continue
            words = f"The cpc of {circuit.leg_title(leg)} is used as a conductor"
            cluster = proving.states.cluster_of(part)
            live = proving.states.joined(cluster, part, "L")
            symptom = "Works, but bare copper and whatever metal is on it are live; no earth beyond"
            place = proving.place(number, leg.b if leg.a == "board" else leg.a)
            hazards.append(
                Hazard(
                    id="cpc-strapper",
                    check=ONLY.id,
                    words=words,
                    symptom=symptom,
                    place=place,
                    stands=proving.first(cluster, live if live.any() else used),
                )
            )
    return answered(ONLY, proving, hazards, "Nowhere anything else")


def _used(proving: Proving, part: int) -> Bits:
    """Return whether a part with a cpc in it is live, or lies on a contact or a lamp, by states."""
    states = proving.states
    cluster = states.cluster_of(part)
    live = states.joined(cluster, part, "L") | states.joined(cluster, part, "N")
    if any(supply.kind == "E" for supply in states.supplies.get(part, ())):
        return live
    touched = any(part in (edge.a, edge.b) for edge in states.copper.edges)
    touched |= any(part in states.ends(lamp) for lamp in states.lamps)
    return live | touched
