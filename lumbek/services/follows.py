"""What a job's papers and signatures follow from: the versions of all that is in it."""

import json
from hashlib import sha256
from typing import Any

from sqlalchemy.orm import Session

from lumbek.store.attachments import photos_of_findings
from lumbek.store.jobs import inspection_mark, marks_of
from lumbek.store.models import JobRow


def follows(db: Session, job: JobRow) -> dict[str, Any]:
    """Return the versions that a job's documents follow from, as they are kept."""
    marks, photos = marks_of(db, job), len(photos_of_findings(db, job.id))
    # Papers that were issued before photos went into them named none, and go on saying what they said.
    return ({"photos": photos} if photos else {}) | {
        "job": marks.version,
        "circuits": {key.hex: version for key, version in marks.circuits},
        "last_reading": marks.last_reading,
        "visits": marks.visits,
        "inspection": inspection_mark(db, job.id),
    }


def hash_of_follows(stands: dict[str, Any]) -> str:
    """Return what a signature covers: a hash of those versions."""
    return sha256(json.dumps(stands, sort_keys=True).encode()).hexdigest()


def covered(db: Session, job: JobRow) -> str:
    """Return a hash of all that a signature answers for: everything of a job but signatures themselves."""
    return hash_of_follows(follows(db, job))
