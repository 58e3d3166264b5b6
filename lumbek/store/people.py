"""Firms, people, their sessions, the links that let them in, and failed sign-ins."""

from collections.abc import Sequence
from datetime import datetime
from uuid import UUID

from sqlalchemy import bindparam, delete, func, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from lumbek.store.models import Audit, Firm, KnownDevice, OneTimeLink, SignedIn, SignInFailure, User

# People


def user_by_email(db: Session, email: str) -> User | None:
    """Return the user with this address, compared in lower case."""
    return db.scalar(select(User).where(User.email == email.lower()))


def find_user(db: Session, firm_id: UUID, user_id: UUID, lock: bool = False) -> User | None:
    """Return somebody of this firm; with `lock`, held against other writers."""
    query = select(User).where(User.id == user_id, User.firm_id == firm_id)
    return db.scalar(query.with_for_update().execution_options(populate_existing=True) if lock else query)


def users_of(db: Session, firm_id: UUID, lock: bool = False) -> list[User]:
    """Return everybody of a firm by name; with `lock`, held against other writers."""
    query = select(User).where(User.firm_id == firm_id).order_by(User.name, User.id)
    return list(db.scalars(query.with_for_update().execution_options(populate_existing=True) if lock else query))


def with_factor(db: Session) -> list[User]:
    """Return everybody who has a second factor, held against other writers."""
    return list(db.scalars(select(User).where(User.totp_secret.is_not(None)).with_for_update()))


def anybody(db: Session) -> bool:
    """Whether there is any account at all."""
    return db.scalar(select(User.id).limit(1)) is not None


def firms(db: Session) -> list[Firm]:
    """Return every firm by name."""
    return list(db.scalars(select(Firm).order_by(Firm.name, Firm.id)))


# Sessions


# Asked on every request, and built once.
_SESSION_USER = (
    select(SignedIn, User, Firm)
    .join(User, User.id == SignedIn.user_id)
    .join(Firm, Firm.id == User.firm_id)
    .where(
        SignedIn.token_hash == bindparam("token_hash"),
        SignedIn.expires_at > bindparam("now"),
        SignedIn.seen_at > bindparam("idle_since"),
        User.locked_at.is_(None),
    )
)


def session_user(
    db: Session, token_hash: str, now: datetime, idle_since: datetime
) -> tuple[SignedIn, User, Firm] | None:
    """Return a session that is not over, with its user and firm."""
    row = db.execute(_SESSION_USER, {"token_hash": token_hash, "now": now, "idle_since": idle_since}).first()
    return None if row is None else (row[0], row[1], row[2])


def touch_session(db: Session, session_id: UUID, **now: object) -> None:
    """Set down of a session when it was last used, or the password last given in it."""
    db.execute(update(SignedIn).where(SignedIn.id == session_id).values(**now))


def sessions_of(db: Session, user_id: UUID, now: datetime, idle_since: datetime) -> list[SignedIn]:
    """Return somebody's sessions that are not over, the last used first."""
    query = select(SignedIn).where(
        SignedIn.user_id == user_id, SignedIn.expires_at > now, SignedIn.seen_at > idle_since
    )
    return list(db.scalars(query.order_by(SignedIn.seen_at.desc(), SignedIn.id)))


def end_sessions(db: Session, user_id: UUID, only: UUID | None = None, but: UUID | None = None) -> int:
    """End somebody's sessions: all, only one, or all but one. Return how many there were."""
    query = delete(SignedIn).where(SignedIn.user_id == user_id)
    if only is not None:
        query = query.where(SignedIn.id == only)
    if but is not None:
        query = query.where(SignedIn.id != but)
    return len(db.execute(query.returning(SignedIn.id)).all())


# Links


def find_link(db: Session, token_hash: str, now: datetime, lock: bool = False) -> OneTimeLink | None:
    """Return a link that is still good; with `lock`, held: it is used once."""
    query = select(OneTimeLink).where(OneTimeLink.token_hash == token_hash, OneTimeLink.expires_at > now)
    return db.scalar(query.with_for_update() if lock else query)


def drop_links(db: Session, purpose: str, firm_id: UUID | None, user_id: UUID | None = None, email: str = "") -> None:
    """Make earlier links of this purpose, of the same firm for the same person, worthless."""
    db.execute(
        delete(OneTimeLink).where(
            OneTimeLink.purpose == purpose,
            OneTimeLink.firm_id.is_not_distinct_from(firm_id),
            OneTimeLink.user_id.is_not_distinct_from(user_id),
            OneTimeLink.email == email,
        )
    )


