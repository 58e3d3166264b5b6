"""Walls to be wired: by the planner, wrongly, short of cores, with two circuits in a box, and with cables unmarked."""

import unittest
from itertools import combinations, product
from math import dist
from typing import get_args

from lumbek.core.judging.check import Verdict
from lumbek.core.model.leg import Leg
from lumbek.core.model.scheme import LightingSchool
from lumbek.core.rulebooks import load_rulebook
from lumbek.core.switching.prove import holds
from lumbek.practice.boxes import LegOf
from lumbek.practice.exercise import Act, BadActError, LinkWire, School, WiredEnd, solved
from lumbek.practice.make import begin
from lumbek.practice.pictures import wall_of
from lumbek.practice.pulling import minutes_of
from lumbek.practice.switching import Switching, moved
from tests.support.practice import LEVELS, SCHOOL, ended

BS = load_rulebook("bs7671")


def begun(seed: int, level: int, school: School = SCHOOL) -> Switching:
    exercise = begin("switching", seed, level, school)
    assert isinstance(exercise, Switching)
    return exercise


def laid(exercise: Switching) -> Act:
    """Bell out and pull as one who knows; return how it is wired then."""
    while (way := exercise.way()).choice:
        exercise.act(way)
    return way


def found(level: int, *, circuits: int = 1, lacks: bool = False, unmarked: bool = False) -> Switching:
    """The first wall of a level that is so."""
    for seed in range(400):
        exercise = begun(seed, level)
        wall = exercise.wall
        if (len(wall.circuits), bool(wall.lacks), bool(wall.unmarked)) == (circuits, lacks, unmarked):
            return exercise
    raise AssertionError("no such wall")


class Walls(unittest.TestCase):
    def test_every_school_and_level_is_wired_rightly_by_the_planner(self) -> None:
        for level, loop, seed in product(LEVELS, get_args(LightingSchool)[:2], range(4)):
            exercise = begun(seed, level, School(loop=loop))
            solved(exercise)
            self.assertEqual(ended(exercise).marks, 100)

    def test_alarms_that_sound_together_and_fans_that_run_on_are_among_them(self) -> None:
        found: dict[str, Switching] = {}
        for level, seed in product((3, 4, 5), range(12)):
            exercise = begun(seed, level)
            story = exercise.story
            kind = "alarms" if "sound together" in story else "fan" if "Fan: on for good." in story else "plain"
            found.setdefault(kind, exercise)
        self.assertEqual(set(found), {"alarms", "fan", "plain"})
        for kind, terminal, place in (("alarms", "I", "A1"), ("fan", "S", "F1")):
            view = found[kind].view()
            assert view.ask is not None
            box = next(each for each in view.ask.boxes if each.place == place)
            self.assertIn(terminal, box.terminals)
            self.assertEqual(holds(BS, found[kind].boxes.wired(laid(found[kind])))[0], Verdict.PASS)
        # The interlink left off at one of them is told.
        way = laid(found["alarms"])
        off = tuple(
            each.model_copy(update={"into": ""}) if (each.place, each.into) == ("A1", "I") else each
            for each in way.wired
        )
        self.assertNotEqual(off, way.wired)
        found["alarms"].act(way.model_copy(update={"wired": off}))
        self.assertIs(found["alarms"].seen[-1].good, False)

    def test_a_wrong_wall_says_what_is_wrong_and_may_be_put_right(self) -> None:
        exercise = begun(0, 2, SCHOOL)
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
        found = ended(exercise)
        self.assertTrue(found.safe)
        self.assertLess(found.marks, 85)

    def test_nothing_wired_four_times_is_switched_on_by_nobody(self) -> None:
        exercise = begun(1, 1, SCHOOL)
        off = Act(wired=(exercise.way().wired[0].model_copy(update={"into": ""}),))
        for _ in range(4):
            exercise.act(off)
        found = ended(exercise)
        self.assertEqual((found.safe, found.marks), (False, 0))
        self.assertTrue(found.debrief)

    def test_what_is_not_there_is_refused_with_its_name(self) -> None:
        exercise = begun(1, 1)
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

    def test_another_go_costs_by_the_ends_that_are_moved(self) -> None:
        exercise = found(2)
        right = laid(exercise)
        off = right.model_copy(
            update={
                "wired": tuple(
                    each.model_copy(update={"into": ""}) if (each.place, each.into) == ("Z1", "L") else each
                    for each in right.wired
                )
            }
        )
        exercise.act(off)
        before = exercise.minutes
        exercise.act(right)
        self.assertEqual(moved(off, right), 1)
        self.assertEqual(exercise.minutes - before, 2 + 5)
        self.assertIn("1 end moved", ended(exercise).debrief[0].came)


