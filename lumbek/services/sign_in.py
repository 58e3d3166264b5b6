"""Signing in and out: hashed passwords, server-side sessions, limited attempts."""

import hashlib
import secrets
from dataclasses import dataclass
from datetime import timedelta
from threading import BoundedSemaphore
from uuid import UUID

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerifyMismatchError

from lumbek.services.clock import now
from lumbek.services.errors import BadInputError, NotSignedInError, TooManyAttemptsError
from lumbek.settings import Settings
from lumbek.store import people
from lumbek.store.database import Database
from lumbek.store.models import SignedIn, SignInFailure

_hasher = PasswordHasher()
# So many passwords are hashed at once, and no more.
_HASHING = BoundedSemaphore(2)
# Compared with when there is no such account, so that both answers take the same time.
_NOBODY = _hasher.hash(secrets.token_hex(16))


def hash_password(password: str) -> str:
    """Return the argon2id hash of a password."""
    return _hasher.hash(password)


@dataclass(frozen=True)
class Person:
    """Who asks: a user of a firm, in a session."""

    user_id: UUID
    firm_id: UUID
    name: str
    firm: str
    csrf_token: str


class SignInService:
    """Sessions of people."""

    def __init__(self, database: Database, settings: Settings) -> None:
        self._database, self._settings = database, settings

    def sign_in(self, email: str, password: str, address: str) -> tuple[str, Person]:
        """Return a new session's token and its person. Raises BadInputError or TooManyAttemptsError."""
        moment = now()
        since = moment - timedelta(minutes=self._settings.sign_in_window_minutes)
        with self._database.transaction() as db:
            # Counted and set down as a try in one step, one after another: many at once do not slip past the limit.
            people.hold_sign_ins(db, email, address)
            account, from_address = people.count_failures(db, email, address, since)
            if (
                account >= self._settings.sign_in_failures_per_account
                or from_address >= self._settings.sign_in_failures_per_address
            ):
                raise TooManyAttemptsError(
                    f"Too many failed sign-ins. Try again in {self._settings.sign_in_window_minutes} minutes."
                )
            attempt = SignInFailure(email=email.lower(), address=address, at=moment)
            db.add(attempt)
            db.flush()
            attempt_id = attempt.id
            user = people.user_by_email(db, email)
            known_hash = user.password_hash if user else _NOBODY
        # Each hash takes 64 MB for a moment; the rest wait their turn.
        with _HASHING:
            right = _matches(known_hash, password)
        with self._database.transaction() as db:
            if user is None or not right:
                people.record(db, None, None, "sign-in-failed", email.lower())
            else:
                people.forget_failures(db, email)
                people.forget_failure(db, attempt_id)
                people.remove_expired_sessions(db, moment)
                token, csrf = secrets.token_urlsafe(32), secrets.token_urlsafe(24)
                expires = moment + timedelta(hours=self._settings.session_hours)
                db.add(SignedIn(token_hash=_digest(token), user_id=user.id, csrf_token=csrf, expires_at=expires))
                people.record(db, user.firm_id, user.id, "sign-in", user.email)
        if user is None or not right:
            raise BadInputError("E-mail and password do not fit together.")
        return token, self.person(token)

    def person(self, token: str | None) -> Person:
        """Return who a session's token belongs to. Raises NotSignedInError."""
        if token:
            with self._database.transaction() as db:
                found = people.session_user(db, _digest(token), now())
            if found:
                session, user, firm = found
                return Person(user.id, user.firm_id, user.name, firm.name, session.csrf_token)
        raise NotSignedInError("Please sign in.")

    def sign_out(self, token: str | None) -> None:
        """End a session; one that is over already stays over."""
        if token:
            with self._database.transaction() as db:
                people.remove_session(db, _digest(token))


def _digest(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


def _matches(password_hash: str, password: str) -> bool:
    try:
        return _hasher.verify(password_hash, password)
    except (VerifyMismatchError, InvalidHashError):
        return False
