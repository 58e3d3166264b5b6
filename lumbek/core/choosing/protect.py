"""What should protect a circuit: a recommendation with its reasons, and what the other school gives up."""

from lumbek.core.checks.arc_fault import required_here
from lumbek.core.checks.rcd import reasons
from lumbek.core.checks.rcd_type import leakage_ma, needed_type
from lumbek.core.circuit.presets import USUAL_RCD
from lumbek.core.circuit.usual import least_usual_a
from lumbek.core.judging.check import Verdict
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.device import Device, RcdType
from lumbek.core.model.job import School
from lumbek.core.model.supply import Supply
from lumbek.core.numbers import plain, show
from lumbek.core.protection.selectivity import selective
from lumbek.core.protection.who import device_name
from lumbek.core.rulebooks import Rulebook
from lumbek.core.study.door import study_of
from lumbek.core.study.study import Study
from lumbek.core.value import Frozen


class Advice(Frozen):
    """One point of the recommendation: what, why, and by which clause. `has` if the design has it already."""

    what: str
    why: str
    clause: str
    has: bool


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
    study = study_of(rulebook, supply, circuit).longest
    rating = _rating(study)
    curve = rulebook.kinds[circuit.kind].curve
    wants_rcd = [reason.why for reason in reasons(study)]
    if not wants_rcd and study.ahead.earthing == "TT":
        wants_rcd = ["a TT supply, where nothing else disconnects"]
    need = needed_type(study)
    # Type A is the working default even where AC would do.
    rcd_type: RcdType = "A" if need.type == "AC" else need.type
    # What may be declared at the most is no finding: until it is measured the usual capacity is offered.
    fault_ka = None if supply.fault_current_ka is None else study.ahead.board_fault_current_ka
    capacity = rulebook.usual_breaking_ka(fault_ka)
    own = school == "rcbo-each" and bool(wants_rcd)
    device = Device.model_validate(
        {
            "standard": "bs-en-61009" if own else "bs-en-60898",
            "curve": curve,
            "rating_a": rating,
            "breaking_capacity_ka": capacity,
            "rcd": USUAL_RCD.model_copy(update={"type": rcd_type, "shared": not own}) if wants_rcd else None,
            "afdd": circuit.device.afdd or (required_here(study) and bool(study.standing.sockets)),
        }
    )
    name, gives_up = _SCHOOLS[school]
    advice = [
        _rated(study, rating),
        Advice(
            what=f"Type {curve}",
            why="Loads with a high starting current would trip type B"
            if curve == "C"
            else "Household loads: type B trips at 5 In and allows the highest Zs",
            clause=rulebook.clause("zs").ref,
            has=circuit.device.curve == curve,
        ),
        Advice(
            what=f"{plain(capacity)} kA",
            why="Fault current not known: measure it" if fault_ka is None else _breaks(fault_ka, capacity),
            clause=rulebook.clause("breaking").ref,
            has=fault_ka is not None and (circuit.device.breaking_capacity_ka or 0) >= fault_ka,
        ),
        *_residual(study, wants_rcd, rcd_type, need.why, own),
        *_leakage(study, own),
        *_upstream(study, device),
        *_around(study),
    ]
    return Protection(
        device=device_name(study.rulebook, device)
        + (f", {plain(rulebook.data.rcd.most_ma)} mA type {rcd_type}" if wants_rcd else ""),
        school=name,
        gives_up=gives_up,
        advice=tuple(advice),
        design=circuit.model_copy(update={"device": device}),
    )


def _breaks(fault_ka: float, capacity_ka: float) -> str:
    found = f"Prospective fault current {show(fault_ka)} kA at its board"
    return found if fault_ka <= capacity_ka else f"{found}: a rated back-up fuse must stand ahead"


