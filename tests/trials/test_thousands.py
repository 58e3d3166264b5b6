"""Verdicts by readings alone, on circuits of unknown lengths that were simulated."""

import random
import unittest

from lumbek.core.judging.check import Verdict
from lumbek.core.model.circuit import Circuit
from lumbek.core.network.measure import Wired, measure
from lumbek.core.network.readings import crossed, end_to_end, r1_plus_r2, r1_plus_rn
from lumbek.core.study.door import study_of
from tests.core.test_evidence import MEASURED, unknown, zs
from tests.support.houses import BS, leg, point, read, run, with_spur
from tests.support.stated import a_circuit


class Thousands(unittest.TestCase):
    """Circuits of unknown lengths with simulated readings: none that fails passes, hardly any is left open for nothing.

    What is true is worked out on the network with the lengths that the simulation has; a bad joint adds ohms in line or
    cpc, so that a loop may fail that the cable alone would pass.
    """

    def test_none_passes_that_fails_and_none_fails_that_is_sound(self) -> None:
        rng = random.Random(7)
        counts: dict[str, int] = {}
        for _ in range(600):
            circuit = random_tree(rng) if rng.random() < 0.5 else random_ring(rng)
            joint = joint_in(rng, circuit) if rng.random() < 0.33 else None
            verdict, sure = self.judged(rng, circuit, joint)
            counts[verdict] = counts.get(verdict, 0) + 1
            if verdict == "pass":
                self.assertTrue(sure <= 1.0 + 1e-9, (circuit.legs, joint, sure))
            if verdict == "fail" and joint is None:
                self.assertGreater(sure, 1.0, circuit.legs)
        self.assertGreater(counts["pass"], 200, counts)
        self.assertGreater(counts.get("fail", 0), 20, counts)

    def judged(self, rng: random.Random, circuit: Circuit, joint: tuple[str, str, float] | None) -> tuple[str, float]:
        """Return the verdict on Zs by readings alone, and the true Zs as a part of its limit, hot."""
        study = study_of(BS, MEASURED, circuit).longest
        ohms = {leg_id: dict(cores) for leg_id, cores in study.wires.cores_ohm.items()}
        copper = {leg_id: rng.uniform(0.94, 1.0) for leg_id in ohms}
        for leg_id, cores in ohms.items():
            for core in cores:
                cores[core] *= copper[leg_id]
        cold = {leg_id: dict(cores) for leg_id, cores in ohms.items()}
        if joint is not None:
            cold[joint[0]][joint[1]] += joint[2]
        wired = Wired(study.wires.wiring, study.wires.wiring.ohms(cold))
        hot = {leg_id: {core: ohm * 1.2 for core, ohm in cores.items()} for leg_id, cores in ohms.items()}
        if joint is not None:
            hot[joint[0]][joint[1]] += joint[2]
        heated = Wired(study.wires.wiring, study.wires.wiring.ohms(hot))
        worst = max(0.21 + measure(heated, r1_plus_r2(each)) for each in study.wires.points) / 1.37
        taken = self.taken(rng, study, wired)
        bare = unknown(circuit.model_copy(update={"state": "as-found"}), {each.id for each in circuit.legs})
        found = zs(bare, *taken)
        # An RCD that serves passes a long cable over the breaker's limit; that is no false pass, nor is it here.
        if found.verdict is Verdict.PASS and found.limit is not None and found.limit > 100:
            return "rcd", worst
        return found.verdict.value, worst

    def taken(self, rng, study, wired):
        def dead(ohm: float) -> float:
            return round(max(0.0, ohm * rng.uniform(0.985, 1.015) + rng.uniform(-0.03, 0.03)), 2)

        found = []
        if study.wires.ring_ends is not None:
            ends = study.wires.ring_ends
            found = [
                read(q, dead(measure(wired, end_to_end(ends, c)))) for q, c in (("r1", "L"), ("rn", "N"), ("r2", "E"))
            ]
            for each in study.wires.points:
                if rng.random() < 0.7:
                    found.append(read("cross-le", dead(measure(wired, crossed(ends, "E", each))), each))
        for each in study.wires.points:
            if study.wires.ring_ends is None and rng.random() < 0.7:
                found.append(read("r1+r2", dead(measure(wired, r1_plus_r2(each))), each))
            if rng.random() < 0.2:
                found.append(read("r1+rn", dead(measure(wired, r1_plus_rn(each))), each))
            if rng.random() < 0.3:
                live = (0.21 + measure(wired, r1_plus_r2(each))) * rng.uniform(0.96, 1.04) + rng.uniform(-0.03, 0.03)
                found.append(read("zs", round(max(0.0, live), 2), each))
        return found


def random_tree(rng: random.Random) -> Circuit:
    count = rng.randint(1, 7)
    legs = []
    for at in range(1, count + 1):
        near = "board" if at == 1 else rng.choice([f"P{i}" for i in range(1, at)])
        legs.append(leg(f"L{at}", near, f"P{at}", round(rng.uniform(1, 22), 1)))
    points = tuple(point(f"P{at}") for at in range(1, count + 1))
    return a_circuit(points=points, legs=tuple(legs))


def random_ring(rng: random.Random) -> Circuit:
    lengths = [round(rng.uniform(1, 18), 1) for _ in range(rng.randint(3, 9))]
    circuit = run(*lengths, back=round(rng.uniform(1, 20), 1))
    for at in range(rng.randint(0, 2)):
        circuit = with_spur(circuit, f"P{rng.randint(1, len(lengths))}", f"S{at}", round(rng.uniform(1, 12), 1))
    return circuit


def joint_in(rng: random.Random, circuit: Circuit) -> tuple[str, str, float]:
    return rng.choice(circuit.legs).id, rng.choice("LE"), rng.choice([0.3, 0.8, 2.0, 10.0])
