"""What is in a room, typed as one says it, read into openings, things and marks.

door 838 s left 100 hinge left          window 1200 n middle sill 900 head 2100
bed 1500 deep 2000 w middle             units 600 600 450 n left 0
socket both sides of bed                switch beside door 150
socket between window window2           2 sockets spread e
socket over units 2                     light ceiling w 1.20 s 0.90
6 spots, fan, 3 sockets                 (counts alone are placed by rule)
"""

import re
from collections.abc import Callable, Iterator, Sequence
from typing import get_args

from pydantic import ValidationError

from lumbek.core.model import plan as model
from lumbek.core.plan.naming import free_part_id, part_called, wall_called, wall_names
from lumbek.core.plan.words import LineError, LineWords

_OPENINGS = ("door", "window", "gap")
# How deep and high something is where nobody says, and from which height, in mm.
_THINGS: dict[str, tuple[int, int, int]] = {
    "bed": (2000, 600, 0),
    "cabinet": (450, 600, 0),
    "units": (600, 900, 0),
    "wall-units": (350, 720, 1400),
    "desk": (700, 740, 0),
    "appliance": (600, 850, 0),
    "built-in": (600, 850, 0),
    "hob": (600, 900, 0),
    "extraction": (500, 300, 1550),
    "sink": (500, 900, 0),
    "basin": (450, 850, 0),
    "bath": (700, 560, 0),
    "shower": (900, 120, 0),
    "radiator": (100, 600, 150),
    "stove": (500, 700, 0),
    "partition": (900, 2300, 0),
    "water-stop": (150, 150, 300),
    "meter": (200, 500, 1000),
    "stair": (850, 2700, 0),
}
# What people call what comes to a mark.
_KINDS: dict[str, model.MarkKind] = {
    **{kind: kind for kind in get_args(model.MarkKind)},
    "spot": "downlight",
    "lamp": "light",
    "smoke": "smoke-alarm",
    "heat": "heat-alarm",
    "co": "co-alarm",
    "spur": "fused-spur",
    "fcu": "fused-spur",
    "cooker": "cooker-switch",
    "pull": "cord-switch",
    "shaver": "shaver-socket",
}
_CEILING: tuple[model.MarkKind, ...] = ("light", "downlight", "smoke-alarm", "heat-alarm", "fan")
_GANGS: dict[model.MarkKind, int] = {"socket": 2, "cooker-switch": 2}
_WALL = re.compile(r"[newsx]\d?")
_DEPTHS_MM = {"socket": 35, "switch": 25}


# Fields of a model, as they are said.
_Said = dict[str, object]
Found = model.Opening | model.Thing | model.Mark | model.Joists


def read_line(
    outline: model.Outline,
    room: str,
    said: str,
    mark_ids: Callable[[str], str],
    lamps: Sequence[model.LampSaid] = (),
) -> list[Found]:
    """Return what a line says is in a room. Raises LineError.

    `mark_ids` gives a free id for a mark of a kind; `lamps` are those that may be named.
    """
    counted = _counts(said)
    if counted is not None:
        return [*_placed(outline, room, counted, mark_ids)]
    words = LineWords(said)
    count = int(words.take()) if re.fullmatch(r"\d{1,2}", words.peek()) else 1
    what = words.take()
    try:
        if what in _OPENINGS:
            found: list[Found] = [_opening(outline, what, words)]
        elif what == "joists":
            found = [_joists(words)]
        elif what in _THINGS:
            found = [_thing(outline, what, words)]
        else:
            found = [*_marks(outline, room, _kind(what), count, words, mark_ids, lamps)]
    except ValidationError as error:
        raise LineError(f"{what}: {error.errors()[0]['msg'].removeprefix('Value error, ')}") from error
    if words.peek():
        raise LineError(f"{words.rest()!r} is not understood")
    return found


def _kind(word: str) -> model.MarkKind:
    for each in (word, word.removesuffix("es"), word.removesuffix("s")):
        if each in _KINDS:
            return _KINDS[each]
    known = ", ".join([*_OPENINGS, *_THINGS, "socket", "switch", "light", "spot"])
    raise LineError(f"{word!r} is not known here. Known are {known} and the like")


def _wall(outline: model.Outline, words: LineWords) -> model.Wall:
    name = words.take()
    wall = wall_called(outline, name)
    if wall is None:
        raise LineError(f"There is no wall {name!r}: {', '.join(wall_names(outline).values())}")
    return wall


