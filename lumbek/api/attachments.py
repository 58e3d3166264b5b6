"""Photos and papers attached to a job: the body of a request is the file itself."""

from functools import partial
from typing import Annotated
from uuid import UUID

from fastapi import Query, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import AfterValidator, AwareDatetime

from lumbek.api.context import Reader, WithServices, Worker
from lumbek.api.download import hands_out, takes
from lumbek.api.part import part_of_api
from lumbek.core.model.text import printable
from lumbek.services.attachments import Shown, Shows
from lumbek.services.clock import now
from lumbek.services.views import AttachmentLine

router = part_of_api("attachments")

Words = Annotated[str, Query(max_length=400), AfterValidator(printable)]


@router.get("/jobs/{job_id}/attachments")
def list_attachments(job_id: UUID, services: WithServices, person: Reader) -> list[AttachmentLine]:
    """List the photos and papers of a job, each with what it shows; those of removed circuits are hidden."""
    return list(services.attachments.list(person, job_id))


@router.post("/jobs/{job_id}/attachments", status_code=201, openapi_extra=takes("application/octet-stream"))
async def attach(
    job_id: UUID,
    id: UUID,
    request: Request,
    services: WithServices,
    person: Worker,
    shows: Shows = "job",
    of: Words = "",
    circuit_id: UUID | None = None,
    note: Words = "",
    taken_at: AwareDatetime | None = None,
) -> list[AttachmentLine]:
    """Keep a photo (JPEG, PNG) or a paper (PDF) with what it shows."""
    data, when = await request.body(), taken_at or now()
    shown = Shown(shows, of, circuit_id)
    add = partial(services.attachments.add, person, job_id, id, shown, data, note, when)
    return list(await run_in_threadpool(add))


@router.get(
    "/attachments/{attachment_id}",
    response_class=Response,
    responses=hands_out("image/jpeg", "image/png", "application/pdf"),
)
def show_attachment(attachment_id: UUID, services: WithServices, person: Reader) -> Response:
    """Hand out a photo or a paper."""
    kind, data = services.attachments.file(person, attachment_id)
    return Response(data, media_type=kind)
