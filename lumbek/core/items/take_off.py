"""What a job takes: cable by type with its cuts and drums, boxes, accessories, devices, fixings.

Only what is new: points and cable that are there already are not bought again. Counts follow from the marks of the
plan and the ways of the legs; a leg without a way goes by the length that is drawn.
"""

from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from math import ceil
from typing import Literal

from lumbek.core.items.drums import DrumPlan, drums_for
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Leg
from lumbek.core.model.places import Places
from lumbek.core.model.plan import Mark
from lumbek.core.numbers import plain
from lumbek.core.protection.who import device_name
from lumbek.core.routes.answer import LegRoute, RoutesAnswer
from lumbek.core.rulebooks import Rulebook
from lumbek.core.value import Frozen

Sort = Literal["cable", "box", "accessory", "device", "fixing", "work"]
# A clip for each 300 mm of what lies over or under rooms (guidance for flat cable); sleeving at each end.
CLIP_MM, SLEEVE_MM = 300, 100


class TakeOffItem(Frozen):
    """Something by its key, how much of it, and in which unit; metres in whole mm."""

    key: str
    sort: Sort
    what: str
    unit: Literal["each", "m", "min"]
    count: int


class Cut(Frozen):
    """A piece of cable: where it goes, and how long it is in mm."""

    leg: str
    mm: int


class CableCuts(Frozen):
    """The cuts of one cable, each with where it goes, and the drums they come off; None where one is too long."""

    key: str
    what: str
    cuts: tuple[Cut, ...]
    drums: DrumPlan | None


class TakeOff(Frozen):
    """All that a job takes, and what keeps it from being whole."""

    items: tuple[TakeOffItem, ...]
    cuts: tuple[CableCuts, ...]
    missing: tuple[str, ...]


def take_off_of(
    places: Places, designs: Sequence[tuple[str, Circuit]], routes: RoutesAnswer, rulebook: Rulebook
) -> TakeOff:
    """Return what a job takes."""
    ways = {(leg.circuit, leg.leg): leg for leg in routes.legs}
    cables, missing = _cables(designs, ways, rulebook)
    counts: Counter[tuple[str, Sort, str, str]] = Counter()
    for mark in places.marks:
        if not mark.is_existing and mark.fate != "remove":
            _count_mark(counts, mark)
    for _, design in designs:
        if design.state == "new" or design.device_new:
            name = device_name(rulebook, design.device)
            counts[f"device:{name}", "device", name, "each"] += 1
    _count_fixings(counts, designs, ways)
    items = [
        TakeOffItem(key=cut.key, sort="cable", what=cut.what, unit="m", count=sum(each.mm for each in cut.cuts))
        for cut in cables
    ]
    for (key, sort, what, unit), count in sorted(counts.items(), key=lambda each: (_ORDER[each[0][1]], each[0])):
        items.append(TakeOffItem.model_validate({"key": key, "sort": sort, "what": what, "unit": unit, "count": count}))
    return TakeOff(items=tuple(items), cuts=cables, missing=missing)


_ORDER: Mapping[Sort, int] = {"cable": 0, "box": 1, "accessory": 2, "device": 3, "fixing": 4, "work": 5}


def _cables(
    designs: Sequence[tuple[str, Circuit]], ways: Mapping[tuple[str, str], LegRoute], rulebook: Rulebook
) -> tuple[tuple[CableCuts, ...], tuple[str, ...]]:
    cuts: dict[str, list[Cut]] = defaultdict(list)
    names: dict[str, str] = {}
    missing = []
    for key, design in designs:
        for leg in design.legs:
            if leg.state == "as-found":
                continue
            mm = _length_mm(leg, ways.get((key, leg.id)))
            if mm is None:
                missing.append(f"Circuit {design.number}, {leg.a} to {leg.b}: no length, and no way on the plan")
                continue
            cable = leg.cable or design.cable
            names[_cable_key(cable)] = _cable_name(cable, rulebook)
            cuts[_cable_key(cable)].append(Cut(leg=f"{design.number}: {leg.a} to {leg.b}", mm=mm))
    found = (
        CableCuts(key=key, what=names[key], cuts=tuple(each), drums=drums_for([cut.mm for cut in each]))
        for key, each in sorted(cuts.items())
    )
    return tuple(found), tuple(missing)


