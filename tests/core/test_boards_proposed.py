"""Boards balanced, proposed, labelled, found as they are, and trees that are none."""

import unittest
from itertools import product
from unittest import mock

from hypothesis import given, settings
from hypothesis import strategies as st

from lumbek.core.board.balance import MOST, balance
from lumbek.core.board.judge import judge_house
from lumbek.core.board.labels import sheet_of_board
from lumbek.core.board.propose import propose_boards
from lumbek.core.judging.check import Verdict
from lumbek.core.judging.judgement import judge_circuit
from lumbek.core.model.board import Board, Enclosure, Group, Way, board_problems
from lumbek.core.model.device import Device, Rcd
from lumbek.core.model.job import JobCircuit
from lumbek.core.model.point import Load, Point
from tests.support.boards import (
    FOUR,
    SOCKETS_DOWN,
    SOCKETS_UP,
    SWITCH_100,
    asked,
    board,
    circuit,
    group,
    house,
    in_room,
    judged_house,
    two_groups,
    way,
)
from tests.support.houses import BS, IEC, SUPPLY, check
from tests.support.stated import a_device

BOOKS = (BS, IEC)
PASS, FAIL, OPEN, NONE = Verdict.PASS, Verdict.FAIL, Verdict.CANNOT_TELL, Verdict.NOT_APPLICABLE


