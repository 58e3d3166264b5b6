"""What stands at a point, and what it feeds."""

from typing import Annotated, Literal

from pydantic import Field

from lumbek.core.circuit.changes.parts import Doing, Index, nth, on_point, with_changes
from lumbek.core.circuit.edit import EditRefusedError
from lumbek.core.circuit.ready_points import READY, load_of, ready_point
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.places import Spot
from lumbek.core.model.point import (
    JOINT_KINDS,
    DcPart,
    DimmedBy,
    DiversityClass,
    Driver,
    FuseA,
    Load,
    Point,
    PointKind,
    State,
    Zone,
)
from lumbek.core.model.text import CurrentA, Id, LeakageMa, Name, PowerW
from lumbek.core.rulebooks import Rulebook
from lumbek.core.value import Change, swapped


class SetPoint(Change):
    """What a point is called and what it is."""

    op: Literal["point"] = "point"
    point: Id
    name: Name = ""
    at: Spot = Spot()
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
    reached: bool | None = None
    maintenance_free: bool | None = None
    driver: Driver | None = None


class MakeReady(Change):
    """Make a point one of those that people name: an extractor behind its fuse."""

    op: Literal["ready"] = "ready"
    point: Id
    ready: Annotated[str, Field(max_length=40)]


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
    inrush_a: float | None = None
    dimmed_by: DimmedBy | None = None


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
        changes |= _of_no_other_kind(command.kind)
    return on_point(circuit, command.point, lambda point: with_changes(point, changes))


def _make_ready(rulebook: Rulebook, circuit: Circuit, command: MakeReady) -> Circuit:
    if command.ready not in READY:
        raise EditRefusedError(f"No point is called {command.ready}.")
    found = ready_point(rulebook, command.ready)
    changes = {"kind": found.kind, "fuse_a": found.fuse_a, "loads": found.loads, **_of_no_other_kind(found.kind)}
    return on_point(circuit, command.point, lambda point: with_changes(point, changes))


def _of_no_other_kind(kind: PointKind) -> dict[str, object]:
    """Return what a point of another kind no longer says: a box that was a joint is none any more."""
    joint = {} if kind in JOINT_KINDS else {"reached": None, "maintenance_free": None}
    return {**joint, "driver": Driver() if kind == "driver" else None}


def _add_load(rulebook: Rulebook, circuit: Circuit, command: AddLoad) -> Circuit:
    if command.appliance is None:
        load = Load(current_a=command.current_a, power_w=command.power_w)
    elif command.appliance in rulebook.appliances:
        (load,) = load_of(rulebook, command.appliance)
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
    MakeReady: _make_ready,
    AddLoad: _add_load,
    SetLoad: _set_load,
    DropLoad: _drop_load,
}
