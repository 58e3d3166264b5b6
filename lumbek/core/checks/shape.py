"""Is the circuit joined up as a circuit of its kind should be?"""

from lumbek.core.checks.build import cannot_tell
from lumbek.core.context import Context
from lumbek.core.result import Check, Step, Verdict

TITLE, ASKS = "Shape", "Do the legs join up to a sound circuit?"

_MEND = {
    "loop-off-the-board": "Bring both ends of the loop to the board, or open it.",
    "bridged-ring": "Take out the leg that crosses, or make it a spur.",
    "two-rings": "Give each ring its own device.",
    "ends-on-two-devices": "Danger: lock both devices off before anyone touches it. Bring both ends to one device.",
    "two-rings-joined": "Part the rings and give each its own device.",
}


def check_shape(context: Context) -> Check:
    """Fail loops that do not return to the board, bridged or joined rings, and points that nothing feeds."""
    shape, circuit = context.shape, context.circuit
    if shape.kind == "empty":
        return cannot_tell(context, "shape", TITLE, ASKS, "shape", ("first leg from the board",))
    steps = [Step(text=f"{shape.title}. {shape.sentence}")]
    place = None
    if shape.detached:
        place = context.point_place(shape.detached[0])
        names = ", ".join(circuit.point_title(point) for point in shape.detached)
        steps.append(Step(text=f"No leg leads from the board to {names}"))
    if shape.kind in _MEND:
        steps.append(Step(text=_MEND[shape.kind]))
    wrong = bool(shape.detached) or shape.kind in _MEND
    ring_elsewhere = shape.is_ring and context.group != "sockets"
    return Check(
        id="shape",
        title=TITLE,
        asks=ASKS,
        verdict=Verdict.FAIL if wrong else Verdict.PASS,
        answer=f"{len(shape.detached)} points not fed" if shape.detached else shape.title,
        clause=context.clause("shape"),
        place=place or context.whole,
        steps=tuple(steps),
        caution="A closed ring that is not a socket circuit: is it meant?" if ring_elsewhere else "",
    )
