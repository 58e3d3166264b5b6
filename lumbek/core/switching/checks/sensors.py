"""Has every sensor a line and a neutral of its own, the right way round?"""

import numpy as np

from lumbek.core.judging.question import Question
from lumbek.core.model.accessory import SENSING
from lumbek.core.network.wiring import node
from lumbek.core.switching.proving import Hazard, ProvedAnswer, Proving, answered
from lumbek.core.switching.states import Bits, Cluster

QUESTION = Question("sensors", "Supply of sensors", "Has every sensor its own line and neutral?", "switching-function")


def check_sensors(proving: Proving) -> ProvedAnswer:
    """A sensor works only between line and neutral: without either it is dead in every state (643.10; 6.4.3.10)."""
    hazards: list[Hazard] = []
    count = 0
    for number, point in proving.points():
        for accessory in point.accessories:
            if accessory.kind not in SENSING or not proving.is_reached(number, point.id):
                continue
            count += 1
            words = _wrong(proving, number, point.id, accessory.terminal("L"), accessory.terminal("N"))
            if words is not None:
                said, stands = words
                title = proving.title(number, point.id)
                hazards.append(
                    Hazard(
                        id="sensor-supply",
                        check=QUESTION.id,
                        words=said.format(title),
                        symptom="The sensor is dead, or its electronics are live where they should not be",
                        place=proving.place(number, point.id),
                        stands=proving.first(*stands),
                    )
                )
    found = answered(QUESTION, proving, hazards, "Each has line and neutral", "" if count else "None is there")
    lost = _lost_together(proving)
    return ProvedAnswer(found.check.model_copy(update={"caution": lost}), found.hazards) if lost else found


def _lost_together(proving: Proving) -> str:
    """Return which lights one receiver or sensor takes along when it fails; nothing where none does."""
    for number, control in proving.controls:
        names = [proving.title(number, point) for point in dict.fromkeys(output.point for output in control.outputs)]
        if len(control.sensors) == 1 and not control.gangs and len(names) > 1:
            at = proving.title(number, control.sensors[0].point)
            together = f"{', '.join(names[:-1])} and {names[-1]}"
            return f"{together} hang on one unit at {at}: when it fails they are lost together."
    return ""


def _wrong(
    proving: Proving, number: int, point: str, line: str, neutral: str
) -> tuple[str, tuple[Cluster | None, Bits]] | None:
    """Return what is wrong with a sensor's supply, in words with a place for its name, and states that show it."""
    at_line, at_neutral = _seen(proving, number, point, line), _seen(proving, number, point, neutral)
    always = np.ones(1, np.bool_)
    if at_line is None:
        return "No line reaches the sensor at {}", (None, always)
    if not at_line[1]["L"].any():
        crossed = at_line[1]["N"].any()
        said = "Line and neutral are crossed at the sensor at {}" if crossed else "No line reaches the sensor at {}"
        return said, (at_line[0], always)
    if at_neutral is None:
        return "No neutral reaches the sensor at {}", (None, always)
    cluster, joined = at_neutral
    if joined["L"].any():
        return "The neutral of the sensor at {} is live", (cluster, joined["L"])
    use = always if cluster is None else proving.in_use(cluster)
    lost = use & ~joined["N"]
    if not lost.any():
        return None
    switched = joined["N"].any()
    said = "The neutral of the sensor at {} is switched" if switched else "No neutral reaches the sensor at {}"
    return said, (cluster, lost)


def _seen(proving: Proving, number: int, point: str, name: str) -> tuple[Cluster | None, dict[str, Bits]] | None:
    part = proving.states.copper.of(node(name, point, number))
    if part is None:
        return None
    cluster = proving.states.cluster_of(part)
    return cluster, {kind: proving.states.joined(cluster, part, kind) for kind in ("L", "N")}
