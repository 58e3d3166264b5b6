"""What each finding of the survey decides, as checks like any other."""

from dataclasses import dataclass
from typing import Unpack

from lumbek.core.judging.check import Check, Place, Step, Verdict, hold, overall
from lumbek.core.judging.question import Details, Figures, Question, Sense
from lumbek.core.model.cable import Cable
from lumbek.core.model.extent import WHOLE, Extent
from lumbek.core.model.supply import Service, Supply, Tails
from lumbek.core.numbers import plain, show
from lumbek.core.protection.electrode_limit import electrode_limit_ohm
from lumbek.core.rulebooks import Rulebook
from lumbek.core.study.ahead import ELECTRODE, known_fault_current_ka
from lumbek.core.value import Frozen

# A measured fault current and that from Ze agree within a tenth: meters do no better.
_AGREE = 1.1
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


# What a change of something existing relies on: what is beside it is outside its extent.
_RELIED_ON = ("earthing", "bonding")
_OUTSIDE = "Outside the extent of this job"


def judge_supply(rulebook: Rulebook, supply: Supply, extent: Extent = WHOLE) -> Survey:
    """Return what the survey decides, a check for each finding; of a change only what that relies on is asked."""
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
            _finding(rulebook, "bonding", "Bonding", "bonding", "Is every incoming metal service bonded?").check(
                Verdict.CANNOT_TELL, "No services listed", missing=("incoming services",)
            )
        )
    if extent.is_change:
        checks = [_within(rulebook, supply, check) for check in checks]
    return Survey(verdict=overall(checks), checks=tuple(checks))


def _within(rulebook: Rulebook, supply: Supply, check: Check) -> Check:
    """Return a finding of a job that covers a change: what is open beside what it relies on is not asked.

    Zs is read at what is new, so that Ze need not be; an electrode is measured all the same.
    """
    relied_on = check.id.split("-")[0] in _RELIED_ON and check.id != "earthing-conductor"
    electrode = check.id == "ze" and supply.earthing == "TT"
    if check.verdict is not Verdict.CANNOT_TELL or relied_on or electrode:
        return check
    return _finding(rulebook, check.id, check.title, "earthing", check.asks).check(Verdict.NOT_APPLICABLE, _OUTSIDE)


@dataclass(frozen=True)
class _Finding:
    """A question about the supply, put under one rulebook."""

    rulebook: Rulebook
    question: Question

    def check(self, verdict: Verdict, answer: str, **more: Unpack[Figures]) -> Check:
        """Return what the finding decides."""
        more.setdefault("place", self._place)
        return self.question.check(self.rulebook, verdict, answer, **more)

    def held(self, value: float, limit: float, sense: Sense, answer: str, **more: Unpack[Details]) -> Check:
        """Return what follows from holding a figure against its limit."""
        more.setdefault("place", self._place)
        return self.question.held(self.rulebook, value, limit, sense, answer, **more)

    @property
    def _place(self) -> Place:
        return Place(kind="supply", id=self.question.id, name=self.question.title)


def _finding(rulebook: Rulebook, key: str, title: str, clause: str, asks: str) -> _Finding:
    return _Finding(rulebook, Question(key, title, asks, clause))


