"""The tests of a job: readings of circuits and of the installation whole, the visits they were taken on."""

from collections.abc import Callable
from uuid import UUID

from sqlalchemy.orm import Session

from lumbek.core.board.house import House
from lumbek.core.board.shared_rcds import shared_rcds
from lumbek.core.diagnosis.answer import Diagnosis
from lumbek.core.diagnosis.hook_up import HookUp
from lumbek.core.diagnosis.patient import CannotDiagnoseError
from lumbek.core.diagnosis.rcd_trips import BehindRcd, TripAnswer, Trips, When, find_trip
from lumbek.core.judging.answers import insulation_mohm, tests_of_house
from lumbek.core.model.found import FoundKept, FoundMade
from lumbek.core.model.reading import AT_RCDS, AT_SERVICES, INSTALLATION, LIVE, Reading, ReadingTaken
from lumbek.core.model.visit import Visit, VisitMade
from lumbek.core.testing.installation import installation_sheet
from lumbek.core.testing.lengths import FoundLengths
from lumbek.core.testing.sheet import Sheet
from lumbek.exchange.problems import Problem
from lumbek.exchange.readings_csv import ReadFile, read_readings
from lumbek.services import audit
from lumbek.services.circuits import need_circuit
from lumbek.services.clock import now, stamp
from lumbek.services.deeds import Deed
from lumbek.services.documents import (
    design_of,
    found_row,
    head_of,
    reading_of,
    reading_row,
    visit_key,
    visit_row,
)
from lumbek.services.errors import BadInputError
from lumbek.services.heavy import Piece
from lumbek.services.houses import design_in, designs_in, house_in, key_of, read_in, seat_of
from lumbek.services.jobs import found_on, need_job, visits_to, whole_readings
from lumbek.services.person import Person
from lumbek.services.views import InstallationView, SheetView
from lumbek.services.worked_out import Conditions, Results, Seated
from lumbek.services.writes import done_on, is_new
from lumbek.store import jobs as store
from lumbek.store.database import Database
from lumbek.store.models import CircuitRow, FoundRecord, JobRow, VisitRow

# What is taken for an RCD of which nobody said what it is rated for.
_USUAL_RCD_MA = 30.0

# So many readings of one write are named in the audit.
_MOST_NAMED = 5


