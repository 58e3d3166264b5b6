"""Links that let somebody in once: to make the first account, to join a firm, to set a new password."""

import secrets
from datetime import datetime, timedelta
from typing import Literal, NamedTuple
from uuid import UUID

from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from lumbek.core.value import Frozen
from lumbek.services import audit
from lumbek.services.clock import now
from lumbek.services.deeds import Deed
from lumbek.services.errors import BadInputError, NotFoundError
from lumbek.services.passwords import hash_password, hold_to_rule
from lumbek.services.person import Person
from lumbek.services.roles import Role
from lumbek.services.sessions import SessionService, digest
from lumbek.settings import Settings
from lumbek.store import people
from lumbek.store.database import Database
from lumbek.store.models import Firm, OneTimeLink, User

Purpose = Literal["begin", "join", "reset"]
_GONE = "This link has been used, or is too old. Ask for a new one."


class LinkView(Frozen):
    """What a link is for: shown before it is used."""

    purpose: Purpose
    firm: str
    email: str
    name: str


class LinkUse(Frozen):
    """What somebody says who uses a link: all that is not known yet."""

    password: str
    email: str = ""
    name: str = ""
    firm: str = ""


class Made(NamedTuple):
    """A link that was made: its token, which is kept nowhere, and how long it is good."""

    token: str
    until: datetime

    @property
    def path(self) -> str:
        """The page that it leads to."""
        return f"/link/{self.token}"


def make_link(
    db: Session,
    settings: Settings,
    purpose: Purpose,
    firm_id: UUID | None = None,
    user: User | None = None,
    email: str = "",
    name: str = "",
    roles: tuple[Role, ...] = (),
    made_by: UUID | None = None,
) -> Made:
    """Return a new link; an earlier one for the same is worthless from here on."""
    people.drop_links(db, purpose, firm_id, user.id if user else None, email)
    made = Made(secrets.token_hex(20), now() + timedelta(hours=settings.link_hours))
    db.add(
        OneTimeLink(
            token_hash=digest(made.token),
            purpose=purpose,
            made_by=made_by,
            firm_id=firm_id,
            user_id=user.id if user else None,
            email=email,
            name=name,
            roles=[role.value for role in roles],
            expires_at=made.until,
        )
    )
    db.flush()
    return made


def first_link(database: Database, settings: Settings) -> Made | None:
    """Return a link to make the first account with; none where there is an account already."""
    with database.transaction() as db:
        return None if people.anybody(db) else make_link(db, settings, "begin")


def has_accounts(database: Database) -> bool:
    """Whether there is any account."""
    with database.transaction() as db:
        return people.anybody(db)


class LinkService:
    """Looking at links, and using them."""

    def __init__(self, database: Database, settings: Settings, sessions: SessionService) -> None:
        self._database, self._settings, self._sessions = database, settings, sessions

    def look(self, token: str) -> LinkView:
        """Return what a link is for. Raises NotFoundError where it is good for nothing any more."""
        with self._database.transaction() as db:
            link = _need(db, token)
            user = db.get(User, link.user_id) if link.user_id else None
            firm = db.get(Firm, link.firm_id) if link.firm_id else None
            return LinkView.model_validate(
                {
                    "purpose": link.purpose,
                    "firm": firm.name if firm else "",
                    "email": user.email if user else link.email,
                    "name": user.name if user else link.name,
                }
            )

    def use(self, token: str, said: LinkUse, address: str, device: str) -> tuple[str, Person] | None:
        """Use a link, once: return the token of a session of whoever it lets in.

        One that sets a password sets it and no more: whoever has the mailbox has no second factor by that. The session
        begins where one signs in.

        Raises NotFoundError, and BadInputError for a password or an address that will not do.
        """
        seen = self.look(token)
        hold_to_rule(said.password, seen.email or said.email)
        hashed = hash_password(said.password)
        try:
            with self._database.transaction() as db:
                link = _need(db, token, lock=True)
                user, firm = _let_in(db, link, said, hashed)
                db.delete(link)
                db.flush()
                if link.purpose == "reset":
                    audit.note_by_link(db, user, address, Deed.RESET)
                    return None
                session, person = self._sessions.begin(db, user, firm, address, device)
                audit.note(db, person, Deed.FIRM_BEGUN if link.purpose == "begin" else Deed.JOINED, user.email)
                return session, person
        except IntegrityError as error:
            if seen.purpose == "join":
                # Whoever invited somebody learns nothing of accounts elsewhere: the link is good for nothing, no more.
                raise NotFoundError(_GONE) from error
            raise BadInputError("There is an account with this e-mail already.") from error


def _need(db: Session, token: str, lock: bool = False) -> OneTimeLink:
    link = people.find_link(db, digest(token), now(), lock)
    if link is None or (link.purpose == "begin" and people.anybody(db)):
        raise NotFoundError(_GONE)
    return link


def _set_anew(db: Session, link: OneTimeLink, hashed: str) -> tuple[User, Firm]:
    """Give the person of a link another password; whoever was signed in by the old one is so no longer."""
    user = people.find_user(db, link.firm_id, link.user_id, lock=True) if link.firm_id and link.user_id else None
    firm = db.get(Firm, link.firm_id)
    if user is None or firm is None or user.locked_at is not None:
        raise NotFoundError(_GONE)
    user.password_hash, user.held_at = hashed, None
    people.end_sessions(db, user.id)
    people.forget_devices(db, user.id)
    return user, firm


def _let_in(db: Session, link: OneTimeLink, said: LinkUse, hashed: str) -> tuple[User, Firm]:
    if link.purpose == "reset":
        return _set_anew(db, link, hashed)
    for field in ("name", "email", "firm") if link.purpose == "begin" else ("name",):
        if not getattr(said, field).strip():
            raise BadInputError(f"{field}: say it.")
    firm = db.get(Firm, link.firm_id) if link.firm_id else Firm(name=said.firm.strip())
    assert firm is not None
    roles = link.roles if link.purpose == "join" else [Role.ADMIN, Role.SUPERVISOR]
    db.add(firm)
    db.flush()
    email = (link.email or said.email).strip().lower()
    user = User(firm_id=firm.id, email=email, name=said.name.strip(), password_hash=hashed, roles=list(roles))
    db.add(user)
    db.flush()
    return user, firm
