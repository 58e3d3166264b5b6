"""What both rulebooks share: devices, appliances, kinds of circuit, conductor colours, what readings are worth."""

from typing import Annotated, Literal

from pydantic import Field

from lumbek.core.model.cable import Insulation
from lumbek.core.model.point import DcPart, DiversityClass, FuseA, PointKind
from lumbek.core.rulebooks.rules import PackData, UsualPair


class EvidenceRules(PackData):
    """The file `evidence.json`: how far a reading may be from what is there, as a part and in Ω, dead and live.

    Beside readings a leg whose length is drawn has so much of its table's ohms; where the drawing is no more than a
    guess so much. Legs of unknown length are no longer than so many metres together. A ring is looked at in slices.
    """

    dead_part: float
    dead_ohm: float
    live_part: float
    live_ohm: float
    known_part: tuple[float, float]
    guessed_part: tuple[float, float]
    unknown_together_m: float
    ring_slices: int


class DeviceType(PackData):
    """A standard of protective device as it is made and sold."""

    name: str
    short: str
    form: Literal["breaker", "fuse", "switch"]
    curves: tuple[str, ...]
    ratings_a: tuple[float, ...]
    breaking_capacities_ka: tuple[float, ...]
    overload_protection: bool
    semi_enclosed: bool = False
    # A fuse whose conventional fusing current I2 is that of the class gG.
    gg: bool = False


class Appliance(PackData):
    """A load from the list: power in W or current in A, diversity class, leakage in mA and its d.c. part."""

    name: str
    power_w: float | None = None
    current_a: float | None = None
    power_factor: float = 1.0
    diversity: DiversityClass
    leakage_ma: float
    dc: DcPart
    rated_v: float | None = None


class ColourScheme(PackData):
    """Colours of cores by how many live ones a cable has, and which of them may be line or neutral unmarked.

    `words` are this part of the world's own terms.
    """

    title: str
    colours: dict[int, tuple[str, ...]]
    line: tuple[str, ...]
    neutral: tuple[str, ...]
    earth: str
    sleeve_line: str
    sleeve_neutral: str
    words: dict[str, str] = {}


class DimmingRules(PackData):
    """What a kind of dimmer is called, and which kinds of lamps it dims."""

    name: str
    dims: tuple[str, ...]


class DimmedRules(PackData):
    """What lamps are called by how they may be dimmed, and what is seen of them on a dimmer of another kind."""

    name: str
    otherwise: Annotated[str, Field(alias="else")]


class SwitchingData(PackData):
    """The file `switching.json`: prices of a metre of cable by live cores (two-core is 1, a single less).

    Depths are in mm, `per_terminal` how many conductors of a size in mm² a terminal takes as makers usually
    state it, `dimmer_led_part` the part of its rating that a dimmer takes in LEDs.
    """

    usual_length_m: float
    prices: dict[int, float]
    single_price: float
    box_mm: dict[str, float]
    several_gangs_box_mm: float
    per_terminal: tuple[tuple[float, int], ...]
    dimmer_led_part: float
    dimming: dict[str, DimmingRules]
    dimmed_by: dict[str, DimmedRules]
    schemes: dict[str, ColourScheme]


class CircuitKindRules(PackData):
    """What a kind of circuit usually is: its pairs of device and cable, the first most often; its point and load.

    `load` names an appliance for the first point, or with `every_point` for each; `one_load` kinds feed nothing
    else. `wants_dc_detection` marks loads that may leak smooth d.c., whose RCD must be of type B where they do not
    detect 6 mA themselves. `rcd_for` says why such a circuit always wants 30 mA, `outdoors` what it takes there.
    """

    name: str
    usual: Annotated[tuple[UsualPair, ...], Field(min_length=1)]
    final: bool
    loads: str
    special: str
    curve: Literal["B", "C"] = "B"
    cable: str = "flat-twin-and-earth"
    insulation: Insulation = "pvc70"
    point: PointKind = "fixed"
    fuse_a: FuseA | None = None
    load: str | None = None
    every_point: bool = False
    phases: Literal[1, 3] = 1
    wants_dc_detection: bool = False
    one_load: bool = False
    rcd_for: str = ""
    outdoors: Literal["feed", "vehicle"] | None = None
