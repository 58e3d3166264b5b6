"""A place where cable ends, and what is expected to draw current there."""

from typing import Annotated, Literal, Self

from pydantic import Field, StringConstraints, model_validator

from lumbek.core.model.accessory import Accessory, Plate
from lumbek.core.model.places import Spot, name_by_id
from lumbek.core.model.terminals import Join, Switch, TerminalName
from lumbek.core.model.text import CsaMm2, CurrentA, Id, LeakageMa, Name, PowerW
from lumbek.core.value import Frozen

DiversityClass = Literal["lighting", "cooker", "instantaneous", "thermostatic", "fixed-heating", "sockets", "vehicle"]
Zone = Literal["0", "1", "2", "outside"]
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
    "isolator",
    "cooker-switch",
    "joint",
    "blank",
    "driver",
    "shaver-socket",
    "charger",
    "source",
    "board",
    "unknown-end",
]
# Kinds that draw no current themselves.
# Kinds that open and close what goes through them.
SWITCH_KINDS: tuple[PointKind, ...] = ("switch", "cord-switch", "isolator", "cooker-switch")
# Kinds where cables are joined, and nothing else: a box, or what was left behind a blank plate.
JOINT_KINDS: tuple[PointKind, ...] = ("joint", "blank")
PASSIVE_KINDS: tuple[PointKind, ...] = (*JOINT_KINDS, *SWITCH_KINDS, "unknown-end")
State = Literal["new", "as-found"]
FuseA = Literal[3, 5, 13]


DimmedBy = Literal["none", "leading", "trailing", "either", "0-10", "push", "dali"]


class Load(Frozen):
    """What a point is expected to draw: a current, or a power that is divided by U0 and power factor.

    With `rated_v` the power is that at another voltage, which a resistance draws less or more than at U0. A `dc` of
    None is not known.
    """

    name: Name = ""
    current_a: CurrentA | None = None
    power_w: PowerW | None = None
    power_factor: Annotated[float, Field(ge=0.01, le=1)] = 1.0
    rated_v: Annotated[float, Field(ge=100, le=500)] | None = None
    diversity: DiversityClass | None = None
    leakage_ma: LeakageMa = 0.0
    dc: DcPart | None = None
    # The terminal that its line is in: a fan beside a light has one of its own.
    line: TerminalName = "L"
    # The peak it takes as it is switched on, as its maker states it.
    inrush_a: Annotated[float, Field(ge=0, le=1000)] | None = None
    # How its driver, or the lamp itself, may be dimmed.
    dimmed_by: DimmedBy | None = None

    @model_validator(mode="after")
    def _one_measure(self) -> Self:
        if (self.current_a is None) == (self.power_w is None):
            raise ValueError("give either current_a or power_w")
        return self

    def design_current_a(self, u0_v: float, phases: int = 1) -> float:
        """Return the line current in A: as given, or P / (U0 cos phi), shared by the lines of three phases.

        What is rated at another voltage is taken as a resistance: P = Pr (U0 / Ur)² (Ohm's law); `rated_v` is that
        between line and neutral.
        """
        if self.current_a is not None:
            return self.current_a
        power_w = (self.power_w or 0.0) * (1.0 if self.rated_v is None else (u0_v / self.rated_v) ** 2)
        return power_w / (u0_v * self.power_factor * phases)


class Driver(Frozen):
    """What makes extra-low voltage out of the mains, and what hangs behind it; None where nobody has said.

    `run_m` and `csa_mm2` are of the cable to the farthest lamp.
    """

    output_v: Annotated[float, Field(ge=1, le=120)] = 24.0
    rated_w: Annotated[float, Field(ge=1, le=2000)] | None = None
    load_w: Annotated[float, Field(ge=0, le=2000)] | None = None
    run_m: Annotated[float, Field(ge=0, le=100)] | None = None
    csa_mm2: CsaMm2 | None = None


class Point(Frozen):
    """A place where cable ends: socket, switch, light, joint, equipment."""

    id: Id
    name: Name = ""
    at: Spot = Spot()
    # What its room is called: follows from the rooms of the house, and stays empty in a design that is kept.
    room: Name = ""
    kind: PointKind = "socket-twin"
    state: State = "new"
    fuse_a: FuseA | None = None
    # Where in a bath or shower room it sits; None where it is in no such room.
    zone: Zone | None = None
    # The zone that the plan has it in, where it sits at a mark: follows from the plan, empty in a design that is kept.
    plan_zone: Zone | None = None
    # How far outside those it is from zone 1.
    from_zone_1_m: Annotated[float, Field(ge=0, le=50)] | None = None
    # The voltage of a separated extra-low-voltage supply that it has instead of the mains.
    selv_v: Annotated[float, Field(ge=1, le=120)] | None = None
    # Whether it is of class II, or a box of insulating material: it needs no cpc. None where nobody has looked.
    class_ii: bool | None = None
    # How tight it is against water and touch, as its marking says: IPX4; empty where nobody has looked.
    ip: Annotated[str, StringConstraints(pattern=r"^(IP[0-6X][0-9X][A-D]?)?$")] = ""
    # Whether charging equipment or a source of power has its own RCD, or a way to isolate it beside it.
    own_rcd: bool | None = None
    isolator: bool | None = None
    # Of a joint: whether somebody can get to it, and whether its maker says that nobody need.
    reached: bool | None = None
    maintenance_free: bool | None = None
    driver: Driver | None = None
    loads: Annotated[tuple[Load, ...], Field(max_length=20)] = ()
    # What is joined otherwise than plainly, and the switches between its terminals.
    joins: Annotated[tuple[Join, ...], Field(max_length=60)] = ()
    switches: Annotated[tuple[Switch, ...], Field(max_length=12)] = ()
    # What is screwed to its box, gang by gang, and the plate.
    accessories: Annotated[tuple[Accessory, ...], Field(max_length=6)] = ()
    plate: Plate = Plate()

    @model_validator(mode="after")
    def _only_fused_spurs_have_fuses(self) -> Self:
        if self.fuse_a is not None and self.kind != "fused-spur":
            raise ValueError("fuse_a: only a fused spur has a fuse")
        return self

    @model_validator(mode="after")
    def _says_what_its_kind_has(self) -> Self:
        if self.kind not in JOINT_KINDS and (self.reached, self.maintenance_free) != (None, None):
            raise ValueError("reached: only of a joint is it asked whether somebody can get to it")
        if self.driver is not None and self.kind != "driver":
            raise ValueError("driver: only a driver has an output of extra-low voltage")
        return self

    @property
    def contacts(self) -> tuple[Switch, ...]:
        """All that opens and closes between its terminals: its switches, and those of its gangs."""
        return (*self.switches, *(accessory.switch for accessory in self.accessories))

    def accessory(self, gang: int) -> Accessory | None:
        """Return what fills a gang of its plate; None where nothing does."""
        return next((each for each in self.accessories if each.gang == gang), None)

    @property
    def title(self) -> str:
        """The name as a person says it, with the room where there is one."""
        name = self.name or self.id
        return f"{name}, {self.room_name}" if self.room_name else name

    @property
    def room_name(self) -> str:
        """What its room is called; as far as its id says so where no house does."""
        return self.room or name_by_id(self.at.room)
