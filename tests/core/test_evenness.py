"""Rings by length against evenness: the share of an end by hand, and the front beside every ring tried one by one."""

import unittest
from itertools import pairwise, permutations
from math import ceil, inf

from hypothesis import given, settings
from hypothesis import strategies as st

from lumbek.core.routes.evenness import MOST_TRIED, ring_front, share_of
from lumbek.core.routes.orders import orders_of
from tests.core.test_routes import hall, routed


def length_and_share(trip: tuple[int, ...], table: list[list[float]]) -> tuple[float, float]:
    """A ring's length and its busier end, by adding up one load after the other."""
    whole = (0, *trip, 0)
    legs = [table[a][b] for a, b in pairwise(whole)]
    total, far, one = sum(legs), 0.0, 0.0
    for leg in legs[:-1]:
        far += leg
        one += (total - far) / total
    share = one / len(trip)
    return total, max(share, 1 - share)


class Evenness(unittest.TestCase):
    def test_the_current_divider_by_hand(self) -> None:
        # At 1 and 2 m of a ring of 10: 0.9 and 0.8 come by the near end.
        table = [[0, 1, 8], [1, 0, 1], [8, 1, 0]]
        self.assertAlmostEqual(share_of([1, 2], table), 0.85)
        self.assertAlmostEqual(share_of([2, 1], table), 0.85)
        self.assertAlmostEqual(share_of([1], [[0, 3], [3, 0]]), 0.5)

    @settings(max_examples=40)
    @given(st.integers(2, 5), st.data())
    def test_none_of_the_front_is_beaten_and_nothing_is_left_out(self, count: int, data: st.DataObject) -> None:
        spots = data.draw(
            st.lists(st.tuples(st.integers(0, 50), st.integers(0, 50)), min_size=count + 1, max_size=count + 1)
        )
        table = [[1.0 + abs(a - c) + abs(b - d) for c, d in spots] for a, b in spots]
        marks = [f"m{at}" for at in range(count + 1)]
        front = ring_front(marks, table, table)
        every = [
            (a, ceil(100 * b - 1e-9))
            for a, b in (length_and_share(trip, table) for trip in permutations(range(1, count + 1)))
        ]
        found = [(float(each.length_mm), each.busier_percent) for each in front]
        self.assertEqual(found[0][0], round(min(length for length, _ in every)))
        self.assertEqual(found[-1][1], min(share for _, share in every))
        for each, (length, percent) in zip(front, found, strict=True):
            trip = tuple(marks.index(mark) for mark in each.runs[0])
            own, share = length_and_share(trip, table)
            self.assertEqual((length, percent), (round(own), ceil(100 * share - 1e-9)))
            self.assertFalse([1 for a, b in every if a <= own + 1e-9 and b < percent], each)
        self.assertEqual([percent for _, percent in found], sorted((b for _, b in found), reverse=True))

    def test_too_many_or_not_reached_give_none(self) -> None:
        many = MOST_TRIED + 2
        table = [[float(a != b) for a in range(many)] for b in range(many)]
        self.assertEqual(ring_front([str(at) for at in range(many)], table, table), ())
        far = [[0, 1, inf], [1, 0, 1], [inf, 1, 0]]
        self.assertEqual(ring_front(["b", "x", "y"], far, far), ())

    def test_in_a_house_the_least_comes_first_and_evener_ones_take_more(self) -> None:
        places = hall(
            "board n left 0.20 at 1400", "socket n left 0.60 at 450", "socket n left 1.00 at 450",
            "socket n left 3.80 at 450", "socket s left 0.40 at 450",
        )  # fmt: skip
        found = orders_of(routed(places), ["socket-1", "socket-2", "socket-3", "socket-4"])
        self.assertEqual([each.shape for each in found[:3]], ["ring", "radial", "two-radials"])
        rings = [each for each in found if each.shape == "ring"]
        self.assertGreater(len(rings), 1)
        for one, other in pairwise(rings):
            assert one.busier_percent is not None and other.busier_percent is not None
            self.assertLess(other.busier_percent, one.busier_percent)
            self.assertGreaterEqual(other.cost, one.cost)
        self.assertTrue(all(each.busier_percent is None for each in found if each.shape != "ring"))

    def test_each_ring_is_shown_once_with_its_legs_and_what_is_left_at_their_ends(self) -> None:
        places = hall(
            "board n left 0.20 at 1400", "socket n left 1.00 at 450", "socket n left 2.20 at 450",
            "socket n left 3.50 at 450",
        )  # fmt: skip
        house = routed(places)
        rings = [each for each in orders_of(house, ["socket-1", "socket-2", "socket-3"]) if each.shape == "ring"]
        self.assertEqual(len({each.runs for each in rings}), len(rings))
        self.assertEqual(len({each.busier_percent for each in rings}), len(rings))
        for ring in rings:
            trip = ["board-1", *ring.runs[0], "board-1"]
            ways = [house.finder.way(one, other) for one, other in pairwise(trip)]
            # A metre at each end at the board, 300 mm at six others.
            self.assertEqual(ring.length_mm, sum(way.mm for way in ways if way is not None) + 2 * 1000 + 6 * 300)


if __name__ == "__main__":
    unittest.main()
