"""Exercises of the practice house: a safe way to full marks by every number, and silent about what they hide."""

import json
import re
import unittest
from itertools import product
from typing import get_args

from lumbek.practice.exercise import MAKES, Act, BadActError, Kind, School, solved
from lumbek.practice.faults import Faults
from lumbek.practice.make import after, begin
from lumbek.practice.quiz import Quiz
from tests.support.practice import LEVELS, MADE, SCHOOL, chosen, ended, ways


class EveryKind(unittest.TestCase):
    def test_every_level_has_a_safe_way_to_full_marks(self) -> None:
        for kind, level, seed in product(get_args(Kind), LEVELS, range(2)):
            with self.subTest(kind, level=level, seed=seed):
                if kind == "faults" and seed:
                    # The finder goes through it: `bench.practice` has more of them.
                    continue
                exercise = begin(kind, seed, level, SCHOOL)
                solved(exercise)
                found = ended(exercise)
                self.assertEqual((found.safe, found.right, found.marks), (True, found.asked, 100))
                self.assertIsNone(exercise.view().ask)

    def test_numbers_make_what_they_made_or_the_version_is_raised(self) -> None:
        """Else what somebody has begun would be carried on as another exercise."""
        made = json.loads(MADE.read_text(encoding="utf-8"))
        self.assertEqual(made["makes"], MAKES, "write down what is made now: python -m tests.support.practice")
        self.assertEqual(ways(), made["ways"], "raise MAKES in practice/exercise.py, then write it down")

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
        found = ended(exercise)
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
                found = ended(exercise)
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
                self.assertEqual(fields, {"words", "choices", "together", "several", "unit", "boxes", "picture"})
                shown = json.dumps(view.model_dump(mode="json")["ask"], ensure_ascii=False)
                if question.why not in ("", *[each.words for each in question.choices]):
                    self.assertNotIn(question.why, shown)
                if question.figure is not None:
                    self.assertNotIn(question.answer.split()[0], shown.split())
                exercise.act(exercise.way())

    def test_each_rulebook_is_cited_by_its_own_numbers(self) -> None:
        british = re.compile(r"EAWR|^\d{3}\b(?!\d)|; \d{3}\b|Appendix")
        for kind, level in product(get_args(Kind), LEVELS):
            for rulebook in ("bs7671", "iec60364"):
                exercise = begin(kind, 5, level, School(rulebook=rulebook))  # type: ignore[arg-type]
                solved(exercise)
                cited = [each.clause for each in exercise.seen if each.clause]
                is_british = [bool(british.search(each)) for each in cited]
                self.assertEqual(is_british, [rulebook == "bs7671"] * len(cited), (kind, level, cited))
                if kind not in ("faults", "isolation"):
                    self.assertTrue(cited, kind)

    def test_a_wall_does_not_show_how_it_is_wired(self) -> None:
        exercise = begin("switching", 4, 3, SCHOOL)
        self.assertNotIn('"into"', exercise.view().model_dump_json())
        self.assertNotIn("joins", exercise.view().model_dump_json())


if __name__ == "__main__":
    unittest.main()
