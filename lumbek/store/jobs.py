"""Jobs, circuits and readings of one firm. Every query is bound to the firm that asks."""

from datetime import datetime
from typing import Any, NamedTuple
from uuid import UUID

from sqlalchemy import ColumnElement, Select, bindparam, func, literal_column, or_, select, text, update
from sqlalchemy.dialects.postgresql import aggregate_order_by, insert
from sqlalchemy.orm import InstrumentedAttribute, Session, defer

from lumbek.core.model.site import OF_THE_WORK
from lumbek.store.models import (
    CircuitRevision,
    CircuitRow,
    DoneWrite,
    FoundRecord,
    InspectionRecordRow,
    JobRevision,
    JobRow,
    LibraryCircuit,
    PlacesRevision,
    PlacesRow,
    ReadingRow,
    VisitRow,
)


def _jobs_of(firm_id: UUID) -> Select[JobRow]:
    return select(JobRow).where(JobRow.firm_id == firm_id, JobRow.removed_at.is_(None))


# All that a job is called by, as its index has it: no word that is searched for has a line break.
_LINE: ColumnElement[str] = literal_column("E'\\n'")
_CALLED_BY = JobRow.name + _LINE + JobRow.client + _LINE + JobRow.address


def list_jobs(db: Session, firm_id: UUID, search: str, most: int = 200) -> list[tuple[JobRow, int]]:
    """Return the firm's jobs, last changed first, with their number of circuits; `search` finds any part."""
    # Counted for those that are listed only, by the index of each.
    circuits = (
        select(func.count())
        .where(CircuitRow.job_id == JobRow.id, CircuitRow.removed_at.is_(None))
        .correlate(JobRow)
        .scalar_subquery()
    )
    query = _jobs_of(firm_id).add_columns(circuits).order_by(JobRow.changed_at.desc(), JobRow.id).limit(most)
    for word in search.split():
        # Escaped, so that a % or _ in a name is only itself.
        pattern = "%" + word.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_") + "%"
        query = query.where(_CALLED_BY.ilike(pattern))
    return [(job, count) for job, count in db.execute(query)]


def job_ids(db: Session, firm_id: UUID) -> list[UUID]:
    """Return every job of a firm."""
    return [job.id for job in db.scalars(_jobs_of(firm_id).order_by(JobRow.changed_at))]


def names_ever(db: Session, firm_id: UUID) -> set[str]:
    """Return the names of all jobs a firm has ever had, removed ones too."""
    return set(db.scalars(select(JobRow.name).where(JobRow.firm_id == firm_id)))


def find_job(db: Session, firm_id: UUID, job_id: UUID, lock: bool = False) -> JobRow | None:
    """Return a job of this firm; with `lock`, held against other writers until the transaction ends."""
    query = _jobs_of(firm_id).where(JobRow.id == job_id)
    return db.scalar(query.with_for_update().execution_options(populate_existing=True) if lock else query)


def keep_job_revision(
    db: Session,
    job: JobRow,
    document: dict[str, Any],
    by_id: UUID | None = None,
    part: str | None = None,
    undo_to: int | None = None,
    redo_to: int | None = None,
) -> None:
    """Remember the state a job is in, who brought it there (nobody where Lumbek did), and which part was changed."""
    revision = JobRevision(
        job_id=job.id,
        version=job.version,
        document=document,
        format=job.format,
        part=part,
        undo_to=undo_to,
        redo_to=redo_to,
        by=job.changed_by,
        by_id=by_id,
    )
    db.add(revision)


def job_revision(db: Session, job_id: UUID, part: str, version: int | None = None) -> JobRevision | None:
    """Return the last state a part of a job was brought to, or the one at a version."""
    query = select(JobRevision).where(
        JobRevision.job_id == job_id, or_(JobRevision.part == part, JobRevision.part.is_(None))
    )
    if version is not None:
        query = query.where(JobRevision.version == version)
    return db.scalar(query.order_by(JobRevision.version.desc()).limit(1))


