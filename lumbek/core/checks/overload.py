"""Ib <= In <= Iz, in the worst segment of the run."""

from lumbek.core.checks.question import Question
from lumbek.core.context import Context
from lumbek.core.model.circuit import PASSIVE_KINDS
from lumbek.core.network.capacity import Capacity
from lumbek.core.numbers import floor_to, plain, show
from lumbek.core.result import Check, Step, Verdict, judge

# Of its grouped rating; a cable that carries no more is left out of the group.
LIGHT_PART = 0.3
LOAD = Question("load", "Load on the device", "Is the design current within the device rating (Ib ≤ In)?", "overload")
FUSES = Question(
    "fuses", "Load on fused spurs", "Do the loads behind each fused spur stay within its fuse?", "fused-spur"
)
CABLE = Question(
    "cable", "Cable capacity", "Does every part of the run carry what its device lets through (In ≤ Iz)?", "capacity"
)


def check_load(context: Context) -> Check:
    """Ib <= In (433.1.1), currents in A."""
    demand = context.demand
    if context.protection is None:
        return LOAD.cannot_tell(context, ("main fuse of the supply",), clause="switch-ahead")
    rating = context.protection.rating_a
    if demand is None:
        return LOAD.cannot_tell(context, ("first point that draws a current",))
    verdict, margin = judge(demand.ib_a, rating, "at most")
    return LOAD.check(
        context,
        verdict,
        f"Ib {show(demand.ib_a, 1)} A, In {plain(rating)} A",
        value=demand.ib_a,
        limit=rating,
        sense="at most",
        unit="A",
        decimals=1,
        margin=margin if demand.stated else None,
        place=context.whole,
        steps=demand.steps,
        caution=_unstated(context),
    )


def _unstated(context: Context) -> str:
    """Return what is taken for granted where loads are not stated, or only for some points."""
    if context.demand is None or not context.demand.stated:
        return "No loads stated; conventional loads are assumed."
    silent = [
        point
        for point in context.circuit.points
        if point.id in context.graph.distance and not point.loads and point.kind not in PASSIVE_KINDS
    ]
    if not silent or context.group not in ("sockets", "lighting"):
        return ""
    return f"{len(silent)} points have no load stated and count as none: {silent[0].title} first."


def check_fuses(context: Context) -> Check:
    """Stated loads at and behind each fused spur against its fuse, currents in A (433.1.1)."""
    fused = [point for point in context.circuit.points if point.kind == "fused-spur"]
    if not fused:
        return FUSES.not_applicable(context, "No fused spurs")
    if context.phases == 3:
        missing = ("circuit of its own for each fused spur: it takes one line, and three are taken as balanced here",)
        return FUSES.cannot_tell(context, missing)
    carried = {
        fuse.id: sum(
            load.design_current_a(context.rulebook.u0_v)
            for point in context.circuit.points
            if point.id == fuse.id or _behind(context, point.id, fuse.id)
            for load in point.loads
        )
        for fuse in fused
    }
    worst = max(fused, key=lambda fuse: carried[fuse.id] / (fuse.fuse_a or 13))
    rating = float(worst.fuse_a or 13)
    verdict, margin = judge(carried[worst.id], rating, "at most")
    return FUSES.check(
        context,
        verdict,
        f"{show(carried[worst.id], 1)} A, fuse {plain(rating)} A",
        value=carried[worst.id],
        limit=rating,
        sense="at most",
        unit="A",
        decimals=1,
        margin=margin if carried[worst.id] else None,
        place=context.point_place(worst.id),
        steps=tuple(Step(text=fuse.title, sum=f"{show(carried[fuse.id])} A stated behind it") for fuse in fused),
        caution="" if carried[worst.id] else f"No load is stated behind {worst.title}.",
    )


def _behind(context: Context, point_id: str, fuse_id: str) -> bool:
    """Whether a point is fed through this fused spur, whatever other fuses come after it."""
    legs = context.graph.beyond(fuse_id)
    return point_id != fuse_id and any(leg.id in legs for leg in context.graph.at[point_id])


