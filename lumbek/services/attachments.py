"""Photos and papers of a job, each with what it shows: a board, a circuit, a point, a record. Only ever added."""

import re
from collections.abc import Sequence
from datetime import datetime
from hashlib import sha256
from typing import Literal, NamedTuple
from uuid import UUID

from sqlalchemy.orm import Session

from lumbek.core.board.tree import seated
from lumbek.services import audit
from lumbek.services.circuits import need_circuit
from lumbek.services.clock import now
from lumbek.services.contents import taken_in
from lumbek.services.deeds import Deed
from lumbek.services.documents import boards_of, places_of
from lumbek.services.errors import BadInputError, NotFoundError, UsedIdError
from lumbek.services.houses import key_of
from lumbek.services.jobs import need_job
from lumbek.services.person import Person
from lumbek.services.views import AttachmentLine
from lumbek.services.writes import is_new
from lumbek.store import attachments as store
from lumbek.store.database import Database
from lumbek.store.jobs import circuit_versions
from lumbek.store.jobs import places_of as place_row
from lumbek.store.models import Attachment, JobRow
from lumbek.store.records import find_record

MOST_BYTES = 6_000_000
MOST_IN_A_JOB = 400

# What findings are known by.
_FINDING = re.compile(r"[A-Za-z0-9][A-Za-z0-9_-]{0,31}")
Shows = Literal["job", "board", "circuit", "point", "record", "finding", "room"]


class Shown(NamedTuple):
    """What an attachment shows: of which sort, its id, and the circuit where it is a point of one."""

    shows: Shows
    of: str = ""
    circuit_id: UUID | None = None


class AttachmentService:
    """Use cases on what is attached to a job."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def list(self, person: Person, job_id: UUID) -> Sequence[AttachmentLine]:
        """Return what is attached to a job and everything in it, the oldest first."""
        with self._database.transaction() as db:
            return _lines(db, need_job(db, person, job_id))

    def add(
        self, person: Person, job_id: UUID, write_id: UUID, shown: Shown, data: bytes, note: str, taken_at: datetime
    ) -> Sequence[AttachmentLine]:
        """Keep a photo or a paper with what it shows, once.

        Raises BadInputError for a file of another kind or one too many, NotFoundError for what is not in this job.
        """
        with self._database.transaction() as db:
            # Before anything is decoded: for whoever has no business here nothing is worked out.
            need_job(db, person, job_id)
        kind, kept = taken_in(data)
        with self._database.transaction() as db:
            job = need_job(db, person, job_id, lock=True)
            circuit_id = _circuit_of(db, person, job, shown)
            there = store.find_attachment(db, person.firm_id, write_id)
            if there is not None and there.sha256 != sha256(kept).hexdigest():
                raise UsedIdError
            if is_new(db, person, write_id, job_id, Attachment):
                if store.count_attachments(db, job.id) >= MOST_IN_A_JOB:
                    raise BadInputError(f"A job holds {MOST_IN_A_JOB} photos and papers, and this one does.")
                db.add(
                    Attachment(
                        id=write_id,
                        job_id=job.id,
                        circuit_id=circuit_id,
                        shows=shown.shows,
                        of=shown.of,
                        note=note,
                        kind=kind,
                        data=kept,
                        sha256=sha256(kept).hexdigest(),
                        by=person.name,
                        by_id=person.user_id,
                        # Nobody takes a photo tomorrow, whatever the device's clock says.
                        taken_at=min(taken_at, now()),
                    )
                )
                audit.note(db, person, Deed.ATTACHED, job.id, f"{shown.shows} {shown.of}".strip())
                db.flush()
            return _lines(db, job)

    def file(self, person: Person, attachment_id: UUID) -> tuple[str, bytes]:
        """Return the kind and the bytes of an attachment. Raises NotFoundError."""
        with self._database.transaction() as db:
            row = store.find_attachment(db, person.firm_id, attachment_id)
            if row is None:
                raise NotFoundError("There is no such photo here.")
            return row.kind, row.data


def _need_board(db: Session, job: JobRow, board_id: str | None) -> None:
    circuits = [key_of(circuit_id) for circuit_id, _ in circuit_versions(db, job.id)]
    if board_id not in {board.id for board in seated(boards_of(job).boards, circuits)}:
        raise NotFoundError("There is no such board here.")


def _need_room(db: Session, job: JobRow, of: str) -> None:
    """A room, or a wall of it: `kitchen`, or `kitchen/w2`."""
    room_id, _, wall = of.partition("/")
    room = next((each for each in places_of(place_row(db, job.id)).rooms if each.id == room_id), None)
    outline = None if room is None else room.outline
    if room is None or (wall and (outline is None or outline.wall(wall) is None)):
        raise NotFoundError("There is no such room or wall here.")


def _said_circuit(db: Session, person: Person, shown: Shown) -> UUID | None:
    if shown.shows == "record":
        record = find_record(db, person.firm_id, _id_in(shown.of))
        return None if record is None else record.circuit_id
    return shown.circuit_id if shown.shows == "point" else _id_in(shown.of)


def _circuit_of(db: Session, person: Person, job: JobRow, shown: Shown) -> UUID | None:
    """Return the circuit that what is shown belongs to, if one. Raises NotFoundError where it is not in this job."""
    if shown.shows == "job":
        return None
    if shown.shows == "finding":
        # A photo may come before what is said of it: both wait on a device for a signal.
        if not _FINDING.fullmatch(shown.of):
            raise NotFoundError("There is no such finding here.")
        return None
    if shown.shows == "room":
        _need_room(db, job, shown.of)
        return None
    if shown.shows == "board":
        _need_board(db, job, shown.of)
        return None
    circuit_id = _said_circuit(db, person, shown)
    if circuit_id is None:
        raise NotFoundError("There is no such circuit or record here.")
    row, its_job = need_circuit(db, person, circuit_id)
    if its_job.id != job.id:
        raise NotFoundError("There is no such circuit in this job.")
    if shown.shows == "point" and shown.of not in {point["id"] for point in row.design["points"]}:
        raise NotFoundError("There is no such point in this circuit.")
    return circuit_id


def _id_in(text: str) -> UUID:
    try:
        return UUID(text)
    except ValueError as error:
        raise NotFoundError("There is no such thing here.") from error


def _lines(db: Session, job: JobRow) -> tuple[AttachmentLine, ...]:
    return tuple(
        AttachmentLine(
            id=row.id,
            shows=row.shows,
            of=row.of,
            circuit=None if row.circuit_id is None else key_of(row.circuit_id),
            note=row.note,
            kind=row.kind,
            by=row.by,
            taken_at=row.taken_at,
        )
        for row in store.attachments_of(db, job.id)
    )
