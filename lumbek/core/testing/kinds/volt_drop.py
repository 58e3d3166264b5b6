"""Voltage drop measured at a point under load, in percent of the nominal voltage."""

from dataclasses import dataclass
from typing import ClassVar

from lumbek.core.checks.drop_limit import drop_limit_percent
from lumbek.core.judging.check import Check
from lumbek.core.model.reading import Reading
from lumbek.core.numbers import plain
from lumbek.core.testing.kind import Asked, Kind, Limit, said
from lumbek.core.testing.taken import Taken


@dataclass(frozen=True)
class VoltDrop(Kind):
    """The drop with the circuit loaded: no more than at its point is allowed."""

    unit: ClassVar[str] = "%"
    clause: ClassVar[str] = "volt-drop"

    def limit(self, taken: Taken, point: str | None) -> Limit | None:
        """Return the greatest drop at this point."""
        if point is None:
            return None
        most = drop_limit_percent(taken.study, point)
        return Limit(most, "at most", plain(most))

    def judge(self, taken: Taken, reading: Reading, asks: Asked) -> Check:
        """Return what the reading means."""
        limit = self.limit(taken, reading.point)
        assert limit is not None
        return asks.question.held(
            taken.study, reading.value or 0.0, limit.value, "at most", said(reading, "%"), unit="%", place=asks.place
        )
