"""What is said of a room whole, typed as one says it, read into the commands that do it.

wall n stud depth 90 plaster 12 tiled       wall e is 4.25 and w
wall e moves 0.30 out                       wall e against Kitchen w thick 100 shift 0.50
ceiling 2.40 lath void 200 insulated        pipe e 1.20 wide 22
lies over Kitchen e 1.20 n 0
"""

from collections.abc import Callable
from typing import get_args

from pydantic import ValidationError

from lumbek.core.model import plan as model
from lumbek.core.model.places import Places, Room, folded
from lumbek.core.plan import commands as ask
from lumbek.core.plan.naming import free_part_id, wall_called, wall_names
from lumbek.core.plan.words import LineError, LineWords

_BUILDS = get_args(model.WallBuild)
_CEILINGS = {"lath": "lath-and-plaster", **{each: each for each in get_args(model.CeilingBuild)}}
_WAYS = {"e": ("east_mm", 1), "w": ("east_mm", -1), "n": ("north_mm", 1), "s": ("north_mm", -1)}


def read_house_line(places: Places, room: Room, said: str) -> ask.PlanCommand | None:
    """Return the command that a line about a room whole says; None where it is about something else.

    Raises LineError.
    """
    words, outline = LineWords(said), room.outline
    first = words.peek()
    reads = _READS.get(first)
    if reads is None or outline is None:
        return None
    words.take()
    try:
        command = reads(places, room, outline, words)
    except ValidationError as error:
        raise LineError(f"{first}: {error.errors()[0]['msg'].removeprefix('Value error, ')}") from error
    if words.peek():
        raise LineError(f"{words.rest()!r} is not understood")
    return command


def _wall(places: Places, room: Room, outline: model.Outline, words: LineWords) -> ask.PlanCommand:
    wall = _wall_named(outline, words)
    if words.took("is"):
        mm = words.mm("is")
        also = _wall_named(outline, words).id if words.took("and") else None
        return ask.TapeWasWrong(room=room.id, wall=wall.id, length_mm=mm, also=also)
    if words.took("moves"):
        by_mm = words.mm("moves")
        way = words.take() if words.peek() in ("in", "out") else "out"
        return ask.MoveWall(room=room.id, wall=wall.id, by_mm=by_mm if way == "out" else -by_mm)
    if words.took("against"):
        return _against(places, room, wall, words)
    return _built(room, wall, words)


def _built(room: Room, wall: model.Wall, words: LineWords) -> ask.SetWall:
    said: dict[str, object] = {}
    while words.peek():
        word = words.take()
        if word in _BUILDS:
            said["build"] = word
        elif word in ("depth", "plaster"):
            said[f"{word}_mm"] = words.small_mm(word)
        elif word in ("tiled", "untiled"):
            said["tiled"] = word == "tiled"
        else:
            raise LineError(f"{word!r}: is, moves, against, depth, plaster, tiled, or {', '.join(_BUILDS)}")
    if not said:
        raise LineError("What of that wall?")
    return ask.SetWall.model_validate({"room": room.id, "wall": wall.id, **said})


def _against(places: Places, room: Room, wall: model.Wall, words: LineWords) -> ask.PutBetween:
    other = _room_named(places, words)
    assert other.outline is not None, "only measured rooms are found"
    face = _wall_named(other.outline, words)
    thick = words.small_mm("thick") if words.took("thick") else 100
    shift = 0
    if words.took("shift"):
        mm = words.mm("shift")
        way = words.take() if words.peek() in ("left", "right") else "right"
        shift = mm if way == "right" else -mm
    shared = model.SharedWall(
        one=model.WallFace(room=room.id, wall=wall.id),
        other=model.WallFace(room=other.id, wall=face.id),
        thickness_mm=thick,
        offset_mm=shift,
    )
    return ask.PutBetween(between=shared)


def _ceiling(_: Places, room: Room, _outline: model.Outline, words: LineWords) -> ask.SetCeiling:
    said: dict[str, object] = {}
    while words.peek():
        if words.has_figure():
            said["height_mm"] = words.mm("ceiling")
            continue
        word = words.take()
        if word in _CEILINGS:
            said["ceiling"] = _CEILINGS[word]
        elif word == "void":
            said["void_mm"] = words.small_mm("void")
        elif word in ("insulated", "bare"):
            said["is_insulated"] = word == "insulated"
        else:
            raise LineError(f"{word!r}: a height, void, insulated, bare, or {', '.join(_CEILINGS)}")
    return ask.SetCeiling.model_validate({"room": room.id, **said})


def _lies(places: Places, room: Room, _: model.Outline, words: LineWords) -> ask.PutSeat:
    if not words.took("over") and not words.took("under") and not words.took("from"):
        raise LineError("It lies over, under or from which room?")
    other = _room_named(places, words)
    said = {"east_mm": 0, "north_mm": 0}
    while words.peek() in _WAYS:
        name, sign = _WAYS[words.take()]
        said[name] = sign * words.mm("how far")
    return ask.PutSeat(room=room.id, seat=model.RoomLies(of=other.id, **said))


# How wide each is where nobody says, in mm.
_ABOVE = {"pipe": 22, "duct": 125, "beam": 100}


def _above(kind: str) -> "_Reads":
    def read(_: Places, room: Room, outline: model.Outline, words: LineWords) -> ask.PutAbove:
        said = {"id": free_part_id(outline, kind), "kind": kind, "runs": words.take(), "at_mm": words.mm(kind)}
        said["width_mm"] = words.small_mm("wide") if words.took("wide") else _ABOVE[kind]
        return ask.PutAbove(room=room.id, above=model.AboveCeiling.model_validate(said))

    return read


def _wall_named(outline: model.Outline, words: LineWords) -> model.Wall:
    name = words.take()
    wall = wall_called(outline, name)
    if wall is None:
        raise LineError(f"There is no wall {name!r}: {', '.join(wall_names(outline).values())}")
    return wall


def _room_named(places: Places, words: LineWords) -> Room:
    """Take the name of a measured room, of one word or several."""
    measured = [room for room in places.rooms if room.outline is not None]
    for room in sorted(measured, key=lambda each: -len(each.name)):
        name = [word for word in folded(room.name).split() if word not in LineWords.LEFT_OUT]
        if words.took(*name):
            return room
    raise LineError(f"{words.rest()!r}: no room of that name has measures")


_Reads = Callable[[Places, Room, model.Outline, LineWords], ask.PlanCommand]
_READS: dict[str, _Reads] = {
    "wall": _wall,
    "ceiling": _ceiling,
    "lies": _lies,
    **{kind: _above(kind) for kind in _ABOVE},
}
