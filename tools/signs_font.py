"""Draw the few signs that our typeface lacks, as a font of our own: python -m tools.signs_font.

They are strokes between points on a grid of 1000 to the em, as heavy as the letters beside them.
"""

import itertools
import math
from collections.abc import Sequence
from pathlib import Path

from fontTools.fontBuilder import FontBuilder
from fontTools.pens.ttGlyphPen import TTGlyphPen

ROOT = Path(__file__).resolve().parents[1]
PLACES = (ROOT / "lumbek" / "exchange" / "fonts", ROOT / "web" / "src" / "fonts")
# When it says it was made, in seconds from 1904 on.
_MADE = 3_870_000_000
Point = tuple[float, float]

_CROSS = [[(100, 120), (500, 560)], [(100, 560), (500, 120)]]
_LOOPS = [
    (320 + 250 * math.sin(a), 330 + 170 * math.sin(a) * math.cos(a)) for a in (i * math.pi / 20 for i in range(41))
]
# Of each sign how wide it is, and its strokes, each through its points; what is filled is a shape of its own.
STROKES: dict[str, tuple[int, list[list[Point]]]] = {
    "√": (620, [[(30, 330), (120, 370), (230, 40), (400, 760), (600, 760)]]),
    "✓": (620, [[(80, 330), (230, 150), (540, 600)]]),
    "✗": (600, _CROSS),
    "✕": (600, _CROSS),
    "≤": (600, [[(520, 580), (90, 380), (520, 180)], [(90, 70), (520, 70)]]),
    "≥": (600, [[(80, 580), (510, 380), (80, 180)], [(80, 70), (510, 70)]]),
    "→": (640, [[(50, 340), (580, 340)], [(420, 510), (580, 340), (420, 170)]]),
    "∆": (640, [[(70, 40), (320, 680), (570, 40), (70, 40), (320, 680)]]),
    "∞": (640, [_LOOPS]),
    "⌫": (
        800,
        [
            [(40, 340), (220, 580), (740, 580), (740, 100), (220, 100), (40, 340)],
            [(360, 240), (560, 440)],
            [(360, 440), (560, 240)],
        ],
    ),
    "⋯": (700, [[(90, 340), (170, 340)], [(310, 340), (390, 340)], [(530, 340), (610, 340)]]),
}
FILLED: dict[str, tuple[int, list[Point]]] = {
    "◀": (600, [(500, 120), (500, 560), (80, 340)]),
    "▶": (600, [(100, 120), (100, 560), (520, 340)]),
}


def _bar(a: Point, b: Point, heavy: float) -> list[Point]:
    """Return the outline of a stroke, a little longer than it is so that strokes meet."""
    long = math.hypot(b[0] - a[0], b[1] - a[1])
    x, y = (b[0] - a[0]) / long * heavy / 2, (b[1] - a[1]) / long * heavy / 2
    return [
        (a[0] - x - y, a[1] - y + x),
        (b[0] + x - y, b[1] + y + x),
        (b[0] + x + y, b[1] + y - x),
        (a[0] - x + y, a[1] - y - x),
    ]


def _draw(pen: TTGlyphPen, outline: Sequence[Point]) -> None:
    area = sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(outline, [*outline[1:], outline[0]], strict=True))
    # All outlines run clockwise, so that what they share is filled.
    first, *others = [(round(x), round(y)) for x, y in (outline if area < 0 else outline[::-1])]
    pen.moveTo(first)
    for each in others:
        pen.lineTo(each)
    pen.closePath()


def build(heavy: float, style: str, path: Path) -> None:
    """Write the font in one weight."""
    glyphs, widths = {".notdef": TTGlyphPen(None).glyph()}, {".notdef": (500, 0)}
    for sign, (width, strokes) in STROKES.items():
        pen = TTGlyphPen(None)
        for stroke in strokes:
            for a, b in itertools.pairwise(stroke):
                _draw(pen, _bar(a, b, heavy))
        glyphs[f"u{ord(sign):04X}"], widths[f"u{ord(sign):04X}"] = pen.glyph(), (width, 0)
    for sign, (width, outline) in FILLED.items():
        pen = TTGlyphPen(None)
        _draw(pen, outline)
        glyphs[f"u{ord(sign):04X}"], widths[f"u{ord(sign):04X}"] = pen.glyph(), (width, 0)
    font = FontBuilder(1000, isTTF=True)
    font.setupGlyphOrder(list(glyphs))
    font.setupCharacterMap({ord(sign): f"u{ord(sign):04X}" for sign in (*STROKES, *FILLED)})
    font.setupGlyf(glyphs)
    font.setupHorizontalMetrics(widths)
    font.setupHorizontalHeader(ascent=1025, descent=-275)
    # The file is the same whenever it is made.
    font.updateHead(created=_MADE, modified=_MADE)
    font.font.recalcTimestamp = False
    font.setupNameTable({"familyName": "Lumbek Signs", "styleName": style})
    font.setupOS2(sTypoAscender=1025, sTypoDescender=-275, usWinAscent=1025, usWinDescent=275)
    font.setupPost()
    font.font.flavor = "woff2"
    font.save(path)


def main() -> None:
    """Write both weights to where papers and pages take them from."""
    for place in PLACES:
        place.mkdir(exist_ok=True)
        for weight, heavy, style in ((400, 74, "Regular"), (700, 118, "Bold")):
            build(heavy, style, place / f"signs-{weight}.woff2")


if __name__ == "__main__":
    main()
