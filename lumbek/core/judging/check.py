"""What every check answers: never a bare number.

A `Check` says what was asked, the value, the limit, the margin, the verdict, the clause, the worst place, and its
working as steps that a person can follow with a calculator. "Cannot tell" names the input that is missing.
"""

from collections.abc import Iterable
from enum import StrEnum
from typing import Literal

from lumbek.core.value import Frozen


class Verdict(StrEnum):
    """The outcome of a check."""

    PASS = "pass"  # noqa: S105 - a verdict, not a password
    FAIL = "fail"
    CANNOT_TELL = "cannot-tell"
    NOT_APPLICABLE = "not-applicable"


class Clause(Frozen):
    """The clause a check applies, in the rulebook in force."""

    rulebook: str
    ref: str
    text: str


class Place(Frozen):
    """Where in a circuit or a house a figure is worst."""

    kind: Literal["point", "leg", "segment", "circuit", "supply", "board", "group", "way"]
    id: str
    name: str


class Step(Frozen):
    """One line of working: what is worked out, and the arithmetic with its result."""

    text: str
    sum: str = ""


# What an inspector records of a departure; `none` where nothing is to be recorded, nothing where nobody has asked.
Code = Literal["", "C1", "C2", "C3", "FI", "none"]


class Check(Frozen):
    """The answer to one question about a circuit or a supply.

    `shown_value`, `shown_limit` and `shown_margin` are the figures as texts, rounded against the user; nothing else
    is to be shown.
    `margin` is the part of the limit that is left: positive inside the limit, negative beyond it. A `caution`
    goes with a check that is met and still deserves a look.
    """

    id: str
    title: str
    asks: str
    verdict: Verdict
    answer: str
    value: float | None = None
    limit: float | None = None
    shown_value: str = ""
    shown_limit: str = ""
    shown_margin: str = ""
    sense: Literal["at most", "at least"] | None = None
    unit: str = ""
    decimals: int = 2
    margin: float | None = None
    clause: Clause
    place: Place | None = None
    steps: tuple[Step, ...] = ()
    missing: tuple[str, ...] = ()
    # The same as codes, in the same order.
    missing_codes: tuple[str, ...] = ()
    caution: str = ""
    # Of something existing: the code that an inspector usually gives it, or `none`, and why. A person decides.
    code: Code = ""
    code_why: str = ""


# Far more than adding some hundred figures loses, and far less than any figure is known to.
_HAIR = 1e-10


def hold(value: float, limit: float, sense: Literal["at most", "at least"]) -> tuple[Verdict, float | None]:
    """Return the verdict and margin of an unrounded value against an unrounded limit.

    The margin is (limit - value) / limit for an upper limit and (value - limit) / limit for a lower one,
    or None where the limit is zero. Figures that only the hair of binary fractions parts are equal: fifteen times
    0.4 A is 6 A.
    """
    room = limit - value if sense == "at most" else value - limit
    if abs(room) <= _HAIR * abs(limit):
        room = 0.0
    return (Verdict.PASS if room >= 0 else Verdict.FAIL), (room / abs(limit) if limit else None)


def overall(checks: Iterable[Check]) -> Verdict:
    """Return the verdict on several checks together: one failure fails, one unknown leaves it open."""
    return worst_of(check.verdict for check in checks)


def worst_of(verdicts: Iterable[Verdict]) -> Verdict:
    """Return several verdicts as one: the worst that is among them."""
    found = set(verdicts)
    for verdict in (Verdict.FAIL, Verdict.CANNOT_TELL, Verdict.PASS):
        if verdict in found:
            return verdict
    return Verdict.NOT_APPLICABLE
