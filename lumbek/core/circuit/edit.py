"""Changing a circuit the way an electrician would: add, insert into a leg, move, take out, close."""

from collections.abc import Sequence
from typing import Annotated, Literal

from pydantic import Field

from lumbek.core.circuit.graph import graph_of
from lumbek.core.circuit.shape import recognise
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD, Leg, Segment
from lumbek.core.model.places import Spot
from lumbek.core.model.point import FuseA, Load, Point, PointKind
from lumbek.core.model.terminals import Join
from lumbek.core.model.text import Id, LengthM, Name
from lumbek.core.value import Change, Frozen


class EditRefusedError(Exception):
    """An edit that the circuit as it stands does not allow; the message says why and what would."""


class NewPoint(Change):
    """What is known of a point when it is put in."""

    kind: PointKind = "socket-twin"
    name: Name = ""
    at: Spot = Spot()
    fuse_a: FuseA | None = None
    loads: Annotated[tuple[Load, ...], Field(max_length=20)] = ()


_TWIN = NewPoint()


class AddPoint(Change):
    """Carry the run on from a point to a new one; on a ring, between the point and the next."""

    op: Literal["add"] = "add"
    after: Id
    point: NewPoint | None = None
    length_m: LengthM | None = None


class AddSpur(Change):
    """Hang a new point off a point, whatever it is part of."""

    op: Literal["spur"] = "spur"
    off: Id
    point: NewPoint | None = None
    length_m: LengthM | None = None


class InsertPoint(Change):
    """Break a leg and take it through a new point."""

    op: Literal["insert"] = "insert"
    leg: Id
    point: NewPoint | None = None


class MovePoint(Change):
    """Take a point out of its place and into a leg elsewhere."""

    op: Literal["move"] = "move"
    point: Id
    into_leg: Id


class RemovePoint(Change):
    """Take a point out; a run that went through it goes on as one leg."""

    op: Literal["remove"] = "remove"
    point: Id


class JoinPoints(Change):
    """Lay a leg between two points; from the last point to the board it closes a ring."""

    op: Literal["join"] = "join"
    a: Id
    b: Id
    length_m: LengthM | None = None


class RemoveLeg(Change):
    """Take a leg out and leave its points."""

    op: Literal["cut"] = "cut"
    leg: Id


Edit = Annotated[
    AddPoint | AddSpur | InsertPoint | MovePoint | RemovePoint | JoinPoints | RemoveLeg, Field(discriminator="op")
]


class Edited(Frozen):
    """The circuit after an edit, and the point or leg the eye should go to."""

    circuit: Circuit
    focus: str


def apply_edit(circuit: Circuit, edit: Edit, usual: NewPoint = _TWIN) -> Edited:
    """Return the changed circuit; a new point of which nothing is said is the `usual` one.

    What is put into a circuit that is drawn as it was found was found as well. Raises EditRefusedError, and the model's
    ValidationError at its limits.
    """
    edited = _apply(circuit, edit, usual)
    if circuit.state != "as-found":
        return edited
    return edited.model_copy(update={"circuit": _found_as_well(circuit, edited.circuit)})


def _found_as_well(before: Circuit, after: Circuit) -> Circuit:
    """Return a circuit whose points and legs that were not there before were found as the others were."""
    points, legs = {each.id for each in before.points}, {each.id for each in before.legs}
    found = {"state": "as-found"}
    return after.model_copy(
        update={
            "points": tuple(each if each.id in points else each.model_copy(update=found) for each in after.points),
            "legs": tuple(each if each.id in legs else each.model_copy(update=found) for each in after.legs),
        }
    )


def _apply(circuit: Circuit, edit: Edit, usual: NewPoint) -> Edited:
    match edit:
        case AddPoint():
            return _add(circuit, edit, edit.point or usual)
        case AddSpur():
            need_point(circuit, edit.off)
            return _hang(circuit, edit.off, edit.point or usual, edit.length_m)
        case InsertPoint():
            point = _new_point(circuit, edit.point or usual)
            return Edited(circuit=_split(circuit, edit.leg, point), focus=point.id)
        case MovePoint():
            return _move(circuit, edit)
        case RemovePoint():
            return _remove(circuit, edit.point)
        case JoinPoints():
            return _join(circuit, edit)
        case RemoveLeg():
            need_leg(circuit, edit.leg)
            left = [leg for leg in circuit.legs if leg.id != edit.leg]
            return Edited(circuit=_with(circuit, legs=left), focus="")


