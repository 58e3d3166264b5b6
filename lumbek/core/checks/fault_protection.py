"""Zs at every point against what lets its device disconnect in time."""

from lumbek.core.checks.cpc import earthless
from lumbek.core.checks.drawn_or_read import by_either, wanted
from lumbek.core.checks.loop_at_once import loop_at_once, nothing_disconnects
from lumbek.core.checks.loop_by_evidence import loop_by_evidence
from lumbek.core.checks.loop_limits import ONLY_RCD, UNKNOWN_RCD, as_a_feed, limit_at, rcd_may_serve
from lumbek.core.checks.loop_outside import of_assumed_ze, outside_steps
from lumbek.core.checks.loop_working import loop_steps
from lumbek.core.judging.check import Check, Place, Step, Verdict, hold
from lumbek.core.judging.graver import OPEN_LOOP
from lumbek.core.judging.question import Question
from lumbek.core.network.flows import is_open
from lumbek.core.numbers import plain, show
from lumbek.core.protection.zs_limit import ZsLimit, rcd_instead
from lumbek.core.study.ahead import ELECTRODE, OWN_ELECTRODE
from lumbek.core.study.feeds import wanted_of
from lumbek.core.study.resistance import hot_loop_ohm
from lumbek.core.study.study import Study

QUESTION = Question("zs", "Fault loop Zs", "Does an earth fault at the worst point trip the device in time?", "zs")


def check_fault_protection(study: Study) -> Check:
    """Zs = Ze + (R1 + R2) hot, at the point with the least to spare, in Ω (411.4.4, 411.5.3).

    What is sure whatever the lengths are comes first. By what was read where lengths are not drawn; where they are,
    what was read decides if it says otherwise.
    """
    at_once = loop_at_once(study, QUESTION)
    if at_once is not None:
        return at_once
    outside = _missing_outside(study)
    found = None if outside else loop_by_evidence(study, QUESTION)
    return by_either(study, found, lambda: _as_drawn(study, outside))


def _as_drawn(study: Study, outside: tuple[str, ...]) -> Check:
    """Return Zs by the drawing.

    In TN an RCD may be what disconnects where the loop is too high for the overcurrent device (411.4.204). Points
    that no cpc comes to are judged by `cpc`.
    """
    missing = (*wanted(study), *outside)
    hot, ze, cold = study.wires.hot_joined_ohm, study.ahead.ze_ohm, study.wires.cold
    if missing or hot is None or ze is None or cold is None:
        return QUESTION.cannot_tell(study, missing)
    bare = {point.id for point in earthless(study)}
    hot = {point: ohm for point, ohm in hot.items() if point not in bare}
    if not hot:
        return QUESTION.not_applicable(study, "No cpc comes to any point")
    limits = {point: limit_at(study, point) for point in hot}
    unlimited = next((point for point, limit in limits.items() if limit is None), None)
    if unlimited is not None:
        return nothing_disconnects(study, QUESTION, unlimited)

    def spare(point: str) -> float:
        limit = limits[point]
        return round((limit.ohm - ze - hot[point]) / limit.ohm, 9) if limit else 0.0

    worst = min(hot, key=spare)
    limit = limits[worst]
    assert limit is not None
    place = study.point_place(worst)
    if is_open(ze + hot[worst]):
        return _open_loop(study, place, limit)
    found = _held(study, worst, ze, ze + hot[worst], limit)
    electrode = study.ahead.unmeasured_electrode
    if electrode is not None and found.verdict is Verdict.PASS:
        return QUESTION.cannot_tell(study, (electrode,), clause="zs-tt", place=place, steps=found.steps)
    return found


