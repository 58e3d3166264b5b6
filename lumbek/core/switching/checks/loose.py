"""Is no live core end left in no terminal?"""

import numpy as np

from lumbek.core.judging.question import Question
from lumbek.core.network.wiring import CoreAt
from lumbek.core.switching.checks.marks import ends_of
from lumbek.core.switching.colours import colour_of
from lumbek.core.switching.proving import Hazard, ProvedAnswer, Proving, answered

QUESTION = Question("loose", "Core ends left off", "Is every core end that can be live in a terminal?", "terminals")


def check_loose(proving: Proving) -> ProvedAnswer:
    """Fail a core end by itself that is live in some state (BS 7671 526.1, 526.5; IEC 60364-5-52 526)."""
    hazards = []
    for seen in ends_of(proving.circuits):
        if len(seen.join.ends) > 1 or seen.join.terminals:
            continue
        circuit = proving.circuits[seen.circuit]
        part = proving.states.part_of(CoreAt(seen.end.leg, seen.end.core, seen.point, seen.circuit))
        if part is None or _is_unknown(proving, seen.circuit, seen.point):
            continue
        cluster = proving.states.cluster_of(part)
        live = proving.states.joined(cluster, part, "L")
        if not np.any(live):
            continue
        leg = circuit.leg(seen.end.leg)
        colour = colour_of(proving.book, circuit.cable_of(leg), seen.end.core)
        title = proving.title(seen.circuit, seen.point)
        words = f"{colour.capitalize()} of {circuit.leg_title(leg)} is live at {title} and in no terminal"
        hazards.append(
            Hazard(
                id="loose-live",
                check=QUESTION.id,
                words=words,
                symptom="Something does not work; whoever opens the box meets a live end",
                place=proving.place(seen.circuit, seen.point),
                stands=proving.first(cluster, live),
            )
        )
    return answered(QUESTION, proving, hazards, "None is live")


def _is_unknown(proving: Proving, number: int, point: str) -> bool:
    """Whether a place stands for the far end of a cable that nobody has found yet."""
    points = proving.circuits[number].points
    return any(each.id == point and each.kind == "unknown-end" for each in points)