def _with(circuit: Circuit, points: Sequence[Point] | None = None, legs: Sequence[Leg] | None = None) -> Circuit:
    """Return the circuit with other points or legs, held to the model's rules again."""
    kept_points = circuit.points if points is None else tuple(points)
    kept_legs = circuit.legs if legs is None else tuple(legs)
    here = {(leg.id, leg.a) for leg in kept_legs} | {(leg.id, leg.b) for leg in kept_legs}
    tidied = [point.model_copy(update={"joins": _still_there(point.joins, point.id, here)}) for point in kept_points]
    known = frozenset(point.id for point in kept_points)
    changed = {
        "scheme": None if circuit.scheme is None else circuit.scheme.only(known),
        "points": tuple(tidied),
        "legs": kept_legs,
        "board_joins": _still_there(circuit.board_joins, BOARD, here),
    }
    return Circuit.model_validate(circuit.model_copy(update=changed).model_dump())


def _still_there(joins: tuple[Join, ...], point_id: str, here: set[tuple[str, str]]) -> tuple[Join, ...]:
    """Return what is joined at a point without the core ends that are no longer there."""
    found = []
    for join in joins:
        ends = tuple(end for end in join.ends if end.circuit is not None or (end.leg, point_id) in here)
        if ends or join.terminals:
            found.append(join.model_copy(update={"ends": ends}))
    return tuple(found)


def _renamed(circuit: Circuit, point_id: str, leg_id: str, new_id: str) -> Circuit:
    """Return the circuit with what is joined of a leg at one of its ends joined of another that comes there now."""

    def joins(of: tuple[Join, ...]) -> tuple[Join, ...]:
        return tuple(
            join.model_copy(
                update={
                    "ends": tuple(
                        end.model_copy(update={"leg": new_id}) if end.circuit is None and end.leg == leg_id else end
                        for end in join.ends
                    )
                }
            )
            for join in of
        )

    if point_id == BOARD:
        return circuit.model_copy(update={"board_joins": joins(circuit.board_joins)})
    points = tuple(
        point.model_copy(update={"joins": joins(point.joins)}) if point.id == point_id else point
        for point in circuit.points
    )
    return circuit.model_copy(update={"points": points})


def next_id(prefix: str, taken: Sequence[str]) -> str:
    """Return the name of a row that comes after all that are taken."""
    numbers = [int(each[1:]) for each in taken if each.startswith(prefix) and each[1:].isdigit()]
    return f"{prefix}{max(numbers, default=0) + 1}"


def _new_point(circuit: Circuit, new: NewPoint) -> Point:
    point_id = next_id("P", [point.id for point in circuit.points])
    return Point.model_validate({"id": point_id, **new.model_dump()})


def _new_leg(circuit: Circuit, a: str, b: str, length_m: float | None) -> Leg:
    leg_id = next_id("L", [leg.id for leg in circuit.legs])
    return Leg(id=leg_id, a=a, b=b, segments=(Segment(length_m=length_m),))


def need_point(circuit: Circuit, point_id: str) -> None:
    """Refuse a point that is neither the board nor in the circuit any more."""
    if point_id != BOARD and all(point.id != point_id for point in circuit.points):
        raise EditRefusedError(f"There is no point {point_id} in this circuit any more.")


def need_leg(circuit: Circuit, leg_id: str) -> Leg:
    """Return a leg of the circuit; EditRefusedError where it is gone."""
    for leg in circuit.legs:
        if leg.id == leg_id:
            return leg
    raise EditRefusedError(f"There is no cable {leg_id} in this circuit any more.")


def _add(circuit: Circuit, edit: AddPoint, new: NewPoint) -> Edited:
    need_point(circuit, edit.after)
    shape = recognise(graph_of(circuit))
    on_ring = (BOARD, *shape.ring_points)
    if shape.is_ring and edit.after in on_ring:
        leg = shape.ring_legs[on_ring.index(edit.after)]
        point = _new_point(circuit, new)
        return Edited(circuit=_split(circuit, leg, point), focus=point.id)
    return _hang(circuit, edit.after, new, edit.length_m)


def _hang(circuit: Circuit, off: str, new: NewPoint, length_m: float | None) -> Edited:
    point = _new_point(circuit, new)
    leg = _new_leg(circuit, off, point.id, length_m)
    return Edited(circuit=_with(circuit, [*circuit.points, point], [*circuit.legs, leg]), focus=point.id)


