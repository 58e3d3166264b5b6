"""The schedule of circuit details and test results: one line a circuit, the same for page, CSV and PDF."""

from lumbek.core.documents.electrodes import measured_words, own_electrodes
from lumbek.core.documents.facts import rcd_words
from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.issue import draft_reasons, failures
from lumbek.core.documents.paper import (
    BLANK,
    COMPETENT,
    PREDICTED,
    Column,
    Fact,
    Facts,
    Paper,
    Row,
    Section,
    Signature,
    Table,
)
from lumbek.core.judging.answers import CircuitAnswer
from lumbek.core.judging.check import Verdict
from lumbek.core.model.job import JobCircuit
from lumbek.core.model.reading import Key, Quantity, Reading, standing
from lumbek.core.numbers import floor_to, plain, show
from lumbek.core.rulebooks import Rulebook

COLUMNS: tuple[Column, ...] = (
    Column(key="number", heading="No.", group="Circuit", align="centre"),
    Column(key="name", heading="Serves", group="Circuit", align="left", strong=True),
    Column(key="points", heading="Points", group="Circuit", align="centre"),
    Column(key="shape", heading="Run", group="Circuit", align="centre"),
    Column(key="method", heading="Method", group="Cable", align="centre"),
    Column(key="live_mm2", heading="Live mm²", group="Cable", align="centre"),
    Column(key="cpc_mm2", heading="cpc mm²", group="Cable", align="centre"),
    Column(key="device", heading="Device", group="Protection", align="centre"),
    Column(key="rating_a", heading="In A", group="Protection", align="centre"),
    Column(key="breaking_ka", heading="kA", group="Protection", align="centre"),
    Column(key="rcd", heading="RCD", group="Protection", align="centre"),
    Column(key="max_zs_ohm", heading="Max Zs Ω", group="Protection", align="centre"),
    Column(key="r1", heading="r1 Ω", group="Dead tests", align="centre"),
    Column(key="rn", heading="rn Ω", group="Dead tests", align="centre"),
    Column(key="r2", heading="r2 Ω", group="Dead tests", align="centre"),
    Column(key="r1_r2", heading="R1+R2 Ω", group="Dead tests", align="centre"),
    Column(key="insulation_ll", heading="L–N MΩ", group="Dead tests", align="centre"),
    Column(key="insulation_le", heading="L–E MΩ", group="Dead tests", align="centre"),
    Column(key="polarity", heading="Pol.", group="Dead tests", align="centre"),
    Column(key="zs", heading="Zs Ω", group="Live tests", align="centre"),
    Column(key="rcd_ms", heading="RCD ms", group="Live tests", align="centre"),
    Column(key="button", heading="Btn", group="Live tests", align="centre"),
    Column(key="design", heading="Design", group="Verdict", align="centre"),
    Column(key="tests", heading="Tests", group="Verdict", align="centre"),
    Column(key="state", heading="State", only="csv"),
)
_BAD = ("FAILS", "✗")


def schedule_paper(gathered: Gathered) -> Paper:
    """Return the schedule of a job."""
    job, house, answers = gathered.job, gathered.house, gathered.answers
    rulebook = gathered.rulebook
    told = [(answer, tuple(failures(answer))) for answer in answers]
    rows = [
        _row(rulebook, circuit.model_copy(update={"design": house.effective(circuit)}), answer, failed)
        for circuit, (answer, failed) in zip(job.circuits, told, strict=True)
    ]
    return Paper(
        kind="schedule",
        title="Schedule of circuit details and test results",
        **gathered.head,
        upright=False,
        sections=(
            Section(
                blocks=(
                    _supply(gathered),
                    Table(columns=COLUMNS, rows=tuple(rows), dense=True),
                )
            ),
        ),
        claim="In order: every circuit complies and is tested.",
        statements=("R1+R2 and Zs are the highest reading of the circuit.", PREDICTED, COMPETENT),
        signatures=tuple(Signature(role=each) for each in ("Designed by", "Tested by", "Date")),
        missing=tuple(draft_reasons(gathered.survey, gathered.shared, bool(job.boards), told, gathered.sheet)),
    )


