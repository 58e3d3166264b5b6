"""The rule of the ring final circuit: device, size, and the current in every leg."""

from itertools import chain

from lumbek.core.checks.drawn_or_read import wanted
from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.numbers import plain, show
from lumbek.core.sizing.demand import Demand
from lumbek.core.study.study import Study

QUESTION = Question("ring-rule", "Ring rule", "Do device and cable suit a ring?", "ring")
CURRENT = Question("ring-current", "Current round the ring", "Does any cable carry more than it can for long?", "ring")
_NO_RING = "No ring here"


def check_ring_rule(study: Study) -> Check:
    """30 or 32 A device and 2.5 mm² line and neutral at least (433.1.204).

    Behind a lesser device a ring is no ring final circuit but a run with two ways: each part carries the whole
    rating (433.1.1), which `cable` holds it to. A switch is no overcurrent device.
    """
    if not study.is_socket_ring:
        return QUESTION.not_applicable(study, _NO_RING)
    rules, circuit, device = study.rulebook.data.ring, study.circuit, study.ahead.protection
    if device is None:
        return QUESTION.cannot_tell(study, ("main fuse of the supply",), clause="switch-ahead")
    rated = plain(device.rating_a)
    device_step = Step(text=f"Device: {_ratings(study)} A", sum=f"{rated} A")
    if not study.by_ring_rule:
        return _not_by_the_rule(study, device.rating_a, device_step)
    legs = chain(study.shape.ring_legs, *(spur.legs for spur in study.shape.spurs))
    sizes = {leg: circuit.cable_of(study.legs[leg]).csa_mm2 for leg in legs if leg not in study.fused.legs}
    thinnest = min(sizes, key=lambda leg_id: sizes[leg_id])
    fits = sizes[thinnest] >= rules.min_csa_mm2
    least = plain(rules.min_csa_mm2)
    return QUESTION.check(
        study,
        Verdict.PASS if fits else Verdict.FAIL,
        f"{rated} A, {plain(sizes[thinnest])} mm²" if fits else f"{plain(sizes[thinnest])} mm², needs {least} mm²",
        value=sizes[thinnest],
        limit=rules.min_csa_mm2,
        sense="at least",
        unit="mm²",
        decimals=1,
        place=study.whole if fits else study.leg_place(thinnest),
        steps=(
            device_step,
            Step(text=f"Line and neutral: {least} mm² at least", sum=f"thinnest {plain(sizes[thinnest])} mm²"),
        ),
        caution=_caution(study),
    )


def _ratings(study: Study) -> str:
    return " or ".join(plain(rating) for rating in study.rulebook.data.ring.ratings_a)


def _caution(study: Study) -> str:
    """Return the weightiest of what guidance says against a ring here; nothing where it says nothing."""
    rules, circuit = study.rulebook.data.ring, study.circuit
    heater = next((p for p in circuit.points for load in p.loads if load.diversity == "thermostatic"), None)
    if heater is not None:
        return f"{heater.title}: guidance asks for a circuit of its own for a water heater."
    area = circuit.surroundings.floor_area_m2
    if area is not None and area > rules.floor_area_m2:
        return f"Serves {plain(area)} m²: guidance is no more than {plain(rules.floor_area_m2)} m² a ring."
    if not rules.allowed:
        return "IEC 60364 does not describe the ring final circuit: your national rules must allow it."
    return ""


def _not_by_the_rule(study: Study, rating_a: float, device_step: Step) -> Check:
    """Return what is to be said of a ring behind a device that is not the rule's: too great, or lesser."""
    rated, ratings = plain(rating_a), _ratings(study)
    if rating_a > max(study.rulebook.data.ring.ratings_a):
        return QUESTION.check(
            study,
            Verdict.FAIL,
            f"{rated} A device, needs {ratings} A",
            clause=study.clause("ring"),
            place=study.whole,
            steps=(device_step,),
        )
    return QUESTION.check(
        study,
        Verdict.PASS,
        f"{rated} A: each part carries the whole rating",
        clause=study.clause("overload"),
        place=study.whole,
        steps=(device_step, Step(text="A lesser device: judged part by part, like any other run")),
        caution=f"{rated} A is not the usual ring: {ratings} A is.",
    )


