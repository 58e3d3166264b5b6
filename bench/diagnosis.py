"""How well faults are found: seeded circuits with one hidden fault, sound ones, two faults, a meter that reads high.

    python -m bench.diagnosis              500 faults, 300 sound, 300 with lengths off by 20 %, pairs, a meter 5 % high
    python -m bench.diagnosis --count 60   fewer of each
    python -m bench.diagnosis --speed      ranking and proposing for a ring with 20 points

The simulator (`lumbek.standins`) shares no code, no figure and no list of faults with the diagnosis. Everything follows
from the seed that is printed. Noise is Gaussian with 2 % + 0.02 Ω as its standard deviation, which is harsher than a
meter that stays within that.
"""

import argparse
import math
import random
import time
from collections import defaultdict
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field
from typing import Any

from lumbek.core.diagnosis.anew import read_anew
from lumbek.core.diagnosis.belief import Belief, Took, begin
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
from lumbek.standins.installed import Installed
from lumbek.standins.mishaps import EVERYWHERE, IN_RINGS, Mishap, something_goes_wrong

BOOK = load_rulebook("bs7671")
SUPPLY = Supply(earthing="TN-C-S", ze_ohm=0.21)
CPC = {2.5: 1.5, 1.5: 1.0, 1.0: 1.0}
MOST_TESTS = 14


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
    redrawn: list[str] = field(default_factory=list)
    said: str = ""


def draw(chance: random.Random) -> tuple[Circuit, dict[str, Any], str]:
    """Return a circuit as drawn, and as the simulator knows it."""
    shape, count = chance.choice(("ring", "radial")), chance.randint(8, 30)
    mm2 = 2.5 if shape == "ring" else chance.choice((1.0, 1.5, 2.5))
    points = [f"p{at}" for at in range(1, count + 1)]
    stops = ["board", *points, *(["board"] if shape == "ring" else [])]
    metres = [round(chance.uniform(2, 9), 1) for _ in stops[1:]]
    legs = [
        {"id": f"L{at}", "a": a, "b": b, "length_m": m, "line_mm2": mm2, "cpc_mm2": CPC[mm2]}
        for at, (a, b, m) in enumerate(zip(stops, stops[1:], metres, strict=False), start=1)
    ]
    circuit = Circuit(
        cable=Cable(csa_mm2=mm2),
        points=tuple(Point(id=each, kind="socket-twin") for each in points),
        legs=tuple(Leg(id=x["id"], a=x["a"], b=x["b"], segments=(Segment(length_m=x["length_m"]),)) for x in legs),
    )
    ring = [legs[0]["id"], legs[-1]["id"]] if shape == "ring" else None
    return circuit, {"ring": ring, "points": points, "legs": legs}, shape


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
        "left plugged in": {f"load-left-in/{cores}/{points[0]}" if points else ""},
        "leaking load": {f"load-fault/{cores}/{points[0]}" if points else ""},
        "wrong drum": {f"wrong-size/{mishap.mm2:g}/{leg}"},
        "metal touching": {f"parallel-earth/{'/'.join(points)}"},
        "rings mixed up": {"rings-crossed"},
        "cross cable": {f"bridged/{'/'.join(points)}"},
        "left off the ring": {f"not-as-drawn/{'/'.join(points)}/1"},
    }[mishap.kind]


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


def run(seed: int, faults: int, length_off: float, gain: float) -> Ran:
    """Hide something in a circuit, read it, follow the proposals to their end."""
    chance = random.Random(seed)
    circuit, document, shape = draw(chance)
    patient = Patient(study_of(BOOK, SUPPLY, circuit).middle)
    catalogue = Catalogue(patient)
    first = [catalogue.test(each) for each in first_tests(patient)]
    ran = Ran(seed, shape, "sound")
    truth: list[set[str]] = []
    while True:
        state = chance.getstate()
        inst = Installed(document, chance, length_off)
        if not faults:
            break
        sound = [min(each, 5.0) if test.insulation else each for test, each in _ideal(inst, first)]
        kinds = [chance.choice(EVERYWHERE + (IN_RINGS if shape == "ring" else ())) for _ in range(faults)]
        mishaps = [something_goes_wrong(inst, kind) for kind in kinds]
        ran.kind, truth = " + ".join(kinds), [suspects_of(each) for each in mishaps]
        # Insulation beyond 5 MΩ is as good as any.
        if is_seen(sound, [min(each, 5.0) if test.insulation else each for test, each in _ideal(inst, first)]):
            break
        ran.redrawn.append(ran.kind)
        chance.setstate(state)
        chance.random()
    meter = Meter(chance, chance.uniform(-0.02, 0.02), gain)
    belief = open_inquiry(patient, [meter.read(inst, test) for test in first])
    left = tied(belief)
    # Two faults are found one after the other: the first is whichever is accused.
    names = set().union(*truth) if truth else {"sound"}
    ran.inside, ran.bits = any(names & {each, *belief.suspects[each].parts} for each in left), math.log2(len(left))
    while ran.tests < MOST_TESTS:
        proposals = propose_tests(belief)
        if not proposals:
            break
        test = proposals[0].test
        belief = go_on(belief, test, meter.read(inst, test))
        ran.tests, ran.effort = ran.tests + 1, ran.effort + test.effort
    _note(ran, belief, names)
    return ran


def _ideal(inst: Installed, tests: list[Test]) -> list[tuple[Test, float]]:
    return [(test, inst.read(instruction(test))) for test in tests]


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


def _trial(task: tuple[int, int, float, float]) -> Ran:
    return run(*task)


