"""Lighting control of a circuit: prove it, plan it, put it right, make it off, and keep what was there before."""

from functools import partial
from uuid import UUID

from sqlalchemy.orm import Session

from lumbek.core.circuit.changes.circuit import Take
from lumbek.core.circuit.routes import routes_of
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.scheme import Scheme
from lumbek.core.rulebooks import Rulebook, rulebook_of
from lumbek.core.switching.faces import faces_of, is_lit, joined_circuits
from lumbek.core.switching.make_off import MakeOff, make_off
from lumbek.core.switching.moves import Mended
from lumbek.core.switching.plan import SwitchingPlan
from lumbek.core.switching.prove import prove
from lumbek.core.switching.unknown import loose_ends, next_test
from lumbek.exchange.upgrade import CURRENT
from lumbek.services import audit, heavy
from lumbek.services.circuits import CircuitService, need_circuit
from lumbek.services.clock import now
from lumbek.services.deeds import Deed
from lumbek.services.documents import design_of, head_of
from lumbek.services.errors import BadInputError, NotFoundError, UsedIdError
from lumbek.services.heavy import Piece
from lumbek.services.houses import design_in, designs_in
from lumbek.services.jobs import need_job
from lumbek.services.person import Person
from lumbek.services.views import CircuitView, SwitchingLine, SwitchingView, WiringRecordView
from lumbek.services.writes import done_before
from lumbek.store import jobs as store
from lumbek.store import records as kept
from lumbek.store.database import Database
from lumbek.store.models import CircuitRow, JobRow, WiringRecord


class SwitchingService:
    """Use cases on the lighting of one circuit."""

    def __init__(self, database: Database, circuits: CircuitService) -> None:
        self._database, self._circuits = database, circuits

    def lines(self, person: Person, job_id: UUID) -> list[SwitchingLine]:
        """Return the circuits of a job that have anything to switch, each with how it stands."""
        with self._database.transaction() as db:
            job = need_job(db, person, job_id)
            book = rulebook_of(head_of(job))
            kept = store.circuits_of(db, job.id)
            rows = dict(zip((row.id for row in kept), designs_in(db, job, kept), strict=True))
        designs = {design.number: design for design in rows.values()}
        found = []
        for circuit_id, design in rows.items():
            if is_lit(design):
                proof = prove(book, joined_circuits(designs, design.number))
                found.append(
                    SwitchingLine(
                        id=circuit_id,
                        number=design.number,
                        name=design.name,
                        verdict=proof.verdict,
                        worst=next((hazard.words for hazard in proof.hazards if hazard.grave), ""),
                        switches=sum(len(table.switches) for table in proof.tables),
                        lamps=len(proof.lamps),
                    )
                )
        return found

    def open(self, person: Person, circuit_id: UUID) -> SwitchingView:
        """Return the boxes of a circuit and the proof over all states."""
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id)
            view = self._circuits.view_of(db, row, job)
            book, circuits = _wired(db, row, job)
        design = circuits[view.design.number]
        scheme = design.scheme or Scheme()
        return SwitchingView(
            circuit=view,
            others=tuple(number for number in circuits if number != design.number),
            faces=tuple(face for each in circuits.values() for face in faces_of(book, each, circuits)),
            proof=prove(book, circuits),
            routes=routes_of(design, scheme),
            loose=loose_ends(design),
            next_test=next_test(book, design),
        )

    def plan(self, person: Person, circuit_id: UUID, scheme: Scheme) -> Piece[SwitchingPlan]:
        """Return the least way of wiring a scheme into a circuit; nothing is kept."""
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id)
            head, design = head_of(job), design_in(db, job, row)
        known = {"board", *(point.id for point in design.points)}
        gone = [place for place in scheme.places if place not in known]
        if gone:
            raise BadInputError(f"There is no point {gone[0]} in this circuit any more.")
        return Piece(partial(heavy.switching_plan, head, design, scheme))

    def mend(self, person: Person, circuit_id: UUID, at_once: bool) -> Piece[Mended | None]:
        """Return the least re-connections that put a circuit right with the cables there; `at_once` a first of them."""
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id)
            head, design = head_of(job), design_in(db, job, row)
        return Piece(partial(heavy.mended, head, design, at_once))

    def make_off(self, person: Person, circuit_id: UUID) -> MakeOff:
        """Return the make-off sheet of a circuit."""
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id)
            book, design = rulebook_of(head_of(job)), design_in(db, job, row)
        return make_off(book, design)

    # What was connected before it was taken apart

    def records(self, person: Person, circuit_id: UUID) -> list[WiringRecordView]:
        """Return the records of a circuit, the newest first."""
        with self._database.transaction() as db:
            row, _ = need_circuit(db, person, circuit_id)
            return [_record_view(record) for record in kept.records_of(db, row.id)]

    def keep(self, person: Person, circuit_id: UUID, write_id: UUID, note: str) -> WiringRecordView:
        """Keep a record of how a circuit is connected now."""
        with self._database.transaction() as db:
            row, _ = need_circuit(db, person, circuit_id, lock=True)
            before = done_before(db, person, write_id, write_id)
            if before is not None:
                record = kept.find_record(db, person.firm_id, before)
                if record is None or record.circuit_id != row.id:
                    raise UsedIdError()
                return _record_view(record)
            record = WiringRecord(
                id=write_id,
                circuit_id=row.id,
                taken_at=now(),
                by=person.name,
                note=note,
                design=design_of(row).model_dump(mode="json"),
                format=CURRENT,
            )
            db.add(record)
            audit.note(db, person, Deed.WIRING_RECORDED, row.id)
            db.flush()
            return _record_view(record)

    def put_back(self, person: Person, record_id: UUID, write_id: UUID, version: int) -> CircuitView:
        """Connect a circuit again as it was recorded; what it is called and fed by stays as it is now."""
        with self._database.transaction() as db:
            record = _need_record(db, person, record_id)
            row, _ = need_circuit(db, person, record.circuit_id)
            design, then = design_of(row), design_of(record)
            circuit_id = row.id
        fields = {name: getattr(then, name) for name in ("points", "legs", "board_joins", "scheme", "cable", "method")}
        again = Circuit.model_validate(design.model_copy(update=fields).model_dump())
        return self._circuits.command(person, circuit_id, write_id, version, (Take(design=again),))


def _wired(db: Session, row: CircuitRow, job: JobRow) -> tuple[Rulebook, dict[int, Circuit]]:
    """Return the rulebook, and a circuit with those that are wired into it."""
    designs = {design.number: design for design in designs_in(db, job, store.circuits_of(db, job.id))}
    return rulebook_of(head_of(job)), joined_circuits(designs, int(row.design["number"]))


def _need_record(db: Session, person: Person, record_id: UUID) -> WiringRecord:
    record = kept.find_record(db, person.firm_id, record_id)
    if record is None:
        raise NotFoundError("There is no such record here.")
    return record


def _record_view(record: WiringRecord) -> WiringRecordView:
    return WiringRecordView(
        id=record.id,
        taken_at=record.taken_at,
        by=record.by,
        note=record.note,
    )
