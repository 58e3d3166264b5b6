"""A reading off the tester, as it was entered, for ever."""

import re
from calendar import monthrange
from collections.abc import Iterator, Mapping
from typing import Annotated, Literal, Self

from pydantic import AfterValidator, Field, StringConstraints, model_validator

from lumbek.core.model.text import Figure, Id, Name, Note
from lumbek.core.value import Frozen

Quantity = Literal[
    # Of a circuit, in the order of testing.
    "isolation",
    "own-electrode",
    "r1",
    "rn",
    "r2",
    "cross-ln",
    "cross-le",
    "r1+r2",
    "r1+rn",
    "r2-lead",
    "insulation-ll",
    "insulation-le",
    "insulation-l-e",
    "insulation-n-e",
    "polarity",
    "live-reason",
    "zs",
    "volt-drop",
    "rcd-half",
    "rcd-trip",
    "rcd-five",
    "rcd-button",
    "afdd-button",
    "phase-sequence",
    "function",
    # A measurement that was asked for to find a fault: `test` says which.
    "trace",
    # Of the whole installation.
    "earth-continuity",
    "bonding",
    "electrode",
    "board-insulation",
    "supply-polarity",
    "ze",
    "fault-current",
    "fault-current-le",
    "fault-current-3p",
    # Of an RCD that several circuits share.
    "shared-rcd-half",
    "shared-rcd-trip",
    "shared-rcd-five",
    "shared-rcd-ramp",
    "shared-rcd-wave",
    "shared-rcd-button",
]
# What a reading is of: its quantity, and the point, service or test where there is one.
Key = tuple[Quantity, str | None]
# Those read at each RCD that several circuits share, by the group or board it is in; and what each is on a circuit.
AT_RCDS: dict[Quantity, Quantity | None] = {
    "shared-rcd-half": "rcd-half",
    "shared-rcd-trip": "rcd-trip",
    "shared-rcd-five": "rcd-five",
    "shared-rcd-ramp": None,
    "shared-rcd-wave": None,
    "shared-rcd-button": "rcd-button",
}
INSTALLATION: tuple[Quantity, ...] = (
    "isolation",
    "earth-continuity",
    "bonding",
    "electrode",
    "board-insulation",
    "supply-polarity",
    "live-reason",
    "ze",
    "fault-current",
    "fault-current-le",
    "fault-current-3p",
    "phase-sequence",
    "function",
    *AT_RCDS,
)
# Those read at every point of a circuit, and those read at each of several services of an installation.
AT_POINTS: tuple[Quantity, ...] = ("cross-ln", "cross-le", "r1+r2", "r1+rn", "r2-lead", "zs", "volt-drop")
AT_SERVICES: tuple[Quantity, ...] = ("bonding",)
# Those that are seen to be right or wrong rather than measured.
SEEN: tuple[Quantity, ...] = (
    "isolation",
    "polarity",
    "live-reason",
    "rcd-half",
    "rcd-button",
    "afdd-button",
    "phase-sequence",
    "function",
    "supply-polarity",
    "shared-rcd-half",
    "shared-rcd-wave",
    "shared-rcd-button",
)
# Those taken with the supply on.
LIVE: tuple[Quantity, ...] = (
    "zs",
    "volt-drop",
    "rcd-half",
    "rcd-trip",
    "rcd-five",
    "rcd-button",
    "afdd-button",
    "phase-sequence",
    "function",
    "supply-polarity",
    "ze",
    "fault-current",
    "fault-current-le",
    "fault-current-3p",
    *AT_RCDS,
)
# Why a reading was not taken: later, not at all for a reason that is agreed, or there is nothing to read.
Untaken = Literal["deferred", "limitation", "not-applicable"]


def _is_a_time(text: str) -> str:
    """Refuse 30 February, second 60 and the year 0: times that no clock shows."""
    year, month, day, hour, minute, second = (int(part) for part in re.split("[-T:]", text[:-1]))
    if not (year >= 1 and 1 <= month <= 12 and 1 <= day <= monthrange(year, month)[1]):
        raise ValueError("is no day of the calendar")
    if not (hour < 24 and minute < 60 and second < 60):
        raise ValueError("is no time of day")
    return text


# A moment in UTC: 2026-01-31T09:30:00Z.
Stamp = Annotated[
    str,
    StringConstraints(pattern=r"^[0-9]{4}-[0-9]{2}-[0-9]{2}T[0-9]{2}:[0-9]{2}:[0-9]{2}Z$"),
    AfterValidator(_is_a_time),
]


IsolatedPair = Literal["L-N", "L-E", "N-E", "L1-L2", "L2-L3", "L1-L3", "L1-N", "L2-N", "L3-N", "L1-E", "L2-E", "L3-E"]
PAIRS_OF_PHASES: dict[int, tuple[IsolatedPair, ...]] = {
    1: ("L-N", "L-E", "N-E"),
    3: ("L1-L2", "L2-L3", "L1-L3", "L1-N", "L2-N", "L3-N", "L1-E", "L2-E", "L3-E", "N-E"),
}


