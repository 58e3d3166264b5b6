"""Readings at every point of a ring with the line of each end linked to neutral or cpc of the other."""

from dataclasses import dataclass
from typing import ClassVar

from lumbek.core.model.reading import Reading
from lumbek.core.network.measure import Measurement
from lumbek.core.network.readings import crossed
from lumbek.core.result import Check
from lumbek.core.study.study import Study
from lumbek.core.testing.kind import Asked, Kind, judge_continuity
from lumbek.core.testing.taken import Taken


@dataclass(frozen=True)
class Crossed(Kind):
    """Line against another conductor, cross-joined: alike at every point of a sound ring."""

    other: str = "N"
    clause: ClassVar[str] = "test-ring"

    def measurement(self, study: Study, point: str | None) -> Measurement | None:
        """Return how it is taken."""
        ring = study.wires.ring_ends
        return None if ring is None or point is None else crossed(ring, self.other, point, study.as_found)

    def judge(self, taken: Taken, reading: Reading, asks: Asked) -> Check:
        """Return what the reading means."""
        return judge_continuity(taken, reading, asks, self.expected(taken, reading.point))
