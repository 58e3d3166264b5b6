"""The ladder of practice: levels left after two that went well, and what was missed back again at growing gaps."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from lumbek.practice.ladder import WELL, Past, due_again, ladder, level_of
from lumbek.practice.make import KINDS


def past(*tries: tuple[int, int, int, int]) -> list[Past]:
    """Tries of isolation: level, seed, marks, day."""
    return [Past(kind="isolation", level=a, seed=b, marks=c, day=d) for a, b, c, d in tries]


class Levels(unittest.TestCase):
    def test_two_in_a_row_that_went_well_and_no_fewer(self) -> None:
        self.assertEqual(level_of([]), 1)
        self.assertEqual(level_of(past((1, 1, WELL, 0))), 1)
        self.assertEqual(level_of(past((1, 1, WELL, 0), (1, 2, WELL, 0))), 2)
        self.assertEqual(level_of(past((1, 1, WELL, 0), (1, 2, WELL - 1, 0), (1, 3, WELL, 0))), 1)
        self.assertEqual(level_of(past((1, 1, 100, 0), (1, 2, 100, 0), (1, 3, 100, 0), (2, 4, 100, 0))), 2)
        self.assertEqual(level_of(past((1, 1, 100, 0), (1, 2, 100, 0), (2, 3, 100, 0), (2, 4, 100, 0))), 3)

    def test_a_level_that_was_chosen_counts_and_five_is_the_last(self) -> None:
        self.assertEqual(level_of(past((4, 1, 20, 0))), 4)
        self.assertEqual(level_of(past(*((5, at, 100, 0) for at in range(6)))), 5)

    @given(st.lists(st.tuples(st.integers(1, 5), st.integers(0, 3), st.integers(0, 100)), max_size=12))
    def test_nobody_falls_down_the_ladder(self, tries: list[tuple[int, int, int]]) -> None:
        levels = [level_of(past(*((*each, 0) for each in tries[:upto]))) for upto in range(len(tries) + 1)]
        self.assertEqual(levels, sorted(levels))
        self.assertTrue(all(1 <= level <= 5 for level in levels))


class Again(unittest.TestCase):
    def test_missed_comes_again_the_next_day_and_gone_well_ever_later(self) -> None:
        missed = past((2, 7, 40, 10))
        self.assertIsNone(due_again(missed, 10))
        self.assertEqual(due_again(missed, 11), missed[0])
        once = past((2, 7, 40, 10), (2, 7, 90, 11))
        self.assertEqual([due_again(once, day) is not None for day in (13, 14)], [False, True])
        twice = [*once, *past((2, 7, 95, 14))]
        self.assertEqual([due_again(twice, day) is not None for day in (20, 21)], [False, True])
        thrice = [*twice, *past((2, 7, 95, 21))]
        self.assertEqual([due_again(thrice, day) is not None for day in (41, 42)], [False, True])
        self.assertIsNone(due_again([*thrice, *past((2, 7, 95, 42))], 1000))

    def test_missed_again_begins_anew_and_the_longest_overdue_comes_first(self) -> None:
        again = past((1, 1, 90, 0), (1, 1, 30, 5))
        self.assertEqual(due_again(again, 6), again[1])
        two = past((1, 1, 40, 3), (1, 2, 40, 1))
        self.assertEqual(due_again(two, 9), two[1])
        self.assertIsNone(due_again(past((1, 1, 90, 0)), 100))

    def test_each_kind_has_its_rung_and_hears_its_own_only(self) -> None:
        rungs = {each.kind: each for each in ladder(past((2, 7, 40, 10)), 11)}
        self.assertEqual(list(rungs), list(KINDS))
        self.assertEqual((rungs["isolation"].level, rungs["isolation"].seed), (2, 7))
        self.assertIn("40 of 100", rungs["isolation"].why)
        self.assertEqual((rungs["faults"].level, rungs["faults"].seed, rungs["faults"].done), (1, None, 0))
        later = {each.kind: each for each in ladder(past((2, 7, 90, 10), (1, 1, 99, 9)), 11)}["isolation"]
        self.assertEqual((later.level, later.seed, later.best, later.done), (2, None, 90, 2))


if __name__ == "__main__":
    unittest.main()
