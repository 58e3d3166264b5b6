"""Firms, users, sessions and failed sign-ins."""

from datetime import datetime
from uuid import UUID

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session

from lumbek.store.models import Audit, Firm, SignedIn, SignInFailure, User


def user_by_email(db: Session, email: str) -> User | None:
    """Return the user with this address, compared in lower case."""
    return db.scalar(select(User).where(User.email == email.lower()))


def session_user(db: Session, token_hash: str, now: datetime) -> tuple[SignedIn, User, Firm] | None:
    """Return a session that has not run out, with its user and firm."""
    row = db.execute(
        select(SignedIn, User, Firm)
        .join(User, User.id == SignedIn.user_id)
        .join(Firm, Firm.id == User.firm_id)
        .where(SignedIn.token_hash == token_hash, SignedIn.expires_at > now)
    ).first()
    return None if row is None else (row[0], row[1], row[2])


def remove_session(db: Session, token_hash: str) -> None:
    """End a session."""
    db.execute(delete(SignedIn).where(SignedIn.token_hash == token_hash))


def remove_expired_sessions(db: Session, now: datetime) -> None:
    """Forget sessions that have run out."""
    db.execute(delete(SignedIn).where(SignedIn.expires_at <= now))


def count_failures(db: Session, email: str, address: str, since: datetime) -> tuple[int, int]:
    """Return how many sign-ins failed since then: for this account, and from this address."""
    recent = select(func.count()).select_from(SignInFailure).where(SignInFailure.at > since)
    account = db.scalar(recent.where(SignInFailure.email == email.lower())) or 0
    from_address = db.scalar(recent.where(SignInFailure.address == address)) or 0
    return account, from_address


def hold_sign_ins(db: Session, email: str, address: str) -> None:
    """Let sign-ins of one account, and from one address, go one after another until the transaction ends."""
    # In a fixed order, so that two who want both do not wait for each other.
    for name in sorted((f"account {email.lower()}", f"address {address}")):
        db.execute(select(func.pg_advisory_xact_lock(func.hashtextextended(name, 0))))


def forget_failure(db: Session, attempt_id: int) -> None:
    """Take back one try: it was right."""
    db.execute(delete(SignInFailure).where(SignInFailure.id == attempt_id))


def forget_failures(db: Session, email: str) -> None:
    """Start an account's count afresh."""
    db.execute(delete(SignInFailure).where(SignInFailure.email == email.lower()))


def record(db: Session, firm_id: UUID | None, user_id: UUID | None, action: str, subject: str) -> None:
    """Add a line to the audit."""
    db.add(Audit(firm_id=firm_id, user_id=user_id, action=action, subject=subject))
