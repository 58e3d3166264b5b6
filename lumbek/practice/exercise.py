"""What every exercise is to whoever takes it: what is shown, what may be done, what came of it, and the reckoning.

Kind, level, seed and school make an exercise, and what was done makes the rest: nothing else is kept. What it hides
never leaves it before it has ended.
"""

from abc import ABC, abstractmethod
from collections.abc import Sequence
from random import Random
from typing import Annotated, ClassVar, Literal

from pydantic import Field

from lumbek.core.model.cable import Colours
from lumbek.core.model.job import RulebookId
from lumbek.core.model.scheme import LightingSchool
from lumbek.core.model.text import Id, Name
from lumbek.core.rulebooks import Rulebook, load_rulebook
from lumbek.core.value import Frozen
from lumbek.practice.pictures import Picture

Kind = Literal["accessories", "switching", "isolation", "testing", "faults", "design", "inspection"]
Level = Annotated[int, Field(ge=1, le=5)]
Seed = Annotated[int, Field(ge=0, le=10**9)]
MOST_LEVEL = 5
# A hint costs so many of a hundred marks.
HINT_COSTS = 10
# What making good takes, beside a box opened, which is 1: a wall or a floor opened for a cable.
DUST_OF_A_WALL = 5
# So much dust more than where none has to be halves what counts for economy.
DUST_THAT_HALVES = 8
# Raised where the same number makes another exercise than before: what was begun with another is not carried on.
MAKES = 3
# No exercise takes more acts than this.
MOST_ACTS = 400


class School(Frozen):
    """By which rules, in which colours and with the feed looped where one learns."""

    rulebook: RulebookId = "bs7671"
    colours: Colours = "harmonised"
    loop: LightingSchool = "at-switch"


class Choice(Frozen):
    """Something that may be done or said; `minutes` where it takes any, `dust` where it makes any."""

    id: str
    words: str
    group: str = ""
    minutes: int = 0
    dust: int = 0


class Together(Frozen):
    """Something that is done to several at once: what is chosen is its id and theirs, with a plus between them."""

    id: str
    words: str
    group: str
    minutes: int
    of: tuple[Choice, ...]


class WireEnd(Frozen):
    """The end of a core in a box: which cable it is of, its colour, where that goes."""

    leg: str
    core: str
    colour: str
    to: str


class WireBox(Frozen):
    """A box to be wired: its terminals, how many connectors there are, and the ends that come into it."""

    place: str
    title: str
    terminals: tuple[str, ...]
    connectors: int
    ends: tuple[WireEnd, ...]


class Ask(Frozen):
    """What is asked now: one of several, some of several, a figure, or boxes to be wired."""

    words: str
    choices: tuple[Choice, ...] = ()
    together: tuple[Together, ...] = ()
    several: bool = False
    unit: str = ""
    boxes: tuple[WireBox, ...] = ()
    picture: Picture | None = None


class CameOf(Frozen):
    """Something that was done, and what came of it; `good` is None where that is neither."""

    did: str
    came: str
    good: bool | None = None
    unsafe: bool = False
    why: str = ""
    clause: str = ""


class Reckoning(Frozen):
    """How an exercise went: safety first, then right, then economy."""

    safe: bool
    right: int
    asked: int
    minutes: int
    least_minutes: int
    dust: int
    least_dust: int
    hints: int
    marks: int
    said: tuple[str, ...] = ()
    debrief: tuple[CameOf, ...] = ()


class ExerciseView(Frozen):
    """An exercise as it stands for whoever takes it."""

    kind: Kind
    level: int
    seed: int
    school: School
    title: str
    story: str
    picture: Picture | None
    seen: tuple[CameOf, ...]
    ask: Ask | None
    minutes: int
    dust: int
    hints: tuple[str, ...]
    hints_left: int
    reckoning: Reckoning | None


class WiredEnd(Frozen):
    """Where the end of a core goes: into a terminal, or a connector by its letter; else it is left off."""

    place: Id
    leg: Id
    core: Annotated[str, Field(max_length=4)]
    into: Annotated[str, Field(max_length=12)] = ""
    marked: Literal["line", "neutral", "earth"] | None = None


class LinkWire(Frozen):
    """A short wire between two terminals of a box."""

    place: Id
    a: Annotated[str, Field(max_length=12)]
    b: Annotated[str, Field(max_length=12)]