class Isolation(Frozen):
    """How a circuit, or all of them, was made dead and proved so."""

    device: Name = ""
    proved_before: bool = False
    pairs: Annotated[tuple[IsolatedPair, ...], Field(max_length=12)] = ()
    proved_after: bool = False
    # The number of the lock, and who has its key.
    lock: Name = ""
    key_with: Name = ""

    @property
    def proved(self) -> bool:
        """Whether the indicator was proved before and after, and every pair of one phase or of three was tested."""
        every = any(set(pairs) <= set(self.pairs) for pairs in PAIRS_OF_PHASES.values())
        return self.proved_before and self.proved_after and every


class ReadingTaken(Frozen):
    """What was read, without who read it and when.

    `beyond` marks a display such as ">999": more than the tester can say. A reading with neither value nor tick
    clears the one before it; both stay on record. What was `untaken` says why in its `note`.
    """

    quantity: Quantity
    point: Id | None = None
    value: Figure | None = None
    beyond: bool = False
    correct: bool | None = None
    # Which measurement a `trace` is, as the diagnosis names it.
    test: Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9+/_.-]{1,2000}$")] | None = None
    untaken: Untaken | None = None
    note: Note = ""
    isolation: Isolation | None = None
    # The visit it was taken on, which knows the instruments; and where it came from.
    visit: Id | None = None
    source: Literal["typed", "tester", "file"] = "typed"
    # When it was taken, by the clock of the device, where that was not when it came in.
    taken_at: Stamp | None = None

    @model_validator(mode="after")
    def _fits_quantity(self) -> Self:
        trouble = next((why for wrong, why in (*self._of_its_place(), *self._of_its_figure()) if wrong), None)
        if trouble is not None:
            raise ValueError(trouble)
        return self

    def _of_its_place(self) -> Iterator[tuple[bool, str]]:
        """Yield what may be wrong with where it was taken, and whether it is."""
        named, quantity = self.point is not None, self.quantity
        yield not named and quantity in AT_POINTS, f"point: a reading of {quantity} needs the point it was taken at"
        needs = f"point: a reading of {quantity} needs the group or board whose RCD it is of"
        yield not named and quantity in AT_RCDS, needs
        placed = quantity in (*AT_POINTS, *AT_SERVICES, *AT_RCDS)
        yield named and not placed, f"point: a reading of {quantity} is for the whole circuit"

    def _of_its_figure(self) -> Iterator[tuple[bool, str]]:
        """Yield what may be wrong with what it says, and whether it is."""
        quantity, seen, figure = self.quantity, self.quantity in SEEN, self.value is not None
        unnoted = not self.note.strip()
        yield seen and (figure or self.beyond), f"value: {quantity} is correct or not, it has no figure"
        yield not seen and self.correct is not None, f"correct: {quantity} is a figure"
        yield self.beyond and not figure, "value: say what the reading lies beyond"
        traced = "test: a trace says which measurement it is, and nothing else does"
        yield (quantity == "trace") != (self.test is not None), traced
        untaken = self.untaken is not None
        yield untaken and (figure or self.correct is not None), "untaken: what was not taken has no reading"
        aside = self.untaken in ("deferred", "limitation")
        yield aside and unnoted, f"note: say why it was not taken ({self.untaken})"
        yield quantity == "live-reason" and bool(self.correct) and unnoted, "note: say why live tests go first"
        isolated = self.isolation is not None
        yield isolated and quantity != "isolation", "isolation: belongs to the reading of that name"
        unproved = self.isolation is not None and not self.isolation.proved
        pairs = "isolation: prove the indicator before and after, and test every pair"
        yield quantity == "isolation" and bool(self.correct) and unproved, pairs

    @property
    def key(self) -> Key:
        """What it is a reading of: a later one of the same key stands instead."""
        return self.quantity, self.test or self.point


class Reading(ReadingTaken):
    """A reading as it is kept: by whom and at what moment it was taken.

    One that came with a job file was entered here by nobody: `imported_by` is who brought the file, and answers for it.
    """

    by: Name
    at: Stamp
    imported_by: Name = ""

    @property
    def when(self) -> Stamp:
        """When it was taken; when it came in, where nobody said."""
        return self.taken_at or self.at

    @property
    def said_by(self) -> str:
        """Whose reading it is, as documents say it."""
        return f"{self.by} (file taken in by {self.imported_by})" if self.imported_by else self.by


def figure_of(taken: Mapping[Key, Reading], quantity: Quantity, point: str | None = None) -> float | None:
    """Return the figure in force, in its unit; None where there is none, or it lies beyond the display."""
    reading = taken.get((quantity, point))
    return None if reading is None or reading.beyond else reading.value


def standing(readings: tuple[Reading, ...]) -> dict[Key, Reading]:
    """Return the reading in force for each quantity and point: the last entered, unless it clears."""
    return {
        key: reading
        for key, reading in _latest(readings).items()
        if reading.value is not None or reading.correct is not None
    }


def set_aside(readings: tuple[Reading, ...]) -> dict[Key, Reading]:
    """Return what stands as not taken, with its reason."""
    return {key: reading for key, reading in _latest(readings).items() if reading.untaken is not None}


def _latest(readings: tuple[Reading, ...]) -> dict[Key, Reading]:
    return {reading.key: reading for reading in readings}
