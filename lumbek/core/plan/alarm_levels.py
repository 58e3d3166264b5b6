"""Which category of alarms a house reaches, and which rooms have none yet for the next (BS 5839-6; plan.json)."""

from collections.abc import Sequence

from lumbek.core.model.places import Places, Room, folded
from lumbek.core.model.plan import Mark
from lumbek.core.plan.guidance import plan_rules
from lumbek.core.value import Frozen


class LevelReached(Frozen):
    """A category: whether every room that it names has its alarm, and which have none."""

    name: str
    source: str
    without: tuple[str, ...]
    rooms: int

    @property
    def is_reached(self) -> bool:
        """Whether there are such rooms, and none is without."""
        return self.rooms > 0 and not self.without


def levels_of(places: Places, rulebook: str) -> tuple[LevelReached, ...]:
    """Return the categories of a rulebook's guidance, as far as a house has them; nothing where nothing is marked."""
    if not any(mark.kind.endswith("-alarm") for mark in places.marks):
        return ()
    found = []
    for level in plan_rules().alarm_levels[rulebook]:
        wanted = [(room, kind) for kind, words in level.rooms.items() for room in _called(places.rooms, words)]
        without = tuple(
            f"{room.name}: {kind.replace('-', ' ')}" for room, kind in wanted if not _has(places, room, kind)
        )
        found.append(LevelReached(name=level.name, source=level.source, without=without, rooms=len(wanted)))
    return tuple(found)


def _called(rooms: Sequence[Room], words: Sequence[str]) -> list[Room]:
    return [room for room in rooms if any(word in folded(room.name) for word in words)]


def _has(places: Places, room: Room, kind: str) -> bool:
    return any(_counts(mark, room, kind) for mark in places.marks)


def _counts(mark: Mark, room: Room, kind: str) -> bool:
    return mark.room == room.id and mark.kind == kind and mark.fate != "remove"
