"""How far one may go before what fails: the greatest length by each limit."""

from lumbek.core.context import Context
from lumbek.core.evaluate import evaluate
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.supply import Supply
from lumbek.core.result import Frozen, Verdict
from lumbek.core.rulebooks import Rulebook


class ReachLimit(Frozen):
    """One limit: the factor on every length at which it is just met, and the run's length then in m."""

    check: str
    title: str
    factor: float
    length_m: float


class Reach(Frozen):
    """The run as drawn in m, and how long it could be by each limit, shortest first."""

    length_m: float
    limits: tuple[ReachLimit, ...]
    missing: tuple[str, ...] = ()


def reach(rulebook: Rulebook, supply: Supply, circuit: Circuit) -> Reach:
    """Return the greatest length of a run by voltage drop and by Zs, its proportions kept.

    All resistances scale with length, so with the same currents the drop is D x f and Zs is Ze + (R1 + R2) x f:
    each limit is met at one factor f, found without iterating. A feed ahead keeps its own drop and loop.
    """
    context = Context(rulebook, supply, circuit)
    length = sum(leg.length_m or 0.0 for leg in circuit.legs if leg.id in context.capacities)
    if context.cold is None:
        return Reach(length_m=length, limits=(), missing=context.unknown_lengths or ("first leg from the board",))
    checks = {check.id: check for check in evaluate(rulebook, supply, circuit).checks}
    limits = []
    drop, zs = checks["volt-drop"], checks["zs"]
    for check, fixed in (
        (drop, 100 * (context.feed_drop_v or 0.0) / context.drop_base_v),
        (zs, context.ze_ohm or 0.0),
    ):
        if check.value is None or check.limit is None or check.value <= fixed:
            continue
        factor = max(0.0, (check.limit - fixed) / (check.value - fixed))
        limits.append(ReachLimit(check=check.id, title=check.title, factor=factor, length_m=length * factor))
    if checks["withstand"].verdict is Verdict.FAIL:
        # The let-through energy does not fall with length: no length mends it.
        limits.append(ReachLimit(check="withstand", title=checks["withstand"].title, factor=0.0, length_m=0.0))
    return Reach(length_m=length, limits=tuple(sorted(limits, key=lambda each: each.factor)))
