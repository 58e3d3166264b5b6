"""What the files of a data pack hold: the rules of an edition, and the devices, appliances and kinds of circuit."""

from typing import Literal

from pydantic import BaseModel, ConfigDict

from lumbek.core.model.job import RulebookId
from lumbek.core.model.point import PointKind
from lumbek.core.model.supply import Earthing


class PackData(BaseModel):
    """A part of a data pack: fixed, and nothing in it that is not known."""

    model_config = ConfigDict(frozen=True, extra="forbid")


class SupplyRules(PackData):
    """Nominal voltages in V, and what may be assumed of a supply in Ω and kA until it is measured."""

    u0_v: float
    u_v: float
    tolerance_percent: tuple[float, float]
    earthing_systems: tuple[Earthing, ...]
    assumed_ze_ohm: dict[str, float]
    assumed_fault_current_ka: float | None
    tails_own_device_over_m: float | None
    tt_stable_ohm: float


class BondingRules(PackData):
    """Sizes of main protective bonding in mm²."""

    pme_min_mm2: float
    other_min_mm2: float
    earthing_conductor_fraction: float
    most_mm2: float


class DisconnectionTimes(PackData):
    """Greatest disconnection times in s, by the family of the earthing system."""

    TN: float
    TT: float


class FaultRules(PackData):
    """How the greatest Zs is found, and the part of it a cold measurement may reach."""

    cmin: float
    published_table: bool
    trip_multiple: dict[str, float]
    measured_factor: float | tuple[int, int]
    final_s: DisconnectionTimes
    other_s: DisconnectionTimes
    socket_final_up_to_a: float
    fixed_final_up_to_a: float
    touch_voltage_v: float
    # Cmin that the published table was drawn up with: a fuse's trip current is worked back from it.
    published_cmin: float


class VoltDropRules(PackData):
    """Greatest voltage drop from the origin, in percent of the nominal voltage."""

    lighting_percent: float
    other_percent: float


class RingRules(PackData):
    """What a ring final circuit must be."""

    allowed: bool
    ratings_a: tuple[float, ...]
    min_csa_mm2: float
    min_iz_a: float
    floor_area_m2: float
    far_a: float


class SocketRadialRules(PackData):
    """Guidance for radial socket circuits, by rating in A."""

    floor_area_m2: dict[str, float]
    far_a: float


class RcdRules(PackData):
    """Where additional protection by a 30 mA RCD is wanted."""

    sockets_up_to_a: float
    lighting: bool
    concealed_cables: bool
    bath_room: bool
    most_ma: float


class LightingRules(PackData):
    """The greatest device of a circuit of lights in A: what lampholders and their accessories are made for."""

    most_device_a: float


class LeastCsaRules(PackData):
    """The least copper of fixed wiring in mm², by what it feeds."""

    lighting_mm2: float
    power_mm2: float


class ChargingRules(PackData):
    """Whether a charging point has a circuit and an RCD of its own."""

    own_circuit: bool
    own_rcd: bool


class SourceRules(PackData):
    """Whether a source of power beside the supply has a circuit of its own."""

    own_circuit: bool


class ArcFaultRules(PackData):
    """Socket circuits of homes of higher risk: whether arc-fault detection is required there, and up to what rating."""

    required_in_higher_risk: bool
    sockets_up_to_a: float


class PmeRules(PackData):
    """Whether a combined neutral and earth wants a guard against its lost neutral where it serves outdoors."""

    guard_outdoors: bool


class Method(PackData):
    """An installation reference method."""

    name: str
    medium: Literal["air", "ground"]
    insulation_included: bool = False


class CableType(PackData):
    """A type of cable as this rulebook rates it."""

    name: str
    rating_rows: str
    insulations: tuple[str, ...]
    cpc: Literal["flat", "same"]
    methods: tuple[str, ...]
    # Methods whose figures are those of another type of cable.
    rated_as: dict[str, str] = {}


class TestRules(PackData):
    """Limits of the verification tests."""

    insulation_v: float
    insulation_mohm: float
    insulation_peer_fraction: float
    ring_ends_within_ohm: float
    rcd_trip_ms: float
    rcd_s_trip_ms: tuple[float, float]
    rcd_five_times_ms: float
    rcd_s_five_times_ms: tuple[float, float]
    # What a bonding conductor reads at most from end to end; how far a place may read otherwise than on the last visit.
    bonding_ohm: float
    again_part: float
    # Lengths scaled off a plan or paced out are good to about this part.
    length_tolerance: float
    # Probe contact and terminals between them add up to this much on a sound circuit; one digit of the display.
    contact_ohm: float
    digit_ohm: float
    # What a loop test that trips no RCD may read too high through one, and how far two loop readings agree.
    no_trip_ohm: float
    loop_part: float


class BathRules(PackData):
    """Bath and shower rooms: the least protection against water by zone, and how far sockets stay from zone 1.

    SELV of no more than these volts may stand in zone 0, and elsewhere; switches and a shaver supply in their own
    zones. Without a tray zone 1 reaches so far, and there is no zone 2.
    """

    ip_by_zone: dict[str, str]
    selv_only_zone: str
    socket_from_zone_1_m: float | None
    switch_zones: tuple[str, ...]
    shaver_zones: tuple[str, ...]
    selv_zone_0_v: float
    selv_v: float
    no_tray_zone_1_m: float


class WithstandRules(PackData):
    """k in A √s / mm² of conductors in a cable, and of steel armour, by insulation.

    A breaker acts within `fast_s` as its standard has it, and within a half-cycle of the supply as it is made.
    Steel's resistivity is that at 20 °C, in mΩ mm² / m (IEC 60949).
    """

    k: dict[str, float]
    k_armour: dict[str, float]
    fast_s: float
    half_cycle_s: float
    steel_milliohm_mm2_per_m: float