def _split(circuit: Circuit, leg_id: str, point: Point) -> Circuit:
    """Take a leg through a point. What is known of its length is halved: the sum is kept until the halves are."""
    leg = need_leg(circuit, leg_id)
    if len(leg.segments) > 1:
        # Where along its segments it is broken cannot be known: the near part keeps them, the far part is new.
        near, far = leg.segments, (Segment(length_m=None),)
    else:
        whole = leg.segments[0]
        halves = {"length_m": _half(whole.length_m), "length_to_m": _half(whole.length_to_m)}
        near = far = (whole.model_copy(update=halves),)
    leg_r1 = _half(leg.measured_r1_ohm)
    first = leg.model_copy(update={"b": point.id, "segments": near, "measured_r1_ohm": leg_r1})
    second = first.model_copy(
        update={
            "id": next_id("L", [each.id for each in circuit.legs]),
            "a": point.id,
            "b": leg.b,
            "segments": far,
        }
    )
    at = circuit.legs.index(leg)
    legs = [*circuit.legs[:at], first, second, *circuit.legs[at + 1 :]]
    followed = _renamed(circuit, leg.b, leg.id, second.id)
    return _with(followed, [*followed.points, point], legs)


def _half(value: float | None) -> float | None:
    return None if value is None else value / 2


def _sum(a: float | None, b: float | None) -> float | None:
    """Return both together, or None where one is not known."""
    return None if a is None or b is None else a + b


def _remove(circuit: Circuit, point_id: str) -> Edited:
    if point_id == BOARD:
        raise EditRefusedError("The board stays.")
    need_point(circuit, point_id)
    here = [leg for leg in circuit.legs if point_id in (leg.a, leg.b)]
    points = [point for point in circuit.points if point.id != point_id]
    if len(here) > 2:
        raise EditRefusedError(
            f"{circuit.point_title(point_id)} joins {len(here)} cables: take out or move what hangs off it first."
        )
    legs = [leg for leg in circuit.legs if leg not in here]
    if len(here) < 2:
        return Edited(circuit=_with(circuit, points, legs), focus=here[0].other_end(point_id) if here else "")
    first, second = here
    a, b = first.other_end(point_id), second.other_end(point_id)
    if a == b:
        # Both legs came from one place: nothing is left to join.
        return Edited(circuit=_with(circuit, points, legs), focus=a)
    return _joined(circuit, point_id, first, second)


def _joined(circuit: Circuit, point_id: str, first: Leg, second: Leg) -> Edited:
    """Return the circuit with a point gone and one leg where two came to it."""
    a, b = first.other_end(point_id), second.other_end(point_id)
    legs = [leg for leg in circuit.legs if leg not in (first, second)]
    merged = first.model_copy(
        update={
            "a": a,
            "b": b,
            "segments": _joined_segments(first, second),
            "measured_r1_ohm": _sum(first.measured_r1_ohm, second.measured_r1_ohm),
        }
    )
    at = min(circuit.legs.index(first), circuit.legs.index(second))
    legs.insert(at, merged)
    followed = _renamed(circuit, b, second.id, merged.id)
    points = [point for point in followed.points if point.id != point_id]
    return Edited(circuit=_with(followed, points, legs), focus=merged.id)


def _joined_segments(first: Leg, second: Leg) -> tuple[Segment, ...]:
    """Return the segments of two legs end to end; like surroundings become one segment."""
    joined: list[Segment] = []
    for segment in (*first.segments, *second.segments):
        last = joined[-1] if joined else None
        lengths = {"length_m": segment.length_m, "length_to_m": segment.length_to_m}
        if last is not None and last.model_copy(update=lengths) == segment:
            ranged = last.length_to_m is not None or segment.length_to_m is not None
            most = _sum(last.length_to_m or last.length_m, segment.length_to_m or segment.length_m)
            least = _sum(last.length_m, segment.length_m)
            joined[-1] = last.model_copy(update={"length_m": least, "length_to_m": most if ranged and least else None})
        else:
            joined.append(segment)
    return tuple(joined[:12])


def _move(circuit: Circuit, edit: MovePoint) -> Edited:
    if edit.point == BOARD:
        raise EditRefusedError("The board stays.")
    need_point(circuit, edit.point)
    target = need_leg(circuit, edit.into_leg)
    if edit.point in (target.a, target.b):
        raise EditRefusedError("That cable ends at this point already.")
    point = circuit.point(edit.point)
    without = _remove(circuit, edit.point).circuit
    return Edited(circuit=_split(without, edit.into_leg, point), focus=point.id)


def _join(circuit: Circuit, edit: JoinPoints) -> Edited:
    need_point(circuit, edit.a)
    need_point(circuit, edit.b)
    if edit.a == edit.b:
        raise EditRefusedError("A cable joins two different points.")
    leg = _new_leg(circuit, edit.a, edit.b, edit.length_m)
    return Edited(circuit=_with(circuit, legs=[*circuit.legs, leg]), focus=leg.id)
