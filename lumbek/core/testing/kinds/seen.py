"""What is seen to be right or wrong: safe isolation, polarity, buttons, function, an RCD that holds at half."""

from dataclasses import dataclass
from typing import ClassVar

from lumbek.core.judging.check import Check
from lumbek.core.model.reading import Reading
from lumbek.core.testing.kind import Asked, Kind, judge_seen
from lumbek.core.testing.taken import Taken


@dataclass(frozen=True)
class _Seen(Kind):
    unit: ClassVar[str] = ""

    def judge(self, taken: Taken, reading: Reading, asks: Asked) -> Check:
        """Return what it means that it was right or wrong."""
        return judge_seen(taken, reading, asks)


class ProvedDead(_Seen):
    """The circuit switched off, locked, tagged and proved dead: before anything else."""

    clause: ClassVar[str] = "isolation"


class Polarity(_Seen):
    """Line to the device and the switches, every outlet the right way round."""

    clause: ClassVar[str] = "test-polarity"


class RcdButton(_Seen):
    """The RCD's own test button."""

    clause: ClassVar[str] = "test-rcd"


class LiveReason(_Seen):
    """Why live tests go before the dead ones that guard them."""

    clause: ClassVar[str] = "isolation"


class RcdHalf(_Seen):
    """The RCD does not trip at half its rated residual current."""

    clause: ClassVar[str] = "test-rcd"


class AfddButton(_Seen):
    """The arc fault detection device's own test button."""

    clause: ClassVar[str] = "test-function"


class PhaseSequence(_Seen):
    """The lines of three phases in their order."""

    clause: ClassVar[str] = "test-phase-sequence"


class Function(_Seen):
    """Switches, controls and interlocks do what they are for."""

    clause: ClassVar[str] = "test-function"
