"""Documents that were issued: a deed of its own, and the file as it was kept."""

from functools import partial
from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import Field

from lumbek.api.context import Reader, Supervisor, WithServices
from lumbek.api.download import download, hands_out
from lumbek.api.writes import Write
from lumbek.exchange.paper_pdf import paper_pdf
from lumbek.services.heavy import Piece
from lumbek.services.views import Issued

router = APIRouter(prefix="/api", tags=["issued"])


class ToIssue(Write):
    """The kind of document to issue."""

    kind: Annotated[str, Field(max_length=40)] = "schedule"


@router.get("/jobs/{job_id}/issued")
def issued(job_id: UUID, services: WithServices, person: Reader) -> tuple[Issued, ...]:
    """Return what was issued of a job."""
    return services.issuing.issued(person, job_id)


@router.post("/jobs/{job_id}/issued", status_code=201)
async def issue(
    job_id: UUID, write: ToIssue, request: Request, services: WithServices, person: Supervisor
) -> tuple[Issued, ...]:
    """Issue a document as it stands; 422 with the reasons where it is not in order, 409 if it changes meanwhile."""
    issuing = services.issuing
    made = await run_in_threadpool(issuing.gather, person, job_id, write.id, write.kind)
    if made is None:
        return await run_in_threadpool(issuing.issued, person, job_id)
    data = await services.pool.do(request, Piece(partial(paper_pdf, made.paper, made.issue)))
    return await run_in_threadpool(issuing.keep, person, job_id, write.id, made, data)


@router.get("/issued/{issued_id}/file", response_class=Response, responses=hands_out("application/pdf"))
def issued_file(issued_id: UUID, services: WithServices, person: Reader) -> Response:
    """Hand out an issued document, byte for byte as it was kept."""
    data, name = services.issuing.file(person, issued_id)
    return download(data, "application/pdf", name)
