"""Finding faults: suspects of a circuit, what makes an RCD trip, which of many belongs to which."""

from typing import Annotated, Literal
from uuid import UUID

from fastapi import Request
from fastapi.concurrency import run_in_threadpool
from pydantic import Field

from lumbek.api.context import Reader, WithServices
from lumbek.api.part import part_of_api
from lumbek.api.testing import AmbientC
from lumbek.core.diagnosis.answer import Diagnosis
from lumbek.core.diagnosis.codes import CodePlan, CodeWords, Found, Seen, plan_codes, read_codes
from lumbek.core.diagnosis.hook_up import HookUp
from lumbek.core.diagnosis.patient import CannotDiagnoseError
from lumbek.core.diagnosis.rcd_trips import TripAnswer, Trips, When
from lumbek.core.model.text import GivenName
from lumbek.core.value import Frozen
from lumbek.services.errors import BadInputError

router = part_of_api("diagnosis")


class TripSearch(Frozen):
    """When an RCD trips, which circuits hang on it (all where none is named), and what was found so far."""

    when: When = "at-once"
    # How often in the mean, where it trips now and then.
    every_h: Annotated[float, Field(gt=0, le=10_000)] | None = None
    circuits: Annotated[tuple[int, ...], Field(max_length=60)] = ()
    answers: Annotated[tuple[TripAnswer, ...], Field(max_length=60)] = ()


What = Literal["cables", "singles", "breakers"]
_WORDS: dict[What, CodeWords] = {
    "cables": CodeWords(
        never="open in every round: broken, or it ends elsewhere",
        always="closed in every round: shorted on the way",
        elsewhere="joined to one that is not here",
        twice="two read alike: they touch, or one was misread",
    ),
    "singles": CodeWords(
        never="open in every round: broken, it ends elsewhere, or the return is not the one",
        always="closed in every round: it touches the return on the way",
        elsewhere="joined to one that is not here",
        twice="two read alike: they touch, or one was misread",
    ),
    "breakers": CodeWords(
        never="never dead: fed from elsewhere",
        always="dead throughout: broken, or not switched on",
        elsewhere="fed by a breaker that is not here, or one round was misread",
    ),
}


class CodeSearch(Frozen):
    """What is to be told apart: far ends of cables or single cores, breakers of a board; and what was seen so far."""

    what: What = "cables"
    names: Annotated[tuple[GivenName, ...], Field(min_length=1, max_length=200)]
    seen: Annotated[tuple[Seen, ...], Field(max_length=400)] = ()


class CodeAnswer(Frozen):
    """The rounds, and what belongs to which as far as it was seen."""

    plan: CodePlan
    found: tuple[Found, ...]


@router.get("/circuits/{circuit_id}/diagnosis")
async def diagnose(
    circuit_id: UUID, request: Request, services: WithServices, person: Reader, ambient_c: AmbientC = 20
) -> Diagnosis:
    """Return who is under suspicion after the readings in force, and the next measurement that tells most."""
    piece = await run_in_threadpool(services.testing.diagnosis, person, circuit_id, ambient_c)
    try:
        return await services.pool.do(request, piece)
    except CannotDiagnoseError as error:
        raise BadInputError(str(error)) from error


@router.get("/circuits/{circuit_id}/hook-up")
def hook_up(circuit_id: UUID, services: WithServices, person: Reader) -> HookUp:
    """Return a circuit and how each of its readings is taken, for a tester to follow."""
    return services.testing.hook_up(person, circuit_id)


@router.post("/jobs/{job_id}/rcd-trips")
def rcd_trips(job_id: UUID, search: TripSearch, services: WithServices, person: Reader) -> Trips:
    """Return what makes an RCD trip, as far as the answers say, and what to try next; nothing is kept."""
    return services.testing.trips(person, job_id, search.when, search.circuits, search.answers, search.every_h)


@router.post("/codes")
def codes(search: CodeSearch, _: Reader) -> CodeAnswer:
    """Return in which rounds to join cables or switch breakers off, and what was found; nothing is kept."""
    plan = plan_codes(search.names)
    return CodeAnswer(plan=plan, found=read_codes(plan, search.seen, _WORDS[search.what]))
