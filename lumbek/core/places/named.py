"""What rooms are called at the points in them: said for whoever reads a design, never kept with it."""

from collections.abc import Callable

from lumbek.core.model.circuit import Circuit


def named(design: Circuit, name_of: Callable[[str | None], str]) -> Circuit:
    """Return a design whose points say what their rooms are called."""
    names = [name_of(point.at.room) for point in design.points]
    if all(point.room == name for point, name in zip(design.points, names, strict=True)):
        return design
    points = zip(design.points, names, strict=True)
    return design.model_copy(
        update={"points": tuple(point.model_copy(update={"room": name}) for point, name in points)}
    )


def unnamed(design: Circuit) -> Circuit:
    """Return a design as it is kept: which rooms its points are in, and not what those are called."""
    bare = named(design, lambda _: "")
    if all(point.plan_zone is None for point in bare.points):
        return bare
    points = tuple(point.model_copy(update={"plan_zone": None}) for point in bare.points)
    return bare.model_copy(update={"points": points})
