"""What each command does to a plan: a line in the table, a function here."""

from collections.abc import Callable, Iterable, Mapping
from typing import Any

from lumbek.core.circuit.edit import EditRefusedError
from lumbek.core.model import plan as model
from lumbek.core.model.places import Places, Room
from lumbek.core.plan import commands as ask
from lumbek.core.plan.frame import runs_against
from lumbek.core.plan.house_line import read_house_line
from lumbek.core.plan.line import read_line
from lumbek.core.plan.naming import wall_names
from lumbek.core.plan.outline import clockwise, closure_of, crosses_itself
from lumbek.core.plan.placing import MarkPlacing
from lumbek.core.plan.tape import TapeError, read_room, read_walls
from lumbek.core.plan.words import LineError
from lumbek.core.value import Change

_PART_FIELDS = ("thing", "one", "other", "of", "door", "over")


def _type_room(places: Places, command: ask.TypeRoom) -> Places:
    try:
        typed = read_room(command.typed)
    except TapeError as error:
        raise EditRefusedError(f"{error}.") from error
    if not typed.name:
        raise EditRefusedError("Say what the room is called: Bedroom 4.20 x 3.60.")
    places, room = places.with_room(typed.name, command.storey)
    return _with_outline(places, room.id, _measured_anew(room, typed.outline.walls, typed.outline))


def _measure(places: Places, command: ask.Measure) -> Places:
    room = _need_room(places, command.room)
    try:
        if any(mark in command.typed.lower() for mark in (" x ", "×", " by ")):
            typed = read_room(command.typed).outline
            return _with_outline(places, room.id, _measured_anew(room, typed.walls, typed))
        walls = read_walls(command.typed)
    except TapeError as error:
        raise EditRefusedError(f"{error}.") from error
    return _with_outline(places, room.id, _measured_anew(room, walls, None))


def _measured_anew(room: Room, walls: tuple[model.Wall, ...], typed: model.Outline | None) -> model.Outline:
    """Return a room with these walls. What is at walls that are still there stays at them, as it was measured."""
    _need_closed(walls)
    walls = tuple(wall.model_copy(update={"id": f"w{count}"}) for count, wall in enumerate(clockwise(walls), start=1))
    before = room.outline
    if before is None:
        return typed.model_copy(update={"walls": walls}) if typed is not None else model.Outline(walls=walls)
    lost = {each.wall for each in (*before.openings, *before.things)} - {wall.id for wall in walls}
    if lost:
        raise EditRefusedError("Something is at a wall that would be gone: take it away first.")
    kept = {wall.id: wall for wall in before.walls}
    built = (wall.model_copy(update=_built(kept[wall.id])) if wall.id in kept else wall for wall in walls)
    more = {} if typed is None or "height_mm" not in typed.model_fields_set else {"height_mm": typed.height_mm}
    return before.model_copy(update={"walls": tuple(built), **more})


def _built(wall: model.Wall) -> dict[str, Any]:
    return {name: getattr(wall, name) for name in ("build", "depth_mm", "plaster_mm", "tiled")}


def _need_closed(walls: tuple[model.Wall, ...]) -> None:
    closure = closure_of(walls)
    if not closure.closes:
        ways = [
            f"{abs(mm)} mm {word}"
            for mm, word in (
                (closure.east_mm, "east" if closure.east_mm > 0 else "west"),
                (closure.north_mm, "north" if closure.north_mm > 0 else "south"),
            )
            if mm
        ]
        by_id = {wall.id: count for count, wall in enumerate(walls, start=1)}
        suspects = ", ".join(str(by_id[each]) for each in closure.suspects)
        raise EditRefusedError(
            f"The walls do not close: {' and '.join(ways)} are missing. Look at measure {suspects} again."
        )
    if crosses_itself(walls):
        raise EditRefusedError("Two walls cross each other.")