class TestingService:
    """Use cases on the tests of a circuit and of an installation."""

    def __init__(self, database: Database, results: Results) -> None:
        self._database, self._results = database, results

    # One circuit

    def sheet(self, person: Person, circuit_id: UUID, ambient_c: float) -> SheetView:
        """Return a circuit's test sheet, expected readings for copper at `ambient_c`."""
        with self._database.transaction() as db:
            return self._sheet(db, *need_circuit(db, person, circuit_id), ambient_c)

    def enter(
        self, person: Person, circuit_id: UUID, write_id: UUID, taken: tuple[ReadingTaken, ...], ambient_c: float
    ) -> SheetView:
        """Add readings, by this person, now, all or none; answer with the sheet as it stands then.

        Raises BadInputError for a point that is not drawn, for a live reading while dead ones guard it, and for an
        isolation that leaves a pair of this circuit untested.
        """
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id, lock=True)
            if done_on(db, person, write_id, circuit_id):
                return self._sheet(db, row, job, ambient_c)
            points = {point["id"] for point in row.design["points"]}
            sheet = self._sheet(db, row, job, ambient_c).sheet if any(map(_is_guarded, taken)) else None
            for reading in taken:
                if reading.point is not None and reading.point not in points:
                    problem = Problem(field="point", reason="is not in this circuit")
                    raise BadInputError("That point is not in this circuit.", [problem])
                if sheet is not None:
                    _need_open(sheet, reading)
                    _need_every_pair(sheet, reading)
            db.add_all(reading_row(_by(person, each), person.user_id, circuit_id=row.id) for each in taken)
            _touched(db, person, job.id, str(row.id), "; ".join(map(_in_words, taken[:_MOST_NAMED])))
            return self._sheet(db, row, job, ambient_c)

    def lengths(self, person: Person, circuit_id: UUID, ambient_c: float) -> FoundLengths:
        """Return what the readings of a circuit say of its lengths."""
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id)
            seated, readings = self._seated(db, row, job)[0], _readings(db, row.id)
            return self._results.lengths(seated, readings, ambient_c)

    def read_file(self, person: Person, circuit_id: UUID, text: str) -> ReadFile:
        """Return what a file of readings holds for a circuit."""
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id)
            return read_readings(text, design_in(db, job, row))

    def diagnosis(self, person: Person, circuit_id: UUID, ambient_c: float) -> Piece[Diagnosis]:
        """Return what the readings of a circuit leave under suspicion, to be worked out where it is not known yet."""
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id)
            seated, readings = self._seated(db, row, job)[0], _readings(db, row.id)
        return self._results.diagnosis(seated, readings, ambient_c)

    def hook_up(self, person: Person, circuit_id: UUID) -> HookUp:
        """Return a circuit and how each of its readings is taken, for a tester to follow."""
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id)
            seated, house = self._seated(db, row, job)
            sheet = self._judged(db, row, job, seated, house, 20.0)
        try:
            return self._results.hook_up(seated, sheet)
        except CannotDiagnoseError as error:
            raise BadInputError(str(error)) from error

    def trips(
        self,
        person: Person,
        job_id: UUID,
        when: When,
        numbers: tuple[int, ...],
        answers: tuple[TripAnswer, ...],
        every_h: float | None = None,
    ) -> Trips:
        """Return what makes an RCD over these circuits trip, all circuits where none is named."""
        with self._database.transaction() as db:
            job = need_job(db, person, job_id)
            rows = store.circuits_of(db, job.id)
            designs = designs_in(db, job, rows)
            numbers_of = {key_of(row.id): design.number for row, design in zip(rows, designs, strict=True)}
            shared = list(shared_rcds(house_in(db, self._results, job, rows), possible=True))
        groups = tuple(
            BehindRcd(
                id=each.key,
                title=each.place.name,
                board=each.board,
                rated_ma=None if each.known is None else each.known.rated_ma,
                circuits=tuple(sorted(numbers_of[key] for key in each.circuits if key in numbers_of)),
            )
            for each in shared
        )
        mine = next((each for each in groups if numbers and set(each.circuits) == set(numbers)), None)
        rated_ma = mine.rated_ma if mine is not None and mine.rated_ma is not None else _USUAL_RCD_MA
        chosen = [design for design in designs if not numbers or design.number in numbers]
        if not chosen:
            raise BadInputError("There is no circuit to look at.")
        return find_trip(chosen, when, answers, rated_ma, every_h).model_copy(update={"groups": groups})

    # The installation

    def installation(self, person: Person, job_id: UUID) -> InstallationView:
        """Return the test sheet of the whole installation, and the visits so far."""
        with self._database.transaction() as db:
            return self._installation(db, need_job(db, person, job_id))

    def enter_whole(self, person: Person, job_id: UUID, write_id: UUID, taken: ReadingTaken) -> InstallationView:
        """Add a reading of the installation. Raises BadInputError for one that is a circuit's, or not open yet."""
        with self._database.transaction() as db:
            job = need_job(db, person, job_id, lock=True)
            if done_on(db, person, write_id, job_id):
                return self._installation(db, job)
            if taken.quantity not in INSTALLATION:
                problem = Problem(field="quantity", reason="is read of a circuit, not of the installation")
                raise BadInputError("That is a reading of a circuit.", [problem])
            if (taken.quantity in (*AT_SERVICES, *AT_RCDS)) != (taken.point is not None):
                problem = Problem(field="point", reason="names the service that is bonded, or the RCD that is tested")
                raise BadInputError("Say which service, or which RCD.", [problem])
            if _is_guarded(taken):
                sheet = self._installation(db, job).sheet
                _need_open(sheet, taken)
                _need_every_pair(sheet, taken)
            db.add(reading_row(_by(person, taken), person.user_id, job_id=job.id))
            _touched(db, person, job.id, str(job.id), _in_words(taken))
            return self._installation(db, job)

    def begin_visit(self, person: Person, job_id: UUID, write_id: UUID, made: VisitMade) -> InstallationView:
        """Keep a visit: its id is that of the write. Raises UsedIdError where that is another visit's."""

        def visit() -> VisitRow:
            kept = Visit(**made.model_dump(), id=visit_key(write_id), by=person.name, at=stamp(now()))
            return visit_row(kept, job_id, write_id)

        return self._add(person, job_id, write_id, VisitRow, visit)

    def keep_found(self, person: Person, job_id: UUID, write_id: UUID, made: FoundMade) -> InstallationView:
        """Keep what was found: its id is that of the write. Raises UsedIdError where that is another's."""

        def found() -> FoundRecord:
            kept = FoundKept(**made.model_dump(), id=visit_key(write_id), by=person.name, at=stamp(now()))
            return found_row(kept, job_id, write_id)

        return self._add(person, job_id, write_id, FoundRecord, found)

    def _add(
        self,
        person: Person,
        job_id: UUID,
        write_id: UUID,
        kind: type[VisitRow | FoundRecord],
        make: Callable[[], VisitRow | FoundRecord],
    ) -> InstallationView:
        """Add what is only ever added to a job, once, under the id of its write. Raises UsedIdError."""
        with self._database.transaction() as db:
            job = need_job(db, person, job_id, lock=True)
            if is_new(db, person, write_id, job_id, kind):
                db.add(make())
                _touched(db, person, job.id, str(job.id), "visit" if kind is VisitRow else "what was found")
            return self._installation(db, job)

    def _installation(self, db: Session, job: JobRow) -> InstallationView:
        readings, visits = whole_readings(db, job.id), visits_to(db, job.id)
        house = house_in(db, self._results, job)
        return InstallationView(
            job_id=job.id,
            sheet=installation_sheet(house.rulebook, house.supply, readings, house, head_of(job).extent),
            visits=visits,
            found=found_on(db, job.id),
            expired=tuple(each.name for each in visits[-1].expired) if visits else (),
        )

    def _sheet(self, db: Session, row: CircuitRow, job: JobRow, ambient_c: float) -> SheetView:
        seated, house = self._seated(db, row, job)
        return SheetView(
            circuit_id=row.id,
            job_id=job.id,
            number=seated.design.number,
            name=seated.design.name,
            ambient_c=ambient_c,
            sheet=self._judged(db, row, job, seated, house, ambient_c),
            design=self._results.circuit(seated).verdict,
        )

    def _judged(
        self, db: Session, row: CircuitRow, job: JobRow, seated: Seated, house: House, ambient_c: float
    ) -> Sheet:
        """Return the sheet of a circuit, held against what the others of its job read."""
        others = [circuit_id for circuit_id, _ in store.circuit_versions(db, job.id) if circuit_id != row.id]
        read = store.standing_readings_of(db, others).values()
        peers = tuple(mohm for rows in read for mohm in insulation_mohm(tuple(map(reading_of, rows))))
        told = tests_of_house(house, seated.head, whole_readings(db, job.id), key_of(row.id))
        return self._results.sheet(seated, _readings(db, row.id), Conditions(peers, ambient_c, told))

    def _seated(self, db: Session, row: CircuitRow, job: JobRow) -> tuple[Seated, House]:
        house = house_in(db, self._results, job, [row])
        source, design = seat_of(house, row, job, design_of(row))
        return Seated(source, head_of(job), house.supply, design, read_in(db, job, row.id)), house


