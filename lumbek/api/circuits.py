"""Circuits: open, save, edit, judge, and their readings."""

from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Query

from lumbek.api.context import SignedInPerson, WithServices
from lumbek.core.circuit.edit import Edit
from lumbek.core.evaluate import CircuitResult
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.reading import Reading
from lumbek.core.result import Frozen
from lumbek.services.views import CircuitView, SheetView

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


@router.post("/jobs/{job_id}/circuits", status_code=201)
def start_circuit(job_id: UUID, design: Circuit, services: WithServices, person: SignedInPerson) -> CircuitView:
    """Add a circuit to a job."""
    return services.circuits.start(person, job_id, design)


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
