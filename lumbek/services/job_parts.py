"""The two parts of a job that are written each by itself, with a way back of its own: the survey, and the boards.

They share one version: what is found of the supply speaks to the boards, and the other way round.
"""

from abc import ABC, abstractmethod
from dataclasses import dataclass
from typing import Any, ClassVar, Generic
from uuid import UUID

from sqlalchemy.orm import Session

from lumbek.core.board.changes import carry_out_on_boards
from lumbek.core.board.commands import SetHouse
from lumbek.core.model.board import Boards
from lumbek.core.model.job import JobHead
from lumbek.core.model.supply import Supply
from lumbek.services import audit
from lumbek.services.deeds import Deed
from lumbek.services.difference import difference
from lumbek.services.documents import (
    boards_of,
    boards_then,
    head_of,
    head_then,
    job_document,
    supply_of,
    supply_then,
    write_job,
)
from lumbek.services.person import Person
from lumbek.services.writes import Document, KeptRow, State
from lumbek.store import jobs as store
from lumbek.store.models import JobRevision, JobRow


class _Part(KeptRow[JobRow], ABC, Generic[Document]):
    """A part of a job, held for whoever writes it."""

    called = "job"
    part: ClassVar[str]

    def shown(self) -> dict[str, Any]:
        """Return the whole job as it stands."""
        row = self._row
        return {"head": head_of(row).model_dump(), "supply": row.supply, "house": row.house}

    @classmethod
    def state_of(cls, db: Session, job_id: UUID, version: int | None = None) -> State | None:
        """Return the state this part of a job is in, or was brought to at a version."""
        found = store.job_revision(db, job_id, cls.part, version)
        return None if found is None else State(found.version, found.undo_to, found.redo_to)

    def state(self, version: int | None = None) -> State | None:
        """Return the state it is in, or was in at a version."""
        return self.state_of(self._db, self.id, version)

    def at(self, version: int) -> Document:
        """Return what it said at a version, as far as that can stand now."""
        revision = store.job_revision(self._db, self.id, self.part, version)
        assert revision is not None, "a state that was asked for before"
        return self._then(revision)

    @abstractmethod
    def _then(self, revision: JobRevision) -> Document: ...

    def _keep(self, head: JobHead, supply: Supply, boards: Boards, undo_to: int | None, redo_to: int | None) -> None:
        row, person = self._row, self._person
        before = job_document(head_of(row), supply_of(row), boards_of(row))
        write_job(row, head, supply, boards)
        self._stamp()
        document = job_document(head, supply, boards)
        store.keep_job_revision(self._db, row, document, person.user_id, self.part, undo_to, redo_to)
        audit.note(self._db, person, Deed.JOB_CHANGED, row.id, difference(_flat(before), _flat(document)))
        self._db.flush()


def _flat(document: dict[str, Any]) -> dict[str, Any]:
    """Return a job's document without the name that its boards are kept under."""
    return {**document, **document["house"], "house": None}


@dataclass(frozen=True)
class Surveyed:
    """What the survey says: what the job is called and judged by, and its supply."""

    head: JobHead
    supply: Supply


class KeptSurvey(_Part[Surveyed]):
    """Head and supply of a job."""

    part = "survey"

    def now(self) -> Surveyed:
        """Return head and supply."""
        return Surveyed(head_of(self._row), supply_of(self._row))

    def put(self, document: Surveyed, undo_to: int | None, redo_to: int | None) -> None:
        """Put head and supply down; the boards stay."""
        self._keep(document.head, document.supply, boards_of(self._row), undo_to, redo_to)

    def _then(self, revision: JobRevision) -> Surveyed:
        return Surveyed(head_then(revision), supply_then(revision))


class KeptBoards(_Part[Boards]):
    """The boards of a job, its circuits in their ways."""

    part = "boards"

    def __init__(self, db: Session, person: Person, row: JobRow, circuits: tuple[str, ...]) -> None:
        super().__init__(db, person, row)
        self.circuits = circuits

    def now(self) -> Boards:
        """Return the boards."""
        return boards_of(self._row)

    def put(self, document: Boards, undo_to: int | None, redo_to: int | None) -> None:
        """Put the boards down; head and supply stay."""
        self._keep(head_of(self._row), supply_of(self._row), document, undo_to, redo_to)

    def _then(self, revision: JobRevision) -> Boards:
        then = boards_then(revision)
        # Circuits may have come or gone since those boards stood.
        return Boards(boards=carry_out_on_boards(then.boards, self.circuits, SetHouse(boards=then.boards)))
