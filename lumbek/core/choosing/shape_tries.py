"""What puts the shape of a circuit right: close a ring, take out a bridge, undo a spur on a spur."""

from collections.abc import Iterator

from lumbek.core.choosing.leg_tries import short_legs
from lumbek.core.circuit.shape import Spur
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD, Leg, Segment
from lumbek.core.study.study import Study


def shape_tries(study: Study, circuit: Circuit) -> Iterator[tuple[str, Circuit]]:
    """Yield changes of how legs join, each in words with the circuit as it would be. New cable has no length yet."""
    yield from _closed(study, circuit)
    yield from _unbridged(study, circuit)
    for spur in study.shape.spurs if study.is_socket_ring else ():
        yield from _parted(circuit, spur)


def _closed(study: Study, circuit: Circuit) -> Iterator[tuple[str, Circuit]]:
    """A run of outlets too thin for the ring's device ahead of it goes from its end back to the board (433.1.204)."""
    ring, device = study.rulebook.data.ring, study.ahead.protection
    if study.shape.kind not in ("radial", "branched-radial") or not study.standing.ring_outlets:
        return
    if device is None or device.rating_a not in ring.ratings_a or not study.shape.walk:
        return
    if not short_legs(study):
        return
    end = study.shape.walk[0].steps[-1].point
    if end != BOARD:
        back = Leg(id=_free(circuit, "back"), a=end, b=BOARD)
        closed = circuit.model_copy(update={"legs": (*circuit.legs, back)})
        yield f"Close the ring: a cable from {circuit.point_title(end)} back to the board", closed


def _unbridged(study: Study, circuit: Circuit) -> Iterator[tuple[str, Circuit]]:
    """Of a ring that is bridged inside one leg is taken out that does not come to the board."""
    if study.shape.kind != "bridged-ring":
        return
    for leg in circuit.legs:
        if leg.id in study.graph.loop_legs and BOARD not in (leg.a, leg.b):
            left = tuple(each for each in circuit.legs if each.id != leg.id)
            yield f"Take out the cable from {circuit.leg_title(leg)}", circuit.model_copy(update={"legs": left})


def _parted(circuit: Circuit, spur: Spur) -> Iterator[tuple[str, Circuit]]:
    """The second outlet of a spur gets a spur of its own from the ring, all beyond it with it."""
    first, *beyond = spur.points
    for point in beyond:
        leg = next((each for each in circuit.legs if each.id in spur.legs and {each.a, each.b} == {first, point}), None)
        if leg is None or spur.from_point == BOARD:
            continue
        own = leg.model_copy(
            update={"a": spur.from_point, "b": point, "segments": (Segment(method=leg.segments[0].method),)}
        )
        legs = tuple(own if each.id == leg.id else each for each in circuit.legs)
        words = f"{circuit.point_title(point)} on a spur of its own from {circuit.point_title(spur.from_point)}"
        yield words, circuit.model_copy(update={"legs": legs})


def _free(circuit: Circuit, name: str) -> str:
    taken = {leg.id for leg in circuit.legs}
    return next(each for each in (name, *(f"{name}{count}" for count in range(2, 500))) if each not in taken)
