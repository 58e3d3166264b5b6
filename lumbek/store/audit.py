"""The audit: lines of what was done, by whom, asked for by what they are about."""

from datetime import UTC, date, datetime, time, timedelta
from typing import NamedTuple
from uuid import UUID

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from lumbek.store.models import Audit, CircuitRow, JobRow, User


def add(
    db: Session, firm_id: UUID | None, user_id: UUID | None, address: str, action: str, subject: str, detail: str = ""
) -> None:
    """Add a line. The database chains it when the transaction is committed."""
    row = Audit(firm_id=firm_id, user_id=user_id, address=address, action=action, subject=subject, detail=detail)
    db.add(row)


class AuditAsked(NamedTuple):
    """Which lines are asked for: before one, of a kind, by somebody, about a job, of a day; all where none is said."""

    before: int | None = None
    action: str = ""
    user_id: UUID | None = None
    job_id: UUID | None = None
    day: date | None = None


def page(db: Session, firm_id: UUID, asked: AuditAsked, most: int) -> list[tuple[Audit, str | None]]:
    """Return lines of a firm, the newest first, each with the name of who did it."""
    query = select(Audit, User.name).outerjoin(User, User.id == Audit.user_id).where(Audit.firm_id == firm_id)
    if asked.before is not None:
        query = query.where(Audit.id < asked.before)
    if asked.action:
        query = query.where(Audit.action == asked.action)
    if asked.user_id is not None:
        query = query.where(Audit.user_id == asked.user_id)
    if asked.job_id is not None:
        circuits = db.scalars(select(CircuitRow.id).where(CircuitRow.job_id == asked.job_id))
        query = query.where(Audit.subject.in_([str(asked.job_id), *map(str, circuits)]))
    if asked.day is not None:
        begins = datetime.combine(asked.day, time(), UTC)
        query = query.where(Audit.at >= begins, Audit.at < begins + timedelta(days=1))
    return [(row, name) for row, name in db.execute(query.order_by(Audit.id.desc()).limit(most))]


class LineAbout(NamedTuple):
    """What a line is about, in words, and the job it belongs to."""

    words: str
    job_id: UUID


def named(db: Session, firm_id: UUID, ids: list[UUID]) -> dict[UUID, LineAbout]:
    """Return what those of these ids are called that are jobs or circuits of a firm, removed ones too."""
    jobs = db.execute(select(JobRow.id, JobRow.name).where(JobRow.firm_id == firm_id, JobRow.id.in_(ids)))
    found = {job_id: LineAbout(name, job_id) for job_id, name in jobs}
    fields = (CircuitRow.id, CircuitRow.design["number"].astext, CircuitRow.design["name"].astext)
    circuits = select(*fields, JobRow.id, JobRow.name).join(JobRow, JobRow.id == CircuitRow.job_id)
    for circuit_id, number, name, job_id, job in db.execute(
        circuits.where(JobRow.firm_id == firm_id, CircuitRow.id.in_(ids))
    ):
        found[circuit_id] = LineAbout(f"{number} {name}, {job}", job_id)
    return found


def actions(db: Session, firm_id: UUID) -> list[str]:
    """Return every kind of thing that was ever done in a firm, in order.

    From one kind to the next by the index: a firm has a few dozen kinds, and lines by the hundred thousand.
    """
    found: list[str] = []
    query = select(func.min(Audit.action)).where(Audit.firm_id == firm_id)
    following = db.scalar(query)
    while following is not None:
        found.append(following)
        following = db.scalar(query.where(Audit.action > following))
    return found
