"""Orders of a run: beside trying every one; of many places by moves, unproved and never far off."""

import unittest
from itertools import pairwise, permutations
from typing import Any

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from lumbek.core.routes.order import MOST_PROVED, order_of


def table(places: list[tuple[int, int]]) -> Any:
    """How far each place is from each other, along x and y."""
    at = np.array(places)
    return np.abs(at[:, None] - at[None]).sum(-1).astype(float)


def cost(costs: Any, run: tuple[int, ...], closed: bool) -> float:
    """What a run costs from the board."""
    return float(sum(costs[leg] for leg in pairwise([0, *run, *([0] if closed else [])])))


SPOT = st.tuples(st.integers(0, 900), st.integers(0, 900))


class Orders(unittest.TestCase):
    @settings(max_examples=30)
    @given(st.lists(SPOT, min_size=3, max_size=7, unique=True))
    def test_none_costs_less(self, places: list[tuple[int, int]]) -> None:
        costs, count = table(places), len(places)
        marks = [f"m{at}" for at in range(count)]
        tried = list(permutations(range(1, count)))
        least = {
            "ring": min(cost(costs, run, True) for run in tried),
            "radial": min(cost(costs, run, False) for run in tried),
            "two-radials": min(
                cost(costs, run[:cut], False) + cost(costs, run[cut:], False)
                for run in tried
                for cut in range(1, count - 1)
            ),
        }
        for shape, wanted in least.items():
            found = order_of(shape, marks, costs, costs)  # type: ignore[arg-type]
            assert found is not None
            self.assertEqual((found.cost, found.length_mm, found.is_proved), (wanted, wanted, True), shape)
            self.assertEqual(sorted(mark for run in found.runs for mark in run), marks[1:])
            self.assertEqual(len(found.runs), 2 if shape == "two-radials" else 1)

    def test_forty_places_are_proved_and_more_are_said_not_to_be(self) -> None:
        chance = np.random.default_rng(3)
        for count, proved in ((MOST_PROVED + 1, True), (MOST_PROVED + 12, False)):
            places = [(int(x), int(y)) for x, y in chance.integers(0, 5000, (count, 2))]
            found = order_of("ring", [str(at) for at in range(count)], table(places), table(places))
            assert found is not None
            self.assertEqual(found.is_proved, proved)
            self.assertEqual(sorted(found.runs[0], key=int), [str(at) for at in range(1, count)])

    def test_moves_come_near_the_least(self) -> None:
        """Places round a square: the least ring is its outline."""
        side = [(at * 100, 0) for at in range(15)] + [(1500, at * 100) for at in range(15)]
        places = side + [(1500 - x, 1500 - y) for x, y in side]
        shuffled = [places[at] for at in np.random.default_rng(5).permutation(len(places))]
        found = order_of("ring", [str(at) for at in range(60)], table(shuffled), table(shuffled))
        assert found is not None
        self.assertFalse(found.is_proved)
        self.assertLessEqual(found.length_mm, 6000 * 1.05)

    def test_what_cannot_be_reached_has_no_order(self) -> None:
        costs = table([(0, 0), (1, 0), (2, 0)])
        costs[0, 2] = costs[2, 0] = np.inf
        self.assertIsNone(order_of("ring", ["a", "b", "c"], costs, costs))
        self.assertIsNone(order_of("ring", ["a"], costs[:1, :1], costs[:1, :1]))
        self.assertIsNone(order_of("two-radials", ["a", "b"], costs[:2, :2], costs[:2, :2]))


if __name__ == "__main__":
    unittest.main()
