"""Small named changes of a circuit: the only way that a design is written.

A command says what it is about and what it sets; fields that it does not name stay as they are. What follows from a
choice (the nearest rating of another standard, the method a cable of another type is laid by) is decided here.
"""

from collections.abc import Callable
from typing import Annotated, Any, Literal, TypeVar, cast

from pydantic import Field

from lumbek.core.circuit.edit import (
    AddPoint,
    AddSpur,
    Edited,
    EditRefusedError,
    InsertPoint,
    Join,
    MovePoint,
    RemoveLeg,
    RemovePoint,
    apply_edit,
)
from lumbek.core.circuit.joining import connected, marked, other_cables, same_cable, with_cable, with_place
from lumbek.core.circuit.presets import (
    Fitting,
    RcdPresetId,
    device_of_standard,
    fitting_loads,
    laid_by,
    rcd_of_preset,
    retyped,
)
from lumbek.core.circuit.routes import in_school
from lumbek.core.circuit.usual import next_point, usual_cable, usual_device, usual_method
from lumbek.core.model.accessory import Accessory, Plate
from lumbek.core.model.ahead import OwnEarth
from lumbek.core.model.cable import Cable, CableKind, Colours, CpcBy, Insulation
from lumbek.core.model.circuit import Circuit, CircuitKind
from lumbek.core.model.device import Curve, RcdType, Standard
from lumbek.core.model.leg import BOARD, Arrangement, Leg, Segment, Spacing
from lumbek.core.model.point import DcPart, DiversityClass, FuseA, Load, Point, PointKind, State, Zone
from lumbek.core.model.scheme import LightingSchool, Scheme
from lumbek.core.model.terminals import CoreName, Mark, Switch, TerminalName
from lumbek.core.model.terminals import Join as JoinHere
from lumbek.core.model.text import CsaMm2, CurrentA, GivenName, Id, LeakageMa, LengthM, Name, Note, PowerW, RatingA
from lumbek.core.rulebooks import Rulebook
from lumbek.core.value import Change, Frozen

Index = Annotated[int, Field(ge=0, le=40)]


class SetCircuit(Change):
    """What a circuit is called, what it is for, and how it is laid. Another kind brings its usual while it is empty."""

    op: Literal["circuit"] = "circuit"
    number: Annotated[int, Field(ge=1, le=9999)] = 1
    name: GivenName = "-"
    kind: CircuitKind = "sockets"
    state: State = "new"
    method: Annotated[str, Field(max_length=4)] = "C"
    drop_with_ct: bool = False
    terminals_90: bool = False
    reason: Note = ""
    notes: Note = ""


class SetSurroundings(Change):
    """Where a circuit runs."""

    op: Literal["surroundings"] = "surroundings"
    concealed_shallow: bool | None = None
    bath_room: bool | None = None
    no_tray: bool | None = None
    supplementary_bonding: bool | None = None
    lost_neutral_guard: bool = False
    floor_area_m2: float | None = None


class SetEarth(Change):
    """Whether an electrode of its own takes over from the supply's earth."""

    op: Literal["earth"] = "earth"
    own_earth: OwnEarth | None


class SetDevice(Change):
    """The circuit's device. Another standard takes its nearest rating along."""

    op: Literal["device"] = "device"
    standard: Standard = "bs-en-61009"
    curve: Curve = "B"
    rating_a: RatingA = 32
    breaking_capacity_ka: float | None = None
    let_through_a2s: float | None = None
    bidirectional: bool | None = None
    afdd: bool = False
    rcd: RcdPresetId = "none"
    rcd_type: RcdType = "A"


class SetCable(Change):
    """The cable of the circuit, or of one leg. Another type is laid by a method that it has."""

    op: Literal["cable"] = "cable"
    leg: Id | None = None
    type: CableKind = "flat-twin-and-earth"
    insulation: Insulation = "pvc70"
    csa_mm2: CsaMm2 = 2.5
    cpc_mm2: CsaMm2 | None = None
    cpc_by: CpcBy | None = None
    cores: Literal[2, 3, 4, 5] = 3
    conduit_milliohm_per_m: float | None = None
    colours: Colours = "harmonised"


class OwnCable(Change):
    """Give a leg a cable of its own, or let it have the circuit's again."""

    op: Literal["own-cable"] = "own-cable"
    leg: Id
    own: bool


