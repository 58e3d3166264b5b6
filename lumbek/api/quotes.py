"""What a job takes, and its quote."""

from typing import Annotated
from uuid import UUID

from fastapi import Request
from fastapi.concurrency import run_in_threadpool
from pydantic import Field

from lumbek.api.context import Designer, Reader, Supervisor, WithServices, address_of
from lumbek.api.part import part_of_api
from lumbek.api.writes import Write
from lumbek.core.items.compared import DesignCompared
from lumbek.core.items.terms import QuoteTerms
from lumbek.services.offering import CustomerSays, EmailTo, OfferLine, OfferMade, OfferSeen
from lumbek.services.views import QuoteView

router = part_of_api("quotes")


@router.get("/jobs/{job_id}/quote")
async def quote(job_id: UUID, request: Request, services: WithServices, person: Reader) -> QuoteView:
    """Return what a job takes, and its quote by the firm's prices."""
    piece = await run_in_threadpool(services.quotes.open, person, job_id)
    return await services.pool.do(request, piece)


class QuotePut(Write):
    """The terms of a quote, all of them as they are from now on, instead of those of the version that was seen."""

    version: Annotated[int, Field(ge=0)]
    terms: QuoteTerms


@router.post("/jobs/{job_id}/quote", status_code=201)
async def put_quote(
    job_id: UUID, put: QuotePut, request: Request, services: WithServices, person: Designer
) -> QuoteView:
    """Put down the terms of a job's quote instead of those that counted."""
    piece = await run_in_threadpool(services.quotes.put, person, job_id, put.id, put.terms, put.version)
    return await services.pool.do(request, piece)


@router.get("/circuits/{circuit_id}/compared")
async def compared(
    circuit_id: UUID, request: Request, services: WithServices, person: Reader
) -> tuple[DesignCompared, ...]:
    """Return other ways of designing a circuit beside how it is drawn: margins, metres, hours and money of each."""
    piece = await run_in_threadpool(services.quotes.compare, person, circuit_id)
    return await services.pool.do(request, piece)


class OfferTo(Write):
    """Who a quote is offered to."""

    email: EmailTo


@router.get("/jobs/{job_id}/offers")
def offers(job_id: UUID, services: WithServices, person: Reader) -> list[OfferLine]:
    """List the offers of a job, the latest first, with what was said to them."""
    return list(services.offering.list(person, job_id))


@router.post("/jobs/{job_id}/offers", status_code=201)
async def offer(job_id: UUID, to: OfferTo, request: Request, services: WithServices, person: Supervisor) -> OfferMade:
    """Offer the quote as it is by a link that ends; the answer has it too, for whoever hands it on."""
    piece = await run_in_threadpool(services.quotes.open, person, job_id)
    view = await services.pool.do(request, piece)
    return await run_in_threadpool(services.offering.make, person, job_id, to.id, to.email, view)


@router.get("/offers/{token}")
def see_offer(token: str, request: Request, services: WithServices) -> OfferSeen:
    """Return the offer that a link leads to, to whoever has it, until it ends."""
    services.verifying.count(address_of(request))
    return services.offering.see(token)


@router.post("/offers/{token}/answer", status_code=201)
def answer_offer(token: str, said: CustomerSays, request: Request, services: WithServices) -> OfferSeen:
    """Keep what the customer says to an offer, once."""
    services.verifying.count(address_of(request))
    return services.offering.answer(token, said, address_of(request))
