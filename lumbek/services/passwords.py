"""Passwords: hashed with argon2id, held to a rule that asks for length rather than for signs."""

import re
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
# What takes fewer guesses than this, by zxcvbn's reckoning (3: 10^8 and more), is found with no access to the database.
_LEAST_SCORE = 3
# So much of a password is looked at: longer ones are no worse for what follows, and take long to look at.
_LOOKED_AT = 64


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
    from zxcvbn import zxcvbn  # noqa: PLC0415 - its lists are large, and seldom wanted

    # Compared with common passwords, names, words, dates and rows of keys, all shipped with the library.
    found = zxcvbn(password[:_LOOKED_AT], user_inputs=["lumbek", *re.split(r"[@.]", email)])
    if found["score"] < _LEAST_SCORE:
        return _WORDS.get(found["feedback"]["warning"], "is soon guessed: four unrelated words do well")
    return ""


# What the library warns of, in our own words.
_WORDS = {
    "This is a top-10 common password.": "is one of those tried first",
    "This is a top-100 common password.": "is one of those tried first",
    "This is a very common password.": "is one of those tried first",
    "This is similar to a commonly used password.": "is like one of those tried first",
    "A word by itself is easy to guess.": "is a single word: four unrelated ones do well",
    "Names and surnames by themselves are easy to guess.": "is a name: four unrelated words do well",
    "Common names and surnames are easy to guess.": "is a name: four unrelated words do well",
    "Straight rows of keys are easy to guess.": "is a row of keys",
    "Short keyboard patterns are easy to guess.": "is a row of keys",
    "Dates are often easy to guess.": "is a date",
    "Recent years are easy to guess.": "holds a year and little else",
}
