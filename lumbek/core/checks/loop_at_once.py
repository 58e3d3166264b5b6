"""What of a fault loop is sure before any length of it is known: that nothing disconnects, or that Ze alone is over."""

from lumbek.core.checks.cpc import earthless
from lumbek.core.checks.drawn_or_read import wanted
from lumbek.core.checks.loop_limits import as_a_feed, limit_at, rcd_may_serve
from lumbek.core.judging.check import Check, Step, Verdict, hold
from lumbek.core.judging.question import Question
from lumbek.core.numbers import show
from lumbek.core.protection.zs_limit import rcd_instead
from lumbek.core.study.residual import UNSAID
from lumbek.core.study.study import Study


def loop_at_once(study: Study, question: Question) -> Check | None:
    """Return what is sure of Zs whatever the cables are long; None where that matters (411.4.4, 411.5.2)."""
    bare = {point.id for point in earthless(study)}
    points = [point for point in study.asked_points if point not in bare]
    if study.ahead.earthing == "TT":
        unlimited = next((point for point in points if limit_at(study, point) is None), None)
        return None if unlimited is None else nothing_disconnects(study, question, unlimited)
    return _by_ze_alone(study, question, points)


def nothing_disconnects(study: Study, question: Question, point: str) -> Check:
    """Return what it means that nothing in the tables disconnects a point in time."""
    if study.ahead.earthing == "TT":
        return _without_rcd(study, question, point)
    return question.check(
        study,
        Verdict.CANNOT_TELL,
        "This device is not in the tables",
        clause=study.clause("zs"),
        place=study.point_place(point),
        steps=(Step(text="No published figure for this device and disconnection time: use its maker's"),),
        missing=("trip current of the device",),
    )


def _without_rcd(study: Study, question: Question, point: str) -> Check:
    """Return that no RCD is known on TT: a failure, unless there may be one."""
    unknown = bool(study.rcds)
    return question.check(
        study,
        Verdict.CANNOT_TELL if unknown else Verdict.FAIL,
        "Needs the RCD" if unknown else "TT without an RCD",
        clause=study.clause("zs-tt"),
        place=study.point_place(point),
        steps=(Step(text="On a TT supply the loop is too high for an overcurrent device: fit an RCD"),),
        missing=(UNSAID, *wanted(study)) if unknown else (),
    )


def _least_outside_ohm(study: Study) -> float | None:
    """Return what the loop outside is at least, Ω: nothing is assumed of it, and no feed may be shorter."""
    ranged = any(feed.least_m != feed.length_m for feed in study.ahead.feeds)
    return None if ranged or study.supply.ze_ohm is None else study.ahead.ze_ohm


def _by_ze_alone(study: Study, question: Question, points: list[str]) -> Check | None:
    """Return that Ze as measured or declared is over the limit by itself, Ω: R1 + R2 only adds to it."""
    ze = _least_outside_ohm(study)
    if not study.wires.unknown_lengths or ze is None or study.ahead.protection is None:
        return None
    limits = {point: limit for point in points if (limit := limit_at(study, point)) is not None}
    worst = min(limits, key=lambda point: limits[point].ohm, default=None)
    if worst is None or limits[worst].by_rcd or hold(ze, limits[worst].ohm, "at most")[0] is Verdict.PASS:
        return None
    if rcd_instead(study) is not None or rcd_may_serve(study) or as_a_feed(study, worst, ze) is not None:
        return None
    return question.held(
        study,
        ze,
        limits[worst].ohm,
        "at most",
        "{value} Ω at least, limit {limit} Ω",
        unit="Ω",
        clause=limits[worst].clause,
        place=study.point_place(worst),
        steps=(Step(text="Ze alone, before any cable of the circuit", sum=f"{show(ze, 3)} Ω"), *limits[worst].steps),
    )
