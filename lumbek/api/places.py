"""The storeys and rooms of a job."""

from typing import Annotated
from uuid import UUID

from fastapi import APIRouter
from pydantic import Field

from lumbek.api.context import Designer, Reader, WithServices
from lumbek.api.writes import OnVersion
from lumbek.core.places.commands import PlacesCommand
from lumbek.services.views import PlacesView, PlanView

router = APIRouter(prefix="/api", tags=["places"])


class PlacesChange(OnVersion):
    """Commands on a job's storeys and rooms."""

    commands: Annotated[tuple[PlacesCommand, ...], Field(min_length=1, max_length=100)]


@router.get("/jobs/{job_id}/places")
def open_places(job_id: UUID, services: WithServices, person: Reader) -> PlacesView:
    """Open the storeys and rooms of a job."""
    return services.places.open(person, job_id)


@router.post("/jobs/{job_id}/places/commands")
def change_places(job_id: UUID, change: PlacesChange, services: WithServices, person: Designer) -> PlacesView:
    """Carry out commands on a job's storeys and rooms; 409 with what stands now if someone else was first."""
    return services.places.command(person, job_id, change.id, change.version, change.commands)


@router.post("/jobs/{job_id}/places/undo")
def undo(job_id: UUID, write: OnVersion, services: WithServices, person: Designer) -> PlacesView:
    """Undo the last change of a job's storeys and rooms."""
    return services.places.step(person, job_id, write.id, write.version, back=True)


@router.post("/jobs/{job_id}/places/redo")
def redo(job_id: UUID, write: OnVersion, services: WithServices, person: Designer) -> PlacesView:
    """Redo what was undone of a job's storeys and rooms."""
    return services.places.step(person, job_id, write.id, write.version, back=False)


@router.get("/jobs/{job_id}/plan")
def open_plan(job_id: UUID, services: WithServices, person: Reader) -> PlanView:
    """Open the plan of a job: its rooms and marks, and all there is to say of them."""
    return services.places.plan(person, job_id)


@router.post("/jobs/{job_id}/plan/commands")
def change_plan(job_id: UUID, change: PlacesChange, services: WithServices, person: Designer) -> PlanView:
    """Carry out commands on a job's plan; 409 with what stands now if someone else was first."""
    return services.places.plan_command(person, job_id, change.id, change.version, change.commands)


@router.post("/jobs/{job_id}/plan/undo")
def undo_plan(job_id: UUID, write: OnVersion, services: WithServices, person: Designer) -> PlanView:
    """Undo the last change of a job's plan."""
    return services.places.plan_step(person, job_id, write.id, write.version, back=True)


@router.post("/jobs/{job_id}/plan/redo")
def redo_plan(job_id: UUID, write: OnVersion, services: WithServices, person: Designer) -> PlanView:
    """Redo what was undone of a job's plan."""
    return services.places.plan_step(person, job_id, write.id, write.version, back=False)
