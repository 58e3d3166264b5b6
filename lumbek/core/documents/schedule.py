"""The schedule of circuit details and test results: one line a circuit, the same for page, CSV and PDF."""

from collections.abc import Iterable

from lumbek.core.answers import CircuitAnswer, answer_circuits
from lumbek.core.board.house import House, house_of_job
from lumbek.core.board.judge import judge_house
from lumbek.core.documents.issue import draft_reasons, failures
from lumbek.core.model.job import Job, JobCircuit
from lumbek.core.model.reading import Key, Quantity, Reading, standing
from lumbek.core.numbers import floor_to, plain, show
from lumbek.core.protection.zs_limit import zs_limit
from lumbek.core.result import Verdict
from lumbek.core.rulebooks import rulebook_of
from lumbek.core.study.door import study_of
from lumbek.core.study.study import Study
from lumbek.core.survey.as_read import supply_of_job
from lumbek.core.survey.judgement import judge_supply
from lumbek.core.testing.installation import installation_sheet
from lumbek.core.value import Frozen

BLANK = "–"


class Column(Frozen):
    """A column: its key, its heading, and the group it stands under."""

    key: str
    heading: str
    group: str


COLUMNS: tuple[Column, ...] = (
    Column(key="number", heading="No.", group="Circuit"),
    Column(key="name", heading="Serves", group="Circuit"),
    Column(key="points", heading="Points", group="Circuit"),
    Column(key="shape", heading="Run", group="Circuit"),
    Column(key="method", heading="Method", group="Cable"),
    Column(key="live_mm2", heading="Live mm²", group="Cable"),
    Column(key="cpc_mm2", heading="cpc mm²", group="Cable"),
    Column(key="device", heading="Device", group="Protection"),
    Column(key="rating_a", heading="In A", group="Protection"),
    Column(key="breaking_ka", heading="kA", group="Protection"),
    Column(key="rcd", heading="RCD", group="Protection"),
    Column(key="max_zs_ohm", heading="Max Zs Ω", group="Protection"),
    Column(key="r1", heading="r1 Ω", group="Dead tests"),
    Column(key="rn", heading="rn Ω", group="Dead tests"),
    Column(key="r2", heading="r2 Ω", group="Dead tests"),
    Column(key="r1_r2", heading="R1+R2 Ω", group="Dead tests"),
    Column(key="insulation_ll", heading="L–N MΩ", group="Dead tests"),
    Column(key="insulation_le", heading="L–E MΩ", group="Dead tests"),
    Column(key="polarity", heading="Pol.", group="Dead tests"),
    Column(key="zs", heading="Zs Ω", group="Live tests"),
    Column(key="rcd_ms", heading="RCD ms", group="Live tests"),
    Column(key="button", heading="Btn", group="Live tests"),
    Column(key="design", heading="Design", group="Verdict"),
    Column(key="tests", heading="Tests", group="Verdict"),
)


class ScheduleRow(Frozen):
    """One circuit's line, each cell as it is printed, and why it is not in order where it is not."""

    cells: dict[str, str]
    failures: tuple[str, ...]


class Schedule(Frozen):
    """The schedule of a job. A draft says why it cannot be issued."""

    job: str
    client: str
    address: str
    rulebook: str
    advice: str
    supply: tuple[tuple[str, str], ...]
    columns: tuple[Column, ...]
    rows: tuple[ScheduleRow, ...]
    draft: bool
    draft_reasons: tuple[str, ...]


def make_schedule(job: Job, answers: Iterable[CircuitAnswer] | None = None, house: House | None = None) -> Schedule:
    """Return the schedule of a job, by its circuits' answers and its house where they are at hand."""
    rulebook = rulebook_of(job)
    survey = judge_supply(rulebook, supply_of_job(job), job.extent)
    house = house or house_of_job(job)
    rows = []
    for circuit, answer in zip(job.circuits, answers or answer_circuits(job, house=house), strict=True):
        placed = circuit.model_copy(update={"design": house.effective(circuit)})
        row = _row(study_of(rulebook, supply_of_job(job), placed.design).longest, placed, answer)
        rows.append((answer, row))
    shared = judge_house(house)
    whole = installation_sheet(rulebook, supply_of_job(job), job.readings, house, job.extent)
    reasons = draft_reasons(survey, shared, bool(job.boards), [(answer, row.failures) for answer, row in rows], whole)
    return Schedule(
        job=job.name,
        client=job.client,
        address=job.address,
        rulebook=rulebook.data.title,
        advice=rulebook.data.advice,
        supply=_supply_lines(job),
        columns=COLUMNS,
        rows=tuple(row for _, row in rows),
        draft=bool(reasons),
        draft_reasons=tuple(reasons),
    )


def held_back(schedule: Schedule, reason: str) -> Schedule:
    """Return a schedule as a draft, for one reason more."""
    return schedule.model_copy(update={"draft": True, "draft_reasons": (reason, *schedule.draft_reasons)})


def _supply_lines(job: Job) -> tuple[tuple[str, str], ...]:
    supply = supply_of_job(job)

    def given(value: float | None, unit: str, decimals: int | None = None) -> str:
        if value is None:
            return BLANK
        return f"{plain(value) if decimals is None else show(value, decimals)} {unit}"

    return (
        ("Earthing", supply.earthing or BLANK),
        ("Ze", given(supply.ze_ohm, "Ω", 2)),
        ("Fault current", given(supply.fault_current_ka, "kA")),
        ("Main fuse", given(supply.main_fuse.rating_a, "A")),
        ("Tails", given(supply.tails.csa_mm2, "mm²")),
        ("Earthing conductor", given(supply.earthing_conductor_mm2, "mm²")),
    )


def _row(study: Study, circuit: JobCircuit, answer: CircuitAnswer) -> ScheduleRow:
    design = circuit.design
    device = design.device
    # The one nearest the circuit: its own, or that of its group.
    rcd = device.known_rcd or next(iter(reversed(study.known_rcds)), None)
    kind = study.rulebook.devices[device.standard]
    readings = standing(circuit.readings)
    cpc = study.rulebook.cpc_mm2(design.cable)
    limits = [zs_limit(study, point.id) for point in design.points] if study.ahead.earthing else []
    least = min((limit.ohm for limit in limits if limit), default=None)
    cells = {
        "number": str(design.number),
        "name": design.name,
        "points": str(sum(point.kind != "joint" for point in design.points)),
        "shape": answer.result.shape.title,
        "method": design.method,
        "live_mm2": plain(design.cable.csa_mm2),
        "cpc_mm2": BLANK if cpc is None else plain(cpc),
        "device": f"{kind.short} {device.curve or ''}".strip(),
        "rating_a": plain(device.rating_a),
        "breaking_ka": BLANK if device.breaking_capacity_ka is None else plain(device.breaking_capacity_ka),
        "rcd": BLANK if rcd is None or rcd.rated_ma is None else f"{plain(rcd.rated_ma)} mA {rcd.type or ''}".strip(),
        "max_zs_ohm": BLANK if least is None else show(floor_to(least, 2)),
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
    }
    return ScheduleRow(cells=cells, failures=tuple(failures(answer)))


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
