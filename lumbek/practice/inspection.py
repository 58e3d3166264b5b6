"""Inspection: something that is found, as one stands before it: which code it usually has, and on what that turns."""

from typing import ClassVar

from lumbek.core.inspection.kinds import CodeAsk, FindingKind, finding_kinds, suggest
from lumbek.core.model.inspection import TurnsOn
from lumbek.practice.exercise import Choice, Kind
from lumbek.practice.quiz import Quiz, QuizQuestion, choices_of
from lumbek.practice.scenes import scene_of

_CODES = {
    "C1": "C1: danger present",
    "C2": "C2: potentially dangerous",
    "C3": "C3: improvement recommended",
    "FI": "FI: further investigation",
    "none": "nothing to record",
}
_WORSE = {"C1": 0, "C2": 1, "FI": 2, "C3": 3, "none": 4}
# By level, how many answers are known, and how many findings there are.
_FINDINGS = {1: 3, 2: 4, 3: 4, 4: 5, 5: 6}


class Coding(Quiz):
    """Findings to be coded."""

    kind: ClassVar[Kind] = "inspection"
    title = "Code what you find"

    def make(self) -> list[QuizQuestion]:
        """Return questions on findings: their code, and from the second level on what it turns on."""
        self.story = "You walk a house with the board open, the people out, and a torch."
        kinds = [
            kind for key, kind in sorted(finding_kinds().items()) if key not in ("other", "old-sound", "unexplained")
        ]
        questions: list[QuizQuestion] = []
        for kind in self.chance.sample(kinds, _FINDINGS[self.level]):
            known = self._answers(kind)
            questions.append(self._code(kind, known))
            if self.level > 1 and kind.questions:
                questions.append(self._turns_on(kind))
        return questions

    def _answers(self, kind: FindingKind) -> list[tuple[CodeAsk, str]]:
        """Return what is known: on a level above the first one answer, so that the code may be another."""
        if self.level == 1 or not kind.asks:
            return []
        ask = self.chance.choice(kind.asks)
        other = next((each.answer for each in kind.asks if each.id == ask.id and each.answer != ask.answer), "no")
        answer = self.chance.choice([ask.answer, other])
        return [(ask, answer)]

    def _code(self, kind: FindingKind, known: list[tuple[CodeAsk, str]]) -> QuizQuestion:
        found = suggest(kind.id, [TurnsOn(id=ask.id, answer=answer) for ask, answer in known])
        said = " ".join(f"{ask.asks} {answer.capitalize()}." for ask, answer in known)
        right = found.code or "none"
        harmless = {
            each: f"Left as it is, somebody may be hurt: {found.why}."
            for each in _CODES
            if right == "C1" and _WORSE[each] >= _WORSE["C3"]
        }
        return QuizQuestion(
            words=f"{kind.title}. {said} Which code?".replace("  ", " "),
            choices=choices_of(_CODES),
            right=frozenset((right,)),
            why=found.why,
            clause=kind.clause(self.school.rulebook),
            unsafe=harmless,
            hint="Would it hurt somebody now, after one more fault, or not at all?",
            picture=scene_of(kind.id),
        )

    def _turns_on(self, kind: FindingKind) -> QuizQuestion:
        own = {each.id: each.asks for each in kind.questions}
        right = self.chance.choice(sorted(own))
        others = sorted(
            {ask.asks: ask.id for one in finding_kinds().values() for ask in one.questions if ask.id not in own}.items()
        )
        wrong = self.chance.sample(others, 3)
        asked = [own[right], *(asks for asks, _ in wrong)]
        self.chance.shuffle(asked)
        return QuizQuestion(
            words=f"{kind.title}: on what does its code turn?",
            choices=tuple(Choice(id=str(at), words=asks) for at, asks in enumerate(asked)),
            right=frozenset((str(asked.index(own[right])),)),
            why="; ".join(f"{each.asks} {each.answer}: {each.code or 'nothing'}" for each in kind.asks),
            clause=kind.clause(self.school.rulebook),
        )
