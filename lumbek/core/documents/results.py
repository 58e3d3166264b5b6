"""The test results of a job, reading by reading: limit, verdict, instrument, who and when, and what was not taken."""

from collections.abc import Iterable, Mapping

from lumbek.core.answers import answer_circuits
from lumbek.core.board.house import house_of_job
from lumbek.core.model.job import Job
from lumbek.core.model.reading import Reading
from lumbek.core.model.visit import Instrument, Visit
from lumbek.core.numbers import plain
from lumbek.core.result import Check, Verdict
from lumbek.core.rulebooks import rulebook_of
from lumbek.core.survey.as_read import supply_of_job
from lumbek.core.testing.installation import installation_sheet
from lumbek.core.testing.sheet import Item, Sheet
from lumbek.core.value import Frozen

_ASIDE = {"deferred": "later", "limitation": "limitation", "not-applicable": "not applicable"}
# What was seen, good and bad, where "right" would say nothing of it.
_SEEN = {"isolation": ("proved dead", "NOT DEAD"), "rcd-button": ("trips", "DOES NOT TRIP")}
_VERDICT = {
    Verdict.PASS: "passes",
    Verdict.FAIL: "FAILS",
    Verdict.CANNOT_TELL: "cannot tell",
    Verdict.NOT_APPLICABLE: "",
}


class ResultRow(Frozen):
    """One reading as it is printed; `struck` where a later one stands for it."""

    step: str
    test: str
    place: str
    reading: str
    limit: str
    verdict: str
    note: str
    instrument: str
    by: str
    at: str
    struck: bool = False


class ResultPart(Frozen):
    """The results of the installation, or of one circuit; `remarks` are readings held against each other."""

    number: int | None
    title: str
    rows: tuple[ResultRow, ...]
    remarks: tuple[str, ...] = ()
    missing: int = 0


class Results(Frozen):
    """All test results of a job. They say what was read, and show no compliance by themselves."""

    job: str
    client: str
    address: str
    rulebook: str
    advice: str
    instruments: tuple[Instrument, ...]
    parts: tuple[ResultPart, ...]


def make_results(job: Job) -> Results:
    """Return every reading of a job."""
    book = rulebook_of(job)
    visits = {visit.id: visit for visit in job.visits}
    house = house_of_job(job)
    whole = installation_sheet(book, supply_of_job(job), job.readings, house, job.extent)
    parts = [_part(None, "The installation", whole, visits)]
    parts += [_part(each.number, each.name, each.tests, visits) for each in answer_circuits(job, house=house)]
    instruments = dict.fromkeys(each for visit in job.visits for each in visit.instruments)
    return Results(
        job=job.name,
        client=job.client,
        address=job.address,
        rulebook=book.data.title,
        advice=book.data.advice,
        instruments=tuple(instruments),
        parts=tuple(parts),
    )


def _part(number: int | None, title: str, sheet: Sheet, visits: Mapping[str, Visit]) -> ResultPart:
    rows = [row for stage in sheet.stages for item in stage.items for row in _rows(stage.title, item, visits)]
    remarks = [*([f"Live tests went first: {sheet.reason}"] if sheet.reason else []), *map(_remark, sheet.between)]
    return ResultPart(
        number=number, title=title, rows=tuple(rows), remarks=tuple(remarks), missing=sheet.total - sheet.taken
    )


def _remark(check: Check) -> str:
    return f"{check.title}: {check.answer}. {check.caution}".strip()


def _rows(step: str, item: Item, visits: Mapping[str, Visit]) -> Iterable[ResultRow]:
    limit = f"{item.sense} {item.limit} {item.unit}" if item.limit else ""
    for reading in item.earlier:
        yield _row(step, item, reading, visits, limit, "", struck=True)
    standing = item.reading or item.aside
    if standing is not None and not item.tested_at:
        verdict = _VERDICT[item.check.verdict] if item.check is not None and item.reading is not None else ""
        yield _row(step, item, standing, visits, limit, verdict)


def _row(
    step: str,
    item: Item,
    reading: Reading,
    visits: Mapping[str, Visit],
    limit: str,
    verdict: str,
    struck: bool = False,
) -> ResultRow:
    visit = visits.get(reading.visit or "")
    return ResultRow(
        step=step,
        test=item.title,
        place=item.place,
        reading=_said(reading, item.unit),
        limit=limit,
        verdict=verdict,
        note=reading.note,
        instrument=", ".join(f"{each.name} {each.serial}".strip() for each in visit.instruments) if visit else "",
        by=reading.said_by,
        at=(reading.taken_at or reading.at)[:16].replace("T", " "),
        struck=struck,
    )


def _said(reading: Reading, unit: str) -> str:
    if reading.untaken is not None:
        return _ASIDE[reading.untaken]
    if reading.correct is not None:
        good, bad = _SEEN.get(reading.quantity, ("right", "WRONG"))
        return good if reading.correct else bad
    if reading.value is None:
        return "taken back"
    return f"{'>' if reading.beyond else ''}{plain(reading.value)} {unit}".strip()
