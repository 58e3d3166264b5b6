"""Draft or issued: what stands against handing a document out as complied with."""

from collections.abc import Iterable, Iterator, Sequence
from typing import Annotated

from pydantic import Field

from lumbek.core.board.judge import HouseResult
from lumbek.core.judging.answers import CircuitAnswer
from lumbek.core.judging.check import Check, Verdict
from lumbek.core.model.reading import Stamp
from lumbek.core.model.text import Name
from lumbek.core.survey.judgement import Survey
from lumbek.core.testing.sheet import Sheet
from lumbek.core.value import Frozen


class Issue(Frozen):
    """One issue of a document: which it is of its kind, counted from 1, by whom and when.

    `firm_number` counts all that the firm has issued, `code` finds it from outside at the `address`; `job_sha256` is of
    the job's data inside the file, `corrects` the paper that it stands instead of.
    """

    number: Annotated[int, Field(ge=1)]
    by: Name
    at: Stamp
    firm: str = ""
    firm_number: Annotated[int, Field(ge=1)] = 1
    code: str = ""
    address: str = ""
    job_sha256: str = ""
    corrects: str = ""


def may_issue(*verdicts: Verdict) -> bool:
    """Whether all of these are passed: nothing failed, nothing open, nothing left unasked."""
    return bool(verdicts) and all(verdict is Verdict.PASS for verdict in verdicts)


def draft_reasons(
    survey: Survey,
    house: HouseResult,
    described: bool,
    circuits: Iterable[tuple[CircuitAnswer, tuple[str, ...]]],
    whole: Sheet,
) -> list[str]:
    """Return why a job's documents are drafts; any failed, open or untested circuit keeps them so. Empty if none.

    Of boards that nobody has `described` only what fails counts. `whole` are the tests of the installation.
    """
    reasons = [
        *_of_checks("Survey", survey.checks),
        *_of_checks("Boards", house.checks, opens=described),
        *_of_tests(whole),
    ]
    none = True
    # One by one: a large job is not held at once.
    for answer, failed in circuits:
        none = False
        reasons += [f"Circuit {answer.number}, {answer.name}: {failure}" for failure in failed]
    return [*reasons, "No circuits yet"] if none else reasons


def _of_checks(what: str, checks: Sequence[Check], opens: bool = True) -> Iterator[str]:
    """Yield what failed, and what is open where that counts too."""
    for check in checks:
        if check.verdict is Verdict.FAIL:
            yield f"{what}: {check.title}, {check.answer}"
    open_ones = [check.title for check in checks if check.verdict is Verdict.CANNOT_TELL]
    if opens and open_ones:
        yield f"{what} not finished: {', '.join(open_ones)}"


def _of_tests(whole: Sheet) -> Iterator[str]:
    for item in whole.items:
        if item.check is not None and item.check.verdict is not Verdict.PASS:
            yield f"Installation: {item.title}, {_against(item.check)}"
    if whole.taken < whole.total:
        yield f"Installation: {whole.total - whole.taken} of {whole.total} readings not taken"


def _against(check: Check) -> str:
    """Return what is wrong or missing by a check that is not passed: never what it would say of a good one."""
    if check.verdict is Verdict.CANNOT_TELL and check.missing:
        return f"cannot be told: {', '.join(check.missing[:2])}"
    return check.answer


def failures(answer: CircuitAnswer) -> Iterable[str]:
    """Yield what stands against one circuit, in words."""
    for check in answer.result.checks:
        if check.verdict in (Verdict.FAIL, Verdict.CANNOT_TELL):
            yield f"{check.title}{'' if check.verdict is Verdict.CANNOT_TELL else ':'} {_against(check)}"
    for check in answer.tests.judged:
        if check.verdict is not Verdict.PASS:
            yield f"test {check.title}: {_against(check)}"
    for check in answer.tests.between:
        if check.verdict is not Verdict.PASS:
            yield f"tests together: {_against(check)}"
    if answer.tests.taken < answer.tests.total:
        yield f"{answer.tests.total - answer.tests.taken} of {answer.tests.total} readings not taken"
