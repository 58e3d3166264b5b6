"""Trials of fault finding: seeded circuits as the simulator installs them, read by its own meter, followed to the end.

The simulator (`lumbek.simulated`) shares no code, no figure and no list of faults with the diagnosis. Noise is Gaussian
with 2 % + 0.02 Ω as its standard deviation, which is harsher than a meter that stays within that.
"""

import copy
import math
import random
from dataclasses import dataclass, field
from typing import Any

from lumbek.core.diagnosis.belief import Belief, Took
from lumbek.core.diagnosis.catalogue import Catalogue, Test, first_tests
from lumbek.core.diagnosis.inquiry import go_on, open_inquiry
from lumbek.core.diagnosis.instruction import instruction
from lumbek.core.diagnosis.next_test import propose_tests
from lumbek.core.diagnosis.patient import Patient
from lumbek.core.diagnosis.suspects import NO_FAULT
from lumbek.core.diagnosis.verdict import accusation, standing, tied
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Leg, Segment
from lumbek.core.model.point import Point
from lumbek.core.model.supply import Supply
from lumbek.core.rulebooks import load_rulebook
from lumbek.core.study.door import study_of
from lumbek.simulated.house import Installed
from lumbek.simulated.mishaps import EVERYWHERE, IN_RINGS, Mishap, something_goes_wrong

BOOK = load_rulebook("bs7671")
SUPPLY = Supply(earthing="TN-C-S", ze_ohm=0.21)
CPC = {2.5: 1.5, 1.5: 1.0, 1.0: 1.0}
MOST_TESTS = 14
MOST_DRAWN = 200


@dataclass
class Ran:
    """One circuit gone through: what was hidden, what was accused, after how many tests."""

    seed: int
    shape: str
    kind: str
    tests: int = 0
    effort: float = 0.0
    bits: float = 0.0
    place: int = 99
    inside: bool = False
    alone: bool = False
    accused: bool = False
    right: bool = False
    # Whether a leg or a point that is accused has something wrong, if perhaps by another name.
    at_place: bool = False
    redrawn: list[str] = field(default_factory=list)
    said: str = ""
    # Of two: whether each shows in the first readings beside the other, and both are named, the second at once or when
    # the first is put right and all is read again.
    both_show: bool = False
    both: bool = False


def draw(
    chance: random.Random, points: tuple[int, int] = (8, 30), shapes: tuple[str, ...] = ("ring", "radial")
) -> tuple[Circuit, dict[str, Any], str]:
    """Return a circuit as drawn, and as the simulator knows it."""
    shape, count = chance.choice(shapes), chance.randint(*points)
    mm2 = 2.5 if shape == "ring" else chance.choice((1.0, 1.5, 2.5))
    names = [f"p{at}" for at in range(1, count + 1)]
    stops = ["board", *names, *(["board"] if shape == "ring" else [])]
    metres = [round(chance.uniform(2, 9), 1) for _ in stops[1:]]
    legs = [
        {"id": f"L{at}", "a": a, "b": b, "length_m": m, "line_mm2": mm2, "cpc_mm2": CPC[mm2]}
        for at, (a, b, m) in enumerate(zip(stops, stops[1:], metres, strict=False), start=1)
    ]
    circuit = Circuit(
        cable=Cable(csa_mm2=mm2),
        points=tuple(Point(id=each, kind="socket-twin") for each in names),
        legs=tuple(Leg(id=x["id"], a=x["a"], b=x["b"], segments=(Segment(length_m=x["length_m"]),)) for x in legs),
    )
    ring = [legs[0]["id"], legs[-1]["id"]] if shape == "ring" else None
    return circuit, {"ring": ring, "points": names, "legs": legs}, shape


