"""How circuits were connected before they were taken apart: records and their photos, only ever added."""

from uuid import UUID

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from lumbek.store.models import CircuitRow, JobRow, WiringPhoto, WiringRecord


def records_of(db: Session, circuit_id: UUID) -> list[WiringRecord]:
    """Return the records of a circuit, the newest first."""
    query = select(WiringRecord).where(WiringRecord.circuit_id == circuit_id)
    return list(db.scalars(query.order_by(WiringRecord.taken_at.desc(), WiringRecord.id)))


def find_record(db: Session, firm_id: UUID, record_id: UUID) -> WiringRecord | None:
    """Return a record of this firm; held against other writers."""
    query = (
        select(WiringRecord)
        .join(CircuitRow, CircuitRow.id == WiringRecord.circuit_id)
        .join(JobRow, JobRow.id == CircuitRow.job_id)
        .where(
            WiringRecord.id == record_id,
            JobRow.firm_id == firm_id,
            JobRow.removed_at.is_(None),
            CircuitRow.removed_at.is_(None),
        )
    )
    return db.scalar(query.with_for_update(of=WiringRecord))


def photo_ids(db: Session, record_id: UUID) -> list[UUID]:
    """Return the photos of a record in the order they were taken, without their bytes."""
    query = select(WiringPhoto.id).where(WiringPhoto.record_id == record_id)
    return list(db.scalars(query.order_by(WiringPhoto.at, WiringPhoto.id)))


def count_photos(db: Session, record_id: UUID) -> int:
    """Return how many photos a record holds."""
    return db.scalar(select(func.count()).where(WiringPhoto.record_id == record_id)) or 0


def add_photo(db: Session, photo_id: UUID, record_id: UUID, kind: str, data: bytes) -> None:
    """Keep a photo."""
    db.add(WiringPhoto(id=photo_id, record_id=record_id, kind=kind, data=data))


def find_photo(db: Session, firm_id: UUID, photo_id: UUID) -> WiringPhoto | None:
    """Return a photo of this firm."""
    query = (
        select(WiringPhoto)
        .join(WiringRecord, WiringRecord.id == WiringPhoto.record_id)
        .join(CircuitRow, CircuitRow.id == WiringRecord.circuit_id)
        .join(JobRow, JobRow.id == CircuitRow.job_id)
        .where(WiringPhoto.id == photo_id, JobRow.firm_id == firm_id, JobRow.removed_at.is_(None))
    )
    return db.scalar(query)
