"""Jobs: find, open, start, change, take in and hand out whole."""

from typing import Any
from uuid import UUID

from sqlalchemy.orm import Session

from lumbek.core.answers import answer_circuit, insulation_mohm
from lumbek.core.documents.schedule import Schedule, make_schedule
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.job import Job, JobCircuit, JobHead
from lumbek.core.model.reading import Reading
from lumbek.core.model.supply import Supply
from lumbek.core.protection.who import device_name
from lumbek.core.rulebooks import rulebook_of
from lumbek.core.survey.judgement import judge_supply
from lumbek.services.clock import moment, now, stamp
from lumbek.services.errors import ChangedMeanwhileError, NotFoundError
from lumbek.services.sign_in import Person
from lumbek.services.views import CircuitLine, JobLine, JobView
from lumbek.store import jobs as store
from lumbek.store import people
from lumbek.store.database import Database
from lumbek.store.models import CircuitRow, JobRow, ReadingRow


def head_of(row: JobRow) -> JobHead:
    """Return a job's head as the core knows it."""
    return JobHead.model_validate({field: getattr(row, field) for field in JobHead.model_fields})


def reading_of(row: ReadingRow) -> Reading:
    """Return a kept reading as the core knows it."""
    return Reading.model_validate(
        {
            "quantity": row.quantity,
            "point": row.point,
            "value": row.value,
            "beyond": row.beyond,
            "correct": row.correct,
            "by": row.by,
            "at": stamp(row.at),
        }
    )


def reading_row(circuit_id: UUID, reading: Reading) -> ReadingRow:
    """Return a reading as it is kept."""
    return ReadingRow(circuit_id=circuit_id, **{**reading.model_dump(), "at": moment(reading.at)})


def need_job(db: Session, person: Person, job_id: UUID, lock: bool = False) -> JobRow:
    """Return a job of the person's firm. Raises NotFoundError, for another firm's jobs too."""
    row = store.find_job(db, person.firm_id, job_id, lock)
    if row is None:
        raise NotFoundError("There is no such job here.")
    return row


def add_circuit_row(db: Session, job_id: UUID, place: int, design: Circuit, by: str) -> CircuitRow:
    """Keep a new circuit and its first revision."""
    row = CircuitRow(job_id=job_id, place=place, version=1, design=design.model_dump(mode="json"), changed_by=by)
    db.add(row)
    db.flush()
    store.keep_circuit_revision(db, row)
    return row


def load_circuits(db: Session, job_id: UUID) -> list[tuple[CircuitRow, JobCircuit]]:
    """Return a job's circuits with their readings."""
    rows = store.circuits_of(db, job_id)
    readings = store.readings_of(db, [row.id for row in rows])
    return [
        (
            row,
            JobCircuit(
                design=Circuit.model_validate(row.design),
                readings=tuple(reading_of(reading) for reading in readings[row.id]),
            ),
        )
        for row in rows
    ]


