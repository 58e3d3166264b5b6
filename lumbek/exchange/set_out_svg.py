"""A wall or a ceiling as one sets it out, as SVG in true proportion: its marks with running dimensions from one end."""

from collections.abc import Iterator, Mapping, Sequence
from html import escape
from typing import NamedTuple

from lumbek.core.model.plan import Outline
from lumbek.core.plan.set_out import SetOut, SetOutMark

# Sizes on paper, in mm: how wide the longest side is drawn, the margin, letters, from line to line of dimensions.
_WIDE, _MARGIN, _LETTER, _LINE = 240.0, 8.0, 3.4, 6.0


class Hole(NamedTuple):
    """An opening or a thing on a wall, in mm of the wall."""

    left_mm: int
    right_mm: int
    bottom_mm: int
    top_mm: int
    is_opening: bool


def holes_in(outline: Outline, face: str, spans: Mapping[str, tuple[int, int]]) -> list[Hole]:
    """Return the openings and things of a wall; `spans` is from where to where each lies on it."""
    openings = [
        Hole(*spans[each.id], each.sill_mm, each.head_mm, True) for each in outline.openings if each.wall == face
    ]
    standing = (each for each in outline.things if each.wall == face and each.fate != "remove")
    return [*openings, *(Hole(*spans[each.id], each.bottom_mm, each.top_mm, False) for each in standing)]


def set_out_svg(title: str, face: SetOut, holes: Sequence[Hole] = ()) -> str:
    """Return one face: what is in the wall, each mark with its centre lines, its edges, and how far up it is."""
    scale = _WIDE / max(face.width_mm, face.height_mm)
    wide, tall = face.width_mm * scale, face.height_mm * scale
    high = tall + 3 * _MARGIN + _LINE * (len(face.marks) + 2)
    top = 2 * _MARGIN
    parts = [_text(_MARGIN, _MARGIN + 2, title, 5, bold=True)]
    parts.append(_rect(_MARGIN, top, wide, tall, 'fill="#f6f4ef" stroke="#222" stroke-width="0.5"'))
    parts += [_hole(hole, scale, top + tall) for hole in holes]
    for at, mark in enumerate(face.marks, start=1):
        parts += _mark(at, mark, scale, top + tall)
    page = f"{wide + 2 * _MARGIN + 80:.0f}"
    return "\n".join(
        [
            f'<svg xmlns="http://www.w3.org/2000/svg" width="{page}mm" height="{high:.0f}mm" '
            f'viewBox="0 0 {page} {high:.0f}" font-family="DejaVu Sans, sans-serif">',
            f"<title>{escape(title)}</title>",
            f'<rect width="{page}" height="{high:.0f}" fill="#fff"/>',
            *parts,
            "</svg>",
            "",
        ]
    )


def _hole(hole: Hole, scale: float, floor: float) -> str:
    style = 'fill="#fff" stroke="#555"' if hole.is_opening else 'fill="#ddd8cc" stroke="#777"'
    return _rect(
        _MARGIN + hole.left_mm * scale,
        floor - hole.top_mm * scale,
        (hole.right_mm - hole.left_mm) * scale,
        (hole.top_mm - hole.bottom_mm) * scale,
        f'{style} stroke-width="0.25"',
    )


def _mark(at: int, mark: SetOutMark, scale: float, floor: float) -> Iterator[str]:
    x, y = _MARGIN + mark.across_mm * scale, floor - (mark.up_mm or 0) * scale
    wide, tall = mark.width_mm * scale, mark.height_mm * scale
    line = floor + _LINE * at
    style = 'fill="none"' if mark.is_existing or mark.goes else 'fill="#c8501e" fill-opacity="0.35"'
    yield _rect(x - wide / 2, y - tall / 2, wide, tall, f'{style} stroke="#222" stroke-width="0.3"')
    # Centre lines past the plate, so that they can be found when it is cut.
    reach = max(wide, tall) / 2 + 2
    yield _line(x - reach, y, x + reach, y, 0.15)
    yield _line(x, y - reach, x, line, 0.15)
    yield _line(_MARGIN, line, x, line, 0.3)
    up = "" if mark.up_mm is None else f", up {mark.up_mm}"
    struck = "goes: " if mark.goes else ""
    words = f"{mark.across_mm}{up}: {struck}{mark.name or mark.kind.replace('-', ' ')}, {mark.depth_mm} deep"
    yield _text(x + 1.5, line + 1.2, f"{at}  {words}", _LETTER, bold=True)
    if mark.goes:
        yield _line(x - wide / 2, y - tall / 2, x + wide / 2, y + tall / 2, 0.3)


def _rect(x: float, y: float, wide: float, tall: float, style: str) -> str:
    return f'<rect x="{x:.2f}" y="{y:.2f}" width="{wide:.2f}" height="{tall:.2f}" {style}/>'


def _line(x: float, y: float, to_x: float, to_y: float, width: float) -> str:
    return f'<path d="M{x:.2f} {y:.2f}L{to_x:.2f} {to_y:.2f}" stroke="#222" stroke-width="{width}"/>'


def _text(x: float, y: float, words: str, size: float, bold: bool = False) -> str:
    weight = ' font-weight="bold"' if bold else ""
    return f'<text x="{x:.2f}" y="{y:.2f}" font-size="{size}"{weight}>{escape(words)}</text>'
