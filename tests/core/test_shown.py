"""Figures as they are shown: rounded against the user, and never so that a failure looks like a pass."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from lumbek.core.judging.check import Verdict, hold
from lumbek.core.numbers import ceil_to, floor_to, show_held, show_margin
from tests.support.houses import IEC, check, judged, run
from tests.support.random_jobs import designs
from tests.support.stated import a_device

figures = st.one_of(st.floats(0.001, 2000), st.integers(1, 500).map(float))


class Held(unittest.TestCase):
    @given(figures, st.one_of(figures, st.floats(-1e-6, 1e-6)), st.sampled_from(["at most", "at least"]))
    def test_the_texts_stand_to_each_other_as_the_verdict_has_it(self, value: float, other: float, sense) -> None:
        limit = value + other if abs(other) <= 1e-6 else other
        met = hold(value, limit, sense)[0] is Verdict.PASS
        shown_value, shown_limit = map(float, show_held(value, limit, sense, met, 2))
        self.assertEqual(shown_value <= shown_limit if sense == "at most" else shown_value >= shown_limit, met)
        # Never in favour: what is there is no better than it is, what is asked no less.
        hair = 1e-9 * max(1, abs(value), abs(limit))
        if sense == "at most":
            self.assertGreaterEqual(shown_value, value - hair)
            self.assertLessEqual(shown_limit, limit + hair)
        else:
            self.assertLessEqual(shown_value, value + hair)
            self.assertGreaterEqual(shown_limit, limit - hair)

    def test_a_failure_never_looks_like_its_limit(self) -> None:
        self.assertEqual(show_held(1.096, 1.0956, "at most", False, 2), ("1.10", "1.09"))
        self.assertEqual(show_held(1.37, 1.37, "at most", True, 2), ("1.37", "1.37"))
        self.assertEqual(show_held(27.04, 32, "at least", False, 1), ("27.0", "32"))
        self.assertEqual(show_held(0.1 * 3 * 10, 3, "at most", True, 1), ("3", "3"))
        self.assertEqual(show_held(23 - 4e-15, 27 + 4e-15, "at most", True, 1), ("23", "27"))
        self.assertEqual(show_held(1.094, 1.096, "at most", True, 2), ("1.094", "1.096"))

    def test_margins(self) -> None:
        for margin, sense, words in (
            (0.129, "at most", "12 % left"),
            (-0.001, "at most", "1 % over"),
            (-0.121, "at least", "13 % short"),
            (2.99, "at least", "3 × enough"),
            (0.0, "at most", "0 % left"),
        ):
            self.assertEqual(show_margin(margin, sense), words)

    @given(st.floats(-1000, 1000), st.integers(0, 6))
    def test_floor_and_ceiling_enclose(self, value: float, decimals: int) -> None:
        self.assertLessEqual(floor_to(value, decimals), value + 1e-9)
        self.assertGreaterEqual(ceil_to(value, decimals), value - 1e-9)
        self.assertLessEqual(ceil_to(value, decimals) - floor_to(value, decimals), 10.0**-decimals + 1e-9)

    def test_binary_hairs_do_not_tip_a_last_place(self) -> None:
        self.assertEqual((floor_to(1.37 * 0.8, 3), ceil_to(1.1, 2), floor_to(0.57, 2)), (1.096, 1.1, 0.57))


class EveryCheck(unittest.TestCase):
    @given(designs)
    def test_what_is_shown_is_as_the_verdict_has_it(self, design) -> None:
        for each in judged(design).checks:
            if each.value is None or each.limit is None or each.sense is None:
                continue
            if each.verdict not in (Verdict.PASS, Verdict.FAIL) or each.id in ("shape", "spurs", "ring-rule", "rcd"):
                continue
            value, limit = float(each.shown_value), float(each.shown_limit)
            met = value <= limit if each.sense == "at most" else value >= limit
            self.assertEqual(met, each.verdict is Verdict.PASS, each)
            self.assertEqual(bool(each.shown_margin), each.margin is not None, each)

    def test_the_drawings_figures_are_texts_of_the_core(self) -> None:
        result = judged(run(9, 9.123, back=30, loads={"P1": 10.01}))
        point, leg = result.points[0].shown, result.legs[1].shown
        self.assertEqual((point.load, leg.length), ("10.1 A", "9.12 m"))
        self.assertEqual(point.zs, f"{ceil_to(result.points[0].zs_ohm, 2):.2f} Ω")
        self.assertTrue(point.margin.startswith("+"))
        over = judged(run(400, device=a_device(rating_a=20)))
        self.assertTrue(over.points[0].shown.margin.startswith("−"))
        self.assertEqual(judged(run(None)).points[0].shown.zs, "–")

    def test_a_limit_is_shown_rounded_down(self) -> None:
        zs = check(judged(run(5, device=a_device(rating_a=16)), rulebook=IEC), "zs")
        self.assertEqual((zs.limit, zs.shown_limit), (2.875, "2.87"))
