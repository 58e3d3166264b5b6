"""The audit: who did what, from where. Written in the transaction of what was done; read by admins."""

from datetime import datetime
from uuid import UUID

from sqlalchemy.orm import Session

from lumbek.core.value import Frozen
from lumbek.services.deeds import Deed
from lumbek.services.person import Person
from lumbek.store import audit as store
from lumbek.store.database import Database
from lumbek.store.models import User

MOST_LINES = 100


class AuditLine(Frozen):
    """Something that was done."""

    id: int
    at: datetime
    by: str
    action: str
    subject: str
    address: str
    detail: str


class AuditPage(Frozen):
    """Some of the audit, the newest first; `before` is where the next page begins, where there is one."""

    lines: tuple[AuditLine, ...]
    before: int | None
    actions: tuple[str, ...]


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

    def page(self, person: Person, before: int | None, action: str) -> AuditPage:
        """Return a page of the firm's audit."""
        with self._database.transaction() as db:
            rows = store.page(db, person.firm_id, before, action, MOST_LINES + 1)
            lines = tuple(
                AuditLine(
                    id=row.id,
                    at=row.at,
                    by=name or ("the shell" if row.address == "shell" else "nobody signed in"),
                    action=row.action,
                    subject=row.subject,
                    address=row.address,
                    detail=row.detail,
                )
                for row, name in rows[:MOST_LINES]
            )
            more = len(rows) > MOST_LINES
            return AuditPage(
                lines=lines, before=lines[-1].id if more else None, actions=tuple(store.actions(db, person.firm_id))
            )
