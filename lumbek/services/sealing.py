"""Sealing what must be read again and may not lie open in the database: secrets of second factors.

The key is a file of the server's, made when it is first wanted, and neither in the database nor in its backups: whoever
has those has no codes by that. Sealed by Fernet (AES-128-CBC with HMAC-SHA-256) of the `cryptography` library.
"""

import os
import tempfile
from contextlib import suppress
from pathlib import Path

from cryptography.fernet import Fernet, InvalidToken

from lumbek.services.errors import BadInputError

# What is sealed begins so; anything else was kept before there was a key.
_SEALED = "sealed:"
_OTHER_KEY = (
    "Your second factor cannot be read here: this server has another key than the one it was sealed with. "
    "Put the old key back, or take the factor off with `lumbek admin reset`."
)


class Sealer:
    """Seals and opens by one key, kept in a file."""

    def __init__(self, key_file: str) -> None:
        self._path = Path(key_file).expanduser()
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
            if not self._path.exists():
                self._make()
            self._key = Fernet(self._path.read_bytes().strip())
        return self._key

    def _make(self) -> None:
        """Write a new key, whole from the first moment it is there, and readable to nobody else."""
        self._path.parent.mkdir(parents=True, exist_ok=True)
        handle, name = tempfile.mkstemp(dir=self._path.parent)
        try:
            with os.fdopen(handle, "wb") as file:
                file.write(Fernet.generate_key() + b"\n")
            # Where another process was quicker its key stands.
            with suppress(FileExistsError):
                os.link(name, self._path)
        finally:
            Path(name).unlink()


def is_sealed(kept: str) -> bool:
    """Whether a secret is sealed."""
    return kept.startswith(_SEALED)
