"""The cable of a circuit or of one leg, and the method it is laid by."""

from typing import Literal

from lumbek.core.circuit.changes.parts import Doing, on_leg, with_changes
from lumbek.core.circuit.presets import laid_by, retyped
from lumbek.core.model.cable import Cable, CableKind, Colours, Conduit, CpcBy, Insulation, Lone
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Leg, Segment
from lumbek.core.model.text import CsaMm2, Id
from lumbek.core.rulebooks import Rulebook
from lumbek.core.value import Change


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
    conduit: Conduit | None = None
    conduit_milliohm_per_m: float | None = None
    colours: Colours = "harmonised"
    alone: Lone | None = None


class OwnCable(Change):
    """Give a leg a cable of its own, or let it have the circuit's again."""

    op: Literal["own-cable"] = "own-cable"
    leg: Id
    own: bool


def _set_cable(rulebook: Rulebook, circuit: Circuit, command: SetCable) -> Circuit:
    def changed(cable: Cable) -> Cable:
        said = command.said("leg", "type")
        if "type" in command.model_fields_set:
            cable = retyped(rulebook, cable, command.type)
        if "csa_mm2" in said:
            # Another size has its own usual cpc.
            said.setdefault("cpc_mm2", None)
        return with_changes(cable, said)

    if command.leg is not None:

        def leg(found: Leg) -> Leg:
            cable = changed(circuit.cable_of(found))
            segments = found.segments
            was = circuit.cable_of(found).type
            if cable.type != was:
                segments = tuple(_laid(rulebook, circuit, cable, segment, was) for segment in segments)
            return with_changes(found, {"cable": cable, "segments": segments})

        return on_leg(circuit, command.leg, leg)
    cable, was = changed(circuit.cable), circuit.cable.type
    if cable.type == was:
        return with_changes(circuit, {"cable": cable, "method": laid_by(rulebook, cable, circuit.method)})
    legs = tuple(_leg_laid(rulebook, cable, leg, was) for leg in circuit.legs)
    method = laid_by(rulebook, cable, circuit.method, was)
    return with_changes(circuit, {"cable": cable, "method": method, "legs": legs})


def _leg_laid(rulebook: Rulebook, cable: Cable, leg: Leg, was: CableKind) -> Leg:
    """Return a leg in the circuit's new cable, methods of its own segments such as that cable has."""
    if leg.cable is not None or all(segment.method is None for segment in leg.segments):
        return leg
    segments = tuple(
        segment
        if segment.method is None
        else with_changes(segment, {"method": laid_by(rulebook, cable, segment.method, was)})
        for segment in leg.segments
    )
    return with_changes(leg, {"segments": segments})


def _laid(rulebook: Rulebook, circuit: Circuit, cable: Cable, segment: Segment, was: CableKind) -> Segment:
    """Return a segment whose method its cable has."""
    now = segment.method or circuit.method
    method = laid_by(rulebook, cable, now, was)
    return segment if method == now else with_changes(segment, {"method": method})


def _own_cable(_: Rulebook, circuit: Circuit, command: OwnCable) -> Circuit:
    def leg(found: Leg) -> Leg:
        if command.own:
            return with_changes(found, {"cable": circuit.cable_of(found)})
        segments = tuple(with_changes(segment, {"method": None}) for segment in found.segments)
        return with_changes(found, {"cable": None, "segments": segments})

    return on_leg(circuit, command.leg, leg)


DO: Doing = {
    SetCable: _set_cable,
    OwnCable: _own_cable,
}
