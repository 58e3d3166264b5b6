"""Tests: the sheets of circuits and of the installation, readings, visits, what a file of readings holds."""

from typing import Annotated
from uuid import UUID

from fastapi import Query
from pydantic import Field

from lumbek.api.context import Reader, Tester, WithServices
from lumbek.api.part import part_of_api
from lumbek.api.writes import Write
from lumbek.core.model.found import FoundMade
from lumbek.core.model.reading import ReadingTaken
from lumbek.core.model.visit import VisitMade
from lumbek.core.testing.lengths import FoundLengths
from lumbek.core.value import Frozen
from lumbek.exchange.readings_csv import ReadFile
from lumbek.services.views import InstallationView, SheetView

router = part_of_api("tests")

AmbientC = Annotated[float, Query(ge=-20, le=60)]


class EnterReading(Write):
    """A reading as it was taken; who and when is known."""

    reading: ReadingTaken


class EnterReadings(Write):
    """Several readings of one circuit, from a file or a tester: all are kept, or none."""

    readings: Annotated[tuple[ReadingTaken, ...], Field(min_length=1, max_length=1000)]


class BeginVisit(Write):
    """A visit, with what is asked once."""

    visit: VisitMade


class KeepFound(Write):
    """What was found: a board traced, cables belled out, why an RCD tripped, a fault."""

    found: FoundMade


class ReadingsFile(Frozen):
    """The text of a file of readings."""

    text: Annotated[str, Field(max_length=500_000)]


@router.get("/circuits/{circuit_id}/tests")
def test_sheet(circuit_id: UUID, services: WithServices, person: Reader, ambient_c: AmbientC = 20) -> SheetView:
    """Return a circuit's test sheet."""
    return services.testing.sheet(person, circuit_id, ambient_c)


@router.post("/circuits/{circuit_id}/readings", status_code=201)
def enter_reading(
    circuit_id: UUID, entered: EnterReading, services: WithServices, person: Tester, ambient_c: AmbientC = 20
) -> SheetView:
    """Enter a reading; the answer means that it is kept."""
    return services.testing.enter(person, circuit_id, entered.id, (entered.reading,), ambient_c)


@router.post("/circuits/{circuit_id}/readings/several", status_code=201)
def enter_readings(
    circuit_id: UUID, entered: EnterReadings, services: WithServices, person: Tester, ambient_c: AmbientC = 20
) -> SheetView:
    """Enter several readings at once; the answer means that all are kept."""
    return services.testing.enter(person, circuit_id, entered.id, entered.readings, ambient_c)


@router.post("/circuits/{circuit_id}/readings/file")
def read_readings_file(circuit_id: UUID, file: ReadingsFile, services: WithServices, person: Reader) -> ReadFile:
    """Say what is understood of a file of readings; nothing is kept."""
    return services.testing.read_file(person, circuit_id, file.text)


@router.get("/circuits/{circuit_id}/lengths")
def lengths(circuit_id: UUID, services: WithServices, person: Reader, ambient_c: AmbientC = 20) -> FoundLengths:
    """Return what the readings say of the circuit's lengths, and the commands that put them into the design."""
    return services.testing.lengths(person, circuit_id, ambient_c)


@router.get("/jobs/{job_id}/tests")
def installation_tests(job_id: UUID, services: WithServices, person: Reader) -> InstallationView:
    """Return the test sheet of the whole installation, and the visits."""
    return services.testing.installation(person, job_id)


@router.post("/jobs/{job_id}/readings", status_code=201)
def enter_reading_of_installation(
    job_id: UUID, entered: EnterReading, services: WithServices, person: Tester
) -> InstallationView:
    """Enter a reading of the whole installation."""
    return services.testing.enter_whole(person, job_id, entered.id, entered.reading)


@router.post("/jobs/{job_id}/visits", status_code=201)
def begin_visit(job_id: UUID, begun: BeginVisit, services: WithServices, person: Tester) -> InstallationView:
    """Keep a visit; its id is that of this write."""
    return services.testing.begin_visit(person, job_id, begun.id, begun.visit)


@router.post("/jobs/{job_id}/found", status_code=201)
def keep_found(job_id: UUID, kept: KeepFound, services: WithServices, person: Tester) -> InstallationView:
    """Keep a record of what was found; its id is that of this write."""
    return services.testing.keep_found(person, job_id, kept.id, kept.found)