class Act(Frozen):
    """What somebody does in an exercise: choose, say a figure, wire, or ask for a hint."""

    choice: Annotated[str, Field(max_length=120)] = ""
    choices: Annotated[tuple[Name, ...], Field(max_length=40)] = ()
    figure: Annotated[float, Field(ge=-1e9, le=1e9, allow_inf_nan=False)] | None = None
    wired: Annotated[tuple[WiredEnd, ...], Field(max_length=200)] = ()
    links: Annotated[tuple[LinkWire, ...], Field(max_length=60)] = ()
    hint: bool = False


class BadActError(ValueError):
    """Why something cannot be done in an exercise as it stands."""


class Exercise(ABC):
    """An exercise: made by its seed, carried on by acts."""

    kind: ClassVar[Kind]
    title: ClassVar[str]

    def __init__(self, seed: int, level: int, school: School) -> None:
        """Make it."""
        self.seed, self.level, self.school = seed, level, school
        self.chance = Random(f"{self.kind}/{level}/{seed}")
        self.book: Rulebook = load_rulebook(school.rulebook)
        self.seen: list[CameOf] = []
        self.minutes = self.dust = 0
        self.hints: list[str] = []
        self.story = ""

    @abstractmethod
    def ask(self) -> Ask | None:
        """Return what is asked now; None when it has ended."""

    @abstractmethod
    def take(self, act: Act) -> None:
        """Carry on by an act that is no hint. Raises BadActError."""

    @abstractmethod
    def reckon(self) -> Reckoning:
        """Return how it went, once it has ended."""

    @abstractmethod
    def way(self) -> Act:
        """Return what somebody who knows would do now: safe, and right."""

    def picture(self) -> Picture | None:
        """Return what is seen all along."""
        return None

    def more_hints(self) -> Sequence[str]:
        """Return the hints for what is asked now, in their order."""
        return ()

    @property
    @abstractmethod
    def is_over(self) -> bool:
        """Whether it has ended: nothing is asked any more."""

    def act(self, act: Act) -> None:
        """Carry on by an act. Raises BadActError."""
        if self.is_over:
            raise BadActError("This exercise has ended.")
        if not act.hint:
            self.take(act)
            return
        left = [each for each in self.more_hints() if each not in self.hints]
        if not left:
            raise BadActError("There is no hint left for this.")
        self.hints.append(left[0])

    def view(self) -> ExerciseView:
        """Return it as it is shown."""
        ask = self.ask()
        return ExerciseView(
            kind=self.kind,
            level=self.level,
            seed=self.seed,
            school=self.school,
            title=self.title,
            story=self.story,
            picture=self.picture(),
            seen=tuple(self.seen),
            ask=ask,
            minutes=self.minutes,
            dust=self.dust,
            hints=tuple(self.hints),
            hints_left=sum(each not in self.hints for each in self.more_hints()) if ask else 0,
            reckoning=self.reckon() if ask is None else None,
        )

    def reckoned(
        self,
        safe: bool,
        right: int,
        asked: int,
        least_minutes: int,
        share: float,
        said: Sequence[str] = (),
        debrief: Sequence[CameOf] = (),
        least_dust: int = 0,
    ) -> Reckoning:
        """Return how it went; `share` is how much of it is right, less what is taken off.

        Marks of a hundred: none where somebody would have been hurt; right counts more than economy, which is that of
        minutes times that of dust.
        """
        swept = min((least_dust + DUST_THAT_HALVES) / (self.dust + DUST_THAT_HALVES), 1.0)
        economy = min(least_minutes / max(self.minutes, 1), 1.0) * swept
        full = 100 * max(share, 0.0) * (0.75 + 0.25 * economy)
        return Reckoning(
            safe=safe,
            right=right,
            asked=asked,
            minutes=self.minutes,
            least_minutes=least_minutes,
            dust=self.dust,
            least_dust=least_dust,
            hints=len(self.hints),
            marks=max(0, round(full) - HINT_COSTS * len(self.hints)) if safe else 0,
            said=tuple(said),
            debrief=tuple(debrief),
        )


def solved(exercise: Exercise) -> list[Act]:
    """Go through an exercise as one who knows; return what was done."""
    done: list[Act] = []
    while not exercise.is_over:
        done.append(exercise.way())
        exercise.act(done[-1])
        if len(done) >= MOST_ACTS:
            raise ValueError(f"no way through {exercise.kind} {exercise.level}/{exercise.seed}")
    return done


def need_choice(ask: Ask | None, act: Act) -> Choice:
    """Return what was chosen. Raises BadActError where it is not there to choose."""
    found = next((each for each in ask.choices if each.id == act.choice), None) if ask else None
    if found is None:
        raise BadActError("choice: that is not there to choose.")
    return found
