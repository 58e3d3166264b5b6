"""What a paper wants of readings and findings: what is offered and undecided, dangers open, readings not taken."""

from lumbek.core.documents.asking import Asking
from lumbek.core.documents.gathered import Gathered
from lumbek.core.inspection.tested_again import tested_again
from lumbek.core.inspection.whole import InspectionWhole
from lumbek.core.judging.check import Verdict

FINDINGS = "inspection/findings"
# What lives hang on: an answer that is open keeps a report open.
_SAFETY = ("zs", "cpc", "rcd", "bath", "bath-bonding", "shape")


def want_findings(whole: InspectionWhole, asking: Asking) -> None:
    """Want an answer to every danger, a word on every offer and a code for every finding."""
    for finding in whole.findings:
        if finding.said.finding in whole.dangers:
            asking.want(f"DANGER not dealt with: {finding.said.seen[:60]}", f"{FINDINGS}/{finding.said.finding}")
        if not finding.said.code and finding.said.status != "outside":
            asking.want(f"No code yet: {finding.said.seen[:60]}", f"{FINDINGS}/{finding.said.finding}")
    for offer in whole.offers:
        asking.want(f"Take or dismiss: {offer.title}, {offer.where}", f"inspection/offers/{offer.key}")


def want_readings(gathered: Gathered, whole: InspectionWhole, asking: Asking) -> None:
    """Want every reading that the plan of the job asks for, or the reason why it was not taken."""
    job, sheet = gathered.job, gathered.sheet
    if sheet.taken < sheet.total:
        asking.want(f"Installation: {sheet.total - sheet.taken} of {sheet.total} readings not taken", "tests")
    for circuit, answer in zip(job.circuits, gathered.answers, strict=True):
        name = f"Circuit {answer.number}, {answer.name}"
        tests = answer.tests
        if tests.taken < tests.total:
            asking.want(
                f"{name}: {tests.total - tests.taken} of {tests.total} readings not taken", f"tests/{circuit.key}"
            )
        for check in answer.result.checks:
            if check.id in _SAFETY and check.verdict is Verdict.CANNOT_TELL and not _found(whole, circuit.key):
                missing = f": {check.missing[0]}" if check.missing else ""
                asking.want(f"{name}: {check.title} cannot be told{missing}", f"circuits/{circuit.key}")
    want_tests_again(gathered, asking)


def want_tests_again(gathered: Gathered, asking: Asking) -> None:
    """Want the tests of what was touched by a repair after it."""
    for again in tested_again(gathered):
        asking.want(f"Read again after the repair: {again.words}", f"tests/{again.circuit}")


def _found(whole: InspectionWhole, key: str) -> bool:
    """Whether a circuit is said to need further investigation: what cannot be told of it is recorded so."""
    return any(each.said.code == "FI" and each.said.spot.circuit == key for each in whole.findings)
