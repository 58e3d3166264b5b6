"""Light point by point, and grids of downlights that clear what is above the ceiling."""

import math
import unittest
from itertools import product

from hypothesis import example, given, settings
from hypothesis import strategies as st

from lumbek.core.model.plan import Outline
from lumbek.core.plan.grid import Barred, GridSpan, Nudged, axes_of, nudge
from lumbek.core.plan.light import LampAbove, direct_lx, intensity_cd, light_of
from lumbek.core.plan.tape import read_room, read_walls


class Light(unittest.TestCase):
    def test_the_middle_of_a_beam(self) -> None:
        self.assertAlmostEqual(intensity_cd(400, 36), 943, delta=1)
        self.assertAlmostEqual(intensity_cd(500, 60), 463, delta=1)
        # Straight below at 2 m: I / h²; at half the beam's angle half the intensity, by cos³ less.
        lamp = LampAbove(0, 0, 2400, 400, 36)
        self.assertAlmostEqual(direct_lx(lamp, 0, 0, 400), intensity_cd(400, 36) / 4)
        aside = 2000 * math.tan(math.radians(18))
        at_edge = intensity_cd(400, 36) / 2 * math.cos(math.radians(18)) ** 3 / 4
        self.assertAlmostEqual(direct_lx(lamp, aside, 0, 400), at_edge)
        self.assertEqual(direct_lx(lamp, 0, 0, 2400), 0)

    def test_a_lamp_gives_no_more_than_it_has(self) -> None:
        outline = read_room("Hall 9.00 x 9.00 h 2.40").outline
        found = light_of(outline, [LampAbove(4500, 4500, 2400, 1000, 60)], 0)
        assert found is not None
        wide, deep = found.cell_mm
        direct = sum((lx or 0) - found.reflected_lx for row in found.rows for lx in row if lx is not None)
        self.assertAlmostEqual(direct * wide * deep / 1e6, 1000, delta=25)
        self.assertLessEqual(max(wide, deep), 250)
        self.assertLess(found.least_lx, found.average_lx)
        self.assertAlmostEqual(found.uniformity, found.least_lx / found.average_lx)

    def test_what_is_round_the_corner_of_an_l_is_not_lit_by_it(self) -> None:
        outline = Outline(walls=read_walls("4.00 n, 4.00 e, 2.00 s, 2.00 w, 2.00 s, 2.00 w"))
        found = light_of(outline, [LampAbove(1000, 1000, 2400, 500, 100)], 0)
        assert found is not None
        dark = found.rows[8][15]
        self.assertAlmostEqual(dark or 0, found.reflected_lx)
        self.assertIsNone(found.rows[0][15])
        self.assertGreater(found.rows[4][4] or 0, found.reflected_lx)

    def test_no_lamp_no_light(self) -> None:
        self.assertIsNone(light_of(read_room("Hall 3 x 3").outline, [], 0))


def free(columns: tuple[int, ...], rows: tuple[int, ...], barred: list[Barred], clear: int) -> bool:
    for x, y, bar in product(columns, rows, barred):
        away = math.hypot(max(bar.left - x, 0, x - bar.right), max(bar.low - y, 0, y - bar.high))
        if away < clear:
            return False
    return True


def every_axis(span: GridSpan, most: int) -> list[tuple[int, ...]]:
    """Every even axis of whole millimetres between the walls, no lamp of it farther than a shift from its place."""
    found = []
    for first in range(span.low, span.high + 1):
        for spacing in range(1, span.high - span.low + 1) if span.lamps > 1 else [0]:
            places = tuple(first + spacing * at for at in range(span.lamps))
            near = all(abs(a - b) <= most for a, b in zip(places, span.ideal, strict=True))
            if places[-1] <= span.high and near:
                found.append(places)
    return found


def by_trying_all(
    across: GridSpan, up: GridSpan, barred: list[Barred], clear: int, most: int, least_unsymmetric: int = 0
) -> tuple[int, float] | None:
    """The least grid by trying every first place and spacing: how many axes are not symmetric, the greatest shift²."""

    def cost(span: GridSpan, places: tuple[int, ...]) -> tuple[int, float]:
        aside = abs((places[0] - span.low) - (span.high - places[-1]))
        return int(aside > 1), max(float(a - b) ** 2 for a, b in zip(places, span.ideal, strict=True))

    best = None
    for columns, rows in product(every_axis(across, most), every_axis(up, most)):
        if free(columns, rows, barred, clear):
            (a, m), (b, n) = cost(across, columns), cost(up, rows)
            if a + b >= least_unsymmetric:
                best = min(best or (9, 1e12), (a + b, m + n))
    return best