def _length_mm(leg: Leg, way: LegRoute | None) -> int | None:
    """Return how much cable a leg takes: as it was taped, else as its way runs, else as it is drawn; up to the mm."""
    drawn = leg.length_m
    if way is not None and way.segments and not leg.taped:
        return way.length_mm
    return None if drawn is None else ceil(round(drawn * 1000, 6))


def _cable_key(cable: Cable) -> str:
    cores = f":{cable.cores}" if cable.type in ("multicore", "armoured", "flex") else ""
    return f"cable:{cable.type}:{plain(cable.csa_mm2)}{cores}"


def _cable_name(cable: Cable, rulebook: Rulebook) -> str:
    cores = f", {cable.cores} cores" if cable.type in ("multicore", "armoured", "flex") else ""
    return f"{plain(cable.csa_mm2)} mm² {rulebook.data.cables[cable.type].name}{cores}"


def _count_mark(counts: Counter[tuple[str, Sort, str, str]], mark: Mark) -> None:
    box, kind = mark.box, mark.kind.replace("-", " ")
    on_wall = mark.rule.rule not in ("ceiling", "grid", "over-edge")
    if on_wall and mark.kind not in ("board", "wall-light"):
        gangs = f"{box.gangs} gang"
        if box.is_surface:
            counts[f"box:surface:{box.gangs}", "box", f"Surface box, {gangs}", "each"] += 1
        else:
            counts[f"box:{box.depth_mm}:{box.gangs}", "box", f"Box {box.depth_mm} mm, {gangs}", "each"] += 1
    if mark.kind == "board":
        return
    gangs = f", {box.gangs} gang" if mark.kind in ("socket", "switch", "data") else ""
    tight = f", {mark.ip}" if mark.ip else ""
    lamp = f", {mark.lamp.name}" if mark.lamp is not None and mark.lamp.name else ""
    key = f"accessory:{mark.kind}:{box.gangs if gangs else 1}{tight}{lamp}"
    counts[key, "accessory", f"{kind.capitalize()}{gangs}{tight}{lamp}", "each"] += 1


# What follows from the way of a leg: its key, sort, name and unit.
_OF_WAYS: tuple[tuple[str, Sort, str, str], ...] = (
    ("fixing:clip", "fixing", "Clip, metal where a fall in fire would block a way out", "each"),
    ("fixing:grommet", "fixing", "Grommet", "each"),
    ("fixing:sleeve", "fixing", "Sleeving, green and yellow", "m"),
    ("fixing:capping", "fixing", "Capping or oval in chases", "m"),
    ("fixing:seal", "fixing", "Fire stopping, a floor pierced", "each"),
    ("work:laid", "work", "Cable laid over or under rooms", "m"),
    ("work:chased", "work", "Cable let into walls", "m"),
    ("work:outside", "work", "Cable laid outside", "m"),
    ("work:drilled", "work", "Joists drilled", "each"),
)


def _count_fixings(
    counts: Counter[tuple[str, Sort, str, str]],
    designs: Sequence[tuple[str, Circuit]],
    ways: Mapping[tuple[str, str], LegRoute],
) -> None:
    for key, design in designs:
        for leg in design.legs:
            way = ways.get((key, leg.id))
            if way is None or not way.pieces or leg.state == "as-found":
                continue
            amounts = _amounts(way)
            for each in _OF_WAYS:
                if amounts[each[0]]:
                    counts[each] += amounts[each[0]]


def _amounts(way: LegRoute) -> dict[str, int]:
    """Return how much of each a way takes, in pieces or in mm."""
    free = sum(piece.mm for piece in way.pieces if piece.within in ("over", "under"))
    chased = sum(piece.mm for piece in way.pieces if piece.within == "wall")
    return {
        "fixing:clip": -(-free // CLIP_MM),
        "fixing:grommet": 2,
        "fixing:sleeve": 2 * SLEEVE_MM,
        "fixing:capping": chased,
        "fixing:seal": sum(piece.within == "under" for piece in way.pieces),
        "work:laid": free,
        "work:chased": chased,
        "work:outside": sum(piece.mm for piece in way.pieces if piece.within == "outside"),
        "work:drilled": sum(piece.joist_holes for piece in way.pieces),
    }
