"""A whole job: what the job file holds."""

from collections.abc import Iterable
from typing import Annotated, Literal

from pydantic import AfterValidator, Field, StringConstraints

from lumbek.core.model.circuit import Circuit
from lumbek.core.model.reading import Reading
from lumbek.core.model.supply import Supply
from lumbek.core.model.text import GivenName, Name, Note, printable
from lumbek.core.value import Frozen

RulebookId = Literal["bs7671", "iec60364"]
School = Literal["rcbo-each", "shared-rcds"]
Edition = Annotated[str, StringConstraints(max_length=60), AfterValidator(printable)]


class JobCircuit(Frozen):
    """A circuit's design and every reading ever taken of it, oldest first; `former` where its point is gone since."""

    design: Circuit
    readings: Annotated[tuple[Reading, ...], Field(max_length=20_000)] = ()
    former_readings: Annotated[tuple[Reading, ...], Field(max_length=20_000)] = ()

    @classmethod
    def of(cls, design: Circuit, readings: Iterable[Reading]) -> "JobCircuit":
        """Return a circuit with its readings, those parted whose points are no longer drawn."""
        drawn = {None, *(point.id for point in design.points)}
        every = tuple(readings)
        return cls(
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


class Job(JobHead):
    """One installation, whole: the job file."""

    format: Literal["lumbek-job"] = "lumbek-job"
    version: Literal[2] = 2
    supply: Supply = Supply()
    circuits: Annotated[tuple[JobCircuit, ...], Field(max_length=5000)] = ()
