"""R1+R2 and R1+Rn: line linked with cpc or neutral at one end, read at the other; and R2 by a long lead."""

from dataclasses import dataclass
from typing import ClassVar

from lumbek.core.judging.check import Check
from lumbek.core.model.reading import Reading
from lumbek.core.network.measure import Measurement
from lumbek.core.network.readings import one_way, r1_plus_r2, r1_plus_rn
from lumbek.core.study.study import Study
from lumbek.core.testing.kind import Asked, Kind, judge_continuity
from lumbek.core.testing.taken import Taken


@dataclass(frozen=True)
class _Continuity(Kind):
    clause: ClassVar[str] = "test-cpc"

    def judge(self, taken: Taken, reading: Reading, asks: Asked) -> Check:
        """Return what the reading means."""
        return judge_continuity(taken, reading, asks, self.expected(taken, reading.point))


class R1PlusR2(_Continuity):
    """The resistance of line and cpc together to a point."""

    def measurement(self, study: Study, point: str | None) -> Measurement | None:
        """Return how it is taken."""
        return None if point is None else r1_plus_r2(point, *study.wires.switched_on(point))


class R1PlusRn(_Continuity):
    """The resistance of line and neutral together: R1+R2 alone is blind to the neutral."""

    def measurement(self, study: Study, point: str | None) -> Measurement | None:
        """Return how it is taken."""
        return None if point is None else r1_plus_rn(point, *study.wires.switched_on(point))


class R2ByLead(_Continuity):
    """The resistance of the cpc alone, by a long lead that is nulled."""

    def measurement(self, study: Study, point: str | None) -> Measurement | None:
        """Return how it is taken."""
        return None if point is None else one_way("E", point, study.wires.as_found)
