"""The storeys and rooms of a house, and where in them something is."""

import re
from collections.abc import Iterable, Sequence
from hashlib import sha256
from typing import Annotated, Self
from unicodedata import normalize

from pydantic import Field, model_validator

from lumbek.core.model.plan import MOST_LAMPS, MOST_MARKS, Floor, LampSaid, Mark, Outline, RoomLies, SharedWall
from lumbek.core.model.routes import RouteRules
from lumbek.core.model.text import GivenName, Id, Name
from lumbek.core.value import Frozen

MOST_STOREYS, MOST_ROOMS = 12, 400
# So long an id may be; of a longer name a part stands for all of it.
_ID_LENGTH, _HASH_LENGTH = 32, 10


class Storey(Frozen):
    """A storey, by its own id."""

    id: Id
    name: GivenName
    # What is between it and the storey above.
    floor: Floor = Floor()


class Room(Frozen):
    """A room. Whatever is in it names its id, so it may be called otherwise without anything in it changing."""

    id: Id
    name: GivenName
    # None where nobody has said on which it lies.
    storey: Id | None = None
    # Its walls by the tape; None while nobody has measured it.
    outline: Outline | None = None
    # Where it lies from another room; what shares a wall follows from that.
    seat: RoomLies | None = None


class Spot(Frozen):
    """Where something is: in which room, and where there in a person's words; None where nobody has said."""

    room: Id | None = None
    words: Name = ""


def _check_each_once(called: str, each: Sequence[Storey | Room]) -> None:
    ids, names = [one.id for one in each], [folded(one.name) for one in each]
    if len(set(ids)) < len(ids):
        raise ValueError(f"{called}: an id is used twice")
    if len(set(names)) < len(names):
        twice = next(one.name for one in each if names.count(folded(one.name)) > 1)
        raise ValueError(f"{called}: {twice} is there twice")


class Places(Frozen):
    """Storeys from the top down, rooms with their walls, and the marks in them, as they are kept."""

    storeys: Annotated[tuple[Storey, ...], Field(max_length=MOST_STOREYS)] = ()
    rooms: Annotated[tuple[Room, ...], Field(max_length=MOST_ROOMS)] = ()
    # Walls that two rooms share, and the marks to make.
    between: Annotated[tuple[SharedWall, ...], Field(max_length=2 * MOST_ROOMS)] = ()
    marks: Annotated[tuple[Mark, ...], Field(max_length=MOST_MARKS)] = ()
    # What is said of the ways that cable takes.
    ways: RouteRules = RouteRules()
    # Lamps to choose from, by their names.
    lamps: Annotated[tuple[LampSaid, ...], Field(max_length=MOST_LAMPS)] = ()

    @model_validator(mode="after")
    def _each_once(self) -> Self:
        _check_each_once("storeys", self.storeys)
        _check_each_once("rooms", self.rooms)
        known = {storey.id for storey in self.storeys}
        lost = next((room for room in self.rooms if room.storey not in (None, *known)), None)
        if lost is not None:
            raise ValueError(f"rooms: {lost.name} lies on storey {lost.storey}, which is not there")
        rooms = {room.id for room in self.rooms}
        stray = next((mark for mark in self.marks if mark.room not in rooms), None)
        if stray is not None:
            raise ValueError(f"marks: {stray.id} is in room {stray.room}, which is not there")
        if len({mark.id for mark in self.marks}) < len(self.marks):
            raise ValueError("marks: an id is used twice")
        return self

    def name_of(self, room: str | None) -> str:
        """Return what a room is called; one that nobody lists as its id says, nothing where there is none."""
        return next((each.name for each in self.rooms if each.id == room), name_by_id(room))

    def storey_of(self, room: str | None) -> str:
        """Return the name of the storey that a room lies on; nothing where nobody has said."""
        on = next((each.storey for each in self.rooms if each.id == room), None)
        return next((each.name for each in self.storeys if each.id == on), "")

    def where(self, spot: Spot) -> str:
        """Return a spot in words: its room, and where there."""
        return ", ".join(each for each in (self.name_of(spot.room), spot.words) if each)

    def called(self, name: str) -> Room | None:
        """Return the room of a name, however it is written; None where there is none."""
        return next((room for room in self.rooms if folded(room.name) == folded(name)), None)

    def with_room(self, name: str, storey: str | None = None) -> tuple["Places", Room]:
        """Return the places with a room of this name, and the room: the one that is there, else a new one.

        Raises the model's ValidationError at its limits.
        """
        there = self.called(name)
        if there is not None:
            return self, there
        room = Room(id=free_id(name, (each.id for each in self.rooms)), name=name, storey=storey)
        said = dict(self) | {"rooms": (*self.rooms, room)}
        return Places(**said), room


def folded(name: str) -> str:
    """Return a name as it is compared: without case, with single spaces, letters with their marks as one."""
    return normalize("NFC", " ".join(name.casefold().split()))


def name_by_id(room: str | None) -> str:
    """Return what is known of a room's name by its id alone: `lever-room` is `lever room`."""
    return (room or "").replace("-", " ")


def id_of_name(name: str) -> str:
    """Return an id made of a name: `Lever room` is `lever-room`.

    The same for the same name wherever it is met: rooms that files before version 4 know by their names alone come out
    alike in every circuit and in every state that was kept. So it is never changed.
    """
    plain = normalize("NFKD", folded(name)).encode("ascii", "ignore").decode()
    words = re.sub(r"[^a-z0-9]+", "-", plain).strip("-")
    if words and len(words) <= _ID_LENGTH and plain == folded(name):
        return words
    mark = sha256(folded(name).encode()).hexdigest()[:_HASH_LENGTH]
    return f"{words[: _ID_LENGTH - _HASH_LENGTH - 1].strip('-') or 'room'}-{mark}"


def free_id(name: str, taken: Iterable[str]) -> str:
    """Return an id made of a name that is not taken yet."""
    own, known = id_of_name(name), set(taken)
    count = 2
    found = own
    while found in known:
        found = f"{own[: _ID_LENGTH - 4]}-{count}"
        count += 1
    return found