def _readings(db: Session, circuit_id: UUID) -> tuple[Reading, ...]:
    """Return every reading of a circuit, the oldest first."""
    return tuple(reading_of(each) for each in store.readings_of(db, [circuit_id])[circuit_id])


def _by(person: Person, taken: ReadingTaken) -> Reading:
    """Return a reading as this person's own, taken in now."""
    return Reading(**taken.model_dump(), by=person.name, at=stamp(now()))


def _is_live(taken: ReadingTaken) -> bool:
    """Whether something is read live; setting it aside, or clearing it, is not."""
    return taken.quantity in LIVE and (taken.value is not None or taken.correct is not None)


def _is_guarded(taken: ReadingTaken) -> bool:
    """Whether the sheet has a say in what may be entered."""
    return _is_live(taken) or taken.isolation is not None


def _need_open(sheet: Sheet, taken: ReadingTaken) -> None:
    """Raise BadInputError where the dead tests that guard a live reading are not there."""
    if _is_live(taken) and not sheet.live_open:
        waiting = ", ".join(sheet.waits_for[:4])
        problem = Problem(field="quantity", reason=f"is live, and waits for: {waiting}")
        raise BadInputError(f"Dead tests first: {waiting}. Or say why live tests go first.", [problem])


def _need_every_pair(sheet: Sheet, taken: ReadingTaken) -> None:
    """Raise BadInputError where something is called dead of which a pair was not tested."""
    missing = [pair for pair in sheet.pairs if taken.isolation is not None and pair not in taken.isolation.pairs]
    if taken.correct and missing:
        problem = Problem(field="isolation", reason=f"leaves untested: {', '.join(missing)}")
        raise BadInputError(f"Not proved dead: {', '.join(missing)} not tested.", [problem])


def _in_words(taken: ReadingTaken) -> str:
    """Return what was read, for the audit."""
    where = f" at {taken.point}" if taken.point else ""
    if taken.correct is not None:
        return f"{taken.quantity}{where}: {'right' if taken.correct else 'wrong'}"
    if taken.value is None:
        return f"{taken.quantity}{where}: {taken.untaken or 'cleared'}"
    return f"{taken.quantity}{where}: {'>' if taken.beyond else ''}{taken.value:g}"


def _touched(db: Session, person: Person, job_id: UUID, subject: str, what: str) -> None:
    store.touch_job(db, job_id, person.name, now())
    audit.note(db, person, Deed.READING, subject, what)
    db.flush()