def _rating(study: Study) -> float:
    """Return the least listed rating that carries Ib; the usual one of the kind where no load is stated."""
    book, circuit = study.rulebook, study.circuit
    if study.is_socket_ring:
        return max(book.data.ring.ratings_a)
    if study.currents.demand is None or not study.currents.demand.stated:
        return circuit.device.rating_a if not study.ahead.behind_switch else book.kinds[circuit.kind].usual[0].rating_a
    ratings = book.devices["bs-en-61009"].ratings_a
    least = max(study.currents.demand.ib_a, least_usual_a(book, circuit))
    return min((rating for rating in ratings if rating >= least), default=max(ratings))


def _rated(study: Study, rating: float) -> Advice:
    ib = study.currents.demand.ib_a if study.currents.demand and study.currents.demand.stated else None
    why = f"The least usual rating that carries Ib = {ib:.1f} A" if ib is not None else "The usual; no loads are stated"
    return Advice(
        what=f"{plain(rating)} A",
        why="A ring final circuit" if study.is_socket_ring else why,
        clause=study.clause("overload").ref,
        has=study.circuit.device.rating_a == rating,
    )


def _residual(study: Study, wants: list[str], rcd_type: str, asked_by: str, own: bool) -> list[Advice]:
    rcd = study.circuit.device.known_rcd
    if not wants:
        return [Advice(what="No RCD", why="Nothing here asks for one", clause=study.clause("rcd").ref, has=rcd is None)]
    most_ma = study.rulebook.data.rcd.most_ma
    fits = rcd is not None and bool(rcd.is_additional(most_ma))
    return [
        Advice(
            what=f"{plain(most_ma)} mA, {'in the device itself' if own else 'shared'}",
            why="Wanted for " + ", ".join(wants),
            clause=study.clause("rcd").ref,
            has=fits,
        ),
        Advice(
            what=f"RCD type {rcd_type}",
            why=f"Asked for by {asked_by}",
            clause=study.clause("rcd-type").ref,
            has=rcd is not None and rcd.type == rcd_type,
        ),
    ]


def _leakage(study: Study, own: bool) -> list[Advice]:
    total, rules = sum(leakage_ma(study)), study.rulebook.data
    if not total:
        return []
    most = rules.residual.leakage_fraction * rules.rcd.most_ma
    others = "" if own else "; the other circuits of a shared RCD add to it"
    return [
        Advice(
            what=f"Leakage of the loads {show(total, 1)} mA",
            why=f"No more than {plain(most)} mA behind {plain(rules.rcd.most_ma)} mA, or it trips for no fault{others}",
            clause=study.clause("leakage").ref,
            has=total <= most,
        )
    ]


def _upstream(study: Study, own: Device) -> list[Advice]:
    """Return whether what stands ahead, the supply fuse first, is selective with the device recommended."""
    ahead = [(each.name, each.device) for each in study.circuit.ahead if each.device is not None]
    if study.ahead.main_fuse is not None:
        ahead.insert(0, ("Supply fuse", study.ahead.main_fuse.model_copy(update={"rcd": None})))
    found = []
    for name, upstream in ahead:
        known_ka = study.ahead.known_fault_current_ka and study.ahead.board_fault_current_ka
        part = selective(study.rulebook, upstream, own, known_ka)
        found.append(
            Advice(
                what=f"{name or device_name(study.rulebook, upstream)} ahead {_PARTS[part.verdict]}",
                why=part.why,
                clause=study.clause("selectivity").ref,
                has=part.verdict is Verdict.PASS,
            )
        )
    return found


_PARTS = {
    Verdict.PASS: "is selective",
    Verdict.FAIL: "is not selective",
    Verdict.CANNOT_TELL: "is selective in part",
}


def _around(study: Study) -> list[Advice]:
    supply, found = study.supply, []
    if study.standing.sockets:
        required = required_here(study)
        found.append(
            Advice(
                what="Arc-fault detection " + ("required" if required else "recommended"),
                why="A home of higher risk" if required else "It finds arcs that no breaker sees; not required here",
                clause=study.clause("afdd").ref,
                has=study.circuit.device.afdd or not required,
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
            clause=study.clause("spd").ref,
            has=supply.surge_protection != "unknown",
        )
    )
    return found
