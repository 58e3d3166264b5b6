"""Circuits: open, change by commands, undo, judge, propose."""

from dataclasses import dataclass
from functools import partial
from uuid import UUID, uuid4

from pydantic import ValidationError
from sqlalchemy.orm import Session

from lumbek.core.choosing.propose import Proposals
from lumbek.core.circuit.commands import Command, carry_out
from lumbek.core.circuit.edit import Edited, EditRefusedError, NewPoint
from lumbek.core.circuit.laying import lay_run, lay_through
from lumbek.core.circuit.ready_points import ready_point
from lumbek.core.circuit.usual import usual_circuit, usual_point
from lumbek.core.judgement import judge_circuit
from lumbek.core.model.circuit import Circuit, CircuitKind
from lumbek.core.model.job import JobHead
from lumbek.core.model.supply import Supply
from lumbek.core.rulebooks import rulebook_of
from lumbek.core.study.read import still_read
from lumbek.exchange.problems import Problem, problems_of
from lumbek.exchange.typed_run import parse_run
from lumbek.exchange.upgrade import CURRENT
from lumbek.services import audit, heavy
from lumbek.services.clock import now
from lumbek.services.documents import design_of, head_of, write_design
from lumbek.services.errors import BadInputError, ChangedMeanwhileError, NotFoundError
from lumbek.services.heavy import Piece
from lumbek.services.houses import house_in, key_of, lone, read_in, seat_of, shares_rcd
from lumbek.services.jobs import add_circuit_row, done_before, need_job
from lumbek.services.person import Person
from lumbek.services.results import Results, Seated
from lumbek.services.views import CircuitView, Preview
from lumbek.store import jobs as store
from lumbek.store.database import Database
from lumbek.store.models import CircuitRevision, CircuitRow, JobRow, LibraryCircuit

_MOST_NUMBER = 9999


@dataclass(frozen=True)
class NewCircuit:
    """What a new circuit is begun from: a kind's usual, a design, another circuit, or one of the firm's own."""

    kind: CircuitKind | None = None
    design: Circuit | None = None
    copy_of: UUID | None = None
    library: UUID | None = None


