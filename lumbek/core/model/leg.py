"""A run of cable between two points, made of segments each in its own surroundings."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from lumbek.core.model.cable import Cable
from lumbek.core.model.point import State
from lumbek.core.model.text import Id, LengthM, Name, TemperatureC
from lumbek.core.value import Frozen

BOARD = "board"


Arrangement = Literal["bunched-or-enclosed", "single-layer-on-wall-or-floor", "single-layer-under-ceiling"]


# How cables lie side by side in the ground.
Spacing = Literal["touching", "one-diameter", "0.125 m", "0.25 m"]


class Segment(Frozen):
    """A length of a leg in one set of surroundings; a length of None is not known.

    With `length_to_m` the length is only known to lie between the two.
    """

    length_m: LengthM | None = None
    length_to_m: LengthM | None = None
    method: Annotated[str, Field(max_length=4)] | None = None
    ambient_c: TemperatureC | None = None
    grouped_circuits: Annotated[int, Field(ge=1, le=40)] = 1
    # Of those, others that carry no more than 30 % of their grouped rating: left out of the count.
    lightly_loaded: Annotated[int, Field(ge=0, le=39)] = 0
    arrangement: Arrangement = "bunched-or-enclosed"
    insulation_mm: Annotated[float, Field(ge=0, le=5000)] = 0.0
    spacing: Spacing = "touching"
    depth_m: Annotated[float, Field(ge=0.01, le=3)] | None = None
    soil_km_w: Annotated[float, Field(ge=0.01, le=5)] | None = None

    @property
    def surroundings(self) -> tuple[object, ...]:
        """All that its rating depends on besides its cable: everything said of it but its length."""
        return (
            self.method,
            self.ambient_c,
            self.grouped_circuits,
            self.lightly_loaded,
            self.arrangement,
            self.insulation_mm,
            self.spacing,
            self.depth_m,
            self.soil_km_w,
        )

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        if self.lightly_loaded >= self.grouped_circuits:
            raise ValueError("lightly_loaded: must be fewer than grouped_circuits, which counts this one too")
        if self.length_to_m is not None and (self.length_m is None or self.length_to_m < self.length_m):
            raise ValueError("length_to_m: must be more than length_m, which it extends")
        return self


class Leg(Frozen):
    """A run of cable between two points; the board is the point named `board`."""

    id: Id
    a: Id
    b: Id
    state: State = "new"
    cable: Cable | None = None
    # The way this leg ends in at the board, where that is not the circuit's own: found, not meant.
    other_way: Annotated[int, Field(ge=1, le=9999)] | None = None
    # What tells it from another cable between the same two places: its sheath, where it lies, a mark of one's own.
    mark: Name = ""
    # Whether its length was measured on site: what a plan reckons does not change it.
    taped: bool = False
    # Line conductor end to end, measured: gives the length of an old leg that cannot be seen.
    measured_r1_ohm: Annotated[float, Field(ge=0.001, le=100)] | None = None
    segments: Annotated[tuple[Segment, ...], Field(min_length=1, max_length=12)] = (Segment(),)

    @property
    def length_m(self) -> float | None:
        """The whole length in m, or None while any segment's is unknown."""
        total = 0.0
        for segment in self.segments:
            if segment.length_m is None:
                return None
            total += segment.length_m
        return total

    def other_end(self, point_id: str) -> str:
        """Return the point at the other end of this leg."""
        return self.b if point_id == self.a else self.a
