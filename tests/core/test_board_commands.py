"""Changing the boards of a house: each command, what it leaves alone, and what it refuses."""

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import TypeAdapter, ValidationError

from lumbek.core.board.changes import carry_out_on_boards, numbers_after
from lumbek.core.board.commands import BoardCommand
from lumbek.core.board.tree import seated
from lumbek.core.circuit.edit import EditRefusedError
from lumbek.core.model.board import Board, board_problems
from tests.support.boards import board, group, way

READ = TypeAdapter(BoardCommand)
CIRCUITS = ("C1", "C2", "C3", "C4")
TWO = (board(group("GA", way(1), way(2)), group("GB", way(3), way(4))),)


def after(*commands: dict, boards: tuple[Board, ...] = TWO, circuits: tuple[str, ...] = CIRCUITS) -> tuple[Board, ...]:
    for command in commands:
        boards = carry_out_on_boards(boards, circuits, READ.validate_python(command))
    return boards


def held(boards: tuple[Board, ...]) -> list[list[tuple[str, ...]]]:
    """What each group's ways hold."""
    return [[each.circuits for each in group.ways] for board in boards for group in board.groups]


class Seats(unittest.TestCase):
    def test_every_circuit_gets_a_way_and_none_that_is_gone_keeps_one(self) -> None:
        self.assertEqual(held(seated((), ("C1", "C2"))), [[("C1",), ("C2",)]])
        self.assertEqual(held(seated(TWO, ("C1", "C9"))), [[("C1",), ()], [(), ()], [("C9",)]])
        self.assertEqual(seated(TWO, CIRCUITS), TWO)

    def test_a_board_whose_feed_is_gone_is_no_longer_fed_by_it(self) -> None:
        fed = (*TWO, board(group("GC"), board_id="B2", fed_by="C4"))
        self.assertIsNone(seated(fed, ("C1", "C2", "C3"))[1].fed_by)


