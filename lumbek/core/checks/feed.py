"""The feed cables between the origin and the circuit's board, each judged by the device ahead of it."""

from lumbek.core.checks.fault_protection import device_limit, device_name
from lumbek.core.checks.question import Question
from lumbek.core.context import Context
from lumbek.core.feeds import Feed
from lumbek.core.model.circuit import Leg, Segment
from lumbek.core.network.capacity import Capacity, segment_capacity
from lumbek.core.network.expand import hot_loop_ohm
from lumbek.core.numbers import floor_to, plain, show
from lumbek.core.result import Check, Step, judge

QUESTION = Question(
    "feed", "Feed ahead", "Does each feed carry its load and what the device ahead of it lets through?", "overload"
)
FEED_ZS = Question(
    "feed-zs", "Fault loop of the feed", "Does a fault at the end of each feed trip the device ahead in time?", "zs"
)
_NONE = "No feed ahead"


def _capacity(context: Context, feed: Feed) -> Capacity:
    """Return the capacity of a feed: one segment, laid by its own method (BS 7671 Appendix 4)."""
    semi = feed.device is not None and context.rulebook.devices[feed.device.standard].semi_enclosed
    leg = Leg(id="feed", a="origin", b="board", cable=feed.cable, segments=(Segment(method=feed.method),))
    return segment_capacity(
        context.rulebook, context.circuit, leg, 0, semi, loaded=3 if context.supply.phases == 3 else 2
    )


def check_feed(context: Context) -> Check:
    """Ib <= In <= Iz for the feed with the least to spare (433.1.1), currents in A."""
    if not context.feeds:
        return QUESTION.not_applicable(context, _NONE)
    found, missing = [], list[str]()
    for feed in context.feeds:
        capacity = _capacity(context, feed)
        current = context.feed_current_a(feed)
        if feed.device is None:
            missing.append("main fuse of the supply")
        elif capacity.iz_a is None:
            missing.append(f"{feed.title}, {capacity.missing}")
        elif current is None:
            missing.append(f"current of {feed.title}")
        else:
            # What the device cannot carry comes first, then what the cable cannot.
            rating = feed.device.rating_a
            spare = rating - current if current > rating else capacity.iz_a - rating
            found.append((spare / rating, feed, capacity, current))
    if missing:
        return QUESTION.cannot_tell(context, tuple(dict.fromkeys(missing)))
    _, worst, capacity, current = min(found, key=lambda each: each[0])
    assert worst.device is not None
    iz, rating = capacity.iz_a or 0.0, worst.device.rating_a
    overloaded = current > rating
    verdict, margin = judge(current, rating, "at most") if overloaded else judge(iz, rating, "at least")
    name = device_name(context, worst.device)
    return QUESTION.check(
        context,
        verdict,
        f"{show(current, 1)} A through {name}" if overloaded else f"Iz {show(floor_to(iz, 1), 1)} A, behind {name}",
        value=current if overloaded else iz,
        limit=rating,
        sense="at most" if overloaded else "at least",
        unit="A",
        decimals=1,
        margin=margin,
        place=context.whole,
        steps=(
            Step(text=f"{worst.title}: current", sum=f"Ib = {show(current, 1)} A"),
            Step(text=f"{worst.title} is protected by {name}", sum=f"In = {plain(rating)} A"),
            *capacity.steps,
        ),
        caution="" if worst.stated_a is not None else f"{worst.title}: only this circuit's current is counted.",
    )


def check_feed_zs(context: Context) -> Check:
    """Zs at the end of each feed against the device ahead of it, Ω (411.3.2.3, 411.4.4, 411.5.3).

    A feed is a distribution circuit: 5 s in TN. On TT an RCD must stand ahead of it.
    """
    if not context.feeds:
        return FEED_ZS.not_applicable(context, _NONE)
    earthing, origin = context.supply.earthing, context.origin_ze_ohm
    missing = []
    if earthing is None:
        missing.append("earthing system of the supply")
    elif origin is None:
        missing.append("Ze of the supply")
    found, loop = [], 0.0
    for feed in context.feeds:
        ohm = hot_loop_ohm(context.rulebook, feed.cable, feed.length_m)
        if ohm is None:
            missing.append(f"{feed.title}: cable as listed")
        if feed.device is None:
            missing.append("main fuse of the supply")
        if ohm is None or feed.device is None:
            continue
        # Each feed adds its loop to those before it.
        loop += ohm
        limit = device_limit(context, feed.device, earthing, False, feed.rcd)
        if limit is None:
            why = "RCD ahead of it" if earthing == "TT" else f"trip current of {device_name(context, feed.device)}"
            missing.append(f"{feed.title}: {why}")
        else:
            found.append((feed, limit, loop))
    if missing or origin is None:
        return FEED_ZS.cannot_tell(context, tuple(dict.fromkeys(missing)))
    worst, limit, loop = min(found, key=lambda each: (each[1].ohm - origin - each[2]) / each[1].ohm)
    zs = origin + loop
    return FEED_ZS.held(
        context,
        zs,
        limit.ohm,
        "at most",
        f"{show(zs)} Ω, limit {show(floor_to(limit.ohm, 2))} Ω",
        unit="Ω",
        clause=limit.clause,
        place=context.whole,
        steps=(
            Step(
                text=f"Ze at the origin, and the loop to the end of {worst.title}, hot",
                sum=f"{show(origin, 3)} + {show(loop, 3)} = {show(zs, 3)} Ω",
            ),
            *limit.steps,
        ),
    )
