"""What is done to a room before cable and after it: cleared, photographed while it is open, closed again."""

from collections import Counter
from collections.abc import Iterator

from lumbek.core.items.amounts import CLEARED, OPENED, Sum, in_the_way, work_on
from lumbek.core.model.places import Room
from lumbek.core.plan.naming import wall_names
from lumbek.core.work.site import WorkSite
from lumbek.core.work.step import Phase, WorkStep


def room_steps(site: WorkSite) -> Iterator[WorkStep]:
    """Yield what is done to each room before and after."""
    work, cut = work_on(site.places, site.designs, site.ways), _cut(site)
    for room in site.places.rooms:
        amounts = work.get(room.id, Counter())
        opened = OPENED in amounts
        if CLEARED in amounts:
            yield _step(site, room, "clear", "clear", "Cleared, the rest covered", (f"{_listed(room)}.",), CLEARED)
        if opened:
            told = ("Boards up by the set-out of the joists; what lies under them is looked for first.",)
            yield _step(site, room, "open", "clear", "Floor opened", told, OPENED)
        walls = cut.get(room.id, ())
        if opened or walls:
            what = " and ".join([*(["floor"] if opened else []), *(["walls"] if walls else [])])
            seen = (f"Wall {', '.join(walls)}: cable from end to end, a tape beside it.",) if walls else ()
            step = _step(site, room, "photo", "hold", f"Photograph of the open {what}", seen)
            yield step.model_copy(update={"wants_photo": True})
            if walls:
                told = ("Capping or oval over every cable; plaster over it when it is photographed.",)
                yield _step(site, room, "plaster", "close", "Chases closed", told)
        if opened:
            told = ("Screwed where they were opened, and marked; no screw over a cable.",)
            yield _step(site, room, "boards", "close", "Boards down again", told)


def _step(
    site: WorkSite, room: Room, key: str, phase: Phase, what: str, told: tuple[str, ...], *takes: Sum
) -> WorkStep:
    return WorkStep(
        key=f"{key}/{room.id}", phase=phase, room=room.id, what=what, told=told, **site.taken(Counter(takes))
    )


def _cut(site: WorkSite) -> dict[str, tuple[str, ...]]:
    """Return, by room, which of its walls are cut for cable that is laid now."""
    found: dict[str, set[str]] = {}
    for key, _, leg in site.new_legs:
        way = site.ways.get((key, leg.id))
        for piece in () if way is None else way.pieces:
            if piece.within == "wall":
                found.setdefault(piece.room, set()).add(piece.wall)
    placing = site.routed.house.placing
    called = {room: wall_names(placing.outline(room)) for room in found}
    return {room: tuple(sorted(called[room][wall] for wall in walls)) for room, walls in found.items()}


def _listed(room: Room) -> str:
    return ", ".join(in_the_way(room)).capitalize()
