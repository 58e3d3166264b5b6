"""What the checks of switching work with, and what they answer: a check, and each hazard with a state that shows it."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

import numpy as np

from lumbek.core.judging.check import Check, Clause, Place, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.accessory import ISOLATING, Accessory
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD
from lumbek.core.model.point import Point
from lumbek.core.model.scheme import Control, GangAt
from lumbek.core.model.text import Id
from lumbek.core.network.feeding import SwitchId
from lumbek.core.rulebooks import Rulebook
from lumbek.core.switching.states import Bits, Cluster, Lamp, States
from lumbek.core.value import Frozen


class Stand(Frozen):
    """How one switch stands."""

    circuit: int
    point: Id
    switch: str
    position: int


class Hazard(Frozen):
    """Something wrong: what it is, what whoever lives there sees of it, where, and a state that shows it.

    `grave` ones fail the check they belong to; the others are to be told.
    """

    id: str
    check: str
    words: str
    symptom: str = ""
    place: Place | None = None
    stands: tuple[Stand, ...] = ()
    grave: bool = True


class ProvedAnswer(NamedTuple):
    """The answer to one question, with the hazards it found."""

    check: Check
    hazards: tuple[Hazard, ...] = ()


@dataclass(frozen=True)
class Proving:
    """Circuits in every state of their switches, under one rulebook."""

    book: Rulebook
    states: States

    def clause(self, key: str) -> Clause:
        """Return a clause of the rulebook in force."""
        return self.book.clause(key)

    @property
    def circuits(self) -> Mapping[int, Circuit]:
        """The circuits by their numbers."""
        return self.states.circuits

    @cached_property
    def controls(self) -> tuple[tuple[int, Control], ...]:
        """What is meant to switch what, each with the number of its circuit."""
        return tuple(
            (number, control)
            for number, circuit in self.circuits.items()
            for control in (circuit.scheme.controls if circuit.scheme else ())
        )

    def accessory(self, switch: SwitchId) -> Accessory | None:
        """Return the gang that a switch is; None for contacts that are said by themselves."""
        number, point_id, name = switch
        point = self.circuits[number].point(point_id)
        return next((each for each in point.accessories if str(each.gang) == name), None)

    def isolates(self, switch: SwitchId) -> bool:
        """Whether a switch isolates, and is not moved to light a lamp."""
        accessory = self.accessory(switch)
        return accessory is not None and accessory.kind in ISOLATING

    def in_use(self, cluster: Cluster, but: SwitchId | None = None) -> Bits:
        """Return the states in which everything that isolates is on, one of them left out if it is named."""
        found = np.ones(len(cluster.stands), dtype=np.bool_)
        for column, switch in enumerate(cluster.switches):
            if switch != but and self.isolates(switch):
                found &= cluster.stands[:, column] == 0
        return found

    def stands(self, cluster: Cluster | None, state: int) -> tuple[Stand, ...]:
        """Return how the switches of a cluster stand in a state."""
        if cluster is None:
            return ()
        return tuple(
            Stand(circuit=switch[0], point=switch[1], switch=switch[2], position=at)
            for switch, at in self.states.stand(cluster, state).items()
        )

    def first(self, cluster: Cluster | None, bits: Bits) -> tuple[Stand, ...]:
        """Return how the switches stand in the first of some states."""
        return self.stands(cluster, int(np.argmax(bits)))

    def is_reached(self, number: int, point: str) -> bool:
        """Whether any cable comes to a point: where none does, nothing is wired yet, and nothing can become live."""
        return any(point in (leg.a, leg.b) for leg in self.circuits[number].legs)

    # Words

    def place(self, number: int, point: str) -> Place:
        """Return a point as a place, with its circuit's number where there are several."""
        if point == BOARD:
            return Place(kind="circuit", id=BOARD, name="the board")
        return Place(kind="point", id=point, name=self.title(number, point))

    def title(self, number: int, point: str) -> str:
        """Return how a person names a point."""
        name = self.circuits[number].point_title(point)
        return name if len(self.circuits) == 1 else f"{name} (circuit {number})"

    def lamp_title(self, lamp: Lamp) -> str:
        """Return how a person names what is at one terminal of a point."""
        point = self.circuits[lamp.circuit].point(lamp.point)
        named = [load.name for load in point.loads if load.line == lamp.line and load.name]
        several = len({load.line for load in point.loads}) > 1
        title = self.title(lamp.circuit, lamp.point)
        return f"{title}: {named[0] if named else lamp.line}" if several else title

    def switch_title(self, switch: SwitchId) -> str:
        """Return how a person names a switch: its place, and its gang where there are several."""
        number, point_id, _ = switch
        point = self.circuits[number].point(point_id)
        accessory = self.accessory(switch)
        many = len(point.accessories) > 1 and accessory is not None
        title = self.title(number, point_id)
        return f"{title}, gang {accessory.gang}" if many and accessory else title

    def points(self) -> Iterable[tuple[int, Point]]:
        """Yield every point with its circuit's number."""
        for number, circuit in self.circuits.items():
            for point in circuit.points:
                yield number, point


def answered(
    question: Question,
    proving: Proving,
    hazards: Sequence[Hazard],
    passes: str,
    nothing: str = "",
    unwired: Sequence[str] = (),
) -> ProvedAnswer:
    """Return the answer to a question: it fails by its first hazard; open where what it asks of is not wired yet.

    `nothing` is said where there is nothing that it asks of.
    """
    if hazards:
        steps = tuple(Step(text=each.words) for each in hazards)
        first = hazards[0]
        check = question.check(proving, Verdict.FAIL, first.words, place=first.place, steps=steps)
        return ProvedAnswer(check, tuple(hazards))
    if unwired:
        return ProvedAnswer(question.cannot_tell(proving, (f"wiring of {listed(unwired)}",)))
    if nothing:
        return ProvedAnswer(question.not_applicable(proving, nothing))
    return ProvedAnswer(question.check(proving, Verdict.PASS, passes))


def switch_of(number: int, gang: GangAt) -> SwitchId:
    """Return the switch that a gang is."""
    return number, gang.point, str(gang.gang)


def listed(names: Sequence[str]) -> str:
    """Return some names in a row, the first few."""
    shown = list(dict.fromkeys(names))
    return ", ".join(shown[:3]) + (f" and {len(shown) - 3} more" if len(shown) > 3 else "")
