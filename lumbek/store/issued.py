"""Documents as they were issued: only ever added."""

from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session, defer

from lumbek.store.models import IssuedDocument


def issued_of(db: Session, job_id: UUID) -> list[IssuedDocument]:
    """Return what was issued of a job, the oldest first, without the files."""
    query = select(IssuedDocument).where(IssuedDocument.job_id == job_id)
    query = query.options(defer(IssuedDocument.data), defer(IssuedDocument.document))
    return list(db.scalars(query.order_by(IssuedDocument.kind, IssuedDocument.number)))


def find_issued(db: Session, firm_id: UUID, issued_id: UUID) -> IssuedDocument | None:
    """Return an issued document of this firm: of a job that was removed too."""
    query = select(IssuedDocument).where(IssuedDocument.id == issued_id, IssuedDocument.firm_id == firm_id)
    return db.scalar(query)
