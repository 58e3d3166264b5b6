"""What a kind of circuit usually is, and where a design departs from it."""

from lumbek.core.circuit.edit import NewPoint
from lumbek.core.circuit.presets import USUAL_RCD
from lumbek.core.circuit.ready_points import load_of
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit, CircuitKind
from lumbek.core.model.device import Device
from lumbek.core.model.places import Spot
from lumbek.core.model.point import PASSIVE_KINDS
from lumbek.core.numbers import plain
from lumbek.core.rulebooks import Rulebook


def usual_device(rulebook: Rulebook, kind: CircuitKind) -> Device:
    """Return the device a circuit of this kind is usually given: an RCBO of the kind's curve and first rating."""
    rules = rulebook.kinds[kind]
    return Device(
        curve=rules.curve,
        rating_a=rules.usual[0].rating_a,
        breaking_capacity_ka=rulebook.usual_breaking_ka(None),
        rcd=USUAL_RCD,
        # What charges a vehicle is bought to break the neutral too.
        all_poles=True if rules.wants_dc_detection else None,
    )


def usual_cable(rulebook: Rulebook, kind: CircuitKind) -> Cable:
    """Return the cable a circuit of this kind is usually wired in."""
    rules = rulebook.kinds[kind]
    return Cable.model_validate(
        {
            "type": rules.cable,
            "insulation": rules.insulation,
            "csa_mm2": rules.usual[0].csa_mm2,
            "cpc_by": "core",
            "cores": 5 if rules.phases != 1 else 3,
        }
    )


def usual_method(rulebook: Rulebook, kind: CircuitKind) -> str:
    """Return the reference method that a kind's usual cable is most often laid by."""
    return rulebook.data.cables[rulebook.kinds[kind].cable].methods[0]


def usual_point(rulebook: Rulebook, circuit: Circuit) -> NewPoint:
    """Return the point that a circuit of this kind usually feeds next.

    The kind's usual load goes with the first point that draws a current, or with every one.
    """
    rules = rulebook.kinds[circuit.kind]
    wanted = rules.load and (rules.every_point or all(point.kind in PASSIVE_KINDS for point in circuit.points))
    loads = load_of(rulebook, rules.load) if rules.load and wanted else ()
    return NewPoint(kind=rules.point, fuse_a=rules.fuse_a, loads=loads)


def next_point(rulebook: Rulebook, circuit: Circuit) -> NewPoint:
    """Return what is most likely put in next, in the room of the last: another like it, or the usual point.

    After a switch or a joint comes what the circuit is for.
    """
    usual = usual_point(rulebook, circuit)
    if not circuit.points:
        return usual
    last = circuit.points[-1]
    if last.kind != usual.kind and last.kind not in PASSIVE_KINDS:
        return NewPoint(kind=last.kind, at=Spot(room=last.at.room))
    return usual.model_copy(update={"at": Spot(room=last.at.room)})


def found_device(rulebook: Rulebook, kind: CircuitKind) -> Device:
    """Return the device of a circuit that was there: a breaker of the usual rating, and nothing credited beside it."""
    rules = rulebook.kinds[kind]
    return Device(standard="bs-en-60898", curve=rules.curve, rating_a=rules.usual[0].rating_a)


def usual_circuit(rulebook: Rulebook, kind: CircuitKind, found: bool = False) -> Circuit:
    """Return a circuit of this kind as it is usually begun: its device and cable, and nothing drawn yet.

    Of one that was `found` nothing is credited that nobody has read.
    """
    if found:
        new = usual_circuit(rulebook, kind)
        return new.model_copy(update={"state": "as-found", "device": found_device(rulebook, kind)})
    return Circuit(
        name=rulebook.kinds[kind].name,
        kind=kind,
        device=usual_device(rulebook, kind),
        cable=usual_cable(rulebook, kind),
        method=usual_method(rulebook, kind),
    )


def is_usual(rulebook: Rulebook, circuit: Circuit) -> bool:
    """Whether the device rating is usual for the kind, on cable no thinner than usual; thicker needs no excuse."""
    rating, csa = circuit.device.rating_a, circuit.cable.csa_mm2
    return any(pair.rating_a == rating and pair.csa_mm2 <= csa for pair in rulebook.kinds[circuit.kind].usual)


def least_usual_a(rulebook: Rulebook, circuit: Circuit) -> float:
    """Return the least rating in A that is usual for the kind of circuit: less is never proposed."""
    return min(pair.rating_a for pair in rulebook.kinds[circuit.kind].usual)


def departures(rulebook: Rulebook, circuit: Circuit) -> list[str]:
    """Return how a circuit differs from the usual for its kind, each in a sentence: a reason is asked for."""
    kind = rulebook.kinds[circuit.kind]
    rating, csa = circuit.device.rating_a, circuit.cable.csa_mm2
    found = []
    if not is_usual(rulebook, circuit):
        usual = " or ".join(f"{plain(pair.rating_a)} A with {plain(pair.csa_mm2)} mm²" for pair in kind.usual[:3])
        found.append(f"{plain(rating)} A with {plain(csa)} mm²; usual for {kind.name.lower()}: {usual}")
    users = [point for point in circuit.points if point.kind not in PASSIVE_KINDS]
    if kind.one_load and len(users) > 1:
        found.append(f"{len(users)} points; usual for {kind.name.lower()} is one, and nothing else on the circuit")
    fuses = [point.fuse_a or 13 for point in circuit.points if point.kind == "fused-spur"]
    if kind.fuse_a is not None and users and not any(fuse <= kind.fuse_a for fuse in fuses):
        found.append(f"No fused spur of {kind.fuse_a} A, usual for {kind.name.lower()}")
    return found
