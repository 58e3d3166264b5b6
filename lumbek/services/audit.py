"""The audit: who did what, from where. Written in the transaction of what was done; read by admins."""

from datetime import datetime
from uuid import UUID

from sqlalchemy.orm import Session

from lumbek.core.value import Frozen
from lumbek.services.deeds import Deed
from lumbek.services.person import Person
from lumbek.store import audit as store
from lumbek.store.audit import AuditAsked, LineAbout
from lumbek.store.database import Database
from lumbek.store.models import Audit, User
from lumbek.store.people import users_of

MOST_LINES = 100


class AuditLine(Frozen):
    """Something that was done."""

    id: int
    at: datetime
    by: str
    action: str
    # What it was done to: by its name where it is a job or a circuit, and then in which job.
    subject: str
    about: str
    job_id: UUID | None
    address: str
    detail: str


class Somebody(Frozen):
    """Somebody of the firm, to ask for what they did."""

    id: UUID
    name: str


class AuditPage(Frozen):
    """Some of the audit, the newest first; `before` is where the next page begins, where there is one."""

    lines: tuple[AuditLine, ...]
    before: int | None
    actions: tuple[str, ...]
    people: tuple[Somebody, ...]


def note(db: Session, person: Person, action: Deed, subject: object, detail: str = "") -> None:
    """Set down that a person did something."""
    store.add(db, person.firm_id, person.user_id, person.address, action, str(subject), detail)


def note_from_shell(db: Session, firm_id: UUID, action: Deed, subject: str, detail: str = "") -> None:
    """Set down that somebody at the server's shell did something."""
    store.add(db, firm_id, None, "shell", action, subject, detail)


def note_by_link(db: Session, user: User, address: str, action: Deed) -> None:
    """Set down what somebody did with a link that let nobody in."""
    store.add(db, user.firm_id, user.id, address, action, user.email)


class AuditService:
    """Reading the audit of a firm, and setting down what leaves no other trace."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def note(self, person: Person, action: Deed, subject: UUID, detail: str = "") -> None:
        """Set down something that changed nothing else, such as an export."""
        with self._database.transaction() as db:
            note(db, person, action, subject, detail)

    def page(self, person: Person, asked: AuditAsked) -> AuditPage:
        """Return a page of the firm's audit."""
        with self._database.transaction() as db:
            rows = store.page(db, person.firm_id, asked, MOST_LINES + 1)
            named = store.named(db, person.firm_id, [each for row, _ in rows if (each := _id_in(row.subject))])
            about = {str(key): each for key, each in named.items()}
            lines = tuple(_line(row, name, about.get(row.subject)) for row, name in rows[:MOST_LINES])
            more = len(rows) > MOST_LINES
            return AuditPage(
                lines=lines,
                before=lines[-1].id if more else None,
                actions=tuple(store.actions(db, person.firm_id)),
                people=tuple(Somebody(id=each.id, name=each.name) for each in users_of(db, person.firm_id)),
            )


def _line(row: Audit, name: str | None, about: LineAbout | None) -> AuditLine:
    return AuditLine(
        id=row.id,
        at=row.at,
        by=name or ("the shell" if row.address == "shell" else "nobody signed in"),
        action=row.action,
        subject=row.subject,
        about=row.subject if about is None else about.words,
        job_id=None if about is None else about.job_id,
        address=row.address,
        detail=row.detail,
    )


def _id_in(subject: str) -> UUID | None:
    try:
        return UUID(subject)
    except ValueError:
        return None
