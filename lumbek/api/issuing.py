"""Documents that were issued: a deed of its own, and the file as it was kept."""

import asyncio
from functools import partial
from typing import Annotated
from uuid import UUID

from fastapi import Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import Field

from lumbek.api.context import ProvedSupervisor, Reader, Supervisor, WithServices, address_of
from lumbek.api.download import download, hands_out
from lumbek.api.part import part_of_api
from lumbek.api.writes import Write
from lumbek.exchange.standing_pdf import signed_paper
from lumbek.services.errors import BusyError, TakenNumberError
from lumbek.services.handing import HandedOver
from lumbek.services.heavy import Piece
from lumbek.services.views import Issued, NotifyingView

router = part_of_api("issued")


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
            piece = Piece(partial(signed_paper, made.paper, made.issue, made.inside, made.at, made.key, made.photos))
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


class HandOver(Write):
    """Who a paper is handed over to."""

    email: Annotated[str, Field(min_length=3, max_length=200)]


@router.post("/issued/{issued_id}/hand-over", status_code=201)
def hand_over(issued_id: UUID, to: HandOver, services: WithServices, person: Supervisor) -> HandedOver:
    """Send a link to an issued paper; the answer has it too, for whoever hands it on."""
    return services.handing.hand_over(person, issued_id, to.id, to.email)


@router.get("/handed/{token}", response_class=Response, responses=hands_out("application/pdf"))
def handed(token: str, request: Request, services: WithServices) -> Response:
    """Hand out the paper that a link leads to, to whoever has it, until it ends."""
    services.verifying.count(address_of(request))
    data, name = services.handing.open(token, address_of(request))
    return download(data, "application/pdf", name)


@router.get("/jobs/{job_id}/notifications")
def notifications(job_id: UUID, services: WithServices, person: Reader) -> NotifyingView:
    """Return what was handed in to the office of a job, and what is missing for it."""
    return services.notifying.view(person, job_id)


@router.post("/jobs/{job_id}/notifications", status_code=201)
def notify(job_id: UUID, write: Write, services: WithServices, person: Supervisor) -> NotifyingView:
    """Hand the work of a job in; it is kept, and handed in again until the office has answered."""
    return services.notifying.hand_in(person, job_id, write.id)