def suspects_of(mishap: Mishap) -> set[str]:
    """Return what the diagnosis calls a mishap."""
    leg, points, cores = mishap.leg, mishap.points, mishap.cores
    return {
        "cut core": {f"open/{cores}/{leg}"},
        "core left out": {f"open/{cores}/{leg}"},
        "loose screw": {f"loose/{cores}/{leg}"},
        "cut cable": {f"cut/{cores}/{leg}"},
        "accessory reversed": {f"crossed-accessory/{cores}/{points[0]}" if points else ""},
        "cores crossed": {f"crossed-leg/{cores}/{leg}"},
        "nail": {f"insulation-leg/{cores}/{leg}"},
        "wet box": {f"insulation-point/{cores}/{points[0]}" if points else ""},
        "worn contact": {
            f"{kind}/{cores}/{points[0]}" if points else "" for kind in ("loose-accessory", "open-accessory")
        },
        "left plugged in": {f"load-left-in/{cores}/{points[0]}" if points else ""},
        "leaking load": {f"load-fault/{cores}/{points[0]}" if points else ""},
        "neutrals mixed": {f"mixed-neutral/{cores}/{points[0]}" if points else ""},
        "wrong drum": {f"wrong-size/{mishap.mm2:g}/{leg}"},
        "metal touching": {f"parallel-earth/{'/'.join(points)}"},
        "rings mixed up": {"rings-crossed"},
        "cross cable": {f"bridged/{'/'.join(points)}"},
        "left off the ring": {f"not-as-drawn/{'/'.join(points)}/1"},
    }[mishap.kind]


def _one_cut(mishaps: list[Mishap]) -> set[str]:
    """Return what the diagnosis calls several cores out of one leg: one cut."""
    out: dict[str, set[str]] = {}
    for each in mishaps:
        if each.kind in ("cut core", "core left out", "cut cable"):
            out.setdefault(each.leg, set()).update(each.cores)
    return {f"cut/{''.join(sorted(cores, key='LNE'.index))}/{leg}" for leg, cores in out.items() if len(cores) > 1}


@dataclass
class Meter:
    """The meter of the trial: leads nulled nearly, noise, a display in steps."""

    chance: random.Random
    offset_ohm: float
    gain: float = 0.0

    def read(self, inst: Installed, test: Test) -> Took:
        """Take a test."""
        value = inst.read(instruction(test))
        if test.insulation:
            shown = value * (1 + self.chance.uniform(-0.03, 0.03))
            return Took(test.id, 999.0, True) if shown > 999 else Took(test.id, round(shown, 2))
        if value > 2000:
            return Took(test.id, 1999.0, True)
        shown = value * (1 + self.gain) + self.offset_ohm + self.chance.gauss(0, 1) * (0.02 * value + 0.02)
        return Took(test.id, max(0.0, round(shown, 2)))


def is_seen(was: list[float], now: list[float]) -> bool:
    """Whether any of the first readings is further off than lengths and meter may be."""
    for a, b in zip(was, now, strict=True):
        if math.isinf(a) != math.isinf(b) or (not math.isinf(a) and abs(a - b) > 0.10 * a + 0.06):
            return True
    return False


def run(
    seed: int, faults: int, length_off: float, gain: float, kind: str = "", points: tuple[int, int] = (8, 30)
) -> Ran:
    """Hide something in a circuit, read it, follow the proposals to their end."""
    chance = random.Random(seed)
    shapes = ("ring",) if kind in IN_RINGS else ("radial",) if kind == "neutrals mixed" else ("ring", "radial")
    circuit, document, shape = draw(chance, points, shapes)
    patient = Patient(study_of(BOOK, SUPPLY, circuit).middle)
    catalogue = Catalogue(patient)
    first = [catalogue.test(each) for each in first_tests(patient)]
    ran = Ran(seed, shape, "sound")
    truth: list[set[str]] = []
    mishaps: list[Mishap] = []
    alone: list[Installed] = []
    while True:
        state = chance.getstate()
        inst = Installed(document, chance, length_off)
        if not faults:
            break
        kinds = [kind or chance.choice(EVERYWHERE + (IN_RINGS if shape == "ring" else ())) for _ in range(faults)]
        clean, mishaps, alone = copy.deepcopy(inst), [], []
        for each in kinds:
            # What this one would be without the others.
            by_itself = copy.deepcopy(clean)
            by_itself.chance.setstate(chance.getstate())
            something_goes_wrong(by_itself, each)
            alone.append(by_itself)
            mishaps.append(something_goes_wrong(inst, each))
        ran.kind, truth = " + ".join(kinds), [suspects_of(each) for each in mishaps]
        if is_seen(_ideal(clean, first), _ideal(inst, first)):
            break
        ran.redrawn.append(ran.kind)
        if len(ran.redrawn) > MOST_DRAWN:
            raise ValueError(f"no {ran.kind} shows in a circuit of that size")
        chance.setstate(state)
        chance.random()
    meter = Meter(chance, chance.uniform(-0.02, 0.02), gain)
    belief = _follow(ran, patient, first, inst, meter, truth, mishaps)
    # Two faults are found one after the other: the first is whichever is accused.
    names = _names(truth, mishaps)
    _note(ran, belief, names)
    ran.at_place = bool(_accused_places(belief) & {place for each in mishaps for place in (each.leg, *each.points)})
    if faults == 2:
        ran.both_show = all(is_seen(_ideal(each, first), _ideal(inst, first)) for each in alone)
        ran.both = _both_named(ran, belief, patient, first, meter, truth, mishaps, alone)
    return ran


