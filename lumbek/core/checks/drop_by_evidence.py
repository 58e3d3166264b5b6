"""The voltage drop at the worst point as readings prove it, where lengths are not drawn."""

from lumbek.core.checks.drop_limit import drop_limit_percent
from lumbek.core.evidence.intervals import Interval
from lumbek.core.judging.check import Check, Step, Verdict, hold
from lumbek.core.judging.question import Question
from lumbek.core.numbers import show_down, show_up
from lumbek.core.study.evidence_drop import DropBounds
from lumbek.core.study.study import Study


def drop_by_evidence(study: Study, question: Question) -> Check | None:
    """The drop for everything that agrees with what is known, in percent of U0 (525; IEC Annex G).

    None where nothing was read, where no bounds follow, or for three phases.
    """
    demand, evidence = study.currents.demand, study.evidence
    if evidence.says_nothing or demand is None or study.phases != 1 or not evidence.is_explained:
        return None
    hot = _factor(study)
    every = None if hot is None else DropBounds(evidence, demand, hot, study.asked_points).drops()
    feed_v = study.currents.feed_drop_v
    most_feed_v = study.currents.most_feed_drop_v
    if every is None or feed_v is None:
        return _waits(study, question) if hot is not None and feed_v is not None else None
    extra = Interval(feed_v, feed_v if most_feed_v is None else max(feed_v, most_feed_v))
    base = study.currents.drop_base_v
    drops = [{point: volts.plus(extra).times(100 / base) for point, volts in some.items()} for some in every]
    limits = {point: drop_limit_percent(study, point) for point in drops[0]}
    worst = max(
        ((some[point].most / limits[point], point, some[point]) for some in drops for point in some),
        key=lambda each: round(each[0], 9),
    )
    _, point, percent = worst
    steps = _steps(study, point, percent)
    if hold(percent.most, limits[point], "at most")[0] is Verdict.PASS:
        return _held(study, question, point, percent.most, limits[point], "at most", steps)
    failing = None if study.circuit.drop_with_ct else _surely_failing(drops, limits)
    if failing is not None:
        point, percent = failing
        steps = _steps(study, point, percent)
        return _held(study, question, point, percent.least, limits[point], "at least", steps)
    missing = (evidence.next_reading(),)
    return question.cannot_tell(study, missing, place=study.point_place(point), steps=steps)


def _surely_failing(drops: list[dict[str, Interval]], limits: dict[str, float]) -> tuple[str, Interval] | None:
    """Return a point that fails whatever is true of what nobody knows, by the case that is kindest; None for none."""
    surely = [(max(some, key=lambda each: some[each].least / limits[each]), some) for some in drops]
    if any(hold(some[each].least, limits[each], "at most")[0] is not Verdict.FAIL for each, some in surely):
        return None
    point, some = min(surely, key=lambda pair: pair[1][pair[0]].least / limits[pair[0]])
    return point, some[point]


def _held(
    study: Study, question: Question, point: str, percent: float, limit: float, word: str, steps: tuple[Step, ...]
) -> Check:
    return question.held(
        study,
        percent,
        limit,
        "at most",
        f"{{value}} % {word}, limit {{limit}} %",
        unit="%",
        place=study.point_place(point),
        steps=steps,
    )


def _waits(study: Study, question: Question) -> Check | None:
    """Return that some point has no bounds yet; None where all lengths are drawn."""
    if study.evidence.is_known:
        return None
    return question.cannot_tell(study, (study.evidence.next_reading(),))


def _factor(study: Study) -> Interval | None:
    """Return the factor from 20 °C to what the tabulated mV/A/m or the hot conductors give, least and most."""
    found = []
    for cable in study.wires.cables:
        each, line = study.rulebook.volt_drop_mv_per_a_m(cable), study.rulebook.milliohm_per_m(cable, "L")
        if each is None or not line:
            return None
        found += [study.rulebook.hot_factor(cable), each / (2 * line)]
    return Interval(min(found), max(found)) if found else None


def _steps(study: Study, point: str, percent: Interval) -> tuple[Step, ...]:
    live = study.evidence.bounds[point].live
    demand = study.currents.demand
    return (
        *(demand.steps if demand else ()),
        Step(
            text=f"Line and neutral at 20 °C at {study.circuit.point_title(point)}, {study.evidence.sources(point)}",
            sum=f"{show_down(live.least, 3)} to {show_up(live.most, 3)} Ω",
        ),
        Step(
            text="Drop for all that agrees with what is known, conductors hot",
            sum=f"{show_down(percent.least)} to {show_up(percent.most)} %",
        ),
    )
