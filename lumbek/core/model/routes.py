"""What a person says of the ways that cable takes: what each thing costs, what is barred, ways outside the rooms."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from lumbek.core.model.plan import Mm, WallFace
from lumbek.core.model.text import Id, Name
from lumbek.core.value import Frozen

MOST_BARRED, MOST_WAYS = 400, 60
Weight = Annotated[int, Field(ge=0, le=100_000)]


class RouteWeights(Frozen):
    """What each thing costs, in mm of cable that lies free: a hole of 300 is worth 300 mm of going round."""

    # For each bend, each hole through a joist, each through a ceiling or floor into a wall, each floor that is opened.
    bend: Weight = 150
    joist_hole: Weight = 250
    through: Weight = 300
    floor_opened: Weight = 900
    # For each metre let into a wall, by what it is built of; in one that is tiled as much more.
    chase_masonry: Weight = 3000
    chase_hollow: Weight = 800
    chase_tiled: Weight = 9000
    # For each metre laid along a way outside.
    outside: Weight = 1500


class WayOutside(Frozen):
    """A way between two walls that no room has: through the ground, in a duct, clipped to the outside.

    Without a length it is as long as the straight line between the two.
    """

    id: Id
    name: Name = ""
    one: WallFace
    one_mm: Mm
    other: WallFace
    other_mm: Mm
    kind: Literal["buried", "duct", "clipped"] = "buried"
    length_mm: Annotated[int, Field(gt=0, le=500_000)] | None = None
    depth_mm: Mm | None = None

    @model_validator(mode="after")
    def _leads_somewhere(self) -> Self:
        if self.one == self.other:
            raise ValueError("other: a way leads from one wall to another")
        return self


class ForcedWay(Frozen):
    """A leg whose cable goes by a place, whatever it costs."""

    circuit: Id
    leg: Id
    by: Id


class RouteRules(Frozen):
    """What is said of the ways of a house; `barred` walls are not cut, over `closed` rooms no floor is opened."""

    weights: RouteWeights = RouteWeights()
    barred: Annotated[tuple[WallFace, ...], Field(max_length=MOST_BARRED)] = ()
    closed: Annotated[tuple[Id, ...], Field(max_length=MOST_BARRED)] = ()
    outside: Annotated[tuple[WayOutside, ...], Field(max_length=MOST_WAYS)] = ()
    # Legs that go by a mark, each once.
    forced: Annotated[tuple[ForcedWay, ...], Field(max_length=MOST_BARRED)] = ()
    # How much is left at each end, and at a board.
    slack_mm: Annotated[int, Field(ge=0, le=5000)] = 300
    board_slack_mm: Annotated[int, Field(ge=0, le=10_000)] = 1000

    @model_validator(mode="after")
    def _each_leg_once(self) -> Self:
        if len({(each.circuit, each.leg) for each in self.forced}) < len(self.forced):
            raise ValueError("forced: a leg goes by one place")
        return self
