"""Circuits: open, save, edit, judge, and their readings."""

from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Query, Response
from pydantic import Field

from lumbek.api.context import SignedInPerson, WithServices
from lumbek.api.download import download
from lumbek.core.choosing.propose import Proposals
from lumbek.core.circuit.edit import Edit
from lumbek.core.judgement import CircuitResult
from lumbek.core.model.circuit import Circuit, CircuitKind
from lumbek.core.model.reading import Reading
from lumbek.core.model.text import Id
from lumbek.core.value import Frozen
from lumbek.exchange.calculation_pdf import calculation_pdf
from lumbek.exchange.typed_run import Typed, parse_run
from lumbek.services.views import CircuitView, LibraryLine, SheetView

router = APIRouter(prefix="/api", tags=["circuits"])

AmbientC = Annotated[float, Query(ge=-20, le=60)]


class DesignChange(Frozen):
    """A circuit's design, and the version it was changed from."""

    version: int
    design: Circuit


class EditChange(Frozen):
    """One edit of the run, and the version it was made on."""

    version: int
    edit: Edit


class TypedRun(Frozen):
    """A run as typed or pasted."""

    text: Annotated[str, Field(max_length=20_000)]


class RunChange(TypedRun):
    """A typed run, the version of the circuit it is laid on, and the leg it is taken through where there is one."""

    version: int
    through_leg: Id | None = None


@router.post("/jobs/{job_id}/circuits", status_code=201)
def start_circuit(job_id: UUID, design: Circuit, services: WithServices, person: SignedInPerson) -> CircuitView:
    """Add a circuit to a job."""
    return services.circuits.start(person, job_id, design)


@router.post("/jobs/{job_id}/kinds/{kind}", status_code=201)
def start_usual(job_id: UUID, kind: CircuitKind, services: WithServices, person: SignedInPerson) -> CircuitView:
    """Add a circuit of a kind to a job, with what such a circuit is usually given."""
    return services.circuits.start_usual(person, job_id, kind)


@router.get("/circuits/{circuit_id}")
def open_circuit(circuit_id: UUID, services: WithServices, person: SignedInPerson) -> CircuitView:
    """Open a circuit."""
    return services.circuits.open(person, circuit_id)


@router.put("/circuits/{circuit_id}")
def save_circuit(circuit_id: UUID, change: DesignChange, services: WithServices, person: SignedInPerson) -> CircuitView:
    """Save a design; 409 with what stands now if someone else has saved meanwhile."""
    return services.circuits.save(person, circuit_id, change.version, change.design)


@router.post("/circuits/{circuit_id}/edits")
def edit_circuit(circuit_id: UUID, change: EditChange, services: WithServices, person: SignedInPerson) -> CircuitView:
    """Apply one edit of the run."""
    return services.circuits.edit(person, circuit_id, change.version, change.edit)


@router.post("/circuits/{circuit_id}/evaluate")
def evaluate_circuit(
    circuit_id: UUID, design: Circuit, services: WithServices, person: SignedInPerson
) -> CircuitResult:
    """Judge a design in this circuit's job without keeping it."""
    return services.circuits.evaluate(person, circuit_id, design)


@router.get("/circuits/{circuit_id}/proposals")
def propose(circuit_id: UUID, services: WithServices, person: SignedInPerson) -> Proposals:
    """Propose repairs, sizes, protection and reach for a circuit, all computed."""
    return services.circuits.propose(person, circuit_id)


@router.post("/runs")
def read_run(run: TypedRun, _: SignedInPerson) -> Typed:
    """Say what is understood of a typed or pasted run; nothing is kept."""
    return parse_run(run.text)


@router.post("/circuits/{circuit_id}/run")
def lay_run(circuit_id: UUID, run: RunChange, services: WithServices, person: SignedInPerson) -> CircuitView:
    """Lay a typed or pasted run on from the circuit's last point, or break a leg and take it through the run."""
    return services.circuits.lay_run(person, circuit_id, run.version, run.text, run.through_leg)


@router.post("/circuits/{circuit_id}/copy", status_code=201)
def copy_circuit(circuit_id: UUID, services: WithServices, person: SignedInPerson) -> CircuitView:
    """Add a copy of a circuit to its job."""
    return services.circuits.copy(person, circuit_id)


@router.get("/circuits/{circuit_id}/calculation.pdf")
def calculation_sheet(circuit_id: UUID, services: WithServices, person: SignedInPerson) -> Response:
    """Hand out the calculation sheet as PDF."""
    sheet = services.circuits.sheet_document(person, circuit_id)
    return download(calculation_pdf(sheet), "application/pdf", f"{sheet.title} calculation.pdf")


@router.get("/library")
def list_library(services: WithServices, person: SignedInPerson) -> list[LibraryLine]:
    """List the firm's own usual circuits."""
    return services.circuits.library(person)


@router.post("/circuits/{circuit_id}/library", status_code=201)
def keep_in_library(circuit_id: UUID, services: WithServices, person: SignedInPerson) -> LibraryLine:
    """Keep a circuit among the firm's usual ones."""
    return services.circuits.keep_in_library(person, circuit_id)


@router.delete("/library/{library_id}", status_code=204)
def remove_from_library(library_id: UUID, services: WithServices, person: SignedInPerson) -> None:
    """Take a circuit off the firm's list."""
    services.circuits.remove_from_library(person, library_id)


@router.post("/jobs/{job_id}/library/{library_id}", status_code=201)
def start_from_library(job_id: UUID, library_id: UUID, services: WithServices, person: SignedInPerson) -> CircuitView:
    """Add one of the firm's usual circuits to a job."""
    return services.circuits.start_from_library(person, job_id, library_id)


@router.delete("/circuits/{circuit_id}", status_code=204)
def remove_circuit(circuit_id: UUID, services: WithServices, person: SignedInPerson) -> None:
    """Take a circuit out of its job."""
    services.circuits.remove(person, circuit_id)


@router.get("/circuits/{circuit_id}/tests")
def test_sheet(circuit_id: UUID, services: WithServices, person: SignedInPerson, ambient_c: AmbientC = 20) -> SheetView:
    """Return a circuit's test sheet."""
    return services.circuits.sheet(person, circuit_id, ambient_c)


@router.post("/circuits/{circuit_id}/readings", status_code=201)
def enter_reading(
    circuit_id: UUID, reading: Reading, services: WithServices, person: SignedInPerson, ambient_c: AmbientC = 20
) -> SheetView:
    """Enter a reading; the answer means that it is kept."""
    return services.circuits.enter_reading(person, circuit_id, reading, ambient_c)
