"""Zs at every point as its readings prove it, where lengths are not drawn or what was read says otherwise."""

from collections.abc import Iterator
from dataclasses import dataclass

from lumbek.core.checks.cpc import earthless
from lumbek.core.checks.loop_limits import ONLY_RCD, UNKNOWN_RCD, as_a_feed, limit_at, rcd_may_serve
from lumbek.core.checks.loop_outside import of_assumed_ze, outside_steps
from lumbek.core.evidence.intervals import Interval
from lumbek.core.judging.check import Check, Step, Verdict, hold
from lumbek.core.judging.graver import UNEXPLAINED
from lumbek.core.judging.question import Question
from lumbek.core.model.terminals import CONDUCTORS
from lumbek.core.numbers import show, show_down, show_up
from lumbek.core.protection.zs_limit import ZsLimit, rcd_instead
from lumbek.core.study.study import Study

WHAT_ELSE = "a joint, the cpc, or cable that nobody has measured"
AGAIN = "Read it again with a fresh contact before anything is opened: one slip looks the same."

REASON = "reason of the readings: no lengths of this cable explain them together"


@dataclass(frozen=True)
class _At:
    """A point with its limit and the Zs that agrees with what is known, hot, in Ω."""

    point: str
    limit: ZsLimit
    zs_ohm: Interval
    # The loop of the circuit alone as it is read, and the most that cable alone proves of it, Ω at 20 °C.
    loop_ohm: Interval
    proved_ohm: float

    @property
    def spare(self) -> float:
        return round((self.limit.ohm - self.zs_ohm.most) / self.limit.ohm, 9)

    @property
    def passes(self) -> bool:
        return hold(self.zs_ohm.most, self.limit.ohm, "at most")[0] is Verdict.PASS

    @property
    def is_over(self) -> bool:
        return hold(self.zs_ohm.least, self.limit.ohm, "at most")[0] is Verdict.FAIL

    @property
    def is_explained(self) -> bool:
        """Whether drawn cable, or live conductors as read, are long enough for a loop that is over, or may be.

        Legs of unknown length, stretched to fit, explain nothing.
        """
        loop = self.loop_ohm.least if self.is_over else self.loop_ohm.most
        return hold(loop, self.proved_ohm, "at most")[0] is Verdict.PASS


def hot_range(study: Study) -> Interval:
    """Return the least and the greatest factor from 20 °C to working temperature among the cables of a circuit."""
    found = [
        study.rulebook.hot_factor(cable, core) for cable in study.wires.cables for core in CONDUCTORS if core != "N"
    ]
    return Interval(min(found), max(found))


def loop_by_evidence(study: Study, question: Question) -> Check | None:
    """Zs = Ze + (R1 + R2) hot for everything that agrees with what is known, Ω (411.4.4, 411.5.3).

    Passes where all of it does, fails where none does, else waits for the reading that settles most. Over the limit an
    RCD serves (411.4.204) only where known cable explains the loop. None where nothing was read, or no bounds follow.
    """
    evidence, ze = study.evidence, study.ahead.ze_ohm
    if evidence.says_nothing or ze is None:
        return None
    if not evidence.is_explained:
        return _unexplained(study, question, ze)
    bare = {point.id for point in earthless(study)}
    points = [point for point in study.asked_points if point not in bare]
    unread = [point for point in points if point not in evidence.bounds]
    found = [at for point in points if point in evidence.bounds and (at := _at(study, point, ze)) is not None]
    if not found or len(found) + len(unread) < len(points):
        return None
    # Of points with as little to spare that which was read itself says most.
    found.sort(key=lambda at: (at.spare, at.point not in evidence.alone))
    checks = [_one(study, question, at, ze) for at in found]
    for wanted in (Verdict.FAIL, Verdict.CANNOT_TELL):
        worst = next((check for check in checks if check.verdict is wanted), None)
        if worst is not None:
            return worst
    if unread:
        missing = (evidence.next_reading(),)
        return question.cannot_tell(study, missing, place=study.point_place(unread[0]))
    return checks[0]


def _at(study: Study, point: str, ze: float) -> _At | None:
    limit, loop = limit_at(study, point), study.evidence.bounds[point].loop
    if limit is None:
        return None
    hot = hot_range(study)
    zs = Interval(ze + loop.least * hot.least, ze + loop.most * hot.most)
    read = study.evidence.read_loop_ohm(point, hot)
    proved = study.evidence.proved_ohm.get(point, 0.0)
    return _At(point, limit, zs if read is None else _tighter(zs, read), loop, proved)


def _tighter(zs: Interval, read: Interval) -> Interval:
    both = zs.meet(read)
    return zs if both.is_empty else both


