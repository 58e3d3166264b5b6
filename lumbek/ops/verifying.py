"""`lumbek verify FILE`: whether a file is a paper that was issued here, and what its signature says.

First the hash of the whole file, held against the papers that are kept; away from the server only the signature is
left, and that never says that nothing was altered.
"""

from pathlib import Path

from sqlalchemy.exc import SQLAlchemyError

from lumbek.exchange.signed_pdf import SignatureSaid, check_pdf
from lumbek.exchange.standing_pdf import hash_of
from lumbek.services.firm_keys import every_certificate
from lumbek.services.verifying import VerifyAnswer, VerifyService
from lumbek.settings import Settings
from lumbek.store.database import Database, DatabaseGoneError

GOOD, BAD, UNREAD = 0, 1, 2


def verify_file(settings: Settings, file: Path, away: bool = False) -> tuple[int, str]:
    """Return 0 for a paper that stands, or away from the server for a signature that is good, and what to say."""
    try:
        data = file.read_bytes()
    except OSError as error:
        return UNREAD, f"{file}: cannot be read: {error.strerror}"
    answer, certificates = (None, ()) if away else _asked(settings, data)
    if answer is None:
        said = check_pdf(data, certificates)
        return (
            GOOD if said.good else BAD
        ), f"{_of_signature(said)} The server was not asked: whether it is unaltered, only it can say."
    if answer.word == "unaltered":
        return (GOOD if not answer.corrected_by else BAD), _of_paper(answer)
    said = check_pdf(data, certificates)
    return BAD, f"Altered or unknown: it is not, byte for byte, a paper that was issued here. {_of_signature(said)}"


def _asked(settings: Settings, data: bytes) -> tuple[VerifyAnswer | None, tuple[bytes, ...]]:
    """Return what the server knows of a file, and every certificate there is; nothing where it does not answer."""
    database = Database(settings.database_url)
    try:
        if not database.answers():
            return None, ()
        with database.transaction() as db:
            certificates = every_certificate(db)
        return VerifyService(database).ask(hash_of(data), ""), certificates
    except (DatabaseGoneError, SQLAlchemyError):
        return None, ()
    finally:
        database.close()


def _of_paper(answer: VerifyAnswer) -> str:
    stands = (
        f" Number {answer.corrected_by} of {answer.corrected_on} stands instead of it." if answer.corrected_by else ""
    )
    return f"Unaltered: {answer.title}, number {answer.number}, issued by {answer.firm} on {answer.day}.{stands}"


def _of_signature(said: SignatureSaid) -> str:
    return f"Signature good, by {said.by}." if said.good else f"Signature not good: {said.why}"
