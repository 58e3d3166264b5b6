"""What was taken out of use and is still there: kept on the drawing, for whoever opens the wall next."""

from typing import Literal

from lumbek.core.circuit.changes.parts import Doing, Index, nth, with_changes
from lumbek.core.circuit.edit import RemoveLeg, apply_edit, need_leg
from lumbek.core.circuit.graph import graph_of
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD
from lumbek.core.model.remains import Remains
from lumbek.core.model.text import Id
from lumbek.core.rulebooks import Rulebook
from lumbek.core.value import Change, swapped


class LeaveDead(Change):
    """Cut a leg off, and keep it on the drawing as what is left in the wall; a point at its end alone goes too."""

    op: Literal["leave-dead"] = "leave-dead"
    leg: Id


class SetRemains(Change):
    """Whether both ends of a dead cable were made safe, and whether it was pulled out after all."""

    op: Literal["remains"] = "remains"
    index: Index
    safe: bool | None = None
    left: Literal["dead", "cut-out"] = "dead"


class DropRemains(Change):
    """Forget what was left: it was never there."""

    op: Literal["drop-remains"] = "drop-remains"
    index: Index


def _leave_dead(_: Rulebook, circuit: Circuit, command: LeaveDead) -> Circuit:
    leg = need_leg(circuit, command.leg)
    graph = graph_of(circuit)
    near, far = sorted((leg.a, leg.b), key=lambda point: graph.distance.get(point, 0))
    left = Remains(at=near, to=circuit.point_title(far), length_m=leg.length_m, csa_mm2=circuit.cable_of(leg).csa_mm2)
    cut = apply_edit(circuit, RemoveLeg(leg=leg.id)).circuit
    alone = far != BOARD and all(far not in (each.a, each.b) for each in cut.legs)
    points = tuple(point for point in cut.points if not (alone and point.id == far))
    # What hung on the point that goes is held to the model's rules again.
    return Circuit.model_validate(
        {**cut.model_dump(), "points": [each.model_dump() for each in points], "remains": [*cut.remains, left]}
    )


def _set_remains(_: Rulebook, circuit: Circuit, command: SetRemains) -> Circuit:
    changed = with_changes(nth(circuit.remains, command.index, "dead cable"), command.said("index"))
    return with_changes(circuit, {"remains": swapped(circuit.remains, command.index, changed)})


def _drop_remains(_: Rulebook, circuit: Circuit, command: DropRemains) -> Circuit:
    nth(circuit.remains, command.index, "dead cable")
    return with_changes(circuit, {"remains": swapped(circuit.remains, command.index)})


DO: Doing = {
    LeaveDead: _leave_dead,
    SetRemains: _set_remains,
    DropRemains: _drop_remains,
}
