"""Firms, people and the audit from the shell: for a first account, for who has lost every way in, for checking."""

import argparse

from sqlalchemy.orm import Session

from lumbek.services import audit
from lumbek.services.clock import now
from lumbek.services.deeds import Deed
from lumbek.services.errors import BadInputError, NotFoundError
from lumbek.services.firm_keys import add_key
from lumbek.services.links import Made, first_link, make_link
from lumbek.services.roles import Role
from lumbek.services.sessions import SessionService
from lumbek.settings import Settings
from lumbek.store import people
from lumbek.store.chain import holds, verify
from lumbek.store.database import Database
from lumbek.store.models import Firm


def add_to(parser: argparse.ArgumentParser) -> None:
    """Add what an admin does from the shell."""
    doing = parser.add_subparsers(dest="doing", required=True)
    doing.add_parser("list", help="every firm with its people, their roles, and who is locked out")
    doing.add_parser("begin", help="a link to make the first account with, where there is none yet")
    firm = doing.add_parser("firm", help="make a firm, and a link for its first admin")
    firm.add_argument("name")
    firm.add_argument("email")
    person = doing.add_parser("person", help="a link with which somebody joins a firm")
    person.add_argument("firm", help="the firm's name")
    person.add_argument("email")
    person.add_argument("--name", default="")
    person.add_argument("--role", action="append", choices=[role.value for role in Role], default=[])
    key = doing.add_parser("key", help="a new key for a firm to sign papers with; what older ones signed stays good")
    key.add_argument("firm", help="the firm's name")
    for name, words in (
        ("reset", "a link with which somebody sets a new password; their second factor is taken off"),
        ("lock", "let somebody in no more, from this moment on"),
        ("unlock", "let somebody in again"),
    ):
        doing.add_parser(name, help=words).add_argument("email")
    checking = doing.add_parser(
        "verify", help="work the chain over audit and records out again, and say whether it holds"
    )
    checking.add_argument("--kept", default="", metavar="LINKS:HASH", help="a last link that was noted elsewhere")
    doing.add_parser("clear", help="delete sessions and links that are over, and failed sign-ins of the past")


def run(settings: Settings, given: argparse.Namespace) -> None:
    """Do one of them. Raises BadInputError and NotFoundError."""
    database = Database(settings.database_url)
    try:
        if given.doing == "list":
            _list(database)
        elif given.doing == "begin":
            _begin(database, settings)
        elif given.doing in ("firm", "person"):
            _link_to_join(database, settings, given)
        elif given.doing == "key":
            _key(database, settings, given.firm)
        elif given.doing == "verify":
            _verify(database, given.kept)
        elif given.doing == "clear":
            _clear(database, settings)
        else:
            _change(database, settings, given.doing, given.email)
    finally:
        database.close()


def _list(database: Database) -> None:
    with database.transaction() as db:
        for firm in people.firms(db):
            print(firm.name)
            for user in people.users_of(db, firm.id):
                state = "locked out, " if user.locked_at else ""
                factor = "second factor" if user.totp_secret else "no second factor"
                print(f"  {user.email}  {user.name}  {', '.join(user.roles) or 'reader'}  ({state}{factor})")


def _begin(database: Database, settings: Settings) -> None:
    made = first_link(database, settings)
    if made is None:
        raise BadInputError("There is an account already: an admin invites others.")
    _say_link(settings, made)


def _link_to_join(database: Database, settings: Settings, given: argparse.Namespace) -> None:
    email = given.email.strip().lower()
    with database.transaction() as db:
        if "@" not in email or people.user_by_email(db, email):
            raise BadInputError("That is no address, or it has an account already.")
        if given.doing == "firm":
            firm = _new_firm(db, given.name)
            name, roles = "", [Role.ADMIN, Role.SUPERVISOR]
        else:
            firm = _firm_called(db, given.firm)
            name, roles = given.name, [Role(role) for role in given.role]
        made = make_link(db, settings, "join", firm.id, email=email, name=name, roles=tuple(roles))
        audit.note_from_shell(db, firm.id, Deed.INVITED, email, ", ".join(roles))
    _say_link(settings, made)


def _new_firm(db: Session, name: str) -> Firm:
    if not name.strip():
        raise BadInputError("A firm needs a name.")
    firm = Firm(name=name.strip())
    db.add(firm)
    db.flush()
    return firm


def _key(database: Database, settings: Settings, name: str) -> None:
    with database.transaction() as db:
        firm = _firm_called(db, name)
        row = add_key(db, firm.id, settings.key_file, "the shell")
        audit.note_from_shell(db, firm.id, Deed.KEY_CHANGED, str(row.id), f"until {row.until_at.date().isoformat()}")
        print(f"{firm.name} signs with a new key from now on, until {row.until_at.date().isoformat()}.")


def _firm_called(db: Session, name: str) -> Firm:
    for firm in people.firms(db):
        if firm.name == name:
            return firm
    raise NotFoundError(f"There is no firm called {name!r}.")


_DEEDS = {"lock": Deed.LOCKED, "unlock": Deed.UNLOCKED, "reset": Deed.RESET_OFFERED}


def _change(database: Database, settings: Settings, doing: str, email: str) -> None:
    made: Made | None = None
    with database.transaction() as db:
        user = people.user_by_email(db, email)
        if user is None:
            raise NotFoundError(f"There is no account {email}.")
        if doing == "lock":
            user.locked_at = now()
            people.shut_out(db, user.id)
        elif doing == "unlock":
            user.locked_at = None
        else:
            user.totp_secret = user.totp_step = None
            made = make_link(db, settings, "reset", user.firm_id, user=user)
        audit.note_from_shell(db, user.firm_id, _DEEDS[doing], user.email)
    if made is not None:
        _say_link(settings, made)
    else:
        print(f"{email}: {doing}ed.")


def _verify(database: Database, kept: str) -> None:
    links, _, hashed = kept.partition(":")
    if kept and not (links.isdigit() and hashed):
        raise BadInputError("kept: as `verify` says it, the number of links and the last, 512:9f0c…")
    with database.transaction() as db:
        found = verify(db)
        other = kept and holds(db, int(links)) != hashed
    if found.trouble:
        raise BadInputError(f"The chain of the audit does not hold: {found.trouble}.")
    if other:
        raise BadInputError(f"The chain of the audit was made anew: link {links} is another than the one kept.")
    print(f"The chain of the audit holds. Keep this elsewhere: {found.links}:{found.last}")


def _clear(database: Database, settings: Settings) -> None:
    with database.transaction() as db:
        sessions, links, failures = SessionService(database, settings).clear_out(db, now())
    print(f"Deleted {sessions} sessions, {links} links, {failures} failed sign-ins.")


def _say_link(settings: Settings, made: Made) -> None:
    print(f"Hand this over; it works once, for {settings.link_hours} hours:\n{settings.address}{made.path}")
