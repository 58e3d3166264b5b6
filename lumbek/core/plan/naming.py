"""What walls and parts of a room are called, so that they can be typed: `n`, `e2`, `bed`, `window2`."""

from lumbek.core.model.plan import Opening, Outline, Thing, Wall

# A wall is called by the side of the room that it is on: it runs clockwise, so the north wall runs east.
_SIDES = {0: "w", 90: "n", 180: "e", 270: "s"}


def wall_names(outline: Outline) -> dict[str, str]:
    """Return what each wall is called, by its id: `n`, or `n1` and `n2` where there are two."""
    sides = [_SIDES.get(wall.heading, "x") for wall in outline.walls]
    names, counts = {}, dict[str, int]()
    for wall, side in zip(outline.walls, sides, strict=True):
        counts[side] = counts.get(side, 0) + 1
        names[wall.id] = f"{side}{counts[side]}" if sides.count(side) > 1 or side == "x" else side
    return names


def wall_called(outline: Outline, name: str) -> Wall | None:
    """Return the wall of a name, or of an id; None where there is none."""
    by_name = {said: key for key, said in wall_names(outline).items()}
    return outline.wall(by_name.get(name, name))


def part_called(outline: Outline, name: str) -> Opening | Thing | None:
    """Return an opening or thing by its id or name, or the only one of its kind; None where there is none, or two."""
    exact = outline.part(name)
    if exact is not None:
        return exact
    parts: list[Opening | Thing] = [*outline.openings, *outline.things]
    like = [each for each in parts if each.kind == name or (isinstance(each, Thing) and each.name.lower() == name)]
    return like[0] if len(like) == 1 else None


def free_part_id(outline: Outline, kind: str) -> str:
    """Return an id for one more of a kind: `door`, then `door2`."""
    parts = (*outline.openings, *outline.things)
    taken = {each.id for each in outline.walls} | {part.id for part in parts} | {each.id for each in outline.above}
    count, found = 1, kind
    while found in taken:
        count += 1
        found = f"{kind}{count}"
    return found