class SetPoint(Change):
    """What a point is called and what it is."""

    op: Literal["point"] = "point"
    point: Id
    name: Name = ""
    room: Name = ""
    kind: PointKind = "socket-twin"
    state: State = "new"
    fuse_a: FuseA | None = None
    zone: Zone | None = None
    from_zone_1_m: float | None = None
    selv_v: float | None = None
    class_ii: bool | None = None
    own_rcd: bool | None = None
    isolator: bool | None = None


class AddLoad(Change):
    """Something that a point feeds: an appliance of the list, or a figure."""

    op: Literal["add-load"] = "add-load"
    point: Id
    appliance: Annotated[str, Field(max_length=40)] | None = None
    current_a: CurrentA | None = None
    power_w: PowerW | None = None


class SetLoad(Change):
    """One of a point's loads."""

    op: Literal["load"] = "load"
    point: Id
    index: Index
    name: Name = ""
    current_a: CurrentA | None = None
    power_w: PowerW | None = None
    power_factor: float = 1.0
    rated_v: float | None = None
    diversity: DiversityClass | None = None
    leakage_ma: LeakageMa = 0.0
    dc: DcPart | None = None


class DropLoad(Change):
    """Take a load away."""

    op: Literal["drop-load"] = "drop-load"
    point: Id
    index: Index


class SetLeg(Change):
    """Whether a leg was there, what was measured of it, and where else it ends."""

    op: Literal["leg"] = "leg"
    leg: Id
    state: State = "new"
    other_way: Annotated[int, Field(ge=1, le=9999)] | None = None
    measured_r1_ohm: float | None = None


class SetSegment(Change):
    """One segment of a leg; a length given anew is no range any more, and one method is the circuit's by itself."""

    op: Literal["segment"] = "segment"
    leg: Id
    index: Index = 0
    length_m: LengthM | None = None
    length_to_m: LengthM | None = None
    method: Annotated[str, Field(max_length=4)] | None = None
    ambient_c: float | None = None
    grouped_circuits: int = 1
    lightly_loaded: int = 0
    arrangement: Arrangement = "bunched-or-enclosed"
    insulation_mm: float = 0.0
    spacing: Spacing = "touching"
    depth_m: float | None = None
    soil_km_w: float | None = None


class AddSegment(Change):
    """One more segment of a leg, of unknown length."""

    op: Literal["add-segment"] = "add-segment"
    leg: Id


class DropSegment(Change):
    """Take a segment of a leg away; the last one stays."""

    op: Literal["drop-segment"] = "drop-segment"
    leg: Id
    index: Index


class SetJoins(Change):
    """What is joined at a point, or at the board, otherwise than plainly, and the point's switches."""

    op: Literal["joins"] = "joins"
    point: Id
    joins: Annotated[tuple[JoinHere, ...], Field(max_length=60)] = ()
    switches: Annotated[tuple[Switch, ...], Field(max_length=12)] = ()


class SetAccessories(Change):
    """What sits in the box of a point, and the plate."""

    op: Literal["accessories"] = "accessories"
    point: Id
    accessories: Annotated[tuple[Accessory, ...], Field(max_length=6)] = ()
    plate: Plate = Plate()


class SetScheme(Change):
    """What switches what, where cable may run, and what is wanted of it."""

    op: Literal["scheme"] = "scheme"
    scheme: Scheme | None


class LoopAt(Change):
    """Where the feed is looped: the runs of the scheme become those that this school has."""

    op: Literal["loop-at"] = "loop-at"
    school: LightingSchool


class AddPlace(Change):
    """A box or a light that no cable reaches yet."""

    op: Literal["add-place"] = "add-place"
    kind: PointKind = "switch"
    name: Name = ""
    room: Name = ""
    state: State = "new"
    fitting: Fitting = "plain"


class Connect(Change):
    """One core end, into a terminal, to the join of another core, or off by itself."""

    op: Literal["connect"] = "connect"
    point: Id
    leg: Id
    core: CoreName
    terminal: TerminalName | None = None
    beside_leg: Id | None = None
    beside_core: CoreName | None = None


class MarkCore(Change):
    """A sleeve on a core end, or none."""

    op: Literal["mark"] = "mark"
    point: Id
    leg: Id
    core: CoreName
    mark: Mark | None


class AddCable(Change):
    """A cable found in a box, to another place or to where nobody knows; its cores are left off at both ends."""

    op: Literal["add-cable"] = "add-cable"
    point: Id
    to: Id | None = None
    cable: Cable
    length_m: LengthM | None = None
    state: State = "as-found"


