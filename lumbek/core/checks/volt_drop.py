"""Voltage drop from the origin to the worst point."""

from lumbek.core.checks.question import Question
from lumbek.core.context import Context
from lumbek.core.network.figures import Flow, joined_legs
from lumbek.core.numbers import plain, show
from lumbek.core.result import Check, Step

QUESTION = Question(
    "volt-drop", "Voltage drop", "Does the voltage at the worst point stay within its limit?", "volt-drop"
)


def check_volt_drop(context: Context) -> Check:
    """Greatest drop in percent of U0 against 3 % or 5 % (525; IEC 60364-5-52 Annex G).

    Without loops: the sum of mV/A/m x I x L / 1000 over the legs back to the board. With loops: from the
    network with the conductors at their working temperature. With Ct (BS 7671 Appendix 4, 6.1) where the circuit
    asks for it.
    """
    limit = context.rulebook.volt_drop_limit_percent(context.group)
    if context.flow is None or not context.flow.drop_v:
        return QUESTION.cannot_tell(context, _missing(context))
    drops = context.flow.drop_v
    worst = max(drops, key=lambda point: round(drops[point], 9))
    if context.feed_drop_v is None:
        return QUESTION.cannot_tell(context, ("size of the feed ahead, as listed",))
    volts = drops[worst] + context.feed_drop_v
    percent = 100 * volts / context.drop_base_v
    return QUESTION.held(
        context,
        percent,
        limit,
        "at most",
        f"{show(percent)} %, limit {plain(limit)} %",
        unit="%",
        place=context.point_place(worst),
        steps=(*_working(context, worst), *_feed_step(context), _percent_step(context, volts, percent)),
    )


def _missing(context: Context) -> tuple[str, ...]:
    """Return what stands in the way of a voltage drop: lengths, loads, or a size that the table does not have."""
    if context.unknown_lengths or context.demand is None or context.cold is None:
        return context.unknown_lengths or ("first point that draws a current",)
    cables = {leg.cable or context.circuit.cable for leg in joined_legs(context.graph)}
    unlisted = [each for each in cables if context.rulebook.volt_drop_mv_per_a_m(each, context.phases) is None]
    return tuple(f"mV/A/m of {plain(each.csa_mm2)} mm², which the table does not list" for each in unlisted)


def _percent_step(context: Context, volts: float, percent: float) -> Step:
    u0 = plain(context.drop_base_v)
    return Step(text="As a part of the nominal voltage", sum=f"{show(volts)} V / {u0} V = {show(percent)} %")


def _feed_step(context: Context) -> tuple[Step, ...]:
    steps = []
    for feed in context.feeds:
        each = context.rulebook.volt_drop_mv_per_a_m(feed.cable, context.phases) or 0.0
        current = context.feed_current_a(feed) or 0.0
        steps.append(
            Step(
                text=feed.title,
                sum=f"{plain(each)} mV/A/m × {show(current)} A × {plain(feed.length_m)} m / 1000 "
                f"= {show(each * current * feed.length_m / 1000)} V",
            )
        )
    return tuple(steps)


def _by_ct(flow: Flow, leg_id: str) -> str:
    """Return Ct as it stands in a line of working; nothing where it is not used."""
    return f" × Ct {show(flow.ct[leg_id], 3)}" if leg_id in flow.ct else ""


def _working(context: Context, worst: str) -> tuple[Step, ...]:
    flow, demand = context.flow, context.demand
    if flow is None or demand is None:
        return ()
    if worst in flow.opened:
        opened_at = context.circuit.leg_title(context.graph.legs[flow.opened[worst]])
        text = f"By the table with the ring opened at the leg from {opened_at}: closed, the drop is no more"
        return (*demand.steps, Step(text=text, sum=f"{show(flow.drop_v[worst])} V"))
    path = context.graph.path_to(worst)
    if not context.shares_current:
        lines = []
        for leg_id in path:
            leg = context.graph.legs[leg_id]
            each = context.rulebook.volt_drop_mv_per_a_m(leg.cable or context.circuit.cable, context.phases) or 0.0
            current, length = abs(flow.leg_a[leg_id]), leg.length_m or 0.0
            cooler, by_ct = flow.ct.get(leg_id, 1.0), _by_ct(flow, leg_id)
            lines.append(
                Step(
                    text=context.circuit.leg_title(leg),
                    sum=f"{plain(each)} mV/A/m{by_ct} × {show(current)} A × {plain(length)} m / 1000 "
                    f"= {show(each * cooler * current * length / 1000)} V",
                )
            )
        return (*demand.steps, *lines)
    lines = []
    here = worst
    for leg_id in reversed(path):
        leg = context.graph.legs[leg_id]
        hot = context.rulebook.hot_factor(leg.cable or context.circuit.cable)
        cores = context.cores_ohm[leg_id]
        toward = flow.leg_a[leg_id] if leg.b == here else -flow.leg_a[leg_id]
        here = leg.other_end(here)
        both = (cores["L"] + cores["N"]) * hot
        volts = toward * both * flow.ct.get(leg_id, 1.0)
        lines.append(
            Step(
                text=context.circuit.leg_title(leg),
                sum=f"{show(toward)} A × {show(both, 4)} Ω{_by_ct(flow, leg_id)} = {show(volts)} V",
            )
        )
    return (
        *demand.steps,
        Step(text=f"Currents shared by the loop, conductors × {show(hot)} hot; on the way to the worst point:"),
        *reversed(lines),
    )
