"""r1, rn and r2: each conductor of a ring from end to end."""

from dataclasses import dataclass
from typing import ClassVar

from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.model.reading import Quantity, Reading
from lumbek.core.network.measure import Measurement
from lumbek.core.network.readings import end_to_end
from lumbek.core.numbers import plain, show
from lumbek.core.study.study import Study
from lumbek.core.testing.kind import Asked, Kind, judge_continuity
from lumbek.core.testing.taken import Taken


@dataclass(frozen=True)
class RingEnds(Kind):
    """One conductor of a ring, both ends taken out at the board; line and neutral read alike."""

    core: str = "L"
    fellow: Quantity | None = None
    clause: ClassVar[str] = "test-ring"

    def measurement(self, study: Study, point: str | None) -> Measurement | None:  # noqa: ARG002 - at the board
        """Return how it is taken."""
        ring = study.wires.ring_ends
        return None if ring is None else end_to_end(ring, self.core, study.wires.as_found)

    def judge(self, taken: Taken, reading: Reading, asks: Asked) -> Check:
        """Return what the reading means: apart from its fellow it fails, else by what was expected."""
        value = reading.value or 0.0
        fellow = taken.value(self.fellow) if self.fellow else None
        within = taken.study.rulebook.data.testing.ring_ends_within_ohm
        # Readings have two or three decimals; a hair of binary rounding must not fail 0.45 against 0.40.
        if reading.beyond or fellow is None or round(abs(value - fellow), 6) <= within:
            return judge_continuity(taken, reading, asks, self.expected(taken, None))
        return asks.question.check(
            taken.study,
            Verdict.FAIL,
            f"{show(value)} Ω, fellow {show(fellow)} Ω",
            value=abs(value - fellow),
            limit=within,
            sense="at most",
            unit="Ω",
            place=asks.place,
            steps=(
                Step(
                    text=f"Line and neutral of a ring read within {plain(within)} Ω of each other",
                    sum=f"{show(value)} and {show(fellow)}: {show(abs(value - fellow))} Ω apart",
                ),
            ),
        )
