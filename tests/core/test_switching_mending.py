"""Putting right: of each thing that is wrong some end must be elsewhere, and what was wrong is called by its name."""

import random
import unittest
from collections.abc import Iterator

from lumbek.core.model.accessory import Accessory
from lumbek.core.model.circuit import Circuit
from lumbek.core.switching.conflicts import Conflicts
from lumbek.core.switching.mend import mend
from lumbek.core.switching.moves import changed_kinds, kinds_of, with_ends
from lumbek.core.switching.quick import Layout
from tests.support.houses import BS
from tests.support.lighting import as_found, control, light, lit, stair, switch, ways, wired, with_point
from tests.support.lit_rooms import alarms, bath, porch


def walls() -> list[Circuit]:
    hall = lit("H", [switch("H"), light("Z")], [control("Hall", "Z", "H")], ways("H-Z 3"))
    return [as_found(wired(each)) for each in (stair("H", "H T"), stair("H", "H M T"), hall, bath(), porch(), alarms())]


def damaged(good: Circuit, rng: random.Random, count: int) -> tuple[Layout, list[int]]:
    """A wall with so many ends moved, and the joins that each end was in, as the damaged wall numbers them."""
    was = Layout(good)
    at = list(was.at)
    for end in rng.sample(range(len(at)), count):
        at[end] = rng.choice(was.options(end) or [at[end]])
    now = Layout(with_ends(good, was, at, {}))
    names = {(place, names): join for join, (place, names) in enumerate(now.joins) if names}
    stayed = {was.at[end]: now.at[end] for end in range(len(at)) if at[end] == was.at[end]}
    # A connector that lost both its ends is gone: of either it is asked for anew.
    back = [names.get(was.joins[join], stayed.get(join, -1)) for join in was.at]
    return now, back


class WhatHasToMove(unittest.TestCase):
    def walls_gone_wrong(self) -> Iterator[tuple[Layout, list[int]]]:
        rng = random.Random(21)
        for good in walls():
            for count in (1, 1, 2, 2, 3) * 4:
                layout, back = damaged(good, rng, count)
                if -1 not in back and not layout.works(layout.at):
                    yield layout, back

    def test_of_each_thing_that_is_wrong_some_end_goes_back(self) -> None:
        seen = 0
        for layout, back in self.walls_gone_wrong():
            self.assertTrue(layout.works(back))
            undone = {(end, join) for end, join in enumerate(back) if join != layout.at[end]}
            conflicts = Conflicts(layout)
            conflicts.moves = conflicts.every(layout.at)
            sets = list(conflicts._all(layout.at))
            self.assertTrue(sets)
            for each in sets:
                seen += 1
                self.assertTrue(each & undone, (layout.ends, layout.joins, each, undone))
        self.assertGreater(seen, 200)

    def test_what_works_has_nothing_that_must_move(self) -> None:
        for good in walls():
            layout = Layout(good)
            self.assertTrue(layout.works(layout.at))
            self.assertIsNone(Conflicts(layout).least(layout.at))

    def test_the_nearest_usual_wiring_is_no_farther_than_what_was_moved(self) -> None:
        """Without the search for fewer: as it was is one of the usual ways for these cables."""
        rng = random.Random(22)
        seen = 0
        for good in walls():
            for count in (1, 2, 3) * 2:
                layout, _ = damaged(good, rng, count)
                found = None if layout.works(layout.at) else mend(BS, layout.circuit, search=lambda: False)
                # What senses or is linked has no usual ways.
                if found is not None:
                    seen += 1
                    self.assertEqual(found.left, ())
                    self.assertLessEqual(len(found.moves), count, [each.words for each in found.moves])
                    # Nothing was tried: only a single move is known to be the least there is.
                    self.assertEqual((found.tried, found.exact), (False, len(found.moves) == 1))
        self.assertGreater(seen, 12)


class CalledByName(unittest.TestCase):
    """What was wrong, in the words of whoever found it."""

    def named(self, circuit: Circuit, at: list[int]) -> tuple[str, ...]:
        """Leave the wall with its ends in these joins, put it right, and return what was wrong."""
        layout = Layout(circuit)
        found = mend(BS, with_ends(circuit, layout, at, {}))
        assert found is not None
        return found.named

    def off(self, circuit: Circuit, place: str, core: str) -> list[int]:
        """The joins with every core of a name at a place by itself in a connector."""
        layout = Layout(circuit)
        return [
            layout.alone[end] if (each.place, each.core) == (place, core) else layout.at[end]
            for end, each in enumerate(layout.ends)
        ]

    def swapped(self, circuit: Circuit, place: str, one: str, other: str) -> list[int]:
        """The joins with what is in one terminal and what is in another taken for each other."""
        layout = Layout(circuit)
        first, second = (
            next(join for join, (where, names) in enumerate(layout.joins) if where == place and name in names)
            for name in (one, other)
        )
        return [{first: second, second: first}.get(join, join) for join in layout.at]

    def test_a_cpc_that_is_left_off(self) -> None:
        found = self.named(walls()[0], self.off(walls()[0], "T", "E"))
        self.assertEqual(set(found), {"The cpc is left off at T"})

    def test_common_and_strapper_or_two_strappers_of_an_intermediate(self) -> None:
        wall = walls()[1]
        self.assertEqual(self.named(wall, self.swapped(wall, "T", "1.COM", "1.L1")), ("COM and L1 crossed at T",))
        self.assertEqual(self.named(wall, self.swapped(wall, "M", "1.L1", "1.L4")), ("Strappers mixed up at M",))

    def test_of_several_gangs_the_one(self) -> None:
        points = [switch("H"), switch("T"), light("Y"), light("Z")]
        controls = [control("Hall", "Y", "H"), control("Stair", "Z", "H2 T")]
        wall = as_found(wired(lit("H", points, controls, ways("H-Y 3", "H-T 4", "T-Z 2"))))
        self.assertEqual(
            self.named(wall, self.swapped(wall, "H", "2.COM", "2.L2")), ("COM and L2 crossed at H, gang 2",)
        )

    def test_switches_that_become_another_kind(self) -> None:
        wall = walls()[1]
        was = kinds_of(wall)
        self.assertEqual(was["M", 1], "intermediate")
        self.assertEqual(list(changed_kinds(wall, was)), [])
        self.assertEqual(list(changed_kinds(wall, {})), [])
        self.assertEqual(list(changed_kinds(wall, {**was, ("M", 1): "two-way"})), [("M", 1)])
        # A two-way does as a one-way, and as nothing else.
        self.assertEqual(list(changed_kinds(wall, {**was, ("T", 1): "one-way"})), [])
        self.assertEqual(list(changed_kinds(wall, {**was, ("T", 1): "intermediate"})), [("T", 1)])
        hall = with_point(wall, "T", accessories=(Accessory(kind="one-way"),))
        self.assertEqual(list(changed_kinds(hall, {("T", 1): "two-way"})), [("T", 1)])


if __name__ == "__main__":
    unittest.main()
