"""Exercises of the practice house as they are kept: who began which, what they did in it, and what was set to all."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from lumbek.store.models import PracticeAct, PracticeRun, PracticeSet, User

# So many exercises are looked back on.
_MOST = 2000


def run_of(db: Session, firm_id: UUID, run_id: UUID) -> PracticeRun | None:
    """Return an exercise of a firm."""
    return db.scalar(select(PracticeRun).where(PracticeRun.id == run_id, PracticeRun.firm_id == firm_id))


def acts_of(db: Session, run_id: UUID) -> Sequence[PracticeAct]:
    """Return what was done in an exercise, in order."""
    return db.scalars(select(PracticeAct).where(PracticeAct.run_id == run_id).order_by(PracticeAct.place)).all()


def runs_of(
    db: Session, firm_id: UUID, user_id: UUID | None = None
) -> Sequence[tuple[PracticeRun, PracticeAct | None]]:
    """Return the latest exercises of a firm, or of one of its people, with how each ended, the oldest first."""
    asked = (
        select(PracticeRun, PracticeAct)
        .outerjoin(PracticeAct, (PracticeAct.run_id == PracticeRun.id) & PracticeAct.marks.is_not(None))
        .where(PracticeRun.firm_id == firm_id)
        .order_by(PracticeRun.at.desc(), PracticeRun.id)
        .limit(_MOST)
    )
    if user_id is not None:
        asked = asked.where(PracticeRun.user_id == user_id)
    return [(run, act) for run, act in db.execute(asked)][::-1]


def sets_of(db: Session, firm_id: UUID, most: int) -> Sequence[PracticeSet]:
    """Return what was set to everybody of a firm, the latest first."""
    asked = select(PracticeSet).where(PracticeSet.firm_id == firm_id).order_by(PracticeSet.at.desc()).limit(most)
    return db.scalars(asked).all()


def set_of(db: Session, firm_id: UUID, set_id: UUID) -> PracticeSet | None:
    """Return something that was set."""
    return db.scalar(select(PracticeSet).where(PracticeSet.id == set_id, PracticeSet.firm_id == firm_id))


def open_runs(db: Session, firm_id: UUID, user_id: UUID, makes: int) -> int:
    """Return how many exercises somebody has begun and not ended, of those that can be: made by this version."""
    ended = select(PracticeAct.run_id).where(PracticeAct.marks.is_not(None))
    asked = select(func.count()).select_from(PracticeRun)
    theirs = asked.where(PracticeRun.firm_id == firm_id, PracticeRun.user_id == user_id)
    can_be = theirs.where(PracticeRun.document["makes"].as_integer() == makes, PracticeRun.id.not_in(ended))
    return db.scalar(can_be) or 0


def people_of(db: Session, firm_id: UUID) -> dict[UUID, str]:
    """Return the people of a firm by their ids."""
    return {user.id: user.name for user in db.scalars(select(User).where(User.firm_id == firm_id))}
