"""What cable keeps clear of: data cable in the same wall, pipes over a ceiling; and what a circuit says of its walls.

Data (BS 6701, BS 7671 528.1 and 444.6.2): 50 mm from power where nothing parts them, 200 mm advised where they run side
by side. Pipes that warm what lies beside them (528.3): no standard has a figure, what is kept here is guidance. What is
let into a wall lies in its zones; nearer than 50 mm to its face it wants 30 mA or earthed metal (522.6.202, 522.6.203),
so a circuit that says it has none there contradicts its ways.
"""

from collections.abc import Iterator, Mapping, Sequence
from itertools import pairwise
from typing import Literal, NamedTuple

from lumbek.core.model.circuit import Circuit
from lumbek.core.plan.guidance import plan_rules
from lumbek.core.routes.lay_of_house import LayOfHouse
from lumbek.core.routes.new_legs import new_legs
from lumbek.core.routes.pieces import Corner3, RoutePiece
from lumbek.core.value import Frozen


class Keeps(Frozen):
    """How near cable comes to what it keeps clear of, for how far; or that a circuit denies what its ways do."""

    what: Literal["data", "pipe", "walls"]
    room: str
    circuit: int
    gap_mm: int = 0
    beside_mm: int = 0
    verdict: Literal["pass", "fail"]
    told: str = ""


class Alongside(NamedTuple):
    """A straight stretch beside another: how far apart, and over which length."""

    gap_mm: int
    beside_mm: int


def side_by_side(at: int, low: int, high: int, edges: tuple[int, int], ends: tuple[int, int]) -> Alongside | None:
    """Return how a straight stretch at `at` from `low` to `high` lies beside a band; None where they pass each other.

    The band has two edges across and two ends along.
    """
    beside = min(high, ends[1]) - max(low, ends[0])
    if beside <= 0:
        return None
    return Alongside(max(edges[0] - at, at - edges[1], 0), beside)


def keeps_of(
    house: LayOfHouse,
    designs: Sequence[tuple[str, Circuit]],
    pieces: Mapping[tuple[str, str], Sequence[RoutePiece]],
) -> tuple[Keeps, ...]:
    """Return what new cable comes near to, the nearest of each circuit in each room, and circuits that deny walls."""
    found: dict[tuple[str, str, int], Keeps] = {}
    for key, design, leg in new_legs(designs):
        for piece in pieces.get((key, leg.id), ()):
            for each in (*_beside_data(house, design.number, piece), *_beside_pipes(house, design.number, piece)):
                at = (each.what, each.room, each.circuit)
                if at not in found or _nearer(each, found[at]):
                    found[at] = each
    near = (each.model_copy(update={"told": _told(house, each)}) for each in found.values())
    return (*near, *_denied(designs, pieces))


def _nearer(one: Keeps, other: Keeps) -> bool:
    return (one.gap_mm, -one.beside_mm) < (other.gap_mm, -other.beside_mm)


def _beside_data(house: LayOfHouse, circuit: int, piece: RoutePiece) -> Iterator[Keeps]:
    """Yield where cable runs up or down a wall beside the line of a data outlet: its own cable does the same."""
    if piece.within != "wall":
        return
    rules = plan_rules().clear
    face = house.faces[piece.room, piece.wall]
    for end in house.ends.values():
        if (end.room, end.wall) != (piece.room, piece.wall) or house.kind_of(end.mark) != "data":
            continue
        for one, other in _upright(piece):
            low, high = sorted((one.z, other.z))
            at = face.along(one.x, one.y)
            floor = house.floor_mm(face.storey)
            found = side_by_side(at, low, high, (end.at_mm, end.at_mm), (floor, floor + face.height_mm))
            if found is not None and found.gap_mm < rules.data_advised_mm:
                yield _near("data", piece.room, circuit, found, rules.data_mm)


def _beside_pipes(house: LayOfHouse, circuit: int, piece: RoutePiece) -> Iterator[Keeps]:
    """Yield where cable runs along a pipe over the ceiling of a room, or under the floor of the room above."""
    if piece.within not in ("over", "under"):
        return
    rules = plan_rules().clear
    for pipe in house.pipes:
        if pipe.storey != piece.storey:
            continue
        for one, other in pairwise(piece.line):
            if (one.y == other.y) != (pipe.runs == "e") or one.z != other.z:
                continue
            across = one.y if pipe.runs == "e" else one.x
            low, high = sorted((one.x, other.x) if pipe.runs == "e" else (one.y, other.y))
            found = side_by_side(across, low, high, pipe.edges, pipe.ends)
            if found is not None and found.gap_mm < rules.pipe_mm:
                yield _near("pipe", pipe.room, circuit, found, rules.pipe_mm)


def _upright(piece: RoutePiece) -> Iterator[tuple[Corner3, Corner3]]:
    return ((a, b) for a, b in pairwise(piece.line) if (a.x, a.y) == (b.x, b.y))


def _near(what: Literal["data", "pipe"], room: str, circuit: int, found: Alongside, kept_mm: int) -> Keeps:
    verdict: Literal["pass", "fail"] = "pass" if found.gap_mm >= kept_mm else "fail"
    return Keeps(what=what, room=room, circuit=circuit, gap_mm=found.gap_mm, beside_mm=found.beside_mm, verdict=verdict)


def _told(house: LayOfHouse, each: Keeps) -> str:
    rules, room = plan_rules().clear, house.places.name_of(each.room)
    metres = f"{each.beside_mm / 1000:.1f} m"
    if each.what == "pipe":
        return (
            f"{room}, circuit {each.circuit}: {metres} along a pipe, {each.gap_mm} mm from it: "
            f"keep {rules.pipe_mm} mm, or lag the pipe"
        )
    what = f"{room}, circuit {each.circuit}: {metres} beside data cable, {each.gap_mm} mm from it"
    if each.verdict == "fail":
        return f"{what}: keep {rules.data_mm} mm, or part them by conduit"
    return f"{what}: {rules.data_advised_mm} mm are better where nothing parts them"


def _denied(
    designs: Sequence[tuple[str, Circuit]], pieces: Mapping[tuple[str, str], Sequence[RoutePiece]]
) -> Iterator[Keeps]:
    """Yield circuits that say no cable of theirs is shallow in a wall, and are let into walls without armour."""
    for key, design in designs:
        if design.surroundings.concealed_shallow is not False:
            continue
        bare = [
            piece
            for each, _, leg in new_legs([(key, design)])
            if (cable := design.cable_of(leg)).type != "armoured" and cable.earth_by != "conduit"
            for piece in pieces.get((each, leg.id), ())
            if piece.within == "wall"
        ]
        if bare:
            mm = sum(piece.mm for piece in bare)
            told = (
                f"Circuit {design.number} says that no cable of it is in a wall at less than 50 mm, and "
                f"{mm / 1000:.1f} m are let into walls: 30 mA, earthed metal round it, or 50 mm deep (522.6.202)"
            )
            yield Keeps(what="walls", room=bare[0].room, circuit=design.number, beside_mm=mm, verdict="fail", told=told)
