"""The feed cables between the origin and the circuit's board, each judged by the device ahead of it."""

from lumbek.core.checks.loop_outside import of_assumed_origin
from lumbek.core.checks.withstand import as_armour
from lumbek.core.judging.check import Check, Step, Verdict, hold
from lumbek.core.judging.question import Question
from lumbek.core.model.cable import Cable
from lumbek.core.model.leg import Leg, Segment
from lumbek.core.numbers import plain, show
from lumbek.core.protection.who import device_name
from lumbek.core.protection.zs_limit import device_limit
from lumbek.core.sizing.capacity import Capacity, segment_capacity
from lumbek.core.study.ahead import ELECTRODE
from lumbek.core.study.feeds import Feed, wanted_of
from lumbek.core.study.resistance import hot_loop_ohm
from lumbek.core.study.study import Study

QUESTION = Question(
    "feed", "Feed ahead", "Does each feed carry its load and what the device ahead of it lets through?", "overload"
)
FEED_ZS = Question(
    "feed-zs", "Fault loop of the feed", "Does a fault at the end of each feed trip the device ahead in time?", "zs"
)
_NONE = "No feed ahead"


def _capacity(study: Study, feed: Feed) -> Capacity:
    """Return the capacity of a feed: one segment, laid by its own method (BS 7671 Appendix 4)."""
    semi = feed.device is not None and study.rulebook.devices[feed.device.standard].semi_enclosed
    leg = Leg(id="feed", a="origin", b="board", cable=feed.cable, segments=(Segment(method=feed.method),))
    return segment_capacity(study.rulebook, study.circuit, leg, 0, semi, loaded=3 if study.supply.phases == 3 else 2)


def check_feed(study: Study) -> Check:
    """Ib <= In <= Iz for the feed with the least to spare (433.1.1), currents in A.

    What is stated for a feed is no less than what this circuit alone draws through it.
    """
    if not study.ahead.feeds:
        return QUESTION.not_applicable(study, _NONE)
    found, missing = [], list[str]()
    own_a = study.currents.demand.ib_a if study.currents.demand else 0.0
    for feed in study.ahead.feeds:
        capacity = _capacity(study, feed)
        current = study.currents.of_feed_a(feed)
        if feed.stated_a is not None and hold(own_a, feed.stated_a, "at most")[0] is Verdict.FAIL:
            return QUESTION.held(
                study,
                own_a,
                feed.stated_a,
                "at most",
                f"{feed.title}: stated {{limit}} A, and this circuit alone draws {{value}} A",
                unit="A",
                decimals=1,
                place=study.whole,
                steps=(Step(text="Ib of this circuit", sum=f"{show(own_a, 1)} A"),),
            )
        if feed.device is None:
            missing.append("main fuse of the supply")
        elif capacity.iz_a is None:
            missing.append(f"{feed.title}, {capacity.missing}")
        elif current is None:
            missing.append(f"current of {feed.title}")
        else:
            # What the device cannot carry comes first, then what the cable cannot.
            rating, needed = feed.device.rating_a, study.rulebook.needed_iz_a(feed.device)
            spare = rating - current if current > rating else capacity.iz_a - needed
            found.append((spare / rating, feed, capacity, current))
    if missing:
        return QUESTION.cannot_tell(study, tuple(dict.fromkeys(missing)))
    _, worst, capacity, current = min(found, key=lambda each: each[0])
    assert worst.device is not None
    iz, rating = capacity.iz_a or 0.0, worst.device.rating_a
    overloaded = current > rating
    name = device_name(study.rulebook, worst.device)
    return QUESTION.held(
        study,
        current if overloaded else iz,
        rating if overloaded else study.rulebook.needed_iz_a(worst.device),
        "at most" if overloaded else "at least",
        f"{{value}} A through {name}" if overloaded else f"Iz {{value}} A, behind {name}",
        unit="A",
        decimals=1,
        place=study.whole,
        steps=(
            Step(text=f"{worst.title}: current", sum=f"Ib = {show(current, 1)} A"),
            Step(text=f"{worst.title} is protected by {name}", sum=f"In = {plain(rating)} A"),
            *capacity.steps,
        ),
        caution="" if worst.stated_a is not None else f"{worst.title}: only this circuit's current is counted.",
    )


