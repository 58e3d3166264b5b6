"""What should protect a circuit: a recommendation with its reasons, and what the other school gives up."""

from typing import Literal

from lumbek.core.checks.arc_fault import required_here
from lumbek.core.checks.fault_protection import device_name
from lumbek.core.checks.rcd import reasons
from lumbek.core.checks.rcd_type import leakage_ma, needed_type
from lumbek.core.context import Context
from lumbek.core.model.circuit import Circuit, Device, Rcd
from lumbek.core.model.supply import Supply
from lumbek.core.numbers import plain, show
from lumbek.core.result import Frozen
from lumbek.core.rulebooks import Rulebook

School = Literal["rcbo-each", "shared-rcds"]


class Advice(Frozen):
    """One point of the recommendation: what, why, and by which clause. `settled` if the design has it already."""

    what: str
    why: str
    clause: str
    settled: bool


class Protection(Frozen):
    """The device recommended, the reasons point by point, and what the other school gives up."""

    device: str
    school: str
    gives_up: str
    advice: tuple[Advice, ...]
    design: Circuit


_SCHOOLS: dict[School, tuple[str, str]] = {
    "rcbo-each": (
        "One RCBO a circuit",
        "It costs more and fills the board sooner. Two shared RCDs would be cheaper, but one fault would take half "
        "the house with it, and the leakage of all circuits would add up on one device.",
    ),
    "shared-rcds": (
        "Two RCDs with breakers behind",
        "One fault takes every circuit behind its RCD with it, and their leakage adds up. An RCBO a circuit would "
        "keep each fault to itself, for a higher price.",
    ),
}


def protect(rulebook: Rulebook, supply: Supply, circuit: Circuit, school: School) -> Protection:
    """Return the recommended protection of a circuit under the job's school."""
    context = Context(rulebook, supply, circuit)
    rating = _rating(context)
    curve = rulebook.kinds[circuit.kind].curve
    wants_rcd = reasons(context)
    need = needed_type(context)
    # Type A is the working default even where AC would do.
    rcd_type = "A" if need.type == "AC" else need.type
    # What may be declared at the most is no finding: until it is measured the usual capacity is offered.
    fault_ka = None if supply.fault_current_ka is None else context.board_fault_current_ka
    capacity = 6.0 if fault_ka is None or fault_ka <= 6 else 10.0
    own = school == "rcbo-each" and bool(wants_rcd)
    device = Device.model_validate(
        {
            "standard": "bs-en-61009" if own else "bs-en-60898",
            "curve": curve,
            "rating_a": rating,
            "breaking_capacity_ka": capacity,
            "rcd": Rcd.model_validate({"type": rcd_type, "shared": not own}).model_dump() if wants_rcd else None,
            "afdd": circuit.device.afdd or (required_here(context) and context.group == "sockets"),
        }
    )
    name, gives_up = _SCHOOLS[school]
    advice = [
        _rated(context, rating),
        Advice(
            what=f"Type {curve}",
            why="Loads with a high starting current would trip type B"
            if curve == "C"
            else "Household loads: type B trips at 5 In and allows the highest Zs",
            clause=rulebook.clause("zs").ref,
            settled=circuit.device.curve == curve,
        ),
        Advice(
            what=f"{plain(capacity)} kA",
            why="Fault current not known: measure it" if fault_ka is None else _breaks(fault_ka, capacity),
            clause=rulebook.clause("breaking").ref,
            settled=fault_ka is not None and (circuit.device.breaking_capacity_ka or 0) >= fault_ka,
        ),
        *_residual(context, wants_rcd, rcd_type, need.why, own),
        *_leakage(context, own),
        *_upstream(context, device),
        *_around(context),
    ]
    return Protection(
        device=device_name(context, device) + (f", 30 mA type {rcd_type}" if wants_rcd else ""),
        school=name,
        gives_up=gives_up,
        advice=tuple(advice),
        design=circuit.model_copy(update={"device": device}),
    )


def _breaks(fault_ka: float, capacity_ka: float) -> str:
    found = f"Prospective fault current {show(fault_ka)} kA at its board"
    return found if fault_ka <= capacity_ka else f"{found}: a rated back-up fuse must stand ahead"


def _rating(context: Context) -> float:
    """Return the least listed rating that carries Ib; the usual one of the kind where no load is stated."""
    book, circuit = context.rulebook, context.circuit
    if context.is_socket_ring:
        return 32.0
    if context.demand is None or not context.demand.stated:
        return circuit.device.rating_a if not context.behind_switch else book.kinds[circuit.kind].usual[0].rating_a
    ratings = book.devices["bs-en-61009"].ratings_a
    return min((rating for rating in ratings if rating >= context.demand.ib_a), default=max(ratings))


