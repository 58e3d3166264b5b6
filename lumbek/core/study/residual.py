"""The RCDs on the way from the origin to a circuit's points: each counts, whichever device it is in."""

from dataclasses import dataclass

from lumbek.core.model.circuit import Circuit
from lumbek.core.model.device import Device, Rcd

# What an RCD is in by its nature: where nothing is said of it, it is there and not known.
_HAVE_RCD = ("bs-en-61008", "bs-en-61009")

# What an answer waits for where one may be on the way and nobody has said.
UNSAID = "RCD of the circuit: its rated residual current, or that there is none"


@dataclass(frozen=True)
class RcdOnTheWay:
    """An RCD by where it is; None where there is, or may be, one of which nothing is known. `own` is the circuit's."""

    where: str
    rcd: Rcd | None
    own: bool
    device: Device


def rcds_of(circuit: Circuit) -> tuple[RcdOnTheWay, ...]:
    """Return the RCDs between the origin and a circuit, origin first.

    A device ahead has an RCD where it says so, or where it is one by its nature. Of the circuit's own device nothing
    is taken for granted: it may share one at the board.
    """
    found = []
    for index, ahead in enumerate(circuit.ahead, start=1):
        device = ahead.device
        if device is None:
            continue
        if device.known_rcd is not None or (device.rcd == "unknown" and device.standard in _HAVE_RCD):
            found.append(RcdOnTheWay(ahead.name or f"RCD ahead, {index}", device.known_rcd, False, device))
    if circuit.device.rcd is not None:
        found.append(RcdOnTheWay("the circuit's own", circuit.device.known_rcd, True, circuit.device))
    return tuple(found)
