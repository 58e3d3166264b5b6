"""A final circuit: points joined by legs of cable, the device ahead of it, and what it is for."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from lumbek.core.model.text import (
    CsaMm2,
    CurrentA,
    GivenName,
    Id,
    LengthM,
    Name,
    Note,
    PowerW,
    RatingA,
    TemperatureC,
)
from lumbek.core.result import Frozen

BOARD = "board"
MOST_POINTS = 200
MOST_LEGS = 400

Insulation = Literal["pvc70", "xlpe90"]
CircuitKind = Literal[
    "sockets",
    "lighting",
    "cooker",
    "shower",
    "water-heater",
    "storage-heater",
    "floor-heating",
    "boiler",
    "fixed-appliance",
    "alarms",
    "outdoor",
    "vehicle-charging",
    "three-phase",
]
DiversityClass = Literal["lighting", "cooker", "instantaneous", "thermostatic", "fixed-heating", "sockets", "vehicle"]
# The d.c. part of a load's leakage: what type of RCD still sees a fault beside it.
DcPart = Literal["none", "pulsed", "mixed", "smooth-6ma", "smooth"]
PointKind = Literal[
    "socket-single",
    "socket-twin",
    "fused-spur",
    "fixed",
    "control-with-socket",
    "light",
    "switch",
    "cord-switch",
    "joint",
]
# Kinds that draw no current themselves.
PASSIVE_KINDS: tuple[PointKind, ...] = ("joint", "switch", "cord-switch")
State = Literal["new", "as-found"]
FuseA = Literal[3, 5, 13]


class Load(Frozen):
    """What a point is expected to draw: a current, or a power that is divided by U0 and power factor."""

    name: Name = ""
    current_a: CurrentA | None = None
    power_w: PowerW | None = None
    power_factor: Annotated[float, Field(gt=0, le=1)] = 1.0
    diversity: DiversityClass | None = None
    leakage_ma: Annotated[float, Field(ge=0, le=100)] = 0.0
    dc: DcPart = "none"

    @model_validator(mode="after")
    def _one_measure(self) -> Self:
        if (self.current_a is None) == (self.power_w is None):
            raise ValueError("give either current_a or power_w")
        return self

    def design_current_a(self, u0_v: float, phases: int = 1) -> float:
        """Return the line current in A: as given, or P / (U0 cos phi), shared by the lines of three phases."""
        if self.current_a is not None:
            return self.current_a
        return (self.power_w or 0.0) / (u0_v * self.power_factor * phases)


class Point(Frozen):
    """A place where cable ends: socket, switch, light, joint, equipment."""

    id: Id
    name: Name = ""
    room: Name = ""
    kind: PointKind = "socket-twin"
    state: State = "new"
    fuse_a: FuseA | None = None
    # Where in a bath or shower room it sits; None where it is in no such room.
    zone: Literal["0", "1", "2", "outside"] | None = None
    loads: Annotated[tuple[Load, ...], Field(max_length=20)] = ()

    @model_validator(mode="after")
    def _only_fused_spurs_have_fuses(self) -> Self:
        if self.fuse_a is not None and self.kind != "fused-spur":
            raise ValueError("fuse_a: only a fused spur has a fuse")
        return self

    @property
    def title(self) -> str:
        """The name as a person says it, with the room where there is one."""
        name = self.name or self.id
        return f"{name}, {self.room}" if self.room else name


class Cable(Frozen):
    """A cable by type, insulation and conductor sizes in mm²; a cpc of None is the usual one for the type.

    The cpc is a core, the steel armour, or a metal conduit whose resistance its maker states.
    """

    type: Literal[
        "flat-twin-and-earth", "flat-three-core-and-earth", "single-core", "multicore", "armoured", "flex"
    ] = "flat-twin-and-earth"
    insulation: Insulation = "pvc70"
    csa_mm2: CsaMm2 = 2.5
    cpc_mm2: CsaMm2 | None = None
    cpc_by: Literal["core", "armour", "conduit"] = "core"
    cores: Literal[2, 3, 4] = 3
    conduit_milliohm_per_m: Annotated[float, Field(gt=0, le=100)] | None = None
    colours: Literal["harmonised", "uk-before-2004"] = "harmonised"

    @model_validator(mode="after")
    def _cpc_is_there(self) -> Self:
        if self.cpc_by == "armour" and self.type != "armoured":
            raise ValueError("cpc_by: only an armoured cable has armour")
        if self.cpc_by == "conduit" and self.type != "single-core":
            raise ValueError("cpc_by: only singles run in conduit")
        return self


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
    arrangement: Literal["bunched-or-enclosed", "single-layer-on-wall-or-floor", "single-layer-under-ceiling"] = (
        "bunched-or-enclosed"
    )
    insulation_mm: Annotated[float, Field(ge=0, le=5000)] = 0.0
    depth_m: Annotated[float, Field(gt=0, le=3)] | None = None
    soil_km_w: Annotated[float, Field(gt=0, le=5)] | None = None

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
    # Line conductor end to end, measured: gives the length of an old leg that cannot be seen.
    measured_r1_ohm: Annotated[float, Field(gt=0, le=100)] | None = None
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


class Rcd(Frozen):
    """A residual-current device: in the circuit's own device, or one it shares at the board."""

    rated_ma: Annotated[float, Field(gt=0, le=1000)] = 30
    type: Literal["AC", "A", "F", "B"] = "A"
    delayed: bool = False
    shared: bool = False


