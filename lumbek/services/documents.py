"""What the rows hold, as the core knows it: documents of whatever version, read and written in one place."""

from typing import Any
from uuid import UUID

from lumbek.core.model.board import Boards
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.found import FoundKept
from lumbek.core.model.inspection import InspectionKept
from lumbek.core.model.job import JobHead
from lumbek.core.model.places import Places
from lumbek.core.model.reading import Reading
from lumbek.core.model.supply import Supply
from lumbek.core.model.visit import Visit
from lumbek.core.places.named import unnamed
from lumbek.exchange.stored import read_stored
from lumbek.exchange.upgrade import CURRENT
from lumbek.services.clock import moment, stamp
from lumbek.store.models import (
    CircuitRevision,
    CircuitRow,
    FoundRecord,
    InspectionRecordRow,
    JobRevision,
    JobRow,
    LibraryCircuit,
    PlacesRevision,
    PlacesRow,
    ReadingRow,
    VisitRow,
    WiringRecord,
)


def design_of(row: CircuitRow | CircuitRevision | LibraryCircuit | WiringRecord) -> Circuit:
    """Return the design that a row holds."""
    return read_stored(Circuit, "circuit", row.design, row.format)


def supply_of(row: JobRow) -> Supply:
    """Return the supply of a job."""
    return read_stored(Supply, "supply", row.supply, row.format)


def head_of(row: JobRow) -> JobHead:
    """Return what a job is called and judged by."""
    fields = {name: getattr(row, name) for name in JobHead.model_fields}
    return read_stored(JobHead, "head", fields, row.format)


def head_then(row: JobRevision) -> JobHead:
    """Return what a job was called and judged by."""
    return read_stored(JobHead, "head", row.document["head"], row.format)


def supply_then(row: JobRevision) -> Supply:
    """Return what the supply of a job was."""
    return read_stored(Supply, "supply", row.document["supply"], row.format)


def places_of(row: PlacesRow | PlacesRevision | None) -> Places:
    """Return the storeys and rooms that a row holds; none where there is no row."""
    return Places() if row is None else read_stored(Places, "places", row.document, row.format)


def boards_then(row: JobRevision) -> Boards:
    """Return the boards of a job as they were."""
    return read_stored(Boards, "house", row.document.get("house", {}), row.format)


def boards_of(row: JobRow) -> Boards:
    """Return the boards of a job, as they are kept."""
    return read_stored(Boards, "house", row.house, row.format)


# The fields of a reading that have columns of their own; the others are kept together where they are said.
_COLUMNS = ("quantity", "point", "value", "beyond", "correct", "test")


def reading_of(row: ReadingRow) -> Reading:
    """Return a reading as it was taken."""
    columns = {name: getattr(row, name) for name in _COLUMNS}
    return Reading.model_validate({**columns, **row.more, "by": row.by, "at": stamp(row.at)})


def reading_row(
    reading: Reading, by_id: UUID | None, circuit_id: UUID | None = None, job_id: UUID | None = None
) -> ReadingRow:
    """Return a reading as it is kept: of a circuit, or of a job whole; `by_id` is who entered it here, if anybody."""
    columns = {name: getattr(reading, name) for name in _COLUMNS}
    more = reading.model_dump(mode="json", exclude_defaults=True, exclude={*_COLUMNS, "by", "at"})
    whose = {"circuit_id": circuit_id, "job_id": job_id, "by": reading.by, "by_id": by_id}
    return ReadingRow(**whose, **columns, more=more, at=moment(reading.at))


def visit_of(row: VisitRow) -> Visit:
    """Return a visit."""
    return Visit.model_validate(_record_of(row))


def visit_row(visit: Visit, job_id: UUID, visit_id: UUID) -> VisitRow:
    """Return a visit as it is kept."""
    return VisitRow(id=visit_id, job_id=job_id, **_columns_of(visit))


def found_of(row: FoundRecord) -> FoundKept:
    """Return a record of what was found."""
    return FoundKept.model_validate(_record_of(row))


def found_row(found: FoundKept, job_id: UUID, record_id: UUID) -> FoundRecord:
    """Return a record of what was found as it is kept."""
    return FoundRecord(id=record_id, job_id=job_id, **_columns_of(found))


def inspection_of(row: InspectionRecordRow) -> InspectionKept:
    """Return a record of an inspection."""
    return InspectionKept.model_validate({**row.document, "id": visit_key(row.id), "by": row.by, "at": stamp(row.at)})


def inspection_row(kept: InspectionKept, job_id: UUID, record_id: UUID, by_id: UUID | None) -> InspectionRecordRow:
    """Return a record of an inspection as it is kept; `by_id` is who said it here, if anybody."""
    document = kept.model_dump(mode="json", exclude={"id", "by", "at"})
    columns = {"what": kept.said.record, "document": document, "by": kept.by, "by_id": by_id}
    return InspectionRecordRow(id=record_id, job_id=job_id, **columns, at=moment(kept.at))


def _record_of(row: VisitRow | FoundRecord) -> dict[str, Any]:
    """Return what is kept of something that is only added to a job, as its fields."""
    return {**row.document, "id": visit_key(row.id), "by": row.by, "at": stamp(row.at)}


def _columns_of(record: Visit | FoundKept) -> dict[str, Any]:
    """Return the columns of something that is only added to a job: the document, by whom and when."""
    document = record.model_dump(mode="json", exclude={"id", "by", "at"})
    return {"document": document, "by": record.by, "at": moment(record.at)}


def visit_key(visit_id: UUID) -> str:
    """Return what readings know a visit by."""
    return visit_id.hex


def write_design(row: CircuitRow, design: Circuit) -> None:
    """Put a design into a row, in the version that is written now; what its rooms are called the house says."""
    row.design, row.format = unnamed(design).model_dump(mode="json"), CURRENT


def write_job(row: JobRow, head: JobHead, supply: Supply, boards: Boards) -> None:
    """Put head, supply and boards into a job's row, in the version that is written now."""
    for field, value in head.model_dump().items():
        setattr(row, field, value)
    row.supply, row.house, row.format = supply.model_dump(mode="json"), boards.model_dump(mode="json"), CURRENT


def job_document(head: JobHead, supply: Supply, boards: Boards) -> dict[str, Any]:
    """Return head, supply and boards as one document, as it is kept among the revisions."""
    return {
        "head": head.model_dump(mode="json"),
        "supply": supply.model_dump(mode="json"),
        "house": boards.model_dump(mode="json"),
    }
