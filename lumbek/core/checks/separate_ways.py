"""Line and neutral that go separate ways: does each load have its neutral, and does the steel round one stay cold?"""

from collections.abc import Iterator
from functools import cache

import numpy as np

from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.leg import BOARD
from lumbek.core.model.point import PASSIVE_KINDS, Point
from lumbek.core.network.solver import Solution
from lumbek.core.network.wiring import Node, Setup, node
from lumbek.core.numbers import counted
from lumbek.core.study.study import Study

QUESTION = Question(
    "separate-ways",
    "Line and neutral apart",
    "May line and neutral go separate ways here, and does each load have both?",
    "conductors-together",
)
_CAUTION = (
    "What goes out one way comes back another: never through steel one by one, and never with the neutral of "
    "another circuit. Pulling a neutral of it with the supply on lifts everything behind it to line."
)

_EACH = (
    ("N", "neutral", "No neutral of this circuit leads there: draw its way, or it was borrowed elsewhere"),
    ("L", "line", "However its switches stand, no line of this circuit leads there"),
)


def check_separate_ways(study: Study) -> Check:
    """No single by itself in steel; the neutral comes back on its own circuit (521.5.1, 521.8; 314.4).

    Whether line and neutral of each load are there is asked here, since where they go by ways of their own neither
    follows from the other.
    """
    lone = [leg for leg in study.wires.legs if study.circuit.cable_of(leg).lone is not None]
    if not lone:
        return QUESTION.not_applicable(study, "Line and neutral go together")
    for conductor, called, why in _EACH:
        bare = next(_without(study, conductor), None)
        if bare is not None:
            answer, place = f"No {called} comes to {bare.title}", study.point_place(bare.id)
            return QUESTION.check(study, Verdict.FAIL, answer, place=place, steps=(Step(text=why),))
    steel = next((leg for leg in lone if study.circuit.cable_of(leg).earth_by == "conduit"), None)
    if steel is not None:
        return QUESTION.check(
            study,
            Verdict.FAIL,
            f"A single by itself in steel: {study.leg_title(steel.id)}",
            place=study.leg_place(steel.id),
            steps=(Step(text="Steel round one conductor is heated by its field: both go through the same conduit"),),
        )
    answer = f"{counted(len(lone), 'single goes its', 'singles go their')} own way, not in steel"
    return QUESTION.check(study, Verdict.PASS, answer, place=study.whole, caution=_CAUTION)


def _without(study: Study, conductor: str) -> Iterator[Point]:
    """Yield the reached points that draw something and to which, whatever is switched on, no such conductor comes."""
    wiring = study.wires.wiring

    @cache
    def solved(setup: Setup) -> Solution[Node]:
        # What is joined to what does not ask for lengths.
        return wiring.solve(np.ones(len(wiring.branches)), setup)

    for point in study.circuit.points:
        if point.kind in PASSIVE_KINDS or point.id not in study.graph.distance:
            continue
        setup, line = study.wires.switched_on(point.id)
        here = line if conductor == "L" and line is not None else node(conductor, point.id)
        if not solved(setup).joined(node(conductor, BOARD), here):
            yield point
