"""The rule of the ring final circuit: device, size, and the current in every leg."""

from lumbek.core.numbers import plain, show
from lumbek.core.question import Question
from lumbek.core.result import Check, Step, Verdict
from lumbek.core.study.study import Study

QUESTION = Question("ring-rule", "Ring rule", "Do device and cable suit a ring?", "ring")
CURRENT = Question("ring-current", "Current round the ring", "Does any leg carry more than it can for long?", "ring")
_NO_RING = "No ring here"


def check_ring_rule(study: Study) -> Check:
    """30 or 32 A device and 2.5 mm² line and neutral at least (433.1.204)."""
    if not study.is_socket_ring:
        return QUESTION.not_applicable(study, _NO_RING)
    rules, circuit = study.rulebook.data.ring, study.circuit
    device_fits = circuit.device.rating_a in rules.ratings_a
    sizes = {
        leg_id: circuit.cable_of(study.graph.legs[leg_id]).csa_mm2
        for leg_id in (*study.shape.ring_legs, *(leg for spur in study.shape.spurs for leg in spur.legs))
        if leg_id not in study.fused.legs
    }
    thinnest = min(sizes, key=lambda leg_id: sizes[leg_id])
    size_fits = sizes[thinnest] >= rules.min_csa_mm2
    ratings = " or ".join(plain(rating) for rating in rules.ratings_a)
    caution = ""
    if not rules.allowed:
        caution = "IEC 60364 does not describe the ring final circuit: your national rules must allow it."
    area = circuit.surroundings.floor_area_m2
    if area is not None and area > rules.floor_area_m2:
        caution = f"Serves {plain(area)} m²: guidance is no more than {plain(rules.floor_area_m2)} m² a ring."
    if device_fits and not size_fits:
        answer = f"{plain(sizes[thinnest])} mm², needs {plain(rules.min_csa_mm2)} mm²"
    elif not device_fits:
        answer = f"{plain(circuit.device.rating_a)} A device, needs {ratings} A"
    else:
        answer = f"{plain(circuit.device.rating_a)} A, {plain(sizes[thinnest])} mm²"
    return QUESTION.check(
        study,
        Verdict.PASS if device_fits and size_fits else Verdict.FAIL,
        answer,
        value=sizes[thinnest],
        limit=rules.min_csa_mm2,
        sense="at least",
        unit="mm²",
        decimals=1,
        place=study.leg_place(thinnest) if not size_fits else study.whole,
        steps=(
            Step(text=f"Device: {ratings} A", sum=f"{plain(circuit.device.rating_a)} A"),
            Step(
                text=f"Line and neutral: {plain(rules.min_csa_mm2)} mm² at least",
                sum=f"thinnest {plain(sizes[thinnest])} mm²",
            ),
        ),
        caution=caution,
    )


def check_ring_current(study: Study) -> Check:
    """No leg of the ring carries more than its Iz; over 20 A is warned of (433.1.204). Currents in A."""
    if not study.is_socket_ring:
        return CURRENT.not_applicable(study, _NO_RING)
    if study.currents.flow is None or study.currents.demand is None:
        return CURRENT.cannot_tell(study, study.wires.unknown_lengths or ("first load",))
    limits = {
        leg_id: min((capacity.iz_a or 0.0) for capacity in study.capacities[leg_id]) for leg_id in study.shape.ring_legs
    }
    if any(limit == 0 for limit in limits.values()):
        return CURRENT.cannot_tell(study, ("cable capacity",))
    carried = {leg_id: abs(study.currents.flow.leg_a[leg_id]) for leg_id in limits}
    worst = max(limits, key=lambda leg_id: round(carried[leg_id] / limits[leg_id], 9))
    usual = study.rulebook.data.ring.min_iz_a
    over = [leg_id for leg_id in limits if carried[leg_id] > usual]
    steps = [Step(text=study.leg_title(leg_id), sum=f"{show(carried[leg_id])} A") for leg_id in study.shape.ring_legs]
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
