"""A circuit through marks of the plan, laid in the order that takes the least cable, each leg as it runs."""

from collections.abc import Callable, Mapping, Sequence

from lumbek.core.circuit.edit import AddPoint, AddSpur, JoinPoints, NewPoint, RemoveLeg, apply_edit, need_leg
from lumbek.core.model.circuit import Circuit, Surroundings
from lumbek.core.model.leg import BOARD, Leg
from lumbek.core.model.places import Spot
from lumbek.core.model.plan import CircuitPoint, Mark, MarkKind
from lumbek.core.model.point import PointKind
from lumbek.core.routes.answer import LegRoute
from lumbek.core.routes.breaks import Broken
from lumbek.core.routes.order import RunOrder

# What comes to a mark, as a point of a circuit; what is not here is no point of one.
_KINDS: dict[MarkKind, PointKind] = {
    "switch": "switch",
    "light": "light",
    "wall-light": "light",
    "downlight": "light",
    "fused-spur": "fused-spur",
    "cooker-switch": "control-with-socket",
    "isolator": "isolator",
    "cord-switch": "cord-switch",
    "shaver-socket": "shaver-socket",
    "smoke-alarm": "fixed",
    "heat-alarm": "fixed",
    "co-alarm": "fixed",
    "fan": "fixed",
    "outlet": "fixed",
    "joint": "joint",
    "board": "board",
}


def point_kind(mark: Mark) -> PointKind | None:
    """Return what a mark is as a point of a circuit; None for data and the like, which are of none."""
    if mark.kind == "socket":
        return "socket-single" if mark.box.gangs == 1 else "socket-twin"
    return _KINDS.get(mark.kind)


def laid_through(
    circuit: Circuit, order: RunOrder, marks: Sequence[Mark], usual: Callable[[Circuit], NewPoint]
) -> tuple[Circuit, dict[str, str]]:
    """Return a circuit with the points of a run laid on from the board, and the point at each mark.

    Legs have no length yet: that follows from their ways. Raises EditRefusedError.
    """
    by_id = {mark.id: mark for mark in marks}
    sits: dict[str, str] = {}
    for run in order.runs:
        after = BOARD
        for mark_id in run:
            edited = apply_edit(circuit, AddPoint(after=after, point=_point(by_id[mark_id], usual(circuit))))
            circuit, after = edited.circuit, edited.focus
            sits[mark_id] = after
        if order.shape == "ring" and after != BOARD:
            circuit = apply_edit(circuit, JoinPoints(a=after, b=BOARD)).circuit
    return circuit, sits


def taken_through(
    circuit: Circuit, broken: Sequence[Broken], marks: Sequence[Mark], usual: Callable[[Circuit], NewPoint]
) -> tuple[Circuit, dict[str, str]]:
    """Return a circuit with legs broken and taken through new places, and the point at each mark.

    Raises EditRefusedError.
    """
    if circuit.state == "as-found":
        # What is put into a circuit that was there alters it, and is new.
        circuit = circuit.model_copy(update={"state": "altered"})
    by_id = {mark.id: mark for mark in marks}
    sits: dict[str, str] = {}
    for each in broken:
        leg = need_leg(circuit, each.leg)
        circuit, last = apply_edit(circuit, RemoveLeg(leg=leg.id)).circuit, leg.a
        for mark_id in each.marks:
            edited = apply_edit(circuit, AddSpur(off=last, point=_point(by_id[mark_id], usual(circuit))))
            circuit, last = edited.circuit, edited.focus
            sits[mark_id] = last
        circuit = apply_edit(circuit, JoinPoints(a=last, b=leg.b)).circuit
    return circuit, sits


def _point(mark: Mark, usual: NewPoint) -> NewPoint:
    kind = point_kind(mark)
    said = {"kind": kind or usual.kind, "name": mark.name, "at": Spot(room=mark.room)}
    if kind == "fused-spur":
        said["fuse_a"] = 13
    # What a kind of circuit usually feeds belongs to the first point that draws anything.
    loads = usual.loads if usual.loads and kind == usual.kind else ()
    return NewPoint.model_validate(said | {"loads": loads})


def with_points(marks: Sequence[Mark], circuit: str, sits: dict[str, str]) -> tuple[Mark, ...]:
    """Return marks that say which point sits there."""
    return tuple(
        mark.model_copy(update={"point": CircuitPoint(circuit=circuit, point=sits[mark.id])})
        if mark.id in sits
        else mark
        for mark in marks
    )


def as_laid(circuit: Circuit, routes: Sequence[LegRoute]) -> Circuit:
    """Return a circuit whose legs are as their ways run; what was taped on site, or is there already, stays."""
    by_leg = {route.leg: route for route in routes if route.segments}
    legs = tuple(_laid(leg, by_leg.get(leg.id)) for leg in circuit.legs)
    return circuit.model_copy(update={"legs": legs, "surroundings": _surroundings(circuit, by_leg)})


def _surroundings(circuit: Circuit, by_leg: Mapping[str, LegRoute]) -> Surroundings:
    """Return what is said of where a circuit runs: in walls, where a way of it does and nobody has said."""
    said = circuit.surroundings
    in_walls = any(piece.within == "wall" for route in by_leg.values() for piece in route.pieces)
    if not in_walls or said.concealed_shallow is not None:
        return said
    return said.model_copy(update={"concealed_shallow": True})


def _laid(leg: Leg, route: LegRoute | None) -> Leg:
    if route is None or leg.taped or leg.state == "as-found":
        return leg
    # What is said of the air round a leg stands for all of it.
    ambient = {segment.ambient_c for segment in leg.segments}
    said = {"ambient_c": ambient.pop()} if len(ambient) == 1 else {}
    return leg.model_copy(update={"segments": tuple(segment.model_copy(update=said) for segment in route.segments)})
