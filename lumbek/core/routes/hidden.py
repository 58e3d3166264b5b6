"""What lies hidden in walls, floors and ceilings once cable is laid: wall by wall, for whoever drills there later.

Only what is laid now, by the way it is found to take: what was there already nobody has seen.
"""

from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence

from lumbek.core.model.circuit import Circuit
from lumbek.core.model.plan import MarkBox
from lumbek.core.plan.naming import wall_names
from lumbek.core.routes.answer import LegRoute, RoutedHouse
from lumbek.core.routes.lay_of_house import LegEnd
from lumbek.core.routes.new_legs import new_legs
from lumbek.core.routes.pieces import RoutePiece
from lumbek.core.value import Frozen


class HiddenSpot(Frozen):
    """A spot of a wall as one faces it: from its left end, and up from the floor, in mm."""

    along_mm: int
    up_mm: int


class HiddenLine(Frozen):
    """A cable in a wall: of which circuit, and its line."""

    circuit: int
    spots: tuple[HiddenSpot, ...]


class HiddenRect(Frozen):
    """An opening in a wall, or a box on it."""

    left_mm: int
    right_mm: int
    low_mm: int
    high_mm: int


class HiddenWall(Frozen):
    """A wall with cable in it, as one faces it from its room."""

    room: str
    called: str
    width_mm: int
    height_mm: int
    lines: tuple[HiddenLine, ...]
    openings: tuple[HiddenRect, ...]
    boxes: tuple[HiddenRect, ...]


class HiddenRun(Frozen):
    """Cable over or under a room: how much of which circuits."""

    room: str
    under: bool
    circuits: tuple[int, ...]
    mm: int


def hidden_walls(
    routed: RoutedHouse, designs: Sequence[tuple[str, Circuit]], ways: Mapping[tuple[str, str], LegRoute]
) -> tuple[HiddenWall, ...]:
    """Return every wall that cable is laid in now, in the order of rooms and walls."""
    lines: dict[tuple[str, str], list[HiddenLine]] = defaultdict(list)
    faces = routed.house.faces
    for number, piece in _laid(designs, ways):
        if piece.within == "wall":
            face = faces[piece.room, piece.wall]
            floor = routed.house.floor_mm(face.storey)
            spots = tuple(HiddenSpot(along_mm=face.along(spot.x, spot.y), up_mm=spot.z - floor) for spot in piece.line)
            lines[piece.room, piece.wall].append(HiddenLine(circuit=number, spots=spots))
    return tuple(_wall(routed, key, tuple(lines[key])) for key in faces if key in lines)


def _laid(
    designs: Sequence[tuple[str, Circuit]], ways: Mapping[tuple[str, str], LegRoute]
) -> Iterator[tuple[int, RoutePiece]]:
    for key, design, leg in new_legs(designs):
        way = ways.get((key, leg.id))
        if way is not None:
            yield from ((design.number, piece) for piece in way.pieces)


def _wall(routed: RoutedHouse, key: tuple[str, str], lines: tuple[HiddenLine, ...]) -> HiddenWall:
    face = routed.house.faces[key]
    plates = {mark.id: mark.box for mark in routed.places.marks}
    boxes = [_box(end, plates[end.mark]) for end in routed.house.ends.values() if (end.room, end.wall) == key]
    return HiddenWall(
        room=face.room,
        called=wall_names(routed.house.placing.outline(face.room))[face.wall.id],
        width_mm=face.wall.length_mm,
        height_mm=face.height_mm,
        lines=lines,
        openings=tuple(HiddenRect(left_mm=a, right_mm=b, low_mm=c, high_mm=d) for a, b, c, d in face.holes),
        boxes=tuple(boxes),
    )


def _box(end: LegEnd, plate: MarkBox) -> HiddenRect:
    """Return a box on a wall, as wide and high as its plate, up to the mm."""
    wide, high = -(-plate.plate_width_mm // 2), -(-plate.plate_height_mm // 2)
    return HiddenRect(
        left_mm=end.at_mm - wide, right_mm=end.at_mm + wide, low_mm=end.height_mm - high, high_mm=end.height_mm + high
    )


def hidden_runs(
    designs: Sequence[tuple[str, Circuit]], ways: Mapping[tuple[str, str], LegRoute]
) -> tuple[HiddenRun, ...]:
    """Return what lies over and under rooms, in the order in which circuits come to them."""
    mm: dict[tuple[str, bool], int] = defaultdict(int)
    circuits: dict[tuple[str, bool], set[int]] = defaultdict(set)
    for number, piece in _laid(designs, ways):
        if piece.within in ("over", "under"):
            key = piece.room, piece.within == "under"
            mm[key] += piece.mm
            circuits[key].add(number)
    return tuple(
        HiddenRun(room=room, under=under, circuits=tuple(sorted(circuits[room, under])), mm=many)
        for (room, under), many in mm.items()
    )