def _supply(gathered: Gathered) -> Facts:
    supply, own = gathered.house.supply, own_electrodes(gathered.house, gathered.job.circuits)

    def given(value: float | None, unit: str, decimals: int | None = None) -> str:
        if value is None:
            return BLANK
        return f"{plain(value) if decimals is None else show(value, decimals)} {unit}"

    said = {
        "Earthing": supply.earthing or BLANK,
        "Ze": given(supply.ze_ohm, "Ω", 2),
        "Fault current": given(supply.fault_current_ka, "kA"),
        "Main fuse": given(supply.main_fuse.rating_a, "A"),
        "Tails": given(supply.tails.csa_mm2, "mm²"),
        "Earthing conductor": given(supply.earthing_conductor_mm2, "mm²"),
        **{f"Electrode of {whose}": measured_words(each) or BLANK for whose, each in own},
    }
    return Facts(facts=tuple(Fact(name=name, value=value) for name, value in said.items()))


def _row(rulebook: Rulebook, circuit: JobCircuit, answer: CircuitAnswer, failed: tuple[str, ...]) -> Row:
    design, facts = circuit.design, answer.facts
    device = design.device
    kind = rulebook.devices[device.standard]
    readings = standing(circuit.readings)
    cells = {
        "number": str(design.number),
        "name": design.name,
        "points": str(sum(point.kind != "joint" for point in design.points)),
        "shape": answer.result.shape.title,
        "method": design.method,
        "live_mm2": plain(design.cable.csa_mm2),
        "cpc_mm2": BLANK if facts.cpc_mm2 is None else plain(facts.cpc_mm2),
        "device": f"{kind.short} {device.curve or ''}".strip(),
        "rating_a": plain(device.rating_a),
        "breaking_ka": BLANK if device.breaking_capacity_ka is None else plain(device.breaking_capacity_ka),
        "rcd": rcd_words(facts.rcd) or BLANK,
        "max_zs_ohm": BLANK if facts.max_zs_ohm is None else show(floor_to(facts.max_zs_ohm, 2)),
        "r1": _one(readings, "r1"),
        "rn": _one(readings, "rn"),
        "r2": _one(readings, "r2"),
        "r1_r2": _highest(readings, ("r1+r2", "cross-le")),
        "insulation_ll": _one(readings, "insulation-ll"),
        "insulation_le": _one(readings, "insulation-le"),
        "polarity": _tick(readings, "polarity"),
        "zs": _highest(readings, ("zs",)),
        "rcd_ms": _one(readings, "rcd-trip"),
        "button": _tick(readings, "rcd-button"),
        "design": _word(answer.result.verdict),
        "tests": _tests_word(answer),
        "state": "; ".join(failed) or "in order",
    }
    return Row(cells=cells, bad=tuple(key for key, cell in cells.items() if cell in _BAD))


Standing = dict[Key, Reading]


def _said(reading: Reading) -> str:
    value = reading.value or 0.0
    # Ohms are read to two decimals: 0.3 would look as if it had been read to one.
    ohms = reading.quantity in ("r1", "rn", "r2", "cross-ln", "cross-le", "r1+r2", "zs")
    text = show(value) if ohms and round(value, 2) == value and value < 100 else plain(value)
    return f"{'>' if reading.beyond else ''}{text}"


def _one(readings: Standing, quantity: Quantity) -> str:
    reading = readings.get((quantity, None))
    return BLANK if reading is None else _said(reading)


def _highest(readings: Standing, quantities: tuple[Quantity, ...]) -> str:
    found = [reading for (quantity, _), reading in readings.items() if quantity in quantities]
    if not found:
        return BLANK
    return _said(max(found, key=lambda reading: (reading.beyond, reading.value or 0.0)))


def _tick(readings: Standing, quantity: Quantity) -> str:
    reading = readings.get((quantity, None))
    return BLANK if reading is None else ("✓" if reading.correct else "✗")


def _word(verdict: Verdict) -> str:
    return {"pass": "pass", "fail": "FAILS", "cannot-tell": "open", "not-applicable": BLANK}[verdict]


def _tests_word(answer: CircuitAnswer) -> str:
    if answer.tests.taken and answer.tests.verdict is not Verdict.PASS:
        return _word(answer.tests.verdict)
    if answer.tests.taken < answer.tests.total:
        return f"{answer.tests.taken}/{answer.tests.total}"
    return "pass"
