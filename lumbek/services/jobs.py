"""Jobs: find, open, start, change, take in and hand out whole."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import partial
from uuid import UUID, uuid4

from pydantic import ValidationError
from sqlalchemy.orm import Session

from lumbek.core.board.house import House
from lumbek.core.documents.gathered import FindingPhoto, Gathered, with_rooms
from lumbek.core.inspection.renamed import renamed_records
from lumbek.core.judging.answers import CircuitAnswer, answer_circuits, insulation_mohm, tests_of_house
from lumbek.core.judging.check import Verdict
from lumbek.core.model.board import Boards
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.found import FoundKept
from lumbek.core.model.inspection import InspectionKept
from lumbek.core.model.job import Job, JobCircuit, JobHead
from lumbek.core.model.reading import Reading
from lumbek.core.model.visit import Visit, copper_c
from lumbek.core.plan.at_points import renamed_points
from lumbek.core.protection.who import device_name
from lumbek.core.rulebooks import load_rulebook, rulebook_of
from lumbek.core.study.read import Read
from lumbek.core.survey.commands import JobCommand, carry_out_on_job
from lumbek.core.survey.quick import Quick, quick_job
from lumbek.exchange.problems import problems_of
from lumbek.exchange.upgrade import WITH_HOUSE
from lumbek.services import audit
from lumbek.services.clock import now
from lumbek.services.deeds import Deed
from lumbek.services.documents import (
    boards_of,
    design_of,
    found_of,
    found_row,
    head_of,
    inspection_of,
    inspection_row,
    job_document,
    places_of,
    reading_of,
    reading_row,
    supply_of,
    visit_key,
    visit_of,
    visit_row,
    write_design,
    write_job,
)
from lumbek.services.errors import BadInputError, NotFoundError
from lumbek.services.gist import gist_of
from lumbek.services.houses import begin_places, bring_forward, house_in, key_of, renamed, seat_of
from lumbek.services.job_parts import KeptSurvey, Surveyed
from lumbek.services.person import Person
from lumbek.services.views import CircuitLine, JobLine, JobView
from lumbek.services.worked_out import Conditions, Results, Seated
from lumbek.services.writes import done_before, step, write
from lumbek.store import jobs as store
from lumbek.store.attachments import photos_of_findings
from lumbek.store.database import Database
from lumbek.store.models import CircuitRow, JobRow, ReadingRow


def need_job(db: Session, person: Person, job_id: UUID, lock: bool = False) -> JobRow:
    """Return a job of the person's firm. Raises NotFoundError, for another firm's jobs too."""
    row = store.find_job(db, person.firm_id, job_id, lock)
    if row is None:
        raise NotFoundError("There is no such job here.")
    if row.format < WITH_HOUSE:
        held = row if lock else store.find_job(db, person.firm_id, job_id, lock=True)
        bring_forward(db, held or row)
    return row


def whole_readings(db: Session, job_id: UUID) -> tuple[Reading, ...]:
    """Return every reading of an installation as a whole, the oldest first."""
    return tuple(reading_of(each) for each in store.readings_of_job(db, job_id))


def found_on(db: Session, job_id: UUID) -> tuple[FoundKept, ...]:
    """Return what was found on a job, the oldest first."""
    return tuple(found_of(each) for each in store.found_on(db, job_id))


def inspection_to(db: Session, job_id: UUID) -> tuple[InspectionKept, ...]:
    """Return what was said on the inspection of a job, the oldest first."""
    return tuple(inspection_of(each) for each in store.inspection_of(db, job_id))


def visits_to(db: Session, job_id: UUID) -> tuple[Visit, ...]:
    """Return the visits to a job, the oldest first."""
    return tuple(visit_of(each) for each in store.visits_of(db, job_id))


def add_circuit_row(
    db: Session, person: Person, job_id: UUID, place: int, design: Circuit, circuit_id: UUID | None = None
) -> CircuitRow:
    """Keep a new circuit and its first revision."""
    row = CircuitRow(id=circuit_id or uuid4(), job_id=job_id, place=place, version=1, changed_by=person.name)
    write_design(row, design)
    db.add(row)
    db.flush()
    store.keep_circuit_revision(db, row, person.user_id)
    return row


@dataclass(frozen=True)
class _Answered:
    """A circuit of a job as it is kept and as it sits in its house, and everything there is to say of it."""

    row: CircuitRow
    circuit: JobCircuit
    placed: Circuit
    answer: CircuitAnswer


class JobService:
    """Use cases on whole jobs."""

    def __init__(self, database: Database, results: Results) -> None:
        self._database, self._results = database, results

    def list(self, person: Person, search: str = "") -> list[JobLine]:
        """Return the firm's jobs, last changed first."""
        with self._database.transaction() as db:
            return [
                JobLine(
                    id=row.id,
                    circuits=circuits,
                    changed_by=row.changed_by,
                    changed_at=row.changed_at,
                    **head_of(row).model_dump(exclude={"protection_school", "edition", "extent"}),
                )
                for row, circuits in store.list_jobs(db, person.firm_id, search)
            ]

    def start(self, person: Person, write_id: UUID, head: JobHead) -> JobView:
        """Start an empty job. It keeps to the edition that is newest now, where none is named."""
        edition = rulebook_of(head).data.edition
        return self._keep(person, write_id, Job(**{**head.model_dump(), "edition": edition}), Deed.JOB_STARTED)

    def quick(self, person: Person, write_id: UUID, quick: Quick) -> JobView:
        """Start a small job in one go: the change, its circuit as far as it goes, and what it relies on."""
        try:
            job = quick_job(load_rulebook(quick.rulebook), quick)
        except ValidationError as error:
            raise BadInputError("That cannot be.", problems_of(error)) from error
        return self._keep(person, write_id, job, Deed.JOB_STARTED)

    def take_in(self, person: Person, write_id: UUID, job: Job) -> JobView:
        """Keep a job from a file. Its readings stay whose they are in the file, marked as brought by this person."""
        return self._keep(person, write_id, job, Deed.IMPORTED)

    def _keep(self, person: Person, write_id: UUID, job: Job, action: Deed) -> JobView:
        """Keep a whole job, in one transaction."""
        head = JobHead.model_validate(job.model_dump(include=set(JobHead.model_fields)))
        with self._database.transaction() as db:
            row = JobRow(id=uuid4(), firm_id=person.firm_id, version=1, changed_by=person.name, changed_at=now())
            before = done_before(db, person, write_id, row.id)
            if before is not None:
                return self._view(db, need_job(db, person, before))
            ids = {circuit.key: uuid4() for circuit in job.circuits}
            visits = {visit.id: uuid4() for visit in job.visits}

            def brought(reading: Reading) -> Reading:
                """Return a reading with its visit as it is called here, and with who brought it: it is nobody's own."""
                known = visits.get(reading.visit or "")
                visit = None if known is None else visit_key(known)
                return reading.model_copy(update={"visit": visit, "imported_by": person.name})

            names = {key: key_of(circuit_id) for key, circuit_id in ids.items()}
            boards = Boards(boards=renamed(job.boards, names))
            write_job(row, head, job.supply, boards)
            db.add(row)
            db.flush()
            begin_places(db, row, renamed_points(job.places, names), person.user_id)
            db.add_all(visit_row(visit, row.id, visits[visit.id]) for visit in job.visits)
            db.add_all(found_row(found, row.id, uuid4()) for found in job.found)
            db.add_all(inspection_row(kept, row.id, uuid4(), None) for kept in renamed_records(job.inspection, names))
            store.keep_job_revision(db, row, job_document(head, job.supply, boards), person.user_id)
            for place, circuit in enumerate(job.circuits, start=1):
                kept = add_circuit_row(db, person, row.id, place, circuit.design, ids[circuit.key])
                every = (*circuit.readings, *circuit.former_readings)
                db.add_all(reading_row(brought(reading), None, circuit_id=kept.id) for reading in every)
            db.add_all(reading_row(brought(reading), None, job_id=row.id) for reading in job.readings)
            audit.note(db, person, action, row.id, job.name)
            db.flush()
            return self._view(db, row)

    def open(self, person: Person, job_id: UUID) -> JobView:
        """Return a job with how each of its circuits stands."""
        with self._database.transaction() as db:
            return self._view(db, need_job(db, person, job_id))

    def command(
        self, person: Person, job_id: UUID, write_id: UUID, version: int, commands: tuple[JobCommand, ...]
    ) -> JobView:
        """Carry out commands on a job's head and supply, all or none. Raises BadInputError for what cannot be."""
        with self._database.transaction() as db:
            row = need_job(db, person, job_id, lock=True)

            def carried_out(before: Surveyed) -> Surveyed:
                head, supply = carry_out_on_job(before.head, before.supply, commands)
                rulebook_of(head)
                return Surveyed(head, supply)

            write(db, person, KeptSurvey(db, person, row), write_id, version, carried_out)
            return self._view(db, row)

    def step(self, person: Person, job_id: UUID, write_id: UUID, version: int, back: bool) -> JobView:
        """Undo the last change of a job's head and supply, or redo what was undone."""
        with self._database.transaction() as db:
            row = need_job(db, person, job_id, lock=True)
            step(db, person, KeptSurvey(db, person, row), write_id, version, back)
            return self._view(db, row)

    def remove(self, person: Person, job_id: UUID) -> None:
        """Take a job off the list; nothing of it is deleted."""
        with self._database.transaction() as db:
            row = need_job(db, person, job_id, lock=True)
            row.removed_at = now()
            audit.note(db, person, Deed.JOB_REMOVED, job_id)

    def whole(self, person: Person, job_id: UUID) -> Job:
        """Return a job as the job file holds it, every reading ever taken with it."""
        with self._database.transaction() as db:
            row = need_job(db, person, job_id)
            rows = store.circuits_of(db, row.id)
            readings = store.readings_of(db, [each.id for each in rows])
            visits = visits_to(db, row.id)
            called = {visit.id: f"v{count}" for count, visit in enumerate(visits, start=1)}

            def named(reading: ReadingRow) -> Reading:
                """Return a reading with its visit as the file calls it."""
                found = reading_of(reading)
                return found.model_copy(update={"visit": called.get(found.visit or "")}) if found.visit else found

            circuits = tuple(
                JobCircuit.of(design_of(each), map(named, readings[each.id]), f"C{each.design['number']}")
                for each in rows
            )
            names = {key_of(each.id): circuit.key for each, circuit in zip(rows, circuits, strict=True)}
            return Job(
                **head_of(row).model_dump(),
                **dict(renamed_points(places_of(store.places_of(db, row.id)), names)),
                boards=renamed(boards_of(row).boards, names),
                supply=supply_of(row),
                circuits=circuits,
                readings=tuple(map(named, store.readings_of_job(db, row.id))),
                visits=tuple(visit.model_copy(update={"id": called[visit.id]}) for visit in visits),
                found=tuple(
                    found.model_copy(update={"id": f"f{count}"})
                    for count, found in enumerate(found_on(db, row.id), start=1)
                ),
                inspection=tuple(
                    kept.model_copy(update={"id": f"i{count}"})
                    for count, kept in enumerate(renamed_records(inspection_to(db, row.id), names), start=1)
                ),
            )

    def gather(self, db: Session, row: JobRow, every_reading: bool = False, covers: str | None = None) -> Gathered:
        """Return a job as its papers are made from it, by the answers there are already.

        With `every_reading` those too that a later one stands for: then all is worked out anew. `covers` is what a
        signature has to cover to stand.
        """
        house, answered = self._answered(db, row)
        circuits = [each.circuit for each in answered]
        if every_reading:
            taken = store.readings_of(db, [each.row.id for each in answered])
            circuits = [
                JobCircuit.of(each.circuit.design, map(reading_of, taken[each.row.id]), each.circuit.key)
                for each in answered
            ]
        whole = {"readings": whole_readings(db, row.id), "visits": visits_to(db, row.id)}
        whole |= {"found": found_on(db, row.id), "inspection": inspection_to(db, row.id)}
        head = head_of(row).model_dump()
        job = Job(
            **head, **dict(boards_of(row)), **dict(house.places), **whole, supply=house.supply, circuits=tuple(circuits)
        )
        job = with_rooms(job)
        photos = tuple(
            FindingPhoto(str(each.id), each.of, each.by, each.taken_at.date().isoformat())
            for each in photos_of_findings(db, row.id)
        )
        if every_reading:
            return Gathered(job, house, lambda: tuple(answer_circuits(job, house=house)), covers=covers, photos=photos)
        return Gathered(job, house, lambda: [each.answer for each in answered], covers=covers, photos=photos)

    def gather_circuit(self, db: Session, row: CircuitRow, job: JobRow) -> Gathered:
        """Return one circuit of a job as its papers are made from it: nothing of the others is worked out."""
        house = house_in(db, self._results, job, [row])
        of = JobCircuit.of(design_of(row), (), key_of(row.id))
        said = {**head_of(job).model_dump(), **dict(boards_of(job)), **dict(house.places)}
        whole = Job(**said, supply=house.supply, circuits=(of,))
        return Gathered(whole, house, lambda: tuple(answer_circuits(whole, house=house)), of)

    def _answered(self, db: Session, row: JobRow) -> tuple[House, Sequence[_Answered]]:
        """Return the house of a job, and each circuit with its readings in force and all there is to say of it."""
        head, house = head_of(row), house_in(db, self._results, row)
        rows = store.circuits_of(db, row.id, designs=False)
        readings = store.standing_readings_of(db, [each.id for each in rows])
        circuits = [
            JobCircuit.of(
                self._results.design(each.id, each.version, partial(design_of, each)),
                (reading_of(reading) for reading in readings[each.id]),
                key_of(each.id),
            )
            for each in rows
        ]
        peers = tuple(mohm for circuit in circuits for mohm in insulation_mohm(circuit.readings))
        ambient_c, whole = copper_c(visits_to(db, row.id)), whole_readings(db, row.id)
        found = []
        for each, circuit in zip(rows, circuits, strict=True):
            source, placed = seat_of(house, each, row, circuit.design)
            on = Conditions(peers, ambient_c, tests_of_house(house, head, whole, circuit.key))
            seated = Seated(source, head, house.supply, placed, Read.of(circuit.readings, ambient_c))
            answer = self._results.answer(seated, circuit.readings, on)
            found.append(_Answered(each, circuit, placed, answer))
        return house, found

    def _view(self, db: Session, row: JobRow) -> JobView:
        """Return a job as it is opened: the same as before, where nothing of it has changed."""
        marks = store.marks_of(db, row)
        return self._results.view(row.id, marks, len(marks.circuits), lambda: self._viewed(db, row))

    def _viewed(self, db: Session, row: JobRow) -> JobView:
        head, supply = head_of(row), supply_of(row)
        rulebook = rulebook_of(head)
        house, answered = self._answered(db, row)
        lines = []
        for each in answered:
            answer, placed = each.answer, each.placed
            worst = next((check for check in answer.result.checks if check.verdict == answer.result.verdict), None)
            lines.append(
                CircuitLine(
                    id=each.row.id,
                    number=answer.number,
                    name=answer.name,
                    kind=rulebook.kinds[placed.kind].name,
                    shape=answer.result.shape.title,
                    device=device_name(rulebook, placed.device),
                    verdict=answer.result.verdict,
                    worst=f"{worst.title}: {worst.answer}" if worst and answer.result.verdict != Verdict.PASS else "",
                    taken=answer.tests.taken,
                    total=answer.tests.total,
                    tests=answer.tests.verdict,
                    cautions=answer.tests.cautions,
                )
            )
        survey = self._results.survey(head, house.supply)
        state = KeptSurvey.state_of(db, row.id)
        return JobView(
            id=row.id,
            version=row.version,
            head=head,
            supply=supply,
            survey=survey,
            circuits=tuple(lines),
            gist=gist_of(survey, lines),
            changed_by=row.changed_by,
            changed_at=row.changed_at,
            can_undo=state is not None and state.can_undo,
            can_redo=state is not None and state.can_redo,
        )
