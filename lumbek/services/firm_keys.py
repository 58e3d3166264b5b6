"""The keys that firms sign papers with: made when first wanted, sealed by the server's own, changed by command.

AES-256-GCM with the firm and the key's id as associated data: no other firm's row opens, and a dump holds no key.
"""

import os
from uuid import UUID, uuid4

from cryptography.exceptions import InvalidTag
from cryptography.hazmat.primitives.ciphers.aead import AESGCM
from sqlalchemy import select
from sqlalchemy.orm import Session

from lumbek.exchange.signed_pdf import SigningKey, make_key
from lumbek.services.clock import now
from lumbek.services.errors import BadInputError
from lumbek.services.key_file import KeyFile
from lumbek.store.models import Firm, FirmKey

_USE = "lumbek papers"
_NONCE = 12
_OTHER_KEY = (
    "The firm's key cannot be read here: this server has another key than the one it was sealed with. "
    "Put the old key back, or make a new one with `lumbek admin key`."
)


def newest_key(db: Session, firm_id: UUID) -> FirmKey | None:
    """Return the key that a firm signs with now, if it has one."""
    query = select(FirmKey).where(FirmKey.firm_id == firm_id).order_by(FirmKey.from_at.desc(), FirmKey.id)
    return db.scalars(query.limit(1)).first()


def every_certificate(db: Session) -> tuple[bytes, ...]:
    """Return the certificates of every key of every firm here."""
    return tuple(db.scalars(select(FirmKey.certificate)))


def add_key(db: Session, firm_id: UUID, key_file: str, by: str) -> FirmKey:
    """Make a new key for a firm, which signs with it from now on; what older ones signed stays good."""
    firm = db.get_one(Firm, firm_id)
    made, key_id = make_key(firm.name, now()), uuid4()
    nonce = os.urandom(_NONCE)
    sealed = nonce + AESGCM(KeyFile(key_file).derived(_USE)).encrypt(nonce, made.private, _about(firm_id, key_id))
    row = FirmKey(
        id=key_id,
        firm_id=firm_id,
        certificate=made.certificate,
        sealed=sealed,
        from_at=made.from_at,
        until_at=made.until_at,
        by=by,
    )
    db.add(row)
    db.flush()
    return row


def open_key(row: FirmKey, key_file: str) -> SigningKey:
    """Return a key to sign with. Raises BadInputError where another server has sealed it."""
    try:
        private = AESGCM(KeyFile(key_file).derived(_USE)).decrypt(
            row.sealed[:_NONCE], row.sealed[_NONCE:], _about(row.firm_id, row.id)
        )
    except InvalidTag as error:
        raise BadInputError(_OTHER_KEY) from error
    return SigningKey(private, row.certificate, row.from_at, row.until_at)


def _about(firm_id: UUID, key_id: UUID) -> bytes:
    return f"{firm_id}/{key_id}".encode()
