"""What stands at a point, and what it feeds."""

from typing import Annotated, Literal

from pydantic import Field

from lumbek.core.circuit.changes.parts import Doing, Index, nth, on_point, with_changes
from lumbek.core.circuit.edit import EditRefusedError
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.point import DcPart, DiversityClass, FuseA, Load, Point, PointKind, State, Zone
from lumbek.core.model.text import CurrentA, Id, LeakageMa, Name, PowerW
from lumbek.core.rulebooks import Rulebook
from lumbek.core.value import Change, swapped


class SetPoint(Change):
    """What a point is called and what it is."""

    op: Literal["point"] = "point"
    point: Id
    name: Name = ""
    room: Name = ""
    kind: PointKind = "socket-twin"
    state: State = "new"
    fuse_a: FuseA | None = None
    zone: Zone | None = None
    from_zone_1_m: float | None = None
    selv_v: float | None = None
    class_ii: bool | None = None
    ip: str = ""
    own_rcd: bool | None = None
    isolator: bool | None = None


class AddLoad(Change):
    """Something that a point feeds: an appliance of the list, or a figure."""

    op: Literal["add-load"] = "add-load"
    point: Id
    appliance: Annotated[str, Field(max_length=40)] | None = None
    current_a: CurrentA | None = None
    power_w: PowerW | None = None


class SetLoad(Change):
    """One of a point's loads."""

    op: Literal["load"] = "load"
    point: Id
    index: Index
    name: Name = ""
    current_a: CurrentA | None = None
    power_w: PowerW | None = None
    power_factor: float = 1.0
    rated_v: float | None = None
    diversity: DiversityClass | None = None
    leakage_ma: LeakageMa = 0.0
    dc: DcPart | None = None


class DropLoad(Change):
    """Take a load away."""

    op: Literal["drop-load"] = "drop-load"
    point: Id
    index: Index


def _set_point(_: Rulebook, circuit: Circuit, command: SetPoint) -> Circuit:
    changes = command.said("point")
    if "kind" in changes:
        # A fused spur comes with the usual fuse; nothing else has one.
        changes.setdefault("fuse_a", 13 if command.kind == "fused-spur" else None)
    return on_point(circuit, command.point, lambda point: with_changes(point, changes))


def _add_load(rulebook: Rulebook, circuit: Circuit, command: AddLoad) -> Circuit:
    if command.appliance is None:
        load = Load(current_a=command.current_a, power_w=command.power_w)
    elif command.appliance in rulebook.appliances:
        load = Load.model_validate(rulebook.appliances[command.appliance].model_dump())
    else:
        raise EditRefusedError(f"The list of appliances has no {command.appliance}.")
    return on_point(circuit, command.point, lambda point: with_changes(point, {"loads": (*point.loads, load)}))


def _set_load(_: Rulebook, circuit: Circuit, command: SetLoad) -> Circuit:
    changes = command.said("point", "index")

    def point(found: Point) -> Point:
        load = with_changes(nth(found.loads, command.index, "load"), changes)
        return with_changes(found, {"loads": swapped(found.loads, command.index, load)})

    return on_point(circuit, command.point, point)


def _drop_load(_: Rulebook, circuit: Circuit, command: DropLoad) -> Circuit:
    def point(found: Point) -> Point:
        nth(found.loads, command.index, "load")
        return with_changes(found, {"loads": swapped(found.loads, command.index)})

    return on_point(circuit, command.point, point)


DO: Doing = {
    SetPoint: _set_point,
    AddLoad: _add_load,
    SetLoad: _set_load,
    DropLoad: _drop_load,
}
