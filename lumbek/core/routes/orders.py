"""A run through places of a plan as a ring, as one radial and as two: which takes least, and how much each does."""

from collections.abc import Sequence
from math import ceil
from typing import Any, get_args

import numpy as np

from lumbek.core.model.routes import RouteRules
from lumbek.core.routes.answer import RoutedHouse
from lumbek.core.routes.evenness import ring_front, share_of
from lumbek.core.routes.order import RunOrder, Shape, order_of

# So many rings are shown besides the least: the evenest and those between.
_MOST_SHOWN = 3


def orders_of(routed: RoutedHouse, marks: Sequence[str], board: str | None = None) -> tuple[RunOrder, ...]:
    """Return the least ring, radial and pair of radials from a board, else the one that new circuits sit on.

    Slack at each end is counted. Then rings that take more and share their load better, where there are few enough
    places to try them all.
    """
    board = board or routed.mark_of_first_board()
    if board is None:
        return ()
    every = [board, *marks]
    costs, lengths = routed.finder.matrix(every)
    slack = _with_slack_at(np.array(lengths, dtype=float), routed.places.ways)
    found = [order for shape in get_args(Shape) if (order := order_of(shape, every, costs, lengths)) is not None]
    least = [_with_slack(routed, _told(order, every, slack)) for order in found]
    ring = next((order for order in least if order.shape == "ring"), None)
    return (*least, *(() if ring is None else _evener(ring, ring_front(every, costs, slack))))


def _with_slack_at(lengths: Any, rules: RouteRules) -> Any:
    """Return lengths of legs with what is left at their ends; the first place is the board."""
    ends = np.full(len(lengths), float(rules.slack_mm))
    ends[0] = rules.board_slack_mm
    return lengths + ends[:, None] + ends[None, :]


def _told(order: RunOrder, every: Sequence[str], lengths: Any) -> RunOrder:
    """Return a ring with how much comes from its busier end."""
    if order.shape != "ring" or not np.isfinite(lengths).all():
        return order
    share = share_of([every.index(mark) for mark in order.runs[0]], lengths)
    return order.model_copy(update={"busier_percent": ceil(100 * share - 1e-9)})


def _evener(ring: RunOrder, front: Sequence[RunOrder]) -> tuple[RunOrder, ...]:
    """Return rings that share better than one, the evenest last, and no more than are worth a look."""
    better = [
        each for each in front if ring.busier_percent is not None and (each.busier_percent or 0) < ring.busier_percent
    ]
    return tuple(better[-_MOST_SHOWN:])


def _with_slack(routed: RoutedHouse, order: RunOrder) -> RunOrder:
    rules = routed.places.ways
    at_board = 2 if order.shape == "ring" else len(order.runs)
    legs = sum(len(run) for run in order.runs) + (order.shape == "ring")
    slack = at_board * rules.board_slack_mm + (2 * legs - at_board) * rules.slack_mm
    return order.model_copy(update={"length_mm": order.length_mm + slack})
