"""Does the cpc of each feed ahead, its armour or a core, survive a fault until the device ahead of it clears it?"""

from math import sqrt
from typing import NamedTuple

from lumbek.core.checks.withstand import as_armour, cpc_area_mm2, cpc_area_step, withstand_step
from lumbek.core.judging.check import Check, Step
from lumbek.core.judging.question import Question
from lumbek.core.model.cable import Cable
from lumbek.core.protection.let_through import Energy, let_through
from lumbek.core.protection.who import device_name
from lumbek.core.study.feeds import Feed
from lumbek.core.study.resistance import hot_loop_ohm
from lumbek.core.study.study import Study

QUESTION = Question(
    "feed-withstand",
    "Fault withstand of the feed",
    "Does the cpc of each feed survive a fault until the device ahead clears it?",
    "withstand",
)


def check_feed_withstand(study: Study) -> Check:
    """S >= sqrt(I² t) / k for the cpc of the feed with the least to spare, mm² (434.5.2, 543.1.3).

    Each feed is held to the fault current of the origin; behind a fuse the fault at its far end lasts longest. With
    an electrode at its end the armour still sees a fault of the house.
    """
    if not study.ahead.feeds:
        return QUESTION.not_applicable(study, "No feed ahead")
    if study.supply.earthing == "TT":
        return QUESTION.not_applicable(study, "An electrode keeps earth faults small")
    fault_ka, origin = study.ahead.fault_current_ka, study.ahead.origin_ze_ohm
    if study.supply.fault_current_ka is None or fault_ka is None or origin is None:
        known = study.supply.fault_current_ka is not None
        return QUESTION.cannot_tell(
            study, ("Ze of the supply" if known else "prospective fault current of the supply",)
        )
    found, loop = list[_Found](), 0.0
    for feed in study.ahead.feeds:
        if feed.device is not None and feed.cable.earth_by == "conduit":
            continue
        one = _of_feed(study, feed, fault_ka, origin + loop)
        if isinstance(one, Check):
            return one
        found.append(one)
        loop += one.loop_ohm
    if not found:
        return QUESTION.not_applicable(study, "Conduit is the cpc: steel far beyond what is asked")
    # A finding weighs more than a bound: what fails for certain is shown before what may.
    worst = min(found, key=lambda each: (each.ratio >= 1 or each.energy.bound, each.ratio))
    area, k, energy = worst.area_mm2, worst.k, worst.energy
    if worst.ratio < 1 and energy.bound and worst.feed.device is not None:
        return _ask(study, device_name(study.rulebook, worst.feed.device))
    return QUESTION.held(
        study,
        area,
        sqrt(energy.a2s) / k,
        "at least",
        f"{worst.feed.title}: cpc {{value}} mm², needs {{limit}} mm²",
        unit="mm²",
        place=study.whole,
        steps=(
            Step(text=f"{worst.feed.title}, at the fault current of the origin"),
            cpc_area_step(study, worst.cable, area),
            energy.step,
            withstand_step(energy, k),
        ),
    )


class _Found(NamedTuple):
    """What the cpc of one feed is asked for: its area, k, the energy, and its part of the loop in Ω, hot."""

    feed: Feed
    cable: Cable
    area_mm2: float
    k: float
    energy: Energy
    loop_ohm: float

    @property
    def ratio(self) -> float:
        """What it has by what it needs."""
        return self.area_mm2 * self.k / sqrt(self.energy.a2s)


def _of_feed(study: Study, feed: Feed, fault_ka: float, before_ohm: float) -> _Found | Check:
    """Return what the cpc of a feed is asked for behind a loop of `before_ohm`; an answer where that is not known."""
    if feed.device is None:
        return QUESTION.cannot_tell(study, ("main fuse of the supply",))
    if feed.length_m is None:
        return QUESTION.cannot_tell(study, (f"length of {feed.title}",))
    island = study.circuit.own_earth is not None and feed.cable.type == "armoured"
    cable = as_armour(feed.cable) if island else feed.cable
    ohm, area = hot_loop_ohm(study.rulebook, cable, feed.length_m), cpc_area_mm2(study, cable)
    if area is None or ohm is None or cable.earth_unsaid:
        return QUESTION.cannot_tell(study, (f"cpc of {feed.title}: a core, or the armour",))
    energy = let_through(study.rulebook, feed.device, fault_ka, study.rulebook.u0_v / (before_ohm + ohm))
    if energy is None:
        return _ask(study, device_name(study.rulebook, feed.device))
    return _Found(feed, cable, area, study.rulebook.withstand_k(cable, "E"), energy, ohm)


def _ask(study: Study, device: str) -> Check:
    return QUESTION.cannot_tell(study, (f"let-through energy of {device}, from its maker",))
