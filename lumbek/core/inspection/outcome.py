"""Whether an installation is satisfactory for going on in use: by the codes, and nobody overrides that."""

from collections.abc import Iterable
from typing import Literal

from lumbek.core.inspection.standing import StandingFinding
from lumbek.core.judging.check import Code
from lumbek.core.value import Frozen

CODES: tuple[Code, ...] = ("C1", "C2", "C3", "FI")
_BAD: tuple[Code, ...] = ("C1", "C2", "FI")
CODE_WORDS: dict[Code, str] = {
    "": "not coded yet",
    "C1": "danger present: acted on at once",
    "C2": "potentially dangerous: urgent",
    "C3": "improvement recommended",
    "FI": "further investigation without delay",
    "none": "nothing to record",
}


class Outcome(Frozen):
    """The outcome: by how many of each code; open while a finding has none."""

    word: Literal["satisfactory", "unsatisfactory", "open"]
    counts: dict[str, int]
    uncoded: int


def outcome_of(findings: Iterable[StandingFinding], undecided: int = 0) -> Outcome:
    """Return the outcome of findings inside the extent: any C1, C2 or FI makes it unsatisfactory.

    It is satisfactory only where nothing is left `undecided`: items nobody has looked at, offers nobody has answered.
    What was put right since stays what it was when it was found: that it is put right, another paper says.
    """
    codes = [each.said.code for each in findings if each.said.status != "outside"]
    counts = {code: codes.count(code) for code in CODES}
    uncoded = codes.count("")
    if any(counts[code] for code in _BAD):
        return Outcome(word="unsatisfactory", counts=counts, uncoded=uncoded)
    return Outcome(word="open" if uncoded or undecided else "satisfactory", counts=counts, uncoded=uncoded)
