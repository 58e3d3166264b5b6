"""The boards of a job: open, change by commands, propose, and what is written at them."""

from functools import partial
from uuid import UUID

from sqlalchemy.orm import Session

from lumbek.core.board.changes import carry_out_on_boards, numbers_after
from lumbek.core.board.commands import BoardCommand, NumberByWay, NumberCircuit
from lumbek.core.board.judge import judge_house
from lumbek.core.board.labels import BoardSheet, sheet_of_board
from lumbek.core.board.propose import BoardProposals, Order
from lumbek.core.model.board import Board, Boards
from lumbek.services import heavy
from lumbek.services.circuits import KeptCircuit
from lumbek.services.documents import head_of
from lumbek.services.heavy import Piece
from lumbek.services.houses import house_in, key_of
from lumbek.services.job_parts import KeptBoards
from lumbek.services.jobs import need_job
from lumbek.services.person import Person
from lumbek.services.views import BoardsView
from lumbek.services.worked_out import Results
from lumbek.services.writes import step, write
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
            kept = self._kept(db, person, job_id)
            row = need_job(db, person, job_id)

            def carried_out(before: Boards) -> Boards:
                boards = before.boards
                for command in commands:
                    boards = carry_out_on_boards(boards, kept.circuits, command)
                    if isinstance(command, NumberCircuit | NumberByWay):
                        self._number(db, person, row, boards, command)
                return Boards(boards=boards)

            write(db, person, kept, write_id, version, carried_out)
            return self._view(db, row)

    def step(self, person: Person, job_id: UUID, write_id: UUID, version: int, back: bool) -> BoardsView:
        """Undo the last change of a job's boards, or redo what was undone."""
        with self._database.transaction() as db:
            step(db, person, self._kept(db, person, job_id), write_id, version, back)
            return self._view(db, need_job(db, person, job_id))

    def _kept(self, db: Session, person: Person, job_id: UUID) -> KeptBoards:
        row = need_job(db, person, job_id, lock=True)
        circuits = tuple(key_of(circuit_id) for circuit_id, _ in store.circuit_versions(db, row.id))
        return KeptBoards(db, person, row, circuits)

    def _number(
        self, db: Session, person: Person, job: JobRow, boards: tuple[Board, ...], command: NumberCircuit | NumberByWay
    ) -> None:
        """Give circuits their numbers; each that changes is a new state of that circuit."""
        rows = {key_of(row.id): row for row in store.circuits_of(db, job.id, lock=True)}
        numbers = {key: int(row.design["number"]) for key, row in rows.items()}
        for key, number in numbers_after(boards, numbers, command).items():
            if number != numbers[key]:
                kept = KeptCircuit(db, person, rows[key], job)
                kept.put(kept.now().model_copy(update={"number": number}), rows[key].version, None)

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
        house, state = house_in(db, self._results, row), KeptBoards.state_of(db, row.id)
        return BoardsView(
            job_id=row.id,
            version=row.version,
            boards=house.boards,
            result=judge_house(house),
            changed_by=row.changed_by,
            changed_at=row.changed_at,
            can_undo=state is not None and state.can_undo,
            can_redo=state is not None and state.can_redo,
        )
