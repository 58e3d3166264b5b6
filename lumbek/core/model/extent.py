"""What a job is about: what was there before, what is done, what of it is covered and tested."""

from typing import Annotated, Literal

from pydantic import Field

from lumbek.core.model.text import Note
from lumbek.core.value import Frozen

# Of a job, a board or a circuit as a whole; legs and points that differ say so themselves.
WholeState = Literal["new", "altered", "as-found"]
Year = Annotated[int, Field(ge=1880, le=2200)]
# What is done: an installation with all that belongs to it, or a change of what is drawn, which covers that and what
# it relies on, and nothing else.
Work = Literal["whole", "change"]
# Where Zs and R1+R2 are read: at every point, at the end of each run and branch, at those and a share of the others.
Sampling = Literal["every", "ends", "share"]


class Extent(Frozen):
    """What a job covers. What is outside is asked of nobody; what is inside relies on is."""

    state: WholeState = "new"
    # When what exists was put in, as far as anybody knows.
    year: Year | None = None
    work: Work = "whole"
    sampling: Sampling = "every"
    # What was agreed not to be looked at, and with whom.
    limits: Note = ""

    @property
    def is_change(self) -> bool:
        """Whether it covers a change of something that exists, and nothing else."""
        return self.work == "change"


WHOLE = Extent()
