"""The verdict on one circuit: its shape, the figures at every point and leg, and every check."""

from lumbek.core.checks.arc_fault import check_arc_fault
from lumbek.core.checks.bath_zones import check_bath_zones
from lumbek.core.checks.breaking import check_breaking
from lumbek.core.checks.fault_protection import check_fault_protection
from lumbek.core.checks.feed import check_feed, check_feed_zs
from lumbek.core.checks.overload import check_cable, check_fuses, check_load
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
from lumbek.core.figures import LegFigures, PointFigures, RingFigures, leg_figures, point_figures, ring_figures
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.supply import Supply
from lumbek.core.result import Check, Verdict, overall
from lumbek.core.rulebooks import Rulebook
from lumbek.core.study.door import Studied, study_of
from lumbek.core.study.study import Study
from lumbek.core.value import Frozen

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


def judge_circuit(rulebook: Rulebook, supply: Supply, circuit: Circuit) -> CircuitResult:
    """Return every figure and check of a circuit. Never raises for a circuit that its model accepts."""
    return judge_studied(study_of(rulebook, supply, circuit))


def judge_studied(studied: Studied) -> CircuitResult:
    """Return every figure and check of a circuit to whatever extent its lengths are known.

    Where lengths are only known within a range, each check holds over the whole range or says that it cannot tell;
    figures are those of the greatest lengths.
    """
    return _over_range([_judge(study) for study in studied.variants], studied.lengths.assumptions)


def _over_range(results: list[CircuitResult], assumptions: tuple[str, ...]) -> CircuitResult:
    """Return one result for several lengths of the same circuit; the last one's figures are shown."""
    shown = results[-1]
    if len(results) == 1:
        return shown.model_copy(update={"assumptions": assumptions}) if assumptions else shown
    checks = tuple(_one_over_range([result.checks[index] for result in results]) for index in range(len(CHECKS)))
    return shown.model_copy(
        update={
            "checks": checks,
            "verdict": overall(checks),
            "tightest": _tightest(checks),
            "assumptions": assumptions,
        }
    )


def _one_over_range(found: list[Check]) -> Check:
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
            "shown_margin": "",
            "missing": ("true lengths of the legs that are known within a range",),
        }
    )


def _judge(study: Study) -> CircuitResult:
    """Return every figure and check of a circuit whose lengths are settled."""
    checks = tuple(check(study) for check in CHECKS)
    return CircuitResult(
        rulebook=study.rulebook.id,
        edition=study.rulebook.data.edition,
        verdict=overall(checks),
        shape=study.shape,
        ib_a=study.currents.demand.ib_a if study.currents.demand else None,
        ring=ring_figures(study),
        points=tuple(point_figures(study, point.id) for point in study.circuit.points),
        legs=tuple(leg_figures(study, leg) for leg in study.circuit.legs),
        checks=checks,
        tightest=_tightest(checks),
    )


def _tightest(checks: tuple[Check, ...]) -> str | None:
    """Return the id of the check with the least margin, failures first."""
    judged = [check for check in checks if check.verdict in (Verdict.PASS, Verdict.FAIL)]
    if not judged:
        return None
    return min(
        judged,
        key=lambda check: (check.verdict is not Verdict.FAIL, 1.0 if check.margin is None else check.margin),
    ).id