def _measured(outline: model.Outline, width_mm: int, words: LineWords) -> dict[str, object]:
    wall = _wall(outline, words)
    if words.took("middle"):
        # By the tape: as far from the left as that leaves, to the millimetre below.
        return {"wall": wall.id, "side": "left", "offset_mm": (wall.length_mm - width_mm) // 2, "width_mm": width_mm}
    side = words.take()
    if side not in ("left", "right"):
        raise LineError(f"{side!r}: left or right, how far, or middle")
    return {"wall": wall.id, "side": side, "offset_mm": words.mm(side), "width_mm": width_mm}


def _opening(outline: model.Outline, kind: str, words: LineWords) -> model.Opening:
    said: dict[str, object] = {"id": free_part_id(outline, kind), "kind": kind}
    said |= _measured(outline, words.mm(f"{kind}, width"), words)
    if kind == "window":
        said |= {"sill_mm": 900, "head_mm": 2100}
    while words.peek():
        if words.took("hinge"):
            said["hinge"] = words.take()
        elif words.took("out"):
            said["opens"] = "out"
        elif words.peek() in ("sill", "head"):
            which = words.take()
            said[f"{which}_mm"] = words.mm(which)
        else:
            break
    return model.Opening.model_validate(said)


def _joists(words: LineWords) -> model.Joists:
    said: dict[str, object] = {"runs": words.take()}
    while words.peek() in ("pitch", "wide", "first"):
        word = words.take()
        said[{"pitch": "pitch_mm", "wide": "width_mm", "first": "first_mm"}[word]] = words.small_mm(word)
    return model.Joists.model_validate(said)


_THING_MM = {"deep": "depth_mm", "high": "height_mm", "from": "bottom_mm", "out": "out_mm", "head": "head_mm"}


def _thing(outline: model.Outline, kind: str, words: LineWords) -> model.Thing:
    deep, high, bottom = _THINGS[kind]
    said: dict[str, object] = {"id": free_part_id(outline, kind), "kind": kind}
    said |= {"depth_mm": deep, "height_mm": high, "bottom_mm": bottom}
    widths = [words.mm(f"{kind}, width")]
    while words.has_figure():
        widths.append(words.mm(f"{kind}, width"))
    if len(widths) > 1:
        said["parts_mm"] = tuple(widths)
    _more_of_thing(words, said)
    said |= _measured(outline, sum(widths), words)
    _more_of_thing(words, said)
    return model.Thing.model_validate(said)


def _more_of_thing(words: LineWords, said: dict[str, object]) -> None:
    flags: dict[tuple[str, ...], tuple[str, object]] = {
        ("no", "tray"): ("tray", False),
        ("tray",): ("tray", True),
        ("new",): ("fate", "new"),
        ("goes",): ("fate", "remove"),
        ("wired",): ("is_wired", True),
        ("fixed",): ("can_be_pulled_out", False),
        ("loose",): ("can_be_pulled_out", True),
    }
    while words.peek():
        flag = next((each for each in flags if words.took(*each)), None)
        if flag is not None:
            said[flags[flag][0]] = flags[flag][1]
        elif words.took("rises"):
            said["rises"] = words.take()
        elif words.peek() in _THING_MM:
            word = words.take()
            said[_THING_MM[word]] = words.mm(word)
        else:
            return


def _marks(
    outline: model.Outline,
    room: str,
    kind: model.MarkKind,
    count: int,
    words: LineWords,
    mark_ids: Callable[[str], str],
    lamps: Sequence[model.LampSaid],
) -> Iterator[model.Mark]:
    rules = _rules(outline, count, words)
    box: _Said = {"gangs": _GANGS.get(kind, 1), "depth_mm": _DEPTHS_MM.get(kind, 35)}
    more: _Said = {"box": box}
    if rules[0][1] is not None:
        more["height"] = {"height": "above", "thing": rules[0][1], "mm": 150}
    while words.peek() and _more_of_mark(words, more, box):
        pass
    lamp = _lamp(words, lamps)
    if lamp:
        more["lamp"] = lamp
    if words.took("clear"):
        rules = [({**rule, "clears": True} if rule["rule"] == "grid" else rule, over) for rule, over in rules]
    for rule, _ in rules:
        yield model.Mark.model_validate({"id": mark_ids(kind), "room": room, "kind": kind, "rule": rule, **more})


def _more_of_mark(words: LineWords, more: _Said, box: _Said) -> bool:
    """Take what else is said of a mark; whether anything was."""
    if words.took("at"):
        more["height"] = {"height": "at", "mm": words.mm("at")}
    elif words.took("same", "as") or words.took("as"):
        more["height"] = {"height": "same", "mark": words.take()}
    elif words.took("above", "stair") or words.took("stair"):
        more["height"] = {"height": "stair", "thing": "stair", "mm": words.mm("stair")}
    elif words.took("entry"):
        box["entry"] = words.take()
    elif words.took("single"):
        box["gangs"] = 1
    elif words.took("deep"):
        box["depth_mm"] = words.small_mm("deep")
    elif words.took("existing"):
        more["is_existing"] = True
    elif re.fullmatch(r"ip[0-6x][0-9x][a-d]?", words.peek()):
        more["ip"] = words.take().upper()
    else:
        return False
    return True


_LAMP_UNITS = {"lm": "lumens", "deg": "beam_deg", "°": "beam_deg", "k": "kelvin"}
_LAMP_MM = {"cut": "cut_out_mm", "driver": "driver_mm", "recess": "deep_mm"}
_LAMP_FLAGS: dict[tuple[str, ...], tuple[str, bool]] = {
    ("fire", "rated"): ("is_fire_rated", True),
    ("may", "be", "covered"): ("may_be_covered", True),
}


def _lamp(words: LineWords, lamps: Sequence[model.LampSaid]) -> dict[str, object]:
    """Return what is said of a lamp: `400lm 36deg cut 70`, or `lamp` and the name of one that is known."""
    said: dict[str, object] = {}
    if words.took("lamp"):
        name = words.take()
        known = next((each for each in lamps if each.name.lower().replace(" ", "-") == name), None)
        if known is None:
            names = ", ".join(each.name.replace(" ", "-") for each in lamps) or "none yet"
            raise LineError(f"Lamp {name!r} is not known; known are {names}")
        said = known.model_dump(exclude_defaults=True)
    while words.peek():
        flag = next((each for each in _LAMP_FLAGS if words.took(*each)), None)
        if flag is not None:
            said[_LAMP_FLAGS[flag][0]] = _LAMP_FLAGS[flag][1]
            continue
        if found := re.fullmatch(r"(\d{1,5})(lm|deg|°|k)", words.peek()):
            words.take()
            said[_LAMP_UNITS[found[2]]] = int(found[1])
        elif words.peek() in _LAMP_MM:
            word = words.take()
            said[_LAMP_MM[word]] = words.small_mm(word)
        else:
            break
    return said


def _rules(outline: model.Outline, count: int, words: LineWords) -> list[tuple[dict[str, object], str | None]]:
    """Return the rules of so many marks, each with what they are over, if anything."""
    if words.took("both", "sides") or words.took("both"):
        thing, cabinet = _part(outline, words), words.mm("cabinet") if words.took("cabinet") else 450
        return [({"rule": "beside", "thing": thing, "side": s, "cabinet_mm": cabinet}, None) for s in ("left", "right")]
    if words.took("spread"):
        over = _over(outline, words)
        return [({"rule": "spread", "over": over, "at": at + 1, "count": count}, None) for at in range(count)]
    if words.took("grid"):
        columns, rows = _grid(words.take())
        more = {"columns": columns, "rows": rows}
        if words.took("spacing"):
            more["spacing_mm"] = words.mm("spacing")
        cells = [(column + 1, row + 1) for row in range(rows) for column in range(columns)]
        return [({"rule": "grid", "column": column, "row": row, **more}, None) for column, row in cells]
    if words.took("edge"):
        thing = _part(outline, words)
        out = {"out_mm": words.small_mm("out")} if words.took("out") else {}
        return [
            ({"rule": "over-edge", "thing": thing, "at": at + 1, "count": count, **out}, None) for at in range(count)
        ]
    if count > 1:
        raise LineError(f"{count}: spread over which wall?")
    return [_rule(outline, words)]


def _rule(outline: model.Outline, words: LineWords) -> tuple[_Said, str | None]:
    """Return the rule of one mark, and what it is over, if anything."""
    if words.took("over"):
        part = _part(outline, words)
        unit = int(words.take()) if re.fullmatch(r"\d{1,2}", words.peek()) else None
        return {"rule": "middle", "of": part, "part": unit}, part
    by_word = _BY_WORD.get(words.peek())
    if by_word is not None:
        words.take()
        return by_word(outline, words), None
    if not _WALL.fullmatch(words.peek()):
        raise LineError(f"{words.rest()!r}: a wall, or {', '.join(_BY_WORD)}, over, spread, both sides, grid")
    wall = _wall(outline, words)
    if words.took("middle"):
        return {"rule": "middle", "of": wall.id}, None
    side = words.take()
    if side not in ("left", "right"):
        raise LineError(f"{side!r}: left or right of that wall, and how far")
    return {"rule": "from-corner", "wall": wall.id, "side": side, "mm": words.mm(side)}, None


def _between(outline: model.Outline, words: LineWords) -> _Said:
    return {"rule": "between", "one": _part(outline, words), "other": _part(outline, words)}


def _middle(outline: model.Outline, words: LineWords) -> _Said:
    return {"rule": "middle", "of": _over(outline, words)}


def _straight(outline: model.Outline, words: LineWords) -> _Said:
    """Above or below another mark; of an opening or a thing, on its middle."""
    name = words.take()
    part = part_called(outline, name)
    return {"rule": "straight", "mark": name, **_aside(words)} if part is None else {"rule": "middle", "of": part.id}


def _behind(_: model.Outline, words: LineWords) -> _Said:
    return {"rule": "behind", "mark": words.take(), **_aside(words)}


def _ceiling(outline: model.Outline, words: LineWords) -> _Said:
    one, first = _wall(outline, words).id, words.mm("ceiling")
    other, second = _wall(outline, words).id, words.mm("ceiling")
    return {"rule": "ceiling", "wall": one, "mm": first, "other": other, "other_mm": second}


def _beside(outline: model.Outline, words: LineWords) -> _Said:
    part = _part(outline, words)
    if isinstance(outline.part(part), model.Opening):
        return {"rule": "beside-door", "door": part, **({"mm": words.mm("beside")} if words.has_figure() else {})}
    side = words.take()
    return {"rule": "beside", "thing": part, "side": side}


_BY_WORD: dict[str, Callable[[model.Outline, LineWords], _Said]] = {
    "beside": _beside,
    "between": _between,
    "middle": _middle,
    "above": _straight,
    "below": _straight,
    "behind": _behind,
    "ceiling": _ceiling,
}


def _aside(words: LineWords) -> dict[str, object]:
    if words.peek() not in ("left", "right"):
        return {}
    side = words.take()
    return {"side": side, "mm": words.mm(side)}


def _part(outline: model.Outline, words: LineWords) -> str:
    name = words.take()
    part = part_called(outline, name)
    if part is None:
        there = ", ".join(each.id for each in (*outline.openings, *outline.things)) or "nothing yet"
        raise LineError(f"{name!r} is not in this room, or there are several: {there}")
    return part.id


def _over(outline: model.Outline, words: LineWords) -> str:
    wall = wall_called(outline, words.peek())
    if wall is not None:
        words.take()
        return wall.id
    return _part(outline, words)


def _grid(said: str) -> tuple[int, int]:
    found = re.fullmatch(r"(\d{1,2})[x×](\d{1,2})", said)
    if found is None:
        raise LineError(f"{said!r}: a grid is columns by rows, 3x2")
    return int(found[1]), int(found[2])


def _counts(said: str) -> list[tuple[model.MarkKind, int]] | None:
    """Return how many of each kind a line calls out, `6 spots, fan, 3 sockets`; None where it says more than that."""
    found = []
    for part in said.lower().split(","):
        match = re.fullmatch(r"(\d{1,2})?\s*([a-z][a-z -]*)", part.strip())
        if match is None:
            return None
        try:
            found.append((_kind(match[2].strip().replace(" ", "-")), int(match[1] or 1)))
        except LineError:
            return None
    return found


def _placed(
    outline: model.Outline, room: str, counted: list[tuple[model.MarkKind, int]], mark_ids: Callable[[str], str]
) -> Iterator[model.Mark]:
    """Yield marks by the rules that such counts usually go by: a grid, beside the door, spread over the free walls."""
    walls = _free_walls(outline)
    for kind, count in counted:
        for at in range(count):
            rule = _usual_rule(outline, walls, kind, at, count)
            gangs = {"gangs": _GANGS.get(kind, 1)}
            yield model.Mark.model_validate(
                {"id": mark_ids(kind), "room": room, "kind": kind, "rule": rule, "box": gangs}
            )


def _usual_rule(
    outline: model.Outline, walls: list[model.Wall], kind: model.MarkKind, at: int, count: int
) -> dict[str, object]:
    if kind in _CEILING:
        columns, rows = _best_grid(outline, count)
        return {"rule": "grid", "column": at % columns + 1, "columns": columns, "row": at // columns + 1, "rows": rows}
    door = next((each for each in outline.openings if each.kind == "door" and each.hinge is not None), None)
    if kind == "switch" and door is not None and at == 0:
        return {"rule": "beside-door", "door": door.id}
    wall = walls[at % len(walls)]
    here = len(range(at % len(walls), count, len(walls)))
    return {"rule": "spread", "over": wall.id, "at": at // len(walls) + 1, "count": here}


def _free_walls(outline: model.Outline) -> list[model.Wall]:
    """The walls without openings, the longest first; all of them where every wall has one."""
    cut = {each.wall for each in outline.openings}
    walls = sorted(outline.walls, key=lambda wall: -wall.length_mm)
    return [wall for wall in walls if wall.id not in cut] or walls


def _best_grid(outline: model.Outline, count: int) -> tuple[int, int]:
    """Return columns and rows of so many lamps: cells as square as they can be."""
    wide = sum(wall.length_mm for wall in outline.walls if wall.heading == 90) or 1
    deep = sum(wall.length_mm for wall in outline.walls if wall.heading == 0) or 1
    pairs = [(columns, count // columns) for columns in range(1, count + 1) if count % columns == 0]
    return min(pairs, key=lambda pair: abs(wide / pair[0] - deep / pair[1]))
