"""Circuits and their readings: open, change, judge, test."""

from uuid import UUID

from pydantic import ValidationError
from sqlalchemy.orm import Session

from lumbek.core.answers import insulation_mohm
from lumbek.core.choosing.propose import Proposals, propose
from lumbek.core.circuit.edit import Edit, EditRefusedError, NewPoint, apply_edit
from lumbek.core.circuit.laying import Entry, lay_run, lay_through
from lumbek.core.documents.calculation import CalculationSheet, make_calculation_sheet
from lumbek.core.judgement import CircuitResult, judge_circuit, judge_studied
from lumbek.core.model.circuit import Circuit, CircuitKind
from lumbek.core.model.reading import Reading
from lumbek.core.model.supply import Supply
from lumbek.core.rulebooks import Rulebook, rulebook_of
from lumbek.core.study.door import study_of
from lumbek.core.testing.sheet import test_sheet
from lumbek.core.usual import next_point, usual_circuit, usual_point
from lumbek.exchange.problems import Problem, problems_of
from lumbek.exchange.typed_run import parse_run
from lumbek.services.clock import now, stamp
from lumbek.services.errors import BadInputError, ChangedMeanwhileError, NotFoundError
from lumbek.services.jobs import add_circuit_row, head_of, load_circuits, need_job, reading_row
from lumbek.services.sign_in import Person
from lumbek.services.views import CircuitView, LibraryLine, SheetView
from lumbek.store import jobs as store
from lumbek.store import people
from lumbek.store.database import Database
from lumbek.store.models import CircuitRow, JobRow, LibraryCircuit


