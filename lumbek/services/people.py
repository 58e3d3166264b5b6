"""The people of a firm: invited, given roles, locked, let in again; and what each does about their own account."""

import io
from collections.abc import Callable
from datetime import datetime
from uuid import UUID

import pyotp
from sqlalchemy.orm import Session

from lumbek.core.value import Frozen
from lumbek.services import audit
from lumbek.services.clock import now
from lumbek.services.deeds import Deed
from lumbek.services.errors import BadInputError, NotFoundError
from lumbek.services.links import Made, make_link
from lumbek.services.mail import Mail
from lumbek.services.passwords import hash_password, hold_to_rule
from lumbek.services.person import Person
from lumbek.services.roles import Right, Role, rights_of
from lumbek.services.sealing import Sealer, is_sealed
from lumbek.services.sessions import SessionService, step_of
from lumbek.settings import Settings
from lumbek.store import people
from lumbek.store.database import Database
from lumbek.store.models import User


class PersonLine(Frozen):
    """Somebody of the firm."""

    id: UUID
    name: str
    email: str
    roles: tuple[Role, ...]
    locked: bool
    second_factor: bool
    you: bool


class Invited(Frozen):
    """Somebody who has been invited and has not come yet."""

    id: UUID
    name: str
    email: str
    roles: tuple[Role, ...]
    until: datetime


class PeopleView(Frozen):
    """Everybody of a firm, and who is invited."""

    people: tuple[PersonLine, ...]
    invited: tuple[Invited, ...]


class Handed(Frozen):
    """A link to hand to somebody; whether it went to them by mail too."""

    path: str
    until: datetime
    mailed: bool


class FactorOffer(Frozen):
    """A second factor to set up: the secret to type, the same as an address, and as a picture of squares."""

    secret: str
    uri: str
    svg: str


