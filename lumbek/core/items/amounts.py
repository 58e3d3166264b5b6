"""What one mark, leg, circuit and room take: the parts that a take-off and the steps of the work are made of.

Only what is new is bought: a mark that is there already takes nothing, nor does cable that was found.
"""

from collections import Counter
from collections.abc import Mapping, Sequence
from math import ceil
from typing import Literal, NamedTuple

from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Leg
from lumbek.core.model.places import Places, Room
from lumbek.core.model.plan import Mark, ThingKind
from lumbek.core.numbers import plain
from lumbek.core.protection.who import device_name
from lumbek.core.routes.answer import LegRoute
from lumbek.core.routes.new_legs import new_legs
from lumbek.core.rulebooks import Rulebook

Sort = Literal["cable", "box", "accessory", "device", "fixing", "work"]
Unit = Literal["each", "m", "min"]
# A clip for each 300 mm of what lies over or under rooms (guidance for flat cable); sleeving at each end.
CLIP_MM, SLEEVE_MM = 300, 100
# A cleat for each 400 mm of armoured cable that lies free or outside, a gland at each end.
CLEAT_MM = 400
_STANDS_IN_THE_WAY: tuple[ThingKind, ...] = ("bed", "cabinet", "desk", "appliance")


class Sum(NamedTuple):
    """What is counted together: a key, its sort, its name and its unit."""

    key: str
    sort: Sort
    what: str
    unit: Unit


Amounts = Counter[Sum]
# What follows from the way of a leg.
_CLIP = Sum("fixing:clip", "fixing", "Clip, metal where a fall in fire would block a way out", "each")
_CLEAT = Sum("fixing:cleat", "fixing", "Cleat of metal, armoured cable", "each")
_GLAND = Sum("fixing:gland", "fixing", "Gland with its earth tag, armoured cable", "each")
_GROMMET = Sum("fixing:grommet", "fixing", "Grommet", "each")
_SLEEVE = Sum("fixing:sleeve", "fixing", "Sleeving, green and yellow", "m")
_CAPPING = Sum("fixing:capping", "fixing", "Capping or oval in chases", "m")
_SEAL = Sum("fixing:seal", "fixing", "Fire stopping, a floor pierced", "each")
_LAID = Sum("work:laid", "work", "Cable laid over or under rooms", "m")
_CHASED = Sum("work:chased", "work", "Cable let into walls", "m")
_OUTSIDE = Sum("work:outside", "work", "Cable laid outside", "m")
_DRILLED = Sum("work:drilled", "work", "Joists drilled", "each")
# What follows from rooms and circuits.
CLEARED = Sum("work:cleared", "work", "Room cleared and covered", "each")
OPENED = Sum("work:opened", "work", "Floor opened and laid again", "each")
HALF_WAY = Sum("work:half-way", "work", "Circuit tested before it is closed", "each")


def box_of(mark: Mark) -> Amounts:
    """Return the box that a mark wants in first fix."""
    box, on_wall = mark.box, mark.rule.rule not in ("ceiling", "grid", "over-edge")
    if not on_wall or mark.kind in ("board", "wall-light"):
        return Counter()
    gangs = f"{box.gangs} gang"
    if box.is_surface:
        return Counter({Sum(f"box:surface:{box.gangs}", "box", f"Surface box, {gangs}", "each"): 1})
    return Counter({Sum(f"box:{box.depth_mm}:{box.gangs}", "box", f"Box {box.depth_mm} mm, {gangs}", "each"): 1})


def accessory_of(mark: Mark) -> Amounts:
    """Return what is fitted at a mark in second fix."""
    if mark.kind == "board":
        return Counter()
    box, kind = mark.box, mark.kind.replace("-", " ").replace("co alarm", "CO alarm")
    gangs = f", {box.gangs} gang" if mark.kind in ("socket", "switch", "data") else ""
    tight = f", {mark.ip}" if mark.ip else ""
    lamp = f", {mark.lamp.name}" if mark.lamp is not None and mark.lamp.name else ""
    key = f"accessory:{mark.kind}:{box.gangs if gangs else 1}{tight}{lamp}"
    return Counter({Sum(key, "accessory", f"{kind[:1].upper()}{kind[1:]}{gangs}{tight}{lamp}", "each"): 1})