class SameCable(Change):
    """Two cable ends that a continuity test has shown to be one cable, or not."""

    op: Literal["same-cable"] = "same-cable"
    leg: Id
    other: Id
    same: bool


class Take(Change):
    """Take a whole design: one that was proposed, or one's own over somebody else's."""

    op: Literal["take"] = "take"
    design: Circuit


RunCommand = AddPoint | AddSpur | InsertPoint | MovePoint | RemovePoint | Join | RemoveLeg
Command = Annotated[
    RunCommand
    | SetCircuit
    | SetSurroundings
    | SetEarth
    | SetDevice
    | SetCable
    | OwnCable
    | SetPoint
    | AddLoad
    | SetLoad
    | DropLoad
    | SetLeg
    | SetSegment
    | AddSegment
    | DropSegment
    | SetJoins
    | SetAccessories
    | SetScheme
    | LoopAt
    | AddPlace
    | Connect
    | MarkCore
    | AddCable
    | SameCable
    | Take,
    Field(discriminator="op"),
]

_M = TypeVar("_M", bound=Frozen)


def carry_out(rulebook: Rulebook, circuit: Circuit, commands: tuple[Command, ...]) -> Edited:
    """Return the circuit after these commands, one after another, and what the eye should go to.

    Raises EditRefusedError where the circuit does not allow one, and the model's ValidationError at its limits.
    """
    found = Edited(circuit=circuit, focus="")
    for command in commands:
        found = _carry_out(rulebook, found.circuit, command)
    return found


def _carry_out(rulebook: Rulebook, circuit: Circuit, command: Command) -> Edited:
    if isinstance(command, RunCommand):
        return apply_edit(circuit, command, next_point(rulebook, circuit))
    changed = _DO[command.op](rulebook, circuit, command)
    # Held to the model again: a field by itself may be sound and the whole not.
    return Edited(circuit=Circuit.model_validate(changed.model_dump()), focus="")


def _with(model: _M, changes: dict[str, Any]) -> _M:
    return model.model_copy(update=changes)


def _swapped(all_of: tuple[_M, ...], at: int, new: _M | None) -> tuple[_M, ...]:
    return (*all_of[:at], *(() if new is None else (new,)), *all_of[at + 1 :])


def _at(all_of: tuple[_M, ...], index: int, what: str) -> _M:
    if index >= len(all_of):
        raise EditRefusedError(f"There is no {what} {index + 1} any more.")
    return all_of[index]


def _on_leg(circuit: Circuit, leg_id: str, change: Callable[[Leg], Leg]) -> Circuit:
    if all(leg.id != leg_id for leg in circuit.legs):
        raise EditRefusedError(f"There is no leg {leg_id} in this circuit any more.")
    return _with(circuit, {"legs": tuple(change(leg) if leg.id == leg_id else leg for leg in circuit.legs)})


def _on_point(circuit: Circuit, point_id: str, change: Callable[[Point], Point]) -> Circuit:
    if all(point.id != point_id for point in circuit.points):
        raise EditRefusedError(f"There is no point {point_id} in this circuit any more.")
    points = tuple(change(point) if point.id == point_id else point for point in circuit.points)
    return _with(circuit, {"points": points})


def _set_circuit(rulebook: Rulebook, circuit: Circuit, command: SetCircuit) -> Circuit:
    changes = command.said()
    if "kind" in changes and not circuit.points:
        # The usual device and cable of the kind, as long as nothing is drawn yet.
        kind = command.kind
        usual = {"device": usual_device(rulebook, kind), "cable": usual_cable(rulebook, kind)}
        changes = {**usual, "method": usual_method(rulebook, kind), **changes}
    return _with(circuit, changes)


def _set_surroundings(_: Rulebook, circuit: Circuit, command: SetSurroundings) -> Circuit:
    return _with(circuit, {"surroundings": _with(circuit.surroundings, command.said())})


def _set_earth(_: Rulebook, circuit: Circuit, command: SetEarth) -> Circuit:
    return _with(circuit, {"own_earth": command.own_earth})


