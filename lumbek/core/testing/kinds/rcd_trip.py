"""The trip times of an RCD at its rated residual current, and at five times that."""

from dataclasses import dataclass
from typing import ClassVar

from lumbek.core.checks.rcd_type import check_rcd_type
from lumbek.core.judging.check import Check, Step, Verdict, hold
from lumbek.core.model.reading import Reading
from lumbek.core.numbers import plain
from lumbek.core.testing.kind import Asked, Kind, Limit, said
from lumbek.core.testing.rcd_times import trip_bounds_ms
from lumbek.core.testing.taken import Taken


@dataclass(frozen=True)
class RcdTrip(Kind):
    """A time in ms: no longer than the limit; of a delayed RCD no shorter than its least either.

    At `five` times the current it is a shorter one. What type it is, and whether that sees what it guards, is said
    beside it.
    """

    five: bool = False
    unit: ClassVar[str] = "ms"
    clause: ClassVar[str] = "test-rcd"

    def limit(self, taken: Taken, point: str | None) -> Limit:  # noqa: ARG002 - one for the circuit
        """Return the longest trip time."""
        most = self._bounds(taken)[1]
        return Limit(most, "at most", plain(most))

    def judge(self, taken: Taken, reading: Reading, asks: Asked) -> Check:
        """Return what the reading means."""
        value, (least, most) = reading.value or 0.0, self._bounds(taken)
        verdict, margin = hold(value, most, "at most")
        if reading.beyond or value < least:
            verdict = Verdict.FAIL
        return asks.question.check(
            taken.study,
            verdict,
            said(reading, "ms"),
            value=value,
            limit=most,
            sense="at most",
            unit="ms",
            decimals=0,
            margin=margin,
            place=asks.place,
            steps=(
                Step(
                    text=f"At {'5 ' if self.five else ''}IΔn within {plain(most)} ms"
                    + (f", not before {plain(least)} ms" if least else "")
                ),
            ),
            caution=_blind(taken),
        )

    def _bounds(self, taken: Taken) -> tuple[float, float]:
        """Return the least and the greatest trip time in ms."""
        return trip_bounds_ms(taken.study.rulebook, taken.study.circuit.device.known_rcd, self.five)


def _blind(taken: Taken) -> str:
    """Return a caution where the RCD's type does not see what stands behind it, whatever its time."""
    if taken.study.circuit.device.known_rcd is None:
        return ""
    type_check = check_rcd_type(taken.study)
    return "" if type_check.verdict is not Verdict.FAIL else f"In time, yet of the wrong type: {type_check.answer}."
