"""What the table says of a ring opened at the board: closing it there never makes a point worse, so it is a bound."""

from collections.abc import Iterable, Mapping

from lumbek.core.network.flows import flow
from lumbek.core.network.wiring import CoresOhm, Wiring


def least_opened_drop_v(
    wiring: Wiring,
    ring_legs: tuple[str, ...],
    table_ohm: CoresOhm,
    at_points: Mapping[str, float],
    points: Iterable[str],
) -> dict[str, tuple[float, str]]:
    """Return for each point the lesser drop in V by the table with the ring's first or last leg taken out, and which.

    `table_ohm` holds the cores of each leg in Ω as mV/A/m has them. Closing such a run takes the same current off
    every leg that it was fed by (Kirchhoff), so no point of the closed ring drops more. That does not hold for a
    leg in the middle: there the better side takes over load from the worse.
    """
    least: dict[str, tuple[float, str]] = {}
    for leg_id in (ring_legs[0], ring_legs[-1]):
        for point, drop in flow(wiring, table_ohm, at_points, points, without=leg_id).drop_v.items():
            if point not in least or drop < least[point][0]:
                least[point] = (drop, leg_id)
    return least
