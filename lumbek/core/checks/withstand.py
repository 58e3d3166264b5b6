"""Does the protective conductor survive the fault for as long as the device takes to clear it?"""

from dataclasses import dataclass
from math import sqrt

from lumbek.core.checks.drawn_or_read import wanted
from lumbek.core.checks.loop_by_evidence import hot_range
from lumbek.core.judging.check import Check, Step
from lumbek.core.judging.question import Question
from lumbek.core.model.cable import Cable
from lumbek.core.model.device import Device
from lumbek.core.numbers import plain, show
from lumbek.core.protection.let_through import Energy, let_through
from lumbek.core.protection.who import device_name, protective_device
from lumbek.core.study.study import Study

QUESTION = Question(
    "withstand", "Fault withstand", "Does the cpc survive a fault until the device clears it?", "withstand"
)


@dataclass(frozen=True)
class _Found:
    """The cpc of one leg: its area in mm² and k, against the energy of its device."""

    leg: str
    device: Device
    area_mm2: float
    k: float
    energy: Energy
    cable: Cable

    @property
    def needed_mm2(self) -> float:
        return sqrt(self.energy.a2s) / self.k

    @property
    def surely_fails(self) -> bool:
        return self.area_mm2 < self.needed_mm2 and not self.energy.bound


def check_withstand(study: Study) -> Check:
    """S >= sqrt(I² t) / k for the cpc with the least to spare, mm² (434.5.2, 543.1.3).

    Live conductors whose device guards them against overload and can break the fault need no check of their own.
    A cpc that only a bound on the energy is too much for is not failed by it: its maker's figure decides. With an
    electrode of its own only the armour, which stays earthed at the house, sees a great fault.
    """
    # On an electrode of its own only what stays on the house's earth sees a great fault, and by its armour.
    island = study.ahead.earthing == "TT"
    legs = armoured_legs(study) if island else tuple(study.capacities)
    if study.supply.earthing == "TT" or (island and not legs):
        return QUESTION.not_applicable(study, "An electrode keeps earth faults small")
    if study.shape.kind == "empty":
        return QUESTION.cannot_tell(study, ("first cable from the board",))
    if study.ahead.protection is None:
        return QUESTION.cannot_tell(study, ("main fuse of the supply",))
    fault_ka = study.ahead.board_fault_current_ka
    if study.supply.fault_current_ka is None or fault_ka is None:
        missing = "prospective fault current of the supply" if study.supply.fault_current_ka is None else "feed ahead"
        return QUESTION.cannot_tell(study, (missing,))
    found: list[_Found] = []
    for leg_id in legs:
        each = _of_leg(study, leg_id, island, fault_ka, found[-1] if found else None)
        if isinstance(each, Check):
            return each
        if each is not None:
            found.append(each)
    if not found:
        why = "No cpc" if study.wires.without_cpc else "Conduit is the cpc: steel far beyond what is asked"
        return QUESTION.not_applicable(study, why)
    # A finding weighs more than a bound: what fails for certain is shown before what may.
    worst = min(found, key=lambda each: (not each.surely_fails, each.area_mm2 / each.needed_mm2))
    needed = worst.needed_mm2
    if worst.area_mm2 < needed and worst.energy.bound:
        return _by_guidance(study, worst, fault_ka) or _ask_maker(study, worst.device)
    return QUESTION.held(
        study,
        worst.area_mm2,
        needed,
        "at least",
        "cpc {value} mm², needs {limit} mm²",
        unit="mm²",
        place=study.leg_place(worst.leg),
        steps=(
            *_feed_step(study, fault_ka),
            cpc_area_step(study, worst.cable, worst.area_mm2),
            worst.energy.step,
            withstand_step(worst.energy, worst.k),
        ),
    )


def _of_leg(study: Study, leg_id: str, island: bool, fault_ka: float, before: _Found | None) -> _Found | Check | None:
    """Return what the cpc of a leg is asked for; None where it has none of its own, an answer where that is not known.

    `before` is what was found for the leg before it.
    """
    leg = study.legs[leg_id]
    laid = study.circuit.cable_of(leg)
    cable = as_armour(laid) if island else laid
    if cable.earth_by == "conduit" or leg_id in study.wires.without_cpc:
        return None
    area = cpc_area_mm2(study, cable)
    if area is None:
        return QUESTION.cannot_tell(study, (f"cpc of {study.leg_title(leg.id)}",))
    end = max(leg.a, leg.b, key=lambda each: study.graph.distance[each])
    device = protective_device(study, end)
    assert device is not None
    if before is not None and before.device is device and device.curve is not None:
        # A breaker lets through the same wherever behind it the fault is.
        energy: Energy | None = before.energy
    elif device.curve is None and device.let_through_a2s is None and _hot_loop_ohm(study, end) is None:
        # How long a fuse takes follows from the loop.
        return QUESTION.cannot_tell(study, wanted(study) or (f"length of {study.leg_title(leg_id)}",))
    else:
        energy = let_through(study.rulebook, device, fault_ka, _least_fault_a(study, end))
    if energy is None:
        return _ask_maker(study, device)
    return _Found(leg_id, device, area, study.rulebook.withstand_k(cable, "E"), energy, cable)


