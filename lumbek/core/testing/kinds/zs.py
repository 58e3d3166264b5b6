"""Zs measured live at a point: against the limit for a cold loop, and against Ze and R1+R2."""

from dataclasses import dataclass
from typing import ClassVar

from lumbek.core.checks.loop_by_evidence import AGAIN, WHAT_ELSE
from lumbek.core.checks.loop_limits import ONLY_RCD
from lumbek.core.judging.check import Check, Step, Verdict, hold
from lumbek.core.judging.graver import UNEXPLAINED
from lumbek.core.model.reading import Reading
from lumbek.core.network.measure import Measurement
from lumbek.core.network.readings import fault_loop
from lumbek.core.numbers import floor_to, show, show_down
from lumbek.core.protection.zs_limit import ZsLimit, measured_factor, rcd_instead, zs_limit
from lumbek.core.study.study import Study
from lumbek.core.testing.band import Expected
from lumbek.core.testing.electrode import is_like_a_supply
from lumbek.core.testing.kind import Asked, Kind, Limit, said, unlikely
from lumbek.core.testing.taken import Taken

_LOW = "As low as the earth of a supply: another earth may be joined to the electrode. Read that by itself."


@dataclass(frozen=True)
class Zs(Kind):
    """The earth fault loop at a point."""

    clause: ClassVar[str] = "zs-measured"

    def measurement(self, study: Study, point: str | None) -> Measurement | None:
        """Return how it is taken: what lies outside the circuit is added to what the network gives."""
        if point is None or study.ahead.ze_ohm is None:
            return None
        return fault_loop(point, *study.wires.switched_on(point))

    def outside_ohm(self, study: Study) -> float:
        """Return Ze at the circuit's board, the feeds cold as they are when it is read."""
        return study.ahead.cold_ze_ohm or 0.0

    def limit(self, taken: Taken, point: str | None) -> Limit | None:
        """Return the greatest Zs that a loop measured at ambient temperature may have."""
        study = taken.study
        limit = zs_limit(study, point) if point is not None and study.ahead.earthing else None
        if limit is None:
            return None
        most, decimals = limit.ohm * measured_factor(study, limit), 0 if limit.by_rcd else 2
        return Limit(most, "at most", show_down(most, decimals))

    def judge(self, taken: Taken, reading: Reading, asks: Asked) -> Check:
        """Return what the reading means: against its limit, then against Ze and what the circuit adds to it."""
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
        most = limit.ohm * measured_factor(study, limit)
        cautions, steps = [], [*limit.steps, *_cold_step(study, limit, most)]
        if not limit.by_rcd and not reading.beyond and hold(value, most, "at most")[0] is Verdict.FAIL:
            instead, explained = rcd_instead(study), _is_explained(study, reading.point, value)
            if not explained:
                # Whatever RCD stands there: what no cable explains is a fault to be found.
                cautions.append(f"{UNEXPLAINED.capitalize()}: {WHAT_ELSE}. {AGAIN}")
            elif instead is not None and hold(value, instead.ohm, "at most")[0] is Verdict.PASS:
                limit, most = instead, instead.ohm
                steps += instead.steps
                cautions.append(ONLY_RCD)
        verdict, margin = hold(value, most, "at most")
        if reading.beyond:
            verdict = Verdict.FAIL
        expected = self.expected(taken, reading.point)
        if verdict is Verdict.PASS and not taken.ranged:
            why = _why_unlikely(study, value, expected)
            if why:
                return unlikely(taken, reading, asks, why, tuple(steps))
        cautions += [_too_high(study, verdict, value, expected), _too_low(study, verdict, value)]
        return asks.question.check(
            study,
            verdict,
            said(reading, "Ω"),
            clause=limit.clause if limit.by_rcd else study.clause(self.clause),
            value=value,
            limit=most,
            sense="at most",
            unit="Ω",
            margin=margin,
            place=asks.place,
            caution=" ".join(each for each in cautions if each),
            steps=tuple(steps),
        )


def _is_explained(study: Study, point: str, zs_ohm: float) -> bool:
    """Whether drawn cable, or live conductors as read, are long enough for a loop (411.4.204)."""
    loop, proved = study.evidence.loop_of_zs(zs_ohm), study.evidence.proved_ohm.get(point, 0.0)
    return loop is not None and hold(loop.least, proved, "at most")[0] is Verdict.PASS


def _cold_step(study: Study, limit: ZsLimit, most_ohm: float) -> tuple[Step, ...]:
    """Write out what a loop measured on cold conductors may reach."""
    if limit.by_rcd:
        return ()
    factor = study.rulebook.measured_zs_words
    return (
        Step(
            text="Measured on cold conductors",
            sum=f"{factor} × {show(floor_to(limit.ohm, 3), 3)} = {show(floor_to(most_ohm, 3), 3)} Ω, "
            f"shown {show_down(most_ohm)} Ω",
        ),
    )


def _why_unlikely(study: Study, value: float, expected: Expected | None) -> str:
    """Return why no sound circuit of this drawing has such a loop; nothing where one may.

    A loop is Ze and what comes after it; a Ze that is declared is the most it may be, not the least. Meters that trip
    no RCD read high through one. An electrode is not the same from day to day, so a loop higher than it was proves
    nothing there.
    """
    rules = study.rulebook.data.testing
    outside_ohm = _known_outside_ohm(study)
    if outside_ohm is not None and value < outside_ohm * (1 - rules.loop_part) - rules.digit_ohm:
        if study.circuit.own_earth is not None:
            return (
                f"Under its own electrode, {show(outside_ohm)} Ω: a parallel earth such as armour that is not parted."
            )
        return f"Under Ze itself, {show(outside_ohm)} Ω: a parallel earth, or one of the two misread."
    if expected is None or study.ahead.earthing == "TT":
        return ""
    most = expected.most + (rules.no_trip_ohm if study.rcds else 0.0)
    return f"Over the {expected.shown} Ω that Ze and R1+R2 give: a loose joint, or not this cable." * (value > most)


def _known_outside_ohm(study: Study) -> float | None:
    """Return what the loop outside is known to be, Ω, and not only at most: its own electrode, else Ze."""
    own, supply = study.circuit.own_earth, study.supply
    if own is not None:
        return own.measured_ohm
    return None if supply.ze_origin == "declared" else supply.ze_ohm


def _too_high(study: Study, verdict: Verdict, value: float, expected: Expected | None) -> str:
    """Return a caution for a loop that passes and is still higher than its parts."""
    if verdict is not Verdict.PASS or expected is None or value <= expected.high:
        return ""
    through = " A no-trip test reads high through an RCD." if study.rcds else ""
    return f"Passes, yet over the {expected.shown} Ω that Ze and R1+R2 give: look for a loose joint.{through}"


def _too_low(study: Study, verdict: Verdict, value: float) -> str:
    """Return a caution for a loop that an electrode hardly gives, where nobody has read that by itself (542.2)."""
    if verdict is not Verdict.PASS or study.ahead.earthing != "TT" or _known_outside_ohm(study) is not None:
        return ""
    return _LOW * is_like_a_supply(value)
