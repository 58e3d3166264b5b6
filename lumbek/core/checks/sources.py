"""A source beside the supply, as solar panels and batteries are: what stands between takes power from either side."""

from lumbek.core.circuit.standing import titles
from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.study.study import Study

QUESTION = Question(
    "sources",
    "Solar or battery source",
    "Is what stands between the source and the supply made for power from either side?",
    "source",
)


def check_sources(study: Study) -> Check:
    """A circuit of its own, bidirectional devices, an isolator, an RCD that sees d.c. (551.7, 712, Chapter 82)."""
    sources = study.standing.sources
    if not sources:
        return QUESTION.not_applicable(study, "No source on this circuit")
    ids = {point.id for point in sources}
    others = [point for point in study.standing.users if point.id not in ids]
    wrong, missing, steps = list[str](), list[str](), list[Step]()
    if others and study.rulebook.data.source.own_circuit:
        wrong.append(f"Shares its circuit with {titles(others)}")
    device = study.circuit.device
    # A plain breaker or fuse does not mind which side feeds it; what holds electronics may.
    minds = device.standard == "bs-en-61009" or device.afdd or device.known_rcd is not None
    if minds and device.bidirectional is False:
        wrong.append("The device may be fed from one side only")
    elif minds and device.bidirectional is None:
        missing.append("whether the device may be fed from either side (bidirectional)")
    steps.append(Step(text="Device fed from either side", sum="bidirectional" if device.bidirectional else "see above"))
    for point in sources:
        if point.isolator is False:
            wrong.append(f"{point.title}: nothing to isolate it with")
        elif point.isolator is None:
            missing.append(f"means of isolation beside {point.title}")
    steps.append(Step(text="Labels at the board, the meter and the source: two supplies, isolate both"))
    if not wrong and missing:
        return QUESTION.cannot_tell(study, tuple(missing), steps=tuple(steps))
    return QUESTION.check(
        study,
        Verdict.FAIL if wrong else Verdict.PASS,
        wrong[0] if wrong else "Isolated, and fed from either side",
        place=study.point_place(sources[0].id),
        steps=(*(Step(text=each) for each in wrong[1:]), *steps),
        caution="" if wrong else "Labels belong to it: at the board, the meter and the source.",
    )