def _by_guidance(study: Study, found: _Found, fault_ka: float) -> Check | None:
    """Return that a copper cpc is as thick as the published least sizes ask behind an energy-limiting breaker.

    None where they ask for more, or do not list it. What only a bound on the energy is too much for may pass by them.
    """
    device = found.device
    if device.standard not in ("bs-en-60898", "bs-en-61009") or found.cable.earth_by != "core":
        return None
    listed = [
        (rating, up_to, least)
        for curve, rating, up_to, least in study.rulebook.data.least_cpc
        if curve == device.curve and device.rating_a <= rating and fault_ka <= up_to
    ]
    if not listed:
        return None
    rating, up_to, least = min(listed)
    if found.area_mm2 < least:
        return None
    name = device_name(study.rulebook, device)
    return QUESTION.held(
        study,
        found.area_mm2,
        least,
        "at least",
        "cpc {value} mm², guidance asks for {limit} mm²",
        unit="mm²",
        place=study.leg_place(found.leg),
        steps=(
            Step(
                text=f"{name} at {show(fault_ka)} kA: the class limit asks for more", sum=f"{found.needed_mm2:.2f} mm²"
            ),
            Step(
                text=f"Published least cpc, type {device.curve} up to {plain(rating)} A and {plain(up_to)} kA",
                sum=f"{plain(least)} mm²",
            ),
        ),
        caution="By the published least sizes, and not by the exact bound: its maker's let-through settles it.",
    )


def armoured_legs(study: Study) -> tuple[str, ...]:
    """Return the legs whose armour comes from the house to where an electrode of its own takes over."""
    if study.circuit.own_earth is None or study.supply.earthing == "TT":
        return ()
    return tuple(leg.id for leg in study.wires.legs if study.circuit.cable_of(leg).type == "armoured")


def as_armour(cable: Cable) -> Cable:
    """Return an armoured cable with its armour as the way back of a fault, whatever serves as its cpc."""
    return cable.model_copy(update={"cpc_by": "armour"})


def withstand_step(energy: Energy, k: float) -> Step:
    """Return how the least area follows from the energy."""
    return Step(text="S = √(I²t) / k", sum=f"√{energy.a2s:.0f} / {plain(k)} = {show(sqrt(energy.a2s) / k)} mm²")


def _least_fault_a(study: Study, point: str) -> float | None:
    """Return the current in A of a fault to earth at a point, conductors hot: what lasts longest behind a fuse."""
    hot, ze = _hot_loop_ohm(study, point), study.ahead.ze_ohm
    if hot is None or ze is None or study.ahead.earthing == "TT":
        return None
    zs = ze + hot
    return study.rulebook.u0_v / zs if zs else None


def _hot_loop_ohm(study: Study, point: str) -> float | None:
    """Return R1 + R2 in Ω, hot: by the drawing, else the most that agrees with what was read; None of neither."""
    drawn = study.wires.hot_joined_ohm
    if drawn is not None:
        return drawn.get(point)
    bounds = None if study.evidence.says_nothing else study.evidence.bounds.get(point)
    return None if bounds is None else bounds.loop.most * hot_range(study).most


def cpc_area_mm2(study: Study, cable: Cable) -> float | None:
    """Return the area of a cable's cpc in mm²; of armour the least that its greatest resistance allows."""
    if cable.earth_by != "armour":
        return study.rulebook.cpc_mm2(cable) if cable.earth_by == "core" and not cable.lacks_core else None
    each = study.rulebook.milliohm_per_m(cable, "E")
    return None if each is None else study.rulebook.data.withstand.steel_milliohm_mm2_per_m / each


def cpc_area_step(study: Study, cable: Cable, area_mm2: float) -> Step:
    """Return how the area of a cpc is known."""
    k = plain(study.rulebook.withstand_k(cable, "E"))
    if cable.earth_by != "armour":
        return Step(text=f"cpc of {plain(area_mm2)} mm², k = {k}")
    steel, each = study.rulebook.data.withstand.steel_milliohm_mm2_per_m, study.rulebook.milliohm_per_m(cable, "E")
    return Step(
        text=f"Armour as cpc, k = {k}: steel's resistivity by the greatest resistance of the armour",
        sum=f"{plain(steel)} / {plain(each or 0.0)} = {show(area_mm2, 1)} mm²",
    )


def _feed_step(study: Study, fault_ka: float) -> tuple[Step, ...]:
    """Write out the fault current behind the feeds (see `Study.board_fault_current_ka`)."""
    if not study.ahead.feeds:
        return ()
    u0, origin_a = study.rulebook.u0_v, 1000 * (study.ahead.fault_current_ka or 0.0)
    source, feed = u0 / origin_a, study.ahead.feed_fault_ohm or 0.0
    return (
        Step(
            text="Source, as a reactance: U0 / I at the origin",
            sum=f"{plain(u0)} V / {origin_a:.0f} A = {show(source, 4)} Ω",
        ),
        Step(text="Feed, cold, as a resistance", sum=f"{show(feed, 4)} Ω"),
        Step(
            text="Fault current at the board: no less than the true one",
            sum=f"{plain(u0)} V / √({show(source, 4)}² + {show(feed, 4)}²) / 1000 = {show(fault_ka)} kA",
        ),
    )


def _ask_maker(study: Study, device: Device) -> Check:
    missing = (f"let-through energy of {device_name(study.rulebook, device)}, from its maker",)
    return QUESTION.cannot_tell(study, missing)
