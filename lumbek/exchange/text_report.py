"""The results of a job as plain text, for people at a shell."""

from collections.abc import Iterator

from lumbek.core.choosing.propose import Proposals
from lumbek.core.choosing.size import Size
from lumbek.core.judging.answers import CircuitAnswer
from lumbek.core.judging.check import Check, Verdict
from lumbek.core.model.circuit import Circuit
from lumbek.core.numbers import plain

_MARKS = {Verdict.PASS: "pass", Verdict.FAIL: "FAIL", Verdict.CANNOT_TELL: "open", Verdict.NOT_APPLICABLE: "-"}


def check_lines(check: Check) -> Iterator[str]:
    """Yield a check as text: verdict, answer, place, clause; its working where it is not met."""
    prefix = {"point": "at", "leg": "cable from", "segment": "cable from"}.get(check.place.kind if check.place else "")
    where = f" {prefix} {check.place.name}" if check.place and prefix else ""
    yield f"  {_MARKS[check.verdict]:5} {check.title:24} {check.answer}{where}  [{check.clause.ref}]"
    if check.caution:
        yield f"        mind: {check.caution}"
    if check.verdict is Verdict.CANNOT_TELL:
        yield f"        needs: {'; '.join(check.missing)}"
    if check.verdict is Verdict.FAIL:
        for step in check.steps:
            yield f"        {step.text}{': ' if step.sum else ''}{step.sum}"


def _pair(size: Size) -> str:
    cpc = f"/{plain(size.cpc_mm2)}" if size.cpc_mm2 else ""
    return f"{plain(size.csa_mm2)}{cpc} mm², {plain(size.rating_a)} A{', as drawn' if size.in_force else ''}"


def proposal_lines(circuit: Circuit, proposals: Proposals) -> Iterator[str]:
    """Yield what may be done with a circuit as text: repairs, reach, sizes, protection."""
    yield f"Circuit {circuit.number}  {circuit.name}"
    for mend in proposals.mends:
        left = ", ".join(mend.leaves)
        yield f"  mend    {mend.change}: {f'leaves {left}' if left else 'then it complies'}"
    for each in proposals.rebalances:
        yield f"  mend    {each.change}"
    for limit in proposals.reach.limits:
        yield f"  reach   {limit.shown} by {limit.title.lower()}"
    for title in proposals.reach.any_length:
        yield f"  reach   any length by {title.lower()}"
    for missing in proposals.reach.missing:
        yield f"  reach   needs the {missing}"
    for size in proposals.sizes.sizes:
        yield f"  size    {_pair(size)}: {size.tightest}, {size.answer}"
    if not proposals.sizes.sizes:
        yield f"  size    none of {proposals.sizes.tried} pairs: most fall at {proposals.sizes.nearest.lower()}"
    yield f"  protect {proposals.protection.device}"
    for advice in proposals.protection.advice:
        yield f"          {'has' if advice.has else 'wants'} {advice.what}: {advice.why} [{advice.clause}]"


def circuit_lines(answer: CircuitAnswer) -> Iterator[str]:
    """Yield one circuit's results as text."""
    result = answer.result
    yield f"Circuit {answer.number}  {answer.name}: {result.shape.title}, {_MARKS[answer.verdict]}"
    for check in result.checks:
        if check.verdict is not Verdict.NOT_APPLICABLE:
            yield from check_lines(check)
    tests = answer.tests
    yield f"  tests: {tests.taken} of {tests.total} readings taken"
    for stage in tests.stages:
        for item in stage.items:
            if item.check is not None and (item.check.verdict is not Verdict.PASS or item.check.caution):
                yield from check_lines(item.check)
