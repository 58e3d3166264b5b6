"""The label strip of a board as SVG, in true size."""

from html import escape

from lumbek.core.board.labels import BoardSheet
from lumbek.exchange.labels_pdf import MODULE_MM

_HIGH_MM = 20
# So many letters fit on a line of a label.
_FIT = 11
_MOST_LINES = 3


def label_strip_svg(sheet: BoardSheet) -> str:
    """Return one strip: a label for each way, 18 mm wide, with its number, what it feeds and its device."""
    wide = max(1, len(sheet.labels)) * MODULE_MM
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide}mm" height="{_HIGH_MM}mm" '
        f'viewBox="0 0 {wide} {_HIGH_MM}" font-family="DejaVu Sans, sans-serif">',
        f"<title>{escape(sheet.board)}</title>",
        f'<rect width="{wide}" height="{_HIGH_MM}" fill="#fff"/>',
    ]
    for index, label in enumerate(sheet.labels):
        left = index * MODULE_MM
        middle = left + MODULE_MM / 2
        parts.append(
            f'<rect x="{left}" y="0" width="{MODULE_MM}" height="{_HIGH_MM}" '
            'fill="none" stroke="#111" stroke-width="0.2"/>'
        )
        parts.append(_text(middle, 5, 4.2, label.numbers or "–", bold=True))
        for line, words in enumerate(_lines(label.feeds)):
            parts.append(_text(middle, 8.4 + 2.6 * line, 2.1, words))
        parts.append(_text(middle, 18.6, 1.9, label.device.replace("type ", "")))
    return "\n".join([*parts, "</svg>"]) + "\n"


def _text(x: float, y: float, size: float, words: str, bold: bool = False) -> str:
    weight = ' font-weight="bold"' if bold else ""
    return f'<text x="{x}" y="{y}" font-size="{size}" text-anchor="middle"{weight}>{escape(words)}</text>'


def _lines(words: str) -> list[str]:
    """Return words broken into the few short lines that a label holds."""
    lines = [""]
    for word in words.split():
        if lines[-1] and len(lines[-1]) + 1 + len(word) > _FIT:
            lines.append("")
        lines[-1] = f"{lines[-1]} {word}".strip()
    shown = lines[:_MOST_LINES]
    return [line if len(line) <= _FIT + 2 else line[: _FIT + 1] + "…" for line in shown]
