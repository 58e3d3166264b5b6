"""Copper no thinner than its use allows, whatever it carries."""

from lumbek.core.circuit.standing import is_light
from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.numbers import plain
from lumbek.core.study.study import Study

QUESTION = Question("least-size", "Least size", "Is the copper no thinner than its use allows?", "least-size")
# Behind no more than this a thinner tail is common, and is pointed out rather than failed.
_SMALL_FUSE_A = 5


def check_least_size(study: Study) -> Check:
    """Conductors of fixed wiring: 1.0 mm² for lighting, 1.5 mm² for power (Table 52.3; IEC Table 52.2).

    What little else hangs on a circuit of lights, as a fan does, is part of it. Flexible cords have sizes of their
    own.
    """
    rules = study.rulebook.data.least_csa
    legs = [leg for leg in study.wires.legs if study.circuit.cable_of(leg).type != "flex"]
    if not legs:
        return QUESTION.not_applicable(study, "No fixed cable")
    lighting = _is_lighting(study)
    least = rules.lighting_mm2 if lighting else rules.power_mm2
    sizes = {leg.id: study.circuit.cable_of(leg).csa_mm2 for leg in legs}
    fused = {leg_id for leg_id, fuse in study.fused.legs.items() if (fuse.fuse_a or 13) <= _SMALL_FUSE_A}
    worst = min(sizes, key=lambda leg_id: (leg_id in fused, sizes[leg_id]))
    thin = [leg_id for leg_id in sizes if sizes[leg_id] < least]
    only_small = bool(thin) and all(leg_id in fused for leg_id in thin)
    step = Step(
        text=f"{study.leg_title(worst)}, {'lighting' if lighting else 'power'}",
        sum=f"{plain(sizes[worst])} mm², {plain(least)} mm² at least",
    )
    if only_small:
        return QUESTION.check(
            study,
            Verdict.PASS,
            f"{plain(sizes[thin[0]])} mm² behind a small fuse",
            steps=(step,),
            caution=f"{study.leg_title(thin[0])}: {plain(sizes[thin[0]])} mm² is thin for power, even behind its fuse.",
            place=study.leg_place(thin[0]),
        )
    return QUESTION.held(
        study,
        sizes[worst],
        least,
        "at least",
        "{value} mm², needs {limit} mm²",
        has_margin=False,
        unit="mm²",
        decimals=1,
        place=study.leg_place(worst),
        steps=(step,),
    )


def _is_lighting(study: Study) -> bool:
    """Whether it is a lighting circuit: lights on a device for them, and nothing to plug in. Alarms are wired alike."""
    users = study.standing.users
    if study.circuit.kind == "alarms":
        return not study.standing.ring_outlets
    if not study.standing.lights:
        return False
    device = study.ahead.protection
    if device is None or device.rating_a > study.rulebook.data.lighting.most_device_a:
        return all(is_light(point) for point in users)
    return not study.standing.ring_outlets
