"""The terms of a quote that count."""

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from lumbek.core.items.terms import QuoteTerms
from lumbek.store.models import JobRow, QuoteRow

# What a firm says of one quote and means of all.
_OF_THE_FIRM = (
    "codes",
    "minutes",
    "labour_code",
    "margin_percent",
    "tax_percent",
    "tax_by",
    "half",
    "whole_drums",
    "hours_a_day",
    "hands",
)


def terms_of(db: Session, job: JobRow) -> QuoteTerms:
    """Return the terms of a job's quote that count; with none yet, which price each thing had last time in the firm."""
    query = select(QuoteRow.document).where(QuoteRow.job_id == job.id)
    document = db.scalar(query.order_by(QuoteRow.place.desc()).limit(1))
    if document is not None:
        return QuoteTerms.model_validate(document)
    before = db.scalar(
        select(QuoteRow.document)
        .join(JobRow, JobRow.id == QuoteRow.job_id)
        .where(JobRow.firm_id == job.firm_id)
        .order_by(QuoteRow.place.desc())
        .limit(1)
    )
    if before is None:
        return QuoteTerms()
    last = QuoteTerms.model_validate(before)
    return QuoteTerms.model_validate(last.model_dump(include={*_OF_THE_FIRM}))


def version_of(db: Session, job: JobRow) -> int:
    """Return how often the terms of a job's quote were put down: whoever puts them anew must have seen the last."""
    return db.scalar(select(func.count()).select_from(QuoteRow).where(QuoteRow.job_id == job.id)) or 0


def changed_by(db: Session, job: JobRow) -> str:
    """Return who put the terms of a job's quote down last."""
    query = select(QuoteRow.by).where(QuoteRow.job_id == job.id).order_by(QuoteRow.place.desc()).limit(1)
    return db.scalar(query) or ""
