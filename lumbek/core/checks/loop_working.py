"""R1 + R2 written out so that it can be followed by hand: leg by leg, or the two ways round a ring."""

from lumbek.core.judging.check import Step
from lumbek.core.model.cable import Cable
from lumbek.core.model.leg import BOARD, Leg
from lumbek.core.numbers import plain, show
from lumbek.core.study.study import Study


def loop_steps(study: Study, point: str) -> tuple[Step, ...]:
    """Return the working of R1 + R2 at 20 °C at a point, in Ω; nothing where only the network can say.

    Legs in series add. Two ways round a ring of one cable are in parallel: l1 l2 / (l1 + l2) x (r1 + r2).
    """
    if study.wires.parted:
        return ()
    path = study.graph.path_to(point)
    if not study.currents.are_shared:
        return tuple(_leg_step(study, study.legs[leg]) for leg in path)
    ring = [study.legs[leg] for leg in study.shape.ring_legs]
    sorts = set(map(study.circuit.cable_of, ring))
    if len({_each(study, cable) for cable in sorts}) != 1:
        return ()
    spur = [leg for leg in path if leg not in study.shape.ring_legs]
    return (*_ring_step(study, point, ring, spur), *(_leg_step(study, study.legs[leg]) for leg in spur))


def _each(study: Study, cable: Cable) -> float:
    """Return line and cpc of a cable together, mΩ/m."""
    book = study.rulebook
    return (book.milliohm_per_m(cable, "L") or 0.0) + (book.milliohm_per_m(cable, "E") or 0.0)


def _leg_step(study: Study, leg: Leg) -> Step:
    length, each = leg.length_m or 0.0, _each(study, study.circuit.cable_of(leg))
    return Step(
        text=study.leg_title(leg.id),
        sum=f"{plain(round(length, 2))} m × {show(each)} mΩ/m / 1000 = {show(length * each / 1000, 3)} Ω",
    )


def _ring_step(study: Study, point: str, ring: list[Leg], spur: list[str]) -> tuple[Step, ...]:
    legs = study.legs
    if spur:
        # The spur leaves the ring where its first leg meets a point of the ring, or at the board itself.
        ends = {legs[spur[0]].a, legs[spur[0]].b}
        at = next((each for each in (*study.shape.ring_points, BOARD) if each in ends), BOARD)
    else:
        at = point
    if at == BOARD:
        return ()
    index = study.shape.ring_points.index(at) + 1
    one = sum(leg.length_m or 0.0 for leg in ring[:index])
    other = sum(leg.length_m or 0.0 for leg in ring[index:])
    each = _each(study, study.circuit.cable_of(ring[0]))
    ohm = one * other / (one + other) * each / 1000
    a, b = plain(round(one, 2)), plain(round(other, 2))
    return (
        Step(
            text=f"Round the ring to {study.circuit.point_title(at)}: {a} m one way, {b} m the other, in parallel",
            sum=f"{a} × {b} / {plain(round(one + other, 2))} m × {show(each)} mΩ/m / 1000 = {show(ohm, 3)} Ω",
        ),
    )
