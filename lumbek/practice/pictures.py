"""Drawings of an exercise, as shapes that any page can set: nothing is told by colour alone, words stand beside it."""

from collections.abc import Iterator, Mapping, Sequence
from math import ceil, cos, hypot, pi, sin
from typing import Literal

from lumbek.core.model.leg import BOARD, Leg
from lumbek.core.value import Frozen

Tone = Literal["plain", "quiet", "bad", "copper", "paper"]
# Across and down.
Spot = tuple[float, float]


class PictureShape(Frozen):
    """A line, a box, a disc or words; `choice` where tapping it chooses that."""

    sort: Literal["line", "box", "disc", "words"]
    x: float
    y: float
    x2: float = 0
    y2: float = 0
    r: float = 0
    words: str = ""
    tone: Tone = "plain"
    dashed: bool = False
    choice: str = ""


class Picture(Frozen):
    """Shapes on a sheet so wide and high; `told` says the same in words."""

    width: float
    height: float
    shapes: tuple[PictureShape, ...]
    told: str = ""


def line(x: float, y: float, x2: float, y2: float, tone: Tone = "plain", dashed: bool = False) -> PictureShape:
    """Return a line."""
    return PictureShape(sort="line", x=x, y=y, x2=x2, y2=y2, tone=tone, dashed=dashed)


def box(x: float, y: float, x2: float, y2: float, tone: Tone = "plain", dashed: bool = False) -> PictureShape:
    """Return a box by two corners."""
    return PictureShape(sort="box", x=x, y=y, x2=x2, y2=y2, tone=tone, dashed=dashed)


def disc(x: float, y: float, r: float, tone: Tone = "plain", choice: str = "") -> PictureShape:
    """Return a disc."""
    return PictureShape(sort="disc", x=x, y=y, r=r, tone=tone, choice=choice)


def words(x: float, y: float, text: str, tone: Tone = "plain") -> PictureShape:
    """Return words, their middle at a spot."""
    return PictureShape(sort="words", x=x, y=y, words=text, tone=tone)


