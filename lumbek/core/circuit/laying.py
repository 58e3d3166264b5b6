"""Laying a run of several legs at once: on from the last point, or through a leg that is broken for it."""

from collections.abc import Callable
from itertools import takewhile

from lumbek.core.circuit.edit import (
    AddPoint,
    AddSpur,
    EditRefusedError,
    JoinPoints,
    NewPoint,
    RemoveLeg,
    apply_edit,
    need_leg,
)
from lumbek.core.circuit.graph import graph_of
from lumbek.core.circuit.shape import recognise
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD
from lumbek.core.model.places import Spot, id_of_name
from lumbek.core.model.point import PointKind
from lumbek.core.model.text import Name
from lumbek.core.value import Frozen


class Entry(Frozen):
    """One leg of a typed run: its length in m (None for `?`), the point it ends at, or the way back to the board.

    `room` is the room's name; where none is said the point is in that of the one before.
    """

    length_m: float | None
    kind: PointKind | None = None
    # One of the points that people name by what is behind them: `extractor`.
    ready: str = ""
    name: str = ""
    room: Name = ""
    spur: bool = False
    back: bool = False


def lay_run(
    circuit: Circuit,
    entries: tuple[Entry, ...],
    usual: Callable[[Circuit, str], NewPoint] = lambda *_: NewPoint(),
    room_id: Callable[[str], str] = id_of_name,
) -> Circuit:
    """Return the circuit with the typed run laid on from its last point, or from the board if it is empty.

    `usual` says what point comes next where an entry names no other kind: the usual one, or the ready one
    that is named; `room_id` the id of a room that is named. Raises the model's ValidationError where the circuit
    would hold too much.
    """
    shape = recognise(graph_of(circuit))
    last = shape.walk[0].steps[-1].point if shape.walk else BOARD
    room = circuit.points[-1].at.room if circuit.points else None
    for entry in entries:
        if entry.back:
            if last != BOARD:
                circuit = apply_edit(circuit, JoinPoints(a=last, b=BOARD, length_m=entry.length_m)).circuit
                last = BOARD
            continue
        room = room_id(entry.room) if entry.room else room
        point = _point_of(entry, usual(circuit, entry.ready), room)
        if entry.spur:
            circuit = apply_edit(circuit, AddSpur(off=last, point=point, length_m=entry.length_m)).circuit
            continue
        edited = apply_edit(circuit, AddPoint(after=last, point=point, length_m=entry.length_m))
        circuit, last = edited.circuit, edited.focus
    return circuit


def lay_through(
    circuit: Circuit,
    leg_id: str,
    entries: tuple[Entry, ...],
    usual: Callable[[Circuit, str], NewPoint] = lambda *_: NewPoint(),
    room_id: Callable[[str], str] = id_of_name,
) -> Circuit:
    """Return the circuit with a leg broken and taken through new points and back: how a ring found is extended.

    The leg goes; new cable runs from its end nearer the board through the typed points to its other end, by the
    length of a last `back`, not known without one. Raises EditRefusedError, and the model's ValidationError.
    """
    if circuit.state == "as-found":
        # What is put into a circuit that was there alters it, and is new.
        circuit = circuit.model_copy(update={"state": "altered"})
    graph = graph_of(circuit)
    leg = need_leg(circuit, leg_id)
    if all(entry.back or entry.spur for entry in entries):
        raise EditRefusedError("There is no new point to take the cable through.")
    last, end = sorted((leg.a, leg.b), key=lambda point: graph.distance.get(point, 0))
    room = circuit.points[-1].at.room if circuit.points else None
    circuit = apply_edit(circuit, RemoveLeg(leg=leg_id)).circuit
    onward = list(takewhile(lambda entry: not entry.back, entries))
    for entry in onward:
        room = room_id(entry.room) if entry.room else room
        point = _point_of(entry, usual(circuit, entry.ready), room)
        edited = apply_edit(circuit, AddSpur(off=last, point=point, length_m=entry.length_m))
        circuit, last = edited.circuit, last if entry.spur else edited.focus
    back_m = entries[len(onward)].length_m if len(onward) < len(entries) else None
    return apply_edit(circuit, JoinPoints(a=last, b=end, length_m=back_m)).circuit


def _point_of(entry: Entry, usual: NewPoint, room: str | None) -> NewPoint:
    """Return the point an entry names: of its own kind if it says one, else the usual one."""
    point = usual if entry.ready or entry.kind in (None, usual.kind) else NewPoint(kind=entry.kind or usual.kind)
    return point.model_copy(update={"name": entry.name, "at": Spot(room=room)})