def _one(study: Study, question: Question, at: _At, ze: float) -> Check:
    """Return what is sure of one point."""
    steps = (*study.evidence.steps(at.point), *_zs_steps(study, at, ze), *at.limit.steps)
    place = study.point_place(at.point)
    cautions = of_assumed_ze(study)
    if study.evidence.drawn_off:
        cautions.append("The drawn lengths are off: judged by what was read.")
    if at.passes:
        electrode = study.ahead.unmeasured_electrode
        if electrode is not None:
            return question.cannot_tell(study, (electrode,), clause="zs-tt", place=place, steps=steps)
        return _held(study, question, at, at.zs_ohm.most, at.limit, steps, " ".join(cautions))
    feed = as_a_feed(study, at.point, at.zs_ohm.most)
    if feed is not None:
        return question.cannot_tell(study, (feed,), place=place, steps=steps)
    instead = None if at.limit.by_rcd else rcd_instead(study)
    if at.is_explained and instead is not None and hold(at.zs_ohm.most, instead.ohm, "at most")[0] is Verdict.PASS:
        words = " ".join((*cautions, ONLY_RCD))
        return _held(study, question, at, at.zs_ohm.most, instead, (*steps, *instead.steps), words)
    if not at.is_over:
        return question.cannot_tell(study, (study.evidence.next_reading(),), place=place, steps=steps)
    if at.is_explained and not at.limit.by_rcd and rcd_may_serve(study):
        return question.cannot_tell(study, UNKNOWN_RCD, place=place, steps=steps)
    return _fails(study, question, at, steps, cautions)


def _held(
    study: Study, question: Question, at: _At, zs: float, limit: ZsLimit, steps: tuple[Step, ...], caution: str
) -> Check:
    return question.held(
        study,
        zs,
        limit.ohm,
        "at most",
        "{value} Ω at most, limit {limit} Ω",
        unit="Ω",
        clause=limit.clause,
        place=study.point_place(at.point),
        steps=steps,
        caution=caution,
    )


def _fails(study: Study, question: Question, at: _At, steps: tuple[Step, ...], cautions: list[str]) -> Check:
    """Return that a loop is over its limit for all that agrees with what is known."""
    unexplained = "" if at.is_explained else f": {UNEXPLAINED}: {WHAT_ELSE}"
    proved = Step(
        text="The most that known cable explains: drawn cables, r1, rn and R1+Rn", sum=f"{show_up(at.proved_ohm, 3)} Ω"
    )
    return question.held(
        study,
        at.zs_ohm.least,
        at.limit.ohm,
        "at most",
        f"{{value}} Ω at least, limit {{limit}} Ω{unexplained}",
        unit="Ω",
        clause=at.limit.clause,
        place=study.point_place(at.point),
        steps=(*steps, *(() if at.is_explained else (proved,))),
        caution=" ".join((*cautions, *(() if at.is_explained else (AGAIN,)))),
    )


def _zs_steps(study: Study, at: _At, ze: float) -> tuple[Step, ...]:
    hot = hot_range(study)
    factor = show(hot.most) if hot.most - hot.least < 1e-9 else f"{show(hot.least)} to {show(hot.most)}"
    return (
        *outside_steps(study),
        Step(
            text="Zs = Ze + (R1 + R2) × temperature, for all that agrees with what is known",
            sum=f"{show(ze, 3)} + … × {factor} = {show_down(at.zs_ohm.least, 3)} to {show_up(at.zs_ohm.most, 3)} Ω",
        ),
    )


def _each_alone(study: Study, ze: float, hot: Interval) -> Iterator[_At]:
    """Yield the loop of each point by what was read at it alone."""
    for point, loop in study.evidence.alone.items():
        limit = limit_at(study, point)
        if limit is None or point not in study.graph.distance:
            continue
        zs = Interval(ze + loop.least * hot.least, ze + loop.most * hot.most)
        read = study.evidence.read_loop_ohm(point, hot)
        yield _At(point, limit, zs if read is None else _tighter(zs, read), loop, 0.0)


def _unexplained(study: Study, question: Question, ze: float) -> Check:
    """Return what it means that no lengths of the cable drawn explain what was read."""
    evidence, hot = study.evidence, hot_range(study)
    for opened in (each for each in evidence.read.readings if each.beyond):
        where = study.circuit.point_title(opened.point) if opened.point else "the board"
        place = study.point_place(opened.point) if opened.point else study.whole
        words = f"Read open at {where}: no sound circuit is"
        return question.check(study, Verdict.FAIL, words, place=place, caution=AGAIN)
    over = [at for at in _each_alone(study, ze, hot) if at.is_over and not at.limit.by_rcd]
    if over:
        worst = max(over, key=lambda at: at.zs_ohm.least / at.limit.ohm)
        steps = (*_zs_steps(study, worst, ze), *worst.limit.steps)
        return _fails(study, question, worst, steps, of_assumed_ze(study))
    return question.cannot_tell(study, (REASON,), answer="No lengths explain what was read", caution=AGAIN)
