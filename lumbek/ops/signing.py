"""Signing backups, so that one that was forged or changed is told from one that this Lumbek has written.

Ed25519 (RFC 8032) of the `cryptography` library; the key comes of the server's own.
"""

import json

from cryptography.exceptions import InvalidSignature
from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey, Ed25519PublicKey

from lumbek.services.key_file import KeyFile

_USE = "lumbek backups"


class ForgedError(ValueError):
    """What was signed is not as it was signed, or nobody that is trusted has signed it; the message says which."""


def signed(key_file: str, content: bytes) -> tuple[str, str]:
    """Return the signature of some content as a document, and the key it can be checked with."""
    key = Ed25519PrivateKey.from_private_bytes(KeyFile(key_file).derived(_USE))
    public = key.public_key().public_bytes_raw().hex()
    return json.dumps({"key": public, "signature": key.sign(content).hex()}), public


def check_signature(key_file: str, content: bytes, signature: str, trusted: str) -> None:
    """See that some content is as it was signed, by this server or by a key that is trusted. Raises ForgedError."""
    try:
        said = json.loads(signature)
        key, signed_as = bytes.fromhex(said["key"]), bytes.fromhex(said["signature"])
        Ed25519PublicKey.from_public_bytes(key).verify(signed_as, content)
    except (InvalidSignature, ValueError, KeyError, TypeError) as error:
        raise ForgedError("its signature does not hold: it was forged, or changed since it was written") from error
    own = KeyFile(key_file)
    known = {trusted.lower()} if trusted else set()
    if own.is_there:
        known.add(signed(key_file, b"")[1])
    if key.hex() not in known:
        raise ForgedError(
            f"it was signed by another server, whose key is {key.hex()}. "
            "Put that server's key file in place, or, where you know this key, say --signed-by with it"
        )
