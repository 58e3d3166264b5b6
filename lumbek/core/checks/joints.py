"""Joints that somebody must be able to get at, or that are made to need no looking after."""

from lumbek.core.circuit.standing import titles
from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.point import JOINT_KINDS, Point
from lumbek.core.study.study import Study

QUESTION = Question("joints", "Joints", "Can every joint be reached, or need none?", "joints")


def check_joints(study: Study) -> Check:
    """A joint that nobody can reach is of the maintenance-free kind, and marked so (526.3).

    Of a joint of which nothing is said there is nothing to judge: it is drawn as one that can be reached.
    """
    joints = [point for point in study.circuit.points if point.kind in JOINT_KINDS]
    said = [point for point in joints if point.reached is not None or point.maintenance_free is not None]
    if not said:
        return QUESTION.not_applicable(study, "No joint is said to be out of reach")
    wrong = [point for point in said if point.reached is False and point.maintenance_free is False]
    if wrong:
        return QUESTION.check(
            study,
            Verdict.FAIL,
            f"{wrong[0].title}: out of reach, and not maintenance-free",
            place=study.point_place(wrong[0].id),
            steps=_steps(said),
        )
    open_ = [each for point in said for each in _unsaid(point)]
    if open_:
        place = next(study.point_place(point.id) for point in said if _unsaid(point))
        return QUESTION.cannot_tell(study, tuple(open_), steps=_steps(said), place=place)
    hidden = [point for point in said if not point.reached]
    caution = f"{titles(hidden)}: marked MF on the box, and where it lies on the drawing." if hidden else ""
    return QUESTION.check(
        study, Verdict.PASS, "Within reach, or made for it", place=study.whole, steps=_steps(said), caution=caution
    )


def _unsaid(point: Point) -> tuple[str, ...]:
    """Return what settles a joint of which one thing is said and the other is not."""
    if point.reached is False and point.maintenance_free is None:
        return (f"whether the joint at {point.title} is of the maintenance-free kind",)
    if point.reached is None and point.maintenance_free is False:
        return (f"whether the joint at {point.title} can be reached",)
    return ()


def _steps(joints: list[Point]) -> tuple[Step, ...]:
    reach = {True: "within reach", False: "out of reach", None: "reach not said"}
    kind = {True: "maintenance-free", False: "ordinary", None: "kind not said"}
    return tuple(
        Step(text=point.title, sum=f"{reach[point.reached]}, {kind[point.maintenance_free]}") for point in joints
    )
