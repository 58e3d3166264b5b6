"""Does every alarm sound the others: is their link joined at each of them, and with nothing else?"""

from collections.abc import Iterator

from lumbek.core.judging.question import Question
from lumbek.core.model.scheme import Link
from lumbek.core.network.wiring import CoreAt, node
from lumbek.core.switching.proving import Hazard, ProvedAnswer, Proving, answered

QUESTION = Question(
    "links", "Interlink", "Does each alarm sound the others, by a core that is nothing else?", "interlink"
)


def check_links(proving: Proving) -> ProvedAnswer:
    """Hold the core between alarms to its terminals, and to be nothing else (514.3, 643.10)."""
    hazards: list[Hazard] = []
    unwired: list[str] = []
    count = 0
    for number, circuit in proving.circuits.items():
        for link in circuit.scheme.links if circuit.scheme else ():
            count += 1
            away = [end.point for end in link.ends if not proving.is_reached(number, end.point)]
            unwired += [proving.title(number, each) for each in away]
            if not away:
                hazards += _of_link(proving, number, link)
    return answered(QUESTION, proving, hazards, "Each sounds the others", "" if count else "None is meant", unwired)


def _of_link(proving: Proving, number: int, link: Link) -> Iterator[Hazard]:
    states, name = proving.states, link.name or "the interlink"

    def hazard(kind: str, words: str, symptom: str, point: str) -> Hazard:
        return Hazard(id=kind, check=QUESTION.id, words=words, symptom=symptom, place=proving.place(number, point))

    parts = [states.copper.of(node(end.line, end.point, number)) for end in link.ends]
    known = [part for part in parts if part is not None]
    most = max(dict.fromkeys(known), key=known.count) if known else None
    for end, part in zip(link.ends, parts, strict=True):
        title = proving.title(number, end.point)
        if part is None or part != most or known.count(part) < 2:
            yield hazard("not-linked", f"{title} is not joined to {name}", f"{title} sounds alone", end.point)
            continue
        cluster = states.cluster_of(part)
        for kind, called in (("L", "line"), ("N", "neutral"), ("E", "earth")):
            if states.joined(cluster, part, kind).any():
                words = f"{name.capitalize()} is in the {called} at {title}"
                yield hazard(
                    "link-live", words, "The alarms sound without end, or never, and may be destroyed", end.point
                )
    for part in dict.fromkeys(known):
        if states.supplies.get(part):
            continue
        if _holds_a_cpc(proving, number, part):
            words = f"A cpc is used for {name}"
            yield hazard(
                "cpc-link", words, "Works, but the cpc carries a signal and earths nothing", link.ends[0].point
            )
        if any(part in (edge.a, edge.b) for edge in states.copper.edges):
            words = f"A switch stands in {name}"
            yield hazard(
                "link-switched", words, "The alarms sound each other in some positions only", link.ends[0].point
            )


def _holds_a_cpc(proving: Proving, number: int, part: int) -> bool:
    legs = proving.circuits[number].legs
    return any(proving.states.part_of(CoreAt(leg.id, "E", leg.a, number)) == part for leg in legs)
