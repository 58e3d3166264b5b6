"""Photos and files that belong to a job and to what they show: only ever added."""

from collections.abc import Collection
from uuid import UUID

from sqlalchemy import Select, func, or_, select
from sqlalchemy.orm import Session, defer

from lumbek.store.models import Attachment, CircuitRow, JobRow

# What can be set into a paper.
PHOTOS = ("image/jpeg", "image/png")


def _shown(query: Select[Attachment]) -> Select[Attachment]:
    """Leave out what belongs to a circuit that was removed: it comes back with the circuit."""
    query = query.outerjoin(CircuitRow, CircuitRow.id == Attachment.circuit_id)
    return query.where(or_(Attachment.circuit_id.is_(None), CircuitRow.removed_at.is_(None)))


def attachments_of(db: Session, job_id: UUID) -> list[Attachment]:
    """Return what is attached to a job and everything in it, the oldest first, without the bytes."""
    query = _shown(select(Attachment).where(Attachment.job_id == job_id)).options(defer(Attachment.data))
    return list(db.scalars(query.order_by(Attachment.at, Attachment.id)))


def photos_of_findings(db: Session, job_id: UUID) -> list[Attachment]:
    """Return the photos of what was found on a job, the oldest first, without the bytes."""
    query = select(Attachment).where(Attachment.job_id == job_id, Attachment.shows == "finding")
    query = query.where(Attachment.kind.in_(PHOTOS)).options(defer(Attachment.data))
    return list(db.scalars(query.order_by(Attachment.at, Attachment.id)))


def bytes_of(db: Session, job_id: UUID, ids: Collection[UUID]) -> dict[UUID, bytes]:
    """Return the bytes of some attachments of a job."""
    query = select(Attachment.id, Attachment.data).where(Attachment.job_id == job_id, Attachment.id.in_(ids))
    return dict(db.execute(query).tuples().all())


def find_attachment(db: Session, firm_id: UUID, attachment_id: UUID) -> Attachment | None:
    """Return what is attached to a job of this firm."""
    query = select(Attachment).join(JobRow, JobRow.id == Attachment.job_id)
    query = query.where(Attachment.id == attachment_id, JobRow.firm_id == firm_id, JobRow.removed_at.is_(None))
    return db.scalar(_shown(query))


def count_attachments(db: Session, job_id: UUID) -> int:
    """Return how many are attached to a job, those of removed circuits too."""
    return db.scalar(select(func.count()).where(Attachment.job_id == job_id)) or 0