class ShortOfCores(unittest.TestCase):
    """A cable of two cores where three are needed: the cpc is no strapper, another is pulled."""

    def test_the_missing_cable_is_pulled_and_costs_no_marks(self) -> None:
        for level, loop in product((2, 3, 5), ("at-switch", "at-light")):
            seed = next(at for at in range(100) if begun(at, level, School(loop=loop)).wall.lacks)  # type: ignore[arg-type]
            exercise = begun(seed, level, School(loop=loop))  # type: ignore[arg-type]
            laid(exercise)
            self.assertEqual((exercise.dust, len(exercise.pulling.pulled)), (5, 1))
            solved(exercise)
            self.assertEqual(ended(exercise).marks, 100)

    def test_a_cpc_as_a_strapper_is_told(self) -> None:
        exercise = found(2, lacks=True)
        number, leg = next(iter(exercise.wall.lacks))
        plan = exercise.wall.circuits[number]
        lacking = plan.leg(leg)
        thin = next(each for each in plan.legs if {each.a, each.b} == {lacking.a, lacking.b} and each.id != leg)
        name = exercise.boxes.names[LegOf(number, thin.id)]
        right = laid(begun(exercise.seed, 2))
        # What the third core would have been is the bare wire of the cable that is there.
        into = {(each.place, each.core): each.into for each in right.wired if each.leg == "P1"}
        cores = {"L": "L", "N": "N", "E": "S1"}
        wired = tuple(
            each.model_copy(update={"into": into[each.place, cores[each.core]], "marked": None})
            if each.leg == name
            else each
            for each in right.wired
            if each.leg != "P1"
        )
        exercise.act(Act(wired=wired, links=right.links))
        self.assertIs(exercise.seen[-1].good, False)
        self.assertIn("cpc", exercise.seen[-1].came)

    def test_a_cable_for_nothing_is_told_and_costs(self) -> None:
        exercise = found(2)
        ask = exercise.ask()
        assert ask is not None
        pull = next(each for each in ask.choices if each.id.startswith("pull"))
        exercise.act(Act(choice=pull.id))
        again = exercise.ask()
        assert again is not None
        self.assertNotIn(pull.id, [each.id for each in again.choices])
        self.assertIn("P1", {end.leg for box in again.boxes for end in box.ends})
        solved(exercise)
        reckoning = ended(exercise)
        self.assertLess(reckoning.marks, 90)
        self.assertEqual((reckoning.dust, reckoning.least_dust), (5, 0))
        self.assertIn("1 cable was pulled; none is needed.", reckoning.said)

    def test_nothing_shows_what_is_lacking_before_it_is_pulled(self) -> None:
        exercise = found(3, lacks=True)
        ask = exercise.ask()
        assert ask is not None
        names = sorted({end.leg for box in ask.boxes for end in box.ends})
        self.assertEqual(names, [f"L{at}" for at in range(1, len(names) + 1)])
        offered = {each.id.rsplit(" ", 1)[0] for each in ask.choices if each.id.startswith("pull")}
        routes = [each for circuit in exercise.wall.circuits.values() for each in circuit.scheme.routes]  # type: ignore[union-attr]
        self.assertEqual(len(offered), sum("board" not in (each.a, each.b) for each in routes))
        hinted = exercise.more_hints()[0]
        self.assertIn("Count the cores", hinted)
        self.assertNotIn("Count the cores", found(3).more_hints()[0])


