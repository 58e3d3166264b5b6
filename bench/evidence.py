"""How much is left open for nothing: verdicts on Zs of circuits of unknown lengths against lengths that agree.

    python -m bench.evidence --count 400

Where the verdict is "cannot tell", lengths that agree with every reading are walked from the true ones, once towards a
greater and once towards a smaller loop. Where one such set of lengths passes and another fails, it was rightly left
open; where the walk finds none of one kind, it may have been left open for nothing. The walk finds no more than it
finds: the share printed is an upper bound.
"""

import argparse
import random

from lumbek.core.judging.check import Verdict
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.reading import Reading
from lumbek.core.network.measure import Wired, measure
from lumbek.core.network.readings import crossed, end_to_end, r1_plus_r2, r1_plus_rn
from lumbek.core.study.door import study_of
from lumbek.core.study.study import Study
from tests.core.test_evidence import MEASURED, unknown, zs
from tests.support.houses import BS
from tests.trials.test_thousands import Thousands, random_ring, random_tree

ZE_OHM, LIMIT_OHM, WARM = 0.21, 1.37, 1.2
# Copper and meter as they may be: what a set of lengths has to agree with.
LEAST_COPPER = 0.93
MOST_M = 150.0
STEPS = 1500


def says(study: Study, metres: dict[str, float], copper: float) -> Wired:
    """Return the circuit wired with these lengths."""
    per_m = {
        leg.id: {c: o / leg.length_m for c, o in study.wires.cores_ohm[leg.id].items()} for leg in study.circuit.legs
    }
    cores = {leg: {core: ohm * metres[leg] * copper for core, ohm in each.items()} for leg, each in per_m.items()}
    return Wired(study.wires.wiring, study.wires.wiring.ohms(cores))


def agrees(study: Study, wired: Wired, readings: list[Reading]) -> bool:
    """Whether every reading lies within its band of what these lengths would read."""
    ends = study.wires.ring_ends
    for each in readings:
        if each.quantity in ("r1", "rn", "r2"):
            ohm = measure(wired, end_to_end(ends, {"r1": "L", "rn": "N", "r2": "E"}[each.quantity]))
        elif each.quantity == "cross-le":
            ohm = measure(wired, crossed(ends, "E", each.point))
        elif each.quantity == "r1+rn":
            ohm = measure(wired, r1_plus_rn(each.point))
        else:
            ohm = measure(wired, r1_plus_r2(each.point)) + (ZE_OHM if each.quantity == "zs" else 0.0)
        band = 0.05 * each.value + 0.055 if each.quantity == "zs" else 0.02 * each.value + 0.045
        if abs(each.value - ohm) > band:
            return False
    return True


def worst(study: Study, metres: dict[str, float]) -> float:
    """Return the greatest hot loop as a part of its limit, of full copper."""
    wired = says(study, metres, 1.0)
    loop = max(measure(wired, r1_plus_r2(each)) for each in study.wires.points)
    return (ZE_OHM + WARM * loop) / LIMIT_OHM


def reaches(rng: random.Random, study: Study, metres: dict[str, float], readings: list[Reading], up: bool) -> bool:
    """Whether lengths that agree are found on the other side of the limit."""
    best, at = worst(study, metres), dict(metres)
    # What nothing was read behind may be as long as all unknown legs together, or of no length.
    spare = MOST_M - sum(metres.values())
    for leg, length in metres.items():
        for part in (1.0, 0.5, 0.25, 0.1):
            trial = {**metres, leg: length + part * spare if up else length * (1 - part)}
            if (worst(study, trial) > 1.0) == up and agrees(study, says(study, trial, 1.0), readings):
                return True
    for _ in range(STEPS):
        if (best > 1.0) == up:
            return True
        step = rng.choice((0.05, 0.2, 0.5))
        trial = {leg: max(0.0, length * (1 + rng.gauss(0, step)) + rng.gauss(0, step)) for leg, length in at.items()}
        some = rng.random() < 0.6 and rng.choice(list(trial))
        if some:
            trial = {**at, some: trial[some]}
        found = worst(study, trial)
        nearer = (found > best) == up and sum(trial.values()) <= MOST_M
        if nearer and any(agrees(study, says(study, trial, each), readings) for each in (1.0, 0.965, LEAST_COPPER)):
            best, at = found, trial
    return (best > 1.0) == up


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=400)
    parser.add_argument("--seed", type=int, default=11)
    given = parser.parse_args()
    rng, tests = random.Random(given.seed), Thousands()
    counts, needless = dict.fromkeys(("pass", "fail", "cannot-tell", "other"), 0), 0
    for _ in range(given.count):
        circuit: Circuit = random_tree(rng) if rng.random() < 0.5 else random_ring(rng)
        study = study_of(BS, MEASURED, circuit).longest
        metres = {leg.id: leg.length_m or 0.0 for leg in circuit.legs}
        readings = tests.taken(rng, study, says(study, metres, rng.uniform(0.94, 1.0)))
        bare = unknown(circuit.model_copy(update={"state": "as-found"}), set(metres))
        found = zs(bare, *readings)
        if found.verdict is not Verdict.CANNOT_TELL:
            counts[found.verdict.value if found.verdict in (Verdict.PASS, Verdict.FAIL) else "other"] += 1
            continue
        counts["cannot-tell"] += 1
        up = worst(study, metres) <= 1.0
        needless += not reaches(rng, study, metres, readings, up)
    print(f"{given.count} circuits: {counts}")
    print(f"left open though no lengths that agree were found on the other side: {needless}")


if __name__ == "__main__":
    main()
