"""Which leg of a circuit to break for new places: one leg through all of them, or several through those nearest.

A broken leg is left dead or drawn out; new cable runs from its one end through the new places to its other. Through one
leg the order is the least there is (`order.py`); over several legs each place goes where it adds least, one after
another, which is not proved.
"""

from collections.abc import Sequence
from itertools import pairwise
from typing import Any

import numpy as np

from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD
from lumbek.core.routes.answer import RoutedHouse
from lumbek.core.routes.order import least_between
from lumbek.core.value import Frozen


class Broken(Frozen):
    """A leg that is broken, and the new places on the way from its one end to its other."""

    leg: str
    marks: tuple[str, ...]


class LegBreaks(Frozen):
    """The legs that are broken, what the new cable costs and takes, with what is left at its ends; if it is proved."""

    broken: tuple[Broken, ...]
    cost: int
    length_mm: int
    is_proved: bool


def breaks_of(routed: RoutedHouse, key: str, design: Circuit, marks: Sequence[str]) -> tuple[LegBreaks, ...]:
    """Return the ways to take new places into a circuit, the least cost first; none where no leg is on the plan."""
    ends = {leg.id: (routed.mark_of(key, leg.a), routed.mark_of(key, leg.b)) for leg in design.legs}
    known = {leg: (one, other) for leg, (one, other) in ends.items() if one is not None and other is not None}
    if not known:
        return ()
    names = [*dict.fromkeys([*marks, *(mark for pair in known.values() for mark in pair)])]
    costs, lengths = routed.finder.matrix(names)
    at = {name: index for index, name in enumerate(names)}
    at_board = {leg.id: BOARD in (leg.a, leg.b) for leg in design.legs}
    found = []
    for leg, (one, other) in known.items():
        order = least_between([at[one], *(at[mark] for mark in marks), at[other]], costs)
        if order is not None:
            run = Broken(leg=leg, marks=tuple(names[each] for each in order.places[1:-1]))
            found.append(_told(routed, [run], known, at_board, (costs, lengths), at, order.is_proved))
    several = _nearest(known, marks, costs, at)
    if len(several) > 1:
        found.append(_told(routed, several, known, at_board, (costs, lengths), at, is_proved=False))
    return tuple(sorted(found, key=lambda each: (each.cost, len(each.broken), each.broken[0].leg)))


def _nearest(known: dict[str, tuple[str, str]], marks: Sequence[str], costs: Any, at: dict[str, int]) -> list[Broken]:
    """Put each place into the run where it adds least; a leg that is not broken yet has to be laid anew as a whole."""
    runs = {leg: [at[one], at[other]] for leg, (one, other) in known.items()}
    left = [at[mark] for mark in marks]
    while left:
        tried = [
            (
                float(costs[a, mark] + costs[mark, b] - (costs[a, b] if len(run) > 2 else 0)),
                mark,
                leg,
                place,
            )
            for mark in left
            for leg, run in runs.items()
            for place, (a, b) in enumerate(pairwise(run), start=1)
        ]
        cost, mark, leg, place = min(tried)
        if not np.isfinite(cost):
            return []
        runs[leg].insert(place, mark)
        left.remove(mark)
    names = {index: name for name, index in at.items()}
    return [
        Broken(leg=leg, marks=tuple(names[each] for each in run[1:-1])) for leg, run in runs.items() if len(run) > 2
    ]


def _told(
    routed: RoutedHouse,
    broken: Sequence[Broken],
    known: dict[str, tuple[str, str]],
    at_board: dict[str, bool],
    tables: tuple[Any, Any],
    at: dict[str, int],
    is_proved: bool,
) -> LegBreaks:
    costs, lengths = tables
    rules = routed.places.ways
    cost, mm = 0.0, 0.0
    for each in broken:
        one, other = known[each.leg]
        run = [at[one], *(at[mark] for mark in each.marks), at[other]]
        cost += sum(float(costs[pair]) for pair in pairwise(run))
        mm += sum(float(lengths[pair]) for pair in pairwise(run))
        ends = 2 * (len(run) - 1)
        mm += ends * rules.slack_mm + at_board[each.leg] * (rules.board_slack_mm - rules.slack_mm)
    return LegBreaks(broken=tuple(broken), cost=round(cost), length_mm=round(mm), is_proved=is_proved)
