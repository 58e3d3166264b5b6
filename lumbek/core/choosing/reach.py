"""How far one may go before what fails: the greatest length by each limit."""

from lumbek.core.checks import fault_protection, volt_drop
from lumbek.core.checks.drop_limit import drop_limit_percent
from lumbek.core.checks.withstand import check_withstand
from lumbek.core.judging.check import Verdict
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.supply import Supply
from lumbek.core.numbers import show, show_down
from lumbek.core.protection.zs_limit import zs_limit
from lumbek.core.rulebooks import Rulebook
from lumbek.core.study.door import study_of
from lumbek.core.study.study import Study
from lumbek.core.value import Frozen


class ReachLimit(Frozen):
    """One limit: the factor on every length at which it is just met, and the run's length then in m."""

    check: str
    title: str
    factor: float
    length_m: float
    shown: str


class Reach(Frozen):
    """The run as drawn in m, and how long it could be by each limit, shortest first.

    `any_length` names the limits that are met and do not depend on length.
    """

    length_m: float
    shown: str
    limits: tuple[ReachLimit, ...]
    any_length: tuple[str, ...] = ()
    missing: tuple[str, ...] = ()


def reach(rulebook: Rulebook, supply: Supply, circuit: Circuit) -> Reach:
    """Return the greatest length of a run by voltage drop and by Zs, its proportions kept.

    All resistances scale with length, so with the same currents the drop is D x f and Zs is Ze + (R1 + R2) x f:
    each limit is met at one factor f, found without iterating. A feed ahead keeps its own drop and loop. Where
    lengths are known within a range, the greatest are scaled.
    """
    study = study_of(rulebook, supply, circuit).longest
    length = sum(leg.length_m or 0.0 for leg in study.circuit.legs if leg.id in study.capacities)
    shown = f"{show(length, 1)} m"
    if study.wires.cold is None:
        return Reach(
            length_m=length,
            shown=shown,
            limits=(),
            missing=study.wires.unknown_lengths or ("first cable from the board",),
        )
    limits = [
        ReachLimit(
            check=key,
            title=title,
            factor=factor,
            length_m=length * factor,
            shown=f"{show_down(length * factor, 1)} m",
        )
        for key, title, factor in (
            ("volt-drop", volt_drop.QUESTION.title, _by_drop(study)),
            ("zs", fault_protection.QUESTION.title, _by_zs(study)),
        )
        if factor is not None
    ]
    withstand = check_withstand(study)
    if withstand.verdict is Verdict.FAIL:
        # The energy let through is greatest at the board, on no length at all: none mends it.
        limits.append(ReachLimit(check="withstand", title=withstand.title, factor=0.0, length_m=0.0, shown="0 m"))
    return Reach(
        length_m=length,
        shown=shown,
        limits=tuple(sorted(limits, key=lambda each: each.factor)),
        any_length=(withstand.title,) if withstand.verdict is Verdict.PASS else (),
    )


def _by_drop(study: Study) -> float | None:
    """Return the factor at which the first point's drop meets its limit (525); None where there is no drop to tell."""
    if study.currents.flow is None or study.currents.feed_drop_v is None:
        return None
    base_v, feed_v = study.currents.drop_base_v, study.currents.feed_drop_v
    factors = [
        max(0.0, base_v * drop_limit_percent(study, point) / 100 - feed_v) / drop_v
        for point, drop_v in study.currents.flow.drop_v.items()
        if drop_v > 0
    ]
    return min(factors, default=None)


def _by_zs(study: Study) -> float | None:
    """Return the factor at which the first point meets its limit of Zs (411.4.4); None where one has none."""
    hot, ze = study.wires.hot_joined_ohm or {}, study.ahead.ze_ohm
    limits = {point: zs_limit(study, point) for point in hot} if study.ahead.earthing else {}
    if ze is None or any(limit is None for limit in limits.values()):
        return None
    factors = [max(0.0, limit.ohm - ze) / hot[point] for point, limit in limits.items() if limit and hot[point] > 0]
    return min(factors, default=None)
