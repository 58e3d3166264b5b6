"""A circuit's test sheet and its readings."""

from uuid import UUID

from sqlalchemy.orm import Session

from lumbek.core.answers import insulation_mohm
from lumbek.core.model.reading import Reading, ReadingTaken
from lumbek.exchange.problems import Problem
from lumbek.services.circuits import need_circuit
from lumbek.services.clock import now, stamp
from lumbek.services.documents import design_of, head_of, reading_of, reading_row, supply_of
from lumbek.services.errors import BadInputError
from lumbek.services.houses import house_in, seat_of
from lumbek.services.jobs import done_before
from lumbek.services.results import Results
from lumbek.services.sign_in import Person
from lumbek.services.views import SheetView
from lumbek.store import jobs as store
from lumbek.store import people
from lumbek.store.database import Database
from lumbek.store.models import CircuitRow, JobRow


class TestingService:
    """Use cases on the tests of one circuit."""

    def __init__(self, database: Database, results: Results) -> None:
        self._database, self._results = database, results

    def sheet(self, person: Person, circuit_id: UUID, ambient_c: float) -> SheetView:
        """Return a circuit's test sheet, expected readings for copper at `ambient_c`."""
        with self._database.transaction() as db:
            return self._sheet(db, *need_circuit(db, person, circuit_id), ambient_c)

    def enter(
        self, person: Person, circuit_id: UUID, write_id: UUID, taken: ReadingTaken, ambient_c: float
    ) -> SheetView:
        """Add a reading, by this person, now; answer with the sheet as it stands then."""
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id, lock=True)
            if done_before(db, person, write_id, circuit_id) is not None:
                return self._sheet(db, row, job, ambient_c)
            points = {point["id"] for point in row.design["points"]}
            if taken.point is not None and taken.point not in points:
                raise BadInputError(
                    "That point is not in this circuit.", [Problem(field="point", reason="is not in this circuit")]
                )
            reading = Reading(**taken.model_dump(), by=person.name, at=stamp(now()))
            db.add(reading_row(row.id, reading))
            store.touch_job(db, job.id, person.name, now())
            people.record(db, person.firm_id, person.user_id, "reading", str(row.id))
            db.flush()
            return self._sheet(db, row, job, ambient_c)

    def _sheet(self, db: Session, row: CircuitRow, job: JobRow, ambient_c: float) -> SheetView:
        head, supply = head_of(job), supply_of(job)
        source, design = seat_of(house_in(db, self._results, job, [row]), row, job, design_of(row))
        standing = store.standing_readings_of(db, [each.id for each in store.circuits_of(db, job.id)])
        read = {circuit_id: tuple(reading_of(each) for each in rows) for circuit_id, rows in standing.items()}
        peers = tuple(mohm for other, readings in read.items() if other != row.id for mohm in insulation_mohm(readings))
        return SheetView(
            circuit_id=row.id,
            job_id=job.id,
            number=design.number,
            name=design.name,
            ambient_c=ambient_c,
            sheet=self._results.sheet(source, head, supply, design, read[row.id], peers, ambient_c),
            design=self._results.circuit(source, head, supply, design).verdict,
        )
