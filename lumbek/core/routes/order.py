"""In which order a run takes its places: a ring, one radial or two, each with the least cost.

All three are one round trip: of a radial the way back costs nothing, of two radials the middle of the ring does. To 40
places it is found by an integer programme (each place has two legs; rounds that miss the board are cut off as they
come), and proved; beyond, by taking the nearest next and then turning stretches round (2-opt) after kicks, unproved.
"""

from collections.abc import Sequence
from itertools import pairwise
from typing import Any, Literal, NamedTuple

import numpy as np

from lumbek.core.value import Frozen

MOST_PROVED = 40
_SECONDS = 5.0

Shape = Literal["ring", "radial", "two-radials"]


class RunOrder(Frozen):
    """A run: its places in order from the board, cut into runs where there are two, what it costs and takes.

    `is_proved` where none costs less.
    """

    shape: Shape
    runs: tuple[tuple[str, ...], ...]
    cost: int
    length_mm: int
    is_proved: bool
    # Of a ring: how much of a load that is alike everywhere comes from its busier end.
    busier_percent: int | None = None


class _Round(NamedTuple):
    places: list[int]
    is_proved: bool


def order_of(shape: Shape, marks: Sequence[str], costs: Any, lengths: Any) -> RunOrder | None:
    """Return the least run from the board, which is the first of the marks, through all others.

    `costs` and `lengths` are square, of each way between two of them; infinite where none leads. None where a place
    cannot be reached, or there is none.
    """
    count = len(marks)
    if count < 2 or (shape == "two-radials" and count < 3):
        return None
    table = np.array(costs, dtype=float)
    if not np.isfinite(table[0]).all():
        return None
    # No way costs more than by the board; what does not lead directly leads there.
    table = np.minimum(table, table[0][:, None] + table[0][None, :])
    np.fill_diagonal(table, 0)
    found = _least_round(_with_free_leg(shape, table))
    runs = _runs(shape, found.places, count)
    legs = [pair for run in runs for pair in pairwise(run)]
    measured = np.array(lengths, dtype=float)
    return RunOrder(
        shape=shape,
        runs=tuple(tuple(marks[at] for at in run[1:] if at) for run in runs),
        cost=round(sum(float(table[leg]) for leg in legs)),
        length_mm=round(sum(float(measured[leg]) for leg in legs)),
        is_proved=found.is_proved,
    )


def least_between(places: Sequence[int], costs: Any) -> "_Round | None":
    """Return the least run from the first of some places through all others to the last; None where none leads.

    The leg from the last to the first is worth more than all others: every least round takes it.
    """
    table = np.array(costs, dtype=float)[np.ix_(places, places)]
    if not np.isfinite(table).all():
        return None
    last = len(places) - 1
    table[0, last] = table[last, 0] = -(10 * table.sum() + 1.0)
    found = _least_round(table)
    trip = found.places[found.places.index(0) :] + found.places[: found.places.index(0)]
    run = trip if trip[-1] == last else [trip[0], *reversed(trip[1:])]
    return _Round([places[at] for at in run], found.is_proved)


def _with_free_leg(shape: Shape, table: Any) -> Any:
    """Return the table with one place more, from which legs cost nothing: where a run ends."""
    if shape == "ring":
        return table
    count = len(table)
    wider = np.zeros((count + 1, count + 1))
    wider[:count, :count] = table
    # Of one radial the end has a leg to the board, of two it has none: it lies between the last places of both.
    bound = 10 * table.sum() + 1.0
    wider[0, count] = wider[count, 0] = -bound if shape == "radial" else bound
    return wider


def _runs(shape: Shape, round_trip: list[int], count: int) -> list[list[int]]:
    """Return the runs of a round trip that begins at the board."""
    if shape == "ring":
        return [[*round_trip, 0]]
    at = round_trip.index(count)
    one, other = round_trip[:at], [0, *reversed(round_trip[at + 1 :])]
    return [run for run in (one, other) if len(run) > 1]


