"""What a house asks of each of its circuits: little enough that a large house is held at once."""

from collections.abc import Mapping
from dataclasses import dataclass

from lumbek.core.circuit.graph import graph_of
from lumbek.core.circuit.shape import recognise
from lumbek.core.circuit.standing import PLAIN_SOCKETS, RING_OUTLETS, Standing, is_charger, is_light
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.device import Device
from lumbek.core.model.job import JobCircuit
from lumbek.core.model.point import PASSIVE_KINDS, Load, Point
from lumbek.core.rulebooks import Rulebook
from lumbek.core.sizing.demand import Demand, class_of, demand

# The class of what is drawn and has none: it is taken in full.
PLAIN = "plain"


@dataclass(frozen=True)
class Member:
    """A circuit of the house.

    `draws` are the currents in A, per line, by their class of diversity, as the circuit's own diversity leaves them;
    where no loads are stated they follow from the rating. `rooms` holds by the room's id what is in it: "lights",
    "sockets" or what the circuit is for. `sources_a` is what stands at it and gives power, in A.
    """

    key: str
    number: int
    name: str
    kind: str
    device: Device
    phases: int
    draws: Mapping[str, tuple[float, ...]]
    stated: bool
    ib_a: float
    leakage_ma: float
    rooms: Mapping[str, frozenset[str]]
    outlets: Mapping[str, tuple[str, ...]]
    # The rooms with a bath or shower that it has points in.
    bath_rooms: frozenset[str]
    # What is stated at the boards it feeds, in A: counts where no board of the house hangs on it.
    feeds_a: float
    sources_a: float
    source_unsaid: bool
    # The colour schemes of its cables.
    colours: frozenset[str]
    # Whether it stands on an electrode of its own: then what was read of it is asked for.
    on_own_earth: bool
    # The whole design where it feeds a board: the way there is read off it.
    feeder: Circuit | None

    @property
    def title(self) -> str:
        """Number and name, as it is called."""
        return f"{self.number} {self.name}"

    @property
    def is_source(self) -> bool:
        """Whether something at it gives power, however much."""
        return self.source_unsaid or self.sources_a > 0

    @property
    def kinds(self) -> frozenset[str]:
        """What it feeds, over all rooms."""
        return frozenset(kind for kinds in self.rooms.values() for kind in kinds)


def member_of(rulebook: Rulebook, circuit: JobCircuit) -> Member:
    """Return what a house asks of a circuit."""
    design = circuit.design
    standing = Standing(design, rulebook.kinds[design.kind])
    graph = graph_of(design)
    phases = rulebook.kinds[design.kind].phases
    ring = recognise(graph).is_ring
    found = demand(rulebook, design, graph, ring, design.device.rating_a, lambda points: points[-1])
    draws: Mapping[str, tuple[float, ...]] = {}
    if found is not None:
        draws = _draws(rulebook, design, standing, found)
    rooms, outlets = _by_room(design)
    sources = standing.sources
    return Member(
        key=circuit.key,
        number=design.number,
        name=design.name,
        kind=design.kind,
        device=design.device,
        phases=phases,
        draws=draws,
        stated=found is not None and found.stated,
        ib_a=sum(sum(each) for each in draws.values()),
        leakage_ma=sum(load.leakage_ma for point in design.points for load in point.loads),
        rooms=rooms,
        bath_rooms=frozenset(point.at.room or "" for point in design.points if point.zone is not None),
        outlets=outlets,
        feeds_a=sum(load.design_current_a(rulebook.u0_v, phases) for point in standing.boards for load in point.loads),
        sources_a=sum(load.design_current_a(rulebook.u0_v, phases) for point in sources for load in point.loads),
        source_unsaid=any(not point.loads for point in sources),
        colours=frozenset(design.cable_of(leg).colours for leg in design.legs),
        on_own_earth=design.own_earth is not None,
        feeder=design if standing.boards else None,
    )


def _draws(rulebook: Rulebook, design: Circuit, standing: Standing, found: Demand) -> Mapping[str, tuple[float, ...]]:
    """Return the currents by class: those stated, else the rating; what feeds boards draws what those do."""
    if found.stated:
        return _stated(rulebook, design, found.ib_a, rulebook.kinds[design.kind].phases)
    return {} if standing.boards else {_class_without_loads(design, standing): (found.ib_a,)}


def _by_room(design: Circuit) -> tuple[Mapping[str, frozenset[str]], Mapping[str, tuple[str, ...]]]:
    """Return what is in each room, and its sockets by name."""
    rooms: dict[str, set[str]] = {}
    outlets: dict[str, list[str]] = {}
    for point in design.points:
        what, room = _what(design, point), point.at.room or ""
        if what:
            rooms.setdefault(room, set()).add(what)
        if what == "sockets":
            outlets.setdefault(room, []).append(point.name or point.id)
    return (
        {room: frozenset(kinds) for room, kinds in rooms.items()},
        {room: tuple(names) for room, names in outlets.items()},
    )


def _stated(rulebook: Rulebook, design: Circuit, ib_a: float, phases: int) -> dict[str, tuple[float, ...]]:
    """Return stated loads by class, those of a source left out; the circuit's own diversity goes off evenly."""
    by_class: dict[str, list[float]] = {}
    total = 0.0
    for point in design.points:
        for load in point.loads:
            current = load.design_current_a(rulebook.u0_v, phases)
            total += current
            if point.kind not in ("source", "board"):
                by_class.setdefault(_class_at(design, point, load), []).append(current)
    if not total:
        return {}
    part = ib_a / total
    # Sockets and cooker count as one a circuit: their diversity among themselves is the circuit's own affair.
    return {
        kind: (sum(each) * part,) if kind in ("sockets", "cooker") else tuple(one * part for one in each)
        for kind, each in by_class.items()
    }


def _class_at(design: Circuit, point: Point, load: Load) -> str:
    """Return the class a load counts under: as said, else by what stands at its point, else by the circuit."""
    said = class_of(design, load)
    if said is not None:
        return said
    if is_light(point):
        return "lighting"
    if point.kind in PLAIN_SOCKETS:
        return "sockets"
    return "vehicle" if is_charger(point) else _BY_KIND.get(design.kind, PLAIN)


def _class_without_loads(design: Circuit, standing: Standing) -> str:
    """Return the class that a circuit's rating counts under where nobody says what it feeds."""
    if standing.chargers:
        return "vehicle"
    if standing.ring_outlets or standing.sockets:
        return "cooker" if design.kind == "cooker" else "sockets"
    if standing.lights:
        return "lighting"
    return _BY_KIND.get(design.kind, PLAIN)


_BY_KIND = {
    "cooker": "cooker",
    "shower": "instantaneous",
    "water-heater": "thermostatic",
    "storage-heater": "thermostatic",
    "floor-heating": "thermostatic",
}
_ALARMS = {"alarms": "alarms", "boiler": "heating", "storage-heater": "heating", "floor-heating": "heating"}


def _what(design: Circuit, point: Point) -> str:
    """Return what a person would miss at a point; nothing where it is only a switch or a joint."""
    if point.kind in PASSIVE_KINDS or point.kind in ("board", "source"):
        return ""
    if design.kind in _ALARMS:
        return _ALARMS[design.kind]
    if is_light(point):
        return "lights"
    if point.kind in RING_OUTLETS or point.kind == "control-with-socket":
        return "sockets"
    return point.name or design.name
