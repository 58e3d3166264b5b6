"""Is what is switched here switched safely and as meant, in every state?"""

from lumbek.core.checks.recorded import is_of_new_work
from lumbek.core.inspection.codes import gravest_part
from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.circuit import Circuit
from lumbek.core.study.study import Study
from lumbek.core.switching.prove import answers_of

QUESTION = Question(
    "switching",
    "Switching",
    "Is everything here switched safely and as meant, in every position of every switch?",
    "switching-function",
)


def check_switching(study: Study) -> Check:
    """Take over the proof over all states, where anything is said of how the circuit is joined."""
    circuit = study.circuit
    if not _is_said(circuit):
        return QUESTION.not_applicable(study, "Nothing is said of how it is joined and switched")
    answers = answers_of(study.rulebook, {circuit.number: circuit})
    return _taken_over(study, [each.check for each in answers if each.check.verdict is not Verdict.NOT_APPLICABLE])


def _taken_over(study: Study, judged: list[Check]) -> Check:
    """Return what the checks of the proof come to: of those that fail the gravest, else what any of them wants."""
    steps = tuple(Step(text=f"{check.title}: {check.answer}") for check in judged)
    failed = [check for check in judged if check.verdict is Verdict.FAIL]
    if failed:
        worst = gravest_part(QUESTION.id, failed)
        if is_of_new_work(study, worst):
            worst = worst.model_copy(update={"code": "", "code_why": ""})
        return QUESTION.check(
            study,
            Verdict.FAIL,
            worst.answer,
            clause=worst.clause,
            place=worst.place or study.whole,
            steps=steps,
            code=worst.code,
            code_why=worst.code_why,
        )
    missing = tuple(each for check in judged for each in check.missing)
    if missing:
        return QUESTION.cannot_tell(study, missing, steps=steps)
    return QUESTION.check(study, Verdict.PASS, "Safe, and as meant in every state", place=study.whole, steps=steps)


def _is_said(circuit: Circuit) -> bool:
    return circuit.scheme is not None or any(
        point.joins or point.accessories or point.switches for point in circuit.points
    )
