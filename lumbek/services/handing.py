"""Handing an issued paper over: by a link that ends, through the mail; each time it is opened is in the audit."""

import secrets
from datetime import timedelta
from uuid import UUID

from lumbek.core.value import Frozen
from lumbek.services import audit
from lumbek.services.clock import now
from lumbek.services.deeds import Deed
from lumbek.services.errors import BadInputError, NotFoundError
from lumbek.services.mail import Mail
from lumbek.services.person import Person
from lumbek.services.sessions import digest
from lumbek.services.writes import done_on
from lumbek.settings import Settings
from lumbek.store import audit as audit_store
from lumbek.store import issued as store
from lumbek.store.database import Database
from lumbek.store.models import IssuedDocument, PaperLink

_DAYS = 30
_GONE = "This link is too old, or was never made. Ask for a new one."


class HandedOver(Frozen):
    """A link to a paper, until when it is good, and whether a mail server took it."""

    path: str
    until: str
    mailed: bool


class HandingService:
    """Use cases on handing papers over."""

    def __init__(self, database: Database, settings: Settings, mail: Mail) -> None:
        self._database, self._settings, self._mail = database, settings, mail

    def hand_over(self, person: Person, issued_id: UUID, write_id: UUID, email: str) -> HandedOver:
        """Make a link to a paper and send it. Raises NotFoundError, BadInputError where that was done already."""
        if "@" not in email.strip():
            raise BadInputError("That is no e-mail address.")
        token, until = secrets.token_urlsafe(24), now() + timedelta(days=_DAYS)
        with self._database.transaction() as db:
            row = store.find_issued(db, person.firm_id, issued_id)
            if row is None:
                raise NotFoundError("There is no such document here.")
            if done_on(db, person, write_id, issued_id):
                raise BadInputError("That was handed over already.")
            made = {"issued_id": row.id, "email": email.strip(), "made_by": person.user_id, "expires_at": until}
            db.add(PaperLink(token_hash=digest(token), **made))
            title, number = row.document["title"], row.firm_number
            audit.note(db, person, Deed.HANDED_OVER, row.job_id, f"number {number} to {email.strip()}")
        path = f"/api/handed/{token}"
        words = (
            f"{title}, number {number}, from {person.firm}:\n\n{self._settings.address}{path}\n\n"
            f"Good until {until:%d %B %Y}. Whether a file is as it was issued: {self._settings.address}/verify\n"
        )
        mailed = self._mail.tell(email.strip(), f"{title} from {person.firm}", words)
        return HandedOver(path=path, until=until.date().isoformat(), mailed=mailed)

    def open(self, token: str, address: str) -> tuple[bytes, str]:
        """Return the file that a link leads to, and its name. Raises NotFoundError where it has ended."""
        with self._database.transaction() as db:
            link = db.get(PaperLink, digest(token))
            if link is None or link.expires_at < now():
                raise NotFoundError(_GONE)
            row = db.get_one(IssuedDocument, link.issued_id)
            said = f"number {row.firm_number}, by the link to {link.email}"
            audit_store.add(db, row.firm_id, None, address, Deed.OPENED, str(row.job_id), said)
            return row.data, f"{row.document['title']} {row.firm_number}.pdf"