def _set_device(rulebook: Rulebook, circuit: Circuit, command: SetDevice) -> Circuit:
    said, device = command.said("rcd", "rcd_type", "standard"), circuit.device
    if "standard" in command.model_fields_set:
        device = device_of_standard(rulebook, device, command.standard)
    if "rcd" in command.model_fields_set:
        device = _with(device, {"rcd": rcd_of_preset(command.rcd, device.known_rcd)})
    if "rcd_type" in command.model_fields_set and device.known_rcd is not None:
        device = _with(device, {"rcd": _with(device.known_rcd, {"type": command.rcd_type})})
    if said.keys() & {"curve", "rating_a"}:
        # What its maker says it lets through is said of that device, not of another.
        said.setdefault("let_through_a2s", None)
    return _with(circuit, {"device": _with(device, said)})


def _set_cable(rulebook: Rulebook, circuit: Circuit, command: SetCable) -> Circuit:
    def changed(cable: Cable) -> Cable:
        said = command.said("leg", "type")
        if "type" in command.model_fields_set:
            cable = retyped(rulebook, cable, command.type)
        if "csa_mm2" in said:
            # Another size has its own usual cpc.
            said.setdefault("cpc_mm2", None)
        return _with(cable, said)

    if command.leg is not None:

        def leg(found: Leg) -> Leg:
            cable = changed(circuit.cable_of(found))
            segments = found.segments
            if cable.type != circuit.cable_of(found).type:
                segments = tuple(_laid(rulebook, circuit, cable, segment) for segment in segments)
            return _with(found, {"cable": cable, "segments": segments})

        return _on_leg(circuit, command.leg, leg)
    cable = changed(circuit.cable)
    return _with(circuit, {"cable": cable, "method": laid_by(rulebook, cable, circuit.method)})


def _laid(rulebook: Rulebook, circuit: Circuit, cable: Cable, segment: Segment) -> Segment:
    """Return a segment whose method its cable has."""
    now = segment.method or circuit.method
    method = laid_by(rulebook, cable, now)
    return segment if method == now else _with(segment, {"method": method})


def _own_cable(_: Rulebook, circuit: Circuit, command: OwnCable) -> Circuit:
    def leg(found: Leg) -> Leg:
        if command.own:
            return _with(found, {"cable": circuit.cable_of(found)})
        segments = tuple(_with(segment, {"method": None}) for segment in found.segments)
        return _with(found, {"cable": None, "segments": segments})

    return _on_leg(circuit, command.leg, leg)


def _set_point(_: Rulebook, circuit: Circuit, command: SetPoint) -> Circuit:
    changes = command.said("point")
    if "kind" in changes:
        # A fused spur comes with the usual fuse; nothing else has one.
        changes.setdefault("fuse_a", 13 if command.kind == "fused-spur" else None)
    return _on_point(circuit, command.point, lambda point: _with(point, changes))


def _add_load(rulebook: Rulebook, circuit: Circuit, command: AddLoad) -> Circuit:
    if command.appliance is None:
        load = Load(current_a=command.current_a, power_w=command.power_w)
    elif command.appliance in rulebook.appliances:
        load = Load.model_validate(rulebook.appliances[command.appliance].model_dump())
    else:
        raise EditRefusedError(f"The list of appliances has no {command.appliance}.")
    return _on_point(circuit, command.point, lambda point: _with(point, {"loads": (*point.loads, load)}))


def _set_load(_: Rulebook, circuit: Circuit, command: SetLoad) -> Circuit:
    changes = command.said("point", "index")

    def point(found: Point) -> Point:
        load = _with(_at(found.loads, command.index, "load"), changes)
        return _with(found, {"loads": _swapped(found.loads, command.index, load)})

    return _on_point(circuit, command.point, point)


def _drop_load(_: Rulebook, circuit: Circuit, command: DropLoad) -> Circuit:
    def point(found: Point) -> Point:
        _at(found.loads, command.index, "load")
        return _with(found, {"loads": _swapped(found.loads, command.index, None)})

    return _on_point(circuit, command.point, point)


def _set_leg(_: Rulebook, circuit: Circuit, command: SetLeg) -> Circuit:
    changes = command.said("leg")
    return _on_leg(circuit, command.leg, lambda leg: _with(leg, changes))


