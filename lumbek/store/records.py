"""How circuits were connected before they were taken apart: records, only ever added."""

from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from lumbek.store.models import CircuitRow, JobRow, WiringRecord


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
