"""What comes into the house: the supply, its earthing, the main fuse, the tails, the bonding."""

from typing import Annotated, Literal

from pydantic import Field

from lumbek.core.model.text import CsaMm2, Name, Note, OhmsUpTo, RatingA
from lumbek.core.value import Frozen

Earthing = Literal["TN-S", "TN-C-S", "TT"]
Origin = Literal["measured", "declared"]


def greatest_known_ohm(read_ohm: float, noted_ohm: float | None, origin: Origin | None) -> float:
    """Return what counts of a loop or an electrode that was read, Ω, beside what was noted of it before.

    A measurement stands for what was only declared. Else the greater counts: it is no better than its worst figure.
    """
    return read_ohm if noted_ohm is None or origin == "declared" else max(read_ohm, noted_ohm)


class MainFuse(Frozen):
    """The distributor's cut-out fuse."""

    standard: Literal["bs88-3", "bs88-2", "bs1361", "iec60269", "unknown"] = "unknown"
    rating_a: RatingA | None = None


class Tails(Frozen):
    """The consumer's tails from the meter to the board."""

    csa_mm2: CsaMm2 | None = None
    length_m: Annotated[float, Field(ge=0.01, le=100)] | None = None
    own_device: bool = False


ServiceKind = Literal["water", "gas", "oil", "steel", "lightning", "other"]


class Service(Frozen):
    """A pipe or part that comes in from outside, and its bonding."""

    what: ServiceKind = "water"
    material: Literal["metal", "plastic", "unknown"] = "unknown"
    bonding_mm2: CsaMm2 | None = None
    bonded: Literal["yes", "no", "unknown"] = "unknown"
    within_600mm: bool | None = None


class Supply(Frozen):
    """The supply as surveyed. None means that nobody has found out yet."""

    earthing: Earthing | None = None
    phases: Literal[1, 3] = 1
    ze_ohm: Annotated[OhmsUpTo, Field(le=2000)] | None = None
    ze_origin: Origin | None = None
    fault_current_ka: Annotated[float, Field(ge=0.001, le=100, allow_inf_nan=False)] | None = None
    fault_current_origin: Origin | None = None
    # The conditional rating of the board's enclosure behind the service fuse, by its maker (16 kA is usual).
    board_conditional_ka: Annotated[float, Field(ge=1, le=50)] | None = None
    main_fuse: MainFuse = MainFuse()
    # What the distributor lets the house draw, where that is less than its fuse carries.
    declared_limit_a: RatingA | None = None
    tails: Tails = Tails()
    earthing_conductor_mm2: CsaMm2 | None = None
    services: Annotated[tuple[Service, ...], Field(max_length=12)] = ()
    higher_risk: bool = False
    surge_protection: Literal["fitted", "declined", "unknown"] = "unknown"
    board: Name = ""
    notes: Note = ""
