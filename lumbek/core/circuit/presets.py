"""What follows from a choice: the nearest rating of a standard, the RCDs one chooses from, how a cable is laid."""

from typing import Literal

from lumbek.core.model.cable import Cable, CableKind
from lumbek.core.model.device import Device, Rcd, Standard, Unknown
from lumbek.core.model.point import Load, PointKind
from lumbek.core.rulebooks import Rulebook
from lumbek.core.value import Frozen

# Kinds of point in the order they are offered, as one says them.
POINT_NAMES: dict[PointKind, str] = {
    "socket-twin": "Twin socket",
    "socket-single": "Single socket",
    "fused-spur": "Fused spur",
    "fixed": "Fixed equipment",
    "control-with-socket": "Control with socket",
    "light": "Light",
    "switch": "Switch",
    "cord-switch": "Cord switch",
    "isolator": "Double-pole isolator",
    "cooker-switch": "Cooker switch",
    "driver": "Driver of extra-low voltage",
    "joint": "Joint",
    "blank": "Blank plate",
    "shaver-socket": "Shaver supply",
    "charger": "Vehicle charger",
    "source": "Solar or battery",
    "board": "Another board",
    "unknown-end": "Unknown end",
}


RcdPresetId = Literal["unknown", "none", "own", "shared", "mild", "delayed"]


class RcdPreset(Frozen):
    """An RCD to choose, all but its type; `rcd` is None for none."""

    id: RcdPresetId
    name: str
    rcd: Rcd | Unknown | None


# What a socket, a light or a bath room wants, and most devices that are sold have.
USUAL_RCD = Rcd(rated_ma=30, type="A")

RCD_PRESETS: tuple[RcdPreset, ...] = (
    RcdPreset(id="unknown", name="RCD not known", rcd="unknown"),
    RcdPreset(id="none", name="no RCD", rcd=None),
    RcdPreset(id="own", name="30 mA in it", rcd=USUAL_RCD),
    RcdPreset(id="shared", name="30 mA shared", rcd=USUAL_RCD.model_copy(update={"shared": True})),
    RcdPreset(id="mild", name="100 mA in it", rcd=Rcd(rated_ma=100, type="A")),
    RcdPreset(id="delayed", name="100 mA delayed", rcd=Rcd(rated_ma=100, type="A", delayed=True, shared=True)),
)


def rcd_of_preset(preset_id: RcdPresetId, now: Rcd | None, found: bool = False) -> Rcd | Unknown | None:
    """Return the RCD of a preset, of the type that the one there now has; of one that was `found` none is said."""
    chosen = next(preset.rcd for preset in RCD_PRESETS if preset.id == preset_id)
    if isinstance(chosen, Rcd) and found:
        chosen = chosen.model_copy(update={"type": None})
    if chosen is None or chosen == "unknown" or now is None or now.type is None:
        return chosen
    return chosen.model_copy(update={"type": now.type})


def device_of_standard(rulebook: Rulebook, device: Device, standard: Standard, found: bool = False) -> Device:
    """Return a device of another standard: its nearest rating, its first breaking capacity, its own RCD or none.

    Of one that was `found` neither breaking capacity nor RCD is credited: a breaker may be behind one.
    """
    kind = rulebook.devices[standard]
    nearest = min(kind.ratings_a, key=lambda rating: abs(rating - device.rating_a))
    known = device.known_rcd
    shared: Rcd | Unknown | None = known if known is not None and known.shared else "unknown" if found else None
    own = Rcd() if found else USUAL_RCD
    return device.model_copy(
        update={
            "standard": standard,
            "curve": _curve_of(kind.curves, device),
            "rating_a": nearest,
            "breaking_capacity_ka": None if found else next(iter(kind.breaking_capacities_ka), None),
            "let_through_a2s": None,
            "rcd": (known or own) if standard in ("bs-en-61008", "bs-en-61009") else shared,
        }
    )


def _curve_of(curves: tuple[str, ...], device: Device) -> str | None:
    """Return the curve that a device of another standard has: its own where there is such a one, else the first."""
    return device.curve if device.curve in curves else next(iter(curves), None)


def retyped(rulebook: Rulebook, cable: Cable, kind: CableKind) -> Cable:
    """Return a cable of another type: its insulation where that type has it, its cpc the usual one."""
    insulations = rulebook.data.cables[kind].insulations
    insulation = cable.insulation if cable.insulation in insulations else insulations[0]
    return Cable.model_validate(
        {
            **cable.model_dump(),
            "type": kind,
            "insulation": insulation,
            "cpc_mm2": None,
            "cpc_by": "core",
            "cores": 3,
            "alone": None,
        }
    )


def laid_by(rulebook: Rulebook, cable: Cable, method: str, was: CableKind | None = None) -> str:
    """Return the method a cable goes on being laid by: the one it has, else the first that its type has.

    A cable of another type than it `was` is laid otherwise even by a method of the same letter: clipped flat cable is
    no pair of singles on a wall. Only types that are laid in all the same ways keep it.
    """
    methods = rulebook.data.cables[cable.type].methods
    alike = was is None or rulebook.data.cables[was].methods == methods
    return method if alike and method in methods else methods[0]


# What a light or fan may be, by the terminals that it has.
Fitting = Literal["plain", "led", "driver", "timer-fan", "fan-and-light", "emergency", "alarm"]


def fitting_loads(fitting: Fitting) -> tuple[Load, ...]:
    """Return what draws a current at a fitting, each at the terminal that takes its line.

    A timer fan and an emergency light have their line for good, and a switched line beside it.
    """

    def load(name: str, watts: float, line: str = "L", inrush_a: float | None = None) -> Load:
        return Load(name=name, power_w=watts, diversity="lighting", line=line, inrush_a=inrush_a)

    match fitting:
        case "plain":
            return ()
        case "led":
            return (load("LED light", 10),)
        case "driver":
            return (load("Driver of a strip", 60, inrush_a=30),)
        case "timer-fan":
            return load("Motor", 20), load("Run-on", 0, "S")
        case "fan-and-light":
            return load("Light", 20), load("Fan", 60, "F")
        case "emergency":
            return load("Charger", 2), load("Lamp", 8, "S")
        case "alarm":
            return (load("Alarm", 2),)