class TwoCircuits(unittest.TestCase):
    """A landing light that is switched from below, where the line of the other circuit lies ready."""

    def test_each_light_goes_and_comes_by_one_circuit(self) -> None:
        exercise = found(4, circuits=2)
        self.assertEqual(len(exercise.boxes.places["S1"]), 2)
        self.assertEqual(exercise.story.count("circuit 2"), 1)
        solved(exercise)
        self.assertEqual(ended(exercise).marks, 100)

    def test_a_borrowed_line_is_told_with_both_circuits(self) -> None:
        exercise = found(4, circuits=2)
        right = laid(exercise)
        own = next(each for each in right.wired if (each.place, each.into) == ("S1", "2.COM"))
        wired = tuple(
            each.model_copy(update={"into": ""}) if (each.leg, each.core) == (own.leg, own.core) else each
            for each in right.wired
        )
        links = (*right.links, LinkWire(place="S1", a="1.COM", b="2.COM"))
        exercise.act(Act(wired=wired, links=links))
        self.assertIs(exercise.seen[-1].good, False)
        self.assertIn("takes its line from circuit 1 and its neutral from circuit 2", exercise.seen[-1].came)

    def test_two_lines_joined_in_one_box_are_told(self) -> None:
        exercise = found(4, circuits=2)
        right = laid(exercise)
        exercise.act(Act(wired=right.wired, links=(*right.links, LinkWire(place="S1", a="2.COM", b="1.COM"))))
        self.assertIs(exercise.seen[-1].good, False)
        self.assertNotIn("cannot be told", exercise.seen[-1].came)

    def test_a_neutral_of_the_other_circuit_in_ones_connector_is_told(self) -> None:
        exercise = found(4, circuits=2)
        right = laid(exercise)
        boxes = exercise.boxes
        mine = {boxes.name_at("S1", leg) for leg in boxes.legs_at("S1") if leg.circuit == 2}
        spare = next(each for each in right.wired if (each.place, each.leg) == ("S1", min(mine)) and each.core == "L")
        letter = next(each.into for each in right.wired if each.place == "S1" and each.into in ("A", "B"))
        wired = tuple(each.model_copy(update={"into": letter}) if each == spare else each for each in right.wired)
        found_so = boxes.wired(Act(wired=wired, links=right.links))
        joined = [join for join in found_so[1].point("S1").joins if any(end.circuit == 2 for end in join.ends)]
        self.assertEqual(len(joined), 1)
        exercise.act(Act(wired=wired, links=right.links))
        self.assertIs(exercise.seen[-1].good, False)


class Unmarked(unittest.TestCase):
    def test_where_a_cable_goes_is_told_by_belling_it_out(self) -> None:
        exercise = found(3, unmarked=True)
        (place,) = exercise.wall.unmarked
        ask = exercise.ask()
        assert ask is not None
        box = next(each for each in ask.boxes if each.place == place)
        legs = sorted({end.leg for end in box.ends})
        self.assertEqual({end.to for end in box.ends}, {""})
        self.assertEqual(legs, list("abcdef"[: len(legs)]))
        others = [end.to for each in ask.boxes if each.place != place for end in each.ends]
        self.assertNotIn("", others)
        way = exercise.way()
        self.assertEqual(way.choice, f"bell {place}")
        exercise.act(way)
        self.assertEqual(exercise.minutes, 3 * len(legs))
        ask = exercise.ask()
        assert ask is not None
        box = next(each for each in ask.boxes if each.place == place)
        self.assertNotIn("", {end.to for end in box.ends})
        for leg in exercise.boxes.legs_at(place):
            self.assertIn(
                f"{exercise.boxes.name_at(place, leg)} to {exercise.boxes.far(place, leg)}", exercise.seen[0].came
            )

    def test_two_cables_taken_for_each_other_fail(self) -> None:
        exercise = found(3, unmarked=True)
        (place,) = exercise.wall.unmarked
        right = laid(exercise)
        taken = {"a": "b", "b": "a"}
        ends = {(each.place, each.leg, each.core): each for each in right.wired}
        wired = tuple(
            each.model_copy(update={"into": ends[place, taken[each.leg], each.core].into})
            if each.place == place and each.leg in taken and (place, taken[each.leg], each.core) in ends
            else each
            for each in right.wired
        )
        exercise.act(right.model_copy(update={"wired": wired}))
        self.assertIs(exercise.seen[-1].good, False)


