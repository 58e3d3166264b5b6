"""The work of a job on site: its steps, days, hold points, and how far it has come."""

from uuid import UUID

from fastapi import Request
from fastapi.concurrency import run_in_threadpool

from lumbek.api.context import Reader, WithServices
from lumbek.api.part import part_of_api
from lumbek.services.views import WorkView

router = part_of_api("work")


@router.get("/jobs/{job_id}/work")
async def work(job_id: UUID, request: Request, services: WithServices, person: Reader) -> WorkView:
    """Return the work of a job as it stands; what is said of it is said on its inspection."""
    piece = await run_in_threadpool(services.working.open, person, job_id)
    return await services.pool.do(request, piece)
