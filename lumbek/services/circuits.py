"""Circuits: open, change by commands, undo, judge, propose."""

from dataclasses import dataclass
from functools import partial
from typing import Any
from uuid import UUID, uuid4

from sqlalchemy.orm import Session

from lumbek.core.choosing.propose import Proposals
from lumbek.core.circuit.commands import Command, carry_out
from lumbek.core.circuit.edit import Edited, NewPoint
from lumbek.core.circuit.laying import lay_run, lay_through
from lumbek.core.circuit.ready_points import ready_point
from lumbek.core.circuit.usual import usual_circuit, usual_point
from lumbek.core.model.circuit import Circuit, CircuitKind
from lumbek.core.model.job import JobHead
from lumbek.core.rulebooks import rulebook_of
from lumbek.core.study.read import still_read
from lumbek.exchange.problems import Problem
from lumbek.exchange.typed_run import parse_run
from lumbek.exchange.upgrade import WITH_HOUSE
from lumbek.services import audit, heavy
from lumbek.services.clock import now
from lumbek.services.deeds import Deed
from lumbek.services.difference import difference
from lumbek.services.documents import design_of, head_of, places_of, write_design
from lumbek.services.errors import BadInputError, NotFoundError
from lumbek.services.heavy import Piece
from lumbek.services.houses import design_in, house_in, key_of, lone, read_in, seat_of, shares_rcd
from lumbek.services.jobs import add_circuit_row, need_job
from lumbek.services.person import Person
from lumbek.services.places import moved_in, room_ids
from lumbek.services.views import CircuitView, Preview
from lumbek.services.worked_out import Results, Seated
from lumbek.services.writes import KeptRow, State, allowed, done_before, step, write
from lumbek.store import jobs as store
from lumbek.store.database import Database
from lumbek.store.models import CircuitRow, JobRow, LibraryCircuit

_MOST_NUMBER = 9999
# A circuit of so many points is judged in a moment.
_FEW_POINTS = 40
# So many circuits a job may be given one by one; a file may bring more, which is as large as it is at once.
MOST_CIRCUITS = 1000


@dataclass(frozen=True)
class NewCircuit:
    """What a new circuit is begun from: a kind's usual, a design, another circuit, or one of the firm's own."""

    kind: CircuitKind | None = None
    design: Circuit | None = None
    copy_of: UUID | None = None
    library: UUID | None = None


