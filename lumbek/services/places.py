"""The storeys and rooms of a job: open, change by commands, and find or make the room that a person names."""

from collections import Counter
from collections.abc import Callable
from typing import Any
from uuid import UUID

from sqlalchemy.orm import Session

from lumbek.core.model.circuit import Circuit
from lumbek.core.model.places import Places, Room, Spot, name_by_id
from lumbek.core.places.changes import carry_out_on_places
from lumbek.core.places.commands import PlacesCommand
from lumbek.core.plan.answer import answer_plan
from lumbek.core.plan.commands import TickMark
from lumbek.core.rulebooks import rulebook_of
from lumbek.exchange.plan_csv import PlanFileError, read_plan, write_plan
from lumbek.exchange.set_out_svg import holes_in, set_out_svg
from lumbek.exchange.upgrade import CURRENT
from lumbek.services import audit
from lumbek.services.clock import now
from lumbek.services.deeds import Deed
from lumbek.services.difference import difference
from lumbek.services.documents import boards_of, head_of, places_of
from lumbek.services.errors import BadInputError, NotFoundError
from lumbek.services.houses import keyed_designs
from lumbek.services.jobs import need_job
from lumbek.services.person import Person
from lumbek.services.views import PlacesView, PlanPoint, PlanView, RoomLine
from lumbek.services.worked_out import Results
from lumbek.services.writes import KeptRow, State, step, write
from lumbek.store import jobs as store
from lumbek.store.database import Database
from lumbek.store.models import JobRow, PlacesRow


class KeptPlaces(KeptRow[PlacesRow]):
    """The storeys and rooms of a job, held for whoever writes them."""

    called = "list of rooms"

    def now(self) -> Places:
        """Return storeys and rooms."""
        return places_of(self._row)

    def shown(self) -> dict[str, Any]:
        """Return storeys and rooms as they are kept."""
        return {"places": self._row.document}

    @staticmethod
    def state_of(db: Session, row: PlacesRow, version: int | None = None) -> State | None:
        """Return the state that storeys and rooms are in, or were in at a version."""
        found = store.places_revision(db, row.id, row.version if version is None else version)
        return None if found is None else State(found.version, found.undo_to, found.redo_to)

    def state(self, version: int | None = None) -> State | None:
        """Return the state they are in, or were in at a version."""
        return self.state_of(self._db, self._row, version)

    def at(self, version: int) -> Places:
        """Return storeys and rooms as they were at a version."""
        revision = store.places_revision(self._db, self.id, version)
        assert revision is not None, "a state that was asked for before"
        return places_of(revision)

    def put(self, document: Places, undo_to: int | None, redo_to: int | None) -> None:
        """Put storeys and rooms down."""
        row, person = self._row, self._person
        before = self.now().model_dump(mode="json")
        row.document, row.format = document.model_dump(mode="json"), CURRENT
        self._stamp()
        store.keep_places_revision(self._db, row, person.user_id, undo_to, redo_to)
        store.touch_job(self._db, row.id, person.name, now())
        audit.note(self._db, person, Deed.PLACES_CHANGED, row.id, difference(before, row.document))
        self._db.flush()


def room_ids(db: Session, person: Person, job_id: UUID) -> Callable[[str], str]:
    """Return what gives the id of a room by its name; a room that is not there yet is made."""

    def room_id(name: str) -> str:
        kept = KeptPlaces(db, person, need_places(db, job_id, lock=True))
        before = kept.now()
        then, room = before.with_room(name)
        if then != before:
            kept.put(then, kept.version, None)
        return room.id

    return room_id


def moved_in(design: Circuit, places: Places, room_id: Callable[[str], str]) -> Circuit:
    """Return a design that comes from elsewhere with its points in rooms of this job, by what they are called there.

    A room that is not there yet is made by `room_id`.
    """
    known = {room.id for room in places.rooms}
    points = []
    for point in design.points:
        if point.at.room is not None and point.at.room not in known:
            spot = Spot(room=room_id(point.room or name_by_id(point.at.room)), words=point.at.words)
            points.append(point.model_copy(update={"at": spot}))
        else:
            points.append(point)
    return design.model_copy(update={"points": tuple(points)})


def need_places(db: Session, job_id: UUID, lock: bool = False) -> PlacesRow:
    """Return the row of a job's storeys and rooms."""
    row = store.places_of(db, job_id, lock)
    assert row is not None, "a job that was found has them"
    return row


