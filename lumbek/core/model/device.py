"""The overcurrent device of a circuit and its residual-current protection."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from lumbek.core.model.text import Note, RatingA
from lumbek.core.value import Frozen

Standard = Literal[
    "bs-en-60898",
    "bs-en-61009",
    "bs-en-61008",
    "bs88-2",
    "bs88-3",
    "iec60269",
    "bs1361",
    "bs3036",
    "bs3871",
    "bs1362",
    "switch",
]
# Letters of today's breakers, figures of the types 1 to 4 that BS 3871 had.
Curve = Literal["B", "C", "D", "1", "2", "3", "4"]
RcdType = Literal["AC", "A", "F", "B"]
Unknown = Literal["unknown"]


class Rcd(Frozen):
    """A residual-current device: in the circuit's own device, or one it shares at the board.

    A rated residual current or a type that is not said is not known.
    """

    rated_ma: Annotated[float, Field(ge=0.1, le=1000)] | None = None
    type: RcdType | None = None
    delayed: bool = False
    shared: bool = False
    # What is said against it: the circuit says that it shares one, and its board has none. It is not credited then.
    disputed: Note = ""

    def is_additional(self, most_ma: float) -> bool | None:
        """Whether it gives additional protection: undelayed, and of no more than this (415.1.1); None: not known."""
        if self.disputed:
            return None
        if self.delayed:
            return False
        return None if self.rated_ma is None else self.rated_ma <= most_ma


class Device(Frozen):
    """The overcurrent device at the board, and the residual-current protection that goes with it.

    An RCD of None is none; one that nobody has spoken of is unknown, and is not credited.
    """

    standard: Standard = "bs-en-61009"
    curve: Curve | None = "B"
    rating_a: RatingA = 32
    breaking_capacity_ka: Annotated[float, Field(ge=0.01, le=100)] | None = None
    # The greatest energy it lets through at the fault current of its board, by its maker.
    let_through_a2s: Annotated[float, Field(ge=1, le=1e7)] | None = None
    rcd: Rcd | Unknown | None = "unknown"
    afdd: bool = False
    # Whether it may be fed from either side, as a generator behind it asks; None where nobody has looked.
    bidirectional: bool | None = None
    # Whether it breaks every live conductor, the neutral too, as charging asks; None where nobody has looked.
    all_poles: bool | None = None

    @model_validator(mode="after")
    def _curve_fits_standard(self) -> Self:
        breaker = self.standard in ("bs-en-60898", "bs-en-61009", "bs3871")
        if breaker and self.curve is None:
            raise ValueError("curve: a circuit-breaker is type B, C or D; one of BS 3871 is type 1 to 4")
        if not breaker and self.curve is not None:
            raise ValueError("curve: a fuse or switch has none")
        if breaker and (self.standard == "bs3871") != (self.curve in ("1", "2", "3", "4")):
            raise ValueError("curve: types 1 to 4 are those of BS 3871, and it has no others")
        return self

    @property
    def known_rcd(self) -> Rcd | None:
        """The RCD that is known to be in it; None where there is none, and where nobody has said."""
        return None if self.rcd == "unknown" else self.rcd

    @property
    def may_have_rcd(self) -> bool:
        """Whether it has an RCD, or may have one."""
        return self.rcd is not None