class KeptCircuit(KeptRow[CircuitRow]):
    """A circuit's design, held for whoever writes it."""

    called = "circuit"

    def __init__(self, db: Session, person: Person, row: CircuitRow, job: JobRow) -> None:
        super().__init__(db, person, row)
        self._job = job

    def now(self) -> Circuit:
        """Return its design."""
        return design_of(self._row)

    def shown(self) -> dict[str, Any]:
        """Return its design as it is kept."""
        return {"design": self._row.design}

    @staticmethod
    def state_of(db: Session, row: CircuitRow, version: int | None = None) -> State | None:
        """Return the state that a circuit is in, or was in at a version."""
        found = store.circuit_revision(db, row.id, row.version if version is None else version)
        return None if found is None else State(found.version, found.undo_to, found.redo_to)

    def state(self, version: int | None = None) -> State | None:
        """Return the state it is in, or was in at a version."""
        return self.state_of(self._db, self._row, version)

    def at(self, version: int) -> Circuit:
        """Return its design at a version. The number stands as the board has it now."""
        revision = store.circuit_revision(self._db, self.id, version)
        assert revision is not None, "a state that was asked for before"
        return design_of(revision).model_copy(update={"number": self.now().number})

    def put(self, document: Circuit, undo_to: int | None, redo_to: int | None) -> None:
        """Put a new design down."""
        row, person = self._row, self._person
        changed = difference(self.now().model_dump(mode="json"), document.model_dump(mode="json"))
        write_design(row, document)
        self._stamp()
        store.keep_circuit_revision(self._db, row, person.user_id, undo_to, redo_to)
        store.touch_job(self._db, self._job.id, person.name, now())
        audit.note(self._db, person, Deed.CIRCUIT_CHANGED, row.id, changed)
        self._db.flush()


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
            design = self._moved_in(db, person, job, lone(self._begun(db, person, job, new)))
            row = add_numbered(db, person, job, design, circuit_id, is_new=new.design is None)
            audit.note(db, person, Deed.CIRCUIT_STARTED, row.id)
            db.flush()
            db.refresh(row)
            return self._view(db, row, job)

    def _begun(self, db: Session, person: Person, job: JobRow, new: NewCircuit) -> Circuit:
        if new.kind is not None:
            head = head_of(job)
            return usual_circuit(rulebook_of(head), new.kind, found=head.extent.state == "as-found")
        if new.copy_of is not None:
            row, of = need_circuit(db, person, new.copy_of)
            design = design_in(db, of, row)
            return design.model_copy(update={"name": f"{design.name[:73]} (copy)"})
        if new.library is not None:
            return design_of(_need_library(db, person, new.library))
        if new.design is None:
            raise BadInputError("Say what the circuit is begun from.")
        return new.design

    def _moved_in(self, db: Session, person: Person, job: JobRow, design: Circuit) -> Circuit:
        """Return a design with its points in rooms of this job, by what they are called where it comes from."""
        with allowed("The circuit cannot be begun so."):
            places = places_of(store.places_of(db, job.id))
            return moved_in(design, places, room_ids(db, person, job.id))

    def open(self, person: Person, circuit_id: UUID) -> CircuitView:
        """Return a circuit with all its results."""
        with self._database.transaction() as db:
            return self._view(db, *need_circuit(db, person, circuit_id))

    def preview(self, person: Person, circuit_id: UUID, commands: tuple[Command, ...]) -> Piece[Preview]:
        """Return the circuit as it would be after these commands, to be judged; nothing is kept.

        What has few points is judged where it is asked for; more would hold up everybody else who is answered there.
        """
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id)
            head, design = head_of(job), design_of(row)
            changed = _changed(head, design, commands, shares_rcd(job, row.id)).circuit
            house = house_in(db, self._results, job, [row])
            read = read_in(db, job, row.id)
        placed = house.placed(key_of(row.id), changed)
        call = partial(heavy.preview, head, house.supply, placed, still_read(read, design, changed))
        return Piece(call, known=len(placed.points) <= _FEW_POINTS)

    def command(
        self, person: Person, circuit_id: UUID, write_id: UUID, version: int, commands: tuple[Command, ...]
    ) -> CircuitView:
        """Carry out commands on a circuit, all or none.

        Raises ChangedMeanwhileError with what stands now, BadInputError for what the circuit does not allow.
        """

        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id, lock=True)
            focus = ""

            def carried_out(design: Circuit) -> Circuit:
                nonlocal focus
                edited = _changed(head_of(job), design, commands, shares_rcd(job, row.id))
                focus = edited.focus
                return edited.circuit

            write(db, person, KeptCircuit(db, person, row, job), write_id, version, carried_out)
            return self._view(db, row, job).model_copy(update={"focus": focus})

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
            problems = list(typed.problems) or [Problem(field="run", reason="holds no cable: type a length first")]
            raise BadInputError("Not all of the run is understood; nothing was laid.", problems)
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id, lock=True)
            rulebook, room_id = rulebook_of(head_of(job)), room_ids(db, person, job.id)

            def usual(so_far: Circuit, ready: str) -> NewPoint:
                return ready_point(rulebook, ready) if ready else usual_point(rulebook, so_far)

            def laid(design: Circuit) -> Circuit:
                if through_leg is None:
                    return lay_run(design, typed.entries, usual, room_id)
                return lay_through(design, through_leg, typed.entries, usual, room_id)

            write(db, person, KeptCircuit(db, person, row, job), write_id, version, laid)
            return self._view(db, row, job)

    def step(self, person: Person, circuit_id: UUID, write_id: UUID, version: int, back: bool) -> CircuitView:
        """Go back to the state before the last change, whoever made it, or forward again to what was undone."""
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id, lock=True)
            step(db, person, KeptCircuit(db, person, row, job), write_id, version, back)
            return self._view(db, row, job)

    def propose(self, person: Person, circuit_id: UUID) -> Piece[Proposals]:
        """Return what may be done with a circuit, all of it to be computed."""
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id)
            head = head_of(job)
            house = house_in(db, self._results, job, [row])
            placed = house.placed(key_of(row.id), design_of(row))
            read = read_in(db, job, row.id)
        return Piece(partial(heavy.proposals, head, house, key_of(row.id), placed, read))

    def remove(self, person: Person, circuit_id: UUID) -> None:
        """Take a circuit out of its job; nothing of it is deleted."""
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id, lock=True)
            row.removed_at = now()
            store.touch_job(db, job.id, person.name, now())
            audit.note(db, person, Deed.CIRCUIT_REMOVED, circuit_id)

    def view_of(self, db: Session, row: CircuitRow, job: JobRow) -> CircuitView:
        """Return a circuit that has been read already, with all its results."""
        return self._view(db, row, job)

    def _view(self, db: Session, row: CircuitRow, job: JobRow) -> CircuitView:
        head, house = head_of(job), house_in(db, self._results, job, [row])
        source, placed = seat_of(house, row, job, design_of(row))
        seated = Seated(source, head, house.supply, placed, read_in(db, job, row.id))
        state = KeptCircuit.state_of(db, row)
        return CircuitView(
            id=row.id,
            job_id=job.id,
            version=row.version,
            design=placed,
            result=self._results.circuit(seated),
            changed_by=row.changed_by,
            changed_at=row.changed_at,
            can_undo=state is not None and state.can_undo,
            can_redo=state is not None and state.can_redo,
            electrode_read_ohm=house.electrodes.get(key_of(row.id)),
        )


