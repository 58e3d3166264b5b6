"""Does a cpc reach every place, and is it nothing but a cpc?"""

from lumbek.core.judging.check import Step, Verdict
from lumbek.core.judging.question import Question
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
    hazards, open_places = [], list[str]()
    cautions = []
    for number, point in proving.points():
        if point.kind == "unknown-end" or not proving.is_reached(number, point.id):
            continue
        part = proving.states.copper.of(node("E", point.id, number))
        supplies = proving.states.supplies.get(part, ()) if part is not None else ()
        if any(supply.kind == "E" for supply in supplies):
            continue
        title, metal = proving.title(number, point.id), point.plate.metal
        place = proving.place(number, point.id)
        if metal or point.state == "new":
            what = "the metal plate at " if metal else ""
            words = f"No cpc reaches {what}{title}"
            symptom = "None, until a fault makes the metal live" if metal else "None, until metal is fitted there"
            hazards.append(Hazard(id="no-cpc", check=REACHES.id, words=words, symptom=symptom, place=place))
        elif metal is None and point.class_ii is None:
            open_places.append(title)
        else:
            words = f"No cpc at {title}: only what is of class II, or of plastic, may stand there"
            cautions.append(Hazard(id="no-cpc", check=REACHES.id, words=words, place=place, grave=False))
    every = (*hazards, *cautions)
    steps = tuple(Step(text=each.words) for each in every)
    if hazards:
        check = REACHES.check(proving, Verdict.FAIL, hazards[0].words, place=hazards[0].place, steps=steps)
    elif open_places:
        missing = (f"whether there is metal at {open_places[0]}",)
        check = REACHES.cannot_tell(proving, missing, steps=steps)
    else:
        caution = cautions[0].words if cautions else ""
        check = REACHES.check(proving, Verdict.PASS, "At every place", steps=steps, caution=caution)
    return ProvedAnswer(check, every)


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
