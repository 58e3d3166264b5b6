"""A run typed or pasted as text: `9m kitchen twin, 4.5m fridge single, spur 3.5 reading seat`."""

import csv
import re
from collections.abc import Mapping, Sequence

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


class _Words:
    """What is understood of an entry so far, word by word."""

    def __init__(self) -> None:
        self.length: float | None = None
        self.measured = self.spur = self.back = False
        self.kind: PointKind | None = None
        self.names = list[str]()

    def measure(self, words: Sequence[str]) -> int:
        """Take the length that some words begin with; return how many words that is."""
        for count in (2, 1):
            said = " ".join(words[:count])
            if not self.measured and len(words) >= count and _LENGTH.match(said) and (count == 1 or _is_metres(words)):
                self.length, self.measured = _length(said), True
                return count
        return 0

    def steer(self, lower: str, first: bool) -> bool:
        """Take a word that says where the entry hangs."""
        if self.names:
            return False
        self.spur = self.spur or lower == "spur"
        self.back = self.back or (lower in _BACK and first)
        return lower == "spur" or (lower in _BACK and first)

    def take(self, word: str, lower: str) -> str:
        """Take a word that says what or which the point is; return what is wrong with it."""
        known = _WORDS.get(lower)
        if known is None:
            self.names += [] if lower in ("to", "the") and self.back else [word]
        elif self.kind is None:
            self.kind = _TOGETHER.get((self.names[-1].lower() if self.names else "", known), known)
        elif known == self.kind:
            self.names.append(word)
        elif (self.kind, known) == ("light", "switch"):
            # A switch for a light: the last word says what it is. More than that nobody can tell.
            self.kind = "switch"
            self.names.append("light")
        else:
            return f"is a {POINT_NAMES[self.kind].lower()} or a {POINT_NAMES[known].lower()}: say one"
        return ""

    @property
    def ready(self) -> str:
        """The point with what is behind it that a name stands for, where no other word says what it is."""
        if self.kind not in (None, "fixed"):
            return ""
        return next((_READY[each.lower()] for each in self.names if each.lower() in _READY), "")


def _is_metres(words: Sequence[str]) -> bool:
    return words[1].lower().startswith("m")


def _parse_entry(part: str) -> Entry | str:
    words, index, found = part.split(), 0, _Words()
    while index < len(words):
        length = found.measure(words[index:])
        lower = words[index].lower().strip(".")
        if not length and not found.steer(lower, index <= 1):
            wrong = found.take(words[index], lower)
            if wrong:
                return wrong
        index += length or 1
    if not found.measured:
        return "has no length (9m, or ? if it is not known)"
    if found.length is not None and not 0 < found.length <= 500:
        return "has a length that cannot be (0 to 500 m)"
    if not _is_printable(*found.names):
        return _UNPRINTABLE
    room, _, name = " ".join(found.names).rpartition(":")
    return Entry(
        length_m=found.length,
        kind=found.kind,
        ready=found.ready,
        name=name.strip()[:80],
        room=room.strip()[:80],
        spur=found.spur,
        back=found.back,
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
        found = _parse_row(cells, f"line {number}")
        if isinstance(found, Problem):
            problems.append(found)
        else:
            entries.append(found)
    return Typed(entries=tuple(entries), problems=tuple(problems))


# What a table calls a kind: as it is typed in a run, or by the model's own name.
_KINDS: Mapping[str, PointKind] = {**{str(kind): kind for kind in _WORDS.values()}, **_WORDS}


def _parse_row(cells: Mapping[str, str], line: str) -> Entry | Problem:
    """Return the entry in a row of a table, or what is wrong with it."""
    length = cells.get("length") or cells.get("length_m") or "?"
    kind_word = cells.get("kind", "").lower()
    if not _LENGTH.match(length):
        return Problem(field=f"{line}, length", reason=f"is no length: “{length[:20]}”")
    if kind_word not in ("", *_WORDS, *_WORDS.values(), *_BACK):
        return Problem(field=f"{line}, kind", reason=f"is not known: “{kind_word[:20]}”")
    entry = _parse_entry(length)
    if isinstance(entry, str):
        return Problem(field=f"{line}, length", reason=entry)
    name, room = cells.get("name") or cells.get("point") or "", cells.get("room", "")
    if not _is_printable(name, room):
        return Problem(field=f"{line}, name", reason=_UNPRINTABLE)
    return entry.model_copy(
        update={
            "kind": _KINDS.get(kind_word),
            "name": name[:80],
            "room": room[:80],
            "spur": cells.get("spur", "").lower() in ("yes", "y", "1", "true", "spur"),
            "back": kind_word in _BACK,
        }
    )
