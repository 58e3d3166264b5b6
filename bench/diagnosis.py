"""How well faults are found: seeded circuits with one hidden fault, sound ones, two faults, a meter that reads high.

    python -m bench.diagnosis              500 faults, 300 sound, 300 with lengths off by 20 %, pairs, a meter 5 % high
    python -m bench.diagnosis --count 60   fewer of each
    python -m bench.diagnosis --speed      ranking and proposing, one break and two, beside inverting anew

The simulator (`lumbek.simulated`) shares no code, figure or list of faults with the diagnosis. Everything follows
from the seed that is printed. Noise is Gaussian with 2 % + 0.02 Ω as its standard deviation, which is harsher than a
meter that stays within that.
"""

import argparse
import math
import random
import time
from collections import defaultdict
from concurrent.futures import ProcessPoolExecutor

import numpy as np

from lumbek.core.diagnosis.belief import Belief, begin
from lumbek.core.diagnosis.catalogue import Catalogue, first_tests
from lumbek.core.diagnosis.inquiry import open_inquiry
from lumbek.core.diagnosis.next_test import propose_tests
from lumbek.core.diagnosis.patient import Patient
from lumbek.core.diagnosis.predict import predict
from lumbek.core.study.door import study_of
from lumbek.practice.hidden import Meter, draw
from lumbek.simulated.house import Installed
from tests.support.trials import BOOK, SUPPLY, Ran, run


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
        show = [each for each in ran if each.both_show]
        if show:
            both = sum(each.both for each in show)
            print(f"  neither hides the other in {len(show)}: both named in {both} ({both / len(show):.0%})")
        tests, bits = sum(each.tests for each in ran), sum(each.bits for each in ran)
        many = sorted(each.tests for each in ran)[max(0, math.ceil(0.95 * count) - 1)]
        ratio = tests / max(bits, 1e-9)
        print(f"  tests to log2 of suspects left {ratio:.2f}; 95th percentile {many}; mean {tests / count:.1f}")
        print(f"  effort to log2 {sum(each.effort for each in ran) / max(bits, 1e-9):.2f}")
        wrong = sum(each.accused and not each.right for each in ran)
        elsewhere = sum(each.accused and not each.right and not each.at_place for each in ran)
        print(f"  wrongly accused {elsewhere} ({elsewhere / count:.1%})")
        print(f"  accused of another fault at the right place {wrong - elsewhere}")
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
    """Print how long ranking and proposing take, in processor time, and what the same matrices cost inverted anew."""
    for count, pair in ((20, False), (16, True)):
        chance = random.Random(7)
        circuit, document, _ = draw(chance, (count, count), ("ring",))
        inst = Installed(document, chance)
        inst.breaks("L8", "N")
        if pair:
            inst.loosens(("L3", "E", "p3"), 14.0)
        patient = Patient(study_of(BOOK, SUPPLY, circuit).middle)
        catalogue = Catalogue(patient)
        meter = Meter(chance, 0.0)
        took = [meter.read(inst, catalogue.test(each)) for each in first_tests(patient)]
        # What may be a slip is read again: then no single fault explains both.
        while doubtful := (belief := open_inquiry(patient, took)).doubtful:
            took.append(meter.read(inst, belief.low[doubtful[0]][0]))
        times: dict[str, float] = {"rank": 9e9, "propose": 9e9}
        for _ in range(3):
            begun = time.process_time()
            belief = open_inquiry(patient, took)
            _ = belief.by_suspect
            times["rank"] = min(times["rank"], time.process_time() - begun)
            begun = time.process_time()
            propose_tests(belief)
            times["propose"] = min(times["propose"], time.process_time() - begun)
        whole = begin(patient, took)
        distinct, anew = inverted_anew(whole)
        begun = time.process_time()
        predict(patient, whole.hypotheses, [test for test, _ in whole.taken if not test.insulation])
        predicted = time.process_time() - begun
        what = "a break and a loose screw, looked for in pairs" if pair else "one break"
        left = f"{len(belief.suspects)} suspects, {len(belief.hypotheses)} hypotheses left"
        print(f"ring with {count} points, {what}: {left}")
        print(f"  ranked in {times['rank']:.2f} s of processor, next measurement in {times['propose']:.2f} s")
        print(
            f"  {len(whole.hypotheses)} hypotheses predicted in {predicted:.2f} s: {predicted / anew:.2f} of "
            f"inverting the matrices of the {distinct} that differ, one for each set-up ({anew:.2f} s)"
        )


def inverted_anew(belief: Belief) -> tuple[int, float]:
    """Return how many hypotheses differ in their network, and the processor time of inverting theirs anew, in s.

    Nothing but the inverses is counted: no putting together, no reading off. Each is as large as what is drawn.
    """
    patient = belief.patient
    keys = {(each.changes, each.exchanged, each.tails) for each in belief.hypotheses}
    setups = dict.fromkeys(test.how.setup for test, _ in belief.taken if not test.insulation)
    total = 0.0
    for setup in setups:
        laid = patient.laid(setup)
        matrix = np.eye(laid.size)
        for (a, b), ohm in zip(laid.ends.tolist(), patient.ohms, strict=True):
            matrix[[a, b], [a, b]] += 1 / ohm
            matrix[[a, b], [b, a]] -= 1 / ohm
        begun = time.process_time()
        for _ in range(200):
            np.linalg.inv(matrix)
        total += (time.process_time() - begun) / 200
    return len(keys), total * len(keys)


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
