"""Does every light do what it is meant to, from every switch, in every state?"""

import numpy as np

from lumbek.core.model.scheme import Control, Output
from lumbek.core.network.feeding import SwitchId
from lumbek.core.question import Question
from lumbek.core.result import Step, Verdict
from lumbek.core.switching.lamps import glows
from lumbek.core.switching.proving import Answered, Hazard, Proving, listed, switch_of
from lumbek.core.switching.states import Bits, Cluster, Lamp

QUESTION = Question(
    "lights",
    "Lights and switches",
    "Does every light go on and off from each of its switches, whatever the others do, and from no other?",
    "switching-function",
)


def check_lights(proving: Proving) -> Answered:
    """Hold every lamp of every control to what is meant of it, over all states (functional test, 643.10; 6.4.3.10)."""
    if proving.states.untried:
        names = listed([proving.switch_title(each) for each in proving.states.untried])
        return Answered(
            QUESTION.cannot_tell(
                proving,
                ("simpler wiring",),
                answer=f"{len(proving.states.untried)} switches act on each other: too many to try every state",
                steps=(Step(text=names),),
            )
        )
    hazards: list[Hazard] = []
    meant: set[Lamp] = set()
    unwired = list[str]()
    tried = 0
    for number, control in proving.controls:
        for output in control.outputs:
            lamp = Lamp(number, output.point, output.line)
            meant.add(lamp)
            if not proving.is_reached(number, output.point):
                unwired.append(proving.lamp_title(lamp))
                continue
            hazards += _faults(proving, number, control, output)
            cluster, _ = proving.states.lit(lamp)
            tried = max(tried, 0 if cluster is None else len(cluster.stands))
    steps = [Step(text=f"Every position tried: {tried} states where most switches act on each other")] if tried else []
    steps += [Step(text=hazard.words) for hazard in hazards]
    if hazards:
        answer = hazards[0].words if len(hazards) == 1 else f"{len(hazards)} things are not as meant"
        check = QUESTION.check(proving, Verdict.FAIL, answer, place=hazards[0].place, steps=tuple(steps))
        return Answered(check, tuple(hazards))
    if unwired:
        return Answered(QUESTION.cannot_tell(proving, (f"wiring of {listed(unwired)}",), steps=tuple(steps)))
    unsaid = [lamp for lamp in proving.states.lamps if lamp not in meant and _is_switched(proving, lamp)]
    if unsaid or not meant:
        if not proving.states.lamps:
            return Answered(QUESTION.not_applicable(proving, "Nothing to light"))
        names = listed([proving.lamp_title(lamp) for lamp in unsaid or proving.states.lamps])
        missing = ("what is to switch " + names,)
        return Answered(QUESTION.cannot_tell(proving, missing, steps=tuple(steps)))
    answer = f"{len(meant)} work as meant in every state"
    return Answered(QUESTION.check(proving, Verdict.PASS, answer, steps=tuple(steps)))


def _is_switched(proving: Proving, lamp: Lamp) -> bool:
    _, lit = proving.states.lit(lamp)
    return not lit.all()


def _faults(proving: Proving, number: int, control: Control, output: Output) -> list[Hazard]:
    """Return how one lamp of a control fails what is meant of it."""
    lamp = Lamp(number, output.point, output.line)
    cluster, lit = proving.states.lit(lamp)
    name, place = proving.lamp_title(lamp), proving.place(number, output.point)

    def fault(words: str, symptom: str, bits: Bits | None = None) -> Hazard:
        stands = () if bits is None else proving.first(cluster, bits)
        return Hazard(id="not-as-meant", check=QUESTION.id, words=words, symptom=symptom, place=place, stands=stands)

    use = np.ones(1, np.bool_) if cluster is None else proving.in_use(cluster)
    if not (lit & use).any():
        dim = glows(proving.states, lamp)
        if (dim & use).any():
            return [fault(f"{name} burns only in series with others", "The lights glow dimly", dim & use)]
        return [fault(f"{name} is never lit", f"{name} never comes on", use)]
    if not control.gangs and control.sensor is None:
        off = ~lit & use
        return [fault(f"{name} is not on for good", f"{name} goes off", off)] if off.any() else []
    if (lit | ~use).all():
        return [fault(f"{name} is never off", f"{name} cannot be switched off", use)]
    assert cluster is not None
    wanted = {switch_of(number, gang) for gang in control.gangs}
    open_only = use
    found: list[Hazard] = []
    if control.sensor is not None:
        sensor = switch_of(number, control.sensor)
        if sensor in cluster.switches:
            sensed = cluster.stands[:, cluster.switches.index(sensor)] == 0
            dark = sensed & use & ~lit
            open_only = use & ~sensed
            if dark.any():
                found.append(fault(f"The sensor does not light {name}", f"{name} stays dark", dark))
        else:
            found.append(fault(f"The sensor does nothing to {name}", "The sensor has no effect"))
        wanted.add(sensor)
    for switch in wanted - {switch_of(number, control.sensor)} if control.sensor else wanted:
        title = proving.switch_title(switch)
        if switch not in cluster.switches:
            found.append(fault(f"{title} does nothing to {name}", f"The switch at {title} has no effect"))
            continue
        dead = _unmoved(cluster, lit, switch) & open_only
        if dead.any():
            always = (dead | ~open_only).all()
            words = f"{title} does nothing to {name}" + ("" if always else " in some positions of the others")
            symptom = (
                f"The switch at {title} has no effect"
                if always
                else f"{title} works only when another switch stands one way"
            )
            found.append(fault(words, symptom, dead))
    for switch in cluster.switches:
        if switch in wanted or proving.isolates(switch):
            continue
        moves = ~_unmoved(cluster, lit, switch) & use
        if moves.any():
            title = proving.switch_title(switch)
            found.append(fault(f"{title} switches {name} too", f"{title} puts {name} out as well", moves))
    return found


def _unmoved(cluster: Cluster, lit: Bits, switch: SwitchId) -> Bits:
    """Return the states in which moving a switch to another position never changes a lamp."""
    counts = tuple(int(cluster.stands[:, column].max()) + 1 for column in range(len(cluster.switches)))
    grid = lit.reshape(counts)
    column = cluster.switches.index(switch)
    same = (grid == grid.take([0], axis=column)).all(axis=column, keepdims=True)
    return np.broadcast_to(same, counts).reshape(-1)
