"""What a reading means: held against its limit, against what was expected, and against its fellows."""

from collections.abc import Mapping
from statistics import median

from lumbek.core.checks.fault_protection import measured_factor, zs_limit
from lumbek.core.context import Context
from lumbek.core.model.reading import Quantity, Reading
from lumbek.core.numbers import floor_to, plain, show
from lumbek.core.result import Check, Step, Verdict, judge
from lumbek.core.testing.band import Expected

Readings = Mapping[tuple[Quantity, str | None], Reading]


class Bench:
    """The readings of one circuit beside its predicted figures."""

    def __init__(self, context: Context, readings: Readings, peers_mohm: tuple[float, ...], ambient_c: float) -> None:
        self.context, self.readings = context, readings
        self.peers_mohm, self.ambient_c = peers_mohm, ambient_c

    def value(self, quantity: Quantity, point: str | None = None) -> float | None:
        """Return the figure read, or None where there is none or it lies beyond the display."""
        reading = self.readings.get((quantity, point))
        return None if reading is None or reading.beyond else reading.value


def judge_reading(bench: Bench, reading: Reading, title: str, expected: Expected | None) -> Check:
    """Return what one reading means."""
    match reading.quantity:
        case "isolation" | "polarity" | "rcd-button":
            return _seen(bench, reading, title)
        case "insulation-ll" | "insulation-le":
            return _insulation(bench, reading, title)
        case "rcd-trip":
            return _rcd_trip(bench, reading, title)
        case "zs":
            return _zs(bench, reading, title, expected)
        case _:
            return _continuity(bench, reading, title, expected)


def _check(bench: Bench, reading: Reading, title: str, clause: str, **found: object) -> Check:
    place = bench.context.point_place(reading.point) if reading.point else bench.context.whole
    return Check.model_validate(
        {
            "id": f"{reading.quantity}:{reading.point or ''}",
            "title": title,
            "asks": title,
            "clause": bench.context.clause(clause),
            "place": place,
            **found,
        }
    )


def _said(reading: Reading, unit: str) -> str:
    return f"{'> ' if reading.beyond else ''}{plain(reading.value or 0.0)} {unit}"


def _seen(bench: Bench, reading: Reading, title: str) -> Check:
    right = bool(reading.correct)
    clause = {"isolation": "isolation", "polarity": "test-polarity"}.get(reading.quantity, "test-rcd")
    return _check(
        bench,
        reading,
        title,
        clause,
        verdict=Verdict.PASS if right else Verdict.FAIL,
        answer="Correct" if right else "Not correct",
    )


def _insulation(bench: Bench, reading: Reading, title: str) -> Check:
    rules, value = bench.context.rulebook.data.testing, reading.value or 0.0
    verdict, margin = judge(value, rules.insulation_mohm, "at least")
    caution = ""
    if verdict is Verdict.PASS and bench.peers_mohm and not reading.beyond:
        usual = median(bench.peers_mohm)
        if value < usual * rules.insulation_peer_fraction:
            caution = f"Passes, yet its fellows read about {plain(round(usual, 1))} MΩ: worth a look."
    return _check(
        bench,
        reading,
        title,
        "test-insulation",
        verdict=verdict,
        answer=_said(reading, "MΩ"),
        value=value,
        limit=rules.insulation_mohm,
        sense="at least",
        unit="MΩ",
        margin=margin,
        caution=caution,
        steps=(Step(text=f"At {plain(rules.insulation_v)} V d.c. no less than {plain(rules.insulation_mohm)} MΩ"),),
    )


def _rcd_trip(bench: Bench, reading: Reading, title: str) -> Check:
    rules, rcd, value = (
        bench.context.rulebook.data.testing,
        bench.context.circuit.device.rcd,
        reading.value or 0.0,
    )
    delayed = rcd is not None and rcd.delayed
    least, most = rules.rcd_s_trip_ms if delayed else (0.0, rules.rcd_trip_ms)
    verdict, margin = judge(value, most, "at most")
    if reading.beyond or value < least:
        verdict = Verdict.FAIL
    return _check(
        bench,
        reading,
        title,
        "test-rcd",
        verdict=verdict,
        answer=_said(reading, "ms"),
        value=value,
        limit=most,
        sense="at most",
        unit="ms",
        decimals=0,
        margin=margin,
        steps=(Step(text=f"At IΔn within {plain(most)} ms" + (f", not before {plain(least)} ms" if least else "")),),
    )


