"""Rings by cost against how evenly their two ends share the load: every one that none beats in both (Pareto front).

Loads are alike at every place; what comes from each end follows from the lengths (the current divider of a ring of one
cable: I1 = sum of I (L - d) / L). The least ring is rarely the evenest: the evenest is some 6 to 117 % longer.
"""

from collections.abc import Sequence
from itertools import permutations
from typing import Any

import numpy as np

from lumbek.core.routes.order import RunOrder

# Every order is tried to so many places: 20 160 rings.
MOST_TRIED = 8


def share_of(places: Sequence[int], lengths: Any) -> float:
    """Return the part of the load that comes from the busier end, in a ring from the board (0) through places in order.

    `lengths` of each leg, slack counted.
    """
    return float(_shares(np.array([places]), np.asarray(lengths, dtype=float))[1][0])


def _shares(rounds: Any, lengths: Any) -> tuple[Any, Any]:
    """Return the length of each round, and the part of the load at its busier end."""
    board = np.zeros((len(rounds), 1), dtype=int)
    whole = np.concatenate([board, rounds, board], axis=1)
    legs = lengths[whole[:, :-1], whole[:, 1:]]
    far = np.cumsum(legs, axis=1)
    total = far[:, -1]
    one = (1 - far[:, :-1] / total[:, None]).mean(axis=1)
    return total, np.maximum(one, 1 - one)


def ring_front(marks: Sequence[str], costs: Any, lengths: Any) -> tuple[RunOrder, ...]:
    """Return every ring that none beats in both cost and evenness, the least first; none for too many places.

    The first of the marks is the board. Evenness is told in whole percent, up: what is no better by that is left out.
    """
    table, money = np.asarray(lengths, dtype=float), np.asarray(costs, dtype=float)
    count = len(marks) - 1
    if not 2 <= count <= MOST_TRIED or not np.isfinite(table).all():
        return ()
    # One way round only: the other is the same ring.
    rounds = np.array([order for order in permutations(range(1, count + 1)) if order[0] < order[-1]])
    total, share = _shares(rounds, table)
    whole = np.pad(rounds, ((0, 0), (1, 1)))
    cost = np.round(money[whole[:, :-1], whole[:, 1:]].sum(axis=1), 6)
    percent = np.ceil(100 * share - 1e-9).astype(int)
    found: list[RunOrder] = []
    best = 101
    for at in np.lexsort((total, percent, cost)):
        if percent[at] < best:
            best = percent[at]
            found.append(
                RunOrder(
                    shape="ring",
                    runs=(tuple(marks[place] for place in rounds[at]),),
                    cost=round(float(cost[at])),
                    length_mm=round(float(total[at])),
                    is_proved=True,
                    busier_percent=int(percent[at]),
                )
            )
    return tuple(found)
