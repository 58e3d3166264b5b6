"""The kinds of short text and number that the model is made of, with the limits of what is sane."""

from typing import Annotated

from pydantic import AfterValidator, Field, StringConstraints


def printable(text: str) -> str:
    """Refuse control characters and halves of characters: no keyboard gives them, and PostgreSQL cannot store them."""
    for character in text:
        code = ord(character)
        if (code < 32 and character not in "\n\t") or code == 127 or 0xD800 <= code < 0xE000:
            raise ValueError("holds a character that cannot be printed")
    return text


def _no_dust(value: float) -> float:
    """Refuse figures above zero that nobody can mean: dividing by them would leave no number."""
    if 0 < value < LEAST:
        raise ValueError(f"must be 0, or {LEAST:.9f} or more")
    return value


LEAST = 1e-9
Name = Annotated[str, StringConstraints(strip_whitespace=True, max_length=80), AfterValidator(printable)]
GivenName = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80), AfterValidator(printable)
]
Note = Annotated[str, StringConstraints(strip_whitespace=True, max_length=2000), AfterValidator(printable)]
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
