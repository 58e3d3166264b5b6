"""Do the conductors survive the fault for as long as their device takes to clear it?"""

from dataclasses import dataclass
from math import sqrt

from lumbek.core.checks.build import cannot_tell, not_applicable
from lumbek.core.checks.fault_protection import device_name, protective_device
from lumbek.core.context import Context
from lumbek.core.model.circuit import Cable, Device
from lumbek.core.numbers import ceil_to, plain, show
from lumbek.core.result import Check, Step, judge

TITLE, ASKS = "Fault withstand", "Does the smallest cpc survive the fault until it is cleared?"
# The let-through table holds at this fault current (EN 60898-1, class 3, 6 kA breakers).
_TABLE_KA = 6.0
_FAST_S = 0.1


@dataclass(frozen=True)
class Energy:
    """The energy in A²s that a device lets through, and how it was found."""

    a2s: float
    step: Step


def let_through(context: Context, device: Device, fault_ka: float) -> Energy | None:
    """Return the energy let through at a fault current in kA, never less than it is; None where no table says.

    Breakers clear within 0.1 s: I² x 0.1 s bounds it, and so does the class 3 figure at 6 kA, which below 6 kA is
    taken in proportion to the current (the published 3 kA figures lie under that line). Fuses: Ia² t at the
    disconnection time, which greater currents do not exceed.
    """
    book = context.rulebook
    if device.curve is None:
        group, final = context.group, book.kinds[context.circuit.kind].final
        time_s = book.disconnection_time_s(device, group, final, context.earthing or "TN-S")
        trip = book.trip_current_a(device, time_s)
        if trip is None:
            return None
        text = f"{device_name(context, device)}: Ia² t at {plain(time_s)} s"
        return Energy(
            trip**2 * time_s, Step(text=text, sum=f"{show(trip, 0)}² × {plain(time_s)} = {trip**2 * time_s:.0f} A²s")
        )
    bound = (fault_ka * 1000) ** 2 * _FAST_S
    listed = book.let_through_a2s(device)
    if listed is not None and fault_ka <= _TABLE_KA and listed * fault_ka / _TABLE_KA < bound:
        energy = listed * fault_ka / _TABLE_KA
        return Energy(
            energy,
            Step(
                text=f"Class 3 limit of {device_name(context, device)}, in proportion to the fault current",
                sum=f"{listed:.0f} × {plain(fault_ka)} / {plain(_TABLE_KA)} = {energy:.0f} A²s",
            ),
        )
    return Energy(bound, Step(text="I² × 0.1 s at the fault current of the board", sum=f"{bound:.0f} A²s"))


def check_withstand(context: Context) -> Check:
    """S >= sqrt(I² t) / k for the cpc with the least to spare, mm² (434.5.2, 543.1.3).

    Live conductors whose device guards them against overload and can break the fault need no check of their own.
    """
    if context.earthing == "TT":
        return not_applicable(context, "withstand", TITLE, ASKS, "withstand", "An electrode keeps earth faults small")
    if context.protection is None:
        return cannot_tell(context, "withstand", TITLE, ASKS, "withstand", ("main fuse of the supply",))
    if not context.capacities:
        return cannot_tell(context, "withstand", TITLE, ASKS, "withstand", ("first leg from the board",))
    fault_ka = context.supply.fault_current_ka
    if fault_ka is None:
        return cannot_tell(context, "withstand", TITLE, ASKS, "withstand", ("prospective fault current of the supply",))
    found = []
    for leg_id in context.capacities:
        leg = context.graph.legs[leg_id]
        cable: Cable = leg.cable or context.circuit.cable
        if cable.cpc_by != "core":
            continue
        csa = context.rulebook.cpc_mm2(cable)
        device = protective_device(context, max(leg.a, leg.b, key=lambda end: context.graph.distance[end]))
        energy = let_through(context, device, fault_ka) if device else None
        if csa is None or device is None or energy is None:
            missing = (f"let-through energy of {device_name(context, device)}, from its maker" if device else "device",)
            return cannot_tell(context, "withstand", TITLE, ASKS, "withstand", missing)
        k = context.rulebook.withstand_k(cable, "E")
        found.append((csa / (sqrt(energy.a2s) / k), csa, k, energy, leg_id))
    if not found:
        return not_applicable(
            context, "withstand", TITLE, ASKS, "withstand", "Armour or conduit is the cpc: by its maker"
        )
    _, csa, k, energy, leg_id = min(found, key=lambda each: each[0])
    needed = sqrt(energy.a2s) / k
    verdict, margin = judge(csa, needed, "at least")
    if verdict == "fail" and context.rulebook.let_through_a2s(context.protection) is None:
        # Beyond the table only I² x 0.1 s is left, a bound and not a finding.
        return cannot_tell(
            context,
            "withstand",
            TITLE,
            ASKS,
            "withstand",
            (f"let-through energy of {device_name(context, context.protection)}, from its maker",),
        )
    return Check(
        id="withstand",
        title=TITLE,
        asks=ASKS,
        verdict=verdict,
        answer=f"cpc {plain(csa)} mm², needs {show(ceil_to(needed, 2))} mm²",
        value=csa,
        limit=needed,
        sense="at least",
        unit="mm²",
        margin=margin,
        clause=context.clause("withstand"),
        place=context.leg_place(leg_id),
        steps=(
            Step(text="Prospective fault current at the board", sum=f"{plain(fault_ka)} kA"),
            energy.step,
            Step(text="S = √(I²t) / k", sum=f"√{energy.a2s:.0f} / {plain(k)} = {show(needed)} mm²"),
        ),
    )
