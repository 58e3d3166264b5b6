"""Which of many: cables belled out, boards traced, an RCD that trips."""

import random
import unittest

from hypothesis import given
from hypothesis import strategies as st

from lumbek.core.diagnosis.codes import CodeWords, Seen, plan_codes, read_codes
from lumbek.core.diagnosis.questions import YesNo, after, bits, next_question
from lumbek.core.diagnosis.rcd_trips import TripAnswer, _trips, find_trip
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.point import Load, Point
from tests.support.houses import point, run

WORDS = CodeWords(never="never", always="always", elsewhere="elsewhere", twice="twice")


class Codes(unittest.TestCase):
    @given(st.integers(1, 40), st.integers(0, 1000))
    def test_every_core_is_known_in_as_many_rounds_as_digits(self, count: int, seed: int) -> None:
        far = [f"f{each}" for each in range(count)]
        plan = plan_codes(far)
        self.assertEqual(len(plan.rounds), (count + 1).bit_length())
        # None is joined in every round, none in no round.
        self.assertTrue(all(0 < sum(end in joined for joined in plan.rounds) < max(2, len(plan.rounds)) for end in far))
        truth = dict(zip((f"n{each}" for each in range(count)), random.Random(seed).sample(far, count), strict=True))
        seen = [Seen(name=near, rounds=tuple(end in joined for joined in plan.rounds)) for near, end in truth.items()]
        self.assertEqual({each.name: each.belongs_to for each in read_codes(plan, seen, WORDS)}, truth)

    def test_broken_touching_and_misread(self) -> None:
        plan = plan_codes(["a", "b", "c", "d"])
        bits_of = {"broken": (0, 0, 0), "touching": (1, 1, 1), "one": (1, 0, 0), "same": (1, 0, 0), "b": (0, 1, 0)}
        seen = [Seen(name=name, rounds=tuple(map(bool, bits))) for name, bits in bits_of.items()]
        found = {each.name: (each.belongs_to, each.why) for each in read_codes(plan, seen, WORDS)}
        self.assertEqual(found["broken"], (None, "never"))
        self.assertEqual(found["touching"], (None, "always"))
        self.assertEqual((found["one"], found["same"]), ((None, "twice"), (None, "twice")))
        self.assertEqual(found["b"], ("b", ""))

    def test_one_that_is_not_here_and_one_that_was_not_looked_at(self) -> None:
        plan = plan_codes(["a", "b", "c", "d"])
        seen = [Seen(name="stranger", rounds=(False, True, True)), Seen(name="b", rounds=(False, None, False))]
        found = {each.name: each.why for each in read_codes(plan, seen, WORDS)}
        self.assertEqual(found, {"stranger": "elsewhere", "b": "not seen in every round yet"})

    def test_a_board_keeps_all_off_for_what_is_dead_anyway(self) -> None:
        """Many outlets hang on one breaker; one that is dead in every round is broken, not a breaker's."""
        plan = plan_codes(["1", "2", "3"])
        self.assertEqual(len(plan.rounds), 3)
        seen = [Seen(name=name, rounds=(True, False, False)) for name in ("hall", "stair")]
        seen.append(Seen(name="shed", rounds=(True, True, True)))
        found = read_codes(plan, seen, WORDS.model_copy(update={"always": "dead anyway", "twice": ""}))
        self.assertEqual([each.belongs_to for each in found], ["1", "1", None])
        self.assertEqual(found[2].why, "dead anyway")


class Questions(unittest.TestCase):
    def test_a_question_that_halves_is_worth_a_bit_and_one_that_parts_nothing_none(self) -> None:
        share = dict.fromkeys("abcd", 0.25)
        half, none = (YesNo(each, "", "", "", {"a": 1.0, "b": 1.0}) for each in ("half", "none"))
        none = YesNo("none", "", "", "", {})
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
            answers: list[TripAnswer] = []
            while (found := find_trip(circuits, "at-once", answers)).next is not None and len(answers) < 20:
                kind, *rest = found.next.id.split("/")
                numbers = [int(each) for each in rest[0].split("+")] if rest else []
                tripped = chance.random() < _trips(kind, numbers, rest, truth)
                answers.append(TripAnswer(question=found.next.id, tripped=tripped))
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
            found = find_trip(circuits, "now-and-then", [TripAnswer(question="bare", tripped=False)])
            shares.append(next((each.share for each in found.suspects if each.id == "sum"), 0.0))
        self.assertGreater(shares[1], 3 * max(shares[0], 0.001))

    def test_questions_of_circuits_that_are_gone_are_left_out(self) -> None:
        found = find_trip(self.circuits(), "at-once", [TripAnswer(question="on/9", tripped=True)])
        self.assertEqual(found, find_trip(self.circuits(), "at-once", []))


