"""What the building bears: how large a hole its joists take, how deep a chase its walls, for the cable that comes.

Joists (guidance to the building regulations; BS 7671 522.6.204): a hole of a quarter of the depth at most, on its
middle, 50 mm of timber or more above and below the cable; a notch of an eighth of the depth near a support. Chases
(the same guidance): upright a third of the wall's thickness at most, level a sixth; in plaster alone nothing of the
wall is cut.
"""

from collections import defaultdict
from collections.abc import Mapping, Sequence
from math import ceil, hypot
from typing import Literal, NamedTuple

from lumbek.core.model.cable import Cable
from lumbek.core.rulebooks.cable_size import CableSize, size_of
from lumbek.core.value import Frozen

BearVerdict = Literal["pass", "fail", "cannot-tell"]
# Of its depth, and what stays above and below a cable.
HOLE_OF_DEPTH, TIMBER_MM = 0.25, 50
# A notch: so much of the depth, between these parts of the span from a support; plated, for screws find it.
NOTCH_OF_DEPTH, NOTCHED_FROM, NOTCHED_TO = 0.125, 0.07, 0.25
# Round the cables, so that they can be pulled.
ROOM_TO_PULL_MM = 2
# Capping over cable in a chase.
CAPPING_MM = 3
UPRIGHT_OF_WALL, LEVEL_OF_WALL = 1 / 3, 1 / 6


class Bears(Frozen):
    """How a joist or a wall bears what is cut out of it: wanted against allowed, in mm; `holes` where several help."""

    what: Literal["joist", "chase"]
    room: str
    wall: str = ""
    cables: int
    wanted_mm: int | None
    allowed_mm: int | None
    verdict: BearVerdict
    holes: int = 1
    # How deep a notch may be instead, near a support, where no hole takes the cable and a notch does.
    notch_mm: int | None = None
    told: str = ""


class JoistsCut(NamedTuple):
    """The joists under or over a room where most cable crosses them."""

    room: str
    depth_mm: int | None
    cables: tuple[Cable, ...]


class ChaseCut(NamedTuple):
    """A wall where the thickest cable is let in: its thickness and plaster as far as they are known."""

    room: str
    wall: str
    is_level: bool
    thickness_mm: int | None
    plaster_mm: int
    cables: tuple[Cable, ...]


def bears_joists(cut: JoistsCut) -> Bears:
    """Return whether joists bear the hole for all cables that cross there together; else in how many holes they may."""
    sizes = [size_of(cable) for cable in cut.cables]
    known = [size for size in sizes if size is not None]
    said = {"what": "joist", "room": cut.room, "cables": len(cut.cables)}
    wanted = hole_for(known) if len(known) == len(sizes) else None
    allowed = None if cut.depth_mm is None else int(min(cut.depth_mm * HOLE_OF_DEPTH, cut.depth_mm - 2 * TIMBER_MM))
    if wanted is None or allowed is None:
        return Bears(**said, wanted_mm=wanted, allowed_mm=allowed, verdict="cannot-tell")
    if wanted <= allowed:
        return Bears(**said, wanted_mm=wanted, allowed_mm=allowed, verdict="pass")
    holes, notch = _shared_out(known, allowed), int(cut.depth_mm * NOTCH_OF_DEPTH) if cut.depth_mm else 0
    helps = holes == 0 and all(ceil(size.thick_mm) <= notch for size in known)
    notched = notch if helps else None
    return Bears(**said, wanted_mm=wanted, allowed_mm=allowed, verdict="fail", holes=holes, notch_mm=notched)


def hole_for(sizes: Sequence[CableSize]) -> int:
    """Return the hole that takes cables lying on each other, in mm, up."""
    wide, thick = max(size.wide_mm for size in sizes), sum(size.thick_mm for size in sizes)
    return ceil(hypot(wide, thick)) + ROOM_TO_PULL_MM


def _shared_out(sizes: Sequence[CableSize], allowed: int) -> int:
    """Return in how many holes cables go, the widest first into the first that takes it; nought where one fits none."""
    holes: list[list[CableSize]] = []
    for size in sorted(sizes, reverse=True):
        if hole_for([size]) > allowed:
            return 0
        there = next((hole for hole in holes if hole_for([*hole, size]) <= allowed), None)
        if there is None:
            holes.append([size])
        else:
            there.append(size)
    return len(holes)


def bears_chase(cut: ChaseCut) -> Bears:
    """Return whether a wall bears a chase for its thickest cable, capped, behind what plaster there is."""
    sizes = [size_of(cable) for cable in cut.cables]
    thick = None if None in sizes else max(size.thick_mm for size in sizes if size is not None)
    # Flat cable lies flat: what is cut is as deep as it is thick.
    wanted = None if thick is None else max(ceil(thick) + CAPPING_MM - cut.plaster_mm, 0)
    part = LEVEL_OF_WALL if cut.is_level else UPRIGHT_OF_WALL
    allowed = None if cut.thickness_mm is None else int(cut.thickness_mm * part + 1e-9)
    said = {"what": "chase", "room": cut.room, "wall": cut.wall, "cables": len(cut.cables)}
    verdict: BearVerdict = "cannot-tell"
    if wanted == 0:
        verdict = "pass"
    elif wanted is not None and allowed is not None:
        verdict = "pass" if wanted <= allowed else "fail"
    return Bears(**said, wanted_mm=wanted, allowed_mm=allowed, verdict=verdict)


def worst(found: Sequence[Bears]) -> tuple[Bears, ...]:
    """Return, of each room's joists and of each wall, the worst: what fails first, then what cannot be told."""
    order: Mapping[BearVerdict, int] = {"fail": 0, "cannot-tell": 1, "pass": 2}
    by_place: dict[tuple[str, str, str], list[Bears]] = defaultdict(list)
    for each in found:
        by_place[each.what, each.room, each.wall].append(each)
    return tuple(
        min(here, key=lambda each: (order[each.verdict], -(each.wanted_mm or 0), -each.cables))
        for here in by_place.values()
    )
