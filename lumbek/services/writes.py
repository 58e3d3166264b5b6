"""The one way a document is written: once, on the version that was seen, with a way back to what stood before.

A circuit's design, what a survey found and the boards of a job are documents of this kind. Each names what it says, how
it is put down and the states it has been in (`Kept`); who may write it is the use case's business.
"""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from typing import Any, Generic, Protocol, TypeVar
from uuid import UUID

from pydantic import ValidationError
from sqlalchemy.orm import Session

from lumbek.core.circuit.edit import EditRefusedError
from lumbek.exchange.problems import problems_of
from lumbek.services.clock import now
from lumbek.services.errors import BadInputError, ChangedMeanwhileError, UsedIdError
from lumbek.services.person import Person
from lumbek.store import jobs as store
from lumbek.store.models import Base, CircuitRow, JobRow, PlacesRow

Document = TypeVar("Document")
# What gives a hash of what the write under way says; nothing where it did not come as JSON.
CONTENT: ContextVar[Callable[[], str]] = ContextVar("content", default=str)


@dataclass(frozen=True)
class State:
    """A state a document has been in: its version, and the ones that undoing and redoing it lead to."""

    version: int
    undo_to: int | None = None
    redo_to: int | None = None

    @property
    def can_undo(self) -> bool:
        """Whether there is a state before it."""
        return self.undo_to is not None

    @property
    def can_redo(self) -> bool:
        """Whether it was gone back to."""
        return self.redo_to is not None


class Kept(Protocol[Document]):
    """One document, held for whoever writes it."""

    # What it is called where it is refused: "circuit".
    called: str

    @property
    def id(self) -> UUID:
        """What it is known by."""

    @property
    def version(self) -> int:
        """The version that whoever writes must have seen."""

    @property
    def changed_by(self) -> str:
        """Who changed it last."""

    def now(self) -> Document:
        """Return what it says."""

    def shown(self) -> dict[str, Any]:
        """Return what is told to somebody who saw another version."""

    def state(self, version: int | None = None) -> State | None:
        """Return the state it is in, or was in at a version; None where none is known."""

    def at(self, version: int) -> Document:
        """Return what it said at a version, as far as that can stand now."""

    def put(self, document: Document, undo_to: int | None, redo_to: int | None) -> None:
        """Put a new state of it down, among all the states it has been in."""


Row = TypeVar("Row", CircuitRow, JobRow, PlacesRow)


class KeptRow(Generic[Row]):
    """What documents that are kept in a row of their own have alike."""

    def __init__(self, db: Session, person: Person, row: Row) -> None:
        """Hold the row for a person."""
        self._db, self._person = db, person
        self._row: Row = row

    @property
    def id(self) -> UUID:
        """What the row is known by."""
        return self._row.id

    @property
    def version(self) -> int:
        """The version of the row."""
        return self._row.version

    @property
    def changed_by(self) -> str:
        """Who changed the row last."""
        return self._row.changed_by

    def _stamp(self) -> None:
        """Count the row up by one, and say who changed it now."""
        self._row.version += 1
        self._row.changed_by, self._row.changed_at = self._person.name, now()


def write(
    db: Session,
    person: Person,
    kept: Kept[Document],
    write_id: UUID,
    version: int,
    change: Callable[[Document], Document],
) -> None:
    """Change a document once. What changes nothing is no state to go back to.

    Raises ChangedMeanwhileError with what stands now for another version than this person saw, BadInputError for what
    cannot be, UsedIdError.
    """
    if not _is_first(db, person, kept, write_id, version):
        return
    before = kept.now()
    with allowed(f"The {kept.called} cannot be changed so."):
        then = change(before)
    standing = kept.state()
    if then != before:
        kept.put(then, None if standing is None else standing.version, None)


def step(db: Session, person: Person, kept: Kept[Document], write_id: UUID, version: int, back: bool) -> None:
    """Go back to the state before the last change, whoever made it, or forward again to what was undone.

    Raises as `write`, and BadInputError where there is no such state.
    """
    if not _is_first(db, person, kept, write_id, version):
        return
    standing = kept.state()
    wanted = None if standing is None else standing.undo_to if back else standing.redo_to
    target = None if wanted is None else kept.state(wanted)
    if standing is None or target is None:
        raise BadInputError("There is nothing to undo." if back else "There is nothing to redo.")
    # Going back, the way further back is that of the state gone to; the way forward is the state left.
    undo_to, redo_to = (target.undo_to, standing.version) if back else (standing.version, target.redo_to)
    with allowed(f"The {kept.called} cannot go there now."):
        then = kept.at(target.version)
    kept.put(then, undo_to, redo_to)


def _is_first(db: Session, person: Person, kept: Kept[Document], write_id: UUID, version: int) -> bool:
    done = done_before(db, person, write_id, kept.id)
    if done is not None and done != kept.id:
        raise UsedIdError
    if done is None and kept.version != version:
        raise ChangedMeanwhileError.of(kept.called, kept.changed_by, kept.version, kept.shown())
    return done is None


@contextmanager
def allowed(message: str) -> Iterator[None]:
    """Turn what the core does not allow into a refusal that says so."""
    try:
        yield
    except EditRefusedError as error:
        raise BadInputError(str(error)) from error
    except ValidationError as error:
        raise BadInputError(message, problems_of(error)) from error


def done_before(db: Session, person: Person, write_id: UUID, subject: UUID) -> UUID | None:
    """Mark a write as done; where it has been already, return what it made.

    Raises UsedIdError for another firm's id, and where something else was said under it.
    """
    content = CONTENT.get()()
    if store.do_once(db, write_id, person.firm_id, subject, content):
        return None
    found = store.done_write(db, write_id, person.firm_id)
    if found is None or (content and found.content not in ("", content)):
        raise UsedIdError
    return found.subject


def done_on(db: Session, person: Person, write_id: UUID, subject: UUID) -> bool:
    """Mark a write on something as done; whether it was already. Raises UsedIdError where it was one on another."""
    done = done_before(db, person, write_id, subject)
    if done not in (None, subject):
        raise UsedIdError
    return done is not None


def is_new(db: Session, person: Person, write_id: UUID, job_id: UUID, kind: type[Base]) -> bool:
    """Mark a write that adds a row under its own id as done; whether it was not yet. Raises UsedIdError."""
    done = done_before(db, person, write_id, job_id)
    if done not in (None, job_id) or (done is None and db.get(kind, write_id) is not None):
        raise UsedIdError
    return done is None
