"""Signing in and out, sessions and how they end, the second factor, and giving the password again."""

import hashlib
import secrets
from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import NamedTuple
from uuid import UUID

import pyotp
from sqlalchemy.orm import Session

from lumbek.core.value import Frozen
from lumbek.services import audit
from lumbek.services.clock import now
from lumbek.services.deeds import Deed
from lumbek.services.errors import (
    BadInputError,
    NotAllowedError,
    NotFoundError,
    NotSignedInError,
    ProveAgainError,
    SecondFactorError,
)
from lumbek.services.limits import hold_back, is_held
from lumbek.services.mail import Mail
from lumbek.services.passwords import matches
from lumbek.services.person import Person
from lumbek.services.roles import WHO_MAY, Right
from lumbek.services.sealing import Sealer
from lumbek.settings import Settings
from lumbek.store import people
from lumbek.store.database import Database
from lumbek.store.models import Firm, SignedIn, SignInFailure, User

# A session's last use is set down this often, not at every request.
_SEEN_EVERY = timedelta(minutes=1)
_TOTP_STEP_S = 30
_MOST_DEVICE = 200
# A device on which nobody has signed in for so long is no longer known; no browser keeps a cookie for longer either.
DEVICE_KEPT = timedelta(days=400)
# What is said where an account is being tried from everywhere: not which of them was wrong.
_NOT_TOGETHER = "E-mail, password and code do not fit together."
_TRIED = (
    "Many wrong passwords were tried on your Lumbek account. Nobody got in by that. For a while it opens only on "
    "devices you have signed in on before, and with the code of your second factor. If your password is used anywhere "
    "else, or you have no second factor, change that now on the page of your account."
)


class Begun(NamedTuple):
    """A session that was begun: its token, whose it is, and what the device is known by from here on."""

    token: str
    person: Person
    device: str


class SessionLine(Frozen):
    """A session in the list of one's own."""

    id: UUID
    begun_at: datetime
    seen_at: datetime
    address: str
    device: str
    this: bool


def digest(token: str) -> str:
    """Return what is kept of a token."""
    return hashlib.sha256(token.encode()).hexdigest()