class Tripping:
    """A board of single-pole breakers behind one RCD, with one thing wrong: what trips by what flows, and where."""

    def __init__(self, circuits: list[Circuit], kind: str, number: int, point_id: str = "") -> None:
        self.circuits, self.kind, self.number, self.point = circuits, kind, number, point_id

    def answer(self, question: str) -> bool:
        kind, *rest = question.split("/")
        listed = {int(each) for each in rest[0].split("+")} if rest else set()
        if kind == "bare":
            return self.kind == "rcd"
        if kind == "ramp":
            return self.kind == "rcd"
        if kind == "clamp":
            return self.kind in ("line", "load-line", "sum")
        if kind == "live-earth":
            return self.kind in ("line", "neutral")
        if kind == "n-earth":
            # Everything is unplugged before: what is in a load is not there.
            return self.kind == "neutral" and self.number in listed
        if kind == "n-bar":
            return self.kind == "mixed" and self.number in listed
        every = {circuit.number for circuit in self.circuits}
        on = listed if kind == "on" else every - listed if kind == "apart" else every
        neutral_in = every if kind != "apart" else every - listed
        out = set()
        if kind == "unplugged":
            points = [each.id for each in next(c for c in self.circuits if c.number == min(listed)).points]
            out = {(min(listed), each) for each in (rest[1].split("+") if len(rest) > 1 else points)}
        return self._trips(on, neutral_in, (self.number, self.point) in out)

    def _trips(self, on: set[int], neutral_in: set[int], unplugged: bool) -> bool:
        if self.kind == "rcd":
            return True
        if self.kind == "line":
            return self.number in on
        if self.kind == "load-line":
            return self.number in on and not unplugged
        # Through the neutral part of what the others draw goes astray, whether its own breaker is on or not.
        flows = bool(on)
        if self.kind == "neutral":
            return flows and self.number in neutral_in
        if self.kind == "load-neutral":
            return flows and self.number in neutral_in and not unplugged
        return flows and self.number in on


class TripsAgainstASimulator(unittest.TestCase):
    wanted = {"load-line": "load", "load-neutral": "load"}

    def test_what_is_wrong_is_found_in_few_questions(self) -> None:
        circuits = RcdTrips().circuits()
        taken, right, count = 0, 0, 0
        for kind in ("line", "neutral", "mixed", "load-line", "load-neutral", "rcd"):
            for circuit in circuits:
                house = Tripping(circuits, kind, circuit.number, circuit.points[-1].id)
                answers: list[TripAnswer] = []
                when = "at-once" if kind in ("line", "load-line") else "under-load"
                while (found := find_trip(circuits, when, answers)).next is not None and len(answers) < 20:
                    answers.append(TripAnswer(question=found.next.id, tripped=house.answer(found.next.id)))
                name = self.wanted.get(kind, kind)
                where = f"/{circuit.number}" + (f"/{house.point}" if name == "load" else "")
                right += found.suspects[0].id == (name if name == "rcd" else name + where)
                taken, count = taken + len(answers), count + 1
        self.assertGreaterEqual(right, count - 1)
        self.assertLess(taken / count, 8.1)

    def test_a_load_that_leaks_by_its_neutral_is_no_fault_of_the_wiring(self) -> None:
        circuits = RcdTrips().circuits()
        for circuit in circuits:
            house = Tripping(circuits, "load-neutral", circuit.number, circuit.points[0].id)
            answers: list[TripAnswer] = []
            while (found := find_trip(circuits, "under-load", answers)).next is not None and len(answers) < 20:
                answers.append(TripAnswer(question=found.next.id, tripped=house.answer(found.next.id)))
            self.assertEqual(found.suspects[0].id, f"load/{circuit.number}/{house.point}", answers)

    def test_the_rcd_and_the_sum_stand_on_a_test_of_their_own(self) -> None:
        circuits = RcdTrips().circuits()
        house = Tripping(circuits, "rcd", 1)
        answers: list[TripAnswer] = []
        while (found := find_trip(circuits, "at-once", answers)).next is not None and len(answers) < 20:
            answers.append(TripAnswer(question=found.next.id, tripped=house.answer(found.next.id)))
        self.assertIn("ramp", {each.question for each in answers})
        bare = find_trip(circuits, "at-once", [TripAnswer(question="bare", tripped=True)] * 1)
        self.assertTrue(bare.next is None or bare.next.id == "ramp" or bare.suspects[0].share < 0.9)

    def test_what_held_for_no_time_is_no_answer(self) -> None:
        load = (Load(power_w=100, leakage_ma=0.5),)
        circuits = [
            run(5).model_copy(update={"number": number, "points": (Point(id="P1", loads=load),)}) for number in (1, 2)
        ]

        def share(waited_h: float | None) -> float:
            said = [TripAnswer(question="on/1", tripped=False, waited_h=waited_h)]
            found = find_trip(circuits, "now-and-then", said, every_h=8)
            return next(each.share for each in found.suspects if each.id == "load/1/P1")

        before = next(
            e.share for e in find_trip(circuits, "now-and-then", [], every_h=8).suspects if e.id == "load/1/P1"
        )
        self.assertAlmostEqual(share(0.0), before, places=3)
        self.assertLess(share(24), 0.2 * before)
        self.assertTrue(share(24) < share(8) < share(2) < before)
        # Three mean times are worth waiting for; what is read is not waited for.
        step = find_trip(circuits, "now-and-then", [], every_h=8).next
        self.assertEqual(step.wait_h, None if step.id.split("/")[0] in ("clamp", "ramp", "live-earth") else 24)
        self.assertIsNone(find_trip(circuits, "at-once", [], every_h=8).next.wait_h)
