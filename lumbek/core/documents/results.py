"""The test results of a job, reading by reading: limit, verdict, instrument, who and when, and what was not taken."""

from collections.abc import Iterable, Mapping

from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.paper import COMPETENT, Block, Column, Paper, Row, Section, Table, Words
from lumbek.core.judging.check import Check, Verdict
from lumbek.core.model.reading import Reading
from lumbek.core.model.visit import Instrument, Visit
from lumbek.core.numbers import plain
from lumbek.core.testing.sheet import Item, Sheet

_ASIDE = {"deferred": "later", "limitation": "limitation", "not-applicable": "not applicable"}
# What was seen, good and bad, where "right" would say nothing of it.
_SEEN = {"isolation": ("proved dead", "NOT DEAD"), "rcd-button": ("trips", "DOES NOT TRIP")}
_VERDICT = {
    Verdict.PASS: "passes",
    Verdict.FAIL: "FAILS",
    Verdict.CANNOT_TELL: "cannot tell",
    Verdict.NOT_APPLICABLE: "",
}


COLUMNS: tuple[Column, ...] = (
    Column(key="number", heading="No.", only="csv"),
    Column(key="circuit", heading="Circuit", only="csv"),
    Column(key="step", heading="Step", only="csv"),
    Column(key="test", heading="Test"),
    Column(key="place", heading="Place"),
    Column(key="reading", heading="Reading", align="right", strong=True, whole=True),
    Column(key="limit", heading="Limit"),
    Column(key="verdict", heading="Verdict"),
    Column(key="note", heading="Note"),
    Column(key="instrument", heading="Instrument"),
    Column(key="by", heading="By", whole=True),
    Column(key="at", heading="At", whole=True),
    Column(key="struck", heading="Struck", only="csv"),
)


def results_paper(gathered: Gathered) -> Paper:
    """Return every reading of a job. They say what was read, and show no compliance by themselves."""
    job = gathered.job
    visits = {visit.id: visit for visit in job.visits}
    sections = [_section("", "The installation", gathered.sheet, visits)]
    sections += [_section(str(each.number), each.name, each.tests, visits) for each in gathered.answers]
    instruments = dict.fromkeys(each for visit in job.visits for each in visit.instruments)
    named = "; ".join(map(_instrument, instruments)) or "none named"
    return Paper(
        kind="results",
        title="Test results",
        **gathered.head,
        sections=(Section(blocks=(Words(lines=(f"Instruments: {named}",)),)), *filter(None, sections)),
        statements=(
            "What is struck was read again later; both stay on record.",
            "These are readings: whether the installation complies, the schedule of circuits says.",
            COMPETENT,
        ),
    )


def _instrument(each: Instrument) -> str:
    until = f", calibrated until {each.calibrated_until}" if each.calibrated_until else ""
    return f"{each.name} {each.serial}".strip() + until


def _section(number: str, title: str, sheet: Sheet, visits: Mapping[str, Visit]) -> Section | None:
    """Return the results of the installation, or of one circuit; nothing of a circuit that nobody has read."""
    named = {"number": number, "circuit": title}
    rows = [row for stage in sheet.stages for item in stage.items for row in _rows(named, stage.title, item, visits)]
    remarks = [*([f"Live tests went first: {sheet.reason}"] if sheet.reason else []), *map(_remark, sheet.between)]
    blocks: list[Block] = [Table(columns=COLUMNS, rows=tuple(rows))] if rows else []
    if sheet.total > sheet.taken:
        blocks.append(Words(lines=(f"{sheet.total - sheet.taken} readings are not taken yet.",), kind="strong"))
    if remarks:
        blocks.append(Words(lines=tuple(remarks), kind="list"))
    return Section(title=f"{number} {title}".strip(), blocks=tuple(blocks)) if rows or not number else None


def _remark(check: Check) -> str:
    return f"{check.title}: {check.answer}. {check.caution}".strip()


def _rows(named: dict[str, str], step: str, item: Item, visits: Mapping[str, Visit]) -> Iterable[Row]:
    """Yield a line for each reading of an item; one that a later one stands for is struck."""
    limit = f"{item.sense} {item.limit} {item.unit}" if item.limit else ""
    said = {**named, "step": step, "test": item.title, "place": item.place, "limit": limit}
    for reading in item.earlier:
        yield _row(said, reading, item.unit, visits, struck=True)
    standing = item.reading or item.aside
    if standing is not None and not item.tested_at:
        verdict = _VERDICT[item.check.verdict] if item.check is not None and item.reading is not None else ""
        yield _row({**said, "verdict": verdict}, standing, item.unit, visits)


def _row(said: dict[str, str], reading: Reading, unit: str, visits: Mapping[str, Visit], struck: bool = False) -> Row:
    visit = visits.get(reading.visit or "")
    cells = {
        "verdict": "",
        **said,
        "reading": reading_words(reading, unit),
        "note": reading.note,
        "instrument": ", ".join(f"{each.name} {each.serial}".strip() for each in visit.instruments) if visit else "",
        "by": reading.said_by,
        "at": reading.when[:16].replace("T", " "),
        "struck": "struck" if struck else "",
    }
    return Row(cells=cells, bad=("verdict",) if cells["verdict"] == _VERDICT[Verdict.FAIL] else (), struck=struck)


def reading_words(reading: Reading, unit: str) -> str:
    """Return what a reading says: its figure, what was seen, or why it was not taken."""
    if reading.untaken is not None:
        return _ASIDE[reading.untaken]
    if reading.correct is not None:
        good, bad = _SEEN.get(reading.quantity, ("right", "WRONG"))
        return good if reading.correct else bad
    if reading.value is None:
        return "taken back"
    return f"{'>' if reading.beyond else ''}{plain(reading.value)} {unit}".strip()