def add_numbered(
    db: Session, person: Person, job: JobRow, design: Circuit, circuit_id: UUID, is_new: bool
) -> CircuitRow:
    """Add a circuit to a job that is held, under its own number if that is free and it is not new, else a free one.

    Raises BadInputError where the job holds no more.
    """
    taken = {other.design["number"] for other in store.circuits_of(db, job.id)}
    if len(taken) >= MOST_CIRCUITS:
        raise BadInputError(f"A job holds {MOST_CIRCUITS} circuits at the most, and this one does.")
    if design.number in taken or is_new:
        free = next((number for number in range(1, _MOST_NUMBER + 1) if number not in taken), None)
        if free is None:
            raise BadInputError("This job has no number left for another circuit.")
        design = design.model_copy(update={"number": free})
    row = add_circuit_row(db, person, job.id, store.next_place(db, job.id), design, circuit_id)
    store.touch_job(db, job.id, person.name, now())
    return row


def need_circuit(db: Session, person: Person, circuit_id: UUID, lock: bool = False) -> tuple[CircuitRow, JobRow]:
    """Return a circuit of the person's firm with its job. Raises NotFoundError, for another firm's circuits too."""
    found = store.find_circuit(db, person.firm_id, circuit_id)
    if found is not None and found[1].format < WITH_HOUSE:
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
    with allowed("The circuit cannot be changed so."):
        edited = carry_out(rulebook_of(head), design, commands)
        took = any(command.op == "take" for command in commands)
        rcd = edited.circuit.device.known_rcd
        if rcd is not None and rcd.shared and not (took and shares):
            raise BadInputError("An RCD that circuits share is that of their group: put them into one at the board.")
        if not took:
            return edited
        return edited.model_copy(update={"circuit": lone(edited.circuit).model_copy(update={"number": design.number})})
