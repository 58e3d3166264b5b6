"""What is said on site while the work is done: a step done or left, hours worked, what was used. Only ever added."""

from decimal import Decimal
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from lumbek.core.model.text import GivenName, Note
from lumbek.core.model.visit import Day
from lumbek.core.value import Frozen

# A step by its key: `fit/mark`, `pull/circuit/leg`.
StepKey = Annotated[str, Field(pattern=r"^[a-z-]+(/[A-Za-z0-9][A-Za-z0-9._-]{0,79}){0,2}$")]
StepStatus = Literal["to-do", "done", "left", "missing"]


class StepSaid(Frozen):
    """How a step of the work stands from now on; what is left or missing says why."""

    record: Literal["step"] = "step"
    step: StepKey
    status: StepStatus
    note: Note = ""

    @model_validator(mode="after")
    def _says_why(self) -> Self:
        if self.status in ("left", "missing") and not self.note:
            raise ValueError("note: say what is left, or what is missing")
        return self


class Worked(Frozen):
    """How long somebody worked on a day."""

    record: Literal["worked"] = "worked"
    day: Day
    who: GivenName
    minutes: Annotated[int, Field(gt=0, le=1440)]
    note: Note = ""


class Used(Frozen):
    """What was used of something on the take-off, in pieces or metres; less than nothing takes back what was said."""

    record: Literal["used"] = "used"
    item: Annotated[str, Field(min_length=1, max_length=120)]
    count: Annotated[Decimal, Field(ge=-100_000, le=100_000, decimal_places=3, allow_inf_nan=False)]
    note: Note = ""


# Steps whose keys name a circuit after their sort.
OF_CIRCUITS = ("pull", "half-way", "device")
# Records of the work, which no paper follows from: a signature stands though more of it is ticked.
OF_THE_WORK = ("step", "worked", "used")
