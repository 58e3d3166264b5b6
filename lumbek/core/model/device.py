"""The overcurrent device of a circuit and its residual-current protection."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from lumbek.core.model.text import RatingA
from lumbek.core.value import Frozen

Standard = Literal["bs-en-60898", "bs-en-61009", "bs88-2", "bs88-3", "bs3036", "bs1362", "switch"]
RcdType = Literal["AC", "A", "F", "B"]


class Rcd(Frozen):
    """A residual-current device: in the circuit's own device, or one it shares at the board."""

    rated_ma: Annotated[float, Field(ge=0.1, le=1000)] = 30
    type: RcdType = "A"
    delayed: bool = False
    shared: bool = False

    def is_additional(self, most_ma: float) -> bool:
        """Whether it gives additional protection: undelayed, and of no more than this (415.1.1)."""
        return self.rated_ma <= most_ma and not self.delayed


class Device(Frozen):
    """The overcurrent device at the board, and the residual-current protection that goes with it."""

    standard: Standard = "bs-en-61009"
    curve: Literal["B", "C", "D"] | None = "B"
    rating_a: RatingA = 32
    breaking_capacity_ka: Annotated[float, Field(ge=0.01, le=100)] | None = 6
    rcd: Rcd | None = Rcd()
    afdd: bool = False

    @model_validator(mode="after")
    def _curve_fits_standard(self) -> Self:
        breaker = self.standard in ("bs-en-60898", "bs-en-61009")
        if breaker and self.curve is None:
            raise ValueError("curve: a circuit-breaker is type B, C or D")
        if not breaker and self.curve is not None:
            raise ValueError("curve: a fuse or switch has none")
        return self
