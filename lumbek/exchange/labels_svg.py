"""The label strip and the circuit chart of a board as SVG, in true size."""

from collections.abc import Callable, Iterator, Sequence
from html import escape

from lumbek.core.board.labels import MODULE_MM, BoardSheet, WayLabel

_HIGH_MM = 20
# So many letters fit on a line of a label.
_FIT = 11
_MOST_LINES = 3


def label_strip_svg(sheet: BoardSheet) -> str:
    """Return one strip: a label for each way, 18 mm wide, with its number, what it feeds and its device."""
    wide = max(1, len(sheet.labels)) * MODULE_MM
    parts = []
    for index, label in enumerate(sheet.labels):
        left = index * MODULE_MM
        middle = left + MODULE_MM / 2
        parts.append(_frame(left, 0, MODULE_MM, _HIGH_MM))
        parts.append(_text(middle, 5, 4.2, label.numbers or "–", bold=True))
        for line, words in enumerate(_lines(label.feeds)):
            parts.append(_text(middle, 8.4 + 2.6 * line, 2.1, words))
        parts.append(_text(middle, 18.6, 1.9, label.device.replace("type ", "")))
    return _sheet(wide, _HIGH_MM, sheet.board, parts)


def _sheet(wide: int, high: int, title: str, parts: list[str]) -> str:
    """Return a white sheet of so many mm with these parts on it."""
    head = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide}mm" height="{high}mm" '
        f'viewBox="0 0 {wide} {high}" font-family="DejaVu Sans, sans-serif">',
        f"<title>{escape(title)}</title>",
        f'<rect width="{wide}" height="{high}" fill="#fff"/>',
    ]
    return "\n".join([*head, *parts, "</svg>"]) + "\n"


def _frame(left: int, top: int, wide: int, high: int) -> str:
    return f'<rect x="{left}" y="{top}" width="{wide}" height="{high}" fill="none" stroke="#111" stroke-width="0.2"/>'


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


# The circuit chart: columns by heading, what they show and how wide they are in mm.
_Column = tuple[str, Callable[[WayLabel], str], int]
_COLUMNS: tuple[_Column, ...] = (
    ("Way", lambda label: str(label.place), 12),
    ("Circuit", lambda label: label.numbers, 16),
    ("Feeds", lambda label: label.feeds, 70),
    ("Device", lambda label: label.device, 38),
    ("RCD", lambda label: label.rcd, 40),
    ("Neutral", lambda label: label.neutral, 20),
    ("Line", lambda label: label.line, 16),
)
_ROW_MM = 7
_HEAD_MM = 12
# A letter of the chart is about so wide.
_LETTER_MM = 1.75


def _cut(words: str, most: int) -> str:
    return words if len(words) <= most else words[: most - 1] + "…"


def _row(columns: Sequence[_Column], label: WayLabel | None, top: int) -> Iterator[str]:
    """Yield a row of the chart: a way's label, or the headings."""
    left = 0
    for heading, of, width in columns:
        words = _cut(heading if label is None else of(label), int((width - 2) / _LETTER_MM))
        weight = ' font-weight="bold"' if label is None or heading in ("Way", "Circuit") else ""
        yield _frame(left, top, width, _ROW_MM)
        yield f'<text x="{left + 1}" y="{top + 4.8}" font-size="3"{weight}>{escape(words)}</text>'
        left += width


def chart_svg(sheet: BoardSheet) -> str:
    """Return the circuit chart of a board: a row for each way, in true size, to be stuck inside its door."""
    shown = [column for column in _COLUMNS if column[0] != "Line" or any(label.line for label in sheet.labels)]
    wide = sum(width for _, _, width in shown)
    high = _HEAD_MM + _ROW_MM * (len(sheet.labels) + 1)
    parts = [
        f'<text x="1" y="5" font-size="4.4" font-weight="bold">{escape(sheet.board)}</text>',
        f'<text x="1" y="9.6" font-size="2.8">Fed from {escape(sheet.fed_from)}</text>',
    ]
    for row, label in enumerate((None, *sheet.labels)):
        parts += _row(shown, label, _HEAD_MM + row * _ROW_MM)
    return _sheet(wide, high, f"{sheet.board}, circuit chart", parts)
