"""Zs measured live at a point: against the limit for a cold loop, and against Ze and R1+R2."""

from dataclasses import dataclass
from typing import ClassVar

from lumbek.core.model.reading import Reading
from lumbek.core.network.measure import Measurement
from lumbek.core.network.readings import fault_loop
from lumbek.core.numbers import floor_to, show, show_down
from lumbek.core.protection.zs_limit import measured_factor, zs_limit
from lumbek.core.result import Check, Step, Verdict, hold
from lumbek.core.study.study import Study
from lumbek.core.testing.band import Expected
from lumbek.core.testing.kind import Asked, Kind, Limit, said
from lumbek.core.testing.taken import Taken


@dataclass(frozen=True)
class Zs(Kind):
    """The earth fault loop at a point."""

    clause: ClassVar[str] = "zs-measured"

    def measurement(self, study: Study, point: str | None) -> Measurement | None:
        """Return how it is taken: what lies outside the circuit is added to what the network gives."""
        return None if point is None or study.ahead.ze_ohm is None else fault_loop(point, study.as_found)

    def outside_ohm(self, study: Study) -> float:
        """Return Ze at the circuit's board."""
        return study.ahead.ze_ohm or 0.0

    def limit(self, taken: Taken, point: str | None) -> Limit | None:
        """Return the greatest Zs that a loop measured at ambient temperature may have."""
        study = taken.study
        limit = zs_limit(study, point) if point is not None and study.ahead.earthing else None
        if limit is None:
            return None
        most, decimals = limit.ohm * measured_factor(study, limit), 0 if limit.by_rcd else 2
        return Limit(most, "at most", show_down(most, decimals))

    def judge(self, taken: Taken, reading: Reading, asks: Asked) -> Check:
        """Return what the reading means."""
        study, value = taken.study, reading.value or 0.0
        assert reading.point is not None
        limit = zs_limit(study, reading.point) if study.ahead.earthing else None
        if limit is None:
            return asks.question.check(
                study,
                Verdict.CANNOT_TELL,
                said(reading, "Ω"),
                clause=study.clause("test-zs"),
                value=value,
                unit="Ω",
                place=asks.place,
                missing=("earthing system of the supply and a device that is in the tables",),
            )
        factor = measured_factor(study, limit)
        most = limit.ohm * factor
        verdict, margin = hold(value, most, "at most")
        if reading.beyond:
            verdict = Verdict.FAIL
        steps = list(limit.steps)
        if not limit.by_rcd:
            shown_factor = study.rulebook.measured_zs_words
            steps.append(
                Step(
                    text="Measured on cold conductors",
                    sum=f"{shown_factor} × {show(floor_to(limit.ohm, 3), 3)} = {show(floor_to(most, 3), 3)} Ω, "
                    f"shown {show_down(most)} Ω",
                )
            )
        return asks.question.check(
            study,
            verdict,
            said(reading, "Ω"),
            value=value,
            limit=most,
            sense="at most",
            unit="Ω",
            margin=margin,
            place=asks.place,
            caution=_too_high(verdict, value, self.expected(taken, reading.point)),
            steps=tuple(steps),
        )


def _too_high(verdict: Verdict, value: float, expected: Expected | None) -> str:
    """Return a caution for a loop that passes and is still higher than its parts."""
    if verdict is not Verdict.PASS or expected is None or value <= expected.high:
        return ""
    return (
        f"Passes, yet over the {expected.shown} Ω that Ze and R1+R2 give: a loop is "
        "never higher than its parts. Look for a loose joint."
    )
