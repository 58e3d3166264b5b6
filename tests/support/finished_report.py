"""An inspection of a job that is finished: everything looked at, said and signed."""

from typing import Any

from lumbek.core.documents.gathered import Gathered, gather
from lumbek.core.inspection.standing import standing_of
from lumbek.core.inspection.walk import walk_of
from lumbek.core.inspection.whole import whole_inspection
from lumbek.core.model.job import Job
from tests.support.inspected import kept

PARTICULARS: dict[str, Any] = {
    "record": "particulars",
    "reason": "Sale of the house",
    "age": "about 45 years, by its boards",
    "covers": "All fixed wiring of the house",
    "share_percent": 100,
    "summary": "Old and looked after",
    "work": "Two sockets in the study",
    "finished": "2026-05-04",
    "electrode": "Rod, 1.2 m, by the porch",
    "next_day": "2031-05-04",
    "next_why": "a home of one's own",
    "limitations": [{"what": "Loft over the porch", "why": "no way up", "agreed_with": "M. Fallow"}],
}
SIGNED = tuple({"record": "signed", "role": role} for role in ("designer", "constructor", "inspector", "authoriser"))


def all_sound(gathered: Gathered) -> list[dict[str, Any]]:
    """Every item of every place, sound."""
    return [
        {
            "record": "items",
            "area": area.key,
            "lines": [{"item": item.kind.id, "outcome": "sound"} for item in area.items],
        }
        for area in walk_of(gathered, standing_of(()))
    ]


def reported(job: Job, *more: dict[str, Any], **said: Any) -> Gathered:
    """The job with its inspection finished; every offer is taken with the code that it suggests."""
    gathered = gather(job)
    taken = [
        {
            "record": "finding",
            "finding": f"o{at}",
            "kind": each.kind,
            "seen": each.seen,
            "spot": each.spot.model_dump(),
            "code": each.suggestion.code or "FI",
            "suggested": each.suggestion.code,
            "clause": each.clause,
            "offer": each.key,
        }
        for at, each in enumerate(whole_inspection(gathered).offers)
    ]
    records = kept(*all_sound(gathered), *taken, PARTICULARS | said, *more, *SIGNED)
    return gather(job.model_copy(update={"inspection": records}))
