"""The boards of a job: open, change by commands, propose, and what is written at them."""

from functools import partial
from uuid import UUID

from pydantic import ValidationError
from sqlalchemy.orm import Session

from lumbek.core.board.commands import BoardCommand, NumberByWay, NumberCircuit, carry_out_on_boards, numbers_after
from lumbek.core.board.judge import judge_house
from lumbek.core.board.labels import BoardSheet, sheet_of_board
from lumbek.core.board.propose import BoardProposals, Order
from lumbek.core.circuit.edit import EditRefusedError
from lumbek.core.model.board import Board, Boards
from lumbek.exchange.problems import problems_of
from lumbek.services import heavy
from lumbek.services.clock import now
from lumbek.services.documents import boards_of, design_of, head_of, supply_of, write_design
from lumbek.services.errors import BadInputError
from lumbek.services.heavy import Piece
from lumbek.services.houses import house_in, key_of
from lumbek.services.jobs import hold_job, keep_job, need_job
from lumbek.services.person import Person
from lumbek.services.results import Results
from lumbek.services.views import BoardsView
from lumbek.store import jobs as store
from lumbek.store.database import Database
from lumbek.store.models import JobRow


class BoardService:
    """Use cases on the boards of one job."""

    def __init__(self, database: Database, results: Results) -> None:
        self._database, self._results = database, results

    def open(self, person: Person, job_id: UUID) -> BoardsView:
        """Return the boards of a job, and everything there is to say of what its circuits share."""
        with self._database.transaction() as db:
            return self._view(db, need_job(db, person, job_id))

    def command(
        self, person: Person, job_id: UUID, write_id: UUID, version: int, commands: tuple[BoardCommand, ...]
    ) -> BoardsView:
        """Carry out commands on a job's boards, all or none. Raises BadInputError for what cannot be."""
        with self._database.transaction() as db:
            row, done = hold_job(db, person, job_id, write_id, version)
            if done:
                return self._view(db, row)
            kept = boards_of(row)
            circuits = tuple(key_of(circuit_id) for circuit_id, _ in store.circuit_versions(db, row.id))
            boards, storeys = kept.boards, kept.storeys
            try:
                for command in commands:
                    boards, storeys = carry_out_on_boards(boards, storeys, circuits, command)
                    if isinstance(command, NumberCircuit | NumberByWay):
                        self._number(db, person, row, boards, command)
                changed = Boards(boards=boards, storeys=storeys)
            except EditRefusedError as error:
                raise BadInputError(str(error)) from error
            except ValidationError as error:
                raise BadInputError("That cannot be.", problems_of(error)) from error
            keep_job(db, person, row, head_of(row), supply_of(row), changed)
            return self._view(db, row)

    def _number(
        self, db: Session, person: Person, job: JobRow, boards: tuple[Board, ...], command: NumberCircuit | NumberByWay
    ) -> None:
        """Give circuits their numbers; each that changes is a new state of that circuit."""
        rows = {key_of(row.id): row for row in store.circuits_of(db, job.id, lock=True)}
        numbers = {key: int(row.design["number"]) for key, row in rows.items()}
        for key, number in numbers_after(boards, numbers, command).items():
            row = rows[key]
            if number != numbers[key]:
                write_design(row, design_of(row).model_copy(update={"number": number}))
                undo_to, row.version = row.version, row.version + 1
                row.changed_by, row.changed_at = person.name, now()
                store.keep_circuit_revision(db, row, person.user_id, undo_to)
        db.flush()

    def propose(self, person: Person, job_id: UUID, order: Order) -> Piece[BoardProposals]:
        """Return what the boards of a job could be, all of it to be worked out."""
        with self._database.transaction() as db:
            house = house_in(db, self._results, need_job(db, person, job_id))
        return Piece(partial(heavy.board_proposals, house, order))

    def sheets(self, person: Person, job_id: UUID) -> tuple[str, tuple[BoardSheet, ...]]:
        """Return the job's name and what is written at each of its boards."""
        with self._database.transaction() as db:
            row = need_job(db, person, job_id)
            house = house_in(db, self._results, row)
            return head_of(row).name, tuple(sheet_of_board(house, board) for board in house.boards)

    def _view(self, db: Session, row: JobRow) -> BoardsView:
        house = house_in(db, self._results, row)
        return BoardsView(
            job_id=row.id,
            version=row.version,
            boards=house.boards,
            storeys=house.storeys,
            rooms=tuple(sorted({room for member in house.members.values() for room in member.rooms if room})),
            result=judge_house(house),
            changed_by=row.changed_by,
            changed_at=row.changed_at,
        )
