"""What the table says of a ring opened at one leg: closing a ring never makes a point worse, so it is a bound."""

from collections.abc import Iterable, Mapping

from lumbek.core.circuit.graph import CircuitGraph
from lumbek.core.network.figures import flow


def least_opened_drop_v(
    graph: CircuitGraph,
    ring_legs: Iterable[str],
    table_ohm: Mapping[str, tuple[float, float]],
    at_points: Mapping[str, float],
) -> dict[str, tuple[float, str]]:
    """Return for each point the least drop in V by the table with the ring opened somewhere, and the leg opened.

    `table_ohm` holds line and neutral of each leg in Ω as mV/A/m has them. Every way of opening the ring leaves all
    points fed and raises no resistance anywhere, so the drop of the closed ring is at most the least of these.
    """
    least: dict[str, tuple[float, str]] = {}
    for leg_id in ring_legs:
        legs = tuple(leg for leg in graph.circuit.legs if leg.id != leg_id)
        opened = CircuitGraph(graph.circuit.model_copy(update={"legs": legs}))
        for point, drop in flow(opened, table_ohm, at_points).drop_v.items():
            if point not in least or drop < least[point][0]:
                least[point] = (drop, leg_id)
    return least
