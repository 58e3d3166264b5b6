"""Mishaps of a simulated house, found by the fault finder: one of each kind, and sound circuits."""

import unittest

from lumbek.simulated.mishaps import EVERYWHERE, IN_RINGS
from tests.support.trials import run as trial


class Trials(unittest.TestCase):
    """Small circuits by the simulator, which knows nothing of the suspects: one of each kind of mishap."""

    def test_each_kind_is_found(self) -> None:
        # A leg of another size is no more than meter and lengths are off in circuits as small as these.
        for number, kind in enumerate(each for each in (*EVERYWHERE, *IN_RINGS) if each != "wrong drum"):
            ran = trial(4000 + number, 1, 0.10, 0.0, kind, (6, 9))
            with self.subTest(kind, said=ran.said):
                self.assertTrue(ran.inside)
                self.assertEqual(ran.place, 0)
                # Metal between two points of a ring is told from metal between their neighbours by milliohms only.
                self.assertLess(ran.tests, 15 if kind == "metal touching" else 9)

    def test_sound_circuits_are_accused_of_nothing(self) -> None:
        for seed, off, gain in ((1, 0.10, 0.0), (2, 0.10, 0.0), (3, 0.20, 0.0), (4, 0.20, 0.0), (5, 0.10, 0.05)):
            ran = trial(seed, 0, off, gain, points=(6, 12))
            self.assertFalse(ran.accused, ran.said)
