"""Whether a file is a paper that was issued here, for whoever has it: by the hash of the whole file, or by its code.

It tells who issued it, on which day and whether another stands instead; nothing else, and nothing of what is unknown.
"""

from datetime import timedelta
from typing import Literal

from sqlalchemy import ColumnElement, select
from sqlalchemy.orm import Session, defer

from lumbek.core.value import Frozen
from lumbek.services.clock import now
from lumbek.services.errors import TooManyAttemptsError
from lumbek.store import people
from lumbek.store.database import Database
from lumbek.store.models import Firm, IssuedDocument, SignInFailure


class VerifyAnswer(Frozen):
    """What is said of a file or of a code.

    `unaltered` is the file that was issued; `altered` has the code of one and is another file; `known` is only a code.
    """

    word: Literal["unaltered", "altered", "known", "unknown"]
    firm: str = ""
    title: str = ""
    number: int | None = None
    day: str = ""
    # The day on which another was issued that stands instead, and its number.
    corrected_on: str = ""
    corrected_by: int | None = None


_UNKNOWN = VerifyAnswer(word="unknown")


# So often an address may ask in so long: enough for a stack of papers, too little to guess a code of 128 bits.
_MOST, _WINDOW = 60, timedelta(minutes=10)
_COUNTED_AS = "verify"


class VerifyService:
    """What anybody may ask of a paper."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def count(self, address: str) -> None:
        """Count a question of an address. Raises TooManyAttemptsError."""
        # Apart from sign-ins: a stack of papers keeps nobody of an office out.
        place = f"{_COUNTED_AS} {address}"
        with self._database.transaction() as db:
            if len(people.failures(db, now() - _WINDOW, address=place)) >= _MOST:
                wait = int(_WINDOW.total_seconds())
                raise TooManyAttemptsError("So many papers were asked for from here: try again in ten minutes.", wait)
            db.add(SignInFailure(email=_COUNTED_AS, address=place, at=now()))

    def ask(self, sha256: str, code: str) -> VerifyAnswer:
        """Return what is known of a file by its hash, or by the code on its last page."""
        with self._database.transaction() as db:
            row = _found(db, IssuedDocument.sha256 == sha256) if sha256 else None
            if row is not None:
                return _answer(db, row, "unaltered")
            row = _found(db, IssuedDocument.code == code) if code else None
            if row is None:
                return _UNKNOWN
            return _answer(db, row, "altered" if sha256 else "known")


def _found(db: Session, where: ColumnElement[bool]) -> IssuedDocument | None:
    query = select(IssuedDocument).where(where).options(defer(IssuedDocument.data), defer(IssuedDocument.follows))
    return db.scalars(query.limit(1)).first()


def _answer(db: Session, row: IssuedDocument, word: Literal["unaltered", "altered", "known"]) -> VerifyAnswer:
    last = row
    # The one that stands instead, however often it was corrected.
    while (later := _found(db, IssuedDocument.corrects == last.id)) is not None:
        last = later
    corrected = None if last is row else last
    return VerifyAnswer(
        word=word,
        firm=db.get_one(Firm, row.firm_id).name,
        title=row.document["title"],
        number=row.firm_number,
        day=row.at.date().isoformat(),
        corrected_on="" if corrected is None else corrected.at.date().isoformat(),
        corrected_by=None if corrected is None else corrected.firm_number,
    )