def _type_line(places: Places, command: ask.TypeLine) -> Places:
    room, outline = _need_outline(places, command.room)
    taken = {mark.id for mark in places.marks}

    def mark_id(kind: str) -> str:
        count = 1
        while f"{kind}-{count}" in taken:
            count += 1
        taken.add(f"{kind}-{count}")
        return f"{kind}-{count}"

    try:
        of_house = read_house_line(places, room, command.typed)
        if of_house is not None:
            return PLAN_CHANGES[type(of_house)](places, of_house)
        found = read_line(outline, room.id, command.typed, mark_id, places.lamps)
    except LineError as error:
        raise EditRefusedError(f"{error}.") from error
    for each in found:
        if isinstance(each, model.Mark):
            places = _put_mark(places, ask.PutMark(mark=each))
        elif isinstance(each, model.Joists):
            places = _set_ceiling(places, ask.SetCeiling(room=room.id, joists=each))
        elif isinstance(each, model.Opening):
            places = _put_opening(places, ask.PutOpening(room=room.id, opening=each))
        else:
            places = _put_thing(places, ask.PutThing(room=room.id, thing=each))
    return places


def _tape(places: Places, command: ask.TapeWasWrong) -> Places:
    room, outline = _need_outline(places, command.room)
    wall = _need_wall(outline, command.wall)
    by_mm = command.length_mm - wall.length_mm
    across = [each for each in outline.walls if each.heading == (wall.heading + 180) % 360]
    also = next((each for each in across if each.id == command.also), None)
    if also is None and len(across) == 1:
        also = across[0]
    if also is None:
        names = wall_names(outline)
        told = ", ".join(names[each.id] for each in across) or "none that runs the other way"
        raise EditRefusedError(f"Which wall across is as much longer or shorter: {told}?")
    longer = {wall.id: command.length_mm, also.id: also.length_mm + by_mm}
    return _with_outline(places, room.id, _resized(outline, longer))


def _move_wall(places: Places, command: ask.MoveWall) -> Places:
    """A wall between two rooms is one thing: its other face moves with it, and the rooms beyond stay where they are."""
    face = model.WallFace(room=command.room, wall=command.wall)
    places = _face_moved(places, face, command.by_mm)
    for shared in places.between:
        if face in (shared.one, shared.other):
            places = _face_moved(places, shared.other if face == shared.one else shared.one, -command.by_mm)
    return places


def _face_moved(places: Places, command: model.WallFace, by_mm: int) -> Places:
    """Corners slide along the walls that meet them: square neighbours are longer by as much."""
    room, outline = _need_outline(places, command.room)
    wall = _need_wall(outline, command.wall)
    walls, at = outline.walls, outline.walls.index(wall)
    before, after = walls[at - 1], walls[(at + 1) % len(walls)]
    # Turning right at both of its ends, a wall that moves out makes both neighbours longer; turning left, shorter.
    turns = [(wall.heading - before.heading) % 360, (after.heading - wall.heading) % 360]
    if any(turn not in (90, 270) for turn in turns):
        raise EditRefusedError("Only a wall that meets its neighbours squarely is moved: measure the room anew.")
    grows = [by_mm if turn == 90 else -by_mm for turn in turns]
    longer = {before.id: before.length_mm + grows[0], after.id: after.length_mm + grows[1]}
    moved = _resized(outline, longer)
    # What exists stays where it is: it is measured anew from the end that moves.
    moved = moved.model_copy(
        update={
            "openings": tuple(_stays(each, before.id, after.id, grows) for each in moved.openings),
            "things": tuple(_stays(each, before.id, after.id, grows) for each in moved.things),
        }
    )
    places = _with_outline(places, room.id, moved)
    marks = (
        _mark_stays(mark, before.id, after.id, grows) if mark.room == room.id and mark.is_existing else mark
        for mark in places.marks
    )
    between = tuple(_shift_kept(shared, command.room, before.id, after.id, grows) for shared in places.between)
    return places.model_copy(update={"marks": tuple(marks), "between": between})


def _shift_kept(shared: model.SharedWall, room: str, before: str, after: str, grows: list[int]) -> model.SharedWall:
    """Return a shared wall beside the one that moves, its rooms left where they lie.

    Its shift is from the left end of one face to the right end of the other: the end that slid is told of.
    """
    shift = shared.offset_mm
    if shared.one == model.WallFace(room=room, wall=after):
        shift += grows[1]
    if shared.other == model.WallFace(room=room, wall=before):
        shift -= grows[0]
    return shared.model_copy(update={"offset_mm": shift})


