"""Cable that was left in the wall: dead, with both its ends made safe."""

from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.leg import BOARD
from lumbek.core.model.remains import Remains
from lumbek.core.numbers import counted
from lumbek.core.study.study import Study

QUESTION = Question("dead-cable", "Dead cable", "Is what was left in the wall dead and made safe?", "dead-cable")


_SOMEWHERE = "an unknown place"


def check_dead_cable(study: Study) -> Check:
    """Both ends of a cable out of use are known, terminated in an enclosure and marked (526.5, 514.1)."""
    left = [each for each in study.circuit.remains if each.left == "dead"]
    if not left:
        return QUESTION.not_applicable(study, "Nothing was left in the wall")
    says = {True: "both ends made safe", False: "ends not made safe", None: "not said"}
    told = [(f"the dead cable from {_started(study, each)} to {each.to or _SOMEWHERE}", each.safe) for each in left]
    steps = tuple(Step(text=each, sum=says[safe]) for each, safe in told)
    by_word = {safe: [each for each, said in told if said is safe] for safe in says}
    for unsafe in by_word[False]:
        return QUESTION.check(study, Verdict.FAIL, f"Ends not made safe: {unsafe}", place=study.whole, steps=steps)
    if by_word[None]:
        open_ = tuple(f"whether both ends of {each} are terminated and marked" for each in by_word[None])
        return QUESTION.cannot_tell(study, open_, place=study.whole, steps=steps)
    answer = f"{counted(len(left), 'length', 'lengths')} left, made safe"
    return QUESTION.check(study, Verdict.PASS, answer, place=study.whole, steps=steps)


def _started(study: Study, remains: Remains) -> str:
    """Return where a dead cable started: what it hung on may be gone since."""
    known = remains.at == BOARD or remains.at in study.points
    return study.circuit.point_title(remains.at) if known else "a point that is gone"
