"""The sorts of thing that are found, and the code each usually has: what it turns on is asked, and a person decides.

BS 7671 Part 6 with the trade's guidance on codes, as a table of questions.
"""

import json
from collections.abc import Iterable
from functools import cache

from lumbek.core.judging.check import Code
from lumbek.core.model.inspection import TurnsOn
from lumbek.core.rulebooks.tables import DATA
from lumbek.core.value import Frozen


class CodeAsk(Frozen):
    """A question that a code turns on: where it is answered so, the code is this one."""

    id: str
    asks: str
    answer: str
    code: Code
    why: str


class UsualCode(Frozen):
    """A code and why."""

    code: Code
    why: str


class FindingKind(Frozen):
    """A sort of thing that is found. `usual` holds while nobody has answered anything."""

    id: str
    title: str
    clauses: dict[str, str]
    usual: UsualCode
    asks: tuple[CodeAsk, ...]

    def clause(self, rulebook: str) -> str:
        """Return the clause it departs from."""
        return self.clauses.get(rulebook, "")

    @property
    def questions(self) -> tuple[CodeAsk, ...]:
        """Its questions, each once."""
        return tuple({each.id: each for each in reversed(self.asks)}.values())[::-1]


class Suggestion(Frozen):
    """The code that is suggested, why, and the questions nobody has answered that could make it another."""

    code: Code
    why: str
    open: tuple[CodeAsk, ...]


@cache
def finding_kinds() -> dict[str, FindingKind]:
    """Return every sort of thing by its id."""
    raw = json.loads((DATA / "common" / "findings.json").read_text(encoding="utf-8"))
    return {
        key: FindingKind(
            id=key,
            title=each["title"],
            clauses=each["clause"],
            usual=UsualCode(code=each["usual"][0], why=each["usual"][1]),
            asks=tuple(CodeAsk.model_validate(ask) for ask in each["asks"]),
        )
        for key, each in raw.items()
    }


def suggest(kind_id: str, answers: Iterable[TurnsOn] = ()) -> Suggestion:
    """Return the code that a sort of thing usually has by what was answered; `other` stands for one nobody knows.

    The first question in order that is answered so decides; questions before it are open where nobody answered them.
    """
    kind = finding_kinds().get(kind_id) or finding_kinds()["other"]
    said = {each.id: each.answer for each in answers}
    open_: dict[str, CodeAsk] = {}
    for ask in kind.asks:
        if ask.id not in said:
            open_.setdefault(ask.id, ask)
        elif said[ask.id] == ask.answer:
            return Suggestion(code=ask.code, why=ask.why, open=tuple(open_.values()))
    return Suggestion(code=kind.usual.code, why=kind.usual.why, open=tuple(open_.values()))


def answers_behind(kind_id: str, code: Code) -> tuple[TurnsOn, ...]:
    """Return what has to be answered for a code to be the usual one: what a check knows that gave it this code."""
    kind = finding_kinds()[kind_id]
    if suggest(kind_id).code == code:
        return ()
    ask = next((each for each in kind.asks if each.code == code), None)
    return () if ask is None else (TurnsOn.model_validate({"id": ask.id, "answer": ask.answer}),)
