"""The next inspection of an installation, begun from the last."""

from lumbek.core.inspection.standing import standing_of
from lumbek.core.model.inspection import InspectionKept, LastReading, LastTime, Particulars, SameAddress
from lumbek.core.model.job import Job, JobCircuit
from lumbek.core.model.reading import Reading, standing


def copied_forward(job: Job, at: str) -> Job:
    """Return the job of the next inspection: what is there as it was found, and the readings as those of last time.

    Nothing that was seen or read then counts as seen or read now.
    """
    lines = [*_last(None, job.readings), *(line for each in job.circuits for line in _last(each, each.readings))]
    said = standing_of(job.inspection).particulars
    paper = SameAddress(what=f"Readings of {job.name}"[:80], day=at[:10])
    kept = [Particulars(occupier=said.occupier, is_let=said.is_let, age=said.age, electrode=said.electrode)]
    records: list[LastTime | Particulars] = [*kept, *([LastTime(paper=paper, readings=tuple(lines))] if lines else [])]
    return job.model_copy(
        update={
            "name": f"{job.name}, next inspection"[:80],
            "extent": job.extent.model_copy(update={"state": "as-found", "work": "whole"}),
            "boards": tuple(board.model_copy(update={"state": "as-found"}) for board in job.boards),
            "circuits": tuple(map(_as_found, job.circuits)),
            "readings": (),
            "visits": (),
            "found": (),
            "inspection": tuple(
                InspectionKept(id=f"i{count}", by="", at=at, said=each) for count, each in enumerate(records, start=1)
            ),
        }
    )


def _as_found(circuit: JobCircuit) -> JobCircuit:
    design, found = circuit.design, {"state": "as-found"}
    points = tuple(point.model_copy(update=found) for point in design.points)
    legs = tuple(leg.model_copy(update=found) for leg in design.legs)
    whole = design.model_copy(update={**found, "device_new": False, "points": points, "legs": legs})
    return circuit.model_copy(update={"design": whole, "readings": (), "former_readings": ()})


def _last(circuit: JobCircuit | None, readings: tuple[Reading, ...]) -> list[LastReading]:
    """Return the readings in force with a figure, as another paper has them: when each was taken, and by whom."""
    found = []
    for (quantity, place), reading in standing(readings).items():
        if reading.value is None or quantity == "trace":
            continue
        drawn = circuit is not None and place in {point.id for point in circuit.design.points}
        title = circuit.design.point_title(place)[:80] if circuit is not None and place and drawn else ""
        found.append(
            LastReading(
                circuit=None if circuit is None else circuit.design.number,
                place=title,
                quantity=quantity,
                value=reading.value,
                beyond=reading.beyond,
                day=reading.when[:10],
                by=reading.by,
            )
        )
    return found
