"""Does the protective conductor survive the fault for as long as the device takes to clear it?"""

from dataclasses import dataclass
from math import sqrt

from lumbek.core.checks.fault_protection import device_name, protective_device
from lumbek.core.checks.question import Question
from lumbek.core.context import Context
from lumbek.core.model.circuit import Cable, Device
from lumbek.core.numbers import ceil_to, floor_to, plain, show
from lumbek.core.result import Check, Step, Verdict, judge

QUESTION = Question(
    "withstand", "Fault withstand", "Does the cpc survive a fault until the device clears it?", "withstand"
)
# The breaking capacity at which the let-through table of EN 60898-1 holds, kA.
_TABLE_KA = 6.0
# Faster than this a breaker is judged by what it lets through.
_FAST_S = 0.1
# Steel at 20 °C, mΩ mm² / m (IEC 60949): its greatest resistance gives the least area that armour can have.
_STEEL_MILLIOHM_MM2_PER_M = 138.0


@dataclass(frozen=True)
class Energy:
    """The energy in A²s that a device lets through, how it was found, and whether it is only a bound on it."""

    a2s: float
    step: Step
    bound: bool = False


@dataclass(frozen=True)
class _Found:
    """The cpc of one leg: its area in mm² and k, against the energy of its device."""

    leg: str
    device: Device
    area_mm2: float
    k: float
    energy: Energy
    area_step: Step

    @property
    def needed_mm2(self) -> float:
        return sqrt(self.energy.a2s) / self.k

    @property
    def surely_fails(self) -> bool:
        return self.area_mm2 < self.needed_mm2 and not self.energy.bound


def let_through(context: Context, device: Device, fault_ka: float) -> Energy | None:
    """Return the energy that reaches the circuit, or None where neither table nor formula gives it.

    Breakers: the lesser of I² x 0.1 s and the class 3 limit of EN 60898-1, which holds at 6 kA; below that it is
    taken in proportion to the current (the published 3 kA figures lie under that line). Fuses: Ia² t at the
    disconnection time, which greater currents do not exceed.
    """
    if device.curve is None:
        return _of_a_fuse(context, device)
    bound = (fault_ka * 1000) ** 2 * _FAST_S
    listed = context.rulebook.let_through_a2s(device)
    if listed is not None and fault_ka <= _TABLE_KA and listed * fault_ka / _TABLE_KA < bound:
        energy = listed * fault_ka / _TABLE_KA
        text = f"Class 3 limit of {device_name(context, device)}, in proportion to the fault current"
        return Energy(
            energy, Step(text=text, sum=f"{listed:.0f} × {show(fault_ka)} / {plain(_TABLE_KA)} = {energy:.0f} A²s")
        )
    step = Step(text="I² × 0.1 s at the fault current of the board", sum=f"{bound:.0f} A²s")
    # Up to the current of the table this is less than the class allows, so it decides; above it is all there is.
    return Energy(bound, step, bound=listed is None or fault_ka > _TABLE_KA)


def _of_a_fuse(context: Context, device: Device) -> Energy | None:
    book = context.rulebook
    final = book.kinds[context.circuit.kind].final
    time_s = book.disconnection_time_s(device, context.group, final, context.earthing or "TN-S")
    trip = book.trip_current_a(device, time_s)
    if trip is None:
        return None
    energy = trip**2 * time_s
    text = f"{device_name(context, device)}: Ia² t at {plain(time_s)} s"
    return Energy(energy, Step(text=text, sum=f"{show(trip)}² × {plain(time_s)} = {energy:.0f} A²s"), bound=True)


