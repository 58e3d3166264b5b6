"""The kinds of short text and number that the model is made of, with the limits of what is sane."""

from typing import Annotated

from pydantic import AfterValidator, Field, StringConstraints


def _printable(text: str) -> str:
    """Refuse control characters, which no keyboard gives and PostgreSQL cannot store (NUL)."""
    for character in text:
        if ord(character) < 32 and character not in "\n\t":
            raise ValueError("holds a character that cannot be printed")
    return text


Name = Annotated[str, StringConstraints(strip_whitespace=True, max_length=80), AfterValidator(_printable)]
GivenName = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80), AfterValidator(_printable)
]
Note = Annotated[str, StringConstraints(strip_whitespace=True, max_length=2000), AfterValidator(_printable)]
Id = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9][A-Za-z0-9_-]{0,31}$")]

# Final circuits of a dwelling: figures beyond these are slips of the finger, and are refused as such.
LengthM = Annotated[float, Field(gt=0, le=500, allow_inf_nan=False)]
CsaMm2 = Annotated[float, Field(gt=0, le=120, allow_inf_nan=False)]
CurrentA = Annotated[float, Field(ge=0, le=400, allow_inf_nan=False)]
RatingA = Annotated[float, Field(gt=0, le=400, allow_inf_nan=False)]
PowerW = Annotated[float, Field(ge=0, le=100_000, allow_inf_nan=False)]
OhmsUpTo = Annotated[float, Field(ge=0, le=100_000, allow_inf_nan=False)]
TemperatureC = Annotated[float, Field(ge=-20, le=90, allow_inf_nan=False)]