class CircuitService:
    """Use cases on one circuit."""

    def __init__(self, database: Database, results: Results) -> None:
        self._database, self._results = database, results

    def start(self, person: Person, job_id: UUID, write_id: UUID, new: NewCircuit) -> CircuitView:
        """Add a circuit to a job, under its own number if that is free, else under the least that is."""
        with self._database.transaction() as db:
            # The job is held meanwhile: numbers and places are given to one after another.
            job = need_job(db, person, job_id, lock=True)
            circuit_id = uuid4()
            before = done_before(db, person, write_id, circuit_id)
            if before is not None:
                return self._view(db, *need_circuit(db, person, before))
            design = lone(self._begun(db, person, job, new))
            taken = {other.design["number"] for other in store.circuits_of(db, job.id)}
            if design.number in taken or new.design is None:
                free = next((number for number in range(1, _MOST_NUMBER + 1) if number not in taken), None)
                if free is None:
                    raise BadInputError("This job has no number left for another circuit.")
                design = design.model_copy(update={"number": free})
            row = add_circuit_row(db, person, job.id, store.next_place(db, job.id), design, circuit_id)
            store.touch_job(db, job.id, person.name, now())
            audit.note(db, person, "circuit-started", row.id)
            db.flush()
            db.refresh(row)
            return self._view(db, row, job)

    def _begun(self, db: Session, person: Person, job: JobRow, new: NewCircuit) -> Circuit:
        if new.kind is not None:
            head = head_of(job)
            return usual_circuit(rulebook_of(head), new.kind, found=head.extent.state == "as-found")
        if new.copy_of is not None:
            row, _ = need_circuit(db, person, new.copy_of)
            design = design_of(row)
            return design.model_copy(update={"name": f"{design.name[:73]} (copy)"})
        if new.library is not None:
            return design_of(_need_library(db, person, new.library))
        if new.design is None:
            raise BadInputError("Say what the circuit is begun from.")
        return new.design

    def open(self, person: Person, circuit_id: UUID) -> CircuitView:
        """Return a circuit with all its results."""
        with self._database.transaction() as db:
            return self._view(db, *need_circuit(db, person, circuit_id))

    def preview(self, person: Person, circuit_id: UUID, commands: tuple[Command, ...]) -> Preview:
        """Return the circuit as it would be after these commands, judged; nothing is kept."""
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id)
            head, design = head_of(job), design_of(row)
            changed = _changed(head, design, commands, shares_rcd(job, row.id)).circuit
            house = house_in(db, self._results, job, [row])
            read = read_in(db, job, row.id)
        placed = house.placed(key_of(row.id), changed)
        result = judge_circuit(house.rulebook, house.supply, placed, still_read(read, design, changed))
        return Preview(design=placed, result=result)

    def command(
        self, person: Person, circuit_id: UUID, write_id: UUID, version: int, commands: tuple[Command, ...]
    ) -> CircuitView:
        """Carry out commands on a circuit, all or none.

        Raises ChangedMeanwhileError with what stands now, BadInputError for what the circuit does not allow.
        """

        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id, lock=True)
            if done_before(db, person, write_id, circuit_id) is not None:
                return self._view(db, row, job)
            _hold(row, version)
            design = design_of(row)
            edited = _changed(head_of(job), design, commands, shares_rcd(job, row.id))
            # What changes nothing is no state to go back to.
            same = edited.circuit == design
            view = self._view(db, row, job) if same else self._keep(db, person, row, job, edited.circuit, row.version)
            return view.model_copy(update={"focus": edited.focus})

    def lay_run(
        self,
        person: Person,
        circuit_id: UUID,
        write_id: UUID,
        version: int,
        text: str,
        through_leg: str | None = None,
    ) -> CircuitView:
        """Lay a typed or pasted run on from the last point, or take a leg through it.

        Raises BadInputError with every entry that is not understood.
        """
        typed = parse_run(text)
        if typed.problems or not typed.entries:
            problems = list(typed.problems) or [Problem(field="run", reason="holds no leg: type a length first")]
            raise BadInputError("Not all of the run is understood; nothing was laid.", problems)
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id, lock=True)
            if done_before(db, person, write_id, circuit_id) is not None:
                return self._view(db, row, job)
            _hold(row, version)
            rulebook = rulebook_of(head_of(job))

            def usual(so_far: Circuit, ready: str) -> NewPoint:
                return ready_point(rulebook, ready) if ready else usual_point(rulebook, so_far)

            try:
                design = design_of(row)
                if through_leg is None:
                    laid = lay_run(design, typed.entries, usual)
                else:
                    laid = lay_through(design, through_leg, typed.entries, usual)
            except EditRefusedError as error:
                raise BadInputError(str(error)) from error
            except ValidationError as error:
                raise BadInputError("The circuit cannot hold this run.", problems_of(error)) from error
            return self._keep(db, person, row, job, laid, undo_to=row.version)

    def undo(self, person: Person, circuit_id: UUID, write_id: UUID, version: int) -> CircuitView:
        """Go back to the state before the last change, whoever made it and wherever it is asked from."""
        return self._step(person, circuit_id, write_id, version, back=True)

    def redo(self, person: Person, circuit_id: UUID, write_id: UUID, version: int) -> CircuitView:
        """Go forward again to what was undone."""
        return self._step(person, circuit_id, write_id, version, back=False)

    def _step(self, person: Person, circuit_id: UUID, write_id: UUID, version: int, back: bool) -> CircuitView:
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id, lock=True)
            if done_before(db, person, write_id, circuit_id) is not None:
                return self._view(db, row, job)
            _hold(row, version)
            standing = store.circuit_revision(db, row.id, row.version)
            wanted = None if standing is None else standing.undo_to if back else standing.redo_to
            target = None if wanted is None else store.circuit_revision(db, row.id, wanted)
            if target is None:
                raise BadInputError("There is nothing to undo." if back else "There is nothing to redo.")
            # Going back, the way further back is that of the state gone to; the way forward is the state left.
            undo_to, redo_to = (target.undo_to, row.version) if back else (row.version, target.redo_to)
            # The number stands as the board has it now.
            design = design_of(target).model_copy(update={"number": design_of(row).number})
            return self._keep(db, person, row, job, design, undo_to, redo_to)

    def propose(self, person: Person, circuit_id: UUID) -> Piece[Proposals]:
        """Return what may be done with a circuit, all of it to be computed."""
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id)
            head = head_of(job)
            house = house_in(db, self._results, job, [row])
            placed = house.placed(key_of(row.id), design_of(row))
            read = read_in(db, job, row.id)
        return Piece(partial(heavy.proposals, head, house, key_of(row.id), placed, read))

    def whole(self, person: Person, circuit_id: UUID) -> tuple[JobHead, Supply, Circuit]:
        """Return a circuit as it sits in its house, with all that its calculation sheet is made from."""
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id)
            house = house_in(db, self._results, job, [row])
            return head_of(job), house.supply, house.placed(key_of(row.id), design_of(row))

    def remove(self, person: Person, circuit_id: UUID) -> None:
        """Take a circuit out of its job; nothing of it is deleted."""
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id, lock=True)
            row.removed_at = now()
            store.touch_job(db, job.id, person.name, now())
            audit.note(db, person, "circuit-removed", circuit_id)

    def _keep(
        self,
        db: Session,
        person: Person,
        row: CircuitRow,
        job: JobRow,
        design: Circuit,
        undo_to: int | None,
        redo_to: int | None = None,
    ) -> CircuitView:
        write_design(row, design)
        row.version += 1
        row.changed_by, row.changed_at = person.name, now()
        revision = store.keep_circuit_revision(db, row, person.user_id, undo_to, redo_to)
        store.touch_job(db, job.id, person.name, now())
        audit.note(db, person, "circuit-changed", row.id)
        db.flush()
        return self._view(db, row, job, revision)

    def view_of(self, db: Session, row: CircuitRow, job: JobRow) -> CircuitView:
        """Return a circuit that has been read already, with all its results."""
        return self._view(db, row, job)

    def _view(self, db: Session, row: CircuitRow, job: JobRow, revision: CircuitRevision | None = None) -> CircuitView:
        head, house = head_of(job), house_in(db, self._results, job, [row])
        source, placed = seat_of(house, row, job, design_of(row))
        seated = Seated(source, head, house.supply, placed, read_in(db, job, row.id))
        revision = revision or store.circuit_revision(db, row.id, row.version)
        return CircuitView(
            id=row.id,
            job_id=job.id,
            version=row.version,
            design=placed,
            result=self._results.circuit(seated),
            changed_by=row.changed_by,
            changed_at=row.changed_at,
            can_undo=revision is not None and revision.undo_to is not None,
            can_redo=revision is not None and revision.redo_to is not None,
        )


