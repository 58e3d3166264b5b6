"""A circuit as a whole: what it is for, where it runs, its device and its earth."""

from typing import Annotated, Literal

from pydantic import Field

from lumbek.core.circuit.changes.parts import Doing, with_changes
from lumbek.core.circuit.presets import RcdPresetId, device_of_standard, rcd_of_preset
from lumbek.core.circuit.usual import found_device, usual_cable, usual_device, usual_method
from lumbek.core.model.ahead import OwnEarth
from lumbek.core.model.circuit import Circuit, CircuitKind
from lumbek.core.model.device import Curve, RcdType, Standard
from lumbek.core.model.extent import WholeState, Year
from lumbek.core.model.text import GivenName, Note, RatingA
from lumbek.core.rulebooks import Rulebook
from lumbek.core.value import Change


class SetCircuit(Change):
    """What a circuit is called, what it is for, and how it is laid. Another kind brings its usual while it is empty."""

    op: Literal["circuit"] = "circuit"
    number: Annotated[int, Field(ge=1, le=9999)] = 1
    name: GivenName = "-"
    kind: CircuitKind = "sockets"
    state: WholeState = "new"
    year: Year | None = None
    device_new: bool = False
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
    """Whether an electrode of its own takes over from the supply's earth; what is said of it, and no more, changes."""

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
    all_poles: bool | None = None
    afdd: bool = False
    rcd: RcdPresetId = "none"
    rcd_type: RcdType = "A"


class Take(Change):
    """Take a whole design: one that was proposed, or one's own over somebody else's."""

    op: Literal["take"] = "take"
    design: Circuit


def _set_circuit(rulebook: Rulebook, circuit: Circuit, command: SetCircuit) -> Circuit:
    changes = command.said()
    if "state" in changes and changes["state"] != circuit.state:
        circuit = _in_state(rulebook, circuit, changes["state"])
    if "kind" in changes and not circuit.points:
        # The usual device and cable of the kind, as long as nothing is drawn yet.
        kind = command.kind
        found = changes.get("state", circuit.state) != "new"
        device = found_device(rulebook, kind) if found else usual_device(rulebook, kind)
        usual = {"device": device, "cable": usual_cable(rulebook, kind)}
        changes = {**usual, "method": usual_method(rulebook, kind), **changes}
    return with_changes(circuit, changes)


def _in_state(rulebook: Rulebook, circuit: Circuit, state: WholeState) -> Circuit:
    """Return a circuit as it was found, or as new work, with all its legs and points; one that is altered keeps them.

    What was only usual of a new device is not credited to one that was there.
    """
    changes: dict[str, object] = {"state": state}
    if state != "altered":
        for name in ("points", "legs"):
            changes[name] = tuple(each.model_copy(update={"state": state}) for each in getattr(circuit, name))
    if state != "new" and circuit.device == usual_device(rulebook, circuit.kind):
        changes["device"] = found_device(rulebook, circuit.kind)
    return with_changes(circuit, changes)


def _set_surroundings(_: Rulebook, circuit: Circuit, command: SetSurroundings) -> Circuit:
    return with_changes(circuit, {"surroundings": with_changes(circuit.surroundings, command.said())})


def _set_earth(_: Rulebook, circuit: Circuit, command: SetEarth) -> Circuit:
    said = command.own_earth
    own = None if said is None else with_changes(circuit.own_earth or OwnEarth(), said.model_dump(exclude_unset=True))
    return with_changes(circuit, {"own_earth": own})


def _set_device(rulebook: Rulebook, circuit: Circuit, command: SetDevice) -> Circuit:
    said, device = command.said("rcd", "rcd_type", "standard"), circuit.device
    found = circuit.state != "new" and not circuit.device_new
    if "standard" in command.model_fields_set:
        device = device_of_standard(rulebook, device, command.standard, found)
    if "rcd" in command.model_fields_set:
        device = with_changes(device, {"rcd": rcd_of_preset(command.rcd, device.known_rcd, found)})
    if "rcd_type" in command.model_fields_set and device.known_rcd is not None:
        device = with_changes(device, {"rcd": with_changes(device.known_rcd, {"type": command.rcd_type})})
    if said.keys() & {"curve", "rating_a"}:
        # What its maker says it lets through is said of that device, not of another.
        said.setdefault("let_through_a2s", None)
    return with_changes(circuit, {"device": with_changes(device, said)})


def _take(_: Rulebook, __: Circuit, command: Take) -> Circuit:
    return command.design


DO: Doing = {
    SetCircuit: _set_circuit,
    SetSurroundings: _set_surroundings,
    SetEarth: _set_earth,
    SetDevice: _set_device,
    Take: _take,
}
