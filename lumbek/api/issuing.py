"""Documents that were issued: a deed of its own, and the file as it was kept."""

import asyncio
from functools import partial
from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import Field

from lumbek.api.context import ProvedSupervisor, Reader, WithServices
from lumbek.api.download import download, hands_out
from lumbek.api.writes import Write
from lumbek.exchange.standing_pdf import signed_paper
from lumbek.services.errors import BusyError, TakenNumberError
from lumbek.services.heavy import Piece
from lumbek.services.views import Issued

router = APIRouter(prefix="/api", tags=["issued"])


# Two papers of a firm at once: each is set again with the next number, so often.
_TRIES = 6


class ToIssue(Write):
    """The kind of document to issue; the paper that it corrects, where it does."""

    kind: Annotated[str, Field(max_length=40)] = "schedule"
    corrects: UUID | None = None


@router.get("/jobs/{job_id}/issued")
def issued(job_id: UUID, services: WithServices, person: Reader) -> tuple[Issued, ...]:
    """Return what was issued of a job."""
    return services.issuing.issued(person, job_id)


@router.post("/jobs/{job_id}/issued", status_code=201)
async def issue(
    job_id: UUID, write: ToIssue, request: Request, services: WithServices, person: ProvedSupervisor
) -> tuple[Issued, ...]:
    """Issue a document as it stands; 422 with the reasons where it is not in order, 409 if it changes meanwhile."""
    issuing = services.issuing
    # One paper of a firm after the other in this process: numbers have no gap. Another process may still be quicker.
    async with _turn_of(request, person.firm_id):
        for tried in range(_TRIES):
            made = await run_in_threadpool(issuing.gather, person, job_id, write.id, write.kind, write.corrects)
            if made is None:
                return await run_in_threadpool(issuing.issued, person, job_id)
            piece = Piece(partial(signed_paper, made.paper, made.issue, made.inside, made.at, made.key))
            data = await services.pool.do(request, piece)
            try:
                return await run_in_threadpool(issuing.keep, person, job_id, write.id, made, data)
            except TakenNumberError:
                if tried == _TRIES - 1:
                    raise BusyError("So many papers are being issued just now. Try again in a moment.") from None
    raise AssertionError("every try returns or raises")


def _turn_of(request: Request, firm_id: UUID) -> asyncio.Lock:
    turns: dict[UUID, asyncio.Lock] = request.app.state.turns
    return turns.setdefault(firm_id, asyncio.Lock())


@router.get("/issued/{issued_id}/file", response_class=Response, responses=hands_out("application/pdf"))
def issued_file(issued_id: UUID, services: WithServices, person: Reader) -> Response:
    """Hand out an issued document, byte for byte as it was kept."""
    data, name = services.issuing.file(person, issued_id)
    return download(data, "application/pdf", name)