def places_of(db: Session, job_id: UUID, lock: bool = False) -> PlacesRow | None:
    """Return the storeys and rooms of a job; with `lock`, held against other writers."""
    query = select(PlacesRow).where(PlacesRow.id == job_id)
    return db.scalar(query.with_for_update().execution_options(populate_existing=True) if lock else query)


def keep_places_revision(
    db: Session, places: PlacesRow, by_id: UUID | None, undo_to: int | None = None, redo_to: int | None = None
) -> None:
    """Remember the state the storeys and rooms of a job are in, and who brought them there."""
    revision = PlacesRevision(
        job_id=places.id,
        version=places.version,
        document=places.document,
        format=places.format,
        undo_to=undo_to,
        redo_to=redo_to,
        by=places.changed_by,
        by_id=by_id,
    )
    db.add(revision)


def places_revision(db: Session, job_id: UUID, version: int) -> PlacesRevision | None:
    """Return the state the storeys and rooms of a job were in at a version."""
    return db.get(PlacesRevision, (job_id, version))


def circuits_of(db: Session, job_id: UUID, lock: bool = False, designs: bool = True) -> list[CircuitRow]:
    """Return a job's circuits in their order; with `lock`, held against other writers.

    Without `designs` each is fetched by itself where it is asked for: for whoever knows most of them.
    """
    query = select(CircuitRow).where(CircuitRow.job_id == job_id, CircuitRow.removed_at.is_(None))
    if not designs:
        query = query.options(defer(CircuitRow.design))
    query = query.order_by(CircuitRow.place, CircuitRow.id)
    return list(db.scalars(query.with_for_update().execution_options(populate_existing=True) if lock else query))


# What is asked on nearly every request is built once.
_JOB = bindparam("job_id", type_=CircuitRow.job_id.type)
_THEIRS = (CircuitRow.job_id == _JOB, CircuitRow.removed_at.is_(None))
_VERSIONS = select(CircuitRow.id, CircuitRow.version).where(*_THEIRS).order_by(CircuitRow.place, CircuitRow.id)


def circuit_versions(db: Session, job_id: UUID) -> list[tuple[UUID, int]]:
    """Return the ids and versions of a job's circuits, in their order."""
    return [(row[0], row[1]) for row in db.execute(_VERSIONS, {"job_id": job_id})]


class Marks(NamedTuple):
    """What a job's answers follow from, without what is in it: whatever changes, one of these does."""

    version: int
    changed_at: datetime
    circuits: tuple[tuple[UUID, int], ...]
    last_reading: int
    visits: int


def _in_order(column: InstrumentedAttribute[Any]) -> Any:
    return func.array_agg(aggregate_order_by(column, CircuitRow.place, CircuitRow.id))


# All in one question: it is asked whenever a job is opened.
_MARKS = select(
    _in_order(CircuitRow.id),
    _in_order(CircuitRow.version),
    func.greatest(
        0,
        select(func.max(ReadingRow.id)).where(ReadingRow.job_id == _JOB).scalar_subquery(),
        # By circuit, and not by either in one: so that each is found by its index.
        select(func.max(ReadingRow.id))
        .where(ReadingRow.circuit_id.in_(select(CircuitRow.id).where(*_THEIRS)))
        .scalar_subquery(),
    ),
    select(func.count()).select_from(VisitRow).where(VisitRow.job_id == _JOB).scalar_subquery(),
).where(*_THEIRS)


def marks_of(db: Session, job: JobRow) -> Marks:
    """Return the marks of a job as it stands."""
    ids, versions, read, visits = db.execute(_MARKS, {"job_id": job.id}).one()
    circuits = tuple(zip(ids or (), versions or (), strict=True))
    return Marks(job.version, job.changed_at, circuits, read, visits)


def circuits_by_id(db: Session, circuit_ids: list[UUID]) -> list[CircuitRow]:
    """Return these circuits."""
    return list(db.scalars(select(CircuitRow).where(CircuitRow.id.in_(circuit_ids)))) if circuit_ids else []


