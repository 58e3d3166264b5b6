"""What a job's papers and signatures follow from: the versions of all that is in it."""

from typing import Any

from sqlalchemy.orm import Session

from lumbek.store.jobs import inspection_mark, marks_of
from lumbek.store.models import JobRow


def follows(db: Session, job: JobRow) -> dict[str, Any]:
    """Return the versions that a job's documents follow from, as they are kept."""
    marks = marks_of(db, job)
    return {
        "job": marks.version,
        "circuits": {key.hex: version for key, version in marks.circuits},
        "last_reading": marks.last_reading,
        "visits": marks.visits,
        "inspection": inspection_mark(db, job.id),
    }
