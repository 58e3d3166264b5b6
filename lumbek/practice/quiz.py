"""Exercises of several questions: one answer each, told at once whether it was right, why, and by which clause."""

from abc import abstractmethod
from collections.abc import Mapping
from dataclasses import dataclass, field

from lumbek.core.numbers import plain
from lumbek.practice.exercise import Act, Ask, BadActError, CameOf, Choice, Exercise, Reckoning, School
from lumbek.practice.pictures import Picture

_MINUTES = 1


@dataclass(frozen=True)
class QuizQuestion:
    """A question: what may be answered, what is right, why; what is dangerous to believe.

    A figure is right within `within` of itself, as a part.
    """

    words: str
    choices: tuple[Choice, ...] = ()
    right: frozenset[str] = frozenset()
    why: str = ""
    clause: str = ""
    unsafe: Mapping[str, str] = field(default_factory=dict)
    hint: str = ""
    picture: Picture | None = None
    figure: float | None = None
    within: float = 0.10
    unit: str = ""
    several: bool = False
    # What is told of the right figure, where more than the figure is.
    shown: str = ""

    @property
    def answer(self) -> str:
        """The right answer in words."""
        if self.figure is not None:
            return self.shown or f"{plain(round(self.figure, 3))} {self.unit}"
        return " and ".join(each.words for each in self.choices if each.id in self.right)

    def is_right(self, act: Act) -> bool:
        """Whether an act answers it rightly."""
        if self.figure is not None:
            return act.figure is not None and abs(act.figure - self.figure) <= self.within * abs(self.figure) + 1e-9
        return self.said(act) == self.right

    def said(self, act: Act) -> frozenset[str]:
        """Return what was chosen."""
        return frozenset(act.choices) if self.several else frozenset((act.choice,))

    def need_answer(self, act: Act) -> None:
        """Refuse what is no answer to it. Raises BadActError."""
        if self.figure is not None:
            if act.figure is None:
                raise BadActError("figure: say a figure.")
            return
        if not self.said(act) <= {each.id for each in self.choices} or not self.said(act):
            raise BadActError("choice: that is not there to choose.")

    def words_of(self, act: Act) -> str:
        """Return what was answered, in words."""
        if self.figure is not None:
            return f"{plain(act.figure or 0.0)} {self.unit}"
        return " and ".join(each.words for each in self.choices if each.id in self.said(act))


class Quiz(Exercise):
    """Questions one after the other."""

    def __init__(self, seed: int, level: int, school: School) -> None:
        """Make the questions."""
        super().__init__(seed, level, school)
        self.questions = self.make()
        self.right: list[bool] = []
        self.unsafe = False

    @abstractmethod
    def make(self) -> list[QuizQuestion]:
        """Return the questions."""

    @property
    def now(self) -> QuizQuestion | None:
        """The question that is asked now."""
        return self.questions[len(self.right)] if len(self.right) < len(self.questions) else None

    @property
    def is_over(self) -> bool:
        """Whether every question is answered."""
        return self.now is None

    def ask(self) -> Ask | None:
        """Return the question as it is asked."""
        question = self.now
        if question is None:
            return None
        return Ask(
            words=f"{len(self.right) + 1} of {len(self.questions)}: {question.words}",
            choices=question.choices,
            several=question.several,
            unit=question.unit if question.figure is not None else "",
            picture=question.picture,
        )

    def more_hints(self) -> tuple[str, ...]:
        """Return the hint of the question."""
        return (self.now.hint,) if self.now is not None and self.now.hint else ()

    def take(self, act: Act) -> None:
        """Answer the question."""
        question = self.now
        assert question is not None, "an exercise that is over takes no act"
        question.need_answer(act)
        is_right = question.is_right(act)
        danger = next((question.unsafe[each] for each in question.said(act) if each in question.unsafe), "")
        self.minutes += _MINUTES
        self.right.append(is_right)
        self.unsafe = self.unsafe or bool(danger)
        self.seen.append(
            CameOf(
                did=f"{question.words} {question.words_of(act)}",
                came="Right." if is_right else f"No: {question.answer}. {danger}".strip(),
                good=is_right,
                unsafe=bool(danger),
                why=question.why,
                clause=question.clause,
            )
        )

    def reckon(self) -> Reckoning:
        """Return marks: an answer that would hurt somebody leaves none."""
        right, asked = sum(self.right), len(self.questions)
        said = ("An answer like that would have hurt somebody: see above.",) if self.unsafe else ()
        return self.reckoned(not self.unsafe, right, asked, asked * _MINUTES, right / asked, said)

    def way(self) -> Act:
        """Answer rightly."""
        question = self.now
        assert question is not None, "an exercise that is over has no way on"
        if question.figure is not None:
            return Act(figure=question.figure)
        if question.several:
            return Act(choices=tuple(sorted(question.right)))
        return Act(choice=next(iter(question.right)))


def choices_of(pairs: Mapping[str, str]) -> tuple[Choice, ...]:
    """Return choices by their ids and words."""
    return tuple(Choice(id=each, words=words) for each, words in pairs.items())
