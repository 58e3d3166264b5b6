"""A reading off the tester, as it was entered, for ever."""

from typing import Annotated, Literal, Self

from pydantic import Field, StringConstraints, model_validator

from lumbek.core.model.text import Id, Name
from lumbek.core.result import Frozen

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


class Reading(Frozen):
    """One reading. `beyond` marks a display such as ">999": more than the tester can say.

    A reading with neither value nor tick clears the one before it; both stay on record.
    """

    quantity: Quantity
    point: Id | None = None
    value: Annotated[float, Field(ge=0, le=100_000, allow_inf_nan=False)] | None = None
    beyond: bool = False
    correct: bool | None = None
    by: Name = ""
    at: Annotated[str, StringConstraints(pattern=r"^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\dZ$")] = "1970-01-01T00:00:00Z"

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


def standing(readings: tuple[Reading, ...]) -> dict[tuple[Quantity, str | None], Reading]:
    """Return the reading in force for each quantity and point: the last entered, unless it clears."""
    latest: dict[tuple[Quantity, str | None], Reading] = {}
    for reading in readings:
        latest[reading.quantity, reading.point] = reading
    return {key: reading for key, reading in latest.items() if reading.value is not None or reading.correct is not None}
