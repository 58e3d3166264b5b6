"""What is left in a wall of something that was: cable that feeds nothing any more."""

from typing import Annotated, Literal

from pydantic import Field

from lumbek.core.model.text import Id, LengthM, Name
from lumbek.core.value import Frozen


class Remains(Frozen):
    """Cable cut out of a circuit and left in place: where it started, where it went, and whether it was made safe.

    `at` is the point, or the board, that it hung on. `safe` is whether both its ends are known, terminated and marked;
    None where nobody has said.
    """

    left: Literal["dead", "cut-out"] = "dead"
    at: Id
    to: Name = ""
    length_m: LengthM | None = None
    csa_mm2: Annotated[float, Field(gt=0, le=400)] | None = None
    safe: bool | None = None
