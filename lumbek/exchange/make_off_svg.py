"""One box of the make-off sheet as SVG, in true size."""

from html import escape

from lumbek.core.switching.make_off import BoxSheet, MakeOff
from lumbek.exchange.core_colours import fill_of

_WIDE_MM = 170
_LINE_MM = 7


def make_off_svg(sheet: MakeOff, box: BoxSheet) -> str:
    """Return a box: its terminals in order, each with its cores, their colours and sleeves in words too."""
    rows = []
    top = 26.0
    for terminal in box.terminals:
        rows.append(_text(6, top, 3.6, terminal.terminal, bold=True))
        for core in terminal.cores:
            rows.append(_chip(52, top, 12, core.colour))
            if core.sleeve:
                rows.append(_chip(64, top, 6, core.sleeve))
            sleeve = f", {core.sleeve} sleeve" if core.sleeve else ""
            rows.append(_text(73, top, 3.4, f"{core.colour}{sleeve}, to {core.to}"))
            top += _LINE_MM
        if terminal.note:
            rows.append(_text(52, top, 3.0, terminal.note))
            top += _LINE_MM
        if not terminal.cores and not terminal.note:
            top += _LINE_MM
    what = f"{box.what}; {box.box}" if box.box else box.what
    high = round(top + 8)
    return "\n".join(
        [
            f'<svg xmlns="http://www.w3.org/2000/svg" width="{_WIDE_MM}mm" height="{high}mm" '
            f'viewBox="0 0 {_WIDE_MM} {high}" font-family="DejaVu Sans, sans-serif">',
            f"<title>{escape(f'{sheet.title}, {box.title}')}</title>",
            f'<rect width="{_WIDE_MM}" height="{high}" fill="#fff"/>',
            _text(6, 9, 5.2, box.title, bold=True),
            _text(6, 15, 3.4, f"{sheet.title} · {what}"),
            *rows,
            _text(6, high - 3, 2.6, sheet.safety),
            "</svg>",
        ]
    )


def _chip(x: float, y: float, wide: float, colour: str) -> str:
    return (
        f'<rect x="{x}" y="{y - 3.2:.1f}" width="{wide}" height="4" fill="{fill_of(colour)}" '
        'stroke="#222" stroke-width="0.2"/>'
    )


def _text(x: float, y: float, size: float, words: str, bold: bool = False) -> str:
    weight = ' font-weight="bold"' if bold else ""
    return f'<text x="{x}" y="{y:.1f}" font-size="{size}"{weight}>{escape(words)}</text>'