def earthed_at_origin(study: Study, cable: Cable) -> Cable:
    """Return a feed as a fault at the origin's earth sees it: its armour, where an electrode takes over at its end.

    Whatever its cores are for, the armour is metal that is touched, and stays on the house's earth.
    """
    parted = study.circuit.own_earth is not None and cable.type == "armoured"
    return as_armour(cable) if parted else cable


def _is_metal(feed: Feed) -> bool:
    """Whether a fault may make the outside of a feed live."""
    return feed.cable.type == "armoured" or feed.cable.earth_by == "conduit"


def check_feed_zs(study: Study) -> Check:
    """Zs at the end of each feed against the device ahead of it, Ω (411.3.2.3, 411.4.4, 411.5.3).

    A feed is a distribution circuit: 5 s in TN. On TT an RCD must stand ahead of it: one of metal without fails at any
    length, one that has none may be as good as class II as far as the next RCD (531.3.5.3.2), which nobody has said.
    """
    if not study.ahead.feeds:
        return FEED_ZS.not_applicable(study, _NONE)
    return _metal_without_rcd(study) or _by_its_loop(study)


def _metal_without_rcd(study: Study) -> Check | None:
    """Return that metal of a feed stays live on TT, where no RCD is ahead of it; None where that is not sure."""
    if study.supply.earthing != "TT":
        return None
    bare = (each.title for each in study.ahead.feeds if each.rcd is None and not each.rcd_unsaid and _is_metal(each))
    title = next(bare, None)
    if title is None:
        return None
    words = f"TT, and no RCD ahead of {title}: after a fault its metal stays live"
    return FEED_ZS.check(study, Verdict.FAIL, words, clause=study.clause("zs-tt"), place=study.whole)


def _by_its_loop(study: Study) -> Check:
    """Hold the loop at the end of each feed to what the device ahead of it needs."""
    earthing, origin = study.supply.earthing, study.ahead.origin_ze_ohm
    missing = []
    if earthing is None:
        missing.append("earthing system of the supply")
    elif origin is None:
        missing.append("Ze of the supply")
    found, loop = [], 0.0
    for feed in study.ahead.feeds:
        ohm = hot_loop_ohm(study.rulebook, earthed_at_origin(study, feed.cable), feed.length_m)
        if ohm is None:
            missing.append(wanted_of(feed))
        if feed.device is None:
            missing.append("main fuse of the supply")
        if ohm is None or feed.device is None:
            continue
        # Each feed adds its loop to those before it.
        loop += ohm
        limit = device_limit(study, feed.device, earthing, False, [feed.rcd] if feed.rcd else [])
        if limit is None:
            why = (
                "RCD ahead of it" if earthing == "TT" else f"trip current of {device_name(study.rulebook, feed.device)}"
            )
            missing.append(f"{feed.title}: {why}")
        else:
            found.append((feed, limit, loop))
    if missing or origin is None:
        return FEED_ZS.cannot_tell(study, tuple(dict.fromkeys(missing)))
    worst, limit, loop = min(found, key=lambda each: (each[1].ohm - origin - each[2]) / each[1].ohm)
    zs = origin + loop
    step = Step(
        text=f"Ze at the origin, and the loop to the end of {worst.title}, hot",
        sum=f"{show(origin, 3)} + {show(loop, 3)} = {show(zs, 3)} Ω",
    )
    steps = (step, *limit.steps)
    if study.ahead.origin_unmeasured and hold(zs, limit.ohm, "at most")[0] is Verdict.PASS:
        wanted = (ELECTRODE,)
        return FEED_ZS.cannot_tell(study, wanted, clause="zs-tt", place=study.whole, steps=steps)
    return FEED_ZS.held(
        study,
        zs,
        limit.ohm,
        "at most",
        "{value} Ω, limit {limit} Ω",
        unit="Ω",
        clause=limit.clause,
        place=study.whole,
        steps=steps,
        caution=" ".join(of_assumed_origin(study)),
    )