class CircuitService:
    """Use cases on one circuit."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def start(self, person: Person, job_id: UUID, design: Circuit) -> CircuitView:
        """Add a circuit to a job."""
        with self._database.transaction() as db:
            job = need_job(db, person, job_id, lock=True)
            row = add_circuit_row(db, job.id, store.next_place(db, job.id), design, person.name)
            store.touch_job(db, job.id, person.name, now())
            people.record(db, person.firm_id, person.user_id, "circuit-started", str(row.id))
            db.refresh(row)
            return _view(row, job)

    def start_usual(self, person: Person, job_id: UUID, kind: CircuitKind) -> CircuitView:
        """Add a circuit of a kind to a job, with its usual device and cable, under the next free number."""
        with self._database.transaction() as db:
            rulebook = rulebook_of(head_of(need_job(db, person, job_id)))
        return self._start_numbered(person, job_id, usual_circuit(rulebook, kind))

    def open(self, person: Person, circuit_id: UUID) -> CircuitView:
        """Return a circuit with all its results."""
        with self._database.transaction() as db:
            return _view(*_need(db, person, circuit_id))

    def evaluate(self, person: Person, circuit_id: UUID, design: Circuit) -> CircuitResult:
        """Return the results a design would have in this circuit's job; nothing is kept."""
        with self._database.transaction() as db:
            _, job = _need(db, person, circuit_id)
        return judge_circuit(rulebook_of(head_of(job)), Supply.model_validate(job.supply), design)

    def save(self, person: Person, circuit_id: UUID, version: int, design: Circuit) -> CircuitView:
        """Save a design over the version it was made from. Raises ChangedMeanwhileError with what stands now."""
        with self._database.transaction() as db:
            row, job = _need(db, person, circuit_id, lock=True)
            return self._keep(db, person, row, job, version, design)

    def edit(self, person: Person, circuit_id: UUID, version: int, edit: Edit) -> CircuitView:
        """Apply one edit to the run. Raises BadInputError where the circuit does not allow it."""
        with self._database.transaction() as db:
            row, job = _need(db, person, circuit_id, lock=True)
            _hold(row, version)
            try:
                design = Circuit.model_validate(row.design)
                edited = apply_edit(design, edit, next_point(rulebook_of(head_of(job)), design))
            except EditRefusedError as error:
                raise BadInputError(str(error)) from error
            except ValidationError as error:
                raise BadInputError("The circuit cannot be changed so.", problems_of(error)) from error
            view = self._keep(db, person, row, job, version, edited.circuit)
            return view.model_copy(update={"focus": edited.focus})

    def propose(self, person: Person, circuit_id: UUID) -> Proposals:
        """Return what may be done with a circuit, all of it computed."""
        with self._database.transaction() as db:
            row, job = _need(db, person, circuit_id)
        head = head_of(job)
        design, supply = Circuit.model_validate(row.design), Supply.model_validate(job.supply)
        return propose(rulebook_of(head), supply, design, head.protection_school)

    def lay_run(
        self, person: Person, circuit_id: UUID, version: int, text: str, through_leg: str | None = None
    ) -> CircuitView:
        """Lay a typed or pasted run on from the last point, or take a leg through it.

        Raises BadInputError with every entry that is not understood.
        """
        typed = parse_run(text)
        if typed.problems or not typed.entries:
            problems = list(typed.problems) or [Problem(field="run", reason="holds no leg: type a length first")]
            raise BadInputError("Not all of the run is understood; nothing was laid.", problems)
        with self._database.transaction() as db:
            row, job = _need(db, person, circuit_id, lock=True)
            _hold(row, version)
            try:
                design = Circuit.model_validate(row.design)
                laid = _laid(rulebook_of(head_of(job)), design, typed.entries, through_leg)
            except EditRefusedError as error:
                raise BadInputError(str(error)) from error
            except ValidationError as error:
                raise BadInputError("The circuit cannot hold this run.", problems_of(error)) from error
            return self._keep(db, person, row, job, version, laid)

    def copy(self, person: Person, circuit_id: UUID) -> CircuitView:
        """Add a copy of a circuit to its job, under the next free number, without its readings."""
        with self._database.transaction() as db:
            row, job = _need(db, person, circuit_id)
        design = Circuit.model_validate(row.design)
        return self._start_numbered(person, job.id, design.model_copy(update={"name": f"{design.name[:73]} (copy)"}))

    def _start_numbered(self, person: Person, job_id: UUID, design: Circuit) -> CircuitView:
        with self._database.transaction() as db:
            taken = [other.design["number"] for other in store.circuits_of(db, need_job(db, person, job_id).id)]
        number = max(taken, default=0) + 1
        return self.start(person, job_id, design.model_copy(update={"number": number}))

    def sheet_document(self, person: Person, circuit_id: UUID) -> CalculationSheet:
        """Return the calculation sheet of a circuit."""
        with self._database.transaction() as db:
            row, job = _need(db, person, circuit_id)
        head = head_of(job)
        return make_calculation_sheet(head, Supply.model_validate(job.supply), Circuit.model_validate(row.design))

    def library(self, person: Person) -> list[LibraryLine]:
        """Return the firm's own usual circuits."""
        with self._database.transaction() as db:
            return [
                LibraryLine(id=row.id, name=row.name, design=Circuit.model_validate(row.design), by=row.by)
                for row in store.library_of(db, person.firm_id)
            ]

    def keep_in_library(self, person: Person, circuit_id: UUID) -> LibraryLine:
        """Keep a circuit's design among the firm's usual ones."""
        with self._database.transaction() as db:
            row, _ = _need(db, person, circuit_id)
            kept = LibraryCircuit(firm_id=person.firm_id, name=row.design["name"], design=row.design, by=person.name)
            db.add(kept)
            people.record(db, person.firm_id, person.user_id, "library-kept", str(row.id))
            db.flush()
            return LibraryLine(id=kept.id, name=kept.name, design=Circuit.model_validate(kept.design), by=kept.by)

    def remove_from_library(self, person: Person, library_id: UUID) -> None:
        """Take a circuit off the firm's list; it stays in the records."""
        with self._database.transaction() as db:
            _need_library(db, person, library_id).removed_at = now()
            people.record(db, person.firm_id, person.user_id, "library-removed", str(library_id))

    def start_from_library(self, person: Person, job_id: UUID, library_id: UUID) -> CircuitView:
        """Add one of the firm's usual circuits to a job."""
        with self._database.transaction() as db:
            design = Circuit.model_validate(_need_library(db, person, library_id).design)
        return self._start_numbered(person, job_id, design)

    def remove(self, person: Person, circuit_id: UUID) -> None:
        """Take a circuit out of its job; nothing of it is deleted."""
        with self._database.transaction() as db:
            row, job = _need(db, person, circuit_id, lock=True)
            row.removed_at = now()
            store.touch_job(db, job.id, person.name, now())
            people.record(db, person.firm_id, person.user_id, "circuit-removed", str(circuit_id))

    def sheet(self, person: Person, circuit_id: UUID, ambient_c: float) -> SheetView:
        """Return a circuit's test sheet, expected readings for copper at `ambient_c`."""
        with self._database.transaction() as db:
            row, job = _need(db, person, circuit_id)
            return _sheet(db, row, job, ambient_c)

    def enter_reading(self, person: Person, circuit_id: UUID, reading: Reading, ambient_c: float) -> SheetView:
        """Add a reading, by this person, now; answer with the sheet as it stands then."""
        with self._database.transaction() as db:
            row, job = _need(db, person, circuit_id, lock=True)
            points = {point["id"] for point in row.design["points"]}
            if reading.point is not None and reading.point not in points:
                raise BadInputError(
                    "That point is not in this circuit.", [Problem(field="point", reason="is not in this circuit")]
                )
            stamped = reading.model_copy(update={"by": person.name, "at": stamp(now())})
            db.add(reading_row(row.id, stamped))
            store.touch_job(db, job.id, person.name, now())
            people.record(db, person.firm_id, person.user_id, "reading", str(row.id))
            db.flush()
            return _sheet(db, row, job, ambient_c)

    def _keep(
        self, db: Session, person: Person, row: CircuitRow, job: JobRow, version: int, design: Circuit
    ) -> CircuitView:
        _hold(row, version)
        row.design = design.model_dump(mode="json")
        row.version += 1
        row.changed_by, row.changed_at = person.name, now()
        store.keep_circuit_revision(db, row)
        store.touch_job(db, job.id, person.name, now())
        people.record(db, person.firm_id, person.user_id, "circuit-changed", str(row.id))
        db.flush()
        return _view(row, job)


