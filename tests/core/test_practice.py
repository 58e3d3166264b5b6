"""Exercises of the practice house: solvable and safe by seed, judged by the core, and silent about what they hide."""

import copy
import json
import unittest
from itertools import pairwise, product
from random import Random
from typing import get_args

from hypothesis import given, settings
from hypothesis import strategies as st

from lumbek.core.inspection.kinds import finding_kinds
from lumbek.core.judging.check import Verdict
from lumbek.core.model.accessory import CONTACTS, terminals_of
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Leg, Segment
from lumbek.core.model.scheme import LightingSchool
from lumbek.core.switching.prove import holds, prove
from lumbek.practice.accessories import NEVER, OUTCOMES, PARTLY, SAME, TRIPS, Accessories, outcome_of, swapped, swaps
from lumbek.practice.arranged import which_arrangement, which_rcd
from lumbek.practice.behind import accessories
from lumbek.practice.body import body_ma, through_a_body
from lumbek.practice.design import Design
from lumbek.practice.divided import divided_board
from lumbek.practice.exercise import Act, BadActError, Exercise, Kind, LinkWire, School, WiredEnd
from lumbek.practice.faults import Faults
from lumbek.practice.finder import moved_by
from lumbek.practice.hidden import is_named_by, touches
from lumbek.practice.inspection import Coding
from lumbek.practice.isolation import ProvingDead
from lumbek.practice.make import KINDS, after, begin, solved
from lumbek.practice.quiz import Quiz
from lumbek.practice.scenes import scenes
from lumbek.practice.switching import Switching
from lumbek.practice.symptoms import heard
from lumbek.practice.testing import Testing as TestingKind
from lumbek.practice.wall import lighting
from lumbek.simulated.house import Installed
from lumbek.simulated.mishaps import Mishap
from tests.support.houses import BS, SUPPLY, run
from tests.support.lighting import stair, wired

LEVELS = range(1, 6)
SCHOOL = School()


def chosen(exercise: Exercise, *choices: str) -> Exercise:
    """An exercise after choices."""
    return after(exercise, [Act(choice=each) for each in choices])


