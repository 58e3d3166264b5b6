"""R1+R2: line and cpc linked at one end, read at the other."""

from dataclasses import dataclass
from typing import ClassVar

from lumbek.core.model.reading import Reading
from lumbek.core.network.measure import Measurement
from lumbek.core.network.readings import r1_plus_r2
from lumbek.core.result import Check
from lumbek.core.study.study import Study
from lumbek.core.testing.kind import Asked, Kind, judge_continuity
from lumbek.core.testing.taken import Taken


@dataclass(frozen=True)
class R1PlusR2(Kind):
    """The resistance of line and cpc together to a point."""

    clause: ClassVar[str] = "test-cpc"

    def measurement(self, study: Study, point: str | None) -> Measurement | None:
        """Return how it is taken."""
        return None if point is None else r1_plus_r2(point, *study.wires.switched_on(point))

    def judge(self, taken: Taken, reading: Reading, asks: Asked) -> Check:
        """Return what the reading means."""
        return judge_continuity(taken, reading, asks, self.expected(taken, reading.point))
