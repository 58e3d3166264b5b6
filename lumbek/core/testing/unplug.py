"""What is unplugged or linked out before insulation is read: what the test would harm, or read through."""

from lumbek.core.model.circuit import Circuit
from lumbek.core.model.point import Point

_ELECTRONIC = ("dimmer", "dimmer-two-way", "sensor", "receiver")


def to_unplug(circuit: Circuit) -> tuple[str, ...]:
    """Return what comes out before an insulation test, each with its place (BS 7671 643.3; IEC 60364-6, 6.4.3.3)."""
    found = [words for point in circuit.points for words in _at(point)]
    if circuit.device.afdd or circuit.device.known_rcd is not None:
        found.append("RCBO or AFDD at the board: conductors out of it, or its flying leads off")
    return tuple(found)


def _at(point: Point) -> list[str]:
    found = []
    if point.kind == "light":
        found.append(f"Lamp or driver: {point.title}")
    elif point.kind == "shaver-socket":
        found.append(f"Its transformer reads as a short: {point.title}")
    elif point.kind in ("charger", "source"):
        found.append(f"Disconnected, both poles: {point.title}")
    elif point.kind == "driver":
        found.append(f"Driver disconnected, both poles: {point.title}")
    elif point.kind in ("fixed", "fused-spur", "control-with-socket"):
        found.append(f"Switched off on both poles, or disconnected: {point.title}")
    elif point.loads:
        found.append(f"Unplugged: {point.title}")
    if any(accessory.kind in _ELECTRONIC for accessory in point.accessories):
        found.append(f"Dimmer or sensor linked out: {point.title}")
    return found
