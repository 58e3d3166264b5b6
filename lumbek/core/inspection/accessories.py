"""The accessories of a house that may be opened, by kind, with what was opened and read of each."""

from collections import defaultdict

from lumbek.core.documents.gathered import Gathered
from lumbek.core.inspection.sample import SampleKind, SamplePoint, sample_of
from lumbek.core.inspection.standing import Inspection
from lumbek.core.model.point import PointKind

# What is opened as one kind, and what it is called.
_KINDS: dict[PointKind, str] = {
    "socket-single": "sockets",
    "socket-twin": "sockets",
    "fused-spur": "fused units",
    "control-with-socket": "cooker controls",
    "light": "lights",
    "switch": "switches",
    "cord-switch": "switches",
    "isolator": "isolators",
    "cooker-switch": "isolators",
    "fixed": "fixed equipment",
    "shaver-socket": "shaver sockets",
}


def samples_of(gathered: Gathered, inspection: Inspection) -> tuple[SampleKind, ...]:
    """Return each kind of accessory of what exists, how its sample stands and which to open next."""
    by_kind: dict[str, list[SamplePoint]] = defaultdict(list)
    for circuit in gathered.job.circuits:
        read = {reading.point for reading in circuit.readings if reading.point and reading.value is not None}
        for point in circuit.design.points:
            kind = _KINDS.get(point.kind)
            if (
                kind is None
                or circuit.design.state == "new"
                or (point.state == "new" and circuit.design.state != "as-found")
            ):
                continue
            opened = inspection.opened.get((circuit.key, point.id))
            by_kind[kind].append(
                SamplePoint(
                    circuit=circuit.key,
                    number=circuit.design.number,
                    point=point.id,
                    title=circuit.design.point_title(point.id),
                    room=point.at.room or "",
                    opened=opened is not None,
                    sound=None if opened is None else opened[0].sound,
                    read=point.id in read,
                )
            )
    return tuple(sample_of(kind, kind.capitalize(), points) for kind, points in by_kind.items())
