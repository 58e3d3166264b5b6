"""Passwords: hashed with argon2id, held to a rule that asks for length rather than for signs."""

from threading import BoundedSemaphore

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerifyMismatchError

from lumbek.exchange.problems import Problem
from lumbek.services.errors import BadInputError

LEAST, MOST = 12, 128
_hasher = PasswordHasher()
# So many passwords are hashed at once, and no more: each takes 64 MB for a moment.
_HASHING = BoundedSemaphore(2)
# Compared with when there is no such account, so that both answers take the same time.
# Of a password that was thrown away; hashed anew at every start it would delay each of them by as much.
_NOBODY = "$argon2id$v=19$m=65536,t=3,p=4$bxznnCkRDFJvHWveW0qIQg$c7RiZuOvdDChheA1vkXg7eStrkuLRpZxrpGAnHtFdng"
# Long enough for the rule, and the first that anybody tries.
_COMMON = ("password", "qwerty", "letmein", "welcome", "iloveyou", "administrator", "lumbek", "123456", "abcdef")


def hash_password(password: str) -> str:
    """Return the argon2id hash of a password."""
    with _HASHING:
        return _hasher.hash(password)


def matches(password_hash: str | None, password: str) -> bool:
    """Whether a password is the one that was hashed; for nobody's hash it takes as long to say no."""
    with _HASHING:
        try:
            return _hasher.verify(password_hash or _NOBODY, password) and password_hash is not None
        except (VerifyMismatchError, InvalidHashError):
            return False


def hold_to_rule(password: str, email: str, field: str = "password") -> None:
    """Raise BadInputError for a password that others would guess."""
    reason = _reason(password, email)
    if reason:
        raise BadInputError(f"That password will not do: it {reason}.", [Problem(field=field, reason=reason)])


def _reason(password: str, email: str) -> str:
    plain = password.lower()
    if len(password) < LEAST:
        return f"needs {LEAST} characters or more; four unrelated words do well"
    if len(password) > MOST:
        return f"may have {MOST} characters at most"
    if len(set(plain)) < 5:
        return "is the same few characters over and over"
    if email.split("@", maxsplit=1)[0].lower() in plain and len(email.split("@", maxsplit=1)[0]) > 2:
        return "holds your own name"
    left = plain
    for word in _COMMON:
        left = left.replace(word, "")
    if len(left) < LEAST - 6 and left != plain:
        return "is one of those tried first"
    return ""
