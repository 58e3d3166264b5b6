"""A run typed or pasted as text: `9m kitchen twin, 4.5m fridge single, spur 3.5 reading seat`."""

import csv
import re
from collections.abc import Callable

from lumbek.core.circuit.edit import AddPoint, AddSpur, EditRefusedError, Join, NewPoint, RemoveLeg, apply_edit
from lumbek.core.circuit.graph import CircuitGraph
from lumbek.core.circuit.shape import recognise
from lumbek.core.model.circuit import BOARD, Circuit, PointKind
from lumbek.core.problems import Problem
from lumbek.core.result import Frozen

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
    "control": "control-with-socket",
    "joint": "joint",
    "fixed": "fixed",
    "appliance": "fixed",
    "alarm": "fixed",
}
# Those worth offering while a run is typed: one for each kind of point, then the two that steer.
OFFERED_WORDS = (
    *("twin", "single", "fused", "light", "switch", "cord", "control", "fixed", "joint"),
    *("spur", "back"),
)
_BACK = ("back", "board", "close", "ring")


class Entry(Frozen):
    """One leg of a typed run: its length in m (None for `?`), the point it ends at, or the way back to the board."""

    length_m: float | None
    kind: PointKind | None = None
    name: str = ""
    room: str = ""
    spur: bool = False
    back: bool = False


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
            kind = _WORDS[lower]
        elif not (lower in ("to", "the") and back):
            names.append(word)
        index += 1
    if not measured:
        return "has no length (9m, or ? if it is not known)"
    if length is not None and not 0 < length <= 500:
        return "has a length that cannot be (0 to 500 m)"
    room, _, name = " ".join(names).rpartition(":")
    return Entry(length_m=length, kind=kind, name=name.strip()[:80], room=room.strip()[:80], spur=spur, back=back)


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


def lay_run(
    circuit: Circuit, entries: tuple[Entry, ...], usual: Callable[[Circuit], NewPoint] = lambda _: NewPoint()
) -> Circuit:
    """Return the circuit with the typed run laid on from its last point, or from the board if it is empty.

    `usual` says what point comes next where an entry names no other kind. Raises the model's ValidationError where
    the circuit would hold too much.
    """
    shape = recognise(CircuitGraph(circuit))
    last = shape.walk[0].steps[-1].point if shape.walk else BOARD
    room = circuit.points[-1].room if circuit.points else ""
    for entry in entries:
        if entry.back:
            if last != BOARD:
                circuit = apply_edit(circuit, Join(a=last, b=BOARD, length_m=entry.length_m)).circuit
                last = BOARD
            continue
        room = entry.room or room
        point = _point_of(entry, usual(circuit), room)
        if entry.spur:
            circuit = apply_edit(circuit, AddSpur(off=last, point=point, length_m=entry.length_m)).circuit
            continue
        edited = apply_edit(circuit, AddPoint(after=last, point=point, length_m=entry.length_m))
        circuit, last = edited.circuit, edited.focus
    return circuit


def lay_through(
    circuit: Circuit,
    leg_id: str,
    entries: tuple[Entry, ...],
    usual: Callable[[Circuit], NewPoint] = lambda _: NewPoint(),
) -> Circuit:
    """Return the circuit with a leg broken and taken through new points and back: how a ring found is extended.

    The leg goes; new cable runs from its end nearer the board through the typed points to its other end, by the
    length of a last `back`, not known without one. Raises EditRefusedError, and the model's ValidationError.
    """
    graph = CircuitGraph(circuit)
    leg = graph.legs.get(leg_id)
    if leg is None:
        raise EditRefusedError(f"There is no leg {leg_id} in this circuit any more.")
    if all(entry.back or entry.spur for entry in entries):
        raise EditRefusedError("There is no new point to take the leg through.")
    last, end = sorted((leg.a, leg.b), key=lambda point: graph.distance.get(point, 0))
    room = circuit.points[-1].room if circuit.points else ""
    back_m = next((entry.length_m for entry in entries if entry.back), None)
    circuit = apply_edit(circuit, RemoveLeg(leg=leg_id)).circuit
    for entry in entries:
        if entry.back:
            break
        room = entry.room or room
        point = _point_of(entry, usual(circuit), room)
        edited = apply_edit(circuit, AddSpur(off=last, point=point, length_m=entry.length_m))
        circuit, last = edited.circuit, last if entry.spur else edited.focus
    return apply_edit(circuit, Join(a=last, b=end, length_m=back_m)).circuit


def _point_of(entry: Entry, usual: NewPoint, room: str) -> NewPoint:
    """Return the point an entry names: of its own kind if it says one, else the usual one."""
    point = usual if entry.kind in (None, usual.kind) else NewPoint(kind=entry.kind or usual.kind)
    return point.model_copy(update={"name": entry.name, "room": room})
