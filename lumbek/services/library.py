"""A firm's own usual circuits."""

from uuid import UUID, uuid4

from sqlalchemy.orm import Session

from lumbek.exchange.upgrade import CURRENT
from lumbek.services import audit
from lumbek.services.circuits import need_circuit
from lumbek.services.clock import now
from lumbek.services.deeds import Deed
from lumbek.services.documents import design_of
from lumbek.services.errors import NotFoundError
from lumbek.services.houses import design_in
from lumbek.services.person import Person
from lumbek.services.views import LibraryLine
from lumbek.services.writes import done_before
from lumbek.store import jobs as store
from lumbek.store.database import Database
from lumbek.store.models import LibraryCircuit


class LibraryService:
    """Use cases on the library."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def list(self, person: Person) -> list[LibraryLine]:
        """Return the firm's own usual circuits."""
        with self._database.transaction() as db:
            return [_line(row) for row in store.library_of(db, person.firm_id)]

    def keep(self, person: Person, write_id: UUID, circuit_id: UUID) -> LibraryLine:
        """Keep a circuit's design among the firm's usual ones."""
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id)
            # With what its rooms are called: in another job they are found by that.
            design = design_in(db, job, row)
            kept = LibraryCircuit(id=uuid4(), firm_id=person.firm_id, name=design.name, by=person.name)
            before = done_before(db, person, write_id, kept.id)
            if before is not None:
                return _line(_need(db, person, before))
            kept.design, kept.format = design.model_dump(mode="json"), CURRENT
            db.add(kept)
            audit.note(db, person, Deed.LIBRARY_KEPT, row.id)
            return _line(kept)

    def remove(self, person: Person, library_id: UUID) -> None:
        """Take a circuit off the firm's list; it stays in the records."""
        with self._database.transaction() as db:
            _need(db, person, library_id).removed_at = now()
            audit.note(db, person, Deed.LIBRARY_REMOVED, library_id)


def _need(db: Session, person: Person, library_id: UUID) -> LibraryCircuit:
    row = store.find_in_library(db, person.firm_id, library_id)
    if row is None:
        raise NotFoundError("There is no such circuit in the library.")
    return row


def _line(row: LibraryCircuit) -> LibraryLine:
    return LibraryLine(id=row.id, name=row.name, design=design_of(row), by=row.by)
