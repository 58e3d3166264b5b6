"""Nothing that is said of a street of houses changes unsaid: each is held to what stands in `tests/reference/said`.

What stands there was said by the application and read through, and `python -m tools.say_again` writes it anew. The
difference is to be read before it is committed: a figure that moved is a finding, or the change that was meant.
"""

import unittest
from collections.abc import Callable
from itertools import zip_longest

from tests.support.remembered import KEPT, REMEMBERED, lines_of


class Said(unittest.TestCase):
    maxDiff = None

    def test_nothing_is_remembered_that_nobody_says(self) -> None:
        self.assertEqual({each.stem for each in KEPT.iterdir()}, set(REMEMBERED))


def _held(name: str) -> Callable[[unittest.TestCase], None]:
    def hold(test: unittest.TestCase) -> None:
        kept = (KEPT / f"{name}.txt").read_text(encoding="utf-8").splitlines()
        for at, (was, now) in enumerate(zip_longest(kept, lines_of(name)), start=1):
            # A line at a time: the first that moved is what there is to look at.
            test.assertEqual(was, now, f"{name}.txt, line {at}")

    return hold


for _name in REMEMBERED:
    setattr(Said, f"test_{_name}", _held(_name))
