"""Jobs: the list, one job, its file."""

from functools import partial
from typing import Annotated
from uuid import UUID

from fastapi import Query, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import AfterValidator, Field

from lumbek.api.context import Designer, Reader, WithServices
from lumbek.api.download import download, hands_out, takes
from lumbek.api.part import part_of_api
from lumbek.api.writes import OnVersion, Write
from lumbek.core.choices import Choices, choices
from lumbek.core.model.job import Edition, JobHead, RulebookId
from lumbek.core.model.text import printable
from lumbek.core.rulebooks import load_rulebook
from lumbek.core.rulebooks.page import RulebookPage, rulebook_page
from lumbek.core.survey.commands import JobCommand
from lumbek.core.survey.quick import Quick
from lumbek.exchange.job_file import read_job, write_job
from lumbek.exchange.typed_run import OFFERED_WORDS
from lumbek.services.deeds import Deed
from lumbek.services.heavy import Piece
from lumbek.services.views import JobLine, JobView

# A file of so many bytes is read in no time.
_SMALL = 200_000

router = part_of_api("jobs")


class NewJob(Write):
    """A job to start."""

    head: JobHead = JobHead()


class QuickStart(Write):
    """A small job to start."""

    quick: Quick


class JobChange(OnVersion):
    """Commands on a job."""

    commands: Annotated[tuple[JobCommand, ...], Field(min_length=1, max_length=50)]


EditionAsked = Annotated[Edition, Query()]
Search = Annotated[str, Query(max_length=200), AfterValidator(printable)]


@router.get("/rulebooks/{rulebook}/choices")
def rulebook_choices(rulebook: RulebookId, _: Reader, edition: EditionAsked = "") -> Choices:
    """Say what a rulebook offers to choose from, in its newest edition if none is named."""
    return choices(load_rulebook(rulebook, edition), OFFERED_WORDS)


@router.get("/rulebooks/{rulebook}")
def open_rulebook(rulebook: RulebookId, _: Reader, edition: EditionAsked = "") -> RulebookPage:
    """Lay a rulebook open: clauses, guidance, tables, and where the two differ."""
    return rulebook_page(load_rulebook(rulebook, edition))


@router.get("/jobs")
def list_jobs(services: WithServices, person: Reader, search: Search = "") -> list[JobLine]:
    """List the firm's jobs, last changed first."""
    return services.jobs.list(person, search)


@router.post("/jobs", status_code=201)
def start_job(new: NewJob, services: WithServices, person: Designer) -> JobView:
    """Start a job."""
    return services.jobs.start(person, new.id, new.head)


@router.post("/jobs/quick", status_code=201)
def start_quick_job(new: QuickStart, services: WithServices, person: Designer) -> JobView:
    """Start a small job in one go: a light replaced, a socket added, a breaker changed."""
    return services.jobs.quick(person, new.id, new.quick)


@router.post("/jobs/file", status_code=201, openapi_extra=takes("application/json"))
async def take_in_job(request: Request, services: WithServices, person: Designer, id: UUID) -> JobView:
    """Take in a job file: the body is the file, `id` one that its sender made."""
    raw = await request.body()
    # A large file takes a second to read: elsewhere, so that nobody else waits for it.
    job = await services.pool.do(request, Piece(partial(read_job, raw), known=len(raw) < _SMALL))
    return await run_in_threadpool(services.jobs.take_in, person, id, job)


@router.get("/jobs/{job_id}")
def open_job(job_id: UUID, services: WithServices, person: Reader) -> JobView:
    """Open a job."""
    return services.jobs.open(person, job_id)


@router.post("/jobs/{job_id}/commands")
def change_job(job_id: UUID, change: JobChange, services: WithServices, person: Designer) -> JobView:
    """Carry out commands on a job's head and supply; 409 with what stands now if someone else was first."""
    return services.jobs.command(person, job_id, change.id, change.version, change.commands)


@router.post("/jobs/{job_id}/undo")
def undo(job_id: UUID, write: OnVersion, services: WithServices, person: Designer) -> JobView:
    """Undo the last change of a job's head and supply; its boards stay."""
    return services.jobs.step(person, job_id, write.id, write.version, back=True)


@router.post("/jobs/{job_id}/redo")
def redo(job_id: UUID, write: OnVersion, services: WithServices, person: Designer) -> JobView:
    """Redo what was undone of a job's head and supply."""
    return services.jobs.step(person, job_id, write.id, write.version, back=False)


@router.delete("/jobs/{job_id}", status_code=204)
def remove_job(job_id: UUID, services: WithServices, person: Designer) -> None:
    """Take a job off the list."""
    services.jobs.remove(person, job_id)


@router.get("/jobs/{job_id}/file", response_class=Response, responses=hands_out("application/json"))
def job_file(job_id: UUID, services: WithServices, person: Reader) -> Response:
    """Hand out the whole job as a job file."""
    job = services.jobs.whole(person, job_id)
    services.audit.note(person, Deed.EXPORTED, job_id, "job file")
    return download(write_job(job).encode(), "application/json", f"{job.name}.lumbek.json")
