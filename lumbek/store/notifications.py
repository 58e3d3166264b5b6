"""Notifications of work and what the office answered: only ever added."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from lumbek.store.models import Notification, NotificationAnswer

_AT_ONCE = 20


def notifications_of(db: Session, job_id: UUID) -> Sequence[tuple[Notification, NotificationAnswer | None]]:
    """Return the notifications of a job, the oldest first, each with its answer where there is one."""
    query = select(Notification, NotificationAnswer).outerjoin(NotificationAnswer)
    rows = db.execute(query.where(Notification.job_id == job_id).order_by(Notification.at, Notification.id))
    return [(row[0], row[1]) for row in rows]


def waiting(db: Session, after: Sequence[UUID] = ()) -> Sequence[Notification]:
    """Return some of the notifications that have no answer, the oldest first, without those that were tried."""
    query = select(Notification).outerjoin(NotificationAnswer).where(NotificationAnswer.notification_id.is_(None))
    return db.scalars(query.where(Notification.id.not_in(after)).order_by(Notification.at).limit(_AT_ONCE)).all()


def keep_answer(db: Session, answer: NotificationAnswer) -> bool:
    """Keep what the office said; return whether nobody had kept it before."""
    said = {column.name: getattr(answer, column.name) for column in NotificationAnswer.__table__.columns}
    kept = insert(NotificationAnswer).values(**said).on_conflict_do_nothing().returning(NotificationAnswer.at)
    return db.scalar(kept) is not None
