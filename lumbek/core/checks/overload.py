"""Ib <= In <= Iz, in the worst segment of the run."""

from lumbek.core.checks.build import cannot_tell
from lumbek.core.context import Context
from lumbek.core.network.capacity import Capacity
from lumbek.core.numbers import floor_to, plain, show
from lumbek.core.result import Check, Step, Verdict, judge

TITLE_LOAD, ASKS_LOAD = "Load on the device", "Is the design current within the device rating (Ib ≤ In)?"
TITLE_CABLE, ASKS_CABLE = (
    "Cable capacity",
    "Does every part of the run carry what its device lets through (In ≤ Iz)?",
)


def check_load(context: Context) -> Check:
    """Ib <= In (433.1.1), currents in A."""
    demand = context.demand
    if context.protection is None:
        return cannot_tell(context, "load", TITLE_LOAD, ASKS_LOAD, "switch-ahead", ("main fuse of the supply",))
    rating = context.protection.rating_a
    if demand is None:
        return cannot_tell(context, "load", TITLE_LOAD, ASKS_LOAD, "overload", ("first point that draws a current",))
    verdict, margin = judge(demand.ib_a, rating, "at most")
    return Check(
        id="load",
        title=TITLE_LOAD,
        asks=ASKS_LOAD,
        verdict=verdict,
        answer=f"Ib {show(demand.ib_a, 1)} A, In {plain(rating)} A",
        value=demand.ib_a,
        limit=rating,
        sense="at most",
        unit="A",
        decimals=1,
        margin=margin if demand.stated else None,
        clause=context.clause("overload"),
        place=context.whole,
        steps=demand.steps,
        caution="" if demand.stated else "No loads stated; conventional loads are assumed.",
    )


def needed_iz_a(context: Context, leg_id: str) -> tuple[float, str]:
    """Return what a leg must carry in A, and why: its fuse, the ring's 20 A, or the device's rating."""
    fuse = context.fused.get(leg_id)
    if fuse is not None:
        rating = float(fuse.fuse_a or 13)
        return rating, f"the {plain(rating)} A fuse at {fuse.title}"
    ring = context.rulebook.data.ring
    if context.is_socket_ring and context.circuit.device.rating_a in ring.ratings_a:
        return ring.min_iz_a, f"every part of a ring carries {plain(ring.min_iz_a)} A"
    device = context.protection or context.circuit.device
    where = "ahead: the circuit's own switch protects nothing" if context.behind_switch else "of the device"
    return device.rating_a, f"In = {plain(device.rating_a)} A {where}"


def check_cable(context: Context) -> Check:
    """In <= Iz for the segment with the least to spare (433.1.1; 433.1.204 for a ring), currents in A."""
    every = [capacity for each in context.capacities.values() for capacity in each]
    if not every:
        return cannot_tell(context, "cable", TITLE_CABLE, ASKS_CABLE, "overload", ("first leg from the board",))
    if context.protection is None:
        return cannot_tell(context, "cable", TITLE_CABLE, ASKS_CABLE, "switch-ahead", ("main fuse of the supply",))
    unrated = list(dict.fromkeys(capacity.missing for capacity in every if capacity.iz_a is None))
    if unrated:
        return cannot_tell(context, "cable", TITLE_CABLE, ASKS_CABLE, "capacity", tuple(unrated))

    def spare(capacity: Capacity) -> float:
        needed, _ = needed_iz_a(context, capacity.leg)
        return ((capacity.iz_a or 0.0) - needed) / needed

    worst = min(every, key=spare)
    needed, why = needed_iz_a(context, worst.leg)
    iz = worst.iz_a or 0.0
    verdict, margin = judge(iz, needed, "at least")
    steps = [*worst.steps, Step(text="It must carry", sum=why)]
    if verdict is Verdict.FAIL and context.group == "sockets" and not context.shape.is_ring:
        steps.append(Step(text="The run is not a closed ring, so each part must carry the whole rating"))
    return Check(
        id="cable",
        title=TITLE_CABLE,
        asks=ASKS_CABLE,
        verdict=verdict,
        answer=f"Iz {show(floor_to(iz, 1), 1)} A, needs {plain(needed)} A",
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


def _clause(context: Context, leg_id: str) -> str:
    """Return the clause that decides what this leg must carry."""
    if leg_id in context.fused:
        return "fused-spur"
    if context.behind_switch:
        return "switch-ahead"
    return "ring" if context.is_socket_ring else "overload"
