"""What each finding of the survey decides, as checks like any other."""

from collections.abc import Callable

from lumbek.core.model.circuit import Cable
from lumbek.core.model.supply import Service, Supply
from lumbek.core.numbers import plain, show
from lumbek.core.result import Check, Frozen, Place, Step, Verdict, judge, overall
from lumbek.core.rulebooks import Rulebook

# Method C for singles on a wall: how tails run.
_TAILS_METHOD = "C"
_NAMES = {
    "water": "Water pipe",
    "gas": "Gas pipe",
    "oil": "Oil pipe",
    "steel": "Structural steel",
    "lightning": "Lightning protection",
    "other": "Other service",
}


class Survey(Frozen):
    """The findings of a survey with what each decides, and whether anything stands in the way."""

    verdict: Verdict
    checks: tuple[Check, ...]


def assess(rulebook: Rulebook, supply: Supply) -> Survey:
    """Return what the survey decides, a check for each finding."""
    checks: list[Check] = [
        _earthing(rulebook, supply),
        _ze(rulebook, supply),
        _fault_current(rulebook, supply),
        _main_fuse(rulebook, supply),
        _tails(rulebook, supply),
        _earthing_conductor(rulebook, supply),
        _surge(rulebook, supply),
    ]
    checks += [_bonding(rulebook, supply, index) for index in range(len(supply.services))]
    if not supply.services:
        checks.append(
            _finding(rulebook, "bonding", "Bonding", "bonding", "Is every incoming metal service bonded?")(
                Verdict.CANNOT_TELL, "No services listed", missing=("incoming services",)
            )
        )
    return Survey(verdict=overall(checks), checks=tuple(checks))


def _finding(rulebook: Rulebook, key: str, title: str, clause: str, asks: str) -> Callable[..., Check]:
    def make(verdict: Verdict, answer: str, **more: object) -> Check:
        return Check.model_validate(
            {
                "id": key,
                "title": title,
                "asks": asks,
                "verdict": verdict,
                "answer": answer,
                "clause": rulebook.clause(clause),
                "place": Place(kind="supply", id=key, name=title),
                **more,
            }
        )

    return make


def _earthing(rulebook: Rulebook, supply: Supply) -> Check:
    make = _finding(
        rulebook, "earthing", "Earthing system", "earthing", "What carries an earth fault back to the source?"
    )
    if supply.earthing is None:
        return make(
            Verdict.CANNOT_TELL,
            "Not known yet",
            missing=("earthing system",),
            steps=(Step(text="Every Zs and every RCD decision waits for this"),),
        )
    decides = {
        "TN-S": (
            "cable sheath or separate conductor",
            "Overcurrent devices disconnect; Zs to the published limits",
        ),
        "TN-C-S": (
            "combined neutral and earth outside (PME)",
            "Overcurrent devices disconnect; main bonding to the PME sizes; think before taking PME outdoors",
        ),
        "TT": ("own electrode", "An RCD on every final circuit; the electrode is measured"),
    }[supply.earthing]
    return make(Verdict.PASS, f"{supply.earthing}: {decides[0]}", steps=(Step(text=decides[1]),))


def _ze(rulebook: Rulebook, supply: Supply) -> Check:
    make = _finding(rulebook, "ze", "Ze", "ze", "Is the loop outside the installation as low as such a supply gives?")
    usual = rulebook.data.supply.assumed_ze_ohm.get(supply.earthing or "")
    if supply.ze_ohm is None:
        assumed = f"{plain(usual)} Ω is assumed for {supply.earthing} until then" if usual else "Nothing may be assumed"
        return make(Verdict.CANNOT_TELL, "Not measured", missing=("Ze",), steps=(Step(text=assumed),))
    steps = [Step(text=f"Ze {supply.ze_origin}", sum=f"{show(supply.ze_ohm)} Ω")]
    if supply.earthing == "TT":
        # Beside an electrode the limit is what an RCD of 30 mA allows, and what keeps it stable.
        stable = rulebook.data.supply.tt_stable_ohm
        most = rulebook.data.fault_protection.touch_voltage_v / 0.03
        verdict, margin = judge(supply.ze_ohm, most, "at most")
        steps.append(Step(text="RA × 30 mA no more than 50 V", sum=f"{show(supply.ze_ohm * 0.03)} V"))
        return make(
            verdict,
            f"{show(supply.ze_ohm)} Ω",
            value=supply.ze_ohm,
            limit=most,
            sense="at most",
            unit="Ω",
            margin=margin,
            steps=tuple(steps),
            caution=f"Over {plain(stable)} Ω an electrode may not stay stable." if supply.ze_ohm > stable else "",
        )
    if usual is None:
        return make(Verdict.PASS, f"{show(supply.ze_ohm)} Ω", value=supply.ze_ohm, unit="Ω", steps=tuple(steps))
    verdict, margin = judge(supply.ze_ohm, usual, "at most")
    if verdict is Verdict.FAIL:
        steps.append(Step(text="Too high for this earthing system: ask the distributor before any work"))
    return make(
        verdict,
        f"{show(supply.ze_ohm)} Ω, usually {show(usual)} Ω at most",
        value=supply.ze_ohm,
        limit=usual,
        sense="at most",
        unit="Ω",
        margin=margin,
        steps=tuple(steps),
    )


