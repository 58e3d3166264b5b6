"""Unfused spurs off a ring: one outlet each, no more of them than points on the ring, none from a spur."""

from itertools import pairwise

from lumbek.core.circuit.shape import Spur
from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.point import JOINT_KINDS, PASSIVE_KINDS
from lumbek.core.study.study import Study

QUESTION = Question("spurs", "Spurs", "Does each unfused spur feed one outlet only?", "spurs")


def check_spurs(study: Study) -> Check:
    """Apply BS 7671 433.1.204 and Appendix 15 to everything that hangs off the ring."""
    shape, circuit = study.shape, study.circuit
    if not study.is_socket_ring or not shape.spurs:
        return QUESTION.not_applicable(study, "No spurs here")
    unfused = [spur for spur in shape.spurs if not _is_fused(study, spur)]
    on_ring = [point for point in shape.ring_points if circuit.point(point).kind not in JOINT_KINDS]
    wrong = next((spur for spur in shape.spurs if len(_unfused_outlets(study, spur)) > 1), None)
    too_many = len(unfused) > len(on_ring)
    if wrong:
        answer = _chained(study, wrong)
    elif too_many:
        answer = f"{len(unfused)} spurs, {len(on_ring)} points on the ring"
    else:
        answer = f"{len(unfused)} unfused, {len(shape.spurs) - len(unfused)} fused"
    steps = [
        Step(
            text=f"From {circuit.point_title(spur.from_point)}",
            sum=", then ".join(circuit.point_title(point) for point in _feeding(study, spur)) or "nothing",
        )
        for spur in shape.spurs
    ]
    steps.append(Step(text="Unfused spurs against points on the ring", sum=f"{len(unfused)} ≤ {len(on_ring)}"))
    if wrong:
        steps.append(Step(text="Put a fused spur at its head, or take the points into the ring"))
    return QUESTION.check(
        study,
        Verdict.FAIL if wrong or too_many else Verdict.PASS,
        answer,
        value=float(len(unfused)),
        limit=float(len(on_ring)),
        sense="at most",
        unit="spurs",
        decimals=0,
        place=study.point_place(_unfused_outlets(study, wrong)[-1]) if wrong else study.whole,
        steps=tuple(steps),
    )


def _chained(study: Study, spur: Spur) -> str:
    """Return in words what is wrong with a spur of several outlets."""
    outlets = _unfused_outlets(study, spur)
    chained = any(a in leg_ends and b in leg_ends for a, b in pairwise(outlets) for leg_ends in _ends(study, spur))
    what = "A spur from a spur" if chained else "A spur to several outlets"
    return f"{what}, from {study.circuit.point_title(spur.from_point)}: {len(outlets)} outlets"


def _ends(study: Study, spur: Spur) -> list[tuple[str, str]]:
    return [(study.legs[leg].a, study.legs[leg].b) for leg in spur.legs]


def _feeding(study: Study, spur: Spur) -> list[str]:
    return [point for point in spur.points if study.points[point].kind not in PASSIVE_KINDS]


def _unfused_outlets(study: Study, spur: Spur) -> list[str]:
    """Return the outlets of a spur that no fuse but the circuit's own protects: a fused unit with all behind it is one.

    A fused unit fed through another is behind that one's fuse.
    """
    return [point for point in _feeding(study, spur) if study.fused.before(point) is None]


def _is_fused(study: Study, spur: Spur) -> bool:
    """Whether all that a spur feeds is behind the fuse of one unit: of such there may be any number."""
    outlets = _unfused_outlets(study, spur)
    return all(study.points[point].kind == "fused-spur" for point in outlets)
