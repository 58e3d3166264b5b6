"""The armour of a feed to an outbuilding with an electrode of its own: still earthed at the house, and judged there."""

from lumbek.core.checks.withstand import armoured_legs, as_armour
from lumbek.core.judging.check import Check, Step
from lumbek.core.judging.question import Question
from lumbek.core.model.leg import Leg
from lumbek.core.numbers import plain, show
from lumbek.core.protection.zs_limit import device_limit
from lumbek.core.study.resistance import hot_loop_ohm
from lumbek.core.study.study import Study

QUESTION = Question(
    "armour", "Armour on the house's earth", "Does a fault to the armour trip the device at the house?", "armour"
)


def _hot_ohm(study: Study, leg: Leg) -> float | None:
    """Return line and armour of a leg in series, hot, Ω; None where its length or figure is not known."""
    if leg.length_m is None:
        return None
    return hot_loop_ohm(study.rulebook, as_armour(study.circuit.cable_of(leg)), leg.length_m)


def check_armour(study: Study) -> Check:
    """Zs by line and armour from the house, Ω, in the time of a distribution circuit (411.3.2.3, 411.4.4)."""
    legs = armoured_legs(study)
    if not legs:
        return QUESTION.not_applicable(study, "No armour that stays on another earth")
    earthing, origin, feed = study.supply.earthing, study.ahead.origin_ze_ohm, study.ahead.feed_loop_ohm
    missing = ["earthing system of the supply"] * (earthing is None) + ["Ze of the supply"] * (origin is None)
    ohms = {leg_id: _hot_ohm(study, study.legs[leg_id]) for leg_id in legs}
    missing += [f"length and listed armour of {study.leg_title(leg)}" for leg, ohm in ohms.items() if ohm is None]
    total = sum(filter(None, ohms.values()))
    limit = device_limit(study, study.ahead.protection, earthing, False, ())
    if limit is None:
        missing.append("trip current of the device at the house")
    if missing or limit is None or origin is None:
        return QUESTION.cannot_tell(study, tuple(missing))
    ahead = origin + (feed or 0.0)
    return QUESTION.held(
        study,
        ahead + total,
        limit.ohm,
        "at most",
        "{value} Ω, limit {limit} Ω",
        unit="Ω",
        place=study.leg_place(legs[-1]),
        steps=(
            Step(
                text=f"Ze at the house, and line and armour of {plain(len(legs))} cables, hot",
                sum=f"{show(ahead, 3)} + {show(total, 3)} = {show(ahead + total, 3)} Ω",
            ),
            *limit.steps,
        ),
    )