class SessionService:
    """Sessions of people."""

    def __init__(self, database: Database, settings: Settings, mail: Mail | None = None) -> None:
        self._database, self._settings, self._mail = database, settings, mail
        self._sealer = Sealer(settings.key_file)

    def sign_in(self, email: str, password: str, code: str, address: str, browser: str, device: str = "") -> Begun:
        """Return a new session. `device` is what a device is known by on which somebody has signed in before.

        Raises TooManyAttemptsError; BadInputError for what does not fit; SecondFactorError where the code is missing.
        """
        user, firm, place = self._checked(email, password, code, address, device)
        device = device or secrets.token_urlsafe(32)
        with self._database.transaction() as db:
            people.forget_failures(db, email, place)
            people.note_device(db, user.id, digest(device), now())
            token, person = self.begin(db, user, firm, address, browser)
            audit.note(db, person, Deed.SIGN_IN, user.email)
        return Begun(token, person, device)

    def begin(self, db: Session, user: User, firm: Firm, address: str, browser: str) -> tuple[str, Person]:
        """Begin a session of somebody who has proved who they are."""
        moment = now()
        self.clear_out(db, moment)
        token, csrf = secrets.token_urlsafe(32), secrets.token_urlsafe(24)
        session = SignedIn(
            token_hash=digest(token),
            user_id=user.id,
            csrf_token=csrf,
            begun_at=moment,
            seen_at=moment,
            proved_at=moment,
            expires_at=moment + timedelta(hours=self._settings.session_hours),
            address=address,
            device=_short(browser),
        )
        db.add(session)
        db.flush()
        return token, _person(session, user, firm, address)

    def clear_out(self, db: Session, moment: datetime) -> Sequence[int]:
        """Delete sessions and links that are over and failures too old to count; return how many of each."""
        failures_before = moment - timedelta(minutes=self._settings.sign_in_window_minutes)
        return people.clear_out(db, moment, self._idle_since(moment), failures_before, moment - DEVICE_KEPT)

    def person(self, token: str | None, address: str) -> Person:
        """Return who a session's token belongs to. Raises NotSignedInError."""
        if token:
            moment = now()
            with self._database.transaction() as db:
                found = people.session_user(db, digest(token), moment, self._idle_since(moment))
                if found:
                    session, user, firm = found
                    if moment - session.seen_at > _SEEN_EVERY:
                        people.touch_session(db, session.id, seen_at=moment)
                    return _person(session, user, firm, address)
        raise NotSignedInError("Please sign in.")

    def sign_out(self, person: Person) -> None:
        """End this session."""
        with self._database.transaction() as db:
            if people.end_sessions(db, person.user_id, only=person.session_id):
                audit.note(db, person, Deed.SIGN_OUT, person.email)

    def list(self, person: Person) -> list[SessionLine]:
        """Return one's own sessions, the last used first."""
        moment = now()
        with self._database.transaction() as db:
            return [
                SessionLine(
                    id=each.id,
                    begun_at=each.begun_at,
                    seen_at=each.seen_at,
                    address=each.address,
                    device=each.device,
                    this=each.id == person.session_id,
                )
                for each in people.sessions_of(db, person.user_id, moment, self._idle_since(moment))
            ]

    def end(self, person: Person, session_id: UUID | None) -> None:
        """End one of one's own sessions, or all others."""
        with self._database.transaction() as db:
            others = None if session_id is not None else person.session_id
            if people.end_sessions(db, person.user_id, only=session_id, but=others):
                audit.note(db, person, Deed.SESSION_ENDED, session_id or "all others")
            elif session_id is not None:
                raise NotFoundError("That session is over already.")

    def prove(self, person: Person, password: str, code: str, device: str = "") -> str:
        """Take the password again, before what matters; return its hash. Raises as `sign_in` does."""
        user, _, place = self._checked(person.email, password, code, person.address, device)
        with self._database.transaction() as db:
            people.forget_failures(db, person.email, place)
            if person.session_id is not None:
                people.touch_session(db, person.session_id, proved_at=now())
        return user.password_hash

    def need_proof(self, person: Person) -> None:
        """Raise ProveAgainError where the password was last given too long ago."""
        oldest = now() - timedelta(minutes=self._settings.proof_minutes)
        if person.proved_at is None or person.proved_at < oldest:
            raise ProveAgainError("Give your password again for this.")

    def _checked(self, email: str, password: str, code: str, address: str, device: str = "") -> tuple[User, Firm, str]:
        """Return whose e-mail, password and code these are, and the place that its tries are counted at.

        A try is counted before it is looked at.
        """
        moment = now()
        with self._database.transaction() as db:
            known = bool(device) and people.knows_device(db, email, digest(device))
            place = f"device {digest(device)[:16]}" if known else address
            held = hold_back(db, self._settings, email, place, moment, known)
            attempt = SignInFailure(email=email.lower(), address=place, at=moment)
            db.add(attempt)
            db.flush()
            user = people.user_by_email(db, email)
            firm = db.get(Firm, user.firm_id) if user else None
        right = matches(user.password_hash if user else None, password)
        if held is not None and (not code or user is None or user.totp_secret is None):
            # Nothing is told of the password: the account is being tried from everywhere.
            self._take_back(attempt)
            raise held
        if user is None or firm is None or not right or user.locked_at is not None:
            self._note_failure(user, firm, address, "locked" if right else "password")
            raise BadInputError("E-mail and password do not fit together." if held is None else _NOT_TOGETHER)
        if user.totp_secret is None:
            return user, firm, place
        if not code:
            # Half of it was right: not a try that failed. Those before it stay, or codes could be guessed for ever.
            self._take_back(attempt)
            raise SecondFactorError("Enter the code from your authenticator.")
        if not self._is_fresh(user, code):
            self._note_failure(user, firm, address, "code")
            wrong = "That code does not fit, or was used already. Wait for the next one."
            raise BadInputError(wrong if held is None else _NOT_TOGETHER)
        return user, firm, place

    def _is_fresh(self, user: User, code: str) -> bool:
        """Whether a code is one of somebody's second factor and was not used yet; it is used by this."""
        step = step_of(self._sealer.unseal(user.totp_secret or ""), code)
        with self._database.transaction() as db:
            held = people.find_user(db, user.firm_id, user.id, lock=True)
            if step is None or held is None or step <= (held.totp_step or 0):
                return False
            held.totp_step = step
            return True

    def _take_back(self, attempt: SignInFailure) -> None:
        with self._database.transaction() as db:
            people.forget_failure(db, attempt.id)

    def _note_failure(self, user: User | None, firm: Firm | None, address: str, why: str) -> None:
        """Set a failed try down; where it is one too many, its person is told."""
        if user is None or firm is None:
            return
        person, moment = Person(user.id, firm.id, user.name, firm.name, address=address), now()
        tell = False
        with self._database.transaction() as db:
            audit.note(db, person, Deed.SIGN_IN_FAILED, user.email, why)
            if is_held(db, self._settings, user.email, moment):
                mine = people.find_user(db, firm.id, user.id, lock=True)
                told_from = moment - timedelta(minutes=self._settings.sign_in_window_minutes)
                if mine is not None and (mine.held_at is None or mine.held_at < told_from):
                    mine.held_at, tell = moment, True
                    audit.note(db, person, Deed.SIGN_INS_HELD, user.email)
        if tell and self._mail is not None:
            self._mail.tell(user.email, "Somebody tries passwords on your account", _TRIED)

    def _idle_since(self, moment: datetime) -> datetime:
        return moment - timedelta(hours=self._settings.session_idle_hours)


def need_right(person: Person, *rights: Right) -> None:
    """Raise NotAllowedError where a person has none of these rights."""
    if not person.rights.intersection(rights):
        who = ", ".join(WHO_MAY[right] for right in rights)
        raise NotAllowedError(f"That is for {who}. Ask an admin of your firm for the role.")


def step_of(secret: str, code: str) -> int | None:
    """Return which 30 s step a code of the second factor is of, now or one to either side; none for a wrong code."""
    code = "".join(code.split())
    here = int(now().timestamp()) // _TOTP_STEP_S
    made = pyotp.TOTP(secret)
    for step in (here, here - 1, here + 1):
        if code.isascii() and secrets.compare_digest(made.at(step * _TOTP_STEP_S), code):
            return step
    return None


def _person(session: SignedIn, user: User, firm: Firm, address: str) -> Person:
    return Person(
        user_id=user.id,
        firm_id=user.firm_id,
        name=user.name,
        firm=firm.name,
        email=user.email,
        roles=tuple(user.roles),
        csrf_token=session.csrf_token,
        session_id=session.id,
        proved_at=session.proved_at,
        address=address,
        second_factor=user.totp_secret is not None,
        held_at=user.held_at,
    )


def _short(device: str) -> str:
    return "".join(each for each in device if each.isprintable())[:_MOST_DEVICE]
