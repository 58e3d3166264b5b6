"""A whole job: what the job file holds."""

from collections.abc import Iterable
from typing import Annotated, Literal

from pydantic import AfterValidator, Field, StringConstraints

from lumbek.core.model.board import Boards
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.extent import Extent
from lumbek.core.model.found import FoundKept
from lumbek.core.model.inspection import InspectionKept
from lumbek.core.model.places import Places
from lumbek.core.model.reading import Reading
from lumbek.core.model.supply import Supply
from lumbek.core.model.text import GivenName, Id, Name, Note, printable
from lumbek.core.model.visit import Visit
from lumbek.core.value import Frozen

RulebookId = Literal["bs7671", "iec60364"]
School = Literal["rcbo-each", "shared-rcds"]
Edition = Annotated[str, StringConstraints(max_length=60), AfterValidator(printable)]


class JobCircuit(Frozen):
    """A circuit's design and every reading ever taken of it, oldest first; `former` where its point is gone since."""

    # What the boards know it by; where nothing is said, its number says it.
    id: Id | None = None
    design: Circuit
    readings: Annotated[tuple[Reading, ...], Field(max_length=20_000)] = ()
    former_readings: Annotated[tuple[Reading, ...], Field(max_length=20_000)] = ()

    @property
    def key(self) -> str:
        """What the boards know it by."""
        return self.id or f"C{self.design.number}"

    @classmethod
    def of(cls, design: Circuit, readings: Iterable[Reading], key: str | None = None) -> "JobCircuit":
        """Return a circuit with its readings, those parted whose points are no longer drawn."""
        drawn = {None, *(point.id for point in design.points)}
        every = tuple(readings)
        return cls(
            id=key,
            design=design,
            readings=tuple(reading for reading in every if reading.point in drawn),
            former_readings=tuple(reading for reading in every if reading.point not in drawn),
        )


class JobHead(Frozen):
    """What a job is called and which rulebook and edition it follows."""

    name: GivenName = "New job"
    client: Name = ""
    address: Note = ""
    rulebook: RulebookId = "bs7671"
    # The edition that a job is judged by, for good; empty for the newest there is.
    edition: Edition = ""
    protection_school: School = "rcbo-each"
    # What is done, and what of it is covered.
    extent: Extent = Extent()


class Job(Boards, Places, JobHead):
    """One installation, whole: the job file. With no boards said every circuit is in a way of its own of one."""

    @property
    def places(self) -> Places:
        """Its storeys, rooms and marks."""
        return Places(**{name: getattr(self, name) for name in Places.model_fields})

    format: Literal["lumbek-job"] = "lumbek-job"
    version: Literal[5] = 5
    supply: Supply = Supply()
    circuits: Annotated[tuple[JobCircuit, ...], Field(max_length=5000)] = ()
    # What was read of the installation as a whole, oldest first, and the visits on which anything was read.
    readings: Annotated[tuple[Reading, ...], Field(max_length=20_000)] = ()
    visits: Annotated[tuple[Visit, ...], Field(max_length=2000)] = ()
    # What was found: boards traced, cables belled out, faults.
    found: Annotated[tuple[FoundKept, ...], Field(max_length=2000)] = ()
    # What an inspection said: findings, items looked at, tasks, signatures, oldest first.
    inspection: Annotated[tuple[InspectionKept, ...], Field(max_length=20_000)] = ()
