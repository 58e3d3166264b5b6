"""Sealing what must be read again and may not lie open in the database: secrets of second factors.

The key is neither in the database nor in its backups: whoever has those has no codes by that. Sealed by Fernet
(AES-128-CBC with HMAC-SHA-256) of the `cryptography` library.
"""

from cryptography.fernet import Fernet, InvalidToken

from lumbek.services.errors import BadInputError
from lumbek.services.key_file import KeyFile

# What is sealed begins so; anything else was kept before there was a key.
_SEALED = "sealed:"
_OTHER_KEY = (
    "Your second factor cannot be read here: this server has another key than the one it was sealed with. "
    "Put the old key back, or take the factor off with `lumbek admin reset`."
)


class Sealer:
    """Seals and opens by one key, kept in a file."""

    def __init__(self, key_file: str) -> None:
        self._file = KeyFile(key_file)
        self._key: Fernet | None = None

    def seal(self, secret: str) -> str:
        """Return a secret sealed."""
        return _SEALED + self._fernet().encrypt(secret.encode()).decode()

    def unseal(self, kept: str) -> str:
        """Return what was sealed, or kept before there was a key. Raises BadInputError for what another key sealed."""
        if not kept.startswith(_SEALED):
            return kept
        try:
            return self._fernet().decrypt(kept.removeprefix(_SEALED).encode()).decode()
        except InvalidToken as error:
            raise BadInputError(_OTHER_KEY) from error

    def _fernet(self) -> Fernet:
        if self._key is None:
            self._key = Fernet(self._file.key())
        return self._key


def is_sealed(kept: str) -> bool:
    """Whether a secret is sealed."""
    return kept.startswith(_SEALED)
