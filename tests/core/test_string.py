"""Taut strings in a room: what stands in their way, what they go round, and how long they are."""

import unittest
from fractions import Fraction
from itertools import product
from math import hypot, inf

from hypothesis import given
from hypothesis import strategies as st

from lumbek.core.plan.commands import Measure
from lumbek.core.plan.outline import Corner
from lumbek.core.plan.string import Rectangle, Strings, _crosses, _part_at, distance_mm
from tests.support.plans import after, plan

WIDE, DEEP = 6, 4
SQUARE = "4.00 n, 4.00 e, 4.00 s, 4.00 w"
spots = st.tuples(st.integers(-3, 9), st.integers(-3, 7))


def rectangle(turned: int = 0, at: tuple[float, float] = (0, 0), wide: float = WIDE, deep: float = DEEP) -> Rectangle:
    """A rectangle whose left corner is there; turned by so many right angles against the clock."""
    right, out = ((1, 0), (0, 1), (-1, 0), (0, -1))[turned], ((0, 1), (-1, 0), (0, -1), (1, 0))[turned]
    return Rectangle(Corner(*at), Corner(*right), Corner(*out), wide, deep)


def goes_through(a: tuple[int, int], b: tuple[int, int]) -> bool:
    """Whether a stretch, or a spot, is in part inside the rectangle, its edge left out: by fractions, exactly."""
    least, most = Fraction(0), Fraction(1)
    for start, end, size in ((a[0], b[0], WIDE), (a[1], b[1], DEEP)):
        if start == end:
            if not 0 < start < size:
                return False
            continue
        ends = sorted((Fraction(-start, end - start), Fraction(size - start, end - start)))
        least, most = max(least, ends[0]), min(most, ends[1])
    return least < most


class InTheWay(unittest.TestCase):
    @given(spots, spots, st.integers(0, 3), st.tuples(st.integers(-50, 50), st.integers(-50, 50)))
    def test_a_stretch_goes_through_or_only_along(
        self, a: tuple[int, int], b: tuple[int, int], turned: int, at: tuple[int, int]
    ) -> None:
        there = rectangle(turned, at)
        one, other = there._at(*a), there._at(*b)
        for ends in ((one, other), (other, one)):
            self.assertEqual(there.is_crossed(*ends), goes_through(a, b))

    def test_the_nearest_of_a_rectangle_and_of_a_stretch(self) -> None:
        for spot, nearest in (((-3, -4), (0, 0)), ((3, 9), (3, 4)), ((9, 8), (6, 4)), ((2, 1), (2, 1))):
            self.assertEqual(rectangle().nearest(Corner(*spot)), nearest)
        a, b = Corner(0, 0), Corner(10, 0)
        for spot, far in (((4, 3), 3), ((-3, 4), 5), ((13, -4), 5), ((7, 0), 0)):
            self.assertEqual(distance_mm(Corner(*spot), a, b), far)
        self.assertEqual(distance_mm(Corner(3, 4), a, a), 5)

    def test_where_a_spot_lies_on_a_stretch(self) -> None:
        a, b = Corner(0, 0), Corner(2000, 0)
        for spot, part in (
            ((500, 0), 0.25),
            ((500, 0.0009), 0.25),
            ((500, 0.0011), None),
            ((0, 0), None),
            ((2000, 0), None),
            ((-1, 0), None),
            ((500, 900), None),
        ):
            self.assertEqual(_part_at(a, b, Corner(*spot)), part, spot)

    def test_stretches_cross_in_the_middle_of_both(self) -> None:
        a, b = Corner(0, 0), Corner(4, 0)
        for c, d, cross in (
            ((2, -1), (2, 1), True),
            ((2, 0), (2, 1), False),
            ((0, -1), (0, 1), False),
            ((5, -1), (5, 1), False),
            ((1, 0), (3, 0), False),
        ):
            for one, other in ((Corner(*c), Corner(*d)), (Corner(*d), Corner(*c))):
                self.assertEqual((_crosses(a, b, one, other), _crosses(one, other, a, b)), (cross, cross), (c, d))


class Rooms(unittest.TestCase):
    def strings(self, walls: str, *in_the_way: Rectangle) -> Strings:
        outline = after(plan({"Room 4 x 4": []}), Measure(room="room", typed=walls)).rooms[0].outline
        assert outline is not None
        return Strings(outline, in_the_way)

    def test_round_a_partition_by_its_free_end_and_never_behind_the_other(self) -> None:
        # From the wall in the west three metres into a room of four by four, at half its depth.
        wall = rectangle(0, (-10, 1950), 3010, 100)
        room = self.strings(SQUARE, wall)
        below, above = Corner(500, 1000), Corner(500, 3000)
        round_it = hypot(2500, 950) * 2 + 100
        self.assertAlmostEqual(room.between_mm(below, above), round_it)
        self.assertAlmostEqual(room.between_mm(above, below), round_it)
        # Past its end one sees straight across.
        self.assertEqual(room.between_mm(Corner(3500, 1000), Corner(3500, 3000)), 2000)
        # From wall to wall nothing gets through.
        shut = self.strings(SQUARE, rectangle(0, (-10, 1950), 4020, 100))
        self.assertEqual(shut.between_mm(below, above), inf)
        self.assertEqual(shut.between_mm(below, Corner(3500, 1000)), 3000)

    def test_a_string_is_never_shorter_than_the_straight_line_and_the_same_both_ways(self) -> None:
        room = self.strings("4.00 e, 2.00 n, 1.50 w, 1.00 n, 2.50 w, 3.00 s", rectangle(0, (1000, 800), 500, 1200))
        spots = [Corner(x, y) for x, y in product((300, 1700, 2400, 3800), (300, 1500, 2200, 2800))]
        inside = [each for each in spots if room.holds(each)]
        self.assertGreater(len(inside), 8)
        for one, other in product(inside, inside):
            long_mm = room.between_mm(one, other)
            straight = hypot(other.x - one.x, other.y - one.y)
            self.assertAlmostEqual(long_mm, room.between_mm(other, one))
            self.assertGreaterEqual(long_mm, straight - 1e-9)
            self.assertEqual(abs(long_mm - straight) < 1e-6, room.sees(one, other), (one, other))
            for third in inside:
                self.assertLessEqual(long_mm, room.between_mm(one, third) + room.between_mm(third, other) + 1e-6)
