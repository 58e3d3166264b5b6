"""A source beside the supply, as solar panels and batteries are: what stands between takes power from either side."""

from collections.abc import Iterator

from lumbek.core.circuit.standing import titles
from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.device import Device
from lumbek.core.model.point import Point
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
    device = study.circuit.device
    wrong, missing = list(_wrong(study, sources)), _missing(study, sources)
    steps = (
        Step(text="Device fed from either side", sum="bidirectional" if device.bidirectional else "see above"),
        Step(text="Labels at the board, the meter and the source: two supplies, isolate both"),
    )
    if not wrong and missing:
        return QUESTION.cannot_tell(study, missing, steps=steps)
    return QUESTION.check(
        study,
        Verdict.FAIL if wrong else Verdict.PASS,
        wrong[0] if wrong else "Isolated, and fed from either side",
        place=study.point_place(sources[0].id),
        steps=(*(Step(text=each) for each in wrong[1:]), *steps),
        caution="" if wrong else "Labels belong to it: at the board, the meter and the source.",
    )


def _wrong(study: Study, sources: tuple[Point, ...]) -> Iterator[str]:
    """Yield what may not be so beside a source."""
    ids = {point.id for point in sources}
    others = [point for point in study.standing.users if point.id not in ids]
    if others and study.rulebook.data.source.own_circuit:
        yield f"Shares its circuit with {titles(others)}"
    device = study.circuit.device
    if _minds(device) and device.bidirectional is False:
        yield "The device may be fed from one side only"
    for point in sources:
        if point.isolator is False:
            yield f"{point.title}: nothing to isolate it with"


def _missing(study: Study, sources: tuple[Point, ...]) -> tuple[str, ...]:
    """Return what nobody has said of a source and what protects it."""
    device = study.circuit.device
    unsaid = _minds(device) and device.bidirectional is None
    return (
        *(("whether the device may be fed from either side (bidirectional)",) if unsaid else ()),
        *(f"means of isolation beside {point.title}" for point in sources if point.isolator is None),
    )


def _minds(device: Device) -> bool:
    """Whether it matters to a device which side feeds it: not to a plain breaker or fuse, but to electronics."""
    return device.standard == "bs-en-61009" or device.afdd or device.known_rcd is not None