class Device(Frozen):
    """The overcurrent device at the board, and the residual-current protection that goes with it."""

    standard: Literal["bs-en-60898", "bs-en-61009", "bs88-2", "bs88-3", "bs3036", "bs1362", "switch"] = "bs-en-61009"
    curve: Literal["B", "C", "D"] | None = "B"
    rating_a: RatingA = 32
    breaking_capacity_ka: Annotated[float, Field(gt=0, le=100)] | None = 6
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


class Ahead(Frozen):
    """One thing between the origin and the circuit's own device, origin first: a device, or a feed cable.

    A feed's current is that of everything it feeds; None takes the circuit's own.
    """

    name: Name = ""
    device: Device | None = None
    feed: Cable | None = None
    length_m: LengthM | None = None
    method: Annotated[str, Field(max_length=4)] = "C"
    current_a: CurrentA | None = None

    @model_validator(mode="after")
    def _one_thing(self) -> Self:
        if (self.device is None) == (self.feed is None):
            raise ValueError("device: give either a device or a feed")
        if self.feed is not None and self.length_m is None:
            raise ValueError("length_m: a feed has a length")
        return self


class OwnEarth(Frozen):
    """An electrode that takes over from the supply's earth in an outbuilding: a TT island."""

    electrode_ohm: Annotated[float, Field(gt=0, le=10_000)] | None = None


class Surroundings(Frozen):
    """Facts about where a circuit runs that decide its additional protection."""

    concealed_shallow: bool = True
    bath_room: bool = False
    # What it feeds outdoors cuts itself off when the supply loses its neutral.
    lost_neutral_guard: bool = False
    floor_area_m2: Annotated[float, Field(gt=0, le=2000)] | None = None


class Circuit(Frozen):
    """One circuit from its device to its last point. What it is (ring, radial, tree) is read off its legs."""

    number: Annotated[int, Field(ge=1, le=9999)] = 1
    name: GivenName = "New circuit"
    kind: CircuitKind = "sockets"
    state: State = "new"
    device: Device = Device()
    ahead: Annotated[tuple[Ahead, ...], Field(max_length=8)] = ()
    own_earth: OwnEarth | None = None
    cable: Cable = Cable()
    method: Annotated[str, Field(max_length=4)] = "C"
    # Voltage drop with conductors as warm as their load makes them (Ct), not at their insulation's limit.
    drop_with_ct: bool = False
    surroundings: Surroundings = Surroundings()
    points: Annotated[tuple[Point, ...], Field(max_length=MOST_POINTS)] = ()
    legs: Annotated[tuple[Leg, ...], Field(max_length=MOST_LEGS)] = ()
    # Why device or cable differ from what is usual for the kind.
    reason: Note = ""
    notes: Note = ""

    @model_validator(mode="after")
    def _joined_up(self) -> Self:
        ids = [point.id for point in self.points]
        known = set(ids) | {BOARD}
        if BOARD in ids:
            raise ValueError("points: the board is there already; a point cannot be named 'board'")
        _no_twice("points", ids)
        _no_twice("legs", [leg.id for leg in self.legs])
        for leg in self.legs:
            for end, point_id in (("a", leg.a), ("b", leg.b)):
                if point_id not in known:
                    raise ValueError(f"legs: leg {leg.id} ends ({end}) at {point_id!r}, which is no point here")
            if leg.a == leg.b:
                raise ValueError(f"legs: leg {leg.id} starts and ends at {leg.a!r}")
        return self

    def point(self, point_id: str) -> Point:
        """Return the point with this id; KeyError if there is none."""
        for point in self.points:
            if point.id == point_id:
                return point
        raise KeyError(point_id)

    def point_title(self, point_id: str) -> str:
        """Return how a person would name this point, the board included."""
        return "the board" if point_id == BOARD else self.point(point_id).title

    def leg_title(self, leg: Leg) -> str:
        """Return how a person would name this leg: by the points it joins, without their rooms."""
        ends = ("the board" if end == BOARD else self.point(end).name or end for end in (leg.a, leg.b))
        return " to ".join(ends)


def _no_twice(what: str, ids: list[str]) -> None:
    seen: set[str] = set()
    for each in ids:
        if each in seen:
            raise ValueError(f"{what}: the id {each!r} is used twice")
        seen.add(each)
