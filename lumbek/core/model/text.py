"""The kinds of short text and number that the model is made of, with the limits of what is sane."""

from typing import Annotated

from pydantic import AfterValidator, Field, StringConstraints


def _printable(text: str) -> str:
    """Refuse control characters, which no keyboard gives and PostgreSQL cannot store (NUL)."""
    for character in text:
        if (ord(character) < 32 and character not in "\n\t") or character == "\x7f":
            raise ValueError("holds a character that cannot be printed")
    return text


def _no_dust(value: float) -> float:
    """Refuse figures above zero that nobody can mean: dividing by them would leave no number."""
    if 0 < value < LEAST:
        raise ValueError(f"must be 0, or {LEAST:.9f} or more")
    return value


LEAST = 1e-9
Name = Annotated[str, StringConstraints(strip_whitespace=True, max_length=80), AfterValidator(_printable)]
GivenName = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80), AfterValidator(_printable)
]
Note = Annotated[str, StringConstraints(strip_whitespace=True, max_length=2000), AfterValidator(_printable)]
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