class PlacesService:
    """Use cases on the storeys and rooms of one job."""

    def __init__(self, database: Database, results: Results) -> None:
        self._database, self._results = database, results

    def open(self, person: Person, job_id: UUID) -> PlacesView:
        """Return the storeys and rooms of a job, and how much is in each room."""
        with self._database.transaction() as db:
            return self._view(db, need_job(db, person, job_id))

    def command(
        self, person: Person, job_id: UUID, write_id: UUID, version: int, commands: tuple[PlacesCommand, ...]
    ) -> PlacesView:
        """Carry out commands on a job's storeys and rooms, all or none. Raises BadInputError for what cannot be."""
        with self._database.transaction() as db:
            return self._view(db, self._carry_out(db, person, job_id, write_id, version, commands))

    def plan(self, person: Person, job_id: UUID) -> PlanView:
        """Return the plan of a job."""
        with self._database.transaction() as db:
            return self._plan(db, need_job(db, person, job_id))

    def plan_command(
        self, person: Person, job_id: UUID, write_id: UUID, version: int, commands: tuple[PlacesCommand, ...]
    ) -> PlanView:
        """Carry out commands on a job's plan, all or none. Raises BadInputError for what cannot be."""
        with self._database.transaction() as db:
            return self._plan(db, self._carry_out(db, person, job_id, write_id, version, commands))

    def plan_file(self, person: Person, job_id: UUID) -> str:
        """Return the plan of a job as CSV."""
        with self._database.transaction() as db:
            return write_plan(places_of(need_places(db, need_job(db, person, job_id).id)))

    def set_out(self, person: Person, job_id: UUID, room_id: str, face_id: str) -> str:
        """Return a wall or a ceiling of a room as SVG. Raises NotFoundError where nothing is marked on it."""
        with self._database.transaction() as db:
            view = self._plan(db, need_job(db, person, job_id))
        room = next((each for each in view.answer.rooms if each.room == room_id), None)
        face = None if room is None else next((each for each in room.set_out if each.face == face_id), None)
        if room is None or face is None:
            raise NotFoundError("Nothing is marked there.")
        outline = next(each.outline for each in view.places.rooms if each.id == room_id)
        assert outline is not None, "a room that is answered for is measured"
        spans = {part.id: (part.left_mm, part.right_mm) for part in room.parts}
        holes = holes_in(outline, face_id, spans)
        called = "ceiling, from west and south" if face_id == "ceiling" else f"wall {face.called}, from its left end"
        return set_out_svg(f"{view.places.name_of(room_id)}: {called}", face, holes)

    def plan_taken_in(self, person: Person, job_id: UUID, write_id: UUID, version: int, text: str) -> PlanView:
        """Take the rooms of a CSV file in, all of it or none. Raises BadInputError with the line that is to blame."""
        with self._database.transaction() as db:
            job = need_job(db, person, job_id)
            try:
                commands = read_plan(text, places_of(need_places(db, job.id, lock=True)))
            except PlanFileError as error:
                raise BadInputError(str(error)) from error
            return self._plan(db, self._carry_out(db, person, job_id, write_id, version, commands))

    def tick(self, person: Person, job_id: UUID, write_id: UUID, tick: TickMark) -> PlanView:
        """Tick a mark on whatever stands, once: it may have waited on a device while somebody else changed the plan."""
        with self._database.transaction() as db:
            job = need_job(db, person, job_id)
            version = need_places(db, job.id, lock=True).version
            return self._plan(db, self._carry_out(db, person, job_id, write_id, version, (tick,)))

    def _carry_out(
        self,
        db: Session,
        person: Person,
        job_id: UUID,
        write_id: UUID,
        version: int,
        commands: tuple[PlacesCommand, ...],
    ) -> JobRow:
        job = need_job(db, person, job_id)

        def carried_out(places: Places) -> Places:
            used = self._used(db, job)
            for command in commands:
                places = carry_out_on_places(places, command, used)
            return places

        write(db, person, KeptPlaces(db, person, need_places(db, job.id, lock=True)), write_id, version, carried_out)
        return job

    def step(self, person: Person, job_id: UUID, write_id: UUID, version: int, back: bool) -> PlacesView:
        """Undo the last change of a job's storeys and rooms, or redo what was undone."""
        with self._database.transaction() as db:
            job = need_job(db, person, job_id)
            step(db, person, KeptPlaces(db, person, need_places(db, job.id, lock=True)), write_id, version, back)
            return self._view(db, job)

    def plan_step(self, person: Person, job_id: UUID, write_id: UUID, version: int, back: bool) -> PlanView:
        """Undo the last change of a job's plan, or redo what was undone."""
        self.step(person, job_id, write_id, version, back)
        return self.plan(person, job_id)

    def _plan(self, db: Session, job: JobRow) -> PlanView:
        row = need_places(db, job.id)
        places, state = places_of(row), KeptPlaces.state_of(db, row)
        designs = keyed_designs(db, self._results, job)
        points = tuple(
            PlanPoint(circuit=key, number=each.number, point=at.id, title=each.point_title(at.id), room=at.at.room)
            for key, each in designs
            for at in each.points
        )
        markings = {(key, at.id): at.ip for key, each in designs for at in each.points}
        return PlanView(
            job_id=job.id,
            version=row.version,
            places=places,
            answer=answer_plan(places, rulebook_of(head_of(job)), markings),
            points=points,
            changed_by=row.changed_by,
            changed_at=row.changed_at,
            can_undo=state is not None and state.can_undo,
            can_redo=state is not None and state.can_redo,
        )

    def _used(self, db: Session, job: JobRow) -> Counter[str]:
        """Return how many points and boards are in each room."""
        spots = [point.at for _, design in keyed_designs(db, self._results, job) for point in design.points]
        spots += [board.at for board in boards_of(job).boards]
        return Counter(spot.room for spot in spots if spot.room is not None)

    def _view(self, db: Session, job: JobRow) -> PlacesView:
        row, used = need_places(db, job.id), self._used(db, job)
        places, state = places_of(row), KeptPlaces.state_of(db, row)
        listed = {room.id for room in places.rooms}
        # A room that something names and nobody lists any more is called as its id says, until somebody names it.
        strays = (Room(id=room, name=name_by_id(room)) for room in sorted(used.keys() - listed))
        return PlacesView(
            job_id=job.id,
            version=row.version,
            storeys=places.storeys,
            rooms=tuple(
                RoomLine(id=room.id, name=room.name, storey=room.storey, holds=used[room.id])
                for room in (*places.rooms, *strays)
            ),
            changed_by=row.changed_by,
            changed_at=row.changed_at,
            can_undo=state is not None and state.can_undo,
            can_redo=state is not None and state.can_redo,
        )