def _need(db: Session, person: Person, circuit_id: UUID, lock: bool = False) -> tuple[CircuitRow, JobRow]:
    found = store.find_circuit(db, person.firm_id, circuit_id, lock)
    if found is None:
        raise NotFoundError("There is no such circuit here.")
    return found


def _need_library(db: Session, person: Person, library_id: UUID) -> LibraryCircuit:
    row = store.find_in_library(db, person.firm_id, library_id)
    if row is None:
        raise NotFoundError("There is no such circuit in the library.")
    return row


def _laid(rulebook: Rulebook, circuit: Circuit, entries: tuple[Entry, ...], through_leg: str | None) -> Circuit:
    def usual(so_far: Circuit) -> NewPoint:
        return usual_point(rulebook, so_far)

    return (
        lay_run(circuit, entries, usual) if through_leg is None else lay_through(circuit, through_leg, entries, usual)
    )


def _hold(row: CircuitRow, version: int) -> None:
    """Refuse to save over what this person has not seen."""
    if row.version != version:
        raise ChangedMeanwhileError(
            f"{row.changed_by} changed this circuit while you worked on it.",
            {"version": row.version, "design": row.design},
        )


def _view(row: CircuitRow, job: JobRow) -> CircuitView:
    design = Circuit.model_validate(row.design)
    result = judge_circuit(rulebook_of(head_of(job)), Supply.model_validate(job.supply), design)
    return CircuitView(
        id=row.id,
        job_id=job.id,
        version=row.version,
        design=design,
        result=result,
        changed_by=row.changed_by,
        changed_at=row.changed_at,
    )


def _sheet(db: Session, row: CircuitRow, job: JobRow, ambient_c: float) -> SheetView:
    rulebook, supply = rulebook_of(head_of(job)), Supply.model_validate(job.supply)
    loaded = load_circuits(db, job.id)
    peers = tuple(mohm for other, circuit in loaded if other.id != row.id for mohm in insulation_mohm(circuit.readings))
    circuit = next(circuit for other, circuit in loaded if other.id == row.id)
    studied = study_of(rulebook, supply, circuit.design)
    return SheetView(
        circuit_id=row.id,
        job_id=job.id,
        number=circuit.design.number,
        name=circuit.design.name,
        ambient_c=ambient_c,
        sheet=test_sheet(studied.middle, circuit.readings, peers, ambient_c),
        design=judge_studied(studied).verdict,
    )
