"""What each command does to the storeys and rooms of a house: a line in the table, a function here."""

from collections.abc import Callable, Mapping
from typing import Any

from lumbek.core.circuit.edit import EditRefusedError
from lumbek.core.model.places import Places, Room, Storey, folded, free_id, name_by_id
from lumbek.core.model.routes import RouteRules
from lumbek.core.numbers import counted
from lumbek.core.places import commands as ask
from lumbek.core.plan.changes import PLAN_CHANGES
from lumbek.core.value import Change


def carry_out_on_places(places: Places, command: ask.PlacesCommand, used: Mapping[str, int]) -> Places:
    """Return storeys and rooms after a command.

    `used` is how many things are in each room, by its id. Raises EditRefusedError for what is not there or cannot be,
    ValidationError at the model's limits.
    """
    changed = CHANGES[type(command)](places, command)
    gone = {room.id for room in places.rooms} - {room.id for room in changed.rooms}
    for room in gone:
        if used.get(room, 0):
            inside = counted(used[room], "thing is", "things are")
            raise EditRefusedError(f"{inside} in {places.name_of(room)}: say first where they are instead.")
    return Places.model_validate(changed.model_dump())


def _add_storey(places: Places, command: ask.AddStorey) -> Places:
    _refuse_twice("storey", command.name, places.storeys)
    storey = Storey(id=free_id(command.name, (each.id for each in places.storeys)), name=command.name)
    return places.model_copy(update={"storeys": (*places.storeys, storey)})


def _set_storey(places: Places, command: ask.SetStorey) -> Places:
    _need_storey(places, command.storey)
    _refuse_twice("storey", command.name, (each for each in places.storeys if each.id != command.storey))
    storeys = (
        each.model_copy(update={"name": command.name}) if each.id == command.storey else each for each in places.storeys
    )
    return places.model_copy(update={"storeys": tuple(storeys)})


def _move_storey(places: Places, command: ask.MoveStorey) -> Places:
    moved = _need_storey(places, command.storey)
    others = [each for each in places.storeys if each.id != command.storey]
    others.insert(command.index, moved)
    return places.model_copy(update={"storeys": tuple(others)})


def _drop_storey(places: Places, command: ask.DropStorey) -> Places:
    _need_storey(places, command.storey)
    rooms = (
        each.model_copy(update={"storey": None}) if each.storey == command.storey else each for each in places.rooms
    )
    storeys = tuple(each for each in places.storeys if each.id != command.storey)
    return places.model_copy(update={"storeys": storeys, "rooms": tuple(rooms)})


def _add_room(places: Places, command: ask.AddRoom) -> Places:
    _refuse_twice("room", command.name, places.rooms)
    if command.storey is not None:
        _need_storey(places, command.storey)
    return places.with_room(command.name, command.storey)[0]


def _set_room(places: Places, command: ask.SetRoom) -> Places:
    changes = command.said("room")
    if command.storey is not None:
        _need_storey(places, command.storey)
    if "name" in changes:
        _refuse_twice("room", command.name, (each for each in places.rooms if each.id != command.room))
    listed = any(each.id == command.room for each in places.rooms)
    rooms = places.rooms if listed else (*places.rooms, Room(id=command.room, name=name_by_id(command.room)))
    changed = (each.model_copy(update=changes) if each.id == command.room else each for each in rooms)
    return places.model_copy(update={"rooms": tuple(changed)})


def _drop_room(places: Places, command: ask.DropRoom) -> Places:
    if all(each.id != command.room for each in places.rooms):
        raise EditRefusedError("There is no such room any more.")
    rooms = tuple(_without_seat(each, command.room) for each in places.rooms if each.id != command.room)
    marks = tuple(each for each in places.marks if each.room != command.room)
    between = tuple(each for each in places.between if command.room not in (each.one.room, each.other.room))
    ways = _without_room(places.ways, command.room)
    return places.model_copy(update={"rooms": rooms, "marks": marks, "between": between, "ways": ways})


def _without_room(ways: RouteRules, gone: str) -> RouteRules:
    outside = tuple(each for each in ways.outside if gone not in (each.one.room, each.other.room))
    said = {"outside": outside, "barred": tuple(face for face in ways.barred if face.room != gone)}
    return ways.model_copy(update=said | {"closed": tuple(room for room in ways.closed if room != gone)})


def _without_seat(room: Room, gone: str) -> Room:
    """Return a room that no longer says where it lies from one that is gone."""
    return room.model_copy(update={"seat": None}) if room.seat is not None and room.seat.of == gone else room


def _need_storey(places: Places, storey_id: str) -> Storey:
    for storey in places.storeys:
        if storey.id == storey_id:
            return storey
    raise EditRefusedError("There is no such storey any more.")


def _refuse_twice(called: str, name: str, others: Any) -> None:
    if any(folded(each.name) == folded(name) for each in others):
        raise EditRefusedError(f"There is a {called} called {name} already.")


CHANGES: dict[type[Change], Callable[[Places, Any], Places]] = {
    ask.AddStorey: _add_storey,
    ask.SetStorey: _set_storey,
    ask.MoveStorey: _move_storey,
    ask.DropStorey: _drop_storey,
    ask.AddRoom: _add_room,
    ask.SetRoom: _set_room,
    ask.DropRoom: _drop_room,
    **PLAN_CHANGES,
}