class EveryKind(unittest.TestCase):
    def test_every_level_has_a_safe_way_to_full_marks(self) -> None:
        for kind, level, seed in product(get_args(Kind), LEVELS, range(2)):
            with self.subTest(kind, level=level, seed=seed):
                if kind == "faults" and seed:
                    # The finder goes through it: `bench.practice` has more of them.
                    continue
                exercise = begin(kind, seed, level, SCHOOL)
                solved(exercise)
                found = exercise.view().reckoning
                assert found is not None
                self.assertEqual((found.safe, found.right, found.marks), (True, found.asked, 100))
                self.assertIsNone(exercise.view().ask)

    def test_the_same_seed_and_acts_are_the_same_exercise_everywhere(self) -> None:
        for kind, level in product(get_args(Kind), (1, 5)):
            one = begin(kind, 11, level, SCHOOL)
            acts = solved(one)
            for upto in (0, 1, len(acts) // 2, len(acts)):
                views = [after(begin(kind, 11, level, SCHOOL), acts[:upto]).view() for _ in range(2)]
                self.assertEqual(views[0], views[1])
            self.assertEqual(views[0], one.view())
            self.assertNotEqual(begin(kind, 12, level, SCHOOL).view(), begin(kind, 11, level, SCHOOL).view())

    def test_what_has_ended_takes_no_more_and_what_is_not_there_is_refused(self) -> None:
        for kind in get_args(Kind):
            exercise = begin(kind, 3, 1, SCHOOL)
            before = exercise.view()
            for act in (Act(choice="the moon"), Act()):
                with self.assertRaises(BadActError):
                    exercise.act(act)
            self.assertEqual(exercise.view(), before)
            solved(exercise)
            with self.assertRaises(BadActError):
                exercise.act(Act(hint=True))

    def test_a_hint_costs_and_there_is_an_end_of_them(self) -> None:
        exercise = begin("faults", 3, 1, SCHOOL)
        left = exercise.view().hints_left
        self.assertEqual(left, 2)
        for _ in range(left):
            exercise.act(Act(hint=True))
        with self.assertRaises(BadActError):
            exercise.act(Act(hint=True))
        solved(exercise)
        found = exercise.view().reckoning
        assert found is not None
        self.assertEqual(found.marks, 80)

    def test_by_either_rulebook_in_any_colours_and_school(self) -> None:
        for rulebook, colours, loop in (
            ("iec60364", "harmonised", "at-light"),
            ("bs7671", "uk-before-2004", "at-light"),
            ("iec60364", "north-america", "at-switch"),
        ):
            school = School.model_validate({"rulebook": rulebook, "colours": colours, "loop": loop})
            for kind in get_args(Kind):
                exercise = begin(kind, 5, 3, school)
                solved(exercise)
                found = exercise.view().reckoning
                assert found is not None
                self.assertEqual(found.marks, 100, (kind, school))


class Silence(unittest.TestCase):
    """Nothing that leaves an exercise before its end names what it hides."""

    def test_a_fault_is_not_named_more_than_what_is_sound(self) -> None:
        for level, seed in product(LEVELS, range(3)):
            exercise = begin("faults", seed, level, SCHOOL)
            assert isinstance(exercise, Faults)
            told = self._all_told(exercise)
            for mishap, names in zip(exercise.hidden.mishaps, exercise.hidden.truth, strict=True):
                self.assertNotIn(mishap.kind, told)
                for name in names:
                    # As one of all that may be named, where everything of its kind is.
                    self.assertLessEqual(told.count(f'"name {name}"'), exercise.ask_count)
                    self.assertNotIn(f"'{name}'", told)

    def _all_told(self, exercise: Faults) -> str:
        told = []
        exercise.ask_count = 0  # type: ignore[attr-defined]
        while not exercise.is_over and not any(exercise.named):
            told.append(exercise.view().model_dump_json())
            exercise.ask_count += 1  # type: ignore[attr-defined]
            if exercise.is_dead and exercise.opened and len(exercise.taken) == len(exercise.own.tests):
                break
            exercise.act(exercise.way())
        return "".join(told)

    def test_the_list_to_name_from_is_the_same_whatever_is_wrong(self) -> None:
        """Two houses drawn alike with something else wrong offer the same, word for word."""
        for level in (1, 3):
            one, other = (begin("faults", 8, level, SCHOOL) for _ in range(2))
            assert isinstance(one, Faults) and isinstance(other, Faults)
            other.hidden = one.hidden._replace(inst=one.hidden.clean)
            asks = [chosen(each, "isolate").ask() for each in (one, other)]
            self.assertEqual(asks[0], asks[1])

    def test_no_question_carries_its_answer(self) -> None:
        for kind, level, seed in product(("accessories", "testing", "design", "inspection"), LEVELS, range(3)):
            exercise = begin(kind, seed, level, SCHOOL)
            assert isinstance(exercise, Quiz)
            for question in exercise.questions:
                view = exercise.view()
                assert view.ask is not None
                fields = set(view.ask.model_dump())
                self.assertEqual(fields, {"words", "choices", "several", "unit", "boxes", "picture"})
                shown = json.dumps(view.model_dump(mode="json")["ask"], ensure_ascii=False)
                if question.why not in ("", *[each.words for each in question.choices]):
                    self.assertNotIn(question.why, shown)
                if question.figure is not None:
                    self.assertNotIn(question.answer.split()[0], shown.split())
                exercise.act(exercise.way())

    def test_a_wall_does_not_show_how_it_is_wired(self) -> None:
        exercise = begin("switching", 4, 3, SCHOOL)
        self.assertNotIn('"into"', exercise.view().model_dump_json())
        self.assertNotIn("joins", exercise.view().model_dump_json())


class AccessoriesByTheNetwork(unittest.TestCase):
    def test_switches_have_the_terminals_and_contacts_of_the_network(self) -> None:
        for kind in ("one-way", "two-way", "intermediate", "sensor", "double-pole", "isolator-3", "fused-unit"):
            found = accessories()[kind]
            self.assertEqual(set(found.terminals), set(terminals_of(kind)))
            self.assertEqual(found.positions, CONTACTS[kind])
        letters = {"COM": "A", "L1": "B", "L2": "C"}
        self.assertEqual(accessories()["two-way"].bells(letters), "position 1: A–B; position 2: A–C")
        self.assertEqual(accessories()["rose"].bells({}), "nothing")

    def test_what_changing_over_does_is_as_one_knows_it(self) -> None:
        circuit = wired(stair())
        before = prove(BS, {circuit.number: circuit})
        found: dict[frozenset[str], str] = {}
        for place, one, other in swaps(circuit):
            if place != "H":
                continue
            joins = circuit.point(place).joins
            names = frozenset("+".join(joins[at].terminals) or "connector" for at in (one, other))
            after_it = swapped(circuit, place, one, other)
            found[names] = outcome_of(before, prove(BS, {circuit.number: after_it}))
        self.assertEqual(found[frozenset({"1.L1", "1.L2"})], SAME)
        self.assertEqual(found[frozenset({"1.COM", "1.L1"})], PARTLY)
        self.assertEqual(found[frozenset({"1.COM", "1.L2"})], PARTLY)
        self.assertEqual(found[frozenset({"1.COM", "connector"})], NEVER if NEVER in found.values() else TRIPS)

    def test_several_tables_of_lamps_are_read_each_by_itself(self) -> None:
        """Lights whose switches do not act on each other have tables of different lengths."""
        for seed, level in product(range(12), (2, 3, 4, 5)):
            circuit = lighting(BS, Random(seed), level, SCHOOL)
            before = prove(BS, {circuit.number: circuit})
            self.assertEqual(outcome_of(before, before), SAME)
            for place, one, other in swaps(circuit):
                after_it = swapped(circuit, place, one, other)
                self.assertIn(outcome_of(before, prove(BS, {circuit.number: after_it})), OUTCOMES)

    def test_changed_over_twice_is_as_before(self) -> None:
        circuit = wired(stair())
        for place, one, other in swaps(circuit):
            twice = swapped(swapped(circuit, place, one, other), place, one, other)
            self.assertEqual(twice, circuit)

    def test_the_box_is_the_shallowest_that_does(self) -> None:
        for seed in range(20):
            exercise = begin("accessories", seed, 3, SCHOOL)
            assert isinstance(exercise, Accessories)
            question = next((each for each in exercise.questions if "shallowest box" in each.words), None)
            if question is None:
                continue
            least = int(question.why.split(" mm")[0])
            right = next(iter(question.right))
            self.assertEqual(right, str(next((each for each in (16, 25, 35, 47) if each >= least), "none")))


class Walls(unittest.TestCase):
    def test_every_school_and_level_is_wired_rightly_by_the_planner(self) -> None:
        for level, loop, seed in product(LEVELS, get_args(LightingSchool)[:2], range(4)):
            exercise = begin("switching", seed, level, School(loop=loop))
            assert isinstance(exercise, Switching)
            verdict, _ = holds(BS, {1: exercise.wired(exercise.way())})
            self.assertIsNot(verdict, Verdict.FAIL)

    def test_alarms_that_sound_together_and_fans_that_run_on_are_among_them(self) -> None:
        found: dict[str, Switching] = {}
        for level, seed in product((3, 4, 5), range(12)):
            exercise = begin("switching", seed, level, SCHOOL)
            assert isinstance(exercise, Switching)
            story = exercise.story
            kind = "alarms" if "sound together" in story else "fan" if "Fan: on for good." in story else "plain"
            found.setdefault(kind, exercise)
        self.assertEqual(set(found), {"alarms", "fan", "plain"})
        for kind, terminal, place in (("alarms", "I", "A1"), ("fan", "S", "F1")):
            view = found[kind].view()
            assert view.ask is not None
            box = next(each for each in view.ask.boxes if each.place == place)
            self.assertIn(terminal, box.terminals)
            verdict, _ = holds(BS, {1: found[kind].wired(found[kind].way())})
            self.assertIsNot(verdict, Verdict.FAIL)
        # The interlink left off at one of them is told.
        way = found["alarms"].way()
        off = tuple(
            each.model_copy(update={"into": ""}) if (each.place, each.into) == ("A1", "I") else each
            for each in way.wired
        )
        self.assertNotEqual(off, way.wired)
        found["alarms"].act(way.model_copy(update={"wired": off}))
        self.assertIs(found["alarms"].seen[-1].good, False)

    def test_a_wrong_wall_says_what_is_wrong_and_may_be_put_right(self) -> None:
        exercise = begin("switching", 0, 2, SCHOOL)
        assert isinstance(exercise, Switching)
        right = exercise.way()
        com, strapper = (
            next(each for each in right.wired if each.place == "S1" and each.into == name) for name in ("1.COM", "1.L1")
        )
        swap = {com: "1.L1", strapper: "1.COM"}
        wrong = right.model_copy(
            update={"wired": tuple(each.model_copy(update={"into": swap.get(each, each.into)}) for each in right.wired)}
        )
        exercise.act(wrong)
        self.assertIs(exercise.seen[-1].good, False)
        self.assertFalse(exercise.is_over)
        exercise.act(right)
        found = exercise.view().reckoning
        assert found is not None
        self.assertTrue(found.safe)
        self.assertLess(found.marks, 85)

    def test_nothing_wired_four_times_is_switched_on_by_nobody(self) -> None:
        exercise = begin("switching", 1, 1, SCHOOL)
        assert isinstance(exercise, Switching)
        off = Act(wired=(exercise.way().wired[0].model_copy(update={"into": ""}),))
        for _ in range(4):
            exercise.act(off)
        found = exercise.view().reckoning
        assert found is not None
        self.assertEqual((found.safe, found.marks), (False, 0))
        self.assertTrue(found.debrief)

    def test_what_is_not_there_is_refused_with_its_name(self) -> None:
        exercise = begin("switching", 1, 1, SCHOOL)
        one = exercise.way().wired[0]
        for wrong, words in (
            ({"place": "S9"}, "does not end at S9"),
            ({"core": "X"}, "does not end at"),
            ({"into": "9.COM"}, "there is no 9.COM"),
        ):
            with self.assertRaisesRegex(BadActError, words):
                exercise.act(Act(wired=(one.model_copy(update=wrong),)))
        with self.assertRaisesRegex(BadActError, "said twice"):
            exercise.act(Act(wired=(one, one)))
        with self.assertRaisesRegex(BadActError, "no wire from E to E"):
            exercise.act(Act(wired=(one,), links=(LinkWire(place=one.place, a="E", b="E"),)))
        self.assertEqual(exercise.seen, [])
        self.assertEqual(WiredEnd(place="S1", leg="L1", core="L").into, "")


class ProvedDead(unittest.TestCase):
    def find(self, wanted: object, level: int = 5) -> ProvingDead:
        """The first exercise whose world is so."""
        for seed in range(200):
            exercise = begin("isolation", seed, level, SCHOOL)
            assert isinstance(exercise, ProvingDead)
            if wanted(exercise.world):  # type: ignore[operator]
                return exercise
        raise AssertionError("no such world")

    def test_begun_on_what_is_live_ends_with_what_it_would_have_done(self) -> None:
        exercise = chosen(begin("isolation", 1, 1, SCHOOL), "begin")
        found = exercise.view().reckoning
        assert found is not None
        self.assertEqual((found.safe, found.marks), (False, 0))
        self.assertIn("hand to feet 230 mA", exercise.seen[-1].came)

    def test_begun_unproved_is_unsafe_though_nothing_happens(self) -> None:
        exercise = chosen(begin("isolation", 1, 1, SCHOOL), "say", "off", "begin")
        found = exercise.view().reckoning
        assert found is not None
        self.assertEqual((found.safe, found.marks), (False, 0))
        self.assertIn("nobody had proved dead", " ".join(found.said))

    def test_a_dead_indicator_shows_nothing_and_proves_nothing(self) -> None:
        exercise = self.find(lambda world: world.fails_after == 0 and not world.second)
        chosen(exercise, "ask", "say", "test NE")
        self.assertIn("nobody had proved", " ".join(exercise.slips))
        chosen(exercise, "prove")
        self.assertIn("shows nothing on a source that is live", exercise.seen[-1].came)
        self.assertFalse(exercise.is_proved_before)

    def test_an_indicator_that_fails_between_is_found_by_proving_it_again(self) -> None:
        exercise = self.find(lambda world: world.fails_after == 3 and not world.second)
        chosen(exercise, "ask", "say", "off", "lock", "prove", "test NE", "test LE", "test LN")
        self.assertFalse(exercise.is_shown_dead)
        chosen(exercise, "prove")
        self.assertEqual(exercise.tested, [])
        solved(exercise)
        found = exercise.view().reckoning
        assert found is not None
        self.assertTrue(found.safe)

    def test_a_second_feed_that_nobody_knows_of_is_found_by_testing(self) -> None:
        exercise = self.find(lambda world: world.second and not world.is_told and world.fails_after is None)
        chosen(exercise, "ask", "say", "off", "lock", "prove")
        self.assertNotIn("second", [each.id for each in exercise.ask().choices])  # type: ignore[union-attr]
        shown = [chosen(exercise, f"test {pair}").seen[-1].came for pair in ("NE", "LE", "LN")]
        self.assertTrue(any("230 V" in each for each in shown), shown)
        self.assertIn("second", [each.id for each in exercise.ask().choices])  # type: ignore[union-attr]
        solved(exercise)
        found = exercise.view().reckoning
        assert found is not None
        self.assertTrue(found.safe)

    def test_the_lock_does_not_go_on_a_breaker_that_is_on(self) -> None:
        exercise = chosen(begin("isolation", 1, 1, SCHOOL), "lock")
        assert isinstance(exercise, ProvingDead)
        self.assertFalse(exercise.is_locked)
        self.assertEqual(len(exercise.slips), 1)

    def test_what_is_live_shows_between_the_pairs_that_it_is_live_between(self) -> None:
        on = chosen(begin("isolation", 1, 1, SCHOOL), "prove")
        shown = {pair: "230 V" in chosen(on, f"test {pair}", "prove").seen[-2].came for pair in ("NE", "LE", "LN")}
        self.assertEqual(shown, {"NE": False, "LE": True, "LN": True})
        borrowed = self.find(lambda world: "neutral" in world.second and world.fails_after is None)
        chosen(borrowed, "say", "off", "lock", "prove")
        shown = {p: "230 V" in chosen(borrowed, f"test {p}", "prove").seen[-2].came for p in ("NE", "LE", "LN")}
        self.assertEqual(shown, {"NE": True, "LE": False, "LN": True})

    def test_an_indicator_fails_after_so_many_uses_and_not_one_later(self) -> None:
        exercise = self.find(lambda world: world.fails_after == 2)
        chosen(exercise, "prove", "prove")
        self.assertTrue(exercise.is_proved_before)
        chosen(exercise, "prove")
        self.assertFalse(exercise.is_proved_before)

    def test_what_is_left_out_of_the_way_of_one_who_knows_is_not_proved(self) -> None:
        way = ("ask", "say", "off", "lock", "prove", "test NE", "test LE", "test LN", "prove")
        wanted = {"off", "lock", "prove", "test NE", "test LE", "test LN"}
        for left_out in range(len(way)):
            exercise = begin("isolation", 1, 1, SCHOOL)
            chosen(exercise, *(each for at, each in enumerate(way) if at != left_out), "begin")
            found = exercise.view().reckoning
            assert found is not None
            self.assertIs(found.safe, way[left_out] not in wanted, way[left_out])
        # Proved only once, after: what it showed before is anybody's guess. Proved before and tested on: not proved.
        for wrong in (
            (*way[:4], *way[5:], "prove"),
            (*way, "test LN"),
            (*way[:4], "test NE", "test LE", "test LN", "prove", "prove"),
        ):
            exercise = chosen(begin("isolation", 1, 1, SCHOOL), *wrong, "begin")
            found = exercise.view().reckoning
            assert found is not None
            self.assertFalse(found.safe, wrong)

    @settings(max_examples=60, deadline=None)
    @given(st.integers(0, 500), st.integers(1, 5), st.lists(st.integers(0, 9), max_size=14))
    def test_whatever_one_does_safe_means_locked_tested_and_proved(
        self, seed: int, level: int, steps: list[int]
    ) -> None:
        """Any order of steps, then begin: safe only where every pair was dead by an indicator proved twice."""
        exercise = begin("isolation", seed, level, SCHOOL)
        assert isinstance(exercise, ProvingDead)
        for step in steps:
            ask = exercise.ask()
            assert ask is not None
            others = [each for each in ask.choices if each.id != "begin"]
            exercise.act(Act(choice=others[step % len(others)].id))
        was_shown = exercise.is_shown_dead
        exercise.act(Act(choice="begin"))
        found = exercise.view().reckoning
        assert found is not None
        self.assertEqual(found.safe, was_shown and exercise.is_dead)
        self.assertEqual(bool(exercise.hurt), not exercise.is_dead)


class Body(unittest.TestCase):
    def test_ohms_law_through_a_thousand_ohms_rounded_up(self) -> None:
        self.assertEqual(body_ma(230), 230)
        self.assertEqual(body_ma(230, 3600), 50)
        self.assertEqual(body_ma(230, 3601), 50)
        self.assertEqual(body_ma(231, 3600), 51)
        self.assertIn("stop a heart", through_a_body(230, "it"))
        self.assertIn("does not let go", through_a_body(230, "it", 3600))
        self.assertIn("a fall", through_a_body(230, "it", 6700))


class FaultsFound(unittest.TestCase):
    def test_touched_before_it_is_dead_ends_it(self) -> None:
        for choice in ("sheet", "measure ins/LN"):
            exercise = chosen(begin("faults", 1, 1, SCHOOL), choice)
            found = exercise.view().reckoning
            assert found is not None
            self.assertEqual((found.safe, found.marks, exercise.seen[-1].unsafe), (False, 0, True))

    def test_three_wrong_names_end_it_and_each_costs(self) -> None:
        exercise = chosen(begin("faults", 1, 1, SCHOOL), "isolate", "sheet")
        assert isinstance(exercise, Faults)
        set().union(*exercise.truth)
        wrong = [each.id for each in exercise.suspects if each.place != exercise.hidden.mishaps[0].leg][:3]
        before = exercise.minutes
        chosen(exercise, *(f"name {each}" for each in wrong))
        self.assertEqual(exercise.minutes, before + 60)
        self.assertTrue(exercise.is_over)
        found = exercise.view().reckoning
        assert found is not None
        self.assertEqual((found.right, found.marks), (0, 0))
        self.assertIn("Missed: ", found.said[0])

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
        set().union(*exercise.truth)
        wrong = next(each.id for each in exercise.suspects if each.place != exercise.hidden.mishaps[0].leg)
        chosen(exercise, f"name {wrong}")
        solved(exercise)
        found = exercise.view().reckoning
        assert found is not None
        # 85 for right less wrong, and a quarter of it by the minutes that were lost.
        economy = found.least_minutes / found.minutes
        self.assertLess(economy, 1)
        self.assertEqual(found.marks, round(85 * (0.75 + 0.25 * economy)))

    def test_the_debrief_keeps_what_was_read_before_it_was_put_right(self) -> None:
        exercise = begin("faults", 1, 2, SCHOOL)
        assert isinstance(exercise, Faults)
        solved(exercise)
        found = exercise.view().reckoning
        assert found is not None
        self.assertEqual([each.did for each in found.debrief], [each.title for each in exercise.own.tests])
        self.assertRegex(found.debrief[-1].came, r"then (9\d|100)%")
        # Who takes the finder's own measurements is told of none that would have told more.
        self.assertNotIn("More would have told", " ".join(each.came for each in found.debrief))

    def test_suspicion_before_a_reading_is_what_it_was_after_the_last(self) -> None:
        exercise = begin("faults", 1, 2, SCHOOL)
        assert isinstance(exercise, Faults)
        solved(exercise)
        twin = chosen(begin("faults", 1, 2, SCHOOL), "isolate", "sheet")
        assert isinstance(twin, Faults)
        chosen(twin, *(f"measure {test.id}" for test in exercise.own.tests[:2]), "done")
        found = twin.view().reckoning
        assert found is not None
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
        found = exercise.view().reckoning
        assert found is not None
        self.assertEqual(found.marks, 80)
        self.assertIn("not proved", " ".join(found.said))

    def test_the_debrief_says_how_suspicion_moved(self) -> None:
        exercise = begin("faults", 1, 1, SCHOOL)
        solved(exercise)
        chosen_one = chosen(begin("faults", 1, 1, SCHOOL), "isolate", "sheet", "measure ins/LE", "done")
        found = chosen_one.view().reckoning
        assert found is not None
        (line,) = found.debrief
        self.assertRegex(line.came, r"Suspicion of what was wrong: \d+%, then \d+%.* More would have told: ")

    def test_a_circuit_of_ones_own_with_a_fault_put_in(self) -> None:
        own = run(4, 5, 6, 5, back=7)
        exercise = begin("faults", 6, 2, SCHOOL, own)
        assert isinstance(exercise, Faults)
        self.assertEqual(exercise.circuit, own)
        solved(exercise)
        found = exercise.view().reckoning
        assert found is not None
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


class JudgedByTheChecks(unittest.TestCase):
    def test_the_thinnest_cable_holds_and_the_next_thinner_does_not(self) -> None:
        for seed in range(6):
            exercise = begin("design", seed, 3, SCHOOL)
            assert isinstance(exercise, Design)
            question = exercise.questions[0]
            right = float(next(iter(question.right)))
            if right > 1.5:
                self.assertIn("fails: ", question.why)
            self.assertTrue(all(float(each) < right for each in question.unsafe))

    def test_one_of_five_fails_and_by_one_of_four_rules(self) -> None:
        for seed in range(6):
            exercise = begin("design", seed, 2, SCHOOL)
            assert isinstance(exercise, Design)
            five, rule = exercise.questions[3:5]
            self.assertEqual((len(five.choices), len(rule.choices)), (5, 4))
            at = int(next(iter(five.right)))
            self.assertTrue(rule.words.startswith(five.choices[at].words))

    def test_boards_that_leave_a_storey_dark_are_those_that_share_it(self) -> None:
        question = divided_board(BS, SUPPLY)
        self.assertEqual(question.right, {"2", "3"})
        self.assertIn("together", question.why)

    def test_arrangements_of_sockets_by_the_checks(self) -> None:
        question = which_arrangement(BS, SUPPLY, Random(1))
        words = {each.id: each.words for each in question.choices}
        right = {words[each] for each in question.right}
        self.assertIn("A ring of 2.5 mm² on B32", right)
        self.assertNotIn("A ring of 1.5 mm² on B32", right)
        self.assertEqual({words[each] for each in question.unsafe}, {"A radial of 2.5 mm² on B32"})

    def test_types_of_rcd_by_what_a_load_lets_through(self) -> None:
        found = {}
        for seed in range(30):
            question = which_rcd(BS, SUPPLY, Random(seed))
            found[question.why.split(" lets ")[1].split(" through")[0]] = question.right
        self.assertEqual(
            found,
            {
                "no d.c.": {"AC", "A", "F", "B"},
                "pulsed d.c.": {"A", "F", "B"},
                "no more than 6 mA of smooth d.c.": {"A", "F", "B"},
                "smooth d.c.": {"B"},
            },
        )

    def test_a_rose_tells_where_the_feed_is_looped(self) -> None:
        found = set()
        for seed in range(40):
            exercise = begin("accessories", seed, 1, SCHOOL)
            assert isinstance(exercise, Accessories)
            for question in exercise.questions:
                if "A rose" in question.words:
                    is_used = "LOOP holds 0" not in question.words
                    self.assertEqual(question.right, {"at-light" if is_used else "at-switch"})
                    found.add(is_used)
        self.assertEqual(found, {True, False})

    def test_three_readings_of_a_ring_say_which_core(self) -> None:
        found = set()
        for seed in range(25):
            exercise = begin("testing", seed, 2, SCHOOL)
            assert isinstance(exercise, TestingKind)
            question = next(each for each in exercise.questions if each.words.startswith("End to end"))
            case = next(iter(question.right))
            read = dict(each.split(" ", 1) for each in question.words[12:].split(". ")[0].split(", "))
            open_ones = [each for each, ohm in read.items() if ohm == "open"]
            self.assertEqual(open_ones, [case.split()[0]] if case.endswith("open") else [])
            self.assertEqual(bool(question.unsafe), case.endswith("open"))
            if case == "sound":
                self.assertEqual(read["r1"], read["rn"])
            found.add(case)
        self.assertGreaterEqual(len(found), 4)

    def test_a_dangerous_answer_leaves_no_marks(self) -> None:
        for seed in range(40):
            exercise = begin("design", seed, 1, SCHOOL)
            assert isinstance(exercise, Design)
            if exercise.questions[0].unsafe:
                break
        chosen(exercise, next(iter(exercise.questions[0].unsafe)))
        solved(exercise)
        found = exercise.view().reckoning
        assert found is not None
        self.assertEqual((found.safe, found.marks), (False, 0))

    def test_a_finding_left_as_harmless_where_it_is_danger_is_unsafe(self) -> None:
        for seed in range(60):
            exercise = begin("inspection", seed, 1, SCHOOL)
            assert isinstance(exercise, Coding)
            if "C1" in exercise.questions[0].right:
                break
        chosen(exercise, "none")
        self.assertTrue(exercise.seen[0].unsafe)
        self.assertIn("No: C1", exercise.seen[0].came)

    def test_scenes_are_of_findings_that_there_are(self) -> None:
        self.assertLessEqual(set(scenes()), set(finding_kinds()))

    def test_what_one_expects_is_read_off_the_network_within_fifteen_percent(self) -> None:
        exercise = begin("testing", 3, 2, SCHOOL)
        assert isinstance(exercise, TestingKind)
        question = next(each for each in exercise.questions if each.words.startswith("r1,"))
        assert question.figure is not None
        copper = sum(leg.length_m or 0 for leg in exercise.circuit.legs) * 7.41 / 1000
        self.assertAlmostEqual(question.figure, copper, places=3)
        for factor, is_right in ((1.14, True), (0.86, True), (1.16, False), (0.84, False)):
            self.assertIs(question.is_right(Act(figure=question.figure * factor)), is_right)

    def test_a_limit_is_corrected_for_cold_copper(self) -> None:
        for rulebook, factor in (("bs7671", 0.8), ("iec60364", 2 / 3)):
            exercise = begin("testing", 2, 3, School.model_validate({"rulebook": rulebook}))
            assert isinstance(exercise, TestingKind)
            question = next(each for each in exercise.questions if "cold copper" in each.words)
            warm = float(question.words.split("may be ")[1].split(" ")[0])
            assert question.figure is not None
            self.assertAlmostEqual(question.figure, factor * warm, delta=0.006)

    def test_every_kind_is_listed_once(self) -> None:
        self.assertEqual(set(KINDS), set(get_args(Kind)))


if __name__ == "__main__":
    unittest.main()
