"""The storeys and rooms of a job."""

from typing import Annotated
from uuid import UUID

from fastapi import Response
from pydantic import Field

from lumbek.api.context import Designer, Reader, WithServices, Worker
from lumbek.api.download import download, download_csv, hands_out
from lumbek.api.part import part_of_api
from lumbek.api.writes import OnVersion, Write
from lumbek.core.places.commands import PlacesCommand
from lumbek.core.plan.commands import TickMark
from lumbek.services.views import PlacesView, PlanView

router = part_of_api("places")


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


@router.get("/jobs/{job_id}/plan.csv", response_class=Response, responses=hands_out("text/csv"))
def plan_file(job_id: UUID, services: WithServices, person: Reader) -> Response:
    """Hand out the plan of a job as a table."""
    return download_csv(services.places.plan_file(person, job_id), "plan.csv")


@router.get("/jobs/{job_id}/plan/{room}/{face}.svg", response_class=Response, responses=hands_out("image/svg+xml"))
def set_out(job_id: UUID, room: str, face: str, services: WithServices, person: Reader) -> Response:
    """Hand out one wall or the ceiling of a room as it is set out."""
    drawn = services.places.set_out(person, job_id, room, face)
    return download(drawn.encode(), "image/svg+xml", f"{room}-{face}.svg")


class PlanFile(OnVersion):
    """A table of a plan, or of lines as they are read off a tape."""

    text: Annotated[str, Field(max_length=3_000_000)]


@router.post("/jobs/{job_id}/plan/csv")
def take_plan_in(job_id: UUID, file: PlanFile, services: WithServices, person: Designer) -> PlanView:
    """Take the rooms of a table in: those of the same ids are replaced, others stay; all of it or none."""
    return services.places.plan_taken_in(person, job_id, file.id, file.version, file.text)


class Ticked(Write):
    """A mark that was made on site, or could not be."""

    tick: TickMark


@router.post("/jobs/{job_id}/plan/ticks")
def tick(job_id: UUID, ticked: Ticked, services: WithServices, person: Worker) -> PlanView:
    """Tick a mark, on whatever stands now."""
    return services.places.tick(person, job_id, ticked.id, ticked.tick)


@router.post("/jobs/{job_id}/plan/undo")
def undo_plan(job_id: UUID, write: OnVersion, services: WithServices, person: Designer) -> PlanView:
    """Undo the last change of a job's plan."""
    return services.places.plan_step(person, job_id, write.id, write.version, back=True)


@router.post("/jobs/{job_id}/plan/redo")
def redo_plan(job_id: UUID, write: OnVersion, services: WithServices, person: Designer) -> PlanView:
    """Redo what was undone of a job's plan."""
    return services.places.plan_step(person, job_id, write.id, write.version, back=False)