class Commands(unittest.TestCase):
    def test_moving_a_way_in_its_group_and_to_another(self) -> None:
        self.assertEqual(
            held(after({"op": "move-way", "way": "W2", "group": "GA", "index": 0})),
            [[("C2",), ("C1",)], [("C3",), ("C4",)]],
        )
        self.assertEqual(
            held(after({"op": "move-way", "way": "W2", "group": "GB"})), [[("C1",)], [("C3",), ("C4",), ("C2",)]]
        )
        crossed = after({"op": "way", "way": "W2", "neutral_at": "GB"})
        self.assertEqual(crossed[0].ways[1].neutral_at, "GB")
        moved = after({"op": "move-way", "way": "W2", "group": "GB"}, boards=crossed)
        self.assertIsNone(moved[0].ways[3].neutral_at)

    def test_a_circuit_is_lifted_out_of_its_way_or_put_into_another_too(self) -> None:
        self.assertEqual(held(after({"op": "seat", "circuit": "C1", "way": "W3"}))[0], [(), ("C2",)])
        both = held(after({"op": "seat", "circuit": "C1", "way": "W3", "also": True}))
        self.assertEqual(both, [[("C1",), ("C2",)], [("C3", "C1"), ("C4",)]])

    def test_groups_come_and_go_and_their_ways_stay(self) -> None:
        added = after({"op": "add-group", "board": "B1"})
        self.assertEqual(added[0].groups[2].rcd.rated_ma, 30)
        self.assertEqual(held(after({"op": "drop-group", "group": "GB"})), [[("C1",), ("C2",), ("C3",), ("C4",)]])
        self.assertEqual(held(after({"op": "drop-group", "group": "GA"})), [[("C1",), ("C2",), ("C3",), ("C4",)]])
        last = after({"op": "drop-group", "group": "GB"}, {"op": "drop-group", "group": "GA"})
        self.assertEqual((len(last[0].groups), last[0].groups[0].rcd), (1, None))

    def test_a_groups_rcd_field_by_field(self) -> None:
        found = after({"op": "group", "group": "GA", "rated_ma": 100, "delayed": True})[0].groups[0]
        self.assertEqual((found.rcd.rated_ma, found.rcd.delayed, found.rcd.type, found.rating_a), (100, True, "A", 63))
        self.assertEqual(after({"op": "group", "group": "GA", "rcd": "unknown"})[0].groups[0].rcd, "unknown")
        none = after({"op": "group", "group": "GA", "rcd": "none"})[0].groups[0]
        self.assertEqual((none.rcd, none.rating_a), (None, None))
        again = after({"op": "group", "group": "GA", "rcd": "none"}, {"op": "group", "group": "GA", "rcd": "rcd"})
        self.assertEqual(again[0].groups[0].rcd.rated_ma, 30)

    def test_a_board_field_by_field(self) -> None:
        found = after(
            {"op": "board", "board": "B1", "main": "rccb"},
            {"op": "board", "board": "B1", "main_rating_a": 63, "main_rated_ma": 100},
            {"op": "board", "board": "B1", "surge": "1+2", "surge_lead_m": 0.8},
            {"op": "board", "board": "B1", "material": "plastic"},
        )[0]
        self.assertEqual((found.main.standard, found.main.rating_a, found.main.rcd.rated_ma), ("bs-en-61008", 63, 100))
        self.assertEqual((found.surge.type, found.surge.lead_m), ("1+2", 0.8))
        self.assertEqual((found.enclosure.material, found.enclosure.ip, found.main_poles), ("plastic", "IP4X", 2))
        for kind, standard in (("switch", "switch"), ("switch-fuse", "bs88-3"), ("breaker", "bs-en-60898")):
            self.assertEqual(after({"op": "board", "board": "B1", "main": kind})[0].main.standard, standard)
        self.assertEqual(after({"op": "board", "board": "B1", "main": "none"})[0].main, None)
        self.assertEqual(after({"op": "board", "board": "B1", "surge": "none"})[0].surge, None)

    def test_sub_boards(self) -> None:
        second = (board(group("GA", way(1), way(2)), group("GB", way(3), way(4)), board_id="B2"),)
        self.assertEqual([each.id for each in after({"op": "add-board", "name": "Free"}, boards=second)], ["B2", "B1"])
        fed = after({"op": "add-board", "name": "Shed", "fed_by": "C4"})
        self.assertEqual((fed[1].name, fed[1].fed_by), ("Shed", "C4"))
        beside = after({"op": "add-board", "name": "Beside"})
        self.assertEqual(beside[1].beside, "B1")
        moved = after({"op": "move-way", "way": "W1", "group": fed[1].groups[0].id}, boards=fed)
        self.assertEqual(moved[1].ways[0].circuits, ("C1",))
        gone = after({"op": "drop-board", "board": "B2"}, boards=moved)
        self.assertEqual(sorted(key for each in gone[0].ways for key in each.circuits), list(CIRCUITS))

    def test_spaces(self) -> None:
        added = after({"op": "add-way", "group": "GB"})
        new = added[0].groups[1].ways[-1]
        self.assertEqual(after({"op": "way", "way": new.id, "blank": True}, boards=added)[0].ways[-1].blank, True)
        self.assertEqual(after({"op": "drop-way", "way": new.id}, boards=added), TWO)
        fitted = after({"op": "way", "way": new.id, "unused_a": 16}, boards=added)
        self.assertEqual(fitted[0].ways[-1].device.rating_a, 16)
        self.assertIsNone(after({"op": "way", "way": new.id, "unused_a": None}, boards=fitted)[0].ways[-1].device)

    def test_numbers(self) -> None:
        def numbers(command: dict, **now: int) -> dict[str, int]:
            return numbers_after(TWO, now, READ.validate_python(command))

        self.assertEqual(numbers({"op": "number-by-way"}, C1=9), {"C1": 1, "C2": 2, "C3": 3, "C4": 4})
        self.assertEqual(numbers({"op": "number", "circuit": "C1", "number": 5}, C1=9, C2=4), {"C1": 5, "C2": 4})
        for command, words in (("C2", "another"), ("C7", "not there")):
            with self.assertRaisesRegex(EditRefusedError, words):
                numbers({"op": "number", "circuit": command, "number": 9}, C1=9, C2=4)

    def test_what_is_refused_says_why(self) -> None:
        for command, words in (
            ({"op": "board", "board": "B9", "name": "x"}, "not there"),
            ({"op": "group", "group": "G9"}, "not there"),
            ({"op": "way", "way": "W9"}, "not there"),
            ({"op": "drop-way", "way": "W1"}, "feeds a circuit"),
            ({"op": "drop-board", "board": "B1"}, "first board"),
            ({"op": "board", "board": "B1", "fed_by": "C1"}, "origin"),
            ({"op": "add-board", "name": "x", "fed_by": "C77"}, "no circuit"),
            ({"op": "seat", "circuit": "C77", "way": "W1"}, "no such circuit"),
            ({"op": "house", "boards": []}, ""),
        ):
            if command["op"] == "house":
                self.assertEqual(len(after(command)), 1)
                continue
            with self.assertRaisesRegex(EditRefusedError, words):
                after(command)
        with self.assertRaisesRegex(ValidationError, "blank"):
            after({"op": "way", "way": "W1", "blank": True})
        # In a way of the board that it feeds, beside its own: whatever it is found in, it cannot feed itself.
        shed = (*TWO, board(group("GC", way(9)), board_id="B2", fed_by="C4"))
        of_shed = shed[-1].ways[0].id
        with self.assertRaisesRegex(EditRefusedError, "hangs on itself"):
            after({"op": "seat", "circuit": "C4", "way": of_shed, "also": True}, boards=shed)
        loop = (*TWO, board(group("GC", way(9)), board_id="B2", fed_by="C4"))
        with self.assertRaisesRegex(EditRefusedError, "hangs on itself|tree"):
            after({"op": "seat", "circuit": "C4", "way": "W9"}, boards=loop)

    @settings(max_examples=80)
    @given(st.data())
    def test_any_row_of_commands_leaves_a_sound_tree_with_every_circuit(self, data: st.DataObject) -> None:
        boards = TWO
        for _ in range(data.draw(st.integers(1, 8))):
            ways = [each.id for board in boards for each in board.ways]
            groups = [each.id for board in boards for each in board.groups]
            command = data.draw(
                st.one_of(
                    st.builds(
                        lambda w, g, i: {"op": "move-way", "way": w, "group": g, "index": i},
                        st.sampled_from(ways),
                        st.sampled_from(groups),
                        st.integers(0, 5),
                    ),
                    st.builds(
                        lambda c, w, a: {"op": "seat", "circuit": c, "way": w, "also": a},
                        st.sampled_from(CIRCUITS),
                        st.sampled_from(ways),
                        st.booleans(),
                    ),
                    st.builds(lambda g: {"op": "drop-group", "group": g}, st.sampled_from(groups)),
                    st.builds(lambda b: {"op": "add-group", "board": b}, st.sampled_from([each.id for each in boards])),
                    st.builds(lambda c: {"op": "add-board", "name": "More", "fed_by": c}, st.sampled_from(CIRCUITS)),
                    st.builds(
                        lambda b: {"op": "drop-board", "board": b}, st.sampled_from([each.id for each in boards])
                    ),
                    st.builds(lambda w: {"op": "drop-way", "way": w}, st.sampled_from(ways)),
                )
            )
            try:
                boards = after(command, boards=boards)
            except EditRefusedError:
                continue
            self.assertEqual(board_problems(boards, set(CIRCUITS)), [])
            self.assertEqual({key for each in boards for found in each.ways for key in found.circuits}, set(CIRCUITS))


if __name__ == "__main__":
    unittest.main()