def _fault_current(rulebook: Rulebook, supply: Supply) -> Check:
    make = _finding(
        rulebook,
        "fault-current",
        "Prospective fault current",
        "fault-current",
        "What must every device at the board break?",
    )
    if supply.fault_current_ka is None:
        most = rulebook.data.supply.assumed_fault_current_ka
        text = f"Up to {plain(most)} kA may be declared" if most else "As declared by the distributor"
        return make(
            Verdict.CANNOT_TELL,
            "Not measured",
            missing=("prospective fault current",),
            steps=(Step(text=text),),
        )
    capacity = 6 if supply.fault_current_ka <= 6 else 10
    fits = supply.fault_current_ka <= 10
    steps = [
        Step(
            text=f"Devices at the board break {plain(capacity)} kA at least"
            if fits
            else "Over 10 kA: devices of 10 kA want a rated back-up fuse ahead of them"
        )
    ]
    if supply.ze_ohm and supply.earthing != "TT":
        loop_ka = rulebook.u0_v / supply.ze_ohm / 1000
        steps.append(
            Step(
                text="Line to earth from Ze: U0 / Ze",
                sum=f"{plain(rulebook.u0_v)} V / {show(supply.ze_ohm)} Ω / 1000 = {show(loop_ka)} kA",
            )
        )
    return make(
        Verdict.PASS,
        f"{plain(supply.fault_current_ka)} kA",
        value=supply.fault_current_ka,
        unit="kA",
        steps=tuple(steps),
        caution="" if fits else "Over 10 kA: check the back-up protection.",
    )


def _main_fuse(rulebook: Rulebook, supply: Supply) -> Check:
    make = _finding(
        rulebook,
        "main-fuse",
        "Main fuse",
        "main-fuse",
        "How much may the house draw, and what guards the tails?",
    )
    rating = supply.main_fuse.rating_a
    if rating is None:
        return make(Verdict.CANNOT_TELL, "Rating not known", missing=("rating of the main fuse",))
    kva = rating * rulebook.u0_v * supply.phases / 1000
    return make(
        Verdict.PASS,
        f"{plain(rating)} A",
        value=rating,
        unit="A",
        decimals=0,
        steps=(
            Step(
                text="All the house may draw",
                sum=f"{plain(rating)} A × {plain(rulebook.u0_v)} V × {supply.phases} / 1000 = {show(kva, 1)} kVA",
            ),
        ),
    )


def _tails(rulebook: Rulebook, supply: Supply) -> Check:
    make = _finding(rulebook, "tails", "Tails", "tails", "Do the tails carry what the main fuse lets through?")
    csa, fuse = supply.tails.csa_mm2, supply.main_fuse.rating_a
    missing = [name for name, value in (("size of the tails", csa), ("rating of the main fuse", fuse)) if value is None]
    if csa is None or fuse is None:
        return make(Verdict.CANNOT_TELL, "Not known yet", missing=tuple(missing))
    found = rulebook.tabulated_capacity_a(Cable(type="single-core", csa_mm2=csa), _TAILS_METHOD)
    # IEC rates singles on a wall with the multicore figures of method C.
    found = found or rulebook.tabulated_capacity_a(Cable(type="multicore", csa_mm2=csa), _TAILS_METHOD)
    if found is None:
        return make(Verdict.CANNOT_TELL, f"{plain(csa)} mm² is not a listed size", missing=("a listed size",))
    verdict, margin = judge(found[0], fuse, "at least")
    most, length = rulebook.data.supply.tails_own_device_over_m, supply.tails.length_m
    steps = [
        Step(
            text=f"Table {found[1]}, method C: {plain(csa)} mm²",
            sum=f"Iz = {plain(found[0])} A against {plain(fuse)} A",
        )
    ]
    caution = ""
    if most is not None and length is not None and length > most and not supply.tails.own_device:
        verdict = Verdict.FAIL
        steps.append(
            Step(text=f"{plain(length)} m of tails: over about {plain(most)} m a switch-fuse at the origin is wanted")
        )
    elif length is None:
        caution = "Length of the tails not noted."
    return make(
        verdict,
        f"{plain(csa)} mm² carries {plain(found[0])} A",
        value=found[0],
        limit=fuse,
        sense="at least",
        unit="A",
        decimals=0,
        margin=margin,
        steps=tuple(steps),
        caution=caution,
    )


