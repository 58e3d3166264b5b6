"""The ways of cable through a house: found on its plan, in the best order, and laid into its circuits."""

from collections.abc import Sequence
from functools import partial
from uuid import UUID, uuid4

from sqlalchemy.orm import Session

from lumbek.core.board.tree import seated
from lumbek.core.circuit.usual import usual_circuit, usual_point
from lumbek.core.model.board import Board
from lumbek.core.model.circuit import Circuit, CircuitKind
from lumbek.core.model.places import Places
from lumbek.core.model.plan import Mark
from lumbek.core.routes.answer import RoutedHouse, answer_routes, routes_of
from lumbek.core.routes.breaks import Broken, LegBreaks
from lumbek.core.routes.lay import as_laid, laid_through, point_kind, taken_through, with_points
from lumbek.core.routes.order import RunOrder, Shape
from lumbek.core.routes.orders import orders_of
from lumbek.core.routes.pipes_of import PipeLayout
from lumbek.core.rulebooks import rulebook_of
from lumbek.services import audit, heavy
from lumbek.services.circuits import CircuitService, KeptCircuit, add_numbered, need_circuit
from lumbek.services.deeds import Deed
from lumbek.services.documents import boards_of, design_of, head_of, places_of
from lumbek.services.errors import BadInputError
from lumbek.services.heavy import Piece
from lumbek.services.houses import key_of, keyed_designs
from lumbek.services.jobs import need_job
from lumbek.services.person import Person
from lumbek.services.places import KeptPlaces, need_places
from lumbek.services.views import CircuitView, RoutesView
from lumbek.services.worked_out import Results
from lumbek.services.writes import allowed, done_before, write
from lumbek.store import jobs as store
from lumbek.store.database import Database
from lumbek.store.models import JobRow


