"""The ways of cable through a house."""

from typing import Annotated
from uuid import UUID

from fastapi import Request
from fastapi.concurrency import run_in_threadpool
from pydantic import Field

from lumbek.api.context import Designer, Reader, WithServices
from lumbek.api.part import part_of_api
from lumbek.api.writes import OnVersion, Write
from lumbek.core.model.circuit import CircuitKind
from lumbek.core.model.text import Id
from lumbek.core.routes.breaks import Broken, LegBreaks
from lumbek.core.routes.order import RunOrder, Shape
from lumbek.core.routes.pipes_of import MOST_PIPES, PipeLayout
from lumbek.core.value import Frozen
from lumbek.services.views import CircuitView, RoutesView

router = part_of_api("routes")

Marks = Annotated[tuple[Id, ...], Field(min_length=1, max_length=100)]


@router.get("/jobs/{job_id}/routes")
async def routes(job_id: UUID, request: Request, services: WithServices, person: Reader) -> RoutesView:
    """Return the way of every leg of a job's circuits as it would be laid."""
    piece = await run_in_threadpool(services.routes.open, person, job_id)
    return await services.pool.do(request, piece)


class RunThrough(Frozen):
    """The marks that a run goes through."""

    marks: Marks


@router.post("/jobs/{job_id}/routes/orders")
async def orders(
    job_id: UUID, run: RunThrough, request: Request, services: WithServices, person: Reader
) -> tuple[RunOrder, ...]:
    """Return the best orders of a run through marks, as a ring, a radial, and two radials."""
    piece = await run_in_threadpool(services.routes.orders, person, job_id, run.marks)
    return await services.pool.do(request, piece)


class PipesTo(Frozen):
    """The marks that get a pipe each."""

    marks: Annotated[tuple[Id, ...], Field(min_length=1, max_length=MOST_PIPES)]


@router.post("/jobs/{job_id}/routes/pipes")
async def pipes(job_id: UUID, to: PipesTo, request: Request, services: WithServices, person: Reader) -> PipeLayout:
    """Return pipes in the slab from the first board to marks, laid so that least of them cross."""
    piece = await run_in_threadpool(services.routes.pipes, person, job_id, to.marks)
    return await services.pool.do(request, piece)


class LaidThrough(Write):
    """A circuit to be laid through marks."""

    kind: CircuitKind
    shape: Shape
    marks: Marks
    # Of several rings the one whose busier end takes so much; the least where nothing is said.
    busier_percent: Annotated[int, Field(ge=50, le=100)] | None = None


@router.post("/jobs/{job_id}/routes/laid", status_code=201)
def lay(job_id: UUID, laid: LaidThrough, services: WithServices, person: Designer) -> CircuitView:
    """Start a circuit through marks, in the order that takes the least, each leg as its way runs."""
    return services.routes.lay(person, job_id, laid.id, laid.kind, laid.shape, laid.marks, laid.busier_percent)


@router.post("/circuits/{circuit_id}/as-laid")
def take(circuit_id: UUID, taken: OnVersion, services: WithServices, person: Designer) -> CircuitView:
    """Give a circuit's legs the lengths and surroundings of their ways; 409 with what stands if another was first."""
    return services.routes.take(person, circuit_id, taken.id, taken.version)


@router.post("/circuits/{circuit_id}/breaks")
async def breaks(
    circuit_id: UUID, run: RunThrough, request: Request, services: WithServices, person: Reader
) -> tuple[LegBreaks, ...]:
    """Return which legs of a circuit to break for new places, the least cost first."""
    piece = await run_in_threadpool(services.routes.breaks, person, circuit_id, run.marks)
    return await services.pool.do(request, piece)


class Extended(OnVersion):
    """Legs to be broken, and what they are taken through."""

    broken: Annotated[tuple[Broken, ...], Field(min_length=1, max_length=60)]


@router.post("/circuits/{circuit_id}/extended")
def extend(circuit_id: UUID, extended: Extended, services: WithServices, person: Designer) -> CircuitView:
    """Break legs of a circuit and take them through new places; 409 with what stands if another was first."""
    return services.routes.extend(person, circuit_id, extended.id, extended.version, extended.broken)
