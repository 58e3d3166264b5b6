"""Points as people name them: an accessory with what is usually behind it, ready to be put in with one word."""

from lumbek.core.circuit.edit import NewPoint
from lumbek.core.model.point import FuseA, Load, PointKind
from lumbek.core.rulebooks import Rulebook
from lumbek.core.value import Frozen


class ReadyPoint(Frozen):
    """A point by the accessory that it is, its fuse, and what it feeds by its name in the list of appliances."""

    name: str
    kind: PointKind
    fuse_a: FuseA | None = None
    appliance: str = ""


READY: dict[str, ReadyPoint] = {
    "extractor": ReadyPoint(name="Extractor, 3 A", kind="fused-spur", fuse_a=3, appliance="extractor"),
    "cooker-hood": ReadyPoint(name="Cooker hood, 3 A", kind="fused-spur", fuse_a=3, appliance="cooker-hood"),
    "plinth-heater": ReadyPoint(name="Plinth heater, 13 A", kind="fused-spur", fuse_a=13, appliance="plinth-heater"),
    "towel-rail": ReadyPoint(name="Towel rail, 3 A", kind="fused-spur", fuse_a=3, appliance="towel-rail"),
    "microwave": ReadyPoint(name="Microwave, plugged in", kind="socket-single", appliance="microwave"),
    "co-alarm": ReadyPoint(name="Carbon monoxide alarm", kind="fixed", appliance="co-alarm"),
    "smoke-alarm": ReadyPoint(name="Smoke or heat alarm", kind="fixed", appliance="alarm"),
}


def load_of(rulebook: Rulebook, appliance: str) -> tuple[Load, ...]:
    """Return an appliance of the rulebook's list as what a point feeds; nothing where none is named."""
    return (Load.model_validate(rulebook.appliances[appliance].model_dump()),) if appliance else ()


def ready_point(rulebook: Rulebook, ready: str) -> NewPoint:
    """Return a point of the list, without a name or room."""
    found = READY[ready]
    return NewPoint(kind=found.kind, fuse_a=found.fuse_a, loads=load_of(rulebook, found.appliance))
