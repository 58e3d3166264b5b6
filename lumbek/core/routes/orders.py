"""A run through places of a plan as a ring, as one radial and as two: which takes least, and how much each does."""

from collections.abc import Sequence
from typing import get_args

from lumbek.core.routes.answer import RoutedHouse
from lumbek.core.routes.order import RunOrder, Shape, order_of


def orders_of(routed: RoutedHouse, marks: Sequence[str]) -> tuple[RunOrder, ...]:
    """Return the least ring, radial and pair of radials from the first board, slack at each end counted."""
    board = next(filter(None, map(routed.mark_of_board, routed.boards)), None)
    if board is None:
        return ()
    costs, lengths = routed.finder.matrix([board, *marks])
    found = (order_of(shape, [board, *marks], costs, lengths) for shape in get_args(Shape))
    return tuple(_with_slack(routed, order) for order in found if order is not None)


def _with_slack(routed: RoutedHouse, order: RunOrder) -> RunOrder:
    rules = routed.places.ways
    at_board = 2 if order.shape == "ring" else len(order.runs)
    legs = sum(len(run) for run in order.runs) + (order.shape == "ring")
    slack = at_board * rules.board_slack_mm + (2 * legs - at_board) * rules.slack_mm
    return order.model_copy(update={"length_mm": order.length_mm + slack})