def report(title: str, ran: list[Ran], verbose: bool) -> None:
    """Print how a trial went, by kind."""
    count = len(ran)
    print(f"\n{title}: {count} circuits")
    if ran[0].kind == "sound":
        accused = sum(each.accused for each in ran)
        print(f"  accused {accused} of {count} ({accused / count:.1%})")
    else:
        by_kind: dict[str, list[Ran]] = defaultdict(list)
        for each in ran:
            by_kind[f"{each.shape}: {each.kind}" if "+" not in each.kind else each.shape].append(each)
        print(f"  {'':32}{'count':>6}{'first':>7}{'in 3':>7}{'inside':>8}{'tests':>7}")
        for kind, some in sorted(by_kind.items()):
            _line(kind, some)
        _line("all", ran)
        tests, bits = sum(each.tests for each in ran), sum(each.bits for each in ran)
        many = sorted(each.tests for each in ran)[max(0, math.ceil(0.95 * count) - 1)]
        ratio = tests / max(bits, 1e-9)
        print(f"  tests to log2 of suspects left {ratio:.2f}; 95th percentile {many}; mean {tests / count:.1f}")
        print(f"  effort to log2 {sum(each.effort for each in ran) / max(bits, 1e-9):.2f}")
        wrong = sum(each.accused and not each.right for each in ran)
        print(f"  wrongly accused {wrong} ({wrong / count:.1%})")
        drawn = [kind for each in ran for kind in each.redrawn]
        print(
            f"  drawn anew, because no first reading shows them: {len(drawn)} "
            + str({k: drawn.count(k) for k in set(drawn)} if "+" not in ran[0].kind else "")
        )
    if verbose:
        for each in ran:
            if (each.kind != "sound" and (each.place or not each.inside)) or (each.kind == "sound" and each.accused):
                print(
                    "   ",
                    each.seed,
                    each.shape,
                    each.kind,
                    each.tests,
                    "inside" if each.inside else "OUTSIDE",
                    each.place,
                    each.said,
                )


def _line(kind: str, some: list[Ran]) -> None:
    count = len(some)
    first, three = sum(each.place == 0 for each in some) / count, sum(each.place < 3 for each in some) / count
    inside, tests = sum(each.inside for each in some) / count, sum(each.tests for each in some) / count
    print(f"  {kind:32}{count:6}{first:7.1%}{three:7.1%}{inside:8.1%}{tests:7.1f}")


def speed() -> None:
    """Print how long ranking and proposing take for a ring with 20 points, and solving every network anew."""
    chance = random.Random(7)
    while True:
        circuit, document, shape = draw(chance)
        if shape == "ring" and len(circuit.points) == 20:
            break
    inst = Installed(document, chance)
    inst.breaks("L8", "N")
    patient = Patient(study_of(BOOK, SUPPLY, circuit).middle)
    catalogue = Catalogue(patient)
    meter = Meter(chance, 0.0)
    took = [meter.read(inst, catalogue.test(each)) for each in first_tests(patient)]
    times: dict[str, float] = {"rank": 9e9, "propose": 9e9}
    for _ in range(3):
        begun = time.perf_counter()
        belief = begin(patient, took)
        _ = belief.by_suspect
        times["rank"] = min(times["rank"], time.perf_counter() - begun)
        begun = time.perf_counter()
        propose_tests(belief.kept())
        times["propose"] = min(times["propose"], time.perf_counter() - begun)
    anew = solve_each_anew(belief)
    print(f"ring with 20 points: {len(belief.suspects)} suspects, {len(belief.hypotheses)} hypotheses")
    print(f"  ranked in {times['rank']:.2f} s; {times['rank'] / anew:.3f} of solving each anew ({anew:.1f} s)")
    print(f"  next measurement in {times['propose']:.2f} s")


def solve_each_anew(belief: Belief) -> float:
    """Return how long it takes to set each hypothesis' network up, solve it and read it, in s (from a sample)."""
    some = belief.hypotheses[:: max(1, len(belief.hypotheses) // 200)]
    tests = [test for test, _ in belief.taken if not test.insulation]
    begun = time.perf_counter()
    for each in some:
        read_anew(belief.patient, each, tests)
    return (time.perf_counter() - begun) * len(belief.hypotheses) / len(some)


def main() -> None:
    """Run the trials."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--count", type=int, default=500)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--speed", action="store_true")
    parser.add_argument("--only", default="")
    parser.add_argument("--verbose", action="store_true")
    given = parser.parse_args()
    if given.speed:
        speed()
        return
    some = max(1, given.count * 3 // 5)
    trials = {
        "one": ("One hidden fault", given.count, 1, 0.10, 0.0),
        "sound": ("Sound", some, 0, 0.10, 0.0),
        "sound20": ("Sound, lengths off by 20 %", some, 0, 0.20, 0.0),
        "two": ("Two faults at once", max(1, given.count // 5), 2, 0.10, 0.0),
        "high": ("One fault, a meter 5 % high", max(1, given.count // 5), 1, 0.10, 0.05),
        "soundhigh": ("Sound, a meter 5 % high", max(1, given.count // 5), 0, 0.10, 0.05),
    }
    print(f"seed {given.seed}")
    with ProcessPoolExecutor() as pool:
        for at, (key, (title, count, faults, off, gain)) in enumerate(trials.items()):
            if not given.only or key in given.only.split(","):
                tasks = [(given.seed * 1_000_000 + at * 100_000 + each, faults, off, gain) for each in range(count)]
                report(title, list(pool.map(_trial, tasks, chunksize=2)), given.verbose)


if __name__ == "__main__":
    main()
