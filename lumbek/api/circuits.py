"""Circuits: open, change by commands, undo, judge, and their readings."""

from typing import Annotated, Self
from uuid import UUID

from fastapi import Request
from fastapi.concurrency import run_in_threadpool
from pydantic import Field, model_validator

from lumbek.api.context import Designer, Reader, WithServices
from lumbek.api.part import part_of_api
from lumbek.api.writes import OnVersion, Write
from lumbek.core.choosing.propose import Proposals
from lumbek.core.circuit.commands import Command
from lumbek.core.model.circuit import Circuit, CircuitKind
from lumbek.core.model.text import Id
from lumbek.core.value import Frozen
from lumbek.exchange.typed_run import Typed, parse_run
from lumbek.services.circuits import NewCircuit
from lumbek.services.views import CircuitView, LibraryLine, Preview

router = part_of_api("circuits")

Commands = Annotated[tuple[Command, ...], Field(min_length=1, max_length=50)]


class StartCircuit(Write):
    """A circuit to start: of a kind, by a design, as a copy of another, or from the firm's library; one of these."""

    kind: CircuitKind | None = None
    design: Circuit | None = None
    copy_of: UUID | None = None
    library: UUID | None = None

    @model_validator(mode="after")
    def _from_one_thing(self) -> Self:
        if sum(each is not None for each in (self.kind, self.design, self.copy_of, self.library)) != 1:
            raise ValueError("kind: give one of kind, design, copy_of and library")
        return self


class CircuitChange(OnVersion):
    """Commands on a circuit, carried out all or none."""

    commands: Commands


class TryOut(Frozen):
    """Commands to try out on a circuit as it stands; nothing is kept."""

    commands: Commands


class TypedRun(Frozen):
    """A run as typed or pasted."""

    text: Annotated[str, Field(max_length=20_000)]


class RunChange(OnVersion, TypedRun):
    """A typed run to lay, and the leg it is taken through where there is one."""

    through_leg: Id | None = None


@router.post("/jobs/{job_id}/circuits", status_code=201)
def start_circuit(job_id: UUID, new: StartCircuit, services: WithServices, person: Designer) -> CircuitView:
    """Add a circuit to a job, under a number that is free."""
    begun_from = NewCircuit(kind=new.kind, design=new.design, copy_of=new.copy_of, library=new.library)
    return services.circuits.start(person, job_id, new.id, begun_from)


@router.get("/circuits/{circuit_id}")
def open_circuit(circuit_id: UUID, services: WithServices, person: Reader) -> CircuitView:
    """Open a circuit."""
    return services.circuits.open(person, circuit_id)


@router.post("/circuits/{circuit_id}/commands")
def change_circuit(circuit_id: UUID, change: CircuitChange, services: WithServices, person: Designer) -> CircuitView:
    """Carry out commands; 409 with what stands now if someone else has changed the circuit meanwhile."""
    return services.circuits.command(person, circuit_id, change.id, change.version, change.commands)


@router.post("/circuits/{circuit_id}/preview")
async def preview(circuit_id: UUID, tried: TryOut, request: Request, services: WithServices, person: Reader) -> Preview:
    """Show the circuit as it would be after commands, judged; nothing is kept."""
    piece = await run_in_threadpool(services.circuits.preview, person, circuit_id, tried.commands)
    return await services.pool.do(request, piece)


@router.post("/circuits/{circuit_id}/undo")
def undo(circuit_id: UUID, write: OnVersion, services: WithServices, person: Designer) -> CircuitView:
    """Go back to the state before the last change."""
    return services.circuits.step(person, circuit_id, write.id, write.version, back=True)


@router.post("/circuits/{circuit_id}/redo")
def redo(circuit_id: UUID, write: OnVersion, services: WithServices, person: Designer) -> CircuitView:
    """Go forward again to what was undone."""
    return services.circuits.step(person, circuit_id, write.id, write.version, back=False)


@router.get("/circuits/{circuit_id}/proposals")
async def propose(circuit_id: UUID, request: Request, services: WithServices, person: Reader) -> Proposals:
    """Propose repairs, sizes, protection and reach for a circuit, all computed."""
    piece = await run_in_threadpool(services.circuits.propose, person, circuit_id)
    return await services.pool.do(request, piece)


@router.post("/runs")
def read_run(run: TypedRun, _: Reader) -> Typed:
    """Say what is understood of a typed or pasted run; nothing is kept."""
    return parse_run(run.text)


@router.post("/circuits/{circuit_id}/run")
def lay_run(circuit_id: UUID, run: RunChange, services: WithServices, person: Designer) -> CircuitView:
    """Lay a typed or pasted run on from the circuit's last point, or break a leg and take it through the run."""
    return services.circuits.lay_run(person, circuit_id, run.id, run.version, run.text, run.through_leg)


@router.get("/library")
def list_library(services: WithServices, person: Reader) -> list[LibraryLine]:
    """List the firm's own usual circuits."""
    return services.library.list(person)


@router.post("/circuits/{circuit_id}/library", status_code=201)
def keep_in_library(circuit_id: UUID, write: Write, services: WithServices, person: Designer) -> LibraryLine:
    """Keep a circuit among the firm's usual ones."""
    return services.library.keep(person, write.id, circuit_id)


@router.delete("/library/{library_id}", status_code=204)
def remove_from_library(library_id: UUID, services: WithServices, person: Designer) -> None:
    """Take a circuit off the firm's list."""
    services.library.remove(person, library_id)


@router.delete("/circuits/{circuit_id}", status_code=204)
def remove_circuit(circuit_id: UUID, services: WithServices, person: Designer) -> None:
    """Take a circuit out of its job."""
    services.circuits.remove(person, circuit_id)
