"""The work of a job on site; what is said of it is kept with the records of its inspection (`inspecting.py`)."""

from functools import partial
from uuid import UUID

from lumbek.services import heavy
from lumbek.services.documents import boards_of, head_of, places_of, reading_of
from lumbek.services.heavy import Piece
from lumbek.services.houses import key_of, keyed_designs
from lumbek.services.jobs import inspection_to, need_job
from lumbek.services.person import Person
from lumbek.services.places import need_places
from lumbek.services.quote_terms import terms_of
from lumbek.services.views import WorkView
from lumbek.services.worked_out import Results
from lumbek.store import jobs as store
from lumbek.store.database import Database


class WorkingService:
    """Use cases on the work of a job."""

    def __init__(self, database: Database, results: Results) -> None:
        self._database, self._results = database, results

    def open(self, person: Person, job_id: UUID) -> Piece[WorkView]:
        """Return the work of a job as it stands, to be worked out."""
        with self._database.transaction() as db:
            job = need_job(db, person, job_id)
            row, designs = need_places(db, job.id), keyed_designs(db, self._results, job)
            kept = store.standing_readings_of(db, [each.id for each in store.circuits_of(db, job.id, designs=False)])
            readings = {key_of(circuit): tuple(map(reading_of, rows)) for circuit, rows in kept.items()}
            about = (head_of(job), places_of(row), boards_of(job).boards, designs, terms_of(db, job))
            return Piece(partial(heavy.work, row.version, *about, readings, inspection_to(db, job.id)))