def back_of(letters: Sequence[str], told: str, choices: bool = False) -> Picture:
    """Return an accessory from behind: its terminals by letters, two to a row."""
    rows = ceil(len(letters) / 2)
    height = 60 + 46 * rows
    shapes = [box(10, 10, 190, height), box(22, 22, 178, height - 12, "quiet")]
    for at, letter in enumerate(letters):
        x, y = (62 if at % 2 == 0 else 138), 52 + 46 * (at // 2)
        shapes += [disc(x, y, 15, "copper", letter if choices else ""), words(x, y, letter)]
    return Picture(width=200, height=height + 10, shapes=tuple(shapes), told=told)


def both_sides(front: Sequence[PictureShape], back: Picture) -> Picture:
    """Return an accessory from the front and, beside it, from behind."""
    moved = (each.model_copy(update={"x": each.x + 210, "x2": each.x2 + 210}) for each in back.shapes)
    return Picture(width=410, height=max(200, back.height), shapes=(*front, *moved), told=back.told)


def front_of(rockers: int, slots: bool, told: str) -> Picture:
    """Return an accessory from the front: rockers, or the openings of a socket."""
    shapes = [box(10, 10, 190, 190)]
    if slots:
        shapes += [box(92, 50, 108, 80, "quiet"), box(60, 110, 76, 130, "quiet"), box(124, 110, 140, 130, "quiet")]
    wide = 150 / max(rockers, 1)
    for at in range(rockers):
        left = 25 + at * wide
        shapes += [box(left + 6, 55, left + wide - 6, 145, "quiet"), line(left + 6, 100, left + wide - 6, 100, "quiet")]
    return Picture(width=200, height=200, shapes=tuple(shapes), told=told)


def run_of(points: Sequence[str], legs: Sequence[Leg], is_ring: bool, told: str) -> Picture:
    """Return a run of cable: a ring as a ring with its board at the left, anything else from left to right."""
    spots = dict(_round(points)) if is_ring else dict(_row(points))
    ends = {leg.id: (spots[leg.a], spots[leg.b]) for leg in legs if {leg.a, leg.b} <= spots.keys()}
    shapes = [line(*a, *b, "copper") for a, b in ends.values()]
    shapes += [words(*_beside(a, b), name, "quiet") for name, (a, b) in ends.items()]
    return _with_places(shapes, spots, told)


def wall_of(legs: Sequence[Leg], told: str) -> Picture:
    """Return the cables of a wall: the board at the left, each box a column further than where it is fed from."""
    spots = dict(_columns(legs))
    ways: dict[frozenset[str], list[Leg]] = {}
    for leg in legs:
        ways.setdefault(frozenset((leg.a, leg.b)), []).append(leg)
    shapes, names = [], []
    for side_by_side in ways.values():
        for at, leg in enumerate(side_by_side):
            by = 16 * (at - (len(side_by_side) - 1) / 2)
            near, far = sorted((spots[leg.a], spots[leg.b]))
            a, b = _shifted(near, far, by)
            shapes.append(line(*a, *b, "copper"))
            # Named on the side that it lies on; what slopes, towards its end, and what goes down alone below it.
            below = by < 0 or (far[1] > near[1] and len(side_by_side) == 1)
            part = 0.5 if far[1] == near[1] else 0.65
            spot = _beside(b, a, 1 - part) if below else _beside(a, b, part)
            names.append(words(*spot, leg.id, "quiet"))
    return _with_places([*shapes, *names], spots, told)


def _with_places(cables: Sequence[PictureShape], spots: Mapping[str, Spot], told: str) -> Picture:
    """Return cables with the places that they join, each as a disc with its name."""
    shapes = list(cables)
    for name, (x, y) in spots.items():
        shapes += [disc(x, y, 17 if name == BOARD else 14, "paper"), words(x, y, _short(name))]
    wide, high = (max(spot[axis] for spot in spots.values()) + 40 for axis in (0, 1))
    return Picture(width=wide, height=high, shapes=tuple(shapes), told=told)


def _columns(legs: Sequence[Leg]) -> Iterator[tuple[str, Spot]]:
    """Yield every place of a wall with its spot: by how many cables it is from the board, in the order of its feed."""
    column, seen, at = [BOARD], {BOARD}, 0
    while column:
        for row, name in enumerate(column):
            yield name, (35 + 110 * at, 35 + 75 * row)
        column = list(dict.fromkeys(end for name in column for leg in legs for end in _onward(leg, name, seen)))
        seen.update(column)
        at += 1


def _onward(leg: Leg, name: str, seen: set[str]) -> list[str]:
    return [leg.other_end(name)] if name in (leg.a, leg.b) and leg.other_end(name) not in seen else []


def _shifted(one: Spot, other: Spot, by: float) -> tuple[Spot, Spot]:
    """Return a line moved aside, so that those beside each other are told apart."""
    x, y = _aside(one, other, by)
    return (one[0] + x, one[1] + y), (other[0] + x, other[1] + y)


def _beside(one: Spot, other: Spot, part: float = 0.5) -> Spot:
    """Return a spot beside a leg, that part of the way along it, to its left as one goes."""
    x, y = _aside(one, other, 13)
    return one[0] + part * (other[0] - one[0]) + x, one[1] + part * (other[1] - one[1]) + y


def _aside(one: Spot, other: Spot, by: float) -> Spot:
    """Return how far that is along each axis: `by` to the left of a line as one goes along it."""
    along_x, along_y = other[0] - one[0], other[1] - one[1]
    length = hypot(along_x, along_y) or 1.0
    return by * along_y / length, -by * along_x / length


def _short(name: str) -> str:
    return "B" if name == "board" else name.removeprefix("p")[:4]


def _round(points: Sequence[str]) -> Iterator[tuple[str, Spot]]:
    every = ["board", *points]
    radius = max(90.0, 9.5 * len(every))
    for at, name in enumerate(every):
        turn = pi - 2 * pi * at / len(every)
        yield name, (30 + radius * 1.8 * (1 + cos(turn)), radius + 30 - radius * sin(turn))


def _row(points: Sequence[str], wide: int = 10) -> Iterator[tuple[str, Spot]]:
    for at, name in enumerate(["board", *points]):
        row, along = divmod(at, wide)
        yield name, (35 + 70 * (along if row % 2 == 0 else wide - 1 - along), 40 + 75 * row)
