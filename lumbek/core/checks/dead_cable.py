"""Cable that was left in the wall: dead, with both its ends made safe."""

from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.leg import BOARD
from lumbek.core.model.remains import Remains
from lumbek.core.numbers import counted
from lumbek.core.study.study import Study

QUESTION = Question("dead-cable", "Dead cable", "Is what was left in the wall dead and made safe?", "dead-cable")


def check_dead_cable(study: Study) -> Check:
    """Both ends of a cable out of use are known, terminated in an enclosure and marked (526.5, 514.1)."""
    left = [each for each in study.circuit.remains if each.left == "dead"]
    if not left:
        return QUESTION.not_applicable(study, "Nothing was left in the wall")
    words = [f"the dead cable from {_started(study, each)} to {each.to or 'an unknown place'}" for each in left]
    says = {True: "both ends made safe", False: "ends not made safe", None: "not said"}
    steps = tuple(Step(text=each, sum=says[dead.safe]) for each, dead in zip(words, left, strict=True))
    unsafe = next((each for each, dead in zip(words, left, strict=True) if dead.safe is False), None)
    if unsafe is not None:
        return QUESTION.check(study, Verdict.FAIL, f"Ends not made safe: {unsafe}", place=study.whole, steps=steps)
    open_ = tuple(
        f"whether both ends of {each} are terminated and marked"
        for each, dead in zip(words, left, strict=True)
        if dead.safe is None
    )
    if open_:
        return QUESTION.cannot_tell(study, open_, place=study.whole, steps=steps)
    answer = f"{counted(len(left), 'length', 'lengths')} left, made safe"
    return QUESTION.check(study, Verdict.PASS, answer, place=study.whole, steps=steps)


def _started(study: Study, remains: Remains) -> str:
    """Return where a dead cable started: what it hung on may be gone since."""
    known = remains.at == BOARD or remains.at in study.points
    return study.circuit.point_title(remains.at) if known else "a point that is gone"
