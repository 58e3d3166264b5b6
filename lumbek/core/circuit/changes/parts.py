"""What every change does: set fields of one part, swap one of several, find what it is about or refuse."""

from collections.abc import Callable, Mapping
from typing import Annotated, Any, TypeVar

from pydantic import Field

from lumbek.core.circuit.edit import EditRefusedError, need_leg
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Leg
from lumbek.core.model.point import Point
from lumbek.core.rulebooks import Rulebook
from lumbek.core.value import Change, Frozen

Index = Annotated[int, Field(ge=0, le=40)]
# How each change of a group is carried out.
Doing = Mapping[type[Change], Callable[[Rulebook, Circuit, Any], Circuit]]

_M = TypeVar("_M", bound=Frozen)


def with_changes(model: _M, changes: dict[str, Any]) -> _M:
    """Return a part with these fields set."""
    return model.model_copy(update=changes)


def nth(all_of: tuple[_M, ...], index: int, what: str) -> _M:
    """Return one of several parts; EditRefusedError where there are no longer so many."""
    if index >= len(all_of):
        raise EditRefusedError(f"There is no {what} {index + 1} any more.")
    return all_of[index]


def on_leg(circuit: Circuit, leg_id: str, change: Callable[[Leg], Leg]) -> Circuit:
    """Return the circuit with one leg changed; EditRefusedError where it is gone."""
    need_leg(circuit, leg_id)
    return with_changes(circuit, {"legs": tuple(change(leg) if leg.id == leg_id else leg for leg in circuit.legs)})


def on_point(circuit: Circuit, point_id: str, change: Callable[[Point], Point]) -> Circuit:
    """Return the circuit with one point changed; EditRefusedError where it is gone."""
    if all(point.id != point_id for point in circuit.points):
        raise EditRefusedError(f"There is no point {point_id} in this circuit any more.")
    points = tuple(change(point) if point.id == point_id else point for point in circuit.points)
    return with_changes(circuit, {"points": points})