def _names(truth: list[set[str]], mishaps: list[Mishap]) -> set[str]:
    return set().union(*truth, _one_cut(mishaps)) if truth else {"sound"}


def _follow(
    ran: Ran,
    patient: Patient,
    first: list[Test],
    inst: Installed,
    meter: Meter,
    truth: list[set[str]],
    mishaps: list[Mishap],
) -> Belief:
    """Read a circuit and follow the proposals to their end, counting them."""
    belief = open_inquiry(patient, [meter.read(inst, test) for test in first])
    left, names = tied(belief), _names(truth, mishaps)
    ran.inside, ran.bits = any(names & {each, *belief.suspects[each].parts} for each in left), math.log2(len(left))
    while ran.tests < MOST_TESTS:
        proposals = propose_tests(belief)
        if not proposals:
            break
        test = proposals[0].test
        belief = go_on(belief, test, meter.read(inst, test))
        ran.tests, ran.effort = ran.tests + 1, ran.effort + test.effort
    return belief


def _both_named(
    ran: Ran,
    belief: Belief,
    patient: Patient,
    first: list[Test],
    meter: Meter,
    truth: list[set[str]],
    mishaps: list[Mishap],
    alone: list[Installed],
) -> bool:
    """Whether the second fault is accused as well: with the first, or when the first is put right and read again."""
    accused = set(accusation(belief) or ())
    accused |= {part for each in accused for part in belief.suspects[each].parts}
    found = [bool(each & accused) for each in truth]
    if all(found) or _one_cut(mishaps) & accused:
        return True
    if not any(found):
        return False
    other = found.index(False)
    again = Ran(ran.seed, ran.shape, ran.kind)
    after = _follow(again, patient, first, alone[other], meter, [truth[other]], [mishaps[other]])
    return bool(truth[other] & set(accusation(after) or ()))


def _accused_places(belief: Belief) -> set[str]:
    suspects = [belief.suspects[each] for each in accusation(belief) or ()]
    parts = [belief.suspects[part] for each in suspects for part in each.parts or (each.id,)]
    return {place for each in parts for place in each.id.split("/")}


def _ideal(inst: Installed, tests: list[Test]) -> list[float]:
    """Return what an ideal meter reads; insulation beyond 5 MΩ is as good as any."""
    return [min(each, 5.0) if test.insulation else each for test in tests for each in (inst.read(instruction(test)),)]


def _note(ran: Ran, belief: Belief, names: set[str]) -> None:
    ranked = list(belief.by_suspect.items())
    names = names | {each.id for each in belief.suspects.values() if names & set(each.parts)}
    group = standing(belief)
    order = [set(group), *({suspect} for suspect, _ in ranked if suspect not in group)]
    ran.place = next((at for at, one in enumerate(order) if names & one), 99)
    ran.alone = len(group) == 1
    accused = accusation(belief)
    ran.accused = accused is not None
    ran.right = accused is not None and bool(names & set(accused))
    if ran.kind == "sound":
        ran.right = ranked[0][0] in NO_FAULT
    ran.said = ", ".join(f"{suspect} {share:.2f}" for suspect, share in ranked[:4])
