"""All answers about one circuit: its shape, the figures at every point and leg, and every check."""

from typing import Literal

from lumbek.core.checks.arc_fault import check_arc_fault
from lumbek.core.checks.bath_zones import check_bath_zones
from lumbek.core.checks.breaking import check_breaking
from lumbek.core.checks.fault_protection import ZsLimit, check_fault_protection, zs_limit
from lumbek.core.checks.feed import check_feed, check_feed_zs
from lumbek.core.checks.overload import check_cable, check_fuses, check_load, needed_iz_a
from lumbek.core.checks.pme import check_pme
from lumbek.core.checks.rcd import check_rcd
from lumbek.core.checks.rcd_type import check_leakage, check_rcd_type
from lumbek.core.checks.ring_rule import check_ring_current, check_ring_rule
from lumbek.core.checks.shape import check_shape
from lumbek.core.checks.spurs import check_spurs
from lumbek.core.checks.usual import check_usual
from lumbek.core.checks.volt_drop import check_volt_drop
from lumbek.core.checks.withstand import check_withstand
from lumbek.core.circuit.shape import Shape
from lumbek.core.context import Context
from lumbek.core.model.circuit import BOARD, Circuit, Leg
from lumbek.core.model.supply import Supply
from lumbek.core.network.figures import is_open
from lumbek.core.resolve import resolve
from lumbek.core.result import Check, Frozen, Verdict, judge, overall
from lumbek.core.rulebooks import Rulebook

CHECKS = (
    check_shape,
    check_load,
    check_fuses,
    check_cable,
    check_ring_rule,
    check_ring_current,
    check_spurs,
    check_volt_drop,
    check_fault_protection,
    check_withstand,
    check_rcd,
    check_rcd_type,
    check_leakage,
    check_arc_fault,
    check_bath_zones,
    check_breaking,
    check_feed,
    check_feed_zs,
    check_pme,
    check_usual,
)


class PointFigures(Frozen):
    """Figures at one point. Resistances in Ω at 20 °C, Zs in Ω hot; None where unknown or open.

    `margin` is the part of its limit that is left of Zs or of the voltage drop, whichever has less: `margin_of`.
    """

    point: str
    open: bool = False
    r1_ohm: float | None = None
    rn_ohm: float | None = None
    r2_ohm: float | None = None
    r1_plus_r2_ohm: float | None = None
    cross_ln_ohm: float | None = None
    cross_le_ohm: float | None = None
    own_ends_ln_ohm: float | None = None
    zs_ohm: float | None = None
    zs_limit_ohm: float | None = None
    drop_v: float | None = None
    drop_percent: float | None = None
    load_a: float | None = None
    margin: float | None = None
    margin_of: Literal["zs", "drop"] | None = None


class LegFigures(Frozen):
    """Figures of one leg: length in m, line current in A from its end a to b, Iz in A of its worst segment.

    `needed_a` is what it must carry, `margin` the part of that which it carries more.
    """

    leg: str
    length_m: float | None = None
    current_a: float | None = None
    iz_a: float | None = None
    needed_a: float | None = None
    margin: float | None = None


class RingFigures(Frozen):
    """A ring end to end at 20 °C in Ω; None where a conductor is broken."""

    r1_ohm: float | None
    rn_ohm: float | None
    r2_ohm: float | None


class CircuitResult(Frozen):
    """Everything Lumbek has to say of a circuit's design."""

    rulebook: str
    edition: str
    verdict: Verdict
    shape: Shape
    ib_a: float | None
    ring: RingFigures | None
    points: tuple[PointFigures, ...]
    legs: tuple[LegFigures, ...]
    checks: tuple[Check, ...]
    tightest: str | None
    assumptions: tuple[str, ...] = ()


def evaluate(rulebook: Rulebook, supply: Supply, circuit: Circuit) -> CircuitResult:
    """Return every figure and check of a circuit. Never raises for a circuit that its model accepts.

    Where lengths are only known within a range, each check holds over the whole range or says that it cannot tell;
    figures are those of the greatest lengths.
    """
    resolved = resolve(rulebook, circuit)
    results = [evaluate_context(Context(rulebook, supply, variant)) for variant in resolved.variants]
    return over_range(results, resolved.assumptions)


def over_range(results: list[CircuitResult], assumptions: tuple[str, ...]) -> CircuitResult:
    """Return one result for several lengths of the same circuit; the last one's figures are shown."""
    shown = results[-1]
    if len(results) == 1:
        return shown.model_copy(update={"assumptions": assumptions})
    checks = tuple(_over_range([result.checks[index] for result in results]) for index in range(len(CHECKS)))
    return shown.model_copy(
        update={
            "checks": checks,
            "verdict": overall(checks),
            "tightest": _tightest(checks),
            "assumptions": assumptions,
        }
    )


