"""Does every light do what it is meant to, from every switch, in every state?"""

from collections.abc import Iterator
from typing import NamedTuple

import numpy as np

from lumbek.core.judging.check import Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.scheme import Control, Output
from lumbek.core.network.feeding import SwitchId
from lumbek.core.switching.lamps import glows
from lumbek.core.switching.meaning import Meaning, meaning_of
from lumbek.core.switching.proving import Hazard, ProvedAnswer, Proving, listed, switch_of
from lumbek.core.switching.states import Bits, Cluster, Lamp

QUESTION = Question(
    "lights",
    "Lights and switches",
    "Does every light go on and off from each of its switches, whatever the others do, and from no other?",
    "switching-function",
)


def check_lights(proving: Proving) -> ProvedAnswer:
    """Hold every lamp of every control to what is meant of it, over all states (functional test, 643.10; 6.4.3.10)."""
    if proving.states.untried:
        names = listed([proving.switch_title(each) for each in proving.states.untried])
        return ProvedAnswer(
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
        more = f", and {len(hazards) - 1} more" if len(hazards) > 1 else ""
        answer = f"{hazards[0].words}{more}"
        check = QUESTION.check(proving, Verdict.FAIL, answer, place=hazards[0].place, steps=tuple(steps))
        return ProvedAnswer(check, tuple(hazards))
    if unwired:
        return ProvedAnswer(QUESTION.cannot_tell(proving, (f"wiring of {listed(unwired)}",), steps=tuple(steps)))
    unsaid = [lamp for lamp in proving.states.lamps if lamp not in meant and _is_switched(proving, lamp)]
    if unsaid or not meant:
        if not proving.states.lamps:
            return ProvedAnswer(QUESTION.not_applicable(proving, "Nothing to light"))
        names = listed([proving.lamp_title(lamp) for lamp in unsaid or proving.states.lamps])
        missing = ("what is to switch " + names,)
        return ProvedAnswer(QUESTION.cannot_tell(proving, missing, steps=tuple(steps)))
    answer = f"{len(meant)} work as meant in every state"
    return ProvedAnswer(QUESTION.check(proving, Verdict.PASS, answer, steps=tuple(steps)))


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
    meant = meaning_of(control, lambda gang: switch_of(number, gang))
    if meant.is_fixed:
        off = ~lit & use
        return [fault(f"{name} is not on for good", f"{name} goes off", off)] if off.any() else []
    if (lit | ~use).all():
        return [fault(f"{name} is never off", f"{name} cannot be switched off", use)]
    assert cluster is not None
    found = [fault(*_no_effect(proving, meant, each, name)) for each in meant.switches if each not in cluster.switches]
    there = meant.only(lambda each: each in cluster.switches)
    found += [fault(*told) for told in _misfits(proving, _Burns(cluster, lit, use, there, name))]
    for switch in cluster.switches:
        if switch in meant.switches or proving.isolates(switch):
            continue
        moves = ~_unmoved(cluster, lit, switch) & use
        if moves.any():
            title = proving.switch_title(switch)
            found.append(fault(f"{title} switches {name} too", f"{title} puts {name} out as well", moves))
    return found


_Told = tuple[str, str, Bits]


class _Burns(NamedTuple):
    """When a lamp burns and what is meant of it; `use` are the states that are looked at."""

    cluster: Cluster
    lit: Bits
    use: Bits
    meant: Meaning[SwitchId]
    name: str

    def moved(self, switch: SwitchId) -> Bits:
        """Return in which states a switch is out of its rest."""
        return np.asarray(self.cluster.stands[:, self.cluster.switches.index(switch)] == 1)

    @property
    def sensed(self) -> Bits:
        """Return in which states some sensor of it is on."""
        return np.asarray(np.logical_or.reduce([~self.moved(sensor) for sensor in self.meant.sensors]))


def _no_effect(proving: Proving, meant: Meaning[SwitchId], switch: SwitchId, name: str) -> tuple[str, str]:
    """Return the words for a switch or sensor that nothing of a lamp hangs on."""
    title = proving.switch_title(switch)
    if switch in meant.sensors and len(meant.sensors) == 1:
        return f"The sensor does nothing to {name}", "The sensor has no effect"
    what = "sensor" if switch in meant.sensors else "switch"
    return f"{title} does nothing to {name}", f"The {what} at {title} has no effect"


def _misfits(proving: Proving, burns: _Burns) -> Iterator[_Told]:
    """Yield how a lamp fails what is meant of it by the switches it hangs on, each with the states that show it."""
    meant = burns.meant
    moved = {each: burns.moved(each) for each in meant.switches}
    yes = np.ones_like(burns.lit)
    signs = min(meant.signs(), key=lambda each: int((burns.use & (meant.wanted(moved, each, yes) ^ burns.lit)).sum()))
    wrong = burns.use & (meant.wanted(moved, signs, yes) ^ burns.lit)
    if not wrong.any():
        return
    _, master, *holds = signs
    on = burns.use if meant.master is None else burns.use & (~moved[meant.master] ^ master)
    told = [*_of_master(proving, burns, on), *_of_sensors(proving, burns, on)]
    held = np.zeros_like(on)
    for hold, sign in zip(meant.holds, holds, strict=True):
        held = held | (~moved[hold] ^ sign)
        dark = on & (~moved[hold] ^ sign) & ~burns.lit
        if dark.any():
            title = proving.switch_title(hold)
            told.append((f"{title} does not hold {burns.name} on", f"{burns.name} stays dark", dark))
    told += _of_row(proving, burns, on & ~held & _left_to_row(burns))
    yield from told or [(f"{burns.name} is not as meant in some positions", f"{burns.name} does otherwise", wrong)]


def _left_to_row(burns: _Burns) -> Bits:
    """Return the states in which the switches of the row decide: no sensor lights it, or one that they stand before."""
    if not burns.meant.sensors:
        return np.ones_like(burns.lit)
    return burns.sensed if burns.meant.behind else ~burns.sensed


def _of_master(proving: Proving, burns: _Burns, on: Bits) -> Iterator[_Told]:
    past = burns.use & ~on & burns.lit
    if burns.meant.master is not None and past.any():
        title = proving.switch_title(burns.meant.master)
        yield f"{burns.name} burns with the master at {title} off", f"{burns.name} cannot be put out there", past


def _of_sensors(proving: Proving, burns: _Burns, on: Bits) -> Iterator[_Told]:
    """Yield the sensors that do not light a lamp, and, behind switches, that it burns without one."""
    meant = burns.meant
    if meant.behind and meant.sensors and meant.gangs:
        unsensed = on & ~burns.sensed & burns.lit
        if unsensed.any() and not meant.holds:
            yield f"{burns.name} burns without its sensor", f"{burns.name} does not wait for its sensor", unsensed
        return
    for sensor in meant.sensors:
        dark = on & ~burns.moved(sensor) & ~burns.lit
        if dark.any():
            title = "The sensor" if len(meant.sensors) == 1 else proving.switch_title(sensor)
            yield f"{title} does not light {burns.name}", f"{burns.name} stays dark", dark


def _of_row(proving: Proving, burns: _Burns, asked: Bits) -> Iterator[_Told]:
    """Yield the switches of a row that do nothing where it is theirs to decide."""
    for switch in burns.meant.gangs:
        dead = _unmoved(burns.cluster, burns.lit, switch) & asked
        if dead.any():
            title = proving.switch_title(switch)
            always = bool((dead | ~asked).all())
            words = f"{title} does nothing to {burns.name}" + ("" if always else " in some positions of the others")
            symptom = (
                f"The switch at {title} has no effect"
                if always
                else f"{title} works only when another switch stands one way"
            )
            yield words, symptom, dead


def _unmoved(cluster: Cluster, lit: Bits, switch: SwitchId) -> Bits:
    """Return the states in which moving a switch to another position never changes a lamp."""
    counts = tuple(int(cluster.stands[:, column].max()) + 1 for column in range(len(cluster.switches)))
    grid = lit.reshape(counts)
    column = cluster.switches.index(switch)
    same = (grid == grid.take([0], axis=column)).all(axis=column, keepdims=True)
    return np.broadcast_to(same, counts).reshape(-1)
