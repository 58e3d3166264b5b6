"""What a check asks, once for all its answers: the verdict, what is missing, or why it does not apply.

The one builder of checks, for circuits, surveys and readings alike.
"""

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal, Protocol, TypedDict, Unpack

from lumbek.core.judging.check import Check, Clause, Code, Place, Step, Verdict, hold
from lumbek.core.missing import code_of
from lumbek.core.numbers import show, show_held, show_margin

Sense = Literal["at most", "at least"]


class Clauses(Protocol):
    """Whatever knows the clauses in force: a rulebook, or what is judged by it."""

    def clause(self, key: str) -> Clause:
        """Return a clause by its key."""


class Details(TypedDict, total=False):
    """What may go with an answer: the fields of `Check` of the same names."""

    unit: str
    decimals: int
    place: Place | None
    steps: tuple[Step, ...]
    caution: str
    code: Code
    code_why: str


class Figures(Details, total=False):
    """The same with the clause, and the figures themselves where holding one against the other does not decide."""

    clause: Clause
    value: float | None
    limit: float | None
    sense: Sense | None
    margin: float | None
    missing: tuple[str, ...]


@dataclass(frozen=True, eq=False)
class Question:
    """A check by its id, what it is called, what it asks, and the clause it most often applies: one of each."""

    id: str
    title: str
    asks: str
    clause: str

    def check(self, book: Clauses, verdict: Verdict, answer: str, **details: Unpack[Figures]) -> Check:
        """Return an answer to this question; `{value}` and `{limit}` in it stand for the figures as they are shown."""
        clause = details["clause"] if "clause" in details else book.clause(self.clause)
        return self.answered(clause, verdict, answer, details)

    def answered(self, clause: Clause, verdict: Verdict, answer: str, details: Figures) -> Check:
        """Return the same by a clause that is known."""
        shown_value, shown_limit = _shown(details)
        fields: Figures = {**details, "clause": clause}
        return Check(
            id=self.id,
            title=self.title,
            asks=self.asks,
            verdict=verdict,
            answer=answer.replace("{value}", shown_value).replace("{limit}", shown_limit),
            shown_value=shown_value,
            shown_limit=shown_limit,
            shown_margin=_shown_margin(verdict, details),
            missing_codes=tuple(code_of(each) for each in fields.get("missing", ())),
            **fields,
        )

    def held(
        self,
        book: Clauses,
        value: float,
        limit: float,
        sense: Sense,
        answer: str,
        *,
        clause: Clause | None = None,
        has_margin: bool = True,
        **details: Unpack[Details],
    ) -> Check:
        """Return the answer that follows from holding an unrounded value against its unrounded limit.

        A margin says nothing where the value is only taken for granted.
        """
        verdict, margin = hold(value, limit, sense)
        return self.check(
            book,
            verdict,
            answer,
            clause=clause or book.clause(self.clause),
            value=value,
            limit=limit,
            sense=sense,
            margin=margin if has_margin else None,
            **details,
        )

    def cannot_tell(
        self,
        book: Clauses,
        missing: tuple[str, ...],
        clause: str | None = None,
        answer: str = "",
        **details: Unpack[Details],
    ) -> Check:
        """Return an answer that waits for inputs, and names them."""
        needs = _needs(missing[0]) + (f", and {len(missing) - 1} more" if len(missing) > 1 else "")
        where = book.clause(clause or self.clause)
        return self.check(book, Verdict.CANNOT_TELL, answer or needs, clause=where, missing=missing, **details)

    def not_applicable(self, book: Clauses, why: str) -> Check:
        """Return that the question does not arise, and why."""
        return _does_not_arise(self, book.clause(self.clause), why)


@lru_cache(maxsize=2048)
def _does_not_arise(question: Question, clause: Clause, why: str) -> Check:
    """Return that a question does not arise: of most circuits the same is said, so it is kept."""
    return question.answered(clause, Verdict.NOT_APPLICABLE, why, {})


def _needs(missing: str) -> str:
    """Return what an answer waits for as a sentence."""
    return f"Needs to know {missing}" if missing.startswith(("whether ", "what ", "where ")) else f"Needs the {missing}"


def _shown_margin(verdict: Verdict, figures: Figures) -> str:
    """Return in words what is left of the limit; nothing where there is no margin, or the verdict is another's."""
    margin = figures.get("margin")
    if margin is None or verdict not in (Verdict.PASS, Verdict.FAIL):
        return ""
    return show_margin(margin, figures.get("sense"))


def _shown(figures: Figures) -> tuple[str, str]:
    """Return value and limit as texts; nothing for what is not there."""
    value, limit, decimals = figures.get("value"), figures.get("limit"), figures.get("decimals", 2)
    sense = figures.get("sense")
    if value is None or limit is None or sense is None:
        return "" if value is None else show(value, decimals), "" if limit is None else show(limit, decimals)
    # What is met as a figure may fail for another reason; the two are told apart as figures.
    met = hold(value, limit, sense)[0] is Verdict.PASS
    return show_held(value, limit, sense, met, decimals)