def _stays(part: Any, before: str, after: str, grows: list[int]) -> Any:
    """Return what stands as it is measured now: what is planned follows its rule, and is measured as it was."""
    if getattr(part, "fate", None) == "new":
        return part
    if part.wall == before and part.side == "right":
        return _offset(part, part.offset_mm + grows[0])
    if part.wall == after and part.side == "left":
        return _offset(part, part.offset_mm + grows[1])
    return part


def _offset(part: Any, mm: int) -> Any:
    if mm < 0:
        raise EditRefusedError(f"{part.id} stands in the way.")
    return part.model_copy(update={"offset_mm": mm})


def _mark_stays(mark: model.Mark, before: str, after: str, grows: list[int]) -> model.Mark:
    rule = mark.rule
    if not isinstance(rule, model.FromCorner):
        return mark
    grown = {(before, "right"): grows[0], (after, "left"): grows[1]}.get((rule.wall, rule.side), 0)
    if rule.mm + grown < 0:
        raise EditRefusedError(f"{mark.name or mark.id} is in the way.")
    return mark.model_copy(update={"rule": rule.model_copy(update={"mm": rule.mm + grown})})


def _resized(outline: model.Outline, lengths: Mapping[str, int]) -> model.Outline:
    if any(mm <= 0 for mm in lengths.values()):
        raise EditRefusedError("A wall would have no length left.")
    walls = tuple(wall.model_copy(update={"length_mm": lengths.get(wall.id, wall.length_mm)}) for wall in outline.walls)
    _need_closed(walls)
    return outline.model_copy(update={"walls": walls})


def _set_wall(places: Places, command: ask.SetWall) -> Places:
    room, outline = _need_outline(places, command.room)
    _need_wall(outline, command.wall)
    said = command.said("room", "wall")
    walls = (wall.model_copy(update=said) if wall.id == command.wall else wall for wall in outline.walls)
    return _with_outline(places, room.id, outline.model_copy(update={"walls": tuple(walls)}))


def _set_ceiling(places: Places, command: ask.SetCeiling) -> Places:
    room, outline = _need_outline(places, command.room)
    return _with_outline(places, room.id, outline.model_copy(update=command.said("room")))


def _put_opening(places: Places, command: ask.PutOpening) -> Places:
    room, outline = _need_outline(places, command.room)
    _need_on_wall(outline, command.opening)
    return _with_outline(
        places, room.id, outline.model_copy(update={"openings": _put(outline.openings, command.opening)})
    )


def _put_thing(places: Places, command: ask.PutThing) -> Places:
    room, outline = _need_outline(places, command.room)
    _need_on_wall(outline, command.thing)
    return _with_outline(places, room.id, outline.model_copy(update={"things": _put(outline.things, command.thing)}))


def _need_on_wall(outline: model.Outline, part: model.Measured) -> None:
    wall = _need_wall(outline, part.wall)
    if part.offset_mm + part.width_mm > wall.length_mm:
        name = wall_names(outline)[wall.id]
        raise EditRefusedError(
            f"{part.offset_mm} + {part.width_mm} mm is past the end of wall {name}, which is {wall.length_mm} mm long."
        )


def _drop_part(places: Places, command: ask.DropPart) -> Places:
    room, outline = _need_outline(places, command.room)
    above = tuple(each for each in outline.above if each.id != command.part)
    if len(above) < len(outline.above):
        return _with_outline(places, room.id, outline.model_copy(update={"above": above}))
    part = outline.part(command.part)
    if part is None:
        raise EditRefusedError("That is not there any more.")
    placing = MarkPlacing(places, "bs7671")
    marks = (_left_behind(placing, mark, part.id) if mark.room == room.id else mark for mark in places.marks)
    places = places.model_copy(update={"marks": tuple(marks)})
    without = {
        "openings": tuple(each for each in outline.openings if each.id != part.id),
        "things": tuple(each for each in outline.things if each.id != part.id),
    }
    return _with_outline(places, room.id, outline.model_copy(update=without))


