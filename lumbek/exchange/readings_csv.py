"""Readings from a CSV file of whatever tester or table: a forgiving mapping of columns, and a preview line by line.

Columns are known by any of several headings, in any order and any case; those that are not known are left out.
Separators may be commas, semicolons or tabs.
"""

import csv
import io
import re
from collections.abc import Callable

from pydantic import ValidationError

from lumbek.core.model.circuit import Circuit
from lumbek.core.model.reading import AT_POINTS, SEEN, Quantity, ReadingTaken
from lumbek.core.study.own_earth import OWN
from lumbek.core.value import Frozen
from lumbek.exchange.problems import problems_of
from lumbek.exchange.separated import separated

MOST_LINES = 1000
HEADINGS: dict[str, tuple[str, ...]] = {
    "quantity": ("quantity", "test", "function", "measurement", "type"),
    "point": ("point", "place", "location", "outlet", "position", "where", "id"),
    "value": ("value", "reading", "result", "measured"),
    "unit": ("unit", "units"),
    "note": ("note", "notes", "comment", "remark"),
}
# What a test may be called, letters and digits only.
_QUANTITIES: dict[str, Quantity] = {
    "ownelectrode": "own-electrode",
    "electrode": "own-electrode",
    "ra": "own-electrode",
    "r1": "r1",
    "rn": "rn",
    "r2": "r2",
    "r1r2": "r1+r2",
    "r1+r2": "r1+r2",
    "lcpc": "r1+r2",
    "r1rn": "r1+rn",
    "r1+rn": "r1+rn",
    "crossln": "cross-ln",
    "step2": "cross-ln",
    "crossle": "cross-le",
    "step3": "cross-le",
    "insulationln": "insulation-ll",
    "insulationll": "insulation-ll",
    "irln": "insulation-ll",
    "insulationle": "insulation-le",
    "irle": "insulation-le",
    "irne": "insulation-n-e",
    "insulationne": "insulation-n-e",
    "zs": "zs",
    "loop": "zs",
    "rcd": "rcd-trip",
    "rcdtrip": "rcd-trip",
    "triptime": "rcd-trip",
    "rcd5": "rcd-five",
    "polarity": "polarity",
    "voltdrop": "volt-drop",
}
_UNITS = {"m": 1e-3, "k": 1e3, "M": 1e6, "G": 1e9, "": 1.0}
_OPEN = ("open", "o.l", "ol", "∞", "inf")


class ReadLine(Frozen):
    """A line of a file: its number, its text, and the reading it holds or why it holds none."""

    line: int
    text: str
    reading: ReadingTaken | None
    why: str = ""


class ReadFile(Frozen):
    """What is understood of a file: which column is what, and line by line."""

    columns: dict[str, str]
    lines: tuple[ReadLine, ...]
    ready: int


def read_readings(text: str, circuit: Circuit) -> ReadFile:
    """Return what a file holds for a circuit; nothing in it is an error, what is not understood says why."""
    text, separator = separated(text)
    rows = list(csv.reader(io.StringIO(text), delimiter=separator))[: MOST_LINES + 1]
    if not rows:
        return ReadFile(columns={}, lines=(), ready=0)
    known = {name: field for field, names in HEADINGS.items() for name in names}
    places: dict[str, int] = {}
    for at, heading in enumerate(rows[0]):
        field = known.get(heading.strip().lower().split(" ")[0])
        if field is not None:
            places.setdefault(field, at)
    columns = {field: rows[0][at].strip() for field, at in places.items()}
    lines = tuple(
        _line(number, row, places, circuit) for number, row in enumerate(rows[1:], start=2) if any(map(str.strip, row))
    )
    return ReadFile(columns=columns, lines=lines, ready=sum(line.reading is not None for line in lines))


def _reading(quantity: Quantity, point: str | None, cell: Callable[[str], str]) -> ReadingTaken:
    """Return what the cells of a line say was read. Raises ValueError, and ValidationError."""
    note = cell("note")
    if quantity in SEEN:
        right = cell("value").lower() in ("ok", "right", "pass", "correct", "yes", "true", "1", "✓")
        return ReadingTaken(quantity=quantity, point=point, correct=right, note=note, source="file")
    beyond, value = read_figure(cell("value"), cell("unit"), "MΩ" if quantity.startswith("ins") else "")
    return ReadingTaken(quantity=quantity, point=point, value=value, beyond=beyond, note=note, source="file")


def _line(number: int, row: list[str], places: dict[str, int], circuit: Circuit) -> ReadLine:
    def cell(field: str) -> str:
        at = places.get(field)
        return row[at].strip() if at is not None and at < len(row) else ""

    text = ", ".join(map(str.strip, row))[:200]

    def refused(why: str) -> ReadLine:
        return ReadLine(line=number, text=text, reading=None, why=why)

    missing = [field for field in ("quantity", "value") if field not in places]
    if missing:
        return refused(f"no column for the {' and the '.join(missing)}")
    quantity = _QUANTITIES.get(re.sub(r"[^a-z0-9+]", "", cell("quantity").lower()))
    if quantity is None:
        return refused(f"{cell('quantity')[:40]!r} is no test that is known")
    if quantity == OWN and circuit.own_earth is None:
        return refused("this circuit has no electrode of its own: that of the house is read on its own sheet")
    point = None
    if quantity in AT_POINTS:
        point = _point(cell("point"), circuit)
        if point is None:
            return refused(f"{cell('point')[:40]!r} is no point of this circuit")
    try:
        reading = _reading(quantity, point, cell)
    except ValidationError as error:
        return refused(problems_of(error)[0].reason)
    except ValueError as error:
        return refused(str(error))
    return ReadLine(line=number, text=text, reading=reading)


def _point(text: str, circuit: Circuit) -> str | None:
    """Return the point that a file means: by its id, its name, or its name with its room."""
    wanted = text.strip().lower()
    for point in circuit.points:
        if wanted in (point.id.lower(), point.name.lower(), point.title.lower()) and wanted:
            return point.id
    return None


def read_figure(text: str, unit: str = "", base: str = "") -> tuple[bool, float]:
    """Return whether a figure lies beyond the display, and the figure: `.35`, `350m`, `>999`, `1.2k`, `open`.

    `base` is MΩ where the quantity is read in that. Raises ValueError for what is no figure.
    """
    said = text.strip().replace(",", ".")
    if said.lower() in _OPEN:
        return True, 999.0 if base else 1999.0
    found = re.fullmatch(r"([><+]?)\s*([0-9]*\.?[0-9]+)\s*([mkMG]?)\s*(?:Ω|ohm|ohms|ms|%)?", said)
    if found is None:
        raise ValueError(f"{text[:40]!r} is no figure")
    sign, digits, prefix = found.groups()
    prefix = prefix or (unit.strip()[:1] if unit.strip()[:1] in "kMGm" and len(unit.strip()) > 1 else "")
    if unit.strip().lower() == "ms" or said.endswith("ms"):
        prefix = ""
    value = float(digits) * (
        _UNITS[prefix] if not base else {"": 1.0, "M": 1.0, "G": 1e3, "k": 1e-3, "m": 1e-9}[prefix]
    )
    return sign in (">", "+"), round(value, 9)
