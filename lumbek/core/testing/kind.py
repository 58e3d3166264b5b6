"""What a kind of reading knows of itself; each kind has a file of its own in `kinds`."""

from abc import ABC, abstractmethod
from dataclasses import dataclass
from typing import ClassVar

from lumbek.core.judging.check import Check, Place, Step, Verdict
from lumbek.core.judging.question import Question, Sense
from lumbek.core.model.reading import Quantity, Reading
from lumbek.core.network.flows import is_open
from lumbek.core.network.measure import Measurement, measure
from lumbek.core.numbers import plain, show
from lumbek.core.study.study import Study
from lumbek.core.testing.band import Expected, band
from lumbek.core.testing.daily import expected_by_readings
from lumbek.core.testing.taken import Taken


@dataclass(frozen=True)
class Limit:
    """The figure a reading is held to, unrounded, and as it is shown: rounded against the user."""

    value: float
    sense: Sense
    shown: str


@dataclass(frozen=True)
class Kind(ABC):
    """A kind of reading: quantity, title and unit, how it is set up, what is expected, its limit, its verdict."""

    quantity: Quantity
    title: str
    unit: ClassVar[str] = "Ω"
    # The clause that asks for it.
    clause: ClassVar[str] = ""

    def measurement(self, study: Study, point: str | None) -> Measurement | None:  # noqa: ARG002 - most need neither
        """Return how it is taken, as data; None where no network gives it."""
        return None

    def expected(self, taken: Taken, point: str | None) -> Expected | None:
        """Return what the tester should read, from the network; None where the network cannot say."""
        wires = taken.study.wires
        if wires.wired is None:
            return expected_by_readings(taken, self.quantity, point)
        how = self.measurement(taken.study, point)
        if how is None:
            return None
        ohm = measure(wires.wired, how)
        if is_open(ohm):
            return None
        rulebook = taken.study.rulebook
        return band(rulebook, ohm * rulebook.temperature_factor(taken.ambient_c), self.outside_ohm(taken.study))

    def outside_ohm(self, study: Study) -> float:  # noqa: ARG002 - only a loop has anything there
        """Return what lies outside the circuit in this reading, in Ω."""
        return 0.0

    def limit(self, taken: Taken, point: str | None) -> Limit | None:  # noqa: ARG002 - most have none
        """Return what the reading is held to by itself; None where nothing is."""
        return None

    @abstractmethod
    def judge(self, taken: Taken, reading: Reading, asks: "Asked") -> Check:
        """Return what one reading means."""


@dataclass(frozen=True)
class Asked:
    """One reading's question: its words and its place."""

    question: Question
    place: Place

    @classmethod
    def of(cls, kind: Kind, study: Study, point: str | None) -> "Asked":
        """Return the question that a reading of this kind at this point answers."""
        title = f"{kind.title}, {study.circuit.point_title(point)}" if point else kind.title
        place = study.point_place(point) if point else study.whole
        return cls(Question(f"{kind.quantity}:{point or ''}", title, title, kind.clause), place)


def said(reading: Reading, unit: str) -> str:
    """Return a reading as it was entered."""
    return f"{'> ' if reading.beyond else ''}{plain(reading.value or 0.0)} {unit}"


def judge_seen(taken: Taken, reading: Reading, asked: Asked) -> Check:
    """Return what it means that something was seen to be right or wrong."""
    right = bool(reading.correct)
    return asked.question.check(
        taken.study,
        Verdict.PASS if right else Verdict.FAIL,
        "Correct" if right else "Not correct",
        place=asked.place,
    )


def judge_continuity(taken: Taken, reading: Reading, asked: Asked, expected: Expected | None) -> Check:
    """Return what the resistance of a conductor means beside what was expected: open fails, unlikely is warned of."""
    value = reading.value or 0.0
    if reading.beyond:
        return asked.question.check(
            taken.study,
            Verdict.FAIL,
            f"{said(reading, 'Ω')}: open",
            value=value,
            unit="Ω",
            place=asked.place,
            steps=(Step(text="The conductor is not continuous: find the break before going on"),),
        )
    caution = ""
    if expected is not None and value > expected.high:
        caution = f"Over the {expected.shown} Ω expected: a loose joint, or more cable than drawn."
    elif expected is not None and value < expected.low:
        caution = f"Under the {expected.shown} Ω expected: a short cut, a link, or less cable than drawn."
    if expected is not None and not taken.ranged and not expected.least <= value <= expected.most:
        return unlikely(taken, reading, asked, caution, expected_step(expected))
    return asked.question.check(
        taken.study,
        Verdict.PASS,
        said(reading, "Ω"),
        value=value,
        unit="Ω",
        place=asked.place,
        caution=caution,
        steps=expected_step(expected),
    )


def unlikely(taken: Taken, reading: Reading, asked: Asked, why: str, steps: tuple[Step, ...]) -> Check:
    """Return that a reading proves nothing: no sound circuit of this drawing reads so, and why it may."""
    return asked.question.check(
        taken.study,
        Verdict.CANNOT_TELL,
        f"{said(reading, 'Ω')}: no sound circuit as drawn reads that",
        value=reading.value,
        unit="Ω",
        place=asked.place,
        missing=("reason of the reading",),
        caution=why,
        steps=steps,
    )


def expected_step(expected: Expected | None) -> tuple[Step, ...]:
    """Write out what was expected."""
    if expected is None:
        return ()
    return (
        Step(
            text="Expected, with room for lengths and joints",
            sum=f"{expected.shown} Ω ({show(expected.low)} to {show(expected.high)})",
        ),
    )