def _rated(context: Context, rating: float) -> Advice:
    ib = context.demand.ib_a if context.demand and context.demand.stated else None
    why = f"The least that carries Ib = {ib:.1f} A" if ib is not None else "The usual rating; no loads are stated"
    return Advice(
        what=f"{plain(rating)} A",
        why="A ring final circuit" if context.is_socket_ring else why,
        clause=context.clause("overload").ref,
        settled=context.circuit.device.rating_a == rating,
    )


def _residual(context: Context, wants: list[str], rcd_type: str, asked_by: str, own: bool) -> list[Advice]:
    rcd = context.circuit.device.rcd
    if not wants:
        return [
            Advice(
                what="No RCD", why="Nothing here asks for one", clause=context.clause("rcd").ref, settled=rcd is None
            )
        ]
    fits = rcd is not None and rcd.rated_ma <= 30 and not rcd.delayed
    return [
        Advice(
            what="30 mA, in the device itself" if own else "30 mA, shared",
            why="Wanted for " + ", ".join(wants),
            clause=context.clause("rcd").ref,
            settled=fits,
        ),
        Advice(
            what=f"RCD type {rcd_type}",
            why=f"Asked for by {asked_by}",
            clause=context.clause("rcd-type").ref,
            settled=rcd is not None and rcd.type == rcd_type,
        ),
    ]


def _leakage(context: Context, own: bool) -> list[Advice]:
    total, rules = sum(leakage_ma(context)), context.rulebook.data
    if not total:
        return []
    most = rules.residual.leakage_fraction * rules.rcd.most_ma
    others = "" if own else "; the other circuits of a shared RCD add to it"
    return [
        Advice(
            what=f"Leakage of the loads {show(total, 1)} mA",
            why=f"No more than {plain(most)} mA behind 30 mA, or it trips for no fault{others}",
            clause=context.clause("leakage").ref,
            settled=total <= most,
        )
    ]


def selective(rulebook: Rulebook, upstream: Device, own: Device) -> tuple[bool, str]:
    """Return whether a device ahead leaves the faults of a circuit to the circuit's own, and why.

    RCDs: the upstream one delayed and of at least three times IΔn (531.3.6). Overcurrent: a rating of at least 1.6
    times the downstream one; full selectivity of breakers in series is for their maker's tables.
    """
    if upstream.rcd is not None and own.rcd is not None:
        ratio = rulebook.data.residual.selective_ratio
        if not upstream.rcd.delayed or upstream.rcd.rated_ma < ratio * own.rcd.rated_ma:
            return False, f"its RCD must be time-delayed (S) and at least {plain(ratio * own.rcd.rated_ma)} mA"
    if not rulebook.devices[upstream.standard].overload_protection:
        return True, "a switch does not trip"
    if upstream.rating_a < 1.6 * own.rating_a:
        return False, f"{plain(upstream.rating_a)} A is less than 1.6 × {plain(own.rating_a)} A"
    return (
        True,
        f"{plain(upstream.rating_a)} A is at least 1.6 × {plain(own.rating_a)} A; makers' tables say up to what fault",
    )


def _upstream(context: Context, own: Device) -> list[Advice]:
    """Return whether what stands ahead, the supply fuse first, is selective with the device recommended."""
    ahead = [(each.name, each.device) for each in context.circuit.ahead if each.device is not None]
    if context.main_fuse is not None:
        ahead.insert(0, ("Supply fuse", context.main_fuse.model_copy(update={"rcd": None})))
    found = []
    for name, upstream in ahead:
        fits, why = selective(context.rulebook, upstream, own)
        found.append(
            Advice(
                what=f"{name or device_name(context, upstream)} ahead is {'' if fits else 'not '}selective",
                why=why,
                clause=context.clause("selectivity").ref,
                settled=fits,
            )
        )
    return found


def _around(context: Context) -> list[Advice]:
    supply, found = context.supply, []
    if context.group == "sockets":
        required = required_here(context)
        found.append(
            Advice(
                what="Arc-fault detection " + ("required" if required else "recommended"),
                why="A home of higher risk" if required else "It finds arcs that no breaker sees; not required here",
                clause=context.clause("afdd").ref,
                settled=context.circuit.device.afdd or not required,
            )
        )
    found.append(
        Advice(
            what="Surge protection, type 2 at the board",
            why={
                "fitted": "Fitted",
                "declined": "Declined by the owner of a single dwelling, who carries the risk",
                "unknown": "Required unless the owner of a single dwelling accepts the risk: ask",
            }[supply.surge_protection],
            clause=context.clause("spd").ref,
            settled=supply.surge_protection != "unknown",
        )
    )
    return found
