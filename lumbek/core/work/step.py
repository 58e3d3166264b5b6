"""A step of the work: what is done where, what it takes, how long, and how it stands."""

from decimal import Decimal
from typing import Literal, get_args

from lumbek.core.items.take_off import TakeOffItem
from lumbek.core.model.site import StepKey, StepStatus
from lumbek.core.value import Frozen

# In the order of the work: cleared and opened, cables and boxes in, what is looked at before it goes, closed, fitted.
Phase = Literal["clear", "first-fix", "hold", "close", "second-fix"]
PHASES: tuple[Phase, ...] = get_args(Phase)


class CableAt(Frozen):
    """A cable as it ends at a place: of which circuit, where it goes, how long it is cut, whether its tail is long."""

    circuit: int
    leg: str
    cable: str
    csa_mm2: float
    cores: int
    to: str
    to_room: str
    mm: int | None
    is_long: bool
    is_found: bool


class StepStands(Frozen):
    """How a step stands: as somebody said, or as it follows from readings."""

    status: StepStatus = "to-do"
    note: str = ""
    by: str = ""
    at: str = ""


class WorkStep(Frozen):
    """A step, in its room; nothing for what is of no room.

    `follows` where nobody ticks it: it is done when the readings that it wants are there. `wants_photo` where it is
    done by a photograph: what is closed over is not seen again.
    """

    key: StepKey
    phase: Phase
    room: str
    what: str
    told: tuple[str, ...] = ()
    mark: str = ""
    cables: tuple[CableAt, ...] = ()
    takes: tuple[TakeOffItem, ...] = ()
    minutes: Decimal = Decimal(0)
    follows: bool = False
    wants_photo: bool = False
    stands: StepStands = StepStands()

    @property
    def is_hold(self) -> bool:
        """Whether nothing is closed before it is done."""
        return self.phase == "hold"