def _least_round(table: Any) -> _Round:
    count = len(table)
    if count <= 3:
        return _Round(list(range(count)), True)
    exact = _by_programme(table) if count <= MOST_PROVED + 2 else None
    return _Round(exact, True) if exact is not None else _Round(_by_moves(table), False)


# -- exact -------------------------------------------------------------------------------------------------------


def _by_programme(table: Any) -> list[int] | None:
    """Return the least round trip; None where it is not proved in time."""
    from scipy.optimize import Bounds, LinearConstraint, milp  # noqa: PLC0415
    from scipy.sparse import coo_matrix  # noqa: PLC0415

    count = len(table)
    one, other = np.triu_indices(count, 1)
    legs = np.arange(len(one))
    at_place = coo_matrix((np.ones(2 * len(one)), (np.r_[one, other], np.r_[legs, legs])), shape=(count, len(one)))
    rules = [LinearConstraint(at_place.tocsr(), 2, 2)]
    for _ in range(200):
        answer = milp(
            table[one, other],
            constraints=rules,
            integrality=np.ones(len(one)),
            bounds=Bounds(0, 1),
            options={"time_limit": _SECONDS},
        )
        if answer.x is None or answer.status != 0:
            return None
        taken = [(int(a), int(b)) for a, b, part in zip(one, other, answer.x, strict=True) if part > 0.5]
        rounds = _rounds(taken, count)
        if len(rounds) == 1:
            return rounds[0]
        for each in rounds:
            inside = np.isin(one, each) & np.isin(other, each)
            rules.append(LinearConstraint(inside.astype(float)[None, :], -np.inf, len(each) - 1))
    return None


def _rounds(taken: Sequence[tuple[int, int]], count: int) -> list[list[int]]:
    """Return the round trips that legs make, each from its least place, the lesser neighbour first."""
    beside: dict[int, list[int]] = {at: [] for at in range(count)}
    for a, b in taken:
        beside[a].append(b)
        beside[b].append(a)
    found, left = [], set(range(count))
    while left:
        start = min(left)
        trip, before, here = [start], -1, start
        left.discard(start)
        while True:
            ahead = [each for each in sorted(beside[here]) if each != before and each in left]
            if not ahead:
                break
            before, here = here, ahead[0]
            trip.append(here)
            left.discard(here)
        found.append(trip)
    return found


# -- near --------------------------------------------------------------------------------------------------------


def _by_moves(table: Any) -> list[int]:
    """Return a short round trip: the nearest next, stretches turned while that is shorter; kicked, and again."""
    chance = np.random.default_rng(7)
    best = _settled(table, _nearest(table))
    least = _cost(table, best)
    for _ in range(60):
        tried = _settled(table, _kicked(best, chance))
        cost = _cost(table, tried)
        if cost < least - 1e-6:
            best, least = tried, cost
    at = best.index(0)
    return best[at:] + best[:at]


def _nearest(table: Any) -> list[int]:
    trip, left = [0], set(range(1, len(table)))
    while left:
        trip.append(min(left, key=lambda each: (table[trip[-1], each], each)))
        left.discard(trip[-1])
    return trip


def _cost(table: Any, trip: list[int]) -> float:
    return float(table[trip, trip[1:] + trip[:1]].sum())


def _kicked(trip: list[int], chance: Any) -> list[int]:
    a, b, c = sorted(chance.choice(np.arange(1, len(trip)), 3, replace=False))
    return trip[:a] + trip[b:c] + trip[a:b] + trip[c:]


def _settled(table: Any, trip: list[int]) -> list[int]:
    """Turn stretches round while that makes it shorter."""
    count, turning = len(trip), True
    while turning:
        turning = False
        for low in range(count - 1):
            for high in range(low + 2, count - (low == 0)):
                a, b, c, d = trip[low], trip[low + 1], trip[high], trip[(high + 1) % count]
                if table[a, c] + table[b, d] < table[a, b] + table[c, d] - 1e-6:
                    trip = trip[: low + 1] + trip[low + 1 : high + 1][::-1] + trip[high + 1 :]
                    turning = True
    return trip
