"""Plans as short as they can be said: rooms typed, and lines typed into them."""

from collections.abc import Mapping, Sequence

from lumbek.core.model.places import Places
from lumbek.core.places.changes import carry_out_on_places
from lumbek.core.places.commands import PlacesCommand
from lumbek.core.plan.answer import PlanAnswer, RoomPlan, answer_plan
from lumbek.core.plan.commands import TypeLine, TypeRoom
from lumbek.core.rulebooks import load_rulebook


def after(places: Places, *commands: PlacesCommand) -> Places:
    """Places after commands."""
    for command in commands:
        places = carry_out_on_places(places, command, {})
    return places


def plan(rooms: Mapping[str, Sequence[str]]) -> Places:
    """A plan of rooms as they are typed, `Bedroom 4.20 x 3.60`, with the lines of each."""
    places = Places()
    for typed, lines in rooms.items():
        places = after(places, TypeRoom(typed=typed))
        room = places.rooms[-1].id
        places = after(places, *(TypeLine(room=room, typed=line) for line in lines))
    return places


def answered(places: Places, rulebook: str = "bs7671") -> PlanAnswer:
    """All there is to say of a plan."""
    return answer_plan(places, load_rulebook(rulebook))


def room_of(places: Places, rulebook: str = "bs7671") -> RoomPlan:
    """What there is to say of its last room."""
    return answered(places, rulebook).rooms[-1]


def along(places: Places) -> dict[str, int | None]:
    """Where each mark of the last room is, from the left of its wall."""
    return {each.mark: each.left_mm for each in room_of(places).marks}


def wrong(places: Places, rulebook: str = "bs7671") -> dict[str, list[str]]:
    """What is wrong with each mark of the last room."""
    found: dict[str, list[str]] = {}
    for each in room_of(places, rulebook).conflicts:
        found.setdefault(each.mark, []).append(each.why)
    return found
