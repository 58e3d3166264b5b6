"""Correcting a voltage drop for the temperature the conductors really reach under their load."""

from collections.abc import Mapping, Sequence

from lumbek.core.model.cable import Cable
from lumbek.core.model.leg import Leg
from lumbek.core.rulebooks import Rulebook
from lumbek.core.sizing.capacity import Capacity


def temperature_factor_ct(
    ib_a: float, it_a: float, limit_c: float = 70.0, ca: float = 1.0, cg: float = 1.0, cs: float = 1.0
) -> float:
    """Return Ct, the factor on the resistive part of mV/A/m (BS 7671 Appendix 4, 6.1).

    Ct = (230 + tp - (Ca² Cg² Cs² - Ib²/It²)(tp - 30)) / (230 + tp), with tp the insulation's limit `limit_c`.
    Currents in A; never above 1, for the table holds the conductor at tp. Raises ValueError for It <= 0.
    """
    if it_a <= 0:
        raise ValueError("It must be above 0 A")
    tp = limit_c
    cooler = (ca**2 * cg**2 * cs**2 - ib_a**2 / it_a**2) * (tp - 30)
    return min(1.0, (230 + tp - cooler) / (230 + tp))


def leg_ct(rulebook: Rulebook, leg: Leg, cable: Cable, capacities: Sequence[Capacity], current_a: float) -> float:
    """Return Ct of a leg at this current in A: of its segments, each for the part of the length it takes up.

    1 where a segment has no rating, and for thick cable: there reactance takes part in mV/A/m, which does not fall
    with temperature.
    """
    length = leg.length_m
    if (
        not length
        or cable.csa_mm2 > rulebook.data.capacity.ct_up_to_mm2
        or any(each.iz_a is None for each in capacities)
    ):
        return 1.0
    return sum(
        temperature_factor_ct(
            abs(current_a), each.it_a, rulebook.data.conductors.limit_c[cable.insulation], ca=each.factor
        )
        * (leg.segments[each.segment].length_m or 0.0)
        / length
        for each in capacities
    )


def agree(before: Mapping[str, float], after: Mapping[str, float]) -> bool:
    """Whether two rounds of Ct agree: closer than any figure is shown."""
    return all(abs(after[leg] - before[leg]) < 1e-9 for leg in after)