class PeopleService:
    """Use cases on people."""

    def __init__(self, database: Database, settings: Settings, mail: Mail, sessions: SessionService) -> None:
        self._database, self._settings, self._mail, self._sessions = database, settings, mail, sessions
        self._sealer = Sealer(settings.key_file)

    # What admins do

    def view(self, person: Person) -> PeopleView:
        """Return everybody of the firm."""
        with self._database.transaction() as db:
            return self._view(db, person)

    def invite(self, person: Person, email: str, name: str, roles: tuple[Role, ...]) -> Handed:
        """Return a link that lets somebody join the firm.

        Raises BadInputError for somebody of the firm. Whether there is an account elsewhere is nobody's business here.
        """
        email = email.strip().lower()
        with self._database.transaction() as db:
            there = people.user_by_email(db, email)
            if there is not None and there.firm_id == person.firm_id:
                raise BadInputError("There is an account with this e-mail already.")
            by = person.user_id
            made = make_link(db, self._settings, "join", person.firm_id, None, email, name, roles, made_by=by)
            audit.note(db, person, Deed.INVITED, email, ", ".join(roles))
        return self._handed(made, email, f"{person.name} invites you to {person.firm} on Lumbek")

    def take_back(self, person: Person, invitation_id: UUID) -> PeopleView:
        """Take an invitation back: its link is worthless from here on. Raises NotFoundError."""
        with self._database.transaction() as db:
            email = people.drop_invitation(db, person.firm_id, invitation_id)
            if email is None:
                raise NotFoundError("That invitation was used, or taken back already.")
            audit.note(db, person, Deed.INVITATION_TAKEN_BACK, email)
            return self._view(db, person)

    def set_roles(self, person: Person, user_id: UUID, give: tuple[Role, ...], take: tuple[Role, ...]) -> PeopleView:
        """Give somebody roles and take some off, whatever else they have. The last admin of a firm stays one.

        What is both given and taken is given.
        """

        def change(db: Session, user: User) -> None:
            before = user.roles
            had = set(_known(before)) - set(take) | set(give)
            user.roles = [role.value for role in Role if role in had]
            if set(before) == set(user.roles):
                return
            changed = f"{', '.join(before) or 'none'} → {', '.join(user.roles) or 'none'}"
            audit.note(db, person, Deed.ROLES, user.email, changed)
            if Right.MANAGE not in rights_of(user.roles):
                _note_worthless(db, person, user, people.drop_links_by(db, user.id))

        return self._change(person, user_id, change)

    def lock(self, person: Person, user_id: UUID) -> PeopleView:
        """Let somebody in no more, from this moment on; what they did stays theirs."""

        def change(db: Session, user: User) -> None:
            user.locked_at = now()
            worthless = people.shut_out(db, user.id)
            audit.note(db, person, Deed.LOCKED, user.email)
            _note_worthless(db, person, user, worthless)

        return self._change(person, user_id, change)

    def unlock(self, person: Person, user_id: UUID) -> PeopleView:
        """Let somebody in again."""

        def change(db: Session, user: User) -> None:
            user.locked_at = None
            audit.note(db, person, Deed.UNLOCKED, user.email)

        return self._change(person, user_id, change)

    def reset(self, person: Person, user_id: UUID) -> Handed:
        """Return a link with which somebody sets a new password."""
        with self._database.transaction() as db:
            user = _need(db, person, user_id)
            made = make_link(db, self._settings, "reset", person.firm_id, user=user, made_by=person.user_id)
            audit.note(db, person, Deed.RESET_OFFERED, user.email)
            email = user.email
        return self._handed(made, email, "Set a new password for Lumbek")

    def drop_factor_of(self, person: Person, user_id: UUID) -> PeopleView:
        """Take somebody's second factor off: their phone is gone."""

        def change(db: Session, user: User) -> None:
            _factor_off(db, person, user)

        return self._change(person, user_id, change)

    # What each does for themselves

    def change_password(self, person: Person, current: str, code: str, new: str, device: str = "") -> None:
        """Set a new password; all other sessions end. Raises BadInputError, and as `SessionService.prove` does."""
        hold_to_rule(new, person.email, "new")
        known = self._sessions.prove(person, current, code, device)
        hashed = hash_password(new)
        with self._database.transaction() as db:
            user = _need(db, person, person.user_id, lock=True)
            if user.password_hash != known:
                raise BadInputError("Your password was changed meanwhile.")
            user.password_hash, user.held_at = hashed, None
            people.end_sessions(db, user.id, but=person.session_id)
            audit.note(db, person, Deed.PASSWORD_CHANGED, user.email)

    def offer_factor(self, person: Person) -> FactorOffer:
        """Return a second factor to set up; it counts once `take_factor` has seen a code of it."""
        import segno  # noqa: PLC0415 - seldom wanted

        secret = pyotp.random_base32()
        uri = pyotp.TOTP(secret).provisioning_uri(name=person.email, issuer_name="Lumbek")
        picture = io.BytesIO()
        segno.make(uri, micro=False).save(picture, kind="svg", xmldecl=False, svgns=True, border=2, scale=5)
        return FactorOffer(secret=secret, uri=uri, svg=picture.getvalue().decode())

    def take_factor(self, person: Person, secret: str, code: str) -> None:
        """Turn the second factor on. Raises BadInputError where the code is not one of it."""
        try:
            step = step_of(secret, code)
        except ValueError:
            step = None
        if step is None or len(secret) < 32:
            raise BadInputError("That code does not fit. Is the clock of the phone right?")
        with self._database.transaction() as db:
            user = _need(db, person, person.user_id, lock=True)
            user.totp_secret, user.totp_step = self._sealer.seal(secret), step
            audit.note(db, person, Deed.SECOND_FACTOR_ON, user.email)

    def drop_factor(self, person: Person) -> None:
        """Turn one's own second factor off."""
        with self._database.transaction() as db:
            _factor_off(db, person, _need(db, person, person.user_id, lock=True))

    def _change(self, person: Person, user_id: UUID, change: Callable[[Session, User], None]) -> PeopleView:
        with self._database.transaction() as db:
            # All of them are held, so that two admins cannot each take the other away.
            everybody = people.users_of(db, person.firm_id, lock=True)
            user = next((each for each in everybody if each.id == user_id), None)
            if user is None:
                raise NotFoundError("There is nobody like that here.")
            change(db, user)
            if not any(Role.ADMIN in each.roles and each.locked_at is None for each in everybody):
                raise BadInputError("A firm needs an admin: make somebody else one first.")
            db.flush()
            return self._view(db, person)

    def _view(self, db: Session, person: Person) -> PeopleView:
        return PeopleView(
            people=tuple(
                PersonLine(
                    id=each.id,
                    name=each.name,
                    email=each.email,
                    roles=_known(each.roles),
                    locked=each.locked_at is not None,
                    second_factor=each.totp_secret is not None,
                    you=each.id == person.user_id,
                )
                for each in people.users_of(db, person.firm_id)
            ),
            invited=tuple(
                Invited(id=each.id, name=each.name, email=each.email, roles=_known(each.roles), until=each.expires_at)
                for each in people.links_of(db, person.firm_id, now())
            ),
        )

    def _handed(self, made: Made, email: str, subject: str) -> Handed:
        mailed = self._mail.send(email, subject, made.path, made.until)
        return Handed(path=made.path, until=made.until, mailed=mailed)


def seal_all(database: Database, sealer: Sealer) -> int:
    """Seal every secret of a second factor that was kept before there was a key; return how many."""
    count = 0
    with database.transaction() as db:
        for user in people.with_factor(db):
            if user.totp_secret and not is_sealed(user.totp_secret):
                user.totp_secret, count = sealer.seal(user.totp_secret), count + 1
    return count


def _need(db: Session, person: Person, user_id: UUID, lock: bool = False) -> User:
    user = people.find_user(db, person.firm_id, user_id, lock)
    if user is None:
        raise NotFoundError("There is nobody like that here.")
    return user


def _factor_off(db: Session, person: Person, user: User) -> None:
    user.totp_secret = user.totp_step = None
    audit.note(db, person, Deed.SECOND_FACTOR_OFF, user.email)


def _note_worthless(db: Session, person: Person, user: User, emails: list[str]) -> None:
    """Set down that what somebody made for others is worthless, who may not let anybody in any more."""
    for email in emails:
        audit.note(db, person, Deed.INVITATION_TAKEN_BACK, email or "a new password", f"made by {user.email}")


def _known(roles: list[str]) -> tuple[Role, ...]:
    return tuple(role for role in Role if role.value in roles)
