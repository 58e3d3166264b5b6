"""A leg and its segments: lengths and surroundings."""

from typing import Annotated, Literal

from pydantic import Field

from lumbek.core.circuit.changes.parts import Doing, Index, nth, on_leg, with_changes
from lumbek.core.circuit.edit import EditRefusedError
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Arrangement, Leg, Segment, Spacing
from lumbek.core.model.point import State
from lumbek.core.model.text import Id, LengthM, Name
from lumbek.core.rulebooks import Rulebook
from lumbek.core.value import Change, swapped


class SetLeg(Change):
    """Whether a leg was there, what was measured of it, and where else it ends."""

    op: Literal["leg"] = "leg"
    leg: Id
    state: State = "new"
    other_way: Annotated[int, Field(ge=1, le=9999)] | None = None
    mark: Name = ""
    taped: bool = False
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


def _set_leg(_: Rulebook, circuit: Circuit, command: SetLeg) -> Circuit:
    changes = command.said("leg")
    return on_leg(circuit, command.leg, lambda leg: with_changes(leg, changes))


def _set_segment(_: Rulebook, circuit: Circuit, command: SetSegment) -> Circuit:
    changes = command.said("leg", "index")
    if "length_m" in changes:
        changes.setdefault("length_to_m", None)
    if changes.get("method") == circuit.method:
        changes["method"] = None

    def leg(found: Leg) -> Leg:
        segment = nth(found.segments, command.index, "segment")
        if "grouped_circuits" in changes:
            # Of fewer circuits no more can be light than there are others.
            most = max(0, command.grouped_circuits - 1)
            changes.setdefault("lightly_loaded", min(segment.lightly_loaded, most))
        return with_changes(found, {"segments": swapped(found.segments, command.index, with_changes(segment, changes))})

    return on_leg(circuit, command.leg, leg)


def _add_segment(_: Rulebook, circuit: Circuit, command: AddSegment) -> Circuit:
    return on_leg(circuit, command.leg, lambda leg: with_changes(leg, {"segments": (*leg.segments, Segment())}))


def _drop_segment(_: Rulebook, circuit: Circuit, command: DropSegment) -> Circuit:
    def leg(found: Leg) -> Leg:
        nth(found.segments, command.index, "segment")
        if len(found.segments) == 1:
            raise EditRefusedError("A cable has one segment at least.")
        return with_changes(found, {"segments": swapped(found.segments, command.index)})

    return on_leg(circuit, command.leg, leg)


DO: Doing = {
    SetLeg: _set_leg,
    SetSegment: _set_segment,
    AddSegment: _add_segment,
    DropSegment: _drop_segment,
}
