"""Does the cpc of each feed ahead, its armour or a core, survive a fault until the device ahead of it clears it?"""

from math import sqrt

from lumbek.core.checks.withstand import as_armour, cpc_area_mm2, cpc_area_step, withstand_step
from lumbek.core.protection.let_through import let_through
from lumbek.core.protection.who import device_name
from lumbek.core.question import Question
from lumbek.core.result import Check, Step
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
    found, loop = [], 0.0
    for feed in study.ahead.feeds:
        island = study.circuit.own_earth is not None and feed.cable.type == "armoured"
        cable = as_armour(feed.cable) if island else feed.cable
        ohm = hot_loop_ohm(study.rulebook, cable, feed.length_m)
        if feed.device is None:
            return QUESTION.cannot_tell(study, ("main fuse of the supply",))
        if cable.earth_by == "conduit":
            continue
        if feed.length_m is None:
            return QUESTION.cannot_tell(study, (f"length of {feed.title}",))
        area = cpc_area_mm2(study, cable)
        if area is None or ohm is None or cable.earth_unsaid:
            return QUESTION.cannot_tell(study, (f"cpc of {feed.title}: a core, or the armour",))
        loop += ohm
        energy = let_through(study.rulebook, feed.device, fault_ka, study.rulebook.u0_v / (origin + loop))
        if energy is None:
            return _ask(study, device_name(study.rulebook, feed.device))
        k = study.rulebook.withstand_k(cable, "E")
        found.append((area * k / sqrt(energy.a2s), feed, cable, area, k, energy))
    if not found:
        return QUESTION.not_applicable(study, "Conduit is the cpc: steel far beyond what is asked")
    ratio, worst, cable, area, k, energy = min(found, key=lambda each: (each[0] >= 1 or each[5].bound, each[0]))
    if ratio < 1 and energy.bound and worst.device is not None:
        return _ask(study, device_name(study.rulebook, worst.device))
    return QUESTION.held(
        study,
        area,
        sqrt(energy.a2s) / k,
        "at least",
        f"{worst.title}: cpc {{value}} mm², needs {{limit}} mm²",
        unit="mm²",
        place=study.whole,
        steps=(
            Step(text=f"{worst.title}, at the fault current of the origin"),
            cpc_area_step(study, cable, area),
            energy.step,
            withstand_step(energy, k),
        ),
    )


def _ask(study: Study, device: str) -> Check:
    return QUESTION.cannot_tell(study, (f"let-through energy of {device}, from its maker",))