def _earthing(rulebook: Rulebook, supply: Supply) -> Check:
    make = _finding(
        rulebook, "earthing", "Earthing system", "earthing", "What carries an earth fault back to the source?"
    )
    if supply.earthing is None:
        return make.check(
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
    return make.check(Verdict.PASS, f"{supply.earthing}: {decides[0]}", steps=(Step(text=decides[1]),))


def _ze(rulebook: Rulebook, supply: Supply) -> Check:
    make = _finding(rulebook, "ze", "Ze", "ze", "Is the loop outside the installation as low as such a supply gives?")
    usual = rulebook.data.supply.assumed_ze_ohm.get(supply.earthing or "")
    if supply.ze_ohm is None:
        assumed = f"{plain(usual)} Ω is assumed for {supply.earthing} until then" if usual else "Nothing may be assumed"
        return make.check(Verdict.CANNOT_TELL, "Not measured", missing=("Ze",), steps=(Step(text=assumed),))
    steps = [Step(text=f"Ze {supply.ze_origin or 'as stated'}", sum=f"{show(supply.ze_ohm)} Ω")]
    if supply.earthing is None:
        # What is low for one is high for another.
        words = "Of which earthing system?"
        return make.check(Verdict.CANNOT_TELL, words, missing=("earthing system",), steps=tuple(steps))
    if supply.earthing == "TT":
        if supply.ze_origin != "measured":
            missing = (ELECTRODE,)
            return make.check(Verdict.CANNOT_TELL, "An electrode is measured", missing=missing, steps=tuple(steps))
        # Beside an electrode the limit is what an RCD of 30 mA allows, and what keeps it stable.
        stable = rulebook.data.supply.tt_stable_ohm
        touch_v, rated_ma = rulebook.data.fault_protection.touch_voltage_v, rulebook.data.rcd.most_ma
        steps.append(
            Step(
                text=f"RA × {plain(rated_ma)} mA no more than {plain(touch_v)} V",
                sum=f"{show(supply.ze_ohm * rated_ma / 1000)} V",
            )
        )
        return make.held(
            supply.ze_ohm,
            electrode_limit_ohm(rulebook, rated_ma),
            "at most",
            "{value} Ω",
            unit="Ω",
            steps=tuple(steps),
            caution=f"Over {plain(stable)} Ω an electrode may not stay stable." if supply.ze_ohm > stable else "",
        )
    if usual is None:
        return make.check(Verdict.PASS, f"{show(supply.ze_ohm)} Ω", value=supply.ze_ohm, unit="Ω", steps=tuple(steps))
    if supply.ze_ohm > usual:
        steps.append(Step(text="Too high for this earthing system: ask the distributor before any work"))
    return make.held(
        supply.ze_ohm,
        usual,
        "at most",
        "{value} Ω, usually {limit} Ω at most",
        unit="Ω",
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
        return make.check(
            Verdict.CANNOT_TELL,
            "Not measured",
            missing=("prospective fault current",),
            steps=(Step(text=text),),
        )
    greatest = known_fault_current_ka(rulebook, supply) or supply.fault_current_ka
    capacity, largest = rulebook.usual_breaking_ka(greatest), rulebook.data.breaking.usual_ka[-1]
    fits = greatest <= largest
    steps = [
        Step(
            text=f"Devices at the board break {plain(capacity)} kA at least"
            if fits
            else f"Over {plain(largest)} kA: devices of {plain(largest)} kA want a rated back-up fuse ahead of them"
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
    caution = "" if fits else f"Over {plain(largest)} kA: check the back-up protection."
    if greatest > supply.fault_current_ka * _AGREE:
        caution = (
            f"Surveyed {plain(supply.fault_current_ka)} kA, and Ze gives {show(greatest)} kA: they disagree. "
            "The greater counts; measure both again."
        )
    return make.check(
        Verdict.PASS,
        f"{show(greatest) if greatest > supply.fault_current_ka else plain(supply.fault_current_ka)} kA",
        value=greatest,
        unit="kA",
        steps=tuple(steps),
        caution=caution,
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
        return make.check(Verdict.CANNOT_TELL, "Rating not known", missing=("rating of the main fuse",))
    kva = rating * rulebook.u0_v * supply.phases / 1000
    return make.check(
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
    if csa is None or fuse is None:
        said = {"size of the tails": csa, "rating of the main fuse": fuse}
        missing = tuple(name for name, value in said.items() if value is None)
        return make.check(Verdict.CANNOT_TELL, "Not known yet", missing=missing)
    found = rulebook.tabulated_capacity_a(Cable(type="single-core", csa_mm2=csa), _TAILS_METHOD)
    # IEC rates singles on a wall with the multicore figures of method C.
    found = found or rulebook.tabulated_capacity_a(Cable(type="multicore", csa_mm2=csa), _TAILS_METHOD)
    if found is None:
        return make.check(Verdict.CANNOT_TELL, f"{plain(csa)} mm² is not a listed size", missing=("a listed size",))
    verdict, margin = hold(found[0], fuse, "at least")
    steps = [
        Step(
            text=f"Table {found[1]}, method C: {plain(csa)} mm²",
            sum=f"Iz = {plain(found[0])} A against {plain(fuse)} A",
        )
    ]
    too_long = _too_long(rulebook, supply.tails)
    steps += [too_long] if too_long else []
    return make.check(
        Verdict.FAIL if too_long else verdict,
        f"{plain(csa)} mm² carries {plain(found[0])} A",
        value=found[0],
        limit=fuse,
        sense="at least",
        unit="A",
        decimals=0,
        margin=margin,
        steps=tuple(steps),
        caution="Length of the tails not noted." if supply.tails.length_m is None else "",
    )


def _too_long(rulebook: Rulebook, tails: Tails) -> Step | None:
    """Return what there is to say of tails that want a device of their own, and have none."""
    most, length = rulebook.data.supply.tails_own_device_over_m, tails.length_m
    if most is None or length is None or length <= most or tails.own_device:
        return None
    return Step(text=f"{plain(length)} m of tails: over about {plain(most)} m a switch-fuse at the origin is wanted")


def _surge(rulebook: Rulebook, supply: Supply) -> Check:
    make = _finding(rulebook, "surge", "Surge protection", "spd", "Is the house guarded against surges?")
    if supply.surge_protection == "unknown":
        return make.check(
            Verdict.CANNOT_TELL, "Not decided", missing=("surge protection: fitted, or declined by the owner",)
        )
    fitted = supply.surge_protection == "fitted"
    if not fitted and supply.higher_risk:
        step = Step(text="Only the owner of a single dwelling may take the risk; this home is of higher risk")
        return make.check(Verdict.FAIL, "Declined where it may not be", steps=(step,))
    return make.check(
        Verdict.PASS,
        "Type 2 at the board" if fitted else "Declined by the owner",
        steps=(Step(text="Leads no longer than 0.5 m" if fitted else "Keep the owner's word in writing"),),
        caution="" if fitted else "Only for a single dwelling whose owner accepts the risk.",
    )


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
        return make.check(Verdict.CANNOT_TELL, "Not known yet", missing=tuple(missing))
    needed = rulebook.earthing_conductor_mm2(tails)
    return make.held(
        have,
        needed,
        "at least",
        f"{plain(have)} mm², needs {plain(needed)} mm²",
        unit="mm²",
        decimals=1,
        steps=(
            Step(
                text=f"{rulebook.data.earthing_conductor.table} for tails of {plain(tails)} mm²",
                sum=f"{plain(needed)} mm²",
            ),
        ),
    )


def needed_bonding_mm2(rulebook: Rulebook, supply: Supply) -> float:
    """Return the size in mm² of main bonding: PME 10 mm², else half the earthing conductor that is required.

    6 mm² at least, and the next size that is made. What is required follows from the tails; where they are not known,
    from the conductor that is there.
    """
    rules = rulebook.data.bonding
    if supply.earthing == "TN-C-S" and rules.pme_min_mm2 > rules.other_min_mm2:
        return rules.pme_min_mm2
    tails = supply.tails.csa_mm2
    earth = (supply.earthing_conductor_mm2 or 0.0) if tails is None else rulebook.earthing_conductor_mm2(tails)
    least = min(rules.most_mm2, max(rules.other_min_mm2, earth * rules.earthing_conductor_fraction))
    return min(csa for csa in rulebook.conductor_milliohm_per_m if csa >= least and csa not in rulebook.imperial)


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
        return make.check(
            Verdict.PASS,
            "Plastic: none wanted",
            steps=(Step(text="An insulating pipe brings in no potential"),),
        )
    if service.material == "unknown":
        return make.check(Verdict.CANNOT_TELL, "Metal or plastic?", missing=("material where it enters",))
    if service.bonded == "unknown":
        return make.check(Verdict.CANNOT_TELL, "Metal: is it bonded?", missing=("whether it is bonded",))
    needed = needed_bonding_mm2(rulebook, supply)
    if service.bonded == "no":
        return make.check(
            Verdict.FAIL,
            f"Metal, not bonded: needs {plain(needed)} mm²",
            steps=(Step(text="Bond it near its entry, before any branch"),),
        )
    if service.bonding_mm2 is None:
        return make.check(Verdict.CANNOT_TELL, "Bonded: what size?", missing=("size of the bonding conductor",))
    late = service.within_600mm is False
    return make.held(
        service.bonding_mm2,
        needed,
        "at least",
        f"{plain(service.bonding_mm2)} mm², needs {plain(needed)} mm²",
        unit="mm²",
        decimals=1,
        steps=(Step(text="Main protective bonding", sum=f"{plain(needed)} mm² at least"),),
        caution="Connected more than 600 mm from the entry or after a branch." if late else "",
    )
