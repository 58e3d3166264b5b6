"""What a check asks, once for all its answers: the verdict, what is missing, or why it does not apply."""

from dataclasses import dataclass
from typing import Literal, TypedDict, Unpack

from lumbek.core.context import Context
from lumbek.core.result import Check, Clause, Place, Step, Verdict, judge

Sense = Literal["at most", "at least"]


class Details(TypedDict, total=False):
    """What may go with an answer: the fields of `Check` of the same names."""

    unit: str
    decimals: int
    clause: Clause
    place: Place | None
    steps: tuple[Step, ...]
    caution: str


class Figures(Details, total=False):
    """The same with the figures themselves, where holding one against the other does not decide."""

    value: float | None
    limit: float | None
    sense: Sense | None
    margin: float | None
    missing: tuple[str, ...]


@dataclass(frozen=True)
class Question:
    """A check by its id, what it is called, what it asks, and the clause it most often applies."""

    id: str
    title: str
    asks: str
    clause: str

    def check(self, context: Context, verdict: Verdict, answer: str, **details: Unpack[Figures]) -> Check:
        """Return an answer to this question."""
        fields = {"clause": context.clause(self.clause), **details}
        return Check.model_validate(
            {"id": self.id, "title": self.title, "asks": self.asks, "verdict": verdict, "answer": answer, **fields}
        )

    def held(
        self,
        context: Context,
        value: float,
        limit: float,
        sense: Sense,
        answer: str,
        **details: Unpack[Details],
    ) -> Check:
        """Return the answer that follows from holding an unrounded value against its unrounded limit."""
        verdict, margin = judge(value, limit, sense)
        return self.check(context, verdict, answer, value=value, limit=limit, sense=sense, margin=margin, **details)

    def cannot_tell(self, context: Context, missing: tuple[str, ...], clause: str | None = None) -> Check:
        """Return an answer that waits for inputs, and names them."""
        return self.check(
            context,
            Verdict.CANNOT_TELL,
            f"Needs the {missing[0]}" if len(missing) == 1 else f"Needs {len(missing)} inputs",
            clause=context.clause(clause or self.clause),
            missing=missing,
        )

    def not_applicable(self, context: Context, why: str) -> Check:
        """Return that the question does not arise, and why."""
        return self.check(context, Verdict.NOT_APPLICABLE, why)
