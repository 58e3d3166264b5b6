"""The kinds of short text and number that the model is made of, with the limits of what is sane."""

from typing import Annotated

from pydantic import AfterValidator, BeforeValidator, Field, StringConstraints

# What turns the direction of writing round, and what takes no room: two names that look alike must be alike.
_DIRECTION = "\u061c\u200e\u200f\u202a\u202b\u202c\u202d\u202e\u2066\u2067\u2068\u2069"
_NO_ROOM = "\u00ad\u200b\u2028\u2029\u2060\ufeff"
_UNSEEN = dict.fromkeys(map(ord, _DIRECTION + _NO_ROOM))
# Joiners: part of some scripts and of many pictures, nothing beside plain letters.
_JOINERS = "\u200c\u200d"


def printable(text: str) -> str:
    """Refuse control characters and halves of characters: no keyboard gives them, and PostgreSQL cannot store them."""
    for character in text:
        code = ord(character)
        if (code < 32 and character not in "\n\t") or code == 127 or 0xD800 <= code < 0xE000:
            raise ValueError("holds a character that cannot be printed")
    return text


def cleaned(text: object) -> object:
    """Return a text without marks that cannot be seen; what is no text goes on as it is."""
    if not isinstance(text, str) or text.isascii():
        return text
    text = text.translate(_UNSEEN)
    return "".join(
        each
        for at, each in enumerate(text)
        if each not in _JOINERS or (0 < at < len(text) - 1 and not (text[at - 1] + text[at + 1]).isascii())
    )


def _no_dust(value: float) -> float:
    """Refuse figures above zero that nobody can mean: dividing by them would leave no number."""
    if 0 < value < LEAST:
        raise ValueError(f"must be 0, or {LEAST:.9f} or more")
    return value


LEAST = 1e-9
_Shown = (AfterValidator(printable), BeforeValidator(cleaned))
Name = Annotated[str, StringConstraints(strip_whitespace=True, max_length=80), *_Shown]
GivenName = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80), *_Shown]
Note = Annotated[str, StringConstraints(strip_whitespace=True, max_length=2000), *_Shown]
Id = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9][A-Za-z0-9_-]{0,31}$")]

# Final circuits of a dwelling: figures beyond these, or too small to be meant, are slips of
# the finger, and are refused as such.
LengthM = Annotated[float, Field(ge=0.001, le=500, allow_inf_nan=False)]
CsaMm2 = Annotated[float, Field(ge=0.1, le=120, allow_inf_nan=False)]
CurrentA = Annotated[float, Field(ge=0, le=400, allow_inf_nan=False), AfterValidator(_no_dust)]
RatingA = Annotated[float, Field(ge=0.1, le=400, allow_inf_nan=False)]
PowerW = Annotated[float, Field(ge=0, le=100_000, allow_inf_nan=False), AfterValidator(_no_dust)]
LeakageMa = Annotated[float, Field(ge=0, le=100, allow_inf_nan=False), AfterValidator(_no_dust)]
# Whatever a meter shows.
Figure = Annotated[float, Field(ge=0, le=100_000, allow_inf_nan=False), AfterValidator(_no_dust)]
OhmsUpTo = Figure
TemperatureC = Annotated[float, Field(ge=-20, le=90, allow_inf_nan=False)]