def _over_range(found: list[Check]) -> Check:
    """Return one check for several lengths: the tightest where all agree, else that it depends."""
    verdicts = {check.verdict for check in found}
    if len(verdicts) == 1:
        return min(found, key=lambda check: 1.0 if check.margin is None else check.margin)
    worst = next((check for check in found if check.verdict is Verdict.FAIL), found[-1])
    if Verdict.FAIL not in verdicts or Verdict.PASS not in verdicts:
        return worst
    return worst.model_copy(
        update={
            "verdict": Verdict.CANNOT_TELL,
            "answer": f"Depends on lengths: {worst.answer} at worst",
            "missing": ("true lengths of the legs that are known within a range",),
        }
    )


def evaluate_context(context: Context) -> CircuitResult:
    """Return every figure and check of a circuit whose context is made already."""
    checks = tuple(check(context) for check in CHECKS)
    ring = context.cold.ring if context.cold else None
    return CircuitResult(
        rulebook=context.rulebook.id,
        edition=context.rulebook.data.edition,
        verdict=overall(checks),
        shape=context.shape,
        ib_a=context.demand.ib_a if context.demand else None,
        ring=RingFigures(r1_ohm=_shut(ring.r1_ohm), rn_ohm=_shut(ring.rn_ohm), r2_ohm=_shut(ring.r2_ohm))
        if ring
        else None,
        points=tuple(_point(context, point.id) for point in context.circuit.points),
        legs=tuple(_leg(context, leg) for leg in context.circuit.legs),
        checks=checks,
        tightest=_tightest(checks),
    )


def _shut(ohm: float | None) -> float | None:
    """Return None for an open circuit, which JSON has no number for."""
    return None if ohm is None or is_open(ohm) else ohm


def _leg(context: Context, leg: Leg) -> LegFigures:
    iz = _least_iz(context, leg.id)
    needed = needed_iz_a(context, leg.id)[0] if leg.id in context.capacities and context.protection else None
    return LegFigures(
        leg=leg.id,
        length_m=leg.length_m,
        current_a=context.flow.leg_a.get(leg.id) if context.flow else None,
        iz_a=iz,
        needed_a=needed,
        margin=None if iz is None or needed is None else judge(iz, needed, "at least")[1],
    )


def _point(context: Context, point: str) -> PointFigures:
    cold = context.cold
    if cold is None or point not in context.graph.distance or point == BOARD:
        return PointFigures(point=point, open=point not in context.graph.distance)
    hot = context.hot_joined_ohm or {}
    ze, ring = context.ze_ohm, cold.ring
    limit = zs_limit(context, point) if context.earthing else None
    drop = context.flow.drop_v.get(point) if context.flow else None
    zs = _shut(ze + hot[point]) if ze is not None and context.earthing else None
    percent = None if drop is None else 100 * (drop + (context.feed_drop_v or 0.0)) / context.drop_base_v
    margin, margin_of = _least_margin(context, zs, limit, percent)
    return PointFigures(
        point=point,
        open=is_open(cold.joined_ohm[point]),
        r1_ohm=_shut(cold.r1_ohm[point]),
        rn_ohm=_shut(cold.rn_ohm[point]),
        r2_ohm=_shut(cold.r2_ohm[point]),
        r1_plus_r2_ohm=_shut(cold.joined_ohm[point]),
        cross_ln_ohm=_shut(ring.cross_ln_ohm[point]) if ring else None,
        cross_le_ohm=_shut(ring.cross_le_ohm[point]) if ring else None,
        own_ends_ln_ohm=_shut(ring.own_ends_ln_ohm[point]) if ring else None,
        zs_ohm=zs,
        zs_limit_ohm=limit.ohm if limit else None,
        drop_v=drop,
        drop_percent=percent,
        load_a=context.demand.at_points.get(point) if context.demand else None,
        margin=margin,
        margin_of=margin_of,
    )


def _least_margin(
    context: Context, zs_ohm: float | None, limit: ZsLimit | None, drop_percent: float | None
) -> tuple[float | None, Literal["zs", "drop"] | None]:
    """Return the lesser margin of a point and which figure has it."""
    margins: list[tuple[float | None, Literal["zs", "drop"]]] = []
    if zs_ohm is not None and limit is not None:
        margins.append((judge(zs_ohm, limit.ohm, "at most")[1], "zs"))
    if drop_percent is not None:
        most = context.rulebook.volt_drop_limit_percent(context.group)
        margins.append((judge(drop_percent, most, "at most")[1], "drop"))
    return min(margins, default=(None, None), key=lambda each: each[0] or 0.0)


def _least_iz(context: Context, leg_id: str) -> float | None:
    found = [capacity.iz_a for capacity in context.capacities.get(leg_id, ())]
    known = [iz for iz in found if iz is not None]
    return min(known) if known and len(known) == len(found) else None


def _tightest(checks: tuple[Check, ...]) -> str | None:
    """Return the id of the check with the least margin, failures first."""
    judged = [check for check in checks if check.verdict in (Verdict.PASS, Verdict.FAIL)]
    if not judged:
        return None
    return min(
        judged,
        key=lambda check: (check.verdict is not Verdict.FAIL, 1.0 if check.margin is None else check.margin),
    ).id
