"""Ib <= In <= Iz, in the worst segment of the run."""

from collections.abc import Sequence
from itertools import chain

from lumbek.core.judging.check import Check, Step
from lumbek.core.judging.question import Question
from lumbek.core.model.device import Device
from lumbek.core.model.point import PASSIVE_KINDS, Load, Point
from lumbek.core.numbers import plain, show
from lumbek.core.sizing.capacity import Capacity
from lumbek.core.study.study import Study

LOAD = Question("load", "Load on the device", "Is the design current within the device rating (Ib ≤ In)?", "overload")
FUSES = Question(
    "fuses", "Load on fused spurs", "Do the loads behind each fused spur stay within its fuse?", "fused-spur"
)
CABLE = Question(
    "cable", "Cable capacity", "Does every part of the run carry what its device lets through (In ≤ Iz)?", "capacity"
)


def check_load(study: Study) -> Check:
    """Ib <= In (433.1.1), currents in A."""
    demand = study.currents.demand
    if study.ahead.protection is None:
        return LOAD.cannot_tell(study, ("main fuse of the supply",), clause="switch-ahead")
    rating = study.ahead.protection.rating_a
    if demand is None:
        return LOAD.cannot_tell(study, ("first point that draws a current",))
    return LOAD.held(
        study,
        demand.ib_a,
        rating,
        "at most",
        "Ib {value} A, In {limit} A",
        unit="A",
        decimals=1,
        has_margin=demand.stated,
        place=study.whole,
        steps=demand.steps,
        caution=_unstated(study),
    )


def _unstated(study: Study) -> str:
    """Return what is taken for granted where loads are not stated, or only for some points."""
    if study.currents.demand is None or not study.currents.demand.stated:
        some = any(point.loads for point in study.circuit.points)
        what = "Sockets have no loads stated" if some else "No loads stated"
        return f"{what}; conventional loads are assumed."
    there = (point for point in study.circuit.points if point.id in study.graph.distance)
    silent = [point for point in there if not point.loads and point.kind not in PASSIVE_KINDS]
    # A fixed load that is not stated may well be none; what is plugged in or lit is not.
    if not silent or not (study.standing.sockets or study.standing.lights):
        return ""
    return _none_stated(silent)


def _none_stated(silent: Sequence[Point]) -> str:
    if len(silent) == 1:
        return f"{silent[0].title} has no load stated and counts as none."
    return f"{len(silent)} points have no load stated and count as none: {silent[0].title} first."


def check_fuses(study: Study) -> Check:
    """Stated loads at and behind each fused spur against its fuse, currents in A (433.1.1)."""
    fused = [point for point in study.circuit.points if point.kind == "fused-spur"]
    if not fused:
        return FUSES.not_applicable(study, "No fused spurs")
    if study.phases == 3:
        missing = ("circuit of its own for each fused spur: it takes one line, and three are taken as balanced here",)
        return FUSES.cannot_tell(study, missing)
    carried = {
        fuse.id: sum(
            plug_current_a(study, load)
            for point in study.circuit.points
            if _behind(study, point.id, fuse.id)
            for load in point.loads
        )
        for fuse in fused
    }
    worst = max(fused, key=lambda fuse: carried[fuse.id] / (fuse.fuse_a or 13))
    rating = float(worst.fuse_a or 13)
    return FUSES.held(
        study,
        carried[worst.id],
        rating,
        "at most",
        "{value} A, fuse {limit} A",
        unit="A",
        decimals=1,
        has_margin=bool(carried[worst.id]),
        place=study.point_place(worst.id),
        steps=tuple(Step(text=fuse.title, sum=f"{show(carried[fuse.id])} A stated behind it") for fuse in fused),
        caution="" if carried[worst.id] else f"No load is stated behind {worst.title}.",
    )


def plug_current_a(study: Study, load: Load) -> float:
    """Return what a load draws through a plug's or a unit's fuse, in A: its nameplate power by its nameplate voltage.

    Heating appliances of BS countries are rated at 240 V: 3 kW is 12.5 A.
    """
    if load.power_w is None or load.rated_v is not None:
        return load.design_current_a(study.rulebook.u0_v)
    return load.power_w / (study.rulebook.data.plug.nameplate_v * load.power_factor)


def _behind(study: Study, point_id: str, fuse_id: str) -> bool:
    """Whether a point is fed through this fused spur, or is it, whatever other fuses come after it."""
    legs = study.graph.beyond(fuse_id)
    return point_id == fuse_id or any(leg.id in legs for leg in study.graph.at[point_id])