def _surge(rulebook: Rulebook, supply: Supply) -> Check:
    make = _finding(rulebook, "surge", "Surge protection", "spd", "Is the house guarded against surges?")
    if supply.surge_protection == "unknown":
        return make(Verdict.CANNOT_TELL, "Not decided", missing=("surge protection: fitted, or declined by the owner",))
    fitted = supply.surge_protection == "fitted"
    return make(
        Verdict.PASS,
        "Type 2 at the board" if fitted else "Declined by the owner",
        steps=(Step(text="Leads no longer than 0.5 m" if fitted else "Keep the owner's word in writing"),),
        caution="" if fitted else "Only for a single dwelling whose owner accepts the risk.",
    )


def needed_earthing_conductor_mm2(tails_mm2: float) -> float:
    """Return the earthing conductor's size in mm² by Table 54.7: S to 16 mm², then 16, then S / 2."""
    if tails_mm2 <= 16:
        return tails_mm2
    return 16.0 if tails_mm2 <= 35 else tails_mm2 / 2


def _earthing_conductor(rulebook: Rulebook, supply: Supply) -> Check:
    make = _finding(
        rulebook,
        "earthing-conductor",
        "Earthing conductor",
        "earthing-conductor",
        "Is the earthing conductor thick enough?",
    )
    have, tails = supply.earthing_conductor_mm2, supply.tails.csa_mm2
    missing = [
        name
        for name, value in (("size of the earthing conductor", have), ("size of the tails", tails))
        if value is None
    ]
    if have is None or tails is None:
        return make(Verdict.CANNOT_TELL, "Not known yet", missing=tuple(missing))
    needed = needed_earthing_conductor_mm2(tails)
    verdict, margin = judge(have, needed, "at least")
    return make(
        verdict,
        f"{plain(have)} mm², needs {plain(needed)} mm²",
        value=have,
        limit=needed,
        sense="at least",
        unit="mm²",
        decimals=0,
        margin=margin,
        steps=(Step(text=f"Table 54.7 for tails of {plain(tails)} mm²", sum=f"{plain(needed)} mm²"),),
    )


def needed_bonding_mm2(rulebook: Rulebook, supply: Supply) -> float:
    """Return the size in mm² of main bonding: PME 10 mm², else half the earthing conductor and 6 mm² at least."""
    rules = rulebook.data.bonding
    if supply.earthing == "TN-C-S" and rules.pme_min_mm2 > rules.other_min_mm2:
        return rules.pme_min_mm2
    earth = supply.earthing_conductor_mm2 or 0.0
    return min(rules.most_mm2, max(rules.other_min_mm2, earth * rules.earthing_conductor_fraction))


def _bonding(rulebook: Rulebook, supply: Supply, index: int) -> Check:
    service: Service = supply.services[index]
    name = _NAMES[service.what]
    make = _finding(
        rulebook,
        f"bonding-{index}",
        f"Bonding: {name.lower()}",
        "bonding",
        f"Is the {name.lower()} bonded as it must be?",
    )
    if service.material == "plastic":
        return make(
            Verdict.PASS,
            "Plastic: none wanted",
            steps=(Step(text="An insulating pipe brings in no potential"),),
        )
    if service.material == "unknown":
        return make(Verdict.CANNOT_TELL, "Metal or plastic?", missing=("material where it enters",))
    if service.bonded == "unknown":
        return make(Verdict.CANNOT_TELL, "Metal: is it bonded?", missing=("whether it is bonded",))
    needed = needed_bonding_mm2(rulebook, supply)
    if service.bonded == "no":
        return make(
            Verdict.FAIL,
            f"Metal, not bonded: needs {plain(needed)} mm²",
            steps=(Step(text="Bond it near its entry, before any branch"),),
        )
    if service.bonding_mm2 is None:
        return make(Verdict.CANNOT_TELL, "Bonded: what size?", missing=("size of the bonding conductor",))
    verdict, margin = judge(service.bonding_mm2, needed, "at least")
    late = service.within_600mm is False
    return make(
        verdict,
        f"{plain(service.bonding_mm2)} mm², needs {plain(needed)} mm²",
        value=service.bonding_mm2,
        limit=needed,
        sense="at least",
        unit="mm²",
        decimals=0,
        margin=margin,
        steps=(Step(text="Main protective bonding", sum=f"{plain(needed)} mm² at least"),),
        caution="Connected more than 600 mm from the entry or after a branch." if late else "",
    )
