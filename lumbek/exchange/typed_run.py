"""A run typed or pasted as text: `9m kitchen twin, 4.5m fridge single, spur 3.5 reading seat`."""

import csv
import re

from lumbek.core.circuit.laying import Entry
from lumbek.core.circuit.presets import POINT_NAMES
from lumbek.core.model.point import PointKind
from lumbek.core.model.text import printable
from lumbek.core.value import Frozen
from lumbek.exchange.problems import Problem

_LENGTH = re.compile(r"^(\d+(?:[.,]\d+)?|\?)\s*(?:m|metres?)?$", re.IGNORECASE)
_WORDS: dict[str, PointKind] = {
    "twin": "socket-twin",
    "double": "socket-twin",
    "single": "socket-single",
    "fcu": "fused-spur",
    "fused": "fused-spur",
    "light": "light",
    "switch": "switch",
    "cord": "cord-switch",
    "isolator": "isolator",
    "driver": "driver",
    "blank": "blank",
    "control": "control-with-socket",
    "joint": "joint",
    "fixed": "fixed",
    "appliance": "fixed",
    "alarm": "fixed",
    "charger": "charger",
    "shaver": "shaver-socket",
    "solar": "source",
    "source": "source",
    "subboard": "board",
}
# Words that are a point with what is behind it, where no other says what it is: "twin microwave" is a twin socket.
_READY = {
    "extractor": "extractor",
    "hood": "cooker-hood",
    "plinth": "plinth-heater",
    "towel": "towel-rail",
    "microwave": "microwave",
    "co": "co-alarm",
    "smoke": "smoke-alarm",
}
# Two words that are another kind together than the second by itself.
_TOGETHER: dict[tuple[str, PointKind], PointKind] = {("cooker", "switch"): "cooker-switch"}
# Those worth offering while a run is typed: one for each kind of point, then the two that steer.
OFFERED_WORDS = (
    *("twin", "single", "fused", "light", "switch", "cord", "control", "fixed", "joint", "isolator", "driver", "blank"),
    *("charger", "shaver", "solar", "subboard"),
    *("spur", "back"),
)
_UNPRINTABLE = "holds a character that cannot be printed"
_BACK = ("back", "board", "close", "ring")


class Typed(Frozen):
    """What was understood of a typed run, and what was not, each with its place."""

    entries: tuple[Entry, ...]
    problems: tuple[Problem, ...]


def parse_run(text: str) -> Typed:
    """Return the legs in a text: one an entry, divided by commas or lines; or CSV with a heading line.

    An entry is a length and the point there: `9m kitchen twin`. `spur` hangs it off the point before; `back 11m`
    returns to the board; `?` is a length not known; `room: name` names both.
    """
    if re.match(r"^\s*\"?(length|length_m|point|name)\"?\s*[,;\t]", text, re.IGNORECASE):
        return _parse_csv(text)
    entries, problems = [], []
    # A comma between digits is a decimal comma; any other divides.
    for number, part in enumerate((each.strip() for each in re.split(r"(?<!\d),|,(?!\d)|[;\n]", text)), start=1):
        if not part:
            continue
        found = _parse_entry(part)
        if isinstance(found, str):
            problems.append(Problem(field=f"entry {number}", reason=f"{found}: “{part[:40]}”"))
        else:
            entries.append(found)
    return Typed(entries=tuple(entries), problems=tuple(problems))


def _parse_entry(part: str) -> Entry | str:
    words = part.split()
    spur = back = False
    kind: PointKind | None = None
    length: float | None = None
    measured, names = False, list[str]()
    index = 0
    while index < len(words):
        word, lower = words[index], words[index].lower().strip(".")
        following = f"{word} {words[index + 1]}" if index + 1 < len(words) else ""
        if not measured and _LENGTH.match(following) and words[index + 1].lower().startswith("m"):
            length, measured, index = _length(following), True, index + 1
        elif not measured and _LENGTH.match(word):
            length, measured = _length(word), True
        elif lower == "spur" and not names:
            spur = True
        elif lower in _BACK and not names and index <= 1:
            back = True
        elif lower in _WORDS and kind is None:
            kind = _TOGETHER.get((names[-1].lower() if names else "", _WORDS[lower]), _WORDS[lower])
        elif lower in _WORDS and kind is not None and _WORDS[lower] != kind:
            # "light switch" is a switch for a light: the last word says what it is. More than that nobody can tell.
            if (kind, _WORDS[lower]) != ("light", "switch"):
                return f"is a {POINT_NAMES[kind].lower()} or a {POINT_NAMES[_WORDS[lower]].lower()}: say one"
            kind = "switch"
            names.append("light")
        elif not (lower in ("to", "the") and back):
            names.append(word)
        index += 1
    if not measured:
        return "has no length (9m, or ? if it is not known)"
    if length is not None and not 0 < length <= 500:
        return "has a length that cannot be (0 to 500 m)"
    if not _is_printable(*names):
        return _UNPRINTABLE
    ready = (
        ""
        if kind not in (None, "fixed")
        else next((_READY[each.lower()] for each in names if each.lower() in _READY), "")
    )
    room, _, name = " ".join(names).rpartition(":")
    return Entry(
        length_m=length, kind=kind, ready=ready, name=name.strip()[:80], room=room.strip()[:80], spur=spur, back=back
    )


def _is_printable(*texts: str) -> bool:
    """Whether a point may be called so: what no keyboard gives is no name."""
    try:
        for text in texts:
            printable(text)
    except ValueError:
        return False
    return True


def _length(word: str) -> float | None:
    found = _LENGTH.match(word)
    figure = found.group(1) if found else "?"
    return None if figure == "?" else float(figure.replace(",", "."))


def _parse_csv(text: str) -> Typed:
    """Read columns length, kind, name, room, spur from a heading line; others are left alone."""
    dialect = max(",;\t", key=text.splitlines()[0].count)
    entries, problems = [], []
    for number, row in enumerate(csv.DictReader(text.splitlines(), delimiter=dialect), start=2):
        cells = {
            (key or "").strip().lower(): (value or "").strip() for key, value in row.items() if isinstance(value, str)
        }
        if not any(cells.values()):
            continue
        length = cells.get("length") or cells.get("length_m") or "?"
        kind_word = cells.get("kind", "").lower()
        if not _LENGTH.match(length):
            problems.append(Problem(field=f"line {number}, length", reason=f"is no length: “{length[:20]}”"))
            continue
        if kind_word and kind_word not in _WORDS and kind_word not in _WORDS.values() and kind_word not in _BACK:
            problems.append(Problem(field=f"line {number}, kind", reason=f"is not known: “{kind_word[:20]}”"))
            continue
        entry = _parse_entry(length)
        if isinstance(entry, str):
            problems.append(Problem(field=f"line {number}, length", reason=entry))
            continue
        kind = _WORDS.get(kind_word) or next((each for each in _WORDS.values() if each == kind_word), None)
        name = cells.get("name") or cells.get("point") or ""
        if not _is_printable(name, cells.get("room", "")):
            problems.append(Problem(field=f"line {number}, name", reason=_UNPRINTABLE))
            continue
        entries.append(
            entry.model_copy(
                update={
                    "kind": kind,
                    "name": name[:80],
                    "room": cells.get("room", "")[:80],
                    "spur": cells.get("spur", "").lower() in ("yes", "y", "1", "true", "spur"),
                    "back": kind_word in _BACK,
                }
            )
        )
    return Typed(entries=tuple(entries), problems=tuple(problems))