def needed_iz_a(study: Study, leg_id: str) -> tuple[float, str]:
    """Return what a leg must carry in A, and why: its fuse, the ring's 20 A, or the device's rating."""
    fuse = study.fused.legs.get(leg_id)
    if fuse is not None:
        rating = float(fuse.fuse_a or 13)
        return rating, f"the {plain(rating)} A fuse at {fuse.title}"
    if study.by_ring_rule:
        least = study.rulebook.data.ring.min_iz_a
        return least, f"every part of a ring carries {plain(least)} A"
    device = study.ahead.protection or study.circuit.device
    where = "ahead: the circuit's own switch protects nothing" if study.ahead.behind_switch else "of the device"
    return study.rulebook.needed_iz_a(device), f"{_rated(study, device)} {where}"


def _rated(study: Study, device: Device) -> str:
    """Return what a device asks of its cable: its rating, or of a gG fuse what surely melts it (433.1)."""
    needed, rules = study.rulebook.needed_iz_a(device), study.rulebook.data.capacity
    if needed == device.rating_a:
        return f"In = {plain(needed)} A"
    i2 = needed * rules.fuse_i2_iz
    return f"I2 = {plain(round(i2, 6))} A, so I2 / {plain(rules.fuse_i2_iz)} = {show(needed, 1)} A"


def _no_closed_ring(study: Study) -> list[Step]:
    if not study.standing.ring_outlets or study.shape.is_ring:
        return []
    return [Step(text="The run is not a closed ring, so each part must carry the whole rating")]


def check_cable(study: Study) -> Check:
    """In <= Iz for the segment with the least to spare (433.1.1; 433.1.204 for a ring), currents in A."""
    every = list(chain.from_iterable(study.capacities.values()))
    if not every:
        return CABLE.cannot_tell(study, ("first cable from the board",), clause="overload")
    if study.ahead.protection is None:
        return CABLE.cannot_tell(study, ("main fuse of the supply",), clause="switch-ahead")
    unrated = list(dict.fromkeys(capacity.missing for capacity in every if capacity.iz_a is None))
    if unrated:
        return CABLE.cannot_tell(study, tuple(unrated))

    worst = min(every, key=lambda capacity: (capacity.iz_a or 0.0) / needed_iz_a(study, capacity.leg)[0])
    needed, why = needed_iz_a(study, worst.leg)
    iz = worst.iz_a or 0.0
    steps = [*worst.steps, Step(text="It must carry", sum=why), *_light_to_neighbours(study, worst)]
    if iz < needed:
        steps += _no_closed_ring(study)
    return CABLE.held(
        study,
        iz,
        needed,
        "at least",
        "Iz {value} A, needs {limit} A",
        unit="A",
        decimals=1,
        clause=study.clause(_clause(study, worst.leg)),
        place=study.leg_place(worst.leg, worst.segment),
        steps=tuple(steps),
    )


def _light_to_neighbours(study: Study, capacity: Capacity) -> tuple[Step, ...]:
    """Say where this circuit may be left out of its neighbours' group count: no more than 30 % of It x Cg.

    BS 7671 Appendix 4, 2.3.3; IEC 60364-5-52, B.52.2.1. All neighbours count for this Cg.
    """
    segment = study.legs[capacity.leg].segments[capacity.segment]
    if study.rulebook.data.methods[segment.method or study.circuit.method].medium == "ground":
        return ()
    grouping = study.rulebook.grouping_factor(segment.arrangement, segment.grouped_circuits)
    if segment.grouped_circuits == 1 or grouping is None or study.currents.flow is None:
        return ()
    carried, grouped = abs(study.currents.flow.leg_a[capacity.leg]), capacity.it_a * grouping
    part, light = carried / grouped, study.rulebook.data.capacity.light_part
    verdict = "its neighbours may leave it out of their count" if part <= light else "it counts for its neighbours"
    return (
        Step(
            text=f"Of its grouped rating, {plain(light * 100)} % or less is light: {verdict}",
            sum=f"{show(carried)} A / ({plain(capacity.it_a)} × {plain(grouping)}) A = {show(100 * part, 1)} %",
        ),
    )


def _clause(study: Study, leg_id: str) -> str:
    """Return the clause that decides what this leg must carry."""
    if leg_id in study.fused.legs:
        return "fused-spur"
    if study.ahead.behind_switch:
        return "switch-ahead"
    return "ring" if study.by_ring_rule else "overload"
