"""The practice house: exercises, what was set, and how the others get on."""

from uuid import UUID

from fastapi import Request
from fastapi.concurrency import run_in_threadpool

from lumbek.api.context import Reader, Supervisor, WithServices
from lumbek.api.part import part_of_api
from lumbek.api.writes import Write
from lumbek.practice.exercise import Act
from lumbek.services.practising import ExerciseAsked, LearnerLine, PracticeHome, RunView, SetDocument, as_it_stands

router = part_of_api("practice", "/api/practice")


@router.get("")
def home(services: WithServices, person: Reader) -> PracticeHome:
    """Return what comes next in each kind, what was set, and one's own record."""
    return services.practising.home(person)


class RunStart(Write):
    """An exercise to begin; one that was set, on a circuit of one's own, or like another, where that is said."""

    asked: ExerciseAsked
    set_id: UUID | None = None
    circuit_id: UUID | None = None
    like: UUID | None = None


@router.post("/runs", status_code=201)
async def start(begun: RunStart, request: Request, services: WithServices, person: Reader) -> RunView:
    """Begin an exercise."""
    about = (begun.asked, begun.set_id, begun.circuit_id, begun.like)
    run_id = await run_in_threadpool(services.practising.start, person, begun.id, *about)
    return await _opened(run_id, request, services, person)


@router.get("/runs/{run_id}")
async def open_run(run_id: UUID, request: Request, services: WithServices, person: Reader) -> RunView:
    """Return an exercise of one's own as it stands."""
    return await _opened(run_id, request, services, person)


async def _opened(run_id: UUID, request: Request, services: WithServices, person: Reader) -> RunView:
    piece = await run_in_threadpool(services.practising.open, person, run_id)
    carried = await services.pool.do(request, piece)
    return as_it_stands(run_id, carried)


class ActDone(Write):
    """Something that is done in an exercise."""

    act: Act


@router.post("/runs/{run_id}/acts", status_code=201)
async def act(run_id: UUID, done: ActDone, request: Request, services: WithServices, person: Reader) -> RunView:
    """Carry an exercise on by an act."""
    piece, place = await run_in_threadpool(services.practising.try_act, person, run_id, done.id, done.act)
    carried = await services.pool.do(request, piece)
    return await run_in_threadpool(services.practising.keep, person, run_id, done.id, done.act, place, carried)


class SetMade(Write):
    """An exercise to be set to everybody; on a circuit of a job with a fault put in, where that is said."""

    exercise: SetDocument
    circuit_id: UUID | None = None


@router.post("/sets", status_code=201)
def put_set(made: SetMade, services: WithServices, person: Supervisor) -> PracticeHome:
    """Set an exercise to everybody of the firm."""
    return services.practising.put_set(person, made.id, made.exercise, made.circuit_id)


@router.get("/learners")
def learners(services: WithServices, person: Supervisor) -> list[LearnerLine]:
    """Return how the people of the firm get on."""
    return list(services.practising.learners(person))
