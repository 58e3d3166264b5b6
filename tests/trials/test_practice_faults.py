"""Faults to be found in the practice house: what is found, what it costs, what the finder makes of it."""

import copy
import unittest
from itertools import pairwise, product
from random import Random

from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Leg, Segment
from lumbek.practice.exercise import BadActError, solved
from lumbek.practice.faults import Faults, boxes_opened
from lumbek.practice.finder import moved_by
from lumbek.practice.hidden import is_named_by, touches
from lumbek.practice.make import begin
from lumbek.practice.symptoms import heard
from lumbek.simulated.house import Installed
from lumbek.simulated.mishaps import Mishap
from tests.support.houses import run
from tests.support.lighting import stair, wired
from tests.support.practice import LEVELS, SCHOOL, chosen, ended


class FaultsFound(unittest.TestCase):
    def test_touched_before_it_is_dead_ends_it(self) -> None:
        for choice in ("sheet", "measure ins/LN"):
            exercise = chosen(begin("faults", 1, 1, SCHOOL), choice)
            found = ended(exercise)
            self.assertEqual((found.safe, found.marks, exercise.seen[-1].unsafe), (False, 0, True))

    def test_three_wrong_names_end_it_and_each_costs(self) -> None:
        exercise = chosen(begin("faults", 1, 1, SCHOOL), "isolate", "sheet")
        assert isinstance(exercise, Faults)
        wrong = [each.id for each in exercise.suspects if each.place != exercise.hidden.mishaps[0].leg][:3]
        before = exercise.minutes
        chosen(exercise, *(f"name {each}" for each in wrong))
        self.assertEqual(exercise.minutes, before + 60)
        self.assertTrue(exercise.is_over)
        found = ended(exercise)
        self.assertEqual((found.right, found.marks), (0, 0))
        self.assertIn("Missed: ", found.said[0])

    def test_what_one_who_knows_does_is_there_to_choose(self) -> None:
        several = 0
        for level, seed in product(LEVELS, range(4)):
            exercise = begin("faults", seed, level, SCHOOL)
            while (ask := exercise.ask()) is not None:
                act = exercise.way()
                offered = {each.id for each in ask.choices}
                loads = {each.id for one in ask.together for each in one.of}
                one, _, those = act.choice.rpartition("/")
                if f"{one}/" in {each.id for each in ask.together} and act.choice not in offered:
                    self.assertLessEqual(set(those.split("+")), loads)
                    several += 1
                else:
                    self.assertIn(act.choice, offered)
                exercise.act(act)
        self.assertGreater(several, 3)

    def test_dust_is_made_by_the_boxes_that_a_test_opens_each_once(self) -> None:
        exercise = chosen(begin("faults", 3, 2, SCHOOL), "isolate", "sheet")
        assert isinstance(exercise, Faults)
        for test, opened in (
            ("ins/LN", set()),
            ("ins/LN/unplug/p1", set()),
            ("link/LN/p1/a", set()),
            ("ins/LN/split/p1/a", {"p1"}),
            ("ins/LE/out/p2/L2", {"p2"}),
            ("leg/L/L1", {"p1"}),
            ("ins/LN/alone/L2", {"p1", "p2"}),
        ):
            self.assertEqual(boxes_opened(exercise.circuit, exercise.catalogue.test(test)), opened, test)
        chosen(exercise, "measure ins/LN/split/p1/a")
        self.assertEqual(exercise.dust, 1)
        chosen(exercise, "measure leg/L/L1", "measure ins/LN/alone/L2")
        self.assertEqual(exercise.dust, 2)

    def test_two_faults_do_not_touch_each_other(self) -> None:
        document = {"legs": [{"id": "L1", "a": "board", "b": "p1"}, {"id": "L2", "a": "p1", "b": "p2"}]}
        one, two = Mishap("nail", "L1", cores="LN"), Mishap("nail", "L2", cores="LN")
        far = Mishap("wet box", points=("p2",), cores="LN")
        self.assertTrue(touches(document, (one, two)))
        self.assertTrue(touches(document, (two, far)))
        self.assertTrue(touches(document, (one, one)))
        self.assertFalse(touches(document, (one, far)))
        self.assertFalse(touches(document, (one,)))
        for seed in range(10):
            exercise = begin("faults", seed, 5, SCHOOL)
            assert isinstance(exercise, Faults)
            self.assertFalse(touches(exercise.document, exercise.hidden.mishaps))

    def test_whoever_opens_the_right_end_has_found_it_whatever_they_called_it(self) -> None:
        loose, cut = Mishap("loose screw", "L2", cores="N"), Mishap("cut cable", "L4", cores="LN")
        worn, nail = Mishap("worn contact", points=("p3",), cores="L"), Mishap("nail", "L2", cores="LN")
        for name, mishap, is_it in (
            ("loose/N/L2", loose, True),
            ("open/N/L2", loose, True),
            ("open/L/L2", loose, False),
            ("open/N/L3", loose, False),
            ("open/L/L4", cut, True),
            ("cut/LNE/L4", cut, True),
            ("open/E/L4", cut, False),
            ("open-accessory/L/p3", worn, True),
            ("open/L/p3", worn, False),
            ("insulation-leg/LN/L2", nail, True),
            ("insulation-leg/LE/L2", nail, False),
            ("open/L/L2", nail, False),
            ("rings-crossed", nail, False),
        ):
            self.assertIs(is_named_by(name, mishap), is_it, (name, mishap))

    def test_a_wrong_name_costs_marks_though_the_right_one_follows(self) -> None:
        exercise = chosen(begin("faults", 1, 1, SCHOOL), "isolate", "sheet")
        assert isinstance(exercise, Faults)
        wrong = next(each.id for each in exercise.suspects if each.place != exercise.hidden.mishaps[0].leg)
        chosen(exercise, f"name {wrong}")
        solved(exercise)
        found = ended(exercise)
        # 85 for right less wrong, and a quarter of it by the minutes that were lost.
        economy = found.least_minutes / found.minutes
        self.assertLess(economy, 1)
        # What was opened for nothing is dust as well: a wall for a cable.
        self.assertEqual(found.dust - found.least_dust, 5)
        self.assertEqual(found.marks, round(85 * (0.75 + 0.25 * economy * (found.least_dust + 8) / (found.dust + 8))))

    def test_the_debrief_keeps_what_was_read_before_it_was_put_right(self) -> None:
        exercise = begin("faults", 1, 2, SCHOOL)
        assert isinstance(exercise, Faults)
        solved(exercise)
        found = ended(exercise)
        self.assertEqual([each.did for each in found.debrief], [each.title for each in exercise.own.tests])
        self.assertRegex(found.debrief[-1].came, r"then (9\d|100)%")
        # Who takes the finder's own measurements is told of none that would have told more.
        self.assertNotIn("More would have told", " ".join(each.came for each in found.debrief))

    def test_the_finders_own_run_is_made_once_whatever_was_done_since(self) -> None:
        one, other, given = (begin("faults", 1, 2, SCHOOL, circuit) for circuit in (None, None, run(4, 6, 5, 7)))
        assert isinstance(one, Faults) and isinstance(other, Faults) and isinstance(given, Faults)
        solved(other)
        self.assertIs(one.own, other.own)
        self.assertEqual(other.own, other.run_by_finder())
        self.assertEqual(given.own, given.run_by_finder())
        self.assertNotEqual(given.own, one.own)

    def test_suspicion_before_a_reading_is_what_it_was_after_the_last(self) -> None:
        exercise = begin("faults", 1, 2, SCHOOL)
        assert isinstance(exercise, Faults)
        solved(exercise)
        twin = chosen(begin("faults", 1, 2, SCHOOL), "isolate", "sheet")
        assert isinstance(twin, Faults)
        chosen(twin, *(f"measure {test.id}" for test in exercise.own.tests[:2]), "done")
        found = ended(twin)
        self.assertEqual(len(found.debrief), len(twin.taken))
        moved = list(moved_by(twin.patient, twin.opened, twin.taken, sorted(twin.hidden.truth[0])))
        self.assertGreater(moved[0].before, 0)
        for one, other in pairwise(moved):
            self.assertAlmostEqual(one.after, other.before)

    def test_what_the_customer_says_is_what_is_so(self) -> None:
        legs = [("L1", "board", "p1"), ("L2", "p1", "p2"), ("L3", "p2", "p3")]
        document = {
            "ring": None,
            "points": ["p1", "p2", "p3"],
            "legs": [
                {"id": leg, "a": a, "b": b, "length_m": 5.0, "line_mm2": 2.5, "cpc_mm2": 1.5} for leg, a, b in legs
            ],
        }

        def said(*done: tuple[str, tuple[object, ...]]) -> str:
            clean = Installed(document, Random(1))
            inst = copy.deepcopy(clean)
            for what, how in done:
                getattr(inst, what)(*how)
            return heard(inst, clean, {each: f"socket {each[1:]}" for each in document["points"]})  # type: ignore[union-attr]

        self.assertIn("Nothing that we noticed", said())
        self.assertEqual(said(("breaks", ("L2", "L"))), "Socket 2 and socket 3 give nothing.")
        self.assertEqual(said(("breaks", ("L3", "N"))), "Socket 3 gives nothing.")
        self.assertIn("The breaker goes", said(("bridges", (("p2", "L"), ("p2", "N"), 0.5))))
        # 230 V over 15 mA are 15.3 kΩ.
        self.assertIn("The RCD trips", said(("bridges", (("p2", "L"), ("p2", "E"), 15_000.0))))
        self.assertNotIn("The RCD trips", said(("bridges", (("p2", "L"), ("p2", "E"), 16_000.0))))
        self.assertIn("lamp at socket 3 flickers", said(("loosens", (("L3", "L", "p3"), 0.7))))
        self.assertNotIn("flickers", said(("loosens", (("L3", "L", "p3"), 0.5))))

    def test_what_is_put_right_reads_right_and_the_other_is_still_there(self) -> None:
        exercise = chosen(begin("faults", 2, 5, SCHOOL), "isolate")
        assert isinstance(exercise, Faults)
        there = {each.id for each in exercise.suspects}
        first = next(name for name in sorted(exercise.hidden.truth[0]) if name in there)
        chosen(exercise, f"name {first}")
        self.assertEqual(exercise.named, [True, False])
        self.assertIs(exercise.installed, exercise.hidden.alone[1])
        solved(exercise)
        self.assertIs(exercise.installed, exercise.hidden.clean)

    def test_the_same_reading_again_is_nearly_the_same_and_everybody_has_it(self) -> None:
        one, other = (chosen(begin("faults", 4, 2, SCHOOL), "isolate") for _ in range(2))
        for exercise in (one, other):
            chosen(exercise, "measure read/r1", "measure read/r1")
        self.assertEqual([each.came for each in one.seen], [each.came for each in other.seen])

    def test_not_proved_costs_marks(self) -> None:
        exercise = chosen(begin("faults", 0, 1, SCHOOL), "isolate", "sheet")
        while not any(exercise.named):  # type: ignore[attr-defined]
            exercise.act(exercise.way())
        chosen(exercise, "done")
        found = ended(exercise)
        self.assertEqual(found.marks, 80)
        self.assertIn("not proved", " ".join(found.said))

    def test_the_debrief_says_how_suspicion_moved(self) -> None:
        exercise = begin("faults", 1, 1, SCHOOL)
        solved(exercise)
        chosen_one = chosen(begin("faults", 1, 1, SCHOOL), "isolate", "sheet", "measure ins/LE", "done")
        found = ended(chosen_one)
        (line,) = found.debrief
        self.assertRegex(line.came, r"Suspicion of what was wrong: \d+%, then \d+%.* More would have told: ")

    def test_a_circuit_of_ones_own_with_a_fault_put_in(self) -> None:
        own = run(4, 5, 6, 5, back=7)
        exercise = begin("faults", 6, 2, SCHOOL, own)
        assert isinstance(exercise, Faults)
        self.assertEqual(exercise.circuit, own)
        solved(exercise)
        found = ended(exercise)
        self.assertEqual(found.marks, 100)
        with self.assertRaisesRegex(BadActError, "1 to 40 can be practised on"):
            begin("faults", 6, 2, SCHOOL, Circuit())
        with self.assertRaisesRegex(BadActError, "wired otherwise than plainly"):
            begin("faults", 6, 2, SCHOOL, wired(stair()))
        with self.assertRaisesRegex(BadActError, "its length and its cpc"):
            begin(
                "faults",
                6,
                2,
                SCHOOL,
                Circuit(points=own.points[:1], legs=(Leg(id="L1", a="board", b="P1", segments=(Segment(),)),)),
            )

    def test_levels_grow_harder_by_what_the_finder_needs(self) -> None:
        """The mean minutes of the finder's own run, with the sheets it takes, over some numbers a level."""
        means = []
        for level in LEVELS:
            runs = [begin("faults", seed, level, SCHOOL) for seed in range(3)]
            means.append(sum(run.least_minutes for run in runs) / len(runs))  # type: ignore[attr-defined]
        self.assertEqual(means, sorted(means))
        self.assertGreater(means[-1], 2 * means[0])


if __name__ == "__main__":
    unittest.main()