class ConductorRules(PackData):
    """The temperature in °C that each insulation allows its conductor, and the change of resistance per K.

    `armour_factor` is that on the 20 °C resistance of the armour round it at work.
    """

    limit_c: dict[str, float]
    per_kelvin: float
    armour_factor: dict[str, float]


class CapacityRules(PackData):
    """Cf of a BS 3036 fuse, Cc in the ground, the part of its rating at which a cable is left out of its group.

    A gG fuse surely acts at so many times its rating (each up to a rating in A), which the cable carries `fuse_i2_iz`
    times. Terminals are made for conductors at `cool_terminals_c`. Ct holds up to its size in mm².
    """

    semi_enclosed: float
    buried: float
    fuse_i2: tuple[tuple[float, float], ...]
    fuse_i2_iz: float
    cool_terminals_c: float
    light_part: float
    ct_up_to_mm2: float


class EarthingConductorRules(PackData):
    """The protective conductor by the line conductor, in mm²: as thick, then one size, then a part of it."""

    same_up_to_mm2: float
    one_size_up_to_mm2: float
    beyond_fraction: float
    table: str


class DriverRules(PackData):
    """What may be lost behind a driver in %, and what a conductor at work has over its resistance at 20 °C."""

    most_drop_percent: float
    warm: float


class PlugRules(PackData):
    """What a plug takes in A, and a twin outlet together; appliances are rated at this voltage in V."""

    nameplate_v: float
    most_a: float
    twin_a: float


class HighLeakageRules(PackData):
    """Over so many mA of protective-conductor current a cpc is of high integrity: by itself so many mm² at least."""

    over_ma: float
    least_cpc_mm2: float


class BreakingRules(PackData):
    """The usual breaking capacities of devices at a board, in kA.

    The conditional rating of an enclosure holds behind a service fuse of one of these kinds, up to a rating in A; it is
    usually so many kA.
    """

    usual_ka: tuple[float, ...]
    conditional_behind: tuple[str, ...]
    conditional_up_to_a: float
    conditional_usual_ka: float


class ResidualRules(PackData):
    """The part of IΔn that leakage may take up, the ratio of RCDs in series, and that of overcurrent ratings."""

    leakage_fraction: float
    selective_ratio: float
    rating_ratio: float


class SelectivityRules(PackData):
    """Where devices in series part: the multiple of In below which a breaker's magnetic release surely stays put.

    Of a fuse the least energy in A²s that melts it, by rating (IEC 60269-1, Table 7), for fuses of these kinds. What a
    breaker lets through is held against it; a fault lasts a half-cycle at least.
    """

    least_multiple: dict[str, float]
    prearcing_a2s: dict[str, float]
    prearcing_of: tuple[str, ...]
    half_cycle_s: float


class BoardRules(PackData):
    """Whether an enclosure must not burn, and the length in m of a surge device's leads: usual, and at the most."""

    non_combustible: bool
    usual_lead_m: float
    most_lead_m: float


class DiversityRule(PackData):
    """Full for the first amperes or the largest loads, a part for the rest; amperes more for a socket."""

    first_a: float = 0
    largest_count: int = 0
    rest: float = 1
    socket_a: float = 0


class Guidance(PackData):
    """A rule of place or practice, to be read rather than computed."""

    title: str
    text: str
    ref: str


class ClauseText(PackData):
    """A clause: where it stands, and what it asks in our own words."""

    ref: str
    text: str


class UsualPair(PackData):
    """A device rating and a cable size that usually go together, A and mm²."""

    rating_a: float
    csa_mm2: float


class KindDiffers(PackData):
    """What this rulebook's practice says otherwise of a kind of circuit; None where it says the same."""

    special: str | None = None
    loads: str | None = None
    point: PointKind | None = None


class RulebookData(PackData):
    """The file `rules.json` of a pack; `since` is the day its edition came into force."""

    id: RulebookId
    edition: str
    since: str
    title: str
    short: str
    advice: str
    supply: SupplyRules
    bonding: BondingRules
    fault_protection: FaultRules
    volt_drop: VoltDropRules
    ring: RingRules
    socket_radial: SocketRadialRules
    rcd: RcdRules
    lighting: LightingRules
    least_csa: LeastCsaRules
    charging: ChargingRules
    source: SourceRules
    arc_fault: ArcFaultRules
    pme: PmeRules
    methods: dict[str, Method]
    cables: dict[str, CableType]
    testing: TestRules
    bath: BathRules
    conductors: ConductorRules
    capacity: CapacityRules
    earthing_conductor: EarthingConductorRules
    breaking: BreakingRules
    plug: PlugRules
    high_leakage: HighLeakageRules
    driver: DriverRules
    # Published least cpc behind an energy-limiting class 3 breaker: curve, up to A, up to kA, mm².
    least_cpc: tuple[tuple[str, float, float, float], ...]
    withstand: WithstandRules
    board: BoardRules
    selectivity: SelectivityRules
    residual: ResidualRules
    diversity: dict[str, DiversityRule]
    guidance: tuple[Guidance, ...]
    # Where this rulebook's practice is another than `kinds.json` has it: pairs by kind, and cables instead of those.
    usual: dict[str, tuple[UsualPair, ...]] = {}
    usual_cables: dict[str, str] = {}
    kinds_differ: dict[str, KindDiffers] = {}
    clauses: dict[str, ClauseText]
