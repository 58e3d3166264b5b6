"""What a rulebook offers to choose from: kinds, cables, methods, devices."""

from collections.abc import Iterator
from typing import get_args

from lumbek.core.circuit.presets import POINT_NAMES, RCD_PRESETS, RcdPreset
from lumbek.core.circuit.ready_points import READY
from lumbek.core.circuit.usual import usual_cable, usual_device, usual_method
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import CircuitKind
from lumbek.core.model.device import Device, RcdType
from lumbek.core.model.point import PASSIVE_KINDS, Load, PointKind
from lumbek.core.model.scheme import RouteCable
from lumbek.core.model.supply import Earthing
from lumbek.core.rulebooks import Rulebook
from lumbek.core.switching.colours import colour_of
from lumbek.core.value import Frozen


class KindChoice(Frozen):
    """A kind of circuit: its usual device, cable and method, its conventional load, its special rules."""

    id: CircuitKind
    name: str
    device: Device
    cable: Cable
    method: str
    loads: str
    special: str


class MethodChoice(Frozen):
    """A reference method."""

    id: str
    name: str


class OldSize(Frozen):
    """A size of old stranded copper, as it is called and by its area."""

    csa_mm2: float
    words: str


class CableChoice(Frozen):
    """A type of cable: insulations, methods, sizes listed for any of them, and those that old ones of its type have."""

    id: str
    name: str
    insulations: tuple[str, ...]
    methods: tuple[MethodChoice, ...]
    csas_mm2: tuple[float, ...]
    old_sizes: tuple[OldSize, ...]


class EarthingChoice(Frozen):
    """An earthing system that a supply may have under this rulebook."""

    id: Earthing
    name: str


# What was drawn into old houses.
_OLD_TYPES = (
    "flat-twin-and-earth",
    "flat-three-core-and-earth",
    "flat-single-and-earth",
    "single-core",
    "multicore",
)
_EARTHING_NAMES: dict[Earthing, str] = {"TN-C-S": "TN-C-S (PME)"}


class DeviceChoice(Frozen):
    """A standard of device."""

    id: str
    name: str
    short: str
    curves: tuple[str, ...]
    ratings_a: tuple[float, ...]
    breaking_capacities_ka: tuple[float, ...]


class ReadyChoice(Frozen):
    """A point with what is behind it, by its name."""

    id: str
    name: str


class PointChoice(Frozen):
    """A kind of point: whether it draws a current itself, and whether a fuse of its own sits in it."""

    id: PointKind
    name: str
    draws: bool
    fused: bool


class ApplianceChoice(Frozen):
    """An appliance from the list, as the load it makes."""

    id: str
    name: str
    load: Load


class FoundCableChoice(Frozen):
    """A cable that may be found in a lighting box, told by its colours, and what it is in a route."""

    id: str
    words: str
    cable: Cable
    route: RouteCable


class Choices(Frozen):
    """Everything that the interface offers in its lists."""

    rulebook: str
    title: str
    edition: str
    advice: str
    earthing_systems: tuple[EarthingChoice, ...]
    methods_in_ground: tuple[str, ...]
    kinds: tuple[KindChoice, ...]
    cables: tuple[CableChoice, ...]
    devices: tuple[DeviceChoice, ...]
    appliances: tuple[ApplianceChoice, ...]
    rcds: tuple[RcdPreset, ...]
    rcd_types: tuple[RcdType, ...]
    point_kinds: tuple[PointChoice, ...]
    # Points that people name by what is behind them.
    ready_points: tuple[ReadyChoice, ...]
    run_words: tuple[str, ...]
    # What is found in lighting boxes, that of today first.
    found_cables: tuple[FoundCableChoice, ...]


# A cable found in a box, by its live cores: singles are their line, then their neutral.
_FOUND: tuple[dict[str, object], ...] = (
    {"type": "flat-twin-and-earth"},
    {"type": "flat-three-core-and-earth"},
    {"type": "flat-single-and-earth", "alone": "L"},
    {"type": "flat-single-and-earth", "alone": "N"},
)


def _found_cables(rulebook: Rulebook) -> Iterator[FoundCableChoice]:
    """Yield every cable of every colour scheme; no bare cpc is told."""
    for scheme_id in rulebook.switching.schemes:
        for each in _FOUND:
            cable = Cable.model_validate({**each, "csa_mm2": 1.0, "cpc_by": "core", "colours": scheme_id})
            cores = [colour_of(rulebook, cable, core) for core in cable.live_cores]
            kind = f"{len(cores)}-core" if len(cores) > 1 else "single"
            yield FoundCableChoice(
                id=f"{scheme_id}/{cable.type}/{cable.alone or ''}",
                words=f"{kind}: {', '.join(cores)}",
                cable=cable,
                route=RouteCable(live=len(cores), colours=cable.colours),
            )


def choices(rulebook: Rulebook, run_words: tuple[str, ...] = ()) -> Choices:
    """Return the choices of a rulebook; `run_words` are those that a typed run understands."""
    data = rulebook.data
    cables = []
    old_sizes = tuple(OldSize(csa_mm2=csa, words=rulebook.size_words(csa)) for csa in rulebook.imperial)
    for cable_id, kind in data.cables.items():
        sizes: set[float] = set()
        for method in kind.methods:
            for insulation in kind.insulations:
                cable = Cable.model_validate({"type": cable_id, "insulation": insulation})
                sizes.update(rulebook.listed_csas(cable, method))
        cables.append(
            CableChoice(
                id=cable_id,
                name=kind.name,
                insulations=kind.insulations,
                methods=tuple(MethodChoice(id=each, name=data.methods[each].name) for each in kind.methods),
                csas_mm2=tuple(sorted(sizes)),
                old_sizes=old_sizes if cable_id in _OLD_TYPES else (),
            )
        )
    return Choices(
        rulebook=data.id,
        title=data.title,
        edition=data.edition,
        advice=data.advice,
        earthing_systems=tuple(
            EarthingChoice(id=each, name=_EARTHING_NAMES.get(each, each)) for each in data.supply.earthing_systems
        ),
        methods_in_ground=tuple(key for key, method in data.methods.items() if method.medium == "ground"),
        kinds=tuple(
            KindChoice(
                id=key,
                name=kind.name,
                device=usual_device(rulebook, key),
                cable=usual_cable(rulebook, key),
                method=usual_method(rulebook, key),
                loads=kind.loads,
                special=kind.special,
            )
            for key, kind in rulebook.kinds.items()
        ),
        cables=tuple(cables),
        devices=tuple(
            DeviceChoice(
                id=key,
                name=device.name,
                short=device.short,
                curves=device.curves,
                ratings_a=device.ratings_a,
                breaking_capacities_ka=device.breaking_capacities_ka,
            )
            for key, device in rulebook.devices.items()
        ),
        appliances=tuple(
            ApplianceChoice(id=key, name=each.name, load=Load.model_validate(each.model_dump()))
            for key, each in rulebook.appliances.items()
        ),
        rcds=RCD_PRESETS,
        rcd_types=get_args(RcdType),
        point_kinds=tuple(
            PointChoice(id=kind, name=name, draws=kind not in PASSIVE_KINDS, fused=kind == "fused-spur")
            for kind, name in POINT_NAMES.items()
        ),
        ready_points=tuple(ReadyChoice(id=key, name=ready.name) for key, ready in READY.items()),
        run_words=run_words,
        found_cables=tuple(_found_cables(rulebook)),
    )
