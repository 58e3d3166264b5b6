"""Is the circuit joined up as a circuit of its kind should be?"""

from collections.abc import Iterator

from lumbek.core.judging.check import Check, Clause, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.numbers import counted
from lumbek.core.study.study import Study

QUESTION = Question("shape", "Shape", "Do the cables join up to a sound circuit?", "radial-shape")
_TWO_DEVICES = ("two-rings", "ends-on-two-devices", "two-rings-joined")

_MEND = {
    "loop-off-the-board": "Bring both ends of the loop to the board, or open it.",
    "bridged-ring": "Take out the cable that crosses, or make it a spur.",
    "two-rings": "Give each ring its own device.",
    "ends-on-two-devices": "Danger: lock both devices off before anyone touches it. Bring both ends to one device.",
    "two-rings-joined": "Part the rings and give each its own device.",
}


def check_shape(study: Study) -> Check:
    """Fail loops that do not return to the board, bridged or joined rings, and points that nothing feeds.

    What was found is fed by something: where no cable to it is drawn, that is asked.
    """
    shape = study.shape
    if shape.kind == "empty":
        return QUESTION.cannot_tell(study, ("first cable from the board",))
    steps = (Step(text=f"{shape.title}. {shape.sentence}"), *_what_is_wrong(study))
    detached = [study.circuit.point(point) for point in shape.detached]
    place = study.point_place(detached[0].id) if detached else study.whole
    if detached and shape.kind not in _MEND and all(point.state == "as-found" for point in detached):
        missing = tuple(f"which cable feeds {study.circuit.point_title(point.id)}" for point in detached)
        return QUESTION.cannot_tell(study, missing, place=place, steps=steps)
    return QUESTION.check(
        study,
        Verdict.FAIL if detached or shape.kind in _MEND else Verdict.PASS,
        clause=_clause(study),
        answer=f"{counted(len(detached), 'point', 'points')} not fed" if detached else shape.title,
        place=place,
        steps=steps,
        caution=_caution(study),
    )


def _what_is_wrong(study: Study) -> Iterator[Step]:
    """Yield the points that nothing feeds, and how a shape is put right."""
    shape = study.shape
    if shape.detached:
        names = ", ".join(study.circuit.point_title(point) for point in shape.detached)
        yield Step(text=f"No cable leads from the board to {names}")
    if shape.kind in _MEND:
        yield Step(text=_MEND[shape.kind])


def _caution(study: Study) -> str:
    if study.shape.is_ring and not study.is_socket_ring:
        return "A closed ring that feeds no sockets: is it meant?"
    if _never_closed(study):
        return "Fed at one end only. On this device and size it looks like a ring that never closed."
    return ""


def _clause(study: Study) -> Clause:
    """Return the clause that asks for this shape: the ring's for a ring, 314.4 where two devices feed one circuit."""
    if study.shape.kind in _TWO_DEVICES:
        return study.clause("two-devices")
    return study.clause("shape" if study.shape.is_ring else "radial-shape")


def _never_closed(study: Study) -> bool:
    """Whether an open socket run has a ring's device on cable that only a ring may have there."""
    ring, circuit = study.rulebook.data.ring, study.circuit
    return (
        bool(study.standing.ring_outlets)
        and study.shape.kind in ("radial", "branched-radial")
        and circuit.device.rating_a in ring.ratings_a
        and any(
            capacity.iz_a is not None and capacity.iz_a < circuit.device.rating_a
            for leg_id, capacities in study.capacities.items()
            if leg_id not in study.fused.legs
            for capacity in capacities
        )
    )
