"""Jobs that are inspected, as short as they can be said."""

from typing import Any

from lumbek.core.documents.gathered import Gathered, gather
from lumbek.core.inspection.offers import Offer, offers_of
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.inspection import InspectionKept, InspectionMade
from lumbek.core.model.job import Job, JobCircuit
from lumbek.core.model.reading import Reading
from lumbek.core.model.supply import Supply

NOON = "2026-05-04T12:00:00Z"


def kept(*said: dict[str, Any], by: str = "Robin Ash", at: str = NOON) -> tuple[InspectionKept, ...]:
    """Records as they are kept, in order."""
    return tuple(
        InspectionKept(id=f"r{count}", by=by, at=at, said=InspectionMade.model_validate({"said": each}).said)
        for count, each in enumerate(said)
    )


def inspected(*circuits: dict[str, Any] | Circuit, supply: dict[str, Any] | None = None, **more: Any) -> Gathered:
    """An old house with these circuits, gathered; a circuit may bring its `readings`."""
    made = []
    for number, each in enumerate(circuits, start=1):
        if isinstance(each, Circuit):
            made.append(JobCircuit(design=each))
            continue
        said = {"state": "as-found", "number": number, "name": f"Circuit {number}", **each}
        if said["state"] == "as-found":
            said |= {part: [{"state": "as-found", **one} for one in said[part]] for part in ("points", "legs")}
        readings = [Reading.model_validate({"by": "Robin Ash", "at": NOON, **one}) for one in said.pop("readings", ())]
        made.append(JobCircuit.of(Circuit.model_validate(said), readings))
    extent = {"state": "as-found", "year": 1978}
    fields = {"extent": extent, "supply": Supply.model_validate(supply or {}), "circuits": tuple(made), **more}
    return gather(Job.model_validate(fields))


def offered(gathered: Gathered) -> dict[str, Offer]:
    """What is offered, by its sort; of several of one sort the gravest."""
    found: dict[str, Offer] = {}
    for each in offers_of(gathered):
        found.setdefault(each.kind if each.kind != "other" else each.title, each)
    return found