class Balancing(unittest.TestCase):
    @settings(max_examples=200)
    @given(
        st.lists(st.integers(0, 300).map(lambda each: each / 10), min_size=1, max_size=6),
        st.tuples(*[st.integers(0, 200).map(lambda each: each / 10)] * 3),
    )
    def test_against_brute_force(self, currents: list[float], fixed: tuple[float, float, float]) -> None:
        def greatest(lines: tuple[int, ...]) -> float:
            sums = list(fixed)
            for ampere, line in zip(currents, lines, strict=True):
                sums[line] += ampere
            return round(max(sums), 6)

        every = sorted({greatest(lines) for lines in product(range(3), repeat=len(currents))})
        found = balance(currents, fixed)
        self.assertAlmostEqual(found.best.greatest_a, every[0])
        self.assertAlmostEqual(greatest(found.best.lines), every[0])
        if len(every) > 1:
            self.assertAlmostEqual(found.runner_up.greatest_a, every[1])
        else:
            self.assertIsNone(found.runner_up)

    def test_as_many_as_there_may_be_and_no_more(self) -> None:
        currents = [3.0 + (7 * index) % 23 for index in range(MOST)]
        found = balance(currents)
        self.assertAlmostEqual(found.best.greatest_a, -(-sum(currents) // 3))
        with self.assertRaises(ValueError):
            balance([1.0] * (MOST + 1))

    def test_the_neutral_of_three_lines(self) -> None:
        self.assertAlmostEqual(balance([10, 10, 10]).best.neutral_a, 0)
        self.assertAlmostEqual(balance([10, 0, 0]).best.neutral_a, 10)

    def test_lines_of_a_house(self) -> None:
        three = SUPPLY.model_copy(update={"phases": 3})
        circuits = [
            circuit(n, "fixed", "Hall", amps, of="fixed-appliance", rating_a=32)
            for n, amps in ((1, 20), (2, 20), (3, 20))
        ]
        heavy = [way(1, line="L1"), way(2, line="L1"), way(3, line="L2")]
        found = judged_house([board(group("GA", *heavy, ma=None), main_poles=4)], *circuits, supply=three)
        self.assertEqual((found.lines.now_a, len(found.lines.moves)), (("40.0", "20.0", "0.0"), 1))
        self.assertIn("20.0 A", asked(found, "lines").caution)
        kept = [way(1, line="L1", stays=True), way(2, line="L1", stays=True), way(3, line="L2")]
        stays = judged_house([board(group("GA", *kept, ma=None), main_poles=4)], *circuits, supply=three)
        self.assertEqual(stays.lines.moves, ())
        unsaid = judged_house([board(group("GA", way(1), ma=None), main_poles=4)], circuits[0], supply=three)
        self.assertEqual(asked(unsaid, "lines").verdict, OPEN)


class Proposals(unittest.TestCase):
    def test_the_least_that_puts_a_board_right(self) -> None:
        circuits = [circuit(n, "fixed", "Hall", 2, leakage_ma=4, of="fixed-appliance") for n in (1, 2, 3)]
        found = propose_boards(house([two_groups((1, 2, 3), ())], *circuits))
        self.assertEqual([len(mend.steps) for mend in found.mends], [1, 1, 1])
        for mend in found.mends:
            left = judged_house(mend.boards, *circuits)
            self.assertEqual(asked(left, "leakage-GA").verdict, PASS)

    def test_nothing_moves_to_where_it_has_no_rcd(self) -> None:
        circuits = [circuit(n, "fixed", "Hall", 2, leakage_ma=4) for n in (1, 2, 3)]
        bare = board(group("GA", *(way(n) for n in (1, 2, 3))), group("GB", ma=None))
        self.assertEqual(propose_boards(house([bare], *circuits)).mends, ())

    def test_from_scratch_in_either_school(self) -> None:
        for order in ("heavy-first", "by-storey", "by-number"):
            found = propose_boards(house([two_groups((1, 2), (3, 4))], *FOUR), order)
            one, two, _ = found.layouts
            self.assertEqual((one.count.rcbos, two.count.rccbs, two.fails), (4, 2, ()))
            # Four circuits and two spare ways, and two RCCBs of two modules.
            self.assertEqual((one.count.ways, two.count.ways), (6, 10))
            self.assertGreater(two.count.ways, one.count.ways)
            for layout in found.layouts:
                result = judged_house(layout.boards, *FOUR)
                self.assertEqual(asked(result, "division").verdict, PASS, layout.title)
                held = [key for each in layout.boards[0].ways for key in each.circuits]
                self.assertEqual(sorted(held), ["C1", "C2", "C3", "C4"])
        order = {
            each: [way.circuits for way in propose_boards(house([], *FOUR), each).layouts[0].boards[0].ways[:4]]
            for each in ("heavy-first", "by-storey")
        }
        # Sockets on 32 A before lights on 6 A; or the upper storey before the lower.
        self.assertEqual(order["heavy-first"], [("C2",), ("C4",), ("C1",), ("C3",)])
        self.assertEqual(order["by-storey"], [("C1",), ("C2",), ("C3",), ("C4",)])
        by_number = propose_boards(house([], *FOUR[::-1]), "by-number").layouts[0].boards[0]
        self.assertEqual([each.circuits for each in by_number.ways[:4]], [("C1",), ("C2",), ("C3",), ("C4",)])

    def test_sockets_of_people_at_work_are_split(self) -> None:
        names = [f"Bench {n}" for n in range(1, 5)]
        points = tuple(
            Point(id=f"P{n}", name=name, at=in_room("Hall"), kind="socket-twin")
            for n, name in enumerate(names, start=1)
        )
        bench = circuit(4, "socket-twin").model_copy(update={"points": points})
        found = propose_boards(house([board(group("GA", way(4, needs=("business",)), ma=None))], bench))
        self.assertEqual(found.splits[0].room, "Hall")
        self.assertEqual(found.splits[0].first, ("Bench 1", "Bench 3"))


class Large(unittest.TestCase):
    def test_ways_are_not_compared_with_each_other(self) -> None:
        """A board of thousands of ways is judged in seconds: with n, not n²."""
        many = [circuit(n, "light", "Hall", 1, of="lighting", rating_a=6) for n in range(1, 201)]
        some, others = (
            group(name, *(way(n) for n in of)) for name, of in (("GA", range(1, 101)), ("GB", range(101, 201)))
        )
        built = house([board(some, others)], *many)
        compared, plain = 0, Way.__eq__

        def counted(one: Way, other: object) -> bool:
            nonlocal compared
            compared += 1
            return plain(one, other)

        with mock.patch.object(Way, "__eq__", counted):
            judge_house(built)
            sheet_of_board(built, built.boards[0])
        self.assertLessEqual(compared, 200)


class Written(unittest.TestCase):
    def test_labels_notices_and_the_note(self) -> None:
        old = SOCKETS_UP.model_copy(update={"cable": SOCKETS_UP.cable.model_copy(update={"colours": "uk-old"})})
        sun = circuit(7, "source", "Loft", None).model_copy(
            update={"points": (Point(id="P1", kind="source", loads=(Load(current_a=10),)),)}
        )
        built = house([board(group("GA", way(4), way(2)), group("GB", way(7)))], SOCKETS_DOWN, old, sun)
        sheet = sheet_of_board(built, built.boards[0])
        self.assertEqual(
            [(each.numbers, each.neutral) for each in sheet.labels][:2], [("4", "N4, bar 1"), ("2", "N2, bar 1")]
        )
        titles = [each.title for each in sheet.notices]
        self.assertEqual(titles, ["Isolation", "Inspection", "RCD test", "Mixed colours", "Second source"])
        self.assertTrue(any("Kitchen" in line for line in sheet.note))
        # A circuit has one number: on the strip, on the neutral, in the note.
        self.assertEqual([line.split()[0] for line in sheet.note[1:4]], ["4", "2", "7"])
        plain = house([board(group("GA", way(4), ma=None))], SOCKETS_DOWN)
        self.assertEqual(
            [each.title for each in sheet_of_board(plain, plain.boards[0]).notices], ["Isolation", "Inspection"]
        )


class AsFound(unittest.TestCase):
    """Boards of old houses, and what an assessor says of them."""

    def of(self, *boards, circuits=FOUR):
        return {each.id: each.verdict for each in judged_house(boards, *circuits).checks}

    def test_a_fuse_board_of_timber_with_rewirable_fuses(self) -> None:
        fuse = a_device(standard="bs3036", curve=None, rating_a=15, rcd=None, breaking_capacity_ka=1)
        old = [each.model_copy(update={"device": fuse}) for each in FOUR]
        found = self.of(
            board(
                group("GA", *(way(n) for n in (1, 2, 3, 4)), ma=None),
                state="as-found",
                enclosure=Enclosure(material="timber"),
                surge=None,
            ),
            circuits=old,
        )
        self.assertEqual((found["enclosure-B1"], found["division"], found["main-B1"]), (FAIL, PASS, PASS))

    def test_a_single_pole_main_switch(self) -> None:
        found = self.of(board(group("GA", way(4), ma=None), main=SWITCH_100, main_poles=1, state="as-found"))
        self.assertEqual(found["main-B1"], FAIL)

    def test_a_split_board_with_the_lights_on_no_rcd(self) -> None:
        found = self.of(board(group("GA", way(2), way(4)), group("GB", way(1), way(3), ma=None)))
        self.assertEqual((found["division"], found["neutrals-B1"]), (PASS, PASS))

    def test_one_rcd_for_all_in_the_old_way(self) -> None:
        rccb = Device(standard="bs-en-61008", curve=None, rating_a=80, rcd=Rcd(rated_ma=30, type="AC"))
        found = self.of(board(group("GA", *(way(n) for n in (1, 2, 3, 4)), ma=None), main=rccb, state="as-found"))
        self.assertEqual((found["division"], found["main-B1"]), (FAIL, PASS))

    def test_a_garage_board_fed_from_a_group_of_the_house(self) -> None:
        feed = circuit(9, "board", "Garage", None, of="distribution", rating_a=32)
        garage = circuit(5, "socket-twin", "Garage", 5)
        boards = [
            board(group("GA", way(9), way(2))),
            board(group("GB", way(5)), board_id="B2", fed_by="C9", main=SWITCH_100, main_poles=2),
        ]
        built = house(boards, feed, garage, SOCKETS_UP)
        placed = built.effective(JobCircuit(design=garage))
        # Two of 30 mA in one path: either may go.
        self.assertEqual(check(judge_circuit(BS, SUPPLY, placed), "rcd-series").verdict, FAIL)

    def test_a_ring_whose_ends_are_in_two_ways(self) -> None:
        found = self.of(board(group("GA", way(4), way(2, 4), way(1), way(3), ma=None), state="as-found"))
        self.assertEqual(found["ways"], FAIL)

    def test_a_replacement_with_its_bar_on_the_other_side_says_what_must_reach(self) -> None:
        old = board(group("GA", *(way(n) for n in (1, 2, 3, 4)), ma=None), state="as-found", neutral_side="right")
        reach = propose_boards(house([old], *FOUR)).layouts[0].reach
        self.assertIn("circuits 1, 2, 3, 4 must reach up to 72 mm", reach)
        left = old.model_copy(update={"neutral_side": "left"})
        self.assertEqual(propose_boards(house([left], *FOUR)).layouts[0].reach, "")


if __name__ == "__main__":
    unittest.main()


class WrongTrees(unittest.TestCase):
    def test_what_is_wrong_with_a_tree_is_told_by_field(self) -> None:
        main = Board(id="B1", name="Main", groups=(Group(id="G1", ways=(Way(id="W1", circuits=("C1",)),)),))
        fed = Board(id="B2", name="Studio", fed_by="C1")
        self.assertEqual(board_problems((main, fed), {"C1"}), [])
        for boards, circuits, field, reason in (
            (
                (main, fed, fed.model_copy(update={"id": "B3"})),
                {"C1"},
                "boards.2.fed_by",
                "feeds another board already",
            ),
            ((main, fed.model_copy(update={"fed_by": "C9"})), {"C1"}, "boards.1.fed_by", "there is no circuit"),
            (
                (main, fed.model_copy(update={"fed_by": None, "beside": "B2"})),
                {"C1"},
                "boards.1.beside",
                "no other board",
            ),
            ((main, main), {"C1"}, "boards", "the same id"),
            ((main,), set(), "boards.0", "there is no such circuit"),
            ((fed,), {"C1"}, "boards", "none is fed from the origin"),
        ):
            with self.subTest(reason):
                found = board_problems(boards, circuits)
                self.assertTrue(any(each == field and reason in why for each, why in found), found)
        looped = main.model_copy(update={"fed_by": "C1"})
        self.assertIn(("boards.0", "hangs on itself: boards form a tree"), board_problems((looped,), {"C1"}))