class Levels(unittest.TestCase):
    def test_what_is_hard_comes_with_its_level(self) -> None:
        found: dict[str, set[int]] = {"lacks": set(), "unmarked": set(), "two": set(), "alarms": set()}
        for level, seed in product(LEVELS, range(40)):
            exercise = begun(seed, level)
            wall = exercise.wall
            for what, is_so in (
                ("lacks", bool(wall.lacks)),
                ("unmarked", bool(wall.unmarked)),
                ("two", len(wall.circuits) > 1),
                ("alarms", "sound together" in exercise.story),
            ):
                if is_so:
                    found[what].add(level)
        self.assertEqual(found, {"lacks": {2, 3, 4, 5}, "unmarked": {3, 4, 5}, "two": {4, 5}, "alarms": {3, 4, 5}})

    def test_nothing_is_pulled_on_the_first_level(self) -> None:
        for level, may in ((1, False), (2, True)):
            exercise = begun(0, level)
            ask = exercise.ask()
            assert ask is not None
            self.assertEqual(any(each.id.startswith("pull") for each in ask.choices), may)
            self.assertEqual("Another cable can be pulled" in exercise.story, may)

    def test_a_pull_takes_its_way_and_its_metres(self) -> None:
        self.assertEqual([minutes_of(metres) for metres in (None, 0, 1, 7.5)], [15, 15, 17, 30])
        exercise = found(2)
        ask = exercise.ask()
        assert ask is not None
        routes = [each for each in exercise.wall.circuits[1].scheme.routes if "board" not in (each.a, each.b)]  # type: ignore[union-attr]
        offered = [(each.minutes, each.dust) for each in ask.choices if each.id.startswith("pull")]
        self.assertEqual(offered, [(minutes_of(route.length_m), 5) for route in routes for _ in (2, 3)])

    def test_a_box_has_a_connector_for_two_ends_and_no_more_than_eight(self) -> None:
        for seed in range(6):
            ask = begun(seed, 5).ask()
            assert ask is not None
            for box in ask.boxes:
                self.assertEqual(box.connectors, min(len(box.ends) // 2, 8))


class Drawn(unittest.TestCase):
    def test_no_name_lies_on_another_and_no_box_on_a_box(self) -> None:
        for loop, level, seed in product(("at-switch", "at-light"), LEVELS, range(25)):
            picture = begun(seed, level, School(loop=loop)).picture()  # type: ignore[arg-type]
            for sort, least in (("words", 14), ("disc", 60)):
                spots = [(shape.x, shape.y) for shape in picture.shapes if shape.sort == sort]
                near = [(a, b) for a, b in combinations(spots, 2) if dist(a, b) < least]
                self.assertEqual(near, [], (sort, loop, level, seed))
            self.assertTrue(
                all(0 < shape.x < picture.width and 0 < shape.y < picture.height for shape in picture.shapes)
            )

    def test_each_box_is_a_column_further_than_where_it_is_fed_from(self) -> None:
        legs = [
            Leg(id=each, a=a, b=b) for each, a, b in (("L1", "board", "S1"), ("L2", "Z1", "S1"), ("L3", "S1", "Z2"))
        ]
        picture = wall_of(legs, "")
        at = {shape.words: shape for shape in picture.shapes if shape.sort == "words"}
        self.assertLess(at["B"].x, at["S1"].x)
        self.assertEqual(at["S1"].x - at["B"].x, at["Z1"].x - at["S1"].x)
        self.assertEqual(at["Z1"].x, at["Z2"].x)
        self.assertLess(at["Z1"].y, at["Z2"].y)
        self.assertEqual(at["B"].y, at["S1"].y)

    def test_cables_side_by_side_lie_apart_and_one_alone_in_the_middle(self) -> None:
        beside = [Leg(id=each, a="board", b="S1") for each in ("L1", "L2")]
        alone = wall_of(beside[:1], "").shapes[0]
        one, other = (shape for shape in wall_of(beside, "").shapes if shape.sort == "line")
        self.assertEqual(one.x, other.x)
        self.assertEqual(abs(one.y - other.y), 16)
        self.assertEqual((one.y + other.y) / 2, alone.y)
