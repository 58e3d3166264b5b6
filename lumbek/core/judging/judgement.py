"""The verdict on one circuit: its shape, the figures at every point and leg, and every check."""

from dataclasses import replace

from lumbek.core.checks.arc_fault import check_arc_fault
from lumbek.core.checks.armour import check_armour
from lumbek.core.checks.bath_bonding import check_bath_bonding
from lumbek.core.checks.bath_zones import check_bath_zones
from lumbek.core.checks.breaking import check_breaking
from lumbek.core.checks.charging import check_charging
from lumbek.core.checks.cpc import check_cpc
from lumbek.core.checks.dead_cable import check_dead_cable
from lumbek.core.checks.demand import check_demand
from lumbek.core.checks.drivers import check_drivers
from lumbek.core.checks.fault_protection import check_fault_protection
from lumbek.core.checks.feed import check_feed, check_feed_zs
from lumbek.core.checks.feed_withstand import check_feed_withstand
from lumbek.core.checks.high_leakage import check_high_leakage
from lumbek.core.checks.joints import check_joints
from lumbek.core.checks.lampholders import check_lampholders
from lumbek.core.checks.least_size import check_least_size
from lumbek.core.checks.overload import check_cable, check_fuses, check_load
from lumbek.core.checks.phases import check_phases
from lumbek.core.checks.plugs import check_plugs
from lumbek.core.checks.pme import check_pme
from lumbek.core.checks.rcd import check_rcd
from lumbek.core.checks.rcd_series import check_rcd_series
from lumbek.core.checks.rcd_type import check_leakage, check_rcd_type
from lumbek.core.checks.recorded import as_recorded
from lumbek.core.checks.ring_rule import check_ring_current, check_ring_rule
from lumbek.core.checks.separate_ways import check_separate_ways
from lumbek.core.checks.shape import check_shape
from lumbek.core.checks.sources import check_sources
from lumbek.core.checks.spurs import check_spurs
from lumbek.core.checks.switches import check_switches
from lumbek.core.checks.switching import check_switching
from lumbek.core.checks.usual import check_usual
from lumbek.core.checks.volt_drop import check_volt_drop
from lumbek.core.checks.withstand import check_withstand
from lumbek.core.judging.check import overall
from lumbek.core.judging.circuit_figures import leg_figures, point_figures, ring_figures
from lumbek.core.judging.over_feeds import at_both_ends, over_feeds
from lumbek.core.judging.verdict import CircuitResult, over_range, tightest
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.supply import Supply
from lumbek.core.rulebooks import Rulebook
from lumbek.core.study.door import Studied, study_of
from lumbek.core.study.read import Read
from lumbek.core.study.study import Study

CHECKS = (
    check_shape,
    check_separate_ways,
    check_phases,
    check_load,
    check_demand,
    check_fuses,
    check_plugs,
    check_cable,
    check_least_size,
    check_lampholders,
    check_switches,
    check_switching,
    check_ring_rule,
    check_ring_current,
    check_spurs,
    check_volt_drop,
    check_cpc,
    check_fault_protection,
    check_withstand,
    check_rcd,
    check_rcd_type,
    check_rcd_series,
    check_leakage,
    check_high_leakage,
    check_joints,
    check_drivers,
    check_dead_cable,
    check_arc_fault,
    check_bath_zones,
    check_bath_bonding,
    check_breaking,
    check_feed,
    check_feed_zs,
    check_feed_withstand,
    check_armour,
    check_charging,
    check_sources,
    check_pme,
    check_usual,
)


def judge_circuit(rulebook: Rulebook, supply: Supply, circuit: Circuit, read: Read | None = None) -> CircuitResult:
    """Return every figure and check of a circuit, by what was read of it too.

    Never raises for a circuit that its model accepts.
    """
    return judge_studied(study_of(rulebook, supply, circuit, read=read))


def judge_studied(studied: Studied) -> CircuitResult:
    """Return every figure and check of a circuit to whatever extent its lengths are known.

    Where lengths are only known within a range, each check holds over the whole range or says that it cannot tell;
    figures are those of the greatest lengths, and a check that is worst at others says at which. So it is with the
    lengths of feeds ahead.
    """
    circuit = studied.lengths.circuit
    worst, *ends = (_at_feeds(studied, each) for each in (circuit, *at_both_ends(circuit)))
    return over_feeds(circuit, worst, ends) if ends else worst


def _at_feeds(studied: Studied, circuit: Circuit) -> CircuitResult:
    """Return every figure and check of a circuit over its own lengths, the feeds ahead as they are said in it."""
    lengths = studied.lengths
    if circuit is not lengths.circuit:
        studied = replace(studied, lengths=replace(lengths, circuit=circuit))
    return over_range(studied, [_judge(study) for study in studied.variants])


def _judge(study: Study) -> CircuitResult:
    """Return every figure and check of a circuit whose lengths are settled."""
    checks = tuple(as_recorded(study, check(study)) for check in CHECKS)
    return CircuitResult(
        rulebook=study.rulebook.id,
        edition=study.rulebook.data.edition,
        verdict=overall(checks),
        shape=study.shape,
        ib_a=study.currents.demand.ib_a if study.currents.demand else None,
        loads_stated=study.currents.demand is not None and study.currents.demand.stated,
        ring=ring_figures(study),
        points=tuple(point_figures(study, point.id) for point in study.circuit.points),
        legs=tuple(leg_figures(study, leg) for leg in study.circuit.legs),
        checks=checks,
        tightest=tightest(checks),
    )
