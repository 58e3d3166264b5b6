"""Where a job stands and what is next: a line in the list of jobs."""

from collections.abc import Sequence

from lumbek.core.judging.check import Verdict, worst_of
from lumbek.core.survey.judgement import Survey
from lumbek.services.views import CircuitLine, Gist


def gist_of(survey: Survey, circuits: Sequence[CircuitLine]) -> Gist:
    """Return what a person would do next: what fails first, then what is not known, then what is not read."""
    verdict = worst_of((survey.verdict, *(line.verdict for line in circuits)))
    failing = next((check for check in survey.checks if check.verdict is Verdict.FAIL), None)
    if failing is not None:
        return Gist(verdict=verdict, next=f"{failing.title}: {failing.answer}", stage="survey")
    for wanted in (Verdict.FAIL, Verdict.CANNOT_TELL):
        line = next((line for line in circuits if line.verdict is wanted), None)
        if line is not None:
            stage = "tests" if line.tests is wanted and not line.worst else "circuits"
            words = line.worst or "look at its readings"
            return Gist(verdict=verdict, next=f"{line.number} {line.name}. {words}", stage=stage, circuit_id=line.id)
        if wanted is Verdict.FAIL and survey.verdict is Verdict.CANNOT_TELL:
            missing = next(check for check in survey.checks if check.verdict is Verdict.CANNOT_TELL)
            return Gist(verdict=verdict, next=f"{missing.title}: {missing.answer}", stage="survey")
    if not circuits:
        return Gist(verdict=verdict, next="Draw the first circuit", stage="circuits")
    untested = next((line for line in circuits if line.taken < line.total), None)
    if untested is not None:
        words = f"Test {untested.number} {untested.name}: {untested.total - untested.taken} readings to take"
        return Gist(verdict=verdict, next=words, stage="tests", circuit_id=untested.id)
    return Gist(verdict=verdict, next="Hand over: the documents", stage="documents")
