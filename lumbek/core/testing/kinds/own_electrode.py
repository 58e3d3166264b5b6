"""The electrode that a circuit stands on instead of the house's earth."""

from dataclasses import dataclass
from typing import ClassVar

from lumbek.core.judging.check import Check, Verdict
from lumbek.core.model.reading import Reading
from lumbek.core.numbers import show_down
from lumbek.core.protection.zs_limit import ZsLimit, rcd_limit
from lumbek.core.study.study import Study
from lumbek.core.testing.electrode import ALONE, electrode_caution, is_no_electrode
from lumbek.core.testing.kind import Asked, Kind, Limit, said
from lumbek.core.testing.taken import Taken


@dataclass(frozen=True)
class OwnElectrode(Kind):
    """Its resistance RA: RA × IΔn no more than 50 V (BS 7671 411.5.3; IEC 60364-4-41, 411.5.3)."""

    clause: ClassVar[str] = "test-electrode"

    def limit(self, taken: Taken, point: str | None) -> Limit | None:  # noqa: ARG002 - one for the circuit
        """Return the greatest resistance that the RCD allows; None where none is known."""
        limit = _limit(taken.study)
        return None if limit is None else Limit(limit.ohm, "at most", show_down(limit.ohm, 0))

    def judge(self, taken: Taken, reading: Reading, asks: Asked) -> Check:
        """Return what the reading means: what is beyond the display is no electrode."""
        study, value = taken.study, reading.value or 0.0
        words, limit = said(reading, "Ω"), _limit(study)
        if reading.beyond:
            return asks.question.check(study, Verdict.FAIL, f"{words}: open", value=value, unit="Ω", place=asks.place)
        caution = electrode_caution(study.rulebook, value)
        if limit is None or is_no_electrode(value):
            missing = ALONE if is_no_electrode(value) else _UNKNOWN
            return asks.question.cannot_tell(study, (missing,), answer=words, place=asks.place, caution=caution)
        return asks.question.held(
            study, value, limit.ohm, "at most", words, unit="Ω", place=asks.place, caution=caution, steps=limit.steps
        )


_UNKNOWN = "rated residual current of the RCD"


def _limit(study: Study) -> ZsLimit | None:
    return rcd_limit(study, study.known_rcds, "zs-tt")
