"""Which of many: cables belled out, boards traced, an RCD that trips."""

import random
import unittest

from hypothesis import given
from hypothesis import strategies as st

from lumbek.core.diagnosis.codes import Seen, plan_codes, read_codes
from lumbek.core.diagnosis.questions import Question, after, bits, next_question
from lumbek.core.diagnosis.rcd_trips import Answered, _trips, find_trip
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.point import Load
from tests.support.houses import point, run

WORDS = {"never": "never", "always": "always", "twice": "twice"}


class Codes(unittest.TestCase):
    @given(st.integers(1, 40), st.integers(0, 1000))
    def test_every_core_is_known_in_as_many_rounds_as_digits(self, count: int, seed: int) -> None:
        far = [f"f{each}" for each in range(count)]
        plan = plan_codes(far)
        self.assertEqual(len(plan.rounds), (count).bit_length())
        truth = dict(zip((f"n{each}" for each in range(count)), random.Random(seed).sample(far, count), strict=True))
        seen = [Seen(name=near, rounds=tuple(end in joined for joined in plan.rounds)) for near, end in truth.items()]
        self.assertEqual({each.name: each.belongs_to for each in read_codes(plan, seen, **WORDS)}, truth)

    def test_broken_touching_and_misread(self) -> None:
        plan = plan_codes(["a", "b", "c", "d"])
        bits_of = {"broken": (0, 0, 0), "touching": (1, 1, 1), "one": (1, 0, 0), "same": (1, 0, 0), "b": (0, 1, 0)}
        seen = [Seen(name=name, rounds=tuple(map(bool, bits))) for name, bits in bits_of.items()]
        found = {each.name: (each.belongs_to, each.why) for each in read_codes(plan, seen, **WORDS)}
        self.assertEqual(found["broken"], (None, "never"))
        self.assertEqual(found["touching"], (None, "always"))
        self.assertEqual((found["one"], found["same"]), ((None, "twice"), (None, "twice")))
        self.assertEqual(found["b"], ("b", ""))

    def test_a_board_keeps_all_off_for_what_is_dead_anyway(self) -> None:
        """Many outlets hang on one breaker; one that is dead in every round is broken, not a breaker's."""
        plan = plan_codes(["1", "2", "3"], spare_last=True)
        self.assertEqual(len(plan.rounds), 3)
        seen = [Seen(name=name, rounds=(True, False, False)) for name in ("hall", "stair")]
        seen.append(Seen(name="shed", rounds=(True, True, True)))
        found = read_codes(plan, seen, "never", "dead anyway", "")
        self.assertEqual([each.belongs_to for each in found], ["1", "1", None])
        self.assertEqual(found[2].why, "dead anyway")


class Questions(unittest.TestCase):
    def test_a_question_that_halves_is_worth_a_bit_and_one_that_parts_nothing_none(self) -> None:
        share = dict.fromkeys("abcd", 0.25)
        half, none = (Question(each, "", "", "", {"a": 1.0, "b": 1.0}) for each in ("half", "none"))
        none = Question("none", "", "", "", {})
        self.assertGreater(bits(share, half), 0.8)
        self.assertAlmostEqual(bits(share, none), 0.0)
        self.assertEqual(next_question(share, [none, half]).id, "half")
        self.assertIsNone(next_question(share, [none]))
        left = after(share, half, True)
        self.assertGreater(left["a"] + left["b"], 0.95)


class RcdTrips(unittest.TestCase):
    def circuits(self) -> list[Circuit]:
        made = []
        for number, count in ((1, 4), (2, 3), (3, 2)):
            circuit = run(*([5] * count))
            points = tuple(
                each.model_copy(update={"loads": (Load(power_w=100, leakage_ma=0.5),)}) for each in circuit.points
            )
            made.append(circuit.model_copy(update={"number": number, "name": f"C{number}", "points": points}))
        return made

    def test_every_suspect_is_found_by_following_the_questions(self) -> None:
        circuits, chance = self.circuits(), random.Random(4)
        titles = {each.id for each in find_trip(circuits, "at-once", []).suspects}
        every = [f"{kind}/{n}" for kind in ("line", "neutral", "mixed") for n in (1, 2, 3)]
        every += ["rcd", *(f"load/{c.number}/{p.id}" for c in circuits for p in c.points)]
        self.assertTrue(titles <= {*every, "sum"})
        steps = []
        for truth in every:
            answers: list[Answered] = []
            while (found := find_trip(circuits, "at-once", answers)).next is not None and len(answers) < 20:
                kind, *rest = found.next.id.split("/")
                numbers = [int(each) for each in rest[0].split("+")] if rest else []
                tripped = chance.random() < _trips(kind, numbers, rest, truth)
                answers.append(Answered(question=found.next.id, tripped=tripped))
            self.assertEqual(found.suspects[0].id, truth, answers)
            steps.append(len(answers))
        self.assertLess(sum(steps) / len(steps), 8)

    def test_much_leakage_speaks_for_the_sum(self) -> None:
        plain = [
            each.model_copy(update={"points": tuple(point(p.id) for p in each.points)}) for each in self.circuits()
        ]
        leaking = [
            each.model_copy(
                update={
                    "points": tuple(
                        p.model_copy(update={"loads": (Load(power_w=100, leakage_ma=2.5),)}) for p in each.points
                    )
                }
            )
            for each in self.circuits()
        ]
        shares = []
        for circuits in (plain, leaking):
            found = find_trip(circuits, "now-and-then", [Answered(question="bare", tripped=False)])
            shares.append(next((each.share for each in found.suspects if each.id == "sum"), 0.0))
        self.assertGreater(shares[1], 3 * max(shares[0], 0.001))

    def test_questions_of_circuits_that_are_gone_are_left_out(self) -> None:
        found = find_trip(self.circuits(), "at-once", [Answered(question="on/9", tripped=True)])
        self.assertEqual(found, find_trip(self.circuits(), "at-once", []))
