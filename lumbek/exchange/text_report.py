"""The results of a job as plain text, for people at a shell."""

from collections.abc import Iterator

from lumbek.core.calculate import CircuitAnswer
from lumbek.core.result import Check, Verdict

_MARKS = {Verdict.PASS: "pass", Verdict.FAIL: "FAIL", Verdict.CANNOT_TELL: "open", Verdict.NOT_APPLICABLE: "-"}


def check_lines(check: Check) -> Iterator[str]:
    """Yield a check as text: verdict, answer, place, clause; its working where it is not met."""
    prefix = {"point": "at", "leg": "leg from", "segment": "leg from"}.get(check.place.kind if check.place else "")
    where = f" {prefix} {check.place.name}" if check.place and prefix else ""
    yield f"  {_MARKS[check.verdict]:5} {check.title:24} {check.answer}{where}  [{check.clause.ref}]"
    if check.caution:
        yield f"        mind: {check.caution}"
    if check.verdict is Verdict.CANNOT_TELL:
        yield f"        needs: {'; '.join(check.missing)}"
    if check.verdict is Verdict.FAIL:
        for step in check.steps:
            yield f"        {step.text}{': ' if step.sum else ''}{step.sum}"


def circuit_lines(answer: CircuitAnswer) -> Iterator[str]:
    """Yield one circuit's results as text."""
    result = answer.result
    yield f"Circuit {answer.number}  {answer.name}: {result.shape.title}, {_MARKS[result.verdict]}"
    for check in result.checks:
        if check.verdict is not Verdict.NOT_APPLICABLE:
            yield from check_lines(check)
    tests = answer.tests
    yield f"  tests: {tests.taken} of {tests.total} readings taken"
    for stage in tests.stages:
        for item in stage.items:
            if item.check is not None and (item.check.verdict is not Verdict.PASS or item.check.caution):
                yield from check_lines(item.check)
