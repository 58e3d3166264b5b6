"""Safe isolation, polarity and the RCD's test button: seen to be right or wrong."""

from dataclasses import dataclass
from typing import ClassVar

from lumbek.core.model.reading import Reading
from lumbek.core.result import Check
from lumbek.core.testing.kind import Asked, Kind, judge_seen
from lumbek.core.testing.taken import Taken


@dataclass(frozen=True)
class _Seen(Kind):
    unit: ClassVar[str] = ""

    def judge(self, taken: Taken, reading: Reading, asks: Asked) -> Check:
        """Return what it means that it was right or wrong."""
        return judge_seen(taken, reading, asks)


class Isolation(_Seen):
    """The circuit switched off, locked, tagged and proved dead: before anything else."""

    clause: ClassVar[str] = "isolation"


class Polarity(_Seen):
    """Line to the device and the switches, every outlet the right way round."""

    clause: ClassVar[str] = "test-polarity"


class RcdButton(_Seen):
    """The RCD's own test button."""

    clause: ClassVar[str] = "test-rcd"
