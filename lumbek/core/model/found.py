"""What was found on a job: a board traced, cables belled out, why an RCD tripped, a fault. Records, only added."""

from typing import Annotated, Literal

from pydantic import Field

from lumbek.core.model.reading import Stamp
from lumbek.core.model.text import GivenName, Id, Name, Note
from lumbek.core.value import Frozen

FoundKind = Literal["traced", "belled", "tripped", "fault"]


class FoundLine(Frozen):
    """One of several: an outlet and its breaker, a cable and its far end; or why it could not be told."""

    name: GivenName
    belongs_to: Name = ""
    why: Note = ""


class FoundMade(Frozen):
    """What somebody found: of a circuit by its number, or of a board, or of the house where neither is said."""

    kind: FoundKind
    title: Annotated[Note, Field(min_length=1)]
    circuit: Annotated[int, Field(ge=1, le=9999)] | None = None
    board: Id | None = None
    lines: Annotated[tuple[FoundLine, ...], Field(max_length=400)] = ()


class FoundKept(FoundMade):
    """A record as it is kept: who found it, and when."""

    id: Id
    by: Name
    at: Stamp
