"""Is the circuit what is usual for its kind, and where it is not, does it say why?"""

from lumbek.core.circuit.usual import departures
from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.numbers import plain
from lumbek.core.study.study import Study

QUESTION = Question(
    "usual", "Usual for its kind", "Does it depart from what such a circuit is usually given, and say why?", "usual"
)


def check_usual(study: Study) -> Check:
    """Point out a departure from practice without a reason; never fail it, for the other checks decide."""
    circuit = study.circuit
    found = departures(study.rulebook, circuit)
    area = _floor_area(study)
    if area:
        found.append(area)
    return QUESTION.check(
        study,
        Verdict.PASS,
        "As usual" if not found else "Departs, with a reason" if circuit.reason else "Departs from the usual",
        place=study.whole,
        steps=(
            *(Step(text=each) for each in found),
            *((Step(text="Reason given", sum=circuit.reason),) if circuit.reason else ()),
            Step(text=study.rulebook.kinds[circuit.kind].special),
        ),
        caution=f"{found[0]}. Say why." if found and not circuit.reason else "",
    )


def _floor_area(study: Study) -> str:
    """Return where a socket radial serves more floor than guidance has it: 20 A for 50 m², 32 A for 75 m²."""
    area, rating = study.circuit.surroundings.floor_area_m2, study.circuit.device.rating_a
    most = study.rulebook.data.socket_radial.floor_area_m2.get(plain(rating))
    if not study.standing.ring_outlets or study.shape.is_ring or area is None or most is None or area <= most:
        return ""
    return f"Serves {plain(area)} m²; guidance for a radial of {plain(rating)} A is {plain(most)} m²"
