"""Lighting control of a circuit: the bench, plans, what puts it right, the make-off sheet, records."""

from typing import Annotated
from uuid import UUID

from fastapi import Query, Request, Response
from fastapi.concurrency import run_in_threadpool

from lumbek.api.context import Designer, Reader, WithServices, Worker
from lumbek.api.download import download, hands_out
from lumbek.api.part import part_of_api
from lumbek.api.writes import OnVersion, Write
from lumbek.core.model.scheme import Scheme
from lumbek.core.model.text import Note
from lumbek.core.switching.make_off import MakeOff
from lumbek.core.switching.moves import Mended
from lumbek.core.switching.plan import SwitchingPlan
from lumbek.core.value import Frozen
from lumbek.exchange.make_off_svg import make_off_svg
from lumbek.services.errors import BadInputError
from lumbek.services.views import CircuitView, SwitchingLine, SwitchingView, WiringRecordView

router = part_of_api("switching")


class TakeRecord(Write):
    """A record to be kept of how a circuit is connected now."""

    note: Note = ""


class Mending(Frozen):
    """What puts a circuit right; nothing where nothing is wrong, or nothing can."""

    mended: Mended | None


@router.get("/jobs/{job_id}/switching")
def list_switching(job_id: UUID, services: WithServices, person: Reader) -> list[SwitchingLine]:
    """List the circuits of a job that have anything to switch."""
    return services.switching.lines(person, job_id)


@router.get("/circuits/{circuit_id}/switching")
def open_switching(circuit_id: UUID, services: WithServices, person: Reader) -> SwitchingView:
    """Open the boxes of a circuit, with the proof over all states."""
    return services.switching.open(person, circuit_id)


@router.post("/circuits/{circuit_id}/switching/plan")
async def plan_switching(
    circuit_id: UUID, scheme: Scheme, request: Request, services: WithServices, person: Reader
) -> SwitchingPlan:
    """Plan a scheme: the least cable, cores and joints; nothing is kept."""
    piece = await run_in_threadpool(services.switching.plan, person, circuit_id, scheme)
    return await services.pool.do(request, piece)


@router.get("/circuits/{circuit_id}/switching/mending")
async def mend_switching(
    circuit_id: UUID, request: Request, services: WithServices, person: Reader, at_once: bool = False
) -> Mending:
    """Return the least re-connections that put a circuit right; `at_once` what is found in a moment, for a start."""
    piece = await run_in_threadpool(services.switching.mend, person, circuit_id, at_once)
    return Mending(mended=await services.pool.do(request, piece))


@router.get("/circuits/{circuit_id}/make-off")
def make_off_sheet(circuit_id: UUID, services: WithServices, person: Reader) -> MakeOff:
    """Return what goes into which terminal, box by box."""
    return services.switching.make_off(person, circuit_id)


@router.get("/circuits/{circuit_id}/make-off.svg", response_class=Response, responses=hands_out("image/svg+xml"))
def make_off_as_svg(
    circuit_id: UUID, services: WithServices, person: Reader, box: Annotated[int, Query(ge=1)] = 1
) -> Response:
    """Hand out one box of the make-off sheet as SVG, in true size."""
    sheet = services.switching.make_off(person, circuit_id)
    if not sheet.boxes:
        raise BadInputError("Nothing in this circuit is made off yet.")
    face = sheet.boxes[min(box, len(sheet.boxes)) - 1]
    return download(make_off_svg(sheet, face).encode(), "image/svg+xml", f"{sheet.title} {face.title} make-off.svg")


@router.get("/circuits/{circuit_id}/records")
def list_records(circuit_id: UUID, services: WithServices, person: Reader) -> list[WiringRecordView]:
    """List the records of how a circuit was connected."""
    return services.switching.records(person, circuit_id)


@router.post("/circuits/{circuit_id}/records", status_code=201)
def keep_record(circuit_id: UUID, taken: TakeRecord, services: WithServices, person: Worker) -> WiringRecordView:
    """Keep a record of how a circuit is connected now."""
    return services.switching.keep(person, circuit_id, taken.id, taken.note)


@router.post("/records/{record_id}/put-back")
def put_back(record_id: UUID, write: OnVersion, services: WithServices, person: Designer) -> CircuitView:
    """Connect a circuit again as it was recorded."""
    return services.switching.put_back(person, record_id, write.id, write.version)