def device_of(design: Circuit, rulebook: Rulebook) -> Amounts:
    """Return the device that a circuit wants at its board."""
    if design.state != "new" and not design.device_new:
        return Counter()
    name = device_name(rulebook, design.device)
    return Counter({Sum(f"device:{name}", "device", name, "each"): 1})


def cable_of(leg: Leg, design: Circuit, way: LegRoute | None, rulebook: Rulebook) -> Amounts | None:
    """Return the cable that a leg takes, in mm; None where nobody knows how long it is."""
    mm = length_mm(leg, way)
    return None if mm is None else Counter({cable_sum(leg.cable or design.cable, rulebook): mm})


def length_mm(leg: Leg, way: LegRoute | None) -> int | None:
    """Return how much cable a leg takes: as it was taped, else as its way runs, else as it is drawn; up to the mm."""
    drawn = leg.length_m
    if way is not None and way.segments and not leg.taped:
        return way.length_mm
    return None if drawn is None else ceil(round(drawn * 1000, 6))


def cable_sum(cable: Cable, rulebook: Rulebook) -> Sum:
    """Return what a cable is counted as."""
    several = cable.type in ("multicore", "armoured", "flex")
    key = f"cable:{cable.type}:{plain(cable.csa_mm2)}{f':{cable.cores}' if several else ''}"
    cores = f", {cable.cores} cores" if several else ""
    return Sum(key, "cable", f"{plain(cable.csa_mm2)} mm² {rulebook.data.cables[cable.type].name}{cores}", "m")


def laying_of(cable: Cable, way: LegRoute | None) -> Amounts:
    """Return what the way of a leg takes besides its cable: fixings, and work. Armour wants glands, and no capping."""
    if way is None or not way.pieces:
        return Counter()
    free = sum(piece.mm for piece in way.pieces if piece.within in ("over", "under"))
    chased = sum(piece.mm for piece in way.pieces if piece.within == "wall")
    outside = sum(piece.mm for piece in way.pieces if piece.within == "outside")
    is_armoured = cable.type == "armoured"
    fixings = (
        {_CLEAT: -(-(free + outside) // CLEAT_MM), _GLAND: 2}
        if is_armoured
        else {_CLIP: -(-free // CLIP_MM), _GROMMET: 2, _CAPPING: chased}
    )
    found = fixings | {
        _SLEEVE: 2 * SLEEVE_MM,
        _SEAL: sum(piece.within == "under" for piece in way.pieces),
        _LAID: free,
        _CHASED: chased,
        _OUTSIDE: outside,
        _DRILLED: sum(piece.joist_holes for piece in way.pieces),
    }
    return Counter({each: count for each, count in found.items() if count})


def in_the_way(room: Room) -> list[str]:
    """Return what stands in a room and has to be moved or covered, as it is called."""
    things = () if room.outline is None else room.outline.things
    return [
        each.name or each.kind.replace("-", " ")
        for each in things
        if each.kind in _STANDS_IN_THE_WAY and each.fate not in ("new", "remove")
    ]


def work_on(
    places: Places, designs: Sequence[tuple[str, Circuit]], ways: Mapping[tuple[str, str], LegRoute]
) -> dict[str, Amounts]:
    """Return, by room, what is cleared and which floors are opened; a circuit's test before closing is of no room."""
    laid = [way for key, _, leg in new_legs(designs) if (way := ways.get((key, leg.id))) is not None]
    opened = {piece.room for way in laid for piece in way.pieces if piece.within == "under"}
    touched = opened | {mark.room for mark in places.marks if mark.is_put_in}
    found: dict[str, Amounts] = {}
    for room in places.rooms:
        each: Amounts = Counter()
        if room.id in touched and in_the_way(room):
            each[CLEARED] = 1
        if room.id in opened:
            each[OPENED] = 1
        if each:
            found[room.id] = each
    return found