def need_circuit(db: Session, person: Person, circuit_id: UUID, lock: bool = False) -> tuple[CircuitRow, JobRow]:
    """Return a circuit of the person's firm with its job. Raises NotFoundError, for another firm's circuits too."""
    found = store.find_circuit(db, person.firm_id, circuit_id)
    if found is not None and found[1].format < CURRENT:
        # The job before its circuits: whoever else brings it forward holds them in the same order.
        need_job(db, person, found[1].id, lock=True)
    if found is not None and lock:
        found = store.find_circuit(db, person.firm_id, circuit_id, lock)
    if found is None:
        raise NotFoundError("There is no such circuit here.")
    return found


def _need_library(db: Session, person: Person, library_id: UUID) -> LibraryCircuit:
    row = store.find_in_library(db, person.firm_id, library_id)
    if row is None:
        raise NotFoundError("There is no such circuit in the library.")
    return row


def _changed(head: JobHead, design: Circuit, commands: tuple[Command, ...], shares: bool) -> Edited:
    """Return the design after commands. Raises BadInputError where the circuit does not allow one.

    What is ahead of a circuit and what it shares follow from the boards, and are not its own to say; a design that is
    taken may name the RCD that the circuit `shares` already.
    """
    if any(command.op == "circuit" and "number" in command.model_fields_set for command in commands):
        raise BadInputError("A circuit's number is that of its way: change it on the board.")
    try:
        edited = carry_out(rulebook_of(head), design, commands)
        took = any(command.op == "take" for command in commands)
        rcd = edited.circuit.device.known_rcd
        if rcd is not None and rcd.shared and not (took and shares):
            raise BadInputError("An RCD that circuits share is that of their group: put them into one at the board.")
        if not took:
            return edited
        return edited.model_copy(update={"circuit": lone(edited.circuit).model_copy(update={"number": design.number})})
    except EditRefusedError as error:
        raise BadInputError(str(error)) from error
    except ValidationError as error:
        raise BadInputError("The circuit cannot be changed so.", problems_of(error)) from error


def _hold(row: CircuitRow, version: int) -> None:
    """Refuse to save over what this person has not seen."""
    if row.version != version:
        raise ChangedMeanwhileError(
            f"{row.changed_by} changed this circuit while you worked on it.",
            {"version": row.version, "design": row.design},
        )
