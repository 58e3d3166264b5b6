"""What is found and made off in the boxes: accessories, joins, core ends and their sleeves."""

from typing import Annotated, Literal

from pydantic import Field

from lumbek.core.circuit.changes.parts import Doing, on_point, with_changes
from lumbek.core.circuit.edit import need_point
from lumbek.core.circuit.joining import connected, marked, other_cables, same_cable, with_cable, with_place
from lumbek.core.circuit.presets import Fitting, fitting_loads
from lumbek.core.model.accessory import Accessory, Plate
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD
from lumbek.core.model.places import Spot
from lumbek.core.model.point import PointKind, State
from lumbek.core.model.terminals import CoreName, Mark, Switch, TerminalName
from lumbek.core.model.terminals import Join as JoinHere
from lumbek.core.model.text import Id, LengthM, Name
from lumbek.core.rulebooks import Rulebook
from lumbek.core.value import Change


class SetJoins(Change):
    """What is joined at a point, or at the board, otherwise than plainly, and the point's switches."""

    op: Literal["joins"] = "joins"
    point: Id
    joins: Annotated[tuple[JoinHere, ...], Field(max_length=60)] = ()
    switches: Annotated[tuple[Switch, ...], Field(max_length=12)] = ()


class SetAccessories(Change):
    """What sits in the box of a point, and the plate."""

    op: Literal["accessories"] = "accessories"
    point: Id
    accessories: Annotated[tuple[Accessory, ...], Field(max_length=6)] = ()
    plate: Plate = Plate()


class AddPlace(Change):
    """A box or a light that no cable reaches yet."""

    op: Literal["add-place"] = "add-place"
    kind: PointKind = "switch"
    name: Name = ""
    at: Spot = Spot()
    state: State = "new"
    fitting: Fitting = "plain"


class Connect(Change):
    """One core end, into a terminal, to the join of another core, or off by itself."""

    op: Literal["connect"] = "connect"
    point: Id
    leg: Id
    core: CoreName
    terminal: TerminalName | None = None
    beside_leg: Id | None = None
    beside_core: CoreName | None = None


class MarkCore(Change):
    """A sleeve on a core end, or none."""

    op: Literal["mark"] = "mark"
    point: Id
    leg: Id
    core: CoreName
    mark: Mark | None


class AddCable(Change):
    """A cable found in a box, to another place or to where nobody knows; its cores are left off at both ends."""

    op: Literal["add-cable"] = "add-cable"
    point: Id
    to: Id | None = None
    cable: Cable
    length_m: LengthM | None = None
    state: State = "as-found"


class SameCable(Change):
    """Two cable ends that a continuity test has shown to be one cable, or not."""

    op: Literal["same-cable"] = "same-cable"
    leg: Id
    other: Id
    same: bool


def _set_joins(_: Rulebook, circuit: Circuit, command: SetJoins) -> Circuit:
    if command.point == BOARD:
        return with_changes(circuit, {"board_joins": command.joins})
    changes = {"joins": command.joins, "switches": command.switches}
    return on_point(circuit, command.point, lambda point: with_changes(point, changes))


def _set_accessories(_: Rulebook, circuit: Circuit, command: SetAccessories) -> Circuit:
    changes = command.said("point")
    return on_point(circuit, command.point, lambda point: with_changes(point, changes))


def _add_place(_: Rulebook, circuit: Circuit, command: AddPlace) -> Circuit:
    placed, point_id = with_place(circuit, command.kind, command.name, command.at, command.state)
    return on_point(placed, point_id, lambda point: with_changes(point, {"loads": fitting_loads(command.fitting)}))


def _connect(_: Rulebook, circuit: Circuit, command: Connect) -> Circuit:
    need_point(circuit, command.point)
    beside = None
    if command.beside_leg is not None and command.beside_core is not None:
        beside = command.beside_leg, command.beside_core
    return connected(circuit, command.point, command.leg, command.core, command.terminal, beside)


def _mark(_: Rulebook, circuit: Circuit, command: MarkCore) -> Circuit:
    need_point(circuit, command.point)
    return marked(circuit, command.point, command.leg, command.core, command.mark)


def _add_cable(_: Rulebook, circuit: Circuit, command: AddCable) -> Circuit:
    need_point(circuit, command.point)
    return with_cable(circuit, command.point, command.to, command.cable, command.length_m, command.state)


def _same_cable(_: Rulebook, circuit: Circuit, command: SameCable) -> Circuit:
    join = same_cable if command.same else other_cables
    return join(circuit, command.leg, command.other)


DO: Doing = {
    SetJoins: _set_joins,
    SetAccessories: _set_accessories,
    AddPlace: _add_place,
    Connect: _connect,
    MarkCore: _mark,
    AddCable: _add_cable,
    SameCable: _same_cable,
}