def _left_behind(placing: MarkPlacing, mark: model.Mark, part_id: str) -> model.Mark:
    """Return a mark that was measured from something that goes: it keeps its last position and height, and says so."""
    placed = placing.placed(mark)
    if isinstance(mark.height, model.AboveThing) and mark.height.thing == part_id and placed.height_mm is not None:
        mark = mark.model_copy(update={"height": model.AtHeight(mm=placed.height_mm)})
    speaks_of = {getattr(mark.rule, name, None) for name in _PART_FIELDS}
    if part_id not in speaks_of or placed.at is None or not placed.at.wall:
        return mark
    kept = model.StaysAt(wall=placed.at.wall, mm=placed.left_mm, why=f"measured from {part_id}, which is gone")
    return mark.model_copy(update={"rule": kept})


def _put_mark(places: Places, command: ask.PutMark) -> Places:
    _need_room(places, command.mark.room)
    changed = places.model_copy(update={"marks": _put(places.marks, command.mark)})
    why = MarkPlacing(changed, "bs7671").placed(command.mark).why
    # What is gone, or goes in circles, is refused where it is said; later it is told as a conflict.
    if why and not isinstance(command.mark.rule, model.StaysAt):
        raise EditRefusedError(f"{command.mark.name or command.mark.id}: {why}.")
    return changed


def _drop_mark(places: Places, command: ask.DropMark) -> Places:
    _need_mark(places, command.mark)
    leans = next(
        (
            mark
            for mark in places.marks
            if command.mark in (getattr(mark.rule, "mark", None), getattr(mark.height, "mark", None))
        ),
        None,
    )
    if leans is not None:
        raise EditRefusedError(f"{leans.name or leans.id} is measured from it: place that otherwise first.")
    return places.model_copy(update={"marks": tuple(mark for mark in places.marks if mark.id != command.mark)})


def _tick(places: Places, command: ask.TickMark) -> Places:
    mark = _need_mark(places, command.mark)
    if command.moved is not None and not command.why:
        raise EditRefusedError("Say why it could not be where it was marked.")
    said = {"is_made": command.is_made, "moved": command.moved, "moved_why": command.why}
    return places.model_copy(update={"marks": _put(places.marks, mark.model_copy(update=said))})


def _agree(places: Places, command: ask.AgreeHeight) -> Places:
    mark = _need_mark(places, command.mark)
    return places.model_copy(update={"marks": _put(places.marks, mark.model_copy(update={"agreed": command.agreed}))})


def _set_floor(places: Places, command: ask.SetFloor) -> Places:
    if all(storey.id != command.storey for storey in places.storeys):
        raise EditRefusedError("There is no such storey any more.")
    storeys = (
        storey.model_copy(update={"floor": command.floor}) if storey.id == command.storey else storey
        for storey in places.storeys
    )
    return places.model_copy(update={"storeys": tuple(storeys)})


def _put_above(places: Places, command: ask.PutAbove) -> Places:
    room, outline = _need_outline(places, command.room)
    return _with_outline(places, room.id, outline.model_copy(update={"above": _put(outline.above, command.above)}))


def _put_seat(places: Places, command: ask.PutSeat) -> Places:
    room, _ = _need_outline(places, command.room)
    seat = command.seat
    if seat is not None:
        other, _ = _need_outline(places, seat.of)
        if other.id == room.id:
            raise EditRefusedError("A room lies from another one.")
    rooms = (each.model_copy(update={"seat": seat}) if each.id == room.id else each for each in places.rooms)
    return places.model_copy(update={"rooms": tuple(rooms)})


def _put_lamps(places: Places, command: ask.PutLamps) -> Places:
    names = [lamp.name.lower() for lamp in command.lamps]
    if not all(names) or len(set(names)) < len(names):
        raise EditRefusedError("Each lamp has a name of its own.")
    return places.model_copy(update={"lamps": command.lamps})


def _put_ways(places: Places, command: ask.PutWays) -> Places:
    faces = [*command.ways.barred, *(face for way in command.ways.outside for face in (way.one, way.other))]
    for face in faces:
        _need_wall(_need_outline(places, face.room)[1], face.wall)
    for room in command.ways.closed:
        _need_room(places, room)
    there = {mark.id for mark in places.marks}
    for forced in command.ways.forced:
        if forced.by not in there:
            raise EditRefusedError(f"{forced.by} is not there: a way goes by a mark of the plan.")
    for way in command.ways.outside:
        for face, mm in ((way.one, way.one_mm), (way.other, way.other_mm)):
            wall = _need_wall(_need_outline(places, face.room)[1], face.wall)
            if mm > wall.length_mm:
                raise EditRefusedError(f"{mm} mm is past the end of a wall of {wall.length_mm} mm.")
    return places.model_copy(update={"ways": command.ways})


