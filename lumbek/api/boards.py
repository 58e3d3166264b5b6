"""The boards of a job: what its circuits share, proposals, and what is written at them."""

from typing import Annotated
from uuid import UUID

from fastapi import Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import Field

from lumbek.api.context import Designer, Reader, Services, WithServices
from lumbek.api.download import download, hands_out
from lumbek.api.part import part_of_api
from lumbek.api.writes import OnVersion
from lumbek.core.board.commands import BoardCommand
from lumbek.core.board.labels import BoardSheet
from lumbek.core.board.propose import BoardProposals, Order
from lumbek.exchange.labels_svg import chart_svg, label_strip_svg
from lumbek.services.person import Person
from lumbek.services.views import BoardsView

router = part_of_api("boards")


class BoardsChange(OnVersion):
    """Commands on a job's boards."""

    commands: Annotated[
        tuple[Annotated[BoardCommand, Field(discriminator="op")], ...], Field(min_length=1, max_length=100)
    ]


@router.get("/jobs/{job_id}/boards")
def open_boards(job_id: UUID, services: WithServices, person: Reader) -> BoardsView:
    """Open the boards of a job, with what its circuits share."""
    return services.boards.open(person, job_id)


@router.post("/jobs/{job_id}/boards/commands")
def change_boards(job_id: UUID, change: BoardsChange, services: WithServices, person: Designer) -> BoardsView:
    """Carry out commands on a job's boards and storeys; 409 with what stands now if someone else was first."""
    return services.boards.command(person, job_id, change.id, change.version, change.commands)


@router.post("/jobs/{job_id}/boards/undo")
def undo(job_id: UUID, write: OnVersion, services: WithServices, person: Designer) -> BoardsView:
    """Undo the last change of a job's boards."""
    return services.boards.step(person, job_id, write.id, write.version, back=True)


@router.post("/jobs/{job_id}/boards/redo")
def redo(job_id: UUID, write: OnVersion, services: WithServices, person: Designer) -> BoardsView:
    """Redo what was undone of a job's boards."""
    return services.boards.step(person, job_id, write.id, write.version, back=False)


@router.get("/jobs/{job_id}/boards/proposals")
async def board_proposals(
    job_id: UUID, request: Request, services: WithServices, person: Reader, order: Order = "heavy-first"
) -> BoardProposals:
    """Propose boards from scratch in either school, and the least changes that put those as found right."""
    piece = await run_in_threadpool(services.boards.propose, person, job_id, order)
    return await services.pool.do(request, piece)


@router.get("/jobs/{job_id}/labels")
def board_sheets(job_id: UUID, services: WithServices, person: Reader) -> list[BoardSheet]:
    """Return what is written at each board: labels, notices, a note for who lives there."""
    return list(services.boards.sheets(person, job_id)[1])


@router.get("/jobs/{job_id}/labels.svg", response_class=Response, responses=hands_out("image/svg+xml"))
def labels_as_svg(job_id: UUID, services: WithServices, person: Reader, board: int = 1) -> Response:
    """Hand out the label strip of one board as SVG, in true size."""
    name, sheet = _sheet(services, person, job_id, board)
    return download(label_strip_svg(sheet).encode(), "image/svg+xml", f"{name} {sheet.board} labels.svg")


@router.get("/jobs/{job_id}/chart.svg", response_class=Response, responses=hands_out("image/svg+xml"))
def chart_as_svg(job_id: UUID, services: WithServices, person: Reader, board: int = 1) -> Response:
    """Hand out the circuit chart of one board as SVG, in true size."""
    name, sheet = _sheet(services, person, job_id, board)
    return download(chart_svg(sheet).encode(), "image/svg+xml", f"{name} {sheet.board} chart.svg")


def _sheet(services: Services, person: Person, job_id: UUID, board: int) -> tuple[str, BoardSheet]:
    """Return the job's name and the sheet of one of its boards, the nearest there is."""
    name, sheets = services.boards.sheets(person, job_id)
    return name, sheets[min(max(board, 1), len(sheets)) - 1]
