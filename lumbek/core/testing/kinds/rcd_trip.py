"""The trip time of an RCD at its rated residual current."""

from dataclasses import dataclass
from typing import ClassVar

from lumbek.core.model.reading import Reading
from lumbek.core.numbers import plain
from lumbek.core.result import Check, Step, Verdict, hold
from lumbek.core.testing.kind import Asked, Kind, Limit, said
from lumbek.core.testing.taken import Taken


@dataclass(frozen=True)
class RcdTrip(Kind):
    """A time in ms: no longer than the limit; of a delayed RCD no shorter than its least either."""

    unit: ClassVar[str] = "ms"
    clause: ClassVar[str] = "test-rcd"

    def limit(self, taken: Taken, point: str | None) -> Limit:  # noqa: ARG002 - one for the circuit
        """Return the longest trip time."""
        most = _bounds(taken)[1]
        return Limit(most, "at most", plain(most))

    def judge(self, taken: Taken, reading: Reading, asks: Asked) -> Check:
        """Return what the reading means."""
        value, (least, most) = reading.value or 0.0, _bounds(taken)
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
                Step(text=f"At IΔn within {plain(most)} ms" + (f", not before {plain(least)} ms" if least else "")),
            ),
        )


def _bounds(taken: Taken) -> tuple[float, float]:
    """Return the least and the greatest trip time in ms."""
    rules, rcd = taken.study.rulebook.data.testing, taken.study.circuit.device.known_rcd
    return rules.rcd_s_trip_ms if rcd is not None and rcd.delayed else (0.0, rules.rcd_trip_ms)