class JobService:
    """Use cases on whole jobs."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def list(self, person: Person, search: str = "") -> list[JobLine]:
        """Return the firm's jobs, last changed first."""
        with self._database.transaction() as db:
            return [
                JobLine(
                    id=row.id,
                    circuits=circuits,
                    changed_by=row.changed_by,
                    changed_at=row.changed_at,
                    **head_of(row).model_dump(exclude={"protection_school", "edition"}),
                )
                for row, circuits in store.list_jobs(db, person.firm_id, search)
            ]

    def start(self, person: Person, head: JobHead) -> JobView:
        """Start an empty job. It keeps to the edition that is newest now, where none is named."""
        edition = rulebook_of(head).data.edition
        return self.take_in(person, Job(**{**head.model_dump(), "edition": edition}))

    def take_in(self, person: Person, job: Job) -> JobView:
        """Keep a whole job, from a file or new, in one transaction."""
        head = JobHead.model_validate(job.model_dump(include=set(JobHead.model_fields)))
        with self._database.transaction() as db:
            row = JobRow(
                firm_id=person.firm_id,
                version=1,
                supply=job.supply.model_dump(mode="json"),
                changed_by=person.name,
                changed_at=now(),
                **head.model_dump(),
            )
            db.add(row)
            db.flush()
            store.keep_job_revision(db, row, _document(head, job.supply))
            for place, circuit in enumerate(job.circuits, start=1):
                kept = add_circuit_row(db, row.id, place, circuit.design, person.name)
                db.add_all(reading_row(kept.id, reading) for reading in circuit.readings)
            people.record(db, person.firm_id, person.user_id, "job-started", str(row.id))
            db.flush()
            return self._view(db, row)

    def open(self, person: Person, job_id: UUID) -> JobView:
        """Return a job with how each of its circuits stands."""
        with self._database.transaction() as db:
            return self._view(db, need_job(db, person, job_id))

    def change_head(self, person: Person, job_id: UUID, version: int, head: JobHead) -> JobView:
        """Save a job's name, client, address and rulebook."""
        return self._change(person, job_id, version, head=head)

    def change_supply(self, person: Person, job_id: UUID, version: int, supply: Supply) -> JobView:
        """Save a job's supply."""
        return self._change(person, job_id, version, supply=supply)

    def remove(self, person: Person, job_id: UUID) -> None:
        """Take a job off the list; nothing of it is deleted."""
        with self._database.transaction() as db:
            row = need_job(db, person, job_id, lock=True)
            row.removed_at = now()
            people.record(db, person.firm_id, person.user_id, "job-removed", str(job_id))

    def whole(self, person: Person, job_id: UUID) -> Job:
        """Return a job as the job file holds it."""
        with self._database.transaction() as db:
            row = need_job(db, person, job_id)
            circuits = tuple(circuit for _, circuit in load_circuits(db, row.id))
            return Job(**head_of(row).model_dump(), supply=Supply.model_validate(row.supply), circuits=circuits)

    def schedule(self, person: Person, job_id: UUID) -> Schedule:
        """Return the schedule of a job."""
        return make_schedule(self.whole(person, job_id))

    def _change(
        self, person: Person, job_id: UUID, version: int, head: JobHead | None = None, supply: Supply | None = None
    ) -> JobView:
        with self._database.transaction() as db:
            row = need_job(db, person, job_id, lock=True)
            if row.version != version:
                raise ChangedMeanwhileError(
                    f"{row.changed_by} changed this job while you worked on it.",
                    {"version": row.version, "head": head_of(row).model_dump(), "supply": row.supply},
                )
            if head is not None:
                rulebook_of(head)
                for field, value in head.model_dump().items():
                    setattr(row, field, value)
            if supply is not None:
                row.supply = supply.model_dump(mode="json")
            row.version += 1
            row.changed_by, row.changed_at = person.name, now()
            store.keep_job_revision(db, row, _document(head_of(row), Supply.model_validate(row.supply)))
            people.record(db, person.firm_id, person.user_id, "job-changed", str(job_id))
            db.flush()
            return self._view(db, row)

    def _view(self, db: Session, row: JobRow) -> JobView:
        head, supply = head_of(row), Supply.model_validate(row.supply)
        rulebook = rulebook_of(head)
        loaded = load_circuits(db, row.id)
        peers = tuple(mohm for _, circuit in loaded for mohm in insulation_mohm(circuit.readings))
        lines = []
        for circuit_row, circuit in loaded:
            answer = answer_circuit(rulebook, supply, circuit, peers)
            worst = next((check for check in answer.result.checks if check.verdict == answer.result.verdict), None)
            lines.append(
                CircuitLine(
                    id=circuit_row.id,
                    number=answer.number,
                    name=answer.name,
                    kind=rulebook.kinds[circuit.design.kind].name,
                    shape=answer.result.shape.title,
                    device=device_name(rulebook, circuit.design.device),
                    verdict=answer.result.verdict,
                    worst=f"{worst.title}: {worst.answer}" if worst and answer.result.verdict != "pass" else "",
                    taken=answer.tests.taken,
                    total=answer.tests.total,
                    tests=answer.tests.verdict,
                    cautions=answer.tests.cautions,
                )
            )
        return JobView(
            id=row.id,
            version=row.version,
            head=head,
            supply=supply,
            survey=judge_supply(rulebook, supply),
            circuits=tuple(lines),
            changed_by=row.changed_by,
            changed_at=row.changed_at,
        )


def _document(head: JobHead, supply: Supply) -> dict[str, Any]:
    return {"head": head.model_dump(mode="json"), "supply": supply.model_dump(mode="json")}
