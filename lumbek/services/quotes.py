"""Quotes of a job: what it takes, by the firm's prices; terms are put down anew each time, what was before stays."""

from functools import partial
from uuid import UUID

from sqlalchemy.orm import Session

from lumbek.core.items.compared import DesignCompared, JobToCompare
from lumbek.core.items.terms import QuoteTerms
from lumbek.services import audit, heavy
from lumbek.services.circuits import need_circuit
from lumbek.services.clock import now
from lumbek.services.deeds import Deed
from lumbek.services.documents import boards_of, head_of, places_of
from lumbek.services.errors import ChangedMeanwhileError
from lumbek.services.heavy import Piece
from lumbek.services.houses import key_of, keyed_designs, supply_in
from lumbek.services.jobs import need_job
from lumbek.services.person import Person
from lumbek.services.places import need_places
from lumbek.services.prices import prices_of
from lumbek.services.quote_terms import changed_by, terms_of, version_of
from lumbek.services.views import QuoteView
from lumbek.services.worked_out import Results
from lumbek.services.writes import is_new
from lumbek.store.database import Database
from lumbek.store.models import JobRow, QuoteRow


class QuoteService:
    """Use cases on quotes."""

    def __init__(self, database: Database, results: Results) -> None:
        self._database, self._results = database, results

    def open(self, person: Person, job_id: UUID) -> Piece[QuoteView]:
        """Return what a job takes and its quote, to be worked out."""
        with self._database.transaction() as db:
            return self._view(db, person, need_job(db, person, job_id))

    def put(self, person: Person, job_id: UUID, write_id: UUID, terms: QuoteTerms, version: int) -> Piece[QuoteView]:
        """Put down the terms of a job's quote instead of those that were seen, once.

        Raises ChangedMeanwhileError where others count by now.
        """
        with self._database.transaction() as db:
            job = need_job(db, person, job_id, lock=True)
            if is_new(db, person, write_id, job_id, QuoteRow):
                _need_version(db, job, version)
                who = {"by": person.name, "by_id": person.user_id, "at": now()}
                db.add(QuoteRow(id=write_id, job_id=job.id, document=terms.model_dump(mode="json"), **who))
                audit.note(db, person, Deed.QUOTE_PUT, job.id)
                db.flush()
            return self._view(db, person, job)

    def compare(self, person: Person, circuit_id: UUID) -> Piece[tuple[DesignCompared, ...]]:
        """Return the ways of designing a circuit beside each other, to be worked out."""
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id)
            compared = JobToCompare(
                supply=supply_in(db, job),
                places=places_of(need_places(db, job.id)),
                boards=boards_of(job).boards,
                designs=tuple(keyed_designs(db, self._results, job)),
                prices=prices_of(db, person.firm_id),
                terms=terms_of(db, job),
            )
            return Piece(partial(heavy.designs_compared, head_of(job), compared, key_of(row.id)))

    def _view(self, db: Session, person: Person, job: JobRow) -> Piece[QuoteView]:
        designs, boards = keyed_designs(db, self._results, job), boards_of(job).boards
        places, head = places_of(need_places(db, job.id)), head_of(job)
        terms, prices = terms_of(db, job), prices_of(db, person.firm_id)
        return Piece(partial(heavy.quote, head, places, boards, designs, prices, terms, version_of(db, job)))


def _need_version(db: Session, job: JobRow, version: int) -> None:
    """Raise ChangedMeanwhileError where the terms that were seen are not those that count."""
    now = version_of(db, job)
    if now != version:
        shown = {"terms": terms_of(db, job).model_dump(mode="json")}
        raise ChangedMeanwhileError.of("quote", changed_by(db, job), now, shown)