_CIRCUIT = (
    select(CircuitRow, JobRow)
    .join(JobRow, JobRow.id == CircuitRow.job_id)
    .where(
        CircuitRow.id == bindparam("circuit_id"),
        CircuitRow.removed_at.is_(None),
        JobRow.firm_id == bindparam("firm_id"),
        JobRow.removed_at.is_(None),
    )
)


def find_circuit(db: Session, firm_id: UUID, circuit_id: UUID, lock: bool = False) -> tuple[CircuitRow, JobRow] | None:
    """Return a circuit of this firm with its job; with `lock`, the circuit is held against other writers."""
    # What has been read before may have changed by the time it is held.
    query = _CIRCUIT.with_for_update(of=CircuitRow).execution_options(populate_existing=True) if lock else _CIRCUIT
    row = db.execute(query, {"circuit_id": circuit_id, "firm_id": firm_id}).first()
    return None if row is None else (row[0], row[1])


def next_place(db: Session, job_id: UUID) -> int:
    """Return the place after a job's last circuit, removed ones counted too."""
    last = db.scalar(select(func.max(CircuitRow.place)).where(CircuitRow.job_id == job_id))
    return (last or 0) + 1


def keep_circuit_revision(
    db: Session,
    circuit: CircuitRow,
    by_id: UUID | None,
    undo_to: int | None = None,
    redo_to: int | None = None,
) -> CircuitRevision:
    """Remember the state a circuit is in now, who brought it there, and what undoing and redoing it lead to."""
    revision = CircuitRevision(
        circuit_id=circuit.id,
        version=circuit.version,
        design=circuit.design,
        format=circuit.format,
        undo_to=undo_to,
        redo_to=redo_to,
        by=circuit.changed_by,
        by_id=by_id,
    )
    db.add(revision)
    return revision


def circuit_revision(db: Session, circuit_id: UUID, version: int) -> CircuitRevision | None:
    """Return the state a circuit was in at a version."""
    return db.get(CircuitRevision, (circuit_id, version))


def touch_job(db: Session, job_id: UUID, by: str, now: datetime) -> None:
    """Bring a job to the top of the list."""
    db.execute(update(JobRow).where(JobRow.id == job_id).values(changed_by=by, changed_at=now))


def readings_of(db: Session, circuit_ids: list[UUID]) -> dict[UUID, list[ReadingRow]]:
    """Return every reading of these circuits, oldest first."""
    found: dict[UUID, list[ReadingRow]] = {circuit_id: [] for circuit_id in circuit_ids}
    for row in db.scalars(select(ReadingRow).where(ReadingRow.circuit_id.in_(circuit_ids)).order_by(ReadingRow.id)):
        if row.circuit_id is not None:
            found[row.circuit_id].append(row)
    return found


def readings_of_job(db: Session, job_id: UUID) -> list[ReadingRow]:
    """Return every reading of an installation as a whole, oldest first."""
    return list(db.scalars(select(ReadingRow).where(ReadingRow.job_id == job_id).order_by(ReadingRow.id)))


def found_on(db: Session, job_id: UUID) -> list[FoundRecord]:
    """Return what was found on a job, oldest first."""
    query = select(FoundRecord).where(FoundRecord.job_id == job_id)
    return list(db.scalars(query.order_by(FoundRecord.at, FoundRecord.id)))


def job_called(db: Session, firm_id: UUID, name: str) -> UUID | None:
    """Return a job of a firm by its name; None where there is none, or it was removed."""
    query = select(JobRow.id).where(JobRow.firm_id == firm_id, JobRow.name == name, JobRow.removed_at.is_(None))
    return db.scalars(query.limit(1)).first()


def inspection_of(db: Session, job_id: UUID) -> list[InspectionRecordRow]:
    """Return what was said on the inspection of a job, oldest first."""
    query = select(InspectionRecordRow).where(InspectionRecordRow.job_id == job_id)
    return list(db.scalars(query.order_by(InspectionRecordRow.place)))


def count_inspection(db: Session, job_id: UUID) -> int:
    """Return how many records the inspection of a job has."""
    query = select(func.count()).select_from(InspectionRecordRow).where(InspectionRecordRow.job_id == job_id)
    return db.scalar(query) or 0


