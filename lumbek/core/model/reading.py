"""A reading off the tester, as it was entered, for ever."""

import re
from typing import Annotated, Literal, Self

from pydantic import AfterValidator, StringConstraints, model_validator

from lumbek.core.model.text import Figure, Id, Name
from lumbek.core.value import Frozen

Quantity = Literal[
    "isolation",
    "r1",
    "rn",
    "r2",
    "cross-ln",
    "cross-le",
    "r1+r2",
    "insulation-ll",
    "insulation-le",
    "polarity",
    "zs",
    "rcd-trip",
    "rcd-button",
]
# Those read at every point; the rest are read once for the circuit.
AT_POINTS: tuple[Quantity, ...] = ("cross-ln", "cross-le", "r1+r2", "zs")
# Those that are seen to be right or wrong rather than measured.
SEEN: tuple[Quantity, ...] = ("isolation", "polarity", "rcd-button")


def _is_a_time(text: str) -> str:
    """Refuse 30 February, second 60 and the year 0: times that no clock shows."""
    year, month, day, hour, minute, second = (int(part) for part in re.split("[-T:]", text[:-1]))
    leap = year % 4 == 0 and (year % 100 != 0 or year % 400 == 0)
    days = (31, 29 if leap else 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31)
    if not (year >= 1 and 1 <= month <= 12 and 1 <= day <= days[month - 1]):
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


class ReadingTaken(Frozen):
    """What was read, without who read it and when.

    `beyond` marks a display such as ">999": more than the tester can say. A reading with neither value nor tick
    clears the one before it; both stay on record.
    """

    quantity: Quantity
    point: Id | None = None
    value: Figure | None = None
    beyond: bool = False
    correct: bool | None = None

    @model_validator(mode="after")
    def _fits_quantity(self) -> Self:
        if (self.quantity in AT_POINTS) != (self.point is not None):
            where = "needs the point it was taken at" if self.quantity in AT_POINTS else "is for the whole circuit"
            raise ValueError(f"point: a reading of {self.quantity} {where}")
        if self.quantity in SEEN and (self.value is not None or self.beyond):
            raise ValueError(f"value: {self.quantity} is correct or not, it has no figure")
        if self.quantity not in SEEN and self.correct is not None:
            raise ValueError(f"correct: {self.quantity} is a figure")
        if self.beyond and self.value is None:
            raise ValueError("value: say what the reading lies beyond")
        return self


class Reading(ReadingTaken):
    """A reading as it is kept: by whom and at what moment it was taken."""

    by: Name
    at: Stamp


def standing(readings: tuple[Reading, ...]) -> dict[tuple[Quantity, str | None], Reading]:
    """Return the reading in force for each quantity and point: the last entered, unless it clears."""
    latest: dict[tuple[Quantity, str | None], Reading] = {}
    for reading in readings:
        latest[reading.quantity, reading.point] = reading
    return {key: reading for key, reading in latest.items() if reading.value is not None or reading.correct is not None}
