"""Voltage drop from the origin to the worst point."""

from collections.abc import Sequence

from lumbek.core.checks.drawn_or_read import by_either, wanted
from lumbek.core.checks.drop_by_evidence import drop_by_evidence
from lumbek.core.checks.drop_limit import drop_limit_percent
from lumbek.core.circuit.standing import titles
from lumbek.core.judging.check import Check, Step, Verdict, hold
from lumbek.core.judging.question import Question
from lumbek.core.network.flows import Flow
from lumbek.core.numbers import plain, show
from lumbek.core.study.study import Study

QUESTION = Question(
    "volt-drop", "Voltage drop", "Does the voltage at the worst point stay within its limit?", "volt-drop"
)


def check_volt_drop(study: Study) -> Check:
    """The drop with the least to spare, in percent of U0, against 3 % at lights and 5 % elsewhere (525; IEC Annex G).

    By what was read where lengths are not drawn.
    """
    return by_either(study, drop_by_evidence(study, QUESTION), lambda: _as_drawn(study))


def _as_drawn(study: Study) -> Check:
    """Return the drop by the drawing.

    Without loops: the sum of mV/A/m x I x L / 1000 over the legs back to the board. With loops: from the
    network with the conductors at their working temperature. With Ct (BS 7671 Appendix 4, 6.1) where the circuit
    asks for it.
    """
    if study.currents.flow is None or not study.currents.flow.drop_v:
        return QUESTION.cannot_tell(study, _missing(study))
    drops, feed_v = study.currents.flow.drop_v, study.currents.feed_drop_v
    if feed_v is None:
        return QUESTION.cannot_tell(study, ("size of the feed ahead, as listed",))
    limits = {point: drop_limit_percent(study, point) for point in drops}
    worst = max(drops, key=lambda point: round((drops[point] + feed_v) / limits[point], 9))
    limit = limits[worst]
    volts = drops[worst] + feed_v
    percent = 100 * volts / study.currents.drop_base_v
    steps = (*_working(study, worst), *_feed_step(study), _percent_step(study, volts, percent))
    wanted_of_feed = _unsaid_of_feed(study, drops[worst], limit)
    if wanted_of_feed and hold(percent, limit, "at most")[0] is Verdict.PASS:
        return QUESTION.cannot_tell(study, wanted_of_feed, place=study.point_place(worst), steps=steps)
    return QUESTION.held(
        study,
        percent,
        limit,
        "at most",
        "{value} %, limit {limit} %",
        unit="%",
        place=study.point_place(worst),
        steps=steps,
    )


def _unsaid_of_feed(study: Study, drop_v: float, limit: float) -> tuple[str, ...]:
    """Return what must be said of a feed before its part of the drop is sure, limit in percent.

    What else hangs on the feed adds to its drop: no more than its device lets through.
    """
    unsaid = [feed for feed in study.ahead.feeds if feed.stated_a is None]
    most_v = drop_v + (study.currents.most_feed_drop_v or float("inf"))
    within = hold(100 * most_v / study.currents.drop_base_v, limit, "at most")[0] is not Verdict.FAIL
    return () if within else tuple(f"current of everything on {feed.title}" for feed in unsaid[:1])


def _missing(study: Study) -> tuple[str, ...]:
    """Return what stands in the way of a voltage drop: lengths, loads, or a size that the table does not have."""
    if study.currents.demand is None or study.wires.cold is None:
        return wanted(study) or ("first point that draws a current",)
    unlisted = tuple(
        f"mV/A/m of {plain(each.csa_mm2)} mm², which the table does not list"
        for each in study.wires.cables
        if study.rulebook.volt_drop_mv_per_a_m(each, study.phases) is None
    )
    if unlisted:
        return unlisted
    names = titles(point for point in study.standing.users if point.id in study.graph.distance)
    return (f"way that line and neutral take to {names}",)


def _percent_step(study: Study, volts: float, percent: float) -> Step:
    u0 = plain(study.currents.drop_base_v)
    return Step(text="As a part of the nominal voltage", sum=f"{show(volts)} V / {u0} V = {show(percent)} %")


def _feed_step(study: Study) -> tuple[Step, ...]:
    steps = []
    for feed in study.ahead.feeds:
        each = study.rulebook.volt_drop_mv_per_a_m(feed.cable, study.phases) or 0.0
        current, length = study.currents.of_feed_a(feed) or 0.0, feed.length_m or 0.0
        steps.append(
            Step(
                text=feed.title,
                sum=f"{plain(each)} mV/A/m × {show(current)} A × {plain(length)} m / 1000 "
                f"= {show(each * current * length / 1000)} V",
            )
        )
    return tuple(steps)


def _by_ct(flow: Flow, leg_id: str) -> str:
    """Return Ct as it stands in a line of working; nothing where it is not used."""
    return f" × Ct {show(flow.ct[leg_id], 3)}" if leg_id in flow.ct else ""


def _by_table(study: Study, flow: Flow, path: Sequence[str]) -> list[Step]:
    """Return the drop in each leg on the way, by the table's mV/A/m."""
    lines = []
    for leg_id in path:
        leg = study.legs[leg_id]
        each = study.rulebook.volt_drop_mv_per_a_m(study.circuit.cable_of(leg), study.phases) or 0.0
        current, length = abs(flow.leg_a[leg_id]), leg.length_m or 0.0
        cooler, by_ct = flow.ct.get(leg_id, 1.0), _by_ct(flow, leg_id)
        lines.append(
            Step(
                text=study.leg_title(leg.id),
                sum=f"{plain(each)} mV/A/m{by_ct} × {show(current)} A × {plain(length)} m / 1000 "
                f"= {show(each * cooler * current * length / 1000)} V",
            )
        )
    return lines


def _working(study: Study, worst: str) -> tuple[Step, ...]:
    flow, demand = study.currents.flow, study.currents.demand
    if flow is None or demand is None:
        return ()
    if worst in flow.opened:
        opened_at = study.leg_title(flow.opened[worst])
        text = f"By the table with the ring opened at the cable from {opened_at}: closed, the drop is no more"
        return (*demand.steps, Step(text=text, sum=f"{show(flow.drop_v[worst])} V"))
    path = study.graph.path_to(worst)
    if study.wires.fed or study.wires.parted:
        text = "Down to the switches and back, core by core, with all that it feeds on"
        return (*demand.steps, Step(text=text, sum=f"{show(flow.drop_v[worst])} V"))
    if not study.currents.are_shared:
        return (*demand.steps, *_by_table(study, flow, path))
    lines = []
    here = worst
    for leg_id in reversed(path):
        leg = study.legs[leg_id]
        hot = study.rulebook.hot_factor(study.circuit.cable_of(leg))
        cores = study.wires.cores_ohm[leg_id]
        toward = flow.leg_a[leg_id] if leg.b == here else -flow.leg_a[leg_id]
        here = leg.other_end(here)
        both = (cores["L"] + cores["N"]) * hot
        volts = toward * both * flow.ct.get(leg_id, 1.0)
        lines.append(
            Step(
                text=study.leg_title(leg.id),
                sum=f"{show(toward)} A × {show(both, 4)} Ω{_by_ct(flow, leg_id)} = {show(volts)} V",
            )
        )
    return (
        *demand.steps,
        Step(text=f"Currents shared by the loop, conductors × {show(hot)} hot; on the way to the worst point:"),
        *reversed(lines),
    )