# The day of the next inspection that was said last, job by job.
_DUE = text(
    "SELECT DISTINCT ON (job.id) job.id, job.name, job.client, job.address, "
    "said.document -> 'said' ->> 'next_day', coalesce(said.document -> 'said' ->> 'next_why', '') "
    "FROM job JOIN inspection_record AS said ON said.job_id = job.id AND said.what = 'particulars' "
    "AND coalesce(said.document -> 'said' ->> 'next_day', '') <> '' "
    "WHERE job.firm_id = :firm_id AND job.removed_at IS NULL ORDER BY job.id, said.place DESC"
)


def due_of(db: Session, firm_id: UUID) -> list[tuple[UUID, str, str, str, str, str]]:
    """Return the jobs of a firm with the day of the next inspection, and why then."""
    return [(row[0], row[1], row[2], row[3], row[4], row[5]) for row in db.execute(_DUE, {"firm_id": firm_id})]


def inspection_mark(db: Session, job_id: UUID) -> int:
    """Return what changes whenever anything is said that a paper follows from: 0 where nothing was.

    Signatures are not, nor is how far the work has come.
    """
    query = select(func.max(InspectionRecordRow.place)).where(
        InspectionRecordRow.job_id == job_id, InspectionRecordRow.what.not_in(("signed", *OF_THE_WORK))
    )
    return db.scalar(query) or 0


def visits_of(db: Session, job_id: UUID) -> list[VisitRow]:
    """Return the visits to a job, oldest first."""
    return list(db.scalars(select(VisitRow).where(VisitRow.job_id == job_id).order_by(VisitRow.at, VisitRow.id)))


def standing_readings_of(db: Session, circuit_ids: list[UUID]) -> dict[UUID, list[ReadingRow]]:
    """Return the last reading of each quantity and point of these circuits: all that is in force."""
    found: dict[UUID, list[ReadingRow]] = {circuit_id: [] for circuit_id in circuit_ids}
    last = (
        select(ReadingRow)
        .where(ReadingRow.circuit_id.in_(circuit_ids))
        .distinct(ReadingRow.circuit_id, ReadingRow.quantity, ReadingRow.point, ReadingRow.test)
        .order_by(ReadingRow.circuit_id, ReadingRow.quantity, ReadingRow.point, ReadingRow.test, ReadingRow.id.desc())
    )
    for row in db.scalars(last):
        if row.circuit_id is not None:
            found[row.circuit_id].append(row)
    return found


def do_once(db: Session, write_id: UUID, firm_id: UUID, subject: UUID, content: str) -> bool:
    """Mark a write as done, by the id its sender made; False where it has been done already.

    `content` is a hash of what it says. A write of the same id that is under way elsewhere is waited for.
    """
    row = {"id": write_id, "firm_id": firm_id, "subject": subject, "content": content}
    marked = insert(DoneWrite).values(**row).on_conflict_do_nothing()
    return db.execute(marked.returning(DoneWrite.id)).first() is not None


def done_write(db: Session, write_id: UUID, firm_id: UUID) -> DoneWrite | None:
    """Return a write that was done; None for another firm's."""
    return db.scalar(select(DoneWrite).where(DoneWrite.id == write_id, DoneWrite.firm_id == firm_id))


def library_of(db: Session, firm_id: UUID) -> list[LibraryCircuit]:
    """Return the firm's usual circuits by name."""
    query = select(LibraryCircuit).where(LibraryCircuit.firm_id == firm_id, LibraryCircuit.removed_at.is_(None))
    return list(db.scalars(query.order_by(LibraryCircuit.name, LibraryCircuit.at)))


def find_in_library(db: Session, firm_id: UUID, library_id: UUID) -> LibraryCircuit | None:
    """Return one of the firm's usual circuits."""
    query = select(LibraryCircuit).where(LibraryCircuit.firm_id == firm_id, LibraryCircuit.removed_at.is_(None))
    return db.scalar(query.where(LibraryCircuit.id == library_id))
