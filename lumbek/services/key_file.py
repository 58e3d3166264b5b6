"""The key of a server: one file, made when it is first wanted, neither in the database nor in its backups.

What other keys there are come of it (HKDF, RFC 5869), each for one use.
"""

import os
import tempfile
from base64 import urlsafe_b64decode
from contextlib import suppress
from pathlib import Path

from cryptography.fernet import Fernet
from cryptography.hazmat.primitives.hashes import SHA256
from cryptography.hazmat.primitives.kdf.hkdf import HKDF


class KeyFile:
    """A key of 256 bits, as Fernet writes it, in a file that only its owner may read."""

    def __init__(self, path: str) -> None:
        self._path = Path(path).expanduser()

    @property
    def is_there(self) -> bool:
        """Whether there is a key already."""
        return self._path.exists()

    def key(self) -> bytes:
        """Return the key, made first where there is none."""
        if not self._path.exists():
            self._make()
        return self._path.read_bytes().strip()

    def derived(self, use: str) -> bytes:
        """Return 256 bits that come of the key, for one use."""
        return HKDF(algorithm=SHA256(), length=32, salt=None, info=use.encode()).derive(urlsafe_b64decode(self.key()))

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