def _zs(bench: Bench, reading: Reading, title: str, expected: Expected | None) -> Check:
    context, value = bench.context, reading.value or 0.0
    assert reading.point is not None
    limit = zs_limit(context, reading.point) if context.earthing else None
    if limit is None:
        return _check(
            bench,
            reading,
            title,
            "test-zs",
            verdict=Verdict.CANNOT_TELL,
            answer=_said(reading, "Ω"),
            value=value,
            unit="Ω",
            missing=("earthing system of the supply and a device that is in the tables",),
        )
    factor = measured_factor(context, limit)
    most = limit.ohm * factor
    verdict, margin = judge(value, most, "at most")
    if reading.beyond:
        verdict = Verdict.FAIL
    steps = list(limit.steps)
    if not limit.by_rcd:
        name = "0.8" if factor == 0.8 else "2/3"
        steps.append(
            Step(
                text="Measured on cold conductors",
                sum=f"{name} × {show(floor_to(limit.ohm, 3), 3)} = {show(floor_to(most, 3), 3)} Ω, "
                f"shown {show(floor_to(most, 2))} Ω",
            )
        )
    caution = ""
    if verdict is Verdict.PASS and expected and value > expected.high:
        caution = (
            f"Passes, yet over the {show(expected.value)} Ω that Ze and R1+R2 give: a loop is never higher than "
            "its parts. Look for a loose joint."
        )
    return _check(
        bench,
        reading,
        title,
        "zs-measured",
        verdict=verdict,
        answer=_said(reading, "Ω"),
        value=value,
        limit=most,
        sense="at most",
        unit="Ω",
        margin=margin,
        caution=caution,
        steps=tuple(steps),
    )


def _continuity(bench: Bench, reading: Reading, title: str, expected: Expected | None) -> Check:
    clause = "test-cpc" if reading.quantity == "r1+r2" else "test-ring"
    value = reading.value or 0.0
    if reading.beyond:
        return _check(
            bench,
            reading,
            title,
            clause,
            verdict=Verdict.FAIL,
            answer=f"{_said(reading, 'Ω')}: open",
            value=value,
            unit="Ω",
            steps=(Step(text="The conductor is not continuous: find the break before going on"),),
        )
    if reading.quantity in ("r1", "rn"):
        fellow = bench.value("rn" if reading.quantity == "r1" else "r1")
        within = bench.context.rulebook.data.testing.ring_ends_within_ohm
        # Readings have two or three decimals; a hair of binary rounding must not fail 0.45 against 0.40.
        if fellow is not None and round(abs(value - fellow), 6) > within:
            return _check(
                bench,
                reading,
                title,
                clause,
                verdict=Verdict.FAIL,
                answer=f"{show(value)} Ω, fellow {show(fellow)} Ω",
                value=abs(value - fellow),
                limit=within,
                sense="at most",
                unit="Ω",
                steps=(
                    Step(
                        text=f"Line and neutral of a ring read within {plain(within)} Ω of each other",
                        sum=f"{show(value)} and {show(fellow)}: {show(abs(value - fellow))} Ω apart",
                    ),
                ),
            )
    caution, steps = "", []
    if expected is not None:
        steps.append(
            Step(
                text="Expected, with room for lengths and joints",
                sum=f"{show(expected.value)} Ω ({show(expected.low)} to {show(expected.high)})",
            )
        )
        if value > expected.high:
            caution = f"Over the {show(expected.value)} Ω expected: a loose joint, or more cable than drawn."
        elif value < expected.low:
            caution = f"Under the {show(expected.value)} Ω expected: a short cut, a link, or less cable than drawn."
    return _check(
        bench,
        reading,
        title,
        clause,
        verdict=Verdict.PASS,
        answer=_said(reading, "Ω"),
        value=value,
        unit="Ω",
        caution=caution,
        steps=tuple(steps),
    )