def _set_segment(_: Rulebook, circuit: Circuit, command: SetSegment) -> Circuit:
    changes = command.said("leg", "index")
    if "length_m" in changes:
        changes.setdefault("length_to_m", None)
    if changes.get("method") == circuit.method:
        changes["method"] = None

    def leg(found: Leg) -> Leg:
        segment = _at(found.segments, command.index, "segment")
        if "grouped_circuits" in changes:
            # Of fewer circuits no more can be light than there are others.
            most = max(0, command.grouped_circuits - 1)
            changes.setdefault("lightly_loaded", min(segment.lightly_loaded, most))
        return _with(found, {"segments": _swapped(found.segments, command.index, _with(segment, changes))})

    return _on_leg(circuit, command.leg, leg)


def _add_segment(_: Rulebook, circuit: Circuit, command: AddSegment) -> Circuit:
    return _on_leg(circuit, command.leg, lambda leg: _with(leg, {"segments": (*leg.segments, Segment())}))


def _drop_segment(_: Rulebook, circuit: Circuit, command: DropSegment) -> Circuit:
    def leg(found: Leg) -> Leg:
        _at(found.segments, command.index, "segment")
        if len(found.segments) == 1:
            raise EditRefusedError("A leg has one segment at least.")
        return _with(found, {"segments": _swapped(found.segments, command.index, None)})

    return _on_leg(circuit, command.leg, leg)


def _set_joins(_: Rulebook, circuit: Circuit, command: SetJoins) -> Circuit:
    if command.point == BOARD:
        return _with(circuit, {"board_joins": command.joins})
    changes = {"joins": command.joins, "switches": command.switches}
    return _on_point(circuit, command.point, lambda point: _with(point, changes))


def _set_accessories(_: Rulebook, circuit: Circuit, command: SetAccessories) -> Circuit:
    changes = command.said("point")
    return _on_point(circuit, command.point, lambda point: _with(point, changes))


def _set_scheme(_: Rulebook, circuit: Circuit, command: SetScheme) -> Circuit:
    return _with(circuit, {"scheme": command.scheme})


def _loop_at(_: Rulebook, circuit: Circuit, command: LoopAt) -> Circuit:
    return _with(circuit, {"scheme": in_school(circuit, circuit.scheme or Scheme(), command.school)})


def _connect(_: Rulebook, circuit: Circuit, command: Connect) -> Circuit:
    _known(circuit, command.point)
    beside = None
    if command.beside_leg is not None and command.beside_core is not None:
        beside = command.beside_leg, command.beside_core
    return connected(circuit, command.point, command.leg, command.core, command.terminal, beside)


def _mark(_: Rulebook, circuit: Circuit, command: MarkCore) -> Circuit:
    _known(circuit, command.point)
    return marked(circuit, command.point, command.leg, command.core, command.mark)


def _known(circuit: Circuit, place: str) -> None:
    if place != BOARD and all(point.id != place for point in circuit.points):
        raise EditRefusedError(f"There is no point {place} in this circuit any more.")


def _add_place(_: Rulebook, circuit: Circuit, command: AddPlace) -> Circuit:
    placed, point_id = with_place(circuit, command.kind, command.name, command.room, command.state)
    return _on_point(placed, point_id, lambda point: _with(point, {"loads": fitting_loads(command.fitting)}))


def _add_cable(_: Rulebook, circuit: Circuit, command: AddCable) -> Circuit:
    _known(circuit, command.point)
    return with_cable(circuit, command.point, command.to, command.cable, command.length_m, command.state)


def _same_cable(_: Rulebook, circuit: Circuit, command: SameCable) -> Circuit:
    join = same_cable if command.same else other_cables
    return join(circuit, command.leg, command.other)


def _take(_: Rulebook, __: Circuit, command: Take) -> Circuit:
    return command.design


_DO = cast(
    "dict[str, Callable[[Rulebook, Circuit, Command], Circuit]]",
    {
        "circuit": _set_circuit,
        "surroundings": _set_surroundings,
        "earth": _set_earth,
        "device": _set_device,
        "cable": _set_cable,
        "own-cable": _own_cable,
        "point": _set_point,
        "add-load": _add_load,
        "load": _set_load,
        "drop-load": _drop_load,
        "leg": _set_leg,
        "segment": _set_segment,
        "add-segment": _add_segment,
        "drop-segment": _drop_segment,
        "joins": _set_joins,
        "accessories": _set_accessories,
        "scheme": _set_scheme,
        "loop-at": _loop_at,
        "add-place": _add_place,
        "connect": _connect,
        "mark": _mark,
        "add-cable": _add_cable,
        "same-cable": _same_cable,
        "take": _take,
    },
)
