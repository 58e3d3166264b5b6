"""What a job takes, and its quote."""

from uuid import UUID

from fastapi import APIRouter, Request
from fastapi.concurrency import run_in_threadpool

from lumbek.api.context import Designer, Reader, WithServices
from lumbek.api.writes import Write
from lumbek.core.items.terms import QuoteTerms
from lumbek.services.views import QuoteView

router = APIRouter(prefix="/api", tags=["quotes"])


@router.get("/jobs/{job_id}/quote")
async def quote(job_id: UUID, request: Request, services: WithServices, person: Reader) -> QuoteView:
    """Return what a job takes, and its quote by the firm's prices."""
    piece = await run_in_threadpool(services.quotes.open, person, job_id)
    return await services.pool.do(request, piece)


class QuotePut(Write):
    """The terms of a quote, all of them as they are from now on."""

    terms: QuoteTerms


@router.post("/jobs/{job_id}/quote", status_code=201)
async def put_quote(
    job_id: UUID, put: QuotePut, request: Request, services: WithServices, person: Designer
) -> QuoteView:
    """Put down the terms of a job's quote instead of those that counted."""
    piece = await run_in_threadpool(services.quotes.put, person, job_id, put.id, put.terms)
    return await services.pool.do(request, piece)