def check_ring_current(study: Study) -> Check:
    """No leg of the ring or of its unfused spurs carries more than its Iz; over 20 A is warned of (433.1.204).

    Currents in A.
    """
    if not study.is_socket_ring:
        return CURRENT.not_applicable(study, _NO_RING)
    if study.currents.flow is None or study.currents.demand is None:
        read = _current_by_evidence(study)
        return read or CURRENT.cannot_tell(study, wanted(study) or ("first load",))
    spurs = [leg for spur in study.shape.spurs for leg in spur.legs if leg not in study.fused.legs]
    limits = {leg_id: study.least_iz_a(leg_id) for leg_id in (*study.shape.ring_legs, *spurs)}
    if any(limit == 0 for limit in limits.values()):
        return CURRENT.cannot_tell(study, ("cable capacity",))
    carried = {leg_id: abs(study.currents.flow.leg_a[leg_id]) for leg_id in limits}
    worst = max(limits, key=lambda leg_id: round(carried[leg_id] / limits[leg_id], 9))
    usual = study.rulebook.data.ring.min_iz_a
    over = [leg_id for leg_id in study.shape.ring_legs if round(carried[leg_id], 9) > usual]
    steps = [Step(text=study.leg_title(leg_id), sum=f"{show(carried[leg_id])} A") for leg_id in limits]
    return CURRENT.held(
        study,
        carried[worst],
        limits[worst],
        "at most",
        "{value} A, carries {limit} A",
        unit="A",
        decimals=1,
        place=study.leg_place(worst),
        steps=(*study.currents.demand.steps, *steps),
        caution=f"{study.leg_title(over[0])} carries "
        f"{show(carried[over[0]])} A, over {plain(usual)} A: spread the loads or move the point."
        if over
        else "",
    )


def _most_by_evidence(study: Study, demand: Demand) -> tuple[float, str]:
    """Return what a leg carries at the most by where readings have the loads, A, and how that is found."""
    is_said = demand.stated or demand.far is None
    said = demand.at_points if is_said else demand.said_at
    most_a = sum(ampere * study.evidence.far_share(point) for point, ampere in said.items())
    if is_said:
        return most_a, "Every load by its shorter way, as far as its place is known"
    share = _share_of_far(study, demand.far_of)
    far = f"{plain(demand.far_a)} A at the far point × {show(share)} by the shorter way, half of the rest each way"
    text = f"What is stated by its shorter way, {far}" if said else far
    return most_a + demand.far_a * share + demand.spread_a / 2, text


def _share_of_far(study: Study, names: tuple[str, ...]) -> float:
    """Return the most of a load at the far one of these points that a leg carries: nobody knows which that is.

    On the ring it is no nearer the board than that which is surely farthest. A spur that may be longer than the way to
    that hangs where it hangs.
    """
    bounds, share_of, on_ring = study.evidence.bounds, study.evidence.far_share, study.shape.ring_points
    ring = [share_of(point) for point in names if point in on_ring]
    surely = max((bounds[point].loop.least for point in names if point in bounds), default=0.0)
    spurs = [
        share_of(point)
        for point in names
        if point not in on_ring and (point not in bounds or bounds[point].loop.most >= surely)
    ]
    return max(min(ring, default=0.0), max(spurs, default=0.0))


def _current_by_evidence(study: Study) -> Check | None:
    """Return what is sure of the currents round a ring whose lengths are not drawn; None where nothing was read.

    A load goes both ways round, the more of it by the shorter: (T - x) / T, by where its reading has it. Loads that are
    not stated are the usual: one far off, the rest spread along the ring, half of it each way.
    """
    evidence, demand = study.evidence, study.currents.demand
    if demand is None or evidence.says_nothing or not evidence.bounds:
        return None
    most_a, text = _most_by_evidence(study, demand)
    limit_a = min(study.least_iz_a(leg_id) for leg_id in study.shape.ring_legs)
    steps = (*demand.steps, Step(text=text, sum=f"{show(most_a)} A at the most"))
    if limit_a and most_a > limit_a:
        return CURRENT.cannot_tell(study, (evidence.next_reading(),), steps=steps)
    if not limit_a:
        return None
    return CURRENT.held(
        study,
        most_a,
        limit_a,
        "at most",
        "{value} A at most, carries {limit} A",
        unit="A",
        decimals=1,
        place=study.whole,
        steps=steps,
    )
