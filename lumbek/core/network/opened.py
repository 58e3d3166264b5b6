"""What the table says of a ring opened at the board: closing it there never makes a point worse, so it is a bound."""

from collections.abc import Mapping

from lumbek.core.circuit.graph import CircuitGraph
from lumbek.core.circuit.shape import Shape
from lumbek.core.network.figures import flow


def least_opened_drop_v(
    graph: CircuitGraph,
    shape: Shape,
    table_ohm: Mapping[str, tuple[float, float]],
    at_points: Mapping[str, float],
) -> dict[str, tuple[float, str]]:
    """Return for each point the lesser drop in V by the table with the ring's first or last leg taken out, and which.

    `table_ohm` holds line and neutral of each leg in Ω as mV/A/m has them. Closing such a run takes the same current
    off every leg that it was fed by (Kirchhoff), so no point of the closed ring drops more. That does not hold for a
    leg in the middle: there the better side takes over load from the worse.
    """
    least: dict[str, tuple[float, str]] = {}
    for leg_id in (shape.ring_legs[0], shape.ring_legs[-1]):
        legs = tuple(leg for leg in graph.circuit.legs if leg.id != leg_id)
        opened = CircuitGraph(graph.circuit.model_copy(update={"legs": legs}))
        for point, drop in flow(opened, table_ohm, at_points).drop_v.items():
            if point not in least or drop < least[point][0]:
                least[point] = (drop, leg_id)
    return least
