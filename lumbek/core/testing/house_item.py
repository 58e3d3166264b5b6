"""One reading of the whole installation, or of an RCD that circuits share, as a line of the sheet of the house."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from lumbek.core.judging.check import Check, Place, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.reading import SEEN, Key, Quantity, Reading, set_aside, standing
from lumbek.core.rulebooks import Rulebook
from lumbek.core.testing.kind import Limit
from lumbek.core.testing.sheet import Item, earlier_of


@dataclass(frozen=True)
class HouseReadings:
    """What was read of a house: in force, set aside, and what stood before."""

    taken: Mapping[Key, Reading]
    aside: Mapping[Key, Reading]
    earlier: Mapping[Key, tuple[Reading, ...]]

    @classmethod
    def of(cls, readings: tuple[Reading, ...]) -> "HouseReadings":
        """Return the readings sorted."""
        return cls(standing(readings), set_aside(readings), earlier_of(readings))


@dataclass(frozen=True)
class HouseItem:
    """One place of the sheet: its quantity, what it is of, its titles, its limit."""

    quantity: Quantity
    point: str | None
    title: str
    unit: str
    clause: str
    limit: Limit | None
    beside: bool = False
    # What it is read at, where that has a name and a place of its own.
    at: Place | None = None

    def line(self, book: Rulebook, read: HouseReadings, figure: Callable[[Question, Reading], Check]) -> Item:
        """Return the line with what was read, judged as seen, or by `figure`."""
        key: Key = (self.quantity, self.point)
        reading = read.taken.get(key)
        return Item(
            quantity=self.quantity,
            point=self.point,
            place=self.at.name if self.at else "",
            room="",
            title=self.title,
            unit=self.unit,
            expected=None,
            limit=self.limit.shown if self.limit else "",
            sense=self.limit.sense if self.limit else None,
            reading=reading,
            check=None if reading is None else self._judged(book, reading, figure),
            beside=self.beside,
            aside=read.aside.get(key),
            earlier=read.earlier.get(key, ()),
        )

    def _judged(self, book: Rulebook, reading: Reading, figure: Callable[[Question, Reading], Check]) -> Check:
        title = f"{self.title}, {self.at.name}" if self.at else self.title
        question = Question(f"{self.quantity}:{self.point or ''}", title, title, self.clause)
        if self.quantity in SEEN:
            verdict = Verdict.PASS if reading.correct else Verdict.FAIL
            return question.check(book, verdict, "Correct" if reading.correct else "Not correct", place=self.at)
        return figure(question, reading)