class Grid(unittest.TestCase):
    def check(self, found: Nudged, barred: list[Barred], clear: int) -> None:
        self.assertTrue(free(found.columns, found.rows, barred, clear))

    @given(st.integers(0, 30), st.integers(8, 60), st.integers(1, 5), st.integers(1, 40), st.none() | st.integers(1, 9))
    def test_every_axis_within_a_shift_and_no_other(self, low, wide, lamps, most, spacing) -> None:
        span = GridSpan(low, low + wide, lamps, spacing)
        found = axes_of(span, 2 * lamps, most)
        places = [found[at].places for at in range(len(found))]
        self.assertEqual(sorted(places), every_axis(span, most))
        symmetric = [each for each in places if abs((each[0] - low) - (low + wide - each[-1])) <= 1]
        only = axes_of(span, 2 * lamps, most, only_symmetric=True)
        self.assertEqual([only[at].places for at in range(len(only))], symmetric)

    def test_with_nothing_in_the_way_it_is_a_divided_span(self) -> None:
        (found,) = nudge(GridSpan(0, 4200, 3), GridSpan(0, 3000, 2), [], 50)
        self.assertEqual((found.columns, found.rows), ((700, 2100, 3500), (750, 2250)))
        self.assertEqual((found.greatest_mm, found.gave_way), (0, ()))

    def test_a_joist_on_the_middle_of_an_odd_row_costs_symmetry(self) -> None:
        joists = [Barred(2100 + 600 * at - 25, 2100 + 600 * at + 25, 0, 3000) for at in range(-3, 4)]
        found = nudge(GridSpan(0, 4200, 3), GridSpan(0, 3000, 2), joists, 60)
        self.assertEqual(found[0].gave_way, ("symmetry",))
        self.check(found[0], joists, 60)

    def test_a_dear_symmetric_grid_has_the_nearer_one_beside_it(self) -> None:
        joists = [Barred(left, left + 80, 0, 3000) for left in range(310, 3600, 600)]
        symmetric, other = nudge(GridSpan(0, 3600, 2), GridSpan(0, 3000, 2), joists, 55)
        self.assertEqual((symmetric.greatest_mm, symmetric.gave_way), (145, ()))
        self.assertEqual((other.columns, other.greatest_mm, other.gave_way), ((855, 2655), 45, ("symmetry",)))
        # What costs 60 mm is not dear yet: 100 and 40 mm, and a millimetre more.
        for off, beside in ((0, 1), (1, 2)):
            bars = [Barred(1000 - 40, 1000 + 100 + off, 0, 100), Barred(3000 - 40, 3000 + 100 + off, 0, 100)]
            self.assertEqual(len(nudge(GridSpan(0, 4000, 2), GridSpan(0, 100, 1), bars, 0)), beside)

    def test_touching_is_clear(self) -> None:
        bar = [Barred(0, 690 - 60, 0, 3000)]
        (found,) = nudge(GridSpan(0, 1380, 1), GridSpan(0, 3000, 1), bar, 60)
        self.assertEqual(found.columns, (690,))
        (moved,) = nudge(GridSpan(0, 1380, 1), GridSpan(0, 3000, 1), [Barred(0, 690 - 59, 0, 3000)], 60)
        self.assertNotEqual(moved.columns, (690,))

    def test_where_no_even_spacing_fits_each_goes_to_its_bay(self) -> None:
        bays = [Barred(left, left + 330, 0, 2000) for left in (-20, 420, 930, 1390, 1860, 2310)]
        found = nudge(GridSpan(0, 2600, 4), GridSpan(0, 2000, 1), bays, 40, 200)
        self.assertEqual(found[0].gave_way, ("symmetry", "even spacing"))
        self.check(found[0], bays, 40)
        self.assertEqual(nudge(GridSpan(0, 600, 1), GridSpan(0, 600, 1), [Barred(0, 600, 0, 600)], 40), ())

    @settings(max_examples=12)
    @given(
        st.integers(60, 90),
        st.integers(50, 70),
        st.integers(1, 3),
        st.integers(1, 2),
        st.lists(st.tuples(st.integers(0, 80), st.integers(0, 60), st.integers(1, 12), st.integers(1, 60)), max_size=4),
    )
    # A shift of 5.33 mm is more than 5 mm.
    @example(86, 50, 3, 1, [(42, 0, 2, 27)])
    def test_it_is_the_least_there_is(self, wide: int, deep: int, columns: int, rows: int, bars: list) -> None:
        barred = [Barred(x, x + w, y, y + h) for x, y, w, h in bars]
        across, up = GridSpan(0, wide, columns), GridSpan(0, deep, rows)
        best = by_trying_all(across, up, barred, 4, 5)
        found = nudge(across, up, barred, 4, 5)
        if best is None:
            self.assertTrue(not found or "even spacing" in found[0].gave_way)
            return
        self.check(found[0], barred, 4)
        self.assertEqual(found[0].greatest_mm, math.ceil(math.sqrt(best[1]) - 1e-9))
        self.assertEqual((best[0], bool(best[0])), (found[0].unsymmetric, "symmetry" in found[0].gave_way))

    @settings(max_examples=12)
    @given(st.integers(250, 300), st.integers(2, 3), st.integers(1, 30), st.integers(90, 130))
    @example(300, 2, 44, 140)
    def test_the_one_beside_is_the_least_that_is_not_symmetric(self, wide: int, lamps: int, at: int, on: int) -> None:
        # Two bars that do not mirror: what the symmetric grid has to go round, the other may stop short of.
        barred = [Barred(at, at + on, 0, 40), Barred(wide // 2 + at, wide // 2 + at + on, 0, 40)]
        across, up = GridSpan(0, wide, lamps), GridSpan(0, 40, 1)
        found = nudge(across, up, barred, 3, 130)
        if len(found) == 2:
            best = by_trying_all(across, up, barred, 3, 130, least_unsymmetric=1)
            assert best is not None
            self.assertEqual(found[1].greatest_mm, math.ceil(math.sqrt(best[1]) - 1e-9))
            self.assertGreater(found[0].greatest_mm - found[1].greatest_mm, 60)


if __name__ == "__main__":
    unittest.main()
