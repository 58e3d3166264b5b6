"""The least wiring of random walls, beside trying everything."""

import random
import unittest

from lumbek.core.judging.check import Verdict
from lumbek.core.switching.prove import holds
from lumbek.core.switching.wire import wire
from tests.support.houses import BS
from tests.support.lighting import (
    chooser,
    least_by_trying,
    random_scheme,
    second_proof,
)

PRICES = {2: 1.0, 3: 1.45}


class Least(unittest.TestCase):
    def test_the_least_is_that_of_trying_everything(self) -> None:
        chance = random.Random(20260731)
        methods: dict[str, int] = {}
        for count in range(200):
            circuit = random_scheme(chance)
            best = chooser(circuit).best()
            assert best is not None
            tried = least_by_trying(circuit, PRICES)
            self.assertAlmostEqual(best.price.cable_m, tried, places=6, msg=str(circuit.scheme))
            for option in best.options:
                methods[option.method] = methods.get(option.method, 0) + 1
            found = wire(BS, chooser(circuit), best)
            self.assertEqual(second_proof(found), [], count)
            self.assertIs(holds(BS, {3: found})[0], Verdict.PASS, count)
            # What was priced is what is laid.
            laid = sum(PRICES[len(found.cable_of(leg).core_names) - 1] * (leg.length_m or 0) for leg in found.legs[1:])
            self.assertAlmostEqual(laid, tried, places=6)
        self.assertGreater(methods["commons-joined"], 20)
        self.assertGreater(methods["commons-at-ends"], 50)