def drop_links_by(db: Session, user_id: UUID) -> list[str]:
    """Make worthless what somebody has made for others; return whom it was for."""
    dropped = delete(OneTimeLink).where(OneTimeLink.made_by == user_id).returning(OneTimeLink.email)
    return list(db.scalars(dropped))


def drop_invitation(db: Session, firm_id: UUID, link_id: UUID) -> str | None:
    """Take an invitation of a firm back; return whom it was for, none where there is no such invitation."""
    invitation = (OneTimeLink.firm_id == firm_id, OneTimeLink.purpose == "join", OneTimeLink.id == link_id)
    return db.scalar(delete(OneTimeLink).where(*invitation).returning(OneTimeLink.email))


def shut_out(db: Session, user_id: UUID) -> list[str]:
    """End what lets somebody in, or others by them: sessions, known devices, links. Return whom the links were for."""
    end_sessions(db, user_id)
    forget_devices(db, user_id)
    return drop_links_by(db, user_id)


# Devices somebody has signed in on


def knows_device(db: Session, email: str, token_hash: str) -> bool:
    """Whether the person of this account has signed in on a device."""
    query = select(KnownDevice.user_id).join(User, User.id == KnownDevice.user_id)
    query = query.where(User.email == email.lower(), KnownDevice.token_hash == token_hash)
    return db.scalar(query.limit(1)) is not None


def note_device(db: Session, user_id: UUID, token_hash: str, now: datetime) -> None:
    """Set down that somebody has signed in on a device."""
    seen = insert(KnownDevice).values(token_hash=token_hash, user_id=user_id, seen_at=now)
    db.execute(seen.on_conflict_do_update(index_elements=["token_hash", "user_id"], set_={"seen_at": now}))


def forget_devices(db: Session, user_id: UUID) -> None:
    """Let no device count as one that somebody has signed in on."""
    db.execute(delete(KnownDevice).where(KnownDevice.user_id == user_id))


def links_of(db: Session, firm_id: UUID, now: datetime) -> list[OneTimeLink]:
    """Return the invitations of a firm that nobody has used yet."""
    query = select(OneTimeLink).where(
        OneTimeLink.firm_id == firm_id, OneTimeLink.purpose == "join", OneTimeLink.expires_at > now
    )
    return list(db.scalars(query.order_by(OneTimeLink.made_at)))


# Sign-ins that failed


def failures(db: Session, since: datetime, email: str | None = None, address: str | None = None) -> list[datetime]:
    """Return when sign-ins failed since then, the oldest first: on an account, from an address, or both together."""
    query = select(SignInFailure.at).where(SignInFailure.at > since)
    if email is not None:
        query = query.where(SignInFailure.email == email.lower())
    if address is not None:
        query = query.where(SignInFailure.address == address)
    return list(db.scalars(query.order_by(SignInFailure.at)))


def has_signed_in_from(db: Session, email: str, address: str) -> bool:
    """Whether the person of this account has ever signed in from this address."""
    query = (
        select(Audit.id)
        .join(User, User.id == Audit.user_id)
        .where(User.email == email.lower(), Audit.address == address, Audit.action == "sign-in")
    )
    return db.scalar(query.limit(1)) is not None


def hold_sign_ins(db: Session, email: str, address: str) -> None:
    """Let sign-ins of one account, and from one address, go one after another until the transaction ends."""
    # In a fixed order, so that two who want both do not wait for each other.
    for name in sorted((f"account {email.lower()}", f"address {address}")):
        db.execute(select(func.pg_advisory_xact_lock(func.hashtextextended(name, 0))))


def forget_failure(db: Session, attempt_id: int) -> None:
    """Take back one try."""
    db.execute(delete(SignInFailure).where(SignInFailure.id == attempt_id))


def forget_failures(db: Session, email: str, address: str) -> None:
    """Start the count of an account from an address afresh: its person was there."""
    db.execute(delete(SignInFailure).where(SignInFailure.email == email.lower(), SignInFailure.address == address))


# Kept no longer than needed


def clear_out(
    db: Session, now: datetime, idle_since: datetime, failures_before: datetime, devices_before: datetime
) -> Sequence[int]:
    """Delete sessions and links that are over and old failures; return how many of each. Devices long unused go too."""
    db.execute(delete(KnownDevice).where(KnownDevice.seen_at <= devices_before))
    over = (
        delete(SignedIn).where((SignedIn.expires_at <= now) | (SignedIn.seen_at <= idle_since)).returning(SignedIn.id),
        delete(OneTimeLink).where(OneTimeLink.expires_at <= now).returning(OneTimeLink.token_hash),
        delete(SignInFailure).where(SignInFailure.at <= failures_before).returning(SignInFailure.id),
    )
    return [len(db.execute(each).all()) for each in over]
