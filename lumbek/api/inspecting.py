"""Inspections: what stands and what is offered, and saying more. Who signs has given the password not long ago."""

from uuid import UUID

from fastapi import Response

from lumbek.api.context import Designer, Reader, WithServices, Worker
from lumbek.api.download import download, hands_out
from lumbek.api.part import part_of_api
from lumbek.api.writes import Write
from lumbek.core.inspection.kinds import FindingKind, finding_kinds
from lumbek.core.model.inspection import FindingSaid, InspectionMade
from lumbek.services.views import DueLine, InspectionView, JobView

router = part_of_api("inspections")


class SayOnInspection(Write):
    """What somebody says on an inspection."""

    made: InspectionMade


@router.get("/inspection/kinds")
def list_finding_kinds(_: Reader) -> list[FindingKind]:
    """List the sorts of thing that are found, with what their codes turn on."""
    return list(finding_kinds().values())


@router.get("/jobs/{job_id}/inspection")
def inspection(job_id: UUID, services: WithServices, person: Reader) -> InspectionView:
    """Return an inspection as it stands."""
    return services.inspecting.view(person, job_id)


@router.get("/jobs/{job_id}/dangers")
def dangers(job_id: UUID, services: WithServices, person: Reader) -> list[FindingSaid]:
    """List the dangers of a job that nobody has dealt with, as every page of it says."""
    return list(services.inspecting.dangers(person, job_id))


@router.post("/jobs/{job_id}/inspection", status_code=201)
def say_on_inspection(job_id: UUID, said: SayOnInspection, services: WithServices, person: Worker) -> InspectionView:
    """Keep what was said; the answer means that it is kept."""
    return services.inspecting.add(person, job_id, said.id, said.made)


@router.get("/due")
def due(services: WithServices, person: Reader) -> list[DueLine]:
    """List the jobs whose next inspection somebody has said, the soonest first."""
    return list(services.due.list(person))


@router.get("/jobs/{job_id}/due.ics", response_class=Response, responses=hands_out("text/calendar"))
def due_calendar(job_id: UUID, services: WithServices, person: Reader) -> Response:
    """Hand out what falls due of a job, as a calendar."""
    return download(services.due.calendar(person, job_id), "text/calendar", "due.ics")


@router.post("/jobs/{job_id}/next-inspection", status_code=201)
def next_inspection(job_id: UUID, write: Write, services: WithServices, person: Designer) -> JobView:
    """Start the next inspection from the last: what is there, as found, and its readings as those of last time."""
    return services.due.next_inspection(person, job_id, write.id)