def check_withstand(context: Context) -> Check:
    """S >= sqrt(I² t) / k for the cpc with the least to spare, mm² (434.5.2, 543.1.3).

    Live conductors whose device guards them against overload and can break the fault need no check of their own.
    A cpc that only a bound on the energy is too much for is not failed by it: its maker's figure decides.
    """
    if context.earthing == "TT":
        return QUESTION.not_applicable(context, "An electrode keeps earth faults small")
    if context.shape.kind == "empty":
        return QUESTION.cannot_tell(context, ("first leg from the board",))
    if context.protection is None:
        return QUESTION.cannot_tell(context, ("main fuse of the supply",))
    fault_ka = context.board_fault_current_ka
    if context.supply.fault_current_ka is None or fault_ka is None:
        missing = "prospective fault current of the supply" if context.supply.fault_current_ka is None else "feed ahead"
        return QUESTION.cannot_tell(context, (missing,))
    energies: dict[tuple[str, float], Energy | None] = {}
    found = []
    for leg_id in context.capacities:
        leg = context.graph.legs[leg_id]
        cable = leg.cable or context.circuit.cable
        if cable.cpc_by == "conduit":
            continue
        area = _area(context, cable)
        if area is None:
            what = f"cpc of {context.circuit.leg_title(leg)}"
            return QUESTION.cannot_tell(context, (what,))
        device = protective_device(context, max(leg.a, leg.b, key=lambda end: context.graph.distance[end]))
        assert device is not None
        key = (device.standard, device.rating_a)
        if key not in energies:
            energies[key] = let_through(context, device, fault_ka)
        energy = energies[key]
        if energy is None:
            return _ask_maker(context, device)
        area_mm2, area_step = area
        found.append(_Found(leg_id, device, area_mm2, context.rulebook.withstand_k(cable, "E"), energy, area_step))
    if not found:
        return QUESTION.not_applicable(context, "Conduit is the cpc: by its maker")
    # A finding weighs more than a bound: what fails for certain is shown before what may.
    worst = min(found, key=lambda each: (not each.surely_fails, each.area_mm2 / each.needed_mm2))
    needed = worst.needed_mm2
    verdict, margin = judge(worst.area_mm2, needed, "at least")
    if verdict is Verdict.FAIL and worst.energy.bound:
        return _ask_maker(context, worst.device)
    return QUESTION.check(
        context,
        verdict,
        f"cpc {plain(floor_to(worst.area_mm2, 2))} mm², needs {show(ceil_to(needed, 2))} mm²",
        value=worst.area_mm2,
        limit=needed,
        sense="at least",
        unit="mm²",
        margin=margin,
        place=context.leg_place(worst.leg),
        steps=(
            *_feed_step(context, fault_ka),
            worst.area_step,
            worst.energy.step,
            Step(text="S = √(I²t) / k", sum=f"√{worst.energy.a2s:.0f} / {plain(worst.k)} = {show(needed)} mm²"),
        ),
    )


def _area(context: Context, cable: Cable) -> tuple[float, Step] | None:
    """Return the area of a cable's cpc in mm² and how it is known; of armour the least its resistance allows."""
    k = plain(context.rulebook.withstand_k(cable, "E"))
    if cable.cpc_by == "armour":
        each = context.rulebook.milliohm_per_m(cable, "E")
        if each is None:
            return None
        area = _STEEL_MILLIOHM_MM2_PER_M / each
        text = f"Armour as cpc, k = {k}: steel's resistivity by the greatest resistance of the armour"
        return area, Step(text=text, sum=f"{plain(_STEEL_MILLIOHM_MM2_PER_M)} / {plain(each)} = {show(area, 1)} mm²")
    csa = context.rulebook.cpc_mm2(cable)
    return None if csa is None else (csa, Step(text=f"cpc of {plain(csa)} mm², k = {k}"))


def _feed_step(context: Context, fault_ka: float) -> tuple[Step, ...]:
    """Write out the fault current behind the feeds (see `Context.board_fault_current_ka`)."""
    if not context.feeds:
        return ()
    u0, origin_a = context.rulebook.u0_v, 1000 * (context.fault_current_ka or 0.0)
    source, feed = u0 / origin_a, context.feed_fault_ohm or 0.0
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


def _ask_maker(context: Context, device: Device) -> Check:
    missing = (f"let-through energy of {device_name(context, device)}, from its maker",)
    return QUESTION.cannot_tell(context, missing)
