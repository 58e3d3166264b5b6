"""Jobs: the list, one job, its file and its schedule."""

from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Query, Request, Response
from fastapi.concurrency import run_in_threadpool

from lumbek.api.context import SignedInPerson, WithServices
from lumbek.api.download import download
from lumbek.core.choices import Choices, choices
from lumbek.core.documents.schedule import Schedule
from lumbek.core.model.job import JobHead, RulebookId
from lumbek.core.model.supply import Supply
from lumbek.core.rulebooks import load_rulebook
from lumbek.core.rulebooks.page import RulebookPage, rulebook_page
from lumbek.core.value import Frozen
from lumbek.exchange.job_file import read_job, write_job
from lumbek.exchange.schedule_csv import schedule_csv
from lumbek.exchange.schedule_pdf import schedule_pdf
from lumbek.exchange.typed_run import OFFERED_WORDS
from lumbek.services.views import JobLine, JobView

router = APIRouter(prefix="/api", tags=["jobs"])


class HeadChange(Frozen):
    """A job's head, and the version it was changed from."""

    version: int
    head: JobHead


class SupplyChange(Frozen):
    """A job's supply, and the version it was changed from."""

    version: int
    supply: Supply


Edition = Annotated[str, Query(max_length=60)]


@router.get("/rulebooks/{rulebook}/choices")
def rulebook_choices(rulebook: RulebookId, _: SignedInPerson, edition: Edition = "") -> Choices:
    """Say what a rulebook offers to choose from, in its newest edition if none is named."""
    return choices(load_rulebook(rulebook, edition), OFFERED_WORDS)


@router.get("/rulebooks/{rulebook}")
def open_rulebook(rulebook: RulebookId, _: SignedInPerson, edition: Edition = "") -> RulebookPage:
    """Lay a rulebook open: clauses, guidance, tables, and where the two differ."""
    return rulebook_page(load_rulebook(rulebook, edition))


@router.get("/jobs")
def list_jobs(
    services: WithServices, person: SignedInPerson, search: Annotated[str, Query(max_length=200)] = ""
) -> list[JobLine]:
    """List the firm's jobs, last changed first."""
    return services.jobs.list(person, search)


@router.post("/jobs", status_code=201)
def start_job(head: JobHead, services: WithServices, person: SignedInPerson) -> JobView:
    """Start a job."""
    return services.jobs.start(person, head)


@router.post("/jobs/file", status_code=201)
async def take_in_job(request: Request, services: WithServices, person: SignedInPerson) -> JobView:
    """Take in a job file: the body is the file."""
    raw = await request.body()
    return await run_in_threadpool(lambda: services.jobs.take_in(person, read_job(raw)))


@router.get("/jobs/{job_id}")
def open_job(job_id: UUID, services: WithServices, person: SignedInPerson) -> JobView:
    """Open a job."""
    return services.jobs.open(person, job_id)


@router.put("/jobs/{job_id}/head")
def change_head(job_id: UUID, change: HeadChange, services: WithServices, person: SignedInPerson) -> JobView:
    """Save name, client, address and rulebook."""
    return services.jobs.change_head(person, job_id, change.version, change.head)


@router.put("/jobs/{job_id}/supply")
def change_supply(job_id: UUID, change: SupplyChange, services: WithServices, person: SignedInPerson) -> JobView:
    """Save the supply."""
    return services.jobs.change_supply(person, job_id, change.version, change.supply)


@router.delete("/jobs/{job_id}", status_code=204)
def remove_job(job_id: UUID, services: WithServices, person: SignedInPerson) -> None:
    """Take a job off the list."""
    services.jobs.remove(person, job_id)


@router.get("/jobs/{job_id}/file")
def job_file(job_id: UUID, services: WithServices, person: SignedInPerson) -> Response:
    """Hand out the whole job as a job file."""
    job = services.jobs.whole(person, job_id)
    return download(write_job(job).encode(), "application/json", f"{job.name}.lumbek.json")


@router.get("/jobs/{job_id}/schedule")
def schedule(job_id: UUID, services: WithServices, person: SignedInPerson) -> Schedule:
    """Return the schedule of circuit details and test results."""
    return services.jobs.schedule(person, job_id)


@router.get("/jobs/{job_id}/schedule.csv")
def schedule_as_csv(job_id: UUID, services: WithServices, person: SignedInPerson) -> Response:
    """Hand out the schedule as CSV."""
    made = services.jobs.schedule(person, job_id)
    # The mark tells spreadsheets that the text is UTF-8.
    return download(("\ufeff" + schedule_csv(made)).encode(), "text/csv; charset=utf-8", f"{made.job} schedule.csv")


@router.get("/jobs/{job_id}/schedule.pdf")
def schedule_as_pdf(job_id: UUID, services: WithServices, person: SignedInPerson) -> Response:
    """Hand out the schedule as PDF."""
    made = services.jobs.schedule(person, job_id)
    return download(schedule_pdf(made), "application/pdf", f"{made.job} schedule.pdf")
