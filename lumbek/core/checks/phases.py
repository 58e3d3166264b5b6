"""Does the supply have the lines that the circuit asks for?"""

from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.study.study import Study

QUESTION = Question("phases", "Lines of the supply", "Does the supply have the lines that the loads ask for?", "phases")


def check_phases(study: Study) -> Check:
    """A load of three lines on a supply of one fails (313.1)."""
    if study.phases == 1:
        return QUESTION.not_applicable(study, "One line is enough")
    fits = study.supply.phases >= study.phases
    return QUESTION.check(
        study,
        Verdict.PASS if fits else Verdict.FAIL,
        f"{study.supply.phases} of {study.phases} lines",
        place=study.whole,
        steps=(Step(text=f"The loads take {study.phases} lines, the supply has {study.supply.phases}"),),
    )
