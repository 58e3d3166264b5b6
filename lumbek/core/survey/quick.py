"""A small job begun in one go: a light replaced, a socket added, a breaker changed, and what it relies on.

It covers the change and nothing else: what else is in the house is drawn by nobody and asked of nobody.
"""

from typing import Annotated, Literal

from pydantic import Field

from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit, CircuitKind
from lumbek.core.model.device import Curve, Device, Rcd, Standard, Unknown
from lumbek.core.model.extent import Extent
from lumbek.core.model.job import Job, JobCircuit, RulebookId
from lumbek.core.model.leg import BOARD, Leg, Segment
from lumbek.core.model.places import Places, Room, Spot
from lumbek.core.model.point import Point, PointKind
from lumbek.core.model.supply import Earthing, Service, Supply
from lumbek.core.model.text import CsaMm2, GivenName, LengthM, Name, Note, RatingA
from lumbek.core.rulebooks import Rulebook
from lumbek.core.value import Frozen

What = Literal["light", "socket", "breaker"]
# What is said of the RCD in one answer: its current and type, or that there is none.
QuickRcd = Literal["30-A", "30-AC", "30", "none", "unknown"]
# Main bonding as one sees it: its size, that there is none, or that no metal comes in.
QuickBonding = Literal["10", "6", "16", "none", "plastic", "unknown"]

_KIND: dict[What, CircuitKind] = {"light": "lighting", "socket": "sockets", "breaker": "sockets"}
_NAMES: dict[What, str] = {"light": "Light replaced", "socket": "Socket added", "breaker": "Breaker changed"}


class Quick(Frozen):
    """What is asked once, before anything is read."""

    what: What
    name: GivenName | None = None
    address: Note = ""
    rulebook: RulebookId = "bs7671"
    earthing: Earthing | None = None
    bonding: QuickBonding = "unknown"
    circuit_number: Annotated[int, Field(ge=1, le=9999)] = 1
    circuit: Name = ""
    # What the circuit is for, where a breaker is changed.
    kind: CircuitKind | None = None
    standard: Standard = "bs-en-60898"
    curve: Curve = "B"
    rating_a: RatingA = 32
    rcd: QuickRcd = "unknown"
    csa_mm2: CsaMm2 | None = None
    breaking_ka: Annotated[float, Field(ge=1, le=100)] | None = None
    room: Name = ""
    # What was measured at the board: what is new must bear it.
    fault_current_ka: Annotated[float, Field(ge=0.001, le=100)] | None = None
    # Whether an added socket hangs on a ring.
    on_ring: bool = False
    # How long the new cable to an added socket is.
    new_length_m: LengthM | None = None


def quick_job(rulebook: Rulebook, quick: Quick) -> Job:
    """Return the job of a small change, its circuit drawn as far as it goes: what was there, and what is new."""
    kind = quick.kind or _KIND[quick.what]
    csa = quick.csa_mm2 or rulebook.kinds[kind].usual[0].csa_mm2
    rules = rulebook.kinds[kind]
    cable = Cable.model_validate(
        {"type": rules.cable, "insulation": rules.insulation, "csa_mm2": csa, "cpc_by": "core"}
    )
    points, legs = _drawn(quick, rules.point)
    circuit = Circuit(
        number=quick.circuit_number,
        name=quick.circuit or rules.name,
        kind=kind,
        state="altered",
        device_new=quick.what == "breaker",
        device=_device(quick),
        cable=cable,
        method=rulebook.data.cables[rules.cable].methods[0],
        points=points,
        legs=legs,
    )
    return Job(
        name=quick.name or _NAMES[quick.what],
        address=quick.address,
        rulebook=quick.rulebook,
        edition=rulebook.data.edition,
        extent=Extent(state="as-found", work="change"),
        supply=Supply(
            earthing=quick.earthing,
            services=_services(quick.bonding),
            fault_current_ka=quick.fault_current_ka,
            fault_current_origin=None if quick.fault_current_ka is None else "measured",
        ),
        circuits=(JobCircuit(design=circuit),),
        rooms=_rooms(quick),
    )


def _rooms(quick: Quick) -> tuple[Room, ...]:
    return Places().with_room(quick.room)[0].rooms if quick.room else ()


def _at(quick: Quick) -> Spot:
    return next((Spot(room=room.id) for room in _rooms(quick)), Spot())


def _device(quick: Quick) -> Device:
    fuse = quick.standard not in ("bs-en-60898", "bs-en-61009", "bs3871")
    return Device(
        standard=quick.standard,
        curve=None if fuse else quick.curve,
        rating_a=quick.rating_a,
        rcd=_rcd(quick),
        breaking_capacity_ka=quick.breaking_ka,
    )


def _rcd(quick: Quick) -> Rcd | Unknown | None:
    """Return the RCD that was said: in the device where that is one, else shared at the board."""
    if quick.rcd in ("none", "unknown"):
        return None if quick.rcd == "none" else "unknown"
    kind = {"30-A": "A", "30-AC": "AC"}.get(quick.rcd)
    return Rcd.model_validate({"rated_ma": 30, "type": kind, "shared": quick.standard != "bs-en-61009"})


def _services(bonding: QuickBonding) -> tuple[Service, ...]:
    if bonding == "plastic":
        return (Service(what="water", material="plastic"),)
    if bonding == "unknown":
        return ()
    size = None if bonding == "none" else float(bonding)
    return (Service(what="water", material="metal", bonded="no" if size is None else "yes", bonding_mm2=size),)


def _drawn(quick: Quick, usual: PointKind) -> tuple[tuple[Point, ...], tuple[Leg, ...]]:
    """Return what was there with its way to it, which nobody has measured, and what is new."""
    there = Leg(id="L1", a=BOARD, b="P1", state="as-found")
    if quick.what == "light":
        return (Point(id="P1", name="New light", at=_at(quick), kind="light"),), (there,)
    if quick.what == "breaker":
        return (Point(id="P1", name="End of the circuit", at=_at(quick), kind=usual, state="as-found"),), (there,)
    new = Leg(id="L2", a="P1", b="P2", segments=(Segment(length_m=quick.new_length_m),))
    old = Point(id="P1", name="Fed from", at=_at(quick), kind="socket-twin", state="as-found")
    back = (Leg(id="L3", a="P1", b=BOARD, state="as-found"),) if quick.on_ring else ()
    return (old, Point(id="P2", name="New socket", at=_at(quick), kind="socket-twin")), (there, new, *back)