def needed_iz_a(context: Context, leg_id: str) -> tuple[float, str]:
    """Return what a leg must carry in A, and why: its fuse, the ring's 20 A, or the device's rating."""
    fuse = context.fused.get(leg_id)
    if fuse is not None:
        rating = float(fuse.fuse_a or 13)
        return rating, f"the {plain(rating)} A fuse at {fuse.title}"
    if context.by_ring_rule:
        least = context.rulebook.data.ring.min_iz_a
        return least, f"every part of a ring carries {plain(least)} A"
    device = context.protection or context.circuit.device
    where = "ahead: the circuit's own switch protects nothing" if context.behind_switch else "of the device"
    return device.rating_a, f"In = {plain(device.rating_a)} A {where}"


def check_cable(context: Context) -> Check:
    """In <= Iz for the segment with the least to spare (433.1.1; 433.1.204 for a ring), currents in A."""
    every = [capacity for each in context.capacities.values() for capacity in each]
    if not every:
        return CABLE.cannot_tell(context, ("first leg from the board",), clause="overload")
    if context.protection is None:
        return CABLE.cannot_tell(context, ("main fuse of the supply",), clause="switch-ahead")
    unrated = list(dict.fromkeys(capacity.missing for capacity in every if capacity.iz_a is None))
    if unrated:
        return CABLE.cannot_tell(context, tuple(unrated))

    def spare(capacity: Capacity) -> float:
        needed, _ = needed_iz_a(context, capacity.leg)
        return ((capacity.iz_a or 0.0) - needed) / needed

    worst = min(every, key=spare)
    needed, why = needed_iz_a(context, worst.leg)
    iz = worst.iz_a or 0.0
    verdict, margin = judge(iz, needed, "at least")
    steps = [*worst.steps, Step(text="It must carry", sum=why), *_light_to_neighbours(context, worst)]
    if verdict is Verdict.FAIL and context.group == "sockets" and not context.shape.is_ring:
        steps.append(Step(text="The run is not a closed ring, so each part must carry the whole rating"))
    return CABLE.check(
        context,
        verdict,
        f"Iz {show(floor_to(iz, 1), 1)} A, needs {plain(needed)} A",
        value=iz,
        limit=needed,
        sense="at least",
        unit="A",
        decimals=1,
        margin=margin,
        clause=context.clause(_clause(context, worst.leg)),
        place=context.leg_place(worst.leg, worst.segment),
        steps=tuple(steps),
    )


def _light_to_neighbours(context: Context, capacity: Capacity) -> tuple[Step, ...]:
    """Say where this circuit may be left out of its neighbours' group count: no more than 30 % of It x Cg.

    BS 7671 Appendix 4, 2.3.3; IEC 60364-5-52, B.52.2.1. All neighbours count for this Cg.
    """
    segment = context.graph.legs[capacity.leg].segments[capacity.segment]
    grouping = context.rulebook.grouping_factor(segment.arrangement, segment.grouped_circuits)
    if segment.grouped_circuits == 1 or grouping is None or context.flow is None:
        return ()
    carried, grouped = abs(context.flow.leg_a[capacity.leg]), capacity.it_a * grouping
    part = carried / grouped
    verdict = "its neighbours may leave it out of their count" if part <= LIGHT_PART else "it counts for its neighbours"
    return (
        Step(
            text=f"Of its grouped rating, {plain(LIGHT_PART * 100)} % or less is light: {verdict}",
            sum=f"{show(carried)} A / ({plain(capacity.it_a)} × {plain(grouping)}) A = {show(100 * part, 1)} %",
        ),
    )


def _clause(context: Context, leg_id: str) -> str:
    """Return the clause that decides what this leg must carry."""
    if leg_id in context.fused:
        return "fused-spur"
    if context.behind_switch:
        return "switch-ahead"
    return "ring" if context.is_socket_ring else "overload"
