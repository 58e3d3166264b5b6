"""Inspections: what is said on one is only ever added, as readings are; all else follows from it and from the model."""

from uuid import UUID

from sqlalchemy.orm import Session

from lumbek.core.inspection.standing import Inspection, standing_of
from lumbek.core.inspection.whole import whole_inspection
from lumbek.core.model.inspection import FindingSaid, InspectionKept, InspectionMade, Opened, Signed
from lumbek.services import audit
from lumbek.services.clock import now, stamp
from lumbek.services.deeds import Deed
from lumbek.services.documents import inspection_row, visit_key
from lumbek.services.errors import BadInputError, NotAllowedError
from lumbek.services.follows import covered
from lumbek.services.houses import key_of
from lumbek.services.jobs import JobService, inspection_to, need_job
from lumbek.services.person import Person
from lumbek.services.roles import WHO_MAY, Right
from lumbek.services.sessions import SessionService
from lumbek.services.views import InspectionView, SignView
from lumbek.services.writes import is_new
from lumbek.store import jobs as store
from lumbek.store.database import Database
from lumbek.store.models import InspectionRecordRow, JobRow

# A job keeps so many records of its inspection.
MOST_RECORDS = 20_000
# Who may sign for what.
_SIGNS = {
    "designer": Right.DESIGN,
    "constructor": Right.TEST,
    "inspector": Right.TEST,
    "authoriser": Right.ISSUE,
}


class InspectingService:
    """Use cases on the inspection of a job."""

    def __init__(self, database: Database, jobs: JobService, sessions: SessionService) -> None:
        self._database, self._jobs, self._sessions = database, jobs, sessions

    def view(self, person: Person, job_id: UUID) -> InspectionView:
        """Return an inspection as it stands, with what is offered."""
        with self._database.transaction() as db:
            return self._view(db, need_job(db, person, job_id))

    def dangers(self, person: Person, job_id: UUID) -> tuple[FindingSaid, ...]:
        """Return the dangers that nobody has dealt with; nothing of the house is worked out for it."""
        with self._database.transaction() as db:
            inspection = standing_inspection(db, need_job(db, person, job_id))
            return tuple(each.said for each in inspection.dangers)

    def add(self, person: Person, job_id: UUID, write_id: UUID, made: InspectionMade) -> InspectionView:
        """Keep what somebody said, once.

        Raises BadInputError for what is not in this job, NotAllowedError and ProveAgainError for a signature that this
        person cannot give, or not now.
        """
        if isinstance(made.said, Signed):
            self._need_sign(person, made.said)
        with self._database.transaction() as db:
            job = need_job(db, person, job_id, lock=True)
            if is_new(db, person, write_id, job_id, InspectionRecordRow):
                if store.count_inspection(db, job.id) >= MOST_RECORDS:
                    raise BadInputError(f"An inspection holds {MOST_RECORDS} records, and this one does.")
                said = _checked(db, job, made)
                kept = InspectionKept(**dict(said), id=visit_key(write_id), by=person.name, at=stamp(now()))
                db.add(inspection_row(kept, job.id, write_id, person.user_id))
                store.touch_job(db, job.id, person.name, now())
                deed = Deed.SIGNED if isinstance(made.said, Signed) else Deed.INSPECTED
                audit.note(db, person, deed, job.id, _in_words(made))
                db.flush()
            return self._view(db, job)

    def _need_sign(self, person: Person, said: Signed) -> None:
        right = _SIGNS[said.role]
        if right not in person.rights:
            raise NotAllowedError(f"As {said.role} {WHO_MAY[right]} sign.")
        self._sessions.need_proof(person)

    def _view(self, db: Session, job: JobRow) -> InspectionView:
        gathered = self._jobs.gather(db, job)
        whole, covers = whole_inspection(gathered, stamp(now())[:10]), covered(db, job)
        return InspectionView(
            job_id=job.id,
            whole=whole,
            signed=tuple(
                SignView(role=each.said.role, by=each.last.by, at=each.last.at, stands=each.said.covers == covers)
                for each in whole.signed
            ),
        )


def standing_inspection(db: Session, job: JobRow) -> Inspection:
    """Return what stands of all that was said on a job."""
    return standing_of(inspection_to(db, job.id))


def _checked(db: Session, job: JobRow, made: InspectionMade) -> InspectionMade:
    """Return what is kept of something said. Raises BadInputError where it names what is not in this job."""
    said = made.said
    if isinstance(said, Signed):
        return made.model_copy(update={"said": said.model_copy(update={"covers": covered(db, job)})})
    if not isinstance(said, FindingSaid | Opened):
        return made
    circuits = {key_of(circuit_id): circuit_id for circuit_id, _ in store.circuit_versions(db, job.id)}
    if isinstance(said, Opened):
        row = store.circuits_by_id(db, [circuits[said.circuit]])[0] if said.circuit in circuits else None
        if row is None or said.point not in {point["id"] for point in row.design["points"]}:
            raise BadInputError("There is no such accessory in this job.")
    elif said.spot.circuit not in (None, *circuits):
        raise BadInputError("There is no such circuit in this job.")
    return made


def _in_words(made: InspectionMade) -> str:
    """Return what was said, for the audit."""
    said = made.said
    if isinstance(said, FindingSaid):
        return f"finding {said.code or 'without a code'}, {said.status}: {said.seen}"[:200]
    if isinstance(said, Signed):
        return f"as {said.role}"
    return said.record
