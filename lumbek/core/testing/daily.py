"""What a reading should be by others that were taken already, where no lengths are drawn: the sums of the day.

A quarter of r1 and rn, or of r1 and r2, at every point of a ring; Ze and R1+R2 for Zs; r2 by the sizes from r1.
"""

from lumbek.core.model.reading import Quantity
from lumbek.core.numbers import show
from lumbek.core.testing.band import Expected
from lumbek.core.testing.taken import Taken


def expected_by_readings(taken: Taken, quantity: Quantity, point: str | None) -> Expected | None:
    """Return what a reading is expected to be by those that stand, in Ω; None where they do not say."""
    if quantity in ("rn", "r2"):
        return _other_end(taken, quantity)
    if quantity in ("cross-ln", "cross-le") and point in taken.study.shape.ring_points:
        return _quarter(taken, "rn" if quantity == "cross-ln" else "r2")
    if quantity == "zs":
        return _loop(taken, point)
    return None


def _band(taken: Taken, value: float, low: float, high: float) -> Expected:
    rules = taken.study.rulebook.data.testing
    return Expected(
        value=value,
        low=max(0.0, low * (1 - rules.length_tolerance) - rules.digit_ohm),
        high=high * (1 + rules.length_tolerance) + rules.contact_ohm,
        shown=show(value),
    )


def _other_end(taken: Taken, quantity: Quantity) -> Expected | None:
    """rn as r1; r2 by the ratio of the sizes, where the ring is of one cable."""
    r1 = taken.value("r1")
    cables = {taken.study.circuit.cable_of(taken.study.legs[leg]) for leg in taken.study.shape.ring_legs}
    if r1 is None or len(cables) != 1:
        return None
    (cable,) = cables
    line, other = (taken.study.rulebook.milliohm_per_m(cable, core) for core in ("L", "N" if quantity == "rn" else "E"))
    if not line or not other:
        return None
    return _band(taken, r1 * other / line, r1 * other / line, r1 * other / line)


def _quarter(taken: Taken, other: Quantity) -> Expected | None:
    """(r1 + r) / 4 half way round; near the ends, where conductors differ, no less than r1 r / (r1 + r)."""
    r1, r = taken.value("r1"), taken.value(other)
    if r1 is None or r is None or not r1 + r:
        return None
    return _band(taken, (r1 + r) / 4, r1 * r / (r1 + r), (r1 + r) / 4)


def _loop(taken: Taken, point: str | None) -> Expected | None:
    """Zs = Ze + (R1+R2), as both were read; of a ring step 3 is R1+R2."""
    ze = taken.study.ahead.cold_ze_ohm
    read = [taken.value(each, point) for each in ("r1+r2", "cross-le")]
    loop = next((ohm for ohm in read if ohm is not None), None)
    if ze is None or loop is None:
        return None
    # Metal beside the cpc lowers it, as far as to Ze itself.
    return _band(taken, ze + loop, ze, ze + loop)
