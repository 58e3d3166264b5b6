"""What the checks say of a design of an exercise, and the device it usually has."""

from lumbek.core.judging.check import Check, Verdict
from lumbek.core.judging.verdict import CircuitResult
from lumbek.core.model.device import Device, Rcd, RcdType


def rcbo(rating_a: float, rcd_type: RcdType = "A") -> Device:
    """Return an RCBO of type B and 6 kA with 30 mA."""
    return Device(rating_a=rating_a, breaking_capacity_ka=6, rcd=Rcd(rated_ma=30, type=rcd_type))


def check_of(result: CircuitResult, check_id: str) -> Check:
    """Return a check by its id; StopIteration for one that is not there."""
    return next(check for check in result.checks if check.id == check_id)


def failing(result: CircuitResult) -> Check:
    """Return the first check that fails; StopIteration where none does."""
    return next(check for check in result.checks if check.verdict is Verdict.FAIL)


def overheats(result: CircuitResult) -> bool:
    """Whether its cable carries less than it is asked to."""
    return check_of(result, "cable").verdict is Verdict.FAIL
