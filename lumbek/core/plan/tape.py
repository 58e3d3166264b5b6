"""What a tape says, as people type it: `4.20`, `4,2`, `3600`; `Bedroom 4.20 x 3.60 h 2.40`; `4.20 n, 1.10 e, ...`.

A figure with a decimal mark, or below 30, is in metres, any other in millimetres. It is read by decimal arithmetic, and
a figure finer than a millimetre is refused, not rounded: no tape says it.
"""

import re
from decimal import Decimal, InvalidOperation
from typing import NamedTuple

from lumbek.core.model.plan import Heading, Outline, Wall

_BELOW_M = 30
_HEADINGS: dict[str, Heading] = {"n": 0, "ne": 45, "e": 90, "se": 135, "s": 180, "sw": 225, "w": 270, "nw": 315}
_FIGURE = r"\d+(?:[.,]\d+)?"
# The first figure runs east, the second north.
_ROOM = re.compile(
    rf"(?P<name>.*?)\s*(?P<east>{_FIGURE})\s*(?:x|×|by)\s*(?P<north>{_FIGURE})"
    rf"(?:\s*(?:h|high|x|×)\s*(?P<height>{_FIGURE}))?",
    re.IGNORECASE,
)
_WALL = re.compile(rf"({_FIGURE})\s*([nesw]{{1,2}}|\d{{1,3}}°?)", re.IGNORECASE)


class TapeError(ValueError):
    """What was typed is no measure; the message says which part of it, and why."""


class TypedRoom(NamedTuple):
    """A room as it was typed."""

    name: str
    outline: Outline


def read_mm(said: str) -> int:
    """Return a measure in whole millimetres. Raises TapeError."""
    text = said.strip()
    if not re.fullmatch(_FIGURE, text):
        raise TapeError(f"{text[:20]!r} is no measure: 4.20 or 4200")
    try:
        figure = Decimal(text.replace(",", "."))
    except InvalidOperation as error:
        raise TapeError(f"{text[:20]!r} is no measure: 4.20 or 4200") from error
    is_metres = "." in text or "," in text or figure < _BELOW_M
    mm = figure * 1000 if is_metres else figure
    if mm != int(mm):
        raise TapeError(f"{text}: a tape reads whole millimetres")
    if not 0 < mm <= 100_000:
        raise TapeError(f"{text}: from 1 mm to 100 m")
    return int(mm)


def read_room(said: str) -> TypedRoom:
    """Return a room of four walls as it was typed: name, east to west, north to south, height. Raises TapeError."""
    found = _ROOM.fullmatch(said.strip())
    if found is None:
        raise TapeError("A room is typed as: Bedroom 4.20 x 3.60 h 2.40")
    east, north = read_mm(found["east"]), read_mm(found["north"])
    walls = (("w1", 0, north), ("w2", 90, east), ("w3", 180, north), ("w4", 270, east))
    more = {} if found["height"] is None else {"height_mm": read_mm(found["height"])}
    outline = Outline(walls=tuple(Wall(id=key, heading=to, length_mm=mm) for key, to, mm in walls), **more)
    return TypedRoom(found["name"].strip(" :,"), outline)


def read_walls(said: str) -> tuple[Wall, ...]:
    """Return walls as they were typed in their order, `4.20 n, 1.10 e`; parts end at a comma and space, or a semicolon.

    Raises TapeError.
    """
    parts = [part.strip() for part in re.split(r",\s+|;|\n", said) if part.strip()]
    walls = []
    for count, part in enumerate(parts, start=1):
        found = _WALL.fullmatch(part)
        if found is None:
            raise TapeError(f"{part[:20]!r}: a wall is a measure and which way it runs, 4.20 n")
        walls.append(Wall(id=f"w{count}", heading=_heading(found[2], part), length_mm=read_mm(found[1])))
    if len(walls) < 3:
        raise TapeError("A room has three walls at least")
    return tuple(walls)


def read_widths(said: str) -> tuple[int, ...]:
    """Return the widths of a run of units, `600 600 450`. Raises TapeError."""
    widths = tuple(read_mm(part) for part in said.split())
    if not widths:
        raise TapeError("A run of units is typed by their widths: 600 600 450")
    return widths


def _heading(said: str, part: str) -> Heading:
    word = said.lower().rstrip("°")
    if word in _HEADINGS:
        return _HEADINGS[word]
    if not word.isdigit() or int(word) >= 360:
        raise TapeError(f"{part[:20]!r}: it runs n, e, s, w, or by degrees from north, below 360")
    return int(word)