class RouteService:
    """Use cases on the ways of cable."""

    def __init__(self, database: Database, circuits: CircuitService, results: Results) -> None:
        self._database, self._circuits, self._results = database, circuits, results

    def open(self, person: Person, job_id: UUID) -> Piece[RoutesView]:
        """Return the way of every leg of a job's circuits, to be worked out."""
        with self._database.transaction() as db:
            job = need_job(db, person, job_id)
            row, boards = need_places(db, job.id), boards_of(job).boards
            designs, rulebook = keyed_designs(db, self._results, job), head_of(job).rulebook
            return Piece(partial(heavy.routes, row.version, places_of(row), boards, rulebook, designs))

    def orders(self, person: Person, job_id: UUID, marks: tuple[str, ...]) -> Piece[tuple[RunOrder, ...]]:
        """Return the best orders of a run through marks, as a ring and as radials, to be worked out."""
        with self._database.transaction() as db:
            job = need_job(db, person, job_id)
            places, head, boards = places_of(need_places(db, job.id)), head_of(job), self._boards(db, job)
        _need_marks(places, marks)
        return Piece(partial(heavy.run_orders, places, boards, head.rulebook, marks))

    def pipes(self, person: Person, job_id: UUID, marks: tuple[str, ...]) -> Piece[PipeLayout]:
        """Return the pipes of a slab from the first board to marks, to be worked out. Raises BadInputError."""
        with self._database.transaction() as db:
            job = need_job(db, person, job_id)
            places, head = places_of(need_places(db, job.id)), head_of(job)
            boards, designs = boards_of(job).boards, keyed_designs(db, self._results, job)
        there = {mark.id for mark in places.marks}
        for mark in marks:
            if mark not in there:
                raise BadInputError(f"{mark} is not there any more.")
        keys = [key for key, _ in designs]
        return Piece(partial(heavy.slab_pipes, places, seated(boards, keys), head.rulebook, designs, marks))

    def lay(
        self,
        person: Person,
        job_id: UUID,
        write_id: UUID,
        kind: CircuitKind,
        shape: Shape,
        marks: tuple[str, ...],
        busier_percent: int | None = None,
    ) -> CircuitView:
        """Start a circuit through marks, in the order that takes the least, each leg as its way runs; once.

        Of rings the one whose busier end takes so much of the load, where that is said.

        Raises BadInputError for marks that are of a circuit already, or that no way reaches.
        """
        with self._database.transaction() as db:
            job = need_job(db, person, job_id, lock=True)
            circuit_id = uuid4()
            before = done_before(db, person, write_id, circuit_id)
            if before is not None:
                return self._circuits.view_of(db, *need_circuit(db, person, before))
            head, kept = head_of(job), KeptPlaces(db, person, need_places(db, job.id, lock=True))
            places = kept.now()
            found = _need_marks(places, marks)
            routed = RoutedHouse(places, self._boards(db, job), head.rulebook)
            orders = [each for each in orders_of(routed, marks) if each.shape == shape]
            order = next((each for each in orders if busier_percent in (None, each.busier_percent)), None)
            if order is None:
                raise BadInputError("No way leads to all of these places from the board.")
            rulebook = rulebook_of(head)
            with allowed("The circuit cannot be laid so."):
                begun = usual_circuit(rulebook, kind, found=head.extent.state == "as-found")
                design, sits = laid_through(begun, order, found, partial(usual_point, rulebook))
            key = key_of(circuit_id)
            routed.sit(key, sits)
            legs = answer_routes(routed, [(key, design)]).legs
            row = add_numbered(db, person, job, as_laid(design, legs), circuit_id, is_new=True)
            self._put_points(kept, places, key, sits)
            audit.note(db, person, Deed.CIRCUIT_STARTED, row.id)
            db.flush()
            db.refresh(row)
            return self._circuits.view_of(db, row, job)

    def breaks(self, person: Person, circuit_id: UUID, marks: tuple[str, ...]) -> Piece[tuple[LegBreaks, ...]]:
        """Return which legs of a circuit to break for new places, to be worked out."""
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id)
            places, head = places_of(need_places(db, job.id)), head_of(job)
            boards, design = self._boards(db, job), design_of(row)
        _need_marks(places, marks)
        return Piece(partial(heavy.leg_breaks, places, boards, head.rulebook, key_of(row.id), design, marks))

    def extend(
        self, person: Person, circuit_id: UUID, write_id: UUID, version: int, broken: tuple[Broken, ...]
    ) -> CircuitView:
        """Break legs of a circuit and take them through new places, the new legs as their ways run.

        Raises BadInputError for marks that are of a circuit already, and for legs that are gone.
        """
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id, lock=True)
            head, kept = head_of(job), KeptPlaces(db, person, need_places(db, job.id, lock=True))
            places, key, rulebook = kept.now(), key_of(row.id), rulebook_of(head)
            boards = self._boards(db, job)
            sits: dict[str, str] = {}

            def extended(design: Circuit) -> Circuit:
                nonlocal sits
                found = _need_marks(places, [mark for each in broken for mark in each.marks])
                there = {leg.id for leg in design.legs}
                taken, sits = taken_through(design, broken, found, partial(usual_point, rulebook))
                routed = RoutedHouse(places, boards, head.rulebook)
                routed.sit(key, sits)
                legs = answer_routes(routed, [(key, taken)]).legs
                return as_laid(taken, [leg for leg in legs if leg.leg not in there])

            write(db, person, KeptCircuit(db, person, row, job), write_id, version, extended)
            if sits:
                self._put_points(kept, places, key, sits)
            return self._circuits.view_of(db, row, job)

    def _put_points(self, kept: KeptPlaces, places: Places, key: str, sits: dict[str, str]) -> None:
        """Put down which points sit at marks."""
        kept.put(places.model_copy(update={"marks": with_points(places.marks, key, sits)}), kept.version, None)

    def take(self, person: Person, circuit_id: UUID, write_id: UUID, version: int) -> CircuitView:
        """Give the legs of a circuit the lengths and surroundings of their ways; what was taped stays.

        Raises BadInputError where no leg has a way.
        """
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id, lock=True)
            places, designs = places_of(need_places(db, job.id)), keyed_designs(db, self._results, job)
            answer = routes_of(places, boards_of(job).boards, head_of(job).rulebook, designs)
            legs = [leg for leg in answer.legs if leg.circuit == key_of(row.id)]
            if not any(leg.segments for leg in legs):
                raise BadInputError("None of its legs has a way on the plan: say at which marks its points are.")
            kept = KeptCircuit(db, person, row, job)
            write(db, person, kept, write_id, version, lambda design: as_laid(design, legs))
            return self._circuits.view_of(db, row, job)

    def _boards(self, db: Session, job: JobRow) -> tuple[Board, ...]:
        """Return the boards of a job with every circuit in a way."""
        return seated(boards_of(job).boards, [key_of(each) for each, _ in store.circuit_versions(db, job.id)])


def _need_marks(places: Places, marks: Sequence[str]) -> list[Mark]:
    by_id = {mark.id: mark for mark in places.marks}
    found = [by_id[mark] for mark in marks if mark in by_id]
    if len(found) < len(marks) or len(set(marks)) < len(marks):
        raise BadInputError("One of these marks is not there any more, or is named twice.")
    for mark in found:
        if point_kind(mark) is None or mark.kind == "board":
            raise BadInputError(f"{mark.name or mark.id} is no point of a final circuit.")
        if mark.point is not None:
            raise BadInputError(f"{mark.name or mark.id} is a point of a circuit already.")
    return found
