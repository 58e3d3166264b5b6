"""Where one leg of a ring carries over 20 A: the move or swap of points that shares the current better."""

from collections.abc import Iterator, Sequence
from itertools import combinations, product

from lumbek.core.circuit.edit import EditRefusedError, MovePoint, apply_edit
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.point import Point
from lumbek.core.model.supply import Supply
from lumbek.core.numbers import show
from lumbek.core.rulebooks import Rulebook
from lumbek.core.study.door import study_of
from lumbek.core.study.study import Study
from lumbek.core.value import Frozen

_MOST_POINTS = 16


class Rebalance(Frozen):
    """A change of the ring, the greatest leg current in A before and after it, and the circuit with it made."""

    change: str
    before_a: float
    after_a: float
    design: Circuit


def rebalance(rulebook: Rulebook, supply: Supply, circuit: Circuit) -> tuple[Rebalance, ...]:
    """Return the best three changes where a leg carries over 20 A (433.1.204): loads swapped, a point moved."""
    study = study_of(rulebook, supply, circuit).longest
    before = _greatest(study)
    points = study.shape.ring_points
    limit = rulebook.data.ring.min_iz_a
    stated = study.currents.demand is not None and study.currents.demand.stated
    if before is None or before <= limit or not stated or len(points) > _MOST_POINTS:
        return ()
    found: list[Rebalance] = []
    for words, design in (*_swaps(circuit, points), *_moves(study, circuit, points)):
        after = _greatest(study_of(rulebook, supply, design).longest)
        if after is not None and after < before - 0.01:
            change = f"{words}: {show(after, 1)} A at most instead of {show(before, 1)} A"
            found.append(Rebalance(change=change, before_a=before, after_a=after, design=design))
    return tuple(sorted(found, key=lambda each: each.after_a)[:3])


def _swaps(circuit: Circuit, points: Sequence[str]) -> Iterator[tuple[str, Circuit]]:
    for a, b in combinations(points, 2):
        first, second = circuit.point(a), circuit.point(b)
        if first.loads != second.loads:
            yield f"Swap what {first.title} and {second.title} feed", _swapped(circuit, first, second)


def _moves(study: Study, circuit: Circuit, points: Sequence[str]) -> Iterator[tuple[str, Circuit]]:
    for point, leg in product(points, study.shape.ring_legs):
        try:
            moved = apply_edit(circuit, MovePoint(point=point, into_leg=leg)).circuit
        except EditRefusedError:
            continue
        target = study.legs[leg]
        yield f"Take {circuit.point(point).title} into the cable from {circuit.leg_title(target)}", moved


def _greatest(study: Study) -> float | None:
    if not study.is_socket_ring or study.currents.flow is None:
        return None
    currents = study.currents.flow.leg_a
    return max(abs(currents[leg]) for leg in study.shape.ring_legs)


def _swapped(circuit: Circuit, first: Point, second: Point) -> Circuit:
    loads = {first.id: second.loads, second.id: first.loads}
    points = tuple(
        point.model_copy(update={"loads": loads[point.id]}) if point.id in loads else point for point in circuit.points
    )
    return circuit.model_copy(update={"points": points})