def _take_in(places: Places, command: ask.TakeIn) -> Places:
    storeys, rooms, marks = places.storeys, places.rooms, places.marks
    for storey in command.storeys:
        storeys = _put(storeys, storey)
    for room in command.rooms:
        if room.outline is not None:
            _need_closed(room.outline.walls)
        rooms = _put(rooms, room)
    for mark in command.marks:
        marks = _put(marks, mark)
    faces = {face for shared in command.between for face in (shared.one, shared.other)}
    between = (*(each for each in places.between if not {each.one, each.other} & faces), *command.between)
    names = {lamp.name for lamp in command.lamps}
    lamps = (*(each for each in places.lamps if each.name not in names), *command.lamps)
    said = {"storeys": storeys, "rooms": rooms, "marks": marks, "between": between, "lamps": lamps}
    taken = places.model_copy(update=said)
    return taken if command.ways is None else _put_ways(taken, ask.PutWays(ways=command.ways))


def _put_between(places: Places, command: ask.PutBetween) -> Places:
    faces = (command.between.one, command.between.other)
    one, other = (_need_wall(_need_outline(places, face.room)[1], face.wall) for face in faces)
    if faces[0].room == faces[1].room:
        raise EditRefusedError("A wall between two rooms is in two rooms.")
    if not runs_against(one, other):
        raise EditRefusedError(
            "The two faces of a wall look opposite ways: the east wall of one, the west wall of the other."
        )
    others = (each for each in places.between if not {each.one, each.other} & set(faces))
    return places.model_copy(update={"between": (*others, command.between)})


# -- what commands need ------------------------------------------------------------------------------------------


def _put(all_of: Iterable[Any], one: Any) -> tuple[Any, ...]:
    """Return several with one of them put in place of that of its id, else at the end."""
    there = list(all_of)
    at = next((index for index, each in enumerate(there) if each.id == one.id), None)
    if at is None:
        return (*there, one)
    there[at] = one
    return tuple(there)


def _with_outline(places: Places, room_id: str, outline: model.Outline) -> Places:
    rooms = (room.model_copy(update={"outline": outline}) if room.id == room_id else room for room in places.rooms)
    return places.model_copy(update={"rooms": tuple(rooms)})


def _need_room(places: Places, room_id: str) -> Room:
    found = next((room for room in places.rooms if room.id == room_id), None)
    if found is None:
        raise EditRefusedError("There is no such room any more.")
    return found


def _need_outline(places: Places, room_id: str) -> tuple[Room, model.Outline]:
    room = _need_room(places, room_id)
    if room.outline is None:
        raise EditRefusedError(f"{room.name} has no measures yet.")
    return room, room.outline


def _need_wall(outline: model.Outline, wall_id: str) -> model.Wall:
    found = outline.wall(wall_id)
    if found is None:
        raise EditRefusedError("There is no such wall any more.")
    return found


def _need_mark(places: Places, mark_id: str) -> model.Mark:
    found = next((mark for mark in places.marks if mark.id == mark_id), None)
    if found is None:
        raise EditRefusedError("There is no such mark any more.")
    return found


PLAN_CHANGES: dict[type[Change], Callable[[Places, Any], Places]] = {
    ask.TypeRoom: _type_room,
    ask.Measure: _measure,
    ask.TypeLine: _type_line,
    ask.TapeWasWrong: _tape,
    ask.MoveWall: _move_wall,
    ask.SetWall: _set_wall,
    ask.SetCeiling: _set_ceiling,
    ask.PutOpening: _put_opening,
    ask.PutThing: _put_thing,
    ask.DropPart: _drop_part,
    ask.PutMark: _put_mark,
    ask.DropMark: _drop_mark,
    ask.TickMark: _tick,
    ask.AgreeHeight: _agree,
    ask.SetFloor: _set_floor,
    ask.PutBetween: _put_between,
    ask.PutAbove: _put_above,
    ask.PutSeat: _put_seat,
    ask.PutLamps: _put_lamps,
    ask.TakeIn: _take_in,
    ask.PutWays: _put_ways,
}