def _held(study: Study, worst: str, ze: float, zs: float, limit: ZsLimit) -> Check:
    """Hold the loop of the worst point to its limit; over it, to that of an RCD that may serve instead."""
    place, cautions = study.point_place(worst), _cautions(study, ze, limit)
    steps: tuple[Step, ...] = ()
    if not limit.by_rcd and hold(zs, limit.ohm, "at most")[0] is Verdict.FAIL:
        longer, instead = as_a_feed(study, worst, zs), rcd_instead(study)
        serves = instead is not None and hold(zs, instead.ohm, "at most")[0] is Verdict.PASS
        unsure = (longer,) if longer is not None else UNKNOWN_RCD if not serves and rcd_may_serve(study) else ()
        if unsure:
            working = (*_steps(study, worst, ze), *limit.steps)
            return QUESTION.cannot_tell(study, unsure, place=place, steps=working)
        if instead is not None and serves:
            steps, limit = limit.steps, instead
            cautions.append(ONLY_RCD)
    return QUESTION.held(
        study,
        zs,
        limit.ohm,
        "at most",
        "{value} Ω, limit {limit} Ω",
        unit="Ω",
        decimals=2,
        clause=limit.clause,
        place=place,
        steps=(*_steps(study, worst, ze), *steps, *limit.steps),
        caution=" ".join(cautions),
    )


def _cautions(study: Study, ze: float, limit: ZsLimit) -> list[str]:
    """Return what the answer rests on that is not measured, not known or may not last."""
    cautions = of_assumed_ze(study)
    stable = study.rulebook.data.supply.tt_stable_ohm
    if limit.by_rcd and study.ahead.earthing != "TT":
        cautions.append("No figure for the overcurrent device: only the RCD is known to disconnect.")
    elif limit.by_rcd and ze > stable:
        cautions.append(f"An electrode over {plain(stable)} Ω may not stay stable.")
    return cautions


def _steps(study: Study, point: str, ze: float) -> tuple[Step, ...]:
    """Write out Zs at a point."""
    cold, hot = study.wires.cold, study.wires.hot_joined_ohm
    assert cold is not None
    assert hot is not None
    ohm, zs = cold.joined_ohm[point], ze + hot[point]
    factor = hot[point] / ohm
    return (
        *outside_steps(study),
        *loop_steps(study, point),
        Step(
            text=f"R1 + R2 at 20 °C, from the network, at {study.circuit.point_title(point)}",
            sum=f"{show(ohm, 3)} Ω",
        ),
        Step(
            text="Zs = Ze + (R1 + R2) × temperature",
            sum=f"{show(ze, 3)} + {show(ohm, 3)} × {show(factor)} = {show(zs, 3)} Ω",
        ),
    )


def _missing_outside(study: Study) -> tuple[str, ...]:
    """Return what is missing beside the conductors of the circuit."""
    missing = []
    if study.shape.kind == "empty":
        missing.append("first cable from the board")
    if study.ahead.protection is None:
        missing.append("main fuse of the supply")
    if study.ahead.earthing is None:
        missing.append("earthing system of the supply")
    elif study.ahead.ze_ohm is None:
        missing += _of_the_loop_outside(study)
    return tuple(missing)


def _of_the_loop_outside(study: Study) -> list[str]:
    """Return what the loop outside wants: the electrode, Ze, or the feed whose loop cannot be told."""
    if study.circuit.own_earth is None and study.ahead.origin_ze_ohm is not None:
        return [
            wanted_of(feed)
            for feed in study.ahead.feeds
            if hot_loop_ohm(study.rulebook, feed.cable, feed.length_m) is None
        ]
    if study.circuit.own_earth is not None:
        return [OWN_ELECTRODE]
    return [ELECTRODE if study.ahead.earthing == "TT" else "Ze of the supply"]


def _line_is_open(study: Study, point: str) -> bool:
    """Whether it is the line that does not reach a point, and not its cpc."""
    cold = study.wires.cold
    return cold is not None and is_open(cold.r1_ohm.get(point, 0.0))


def _open_loop(study: Study, place: Place, limit: ZsLimit) -> Check:
    return QUESTION.check(
        study,
        Verdict.FAIL,
        OPEN_LOOP + ("the line does not reach it" if _line_is_open(study, place.id) else "no way back to earth"),
        clause=limit.clause,
        place=place,
        steps=(Step(text="Line or cpc is broken on every way to the board"),),
    )
