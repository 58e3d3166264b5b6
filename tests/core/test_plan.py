"""Rooms by the tape, marks by rule, and what they run into: to the millimetre."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from lumbek.core.circuit.edit import EditRefusedError
from lumbek.core.documents.gathered import gather
from lumbek.core.documents.set_out_sheet import set_out_paper
from lumbek.core.judging.answers import answer_circuits
from lumbek.core.judging.check import Check, Verdict
from lumbek.core.model import plan as model
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.job import Job, JobCircuit
from lumbek.core.model.places import Places
from lumbek.core.plan.answer import answer_plan
from lumbek.core.plan.commands import (
    AgreeHeight,
    DropMark,
    DropPart,
    Measure,
    MoveWall,
    PutBetween,
    PutMark,
    SetWall,
    TapeWasWrong,
    TickMark,
    TypeLine,
    TypeRoom,
)
from lumbek.core.plan.outline import area_m2, closure_of, corners_of, crosses_itself
from lumbek.core.plan.tape import TapeError, read_mm, read_room, read_walls, read_widths
from lumbek.core.rulebooks import load_rulebook
from lumbek.exchange.paper_csv import paper_csv
from tests.support.plans import after, along, answered, plan, room_of, wrong


class Tape(unittest.TestCase):
    def test_figures_as_they_are_read(self) -> None:
        for said, mm in {"4.20": 4200, "4,2": 4200, "3600": 3600, "30": 30, "29": 29000, "2.405": 2405}.items():
            self.assertEqual(read_mm(said), mm, said)
        for said, why in {
            "4.2005": "whole",
            "0": "1 mm",
            "x": "no measure",
            "1e3": "no measure",
            "101.0": "100 m",
        }.items():
            with self.assertRaisesRegex(TapeError, why):
                read_mm(said)

    def test_a_room_runs_east_first(self) -> None:
        name, outline = read_room("Bedroom 4.20 x 3.60 h 2.40")
        self.assertEqual((name, outline.height_mm), ("Bedroom", 2400))
        lengths = {wall.heading: wall.length_mm for wall in outline.walls}
        self.assertEqual(lengths, {0: 3600, 90: 4200, 180: 3600, 270: 4200})
        self.assertAlmostEqual(area_m2(outline), 15.12)
        self.assertEqual(closure_of(outline.walls).gap_mm, 0)

    def test_walls_in_order_and_widths(self) -> None:
        walls = read_walls("4,20 n, 1,10 e; 600 s, 2.00 45")
        self.assertEqual(
            [(wall.heading, wall.length_mm) for wall in walls], [(0, 4200), (90, 1100), (180, 600), (45, 2000)]
        )
        self.assertEqual(read_widths("600 600 450"), (600, 600, 450))
        for bad in ("4.20 n, 1.10 q", "4.20 n, 1 e", "4.20", "1 n, 1 e, 1 400"):
            with self.assertRaises(TapeError):
                read_walls(bad)

    def test_what_does_not_close_says_by_how_much_and_where_to_look(self) -> None:
        places = plan({"Study 3 x 3": []})
        with self.assertRaisesRegex(EditRefusedError, "100 mm west are missing. Look at measure 2, 4 again"):
            after(places, Measure(room="study", typed="3.00 n, 4.00 e, 3.00 s, 3.90 w"))
        with self.assertRaisesRegex(EditRefusedError, "cross"):
            after(places, Measure(room="study", typed="4.00 n, 2.00 e, 2.00 s, 3.00 w, 2.00 s, 1.00 e"))
        closed = after(places, Measure(room="study", typed="3.00 n, 4.00 e, 3.00 s, 3.992 w"))
        self.assertEqual(room_of(closed).gap_mm, 8)

    def test_a_tape_may_be_out_by_a_centimetre_and_no_more(self) -> None:
        places = plan({"Study 3 x 3": []})
        closed = after(places, Measure(room="study", typed="3.00 n, 4.00 e, 3.00 s, 3.99 w"))
        self.assertEqual(room_of(closed).gap_mm, 10)
        with self.assertRaisesRegex(EditRefusedError, "11 mm west"):
            after(places, Measure(room="study", typed="3.00 n, 4.00 e, 3.00 s, 3.989 w"))

    def test_whichever_way_it_was_typed_it_runs_clockwise(self) -> None:
        places = after(plan({"L 3 x 3": []}), Measure(room="l", typed="4.00 e, 2.00 n, 1.50 w, 1.00 n, 2.50 w, 3.00 s"))
        outline = places.rooms[0].outline
        assert outline is not None
        self.assertAlmostEqual(area_m2(outline), 4 * 2 + 2.5)
        self.assertEqual([wall.heading for wall in outline.walls], [0, 90, 180, 90, 180, 270])
        self.assertEqual(corners_of(outline)[2], (2500, 3000))

    def test_walls_that_touch_are_no_room_whichever_way_it_is_turned(self) -> None:
        # A notch as deep as the room is: its floor lies on the wall across; one that is less deep leaves a passage.
        for deep_mm, touches in ((4000, True), (3999, False)):
            steps = ((90, 4000), (0, 4000), (270, 1500), (180, deep_mm), (270, 1000), (0, deep_mm), (270, 1500))
            for turned in (0, 90, 180, 270):
                walls = [
                    model.Wall(id=f"w{at}", heading=(heading + turned) % 360, length_mm=mm)
                    for at, (heading, mm) in enumerate((*steps, (180, 4000)), start=1)
                ]
                self.assertEqual(crosses_itself(walls), touches, (deep_mm, turned))

    @given(st.lists(st.tuples(st.integers(200, 5000), st.integers(200, 5000)), min_size=2, max_size=6))
    def test_any_stair_of_walls_closes_and_has_its_area(self, steps: list[tuple[int, int]]) -> None:
        walls = "; ".join(f"{e} mm".replace(" mm", " e") + f"; {n} n" for e, n in steps)
        wide, high = sum(e for e, _ in steps), sum(n for _, n in steps)
        found = read_walls(f"{walls}; {wide} w; {high} s")
        self.assertEqual(closure_of(found).gap_mm, 0)


BEDROOM = {
    "Bedroom 4.20 x 3.60 h 2.40": [
        "door 838 s left 100 hinge left",
        "window 1200 n left 1500",
        "bed 1500 w middle",
        "socket both sides of bed cabinet 450",
        "switch beside door",
    ]
}


class ByRule(unittest.TestCase):
    def test_both_sides_of_the_bed_and_beside_the_door(self) -> None:
        found = along(plan(BEDROOM))
        # From its middle half a bed and half a cabinet: 1800 ± 975.
        self.assertEqual((found["socket-1"], found["socket-2"]), (825, 2775))
        # On the opening side: the door hangs on the left, so right of it.
        self.assertEqual(found["switch-1"], 100 + 838 + 150)

    def test_spread_is_rounded_once(self) -> None:
        found = along(plan({"Shed 2.25 x 3": ["4 sockets spread n"]}))
        self.assertEqual(list(found.values()), [281, 844, 1406, 1969])

    def test_each_rule_to_the_millimetre(self) -> None:
        places = plan(
            {
                "Kitchen 5.00 x 3.00": [
                    "window 1000 n left 600",
                    "window 800 n right 900",
                    "units 600 600 450 s left 200",
                    "radiator 1001 e left 500",
                    "socket between window window2",
                    "socket over units 3",
                    "socket middle radiator",
                    "socket n right 250",
                    "switch above socket-4 left 100 at 1200",
                    "light ceiling w 1.20 s 0.90",
                    "socket middle e at 300",
                ]
            }
        )
        found = along(places)
        # 1600 and 3300 are the edges between the windows; unit 3 is 1200 to 1650 from the left of the run.
        self.assertEqual(found["socket-1"], 2450)
        self.assertEqual(found["socket-2"], 200 + 1200 + 225)
        self.assertEqual(found["socket-3"], 1001)
        self.assertEqual((found["socket-4"], found["switch-1"]), (4750, 4650))
        self.assertEqual(found["socket-5"], 1500)
        marks = {each.mark: each for each in room_of(places).marks}
        self.assertEqual((marks["light-1"].x, marks["light-1"].y), (1200, 900))
        # Over the units: their top and a hand's breadth; otherwise by use, or as said.
        self.assertEqual([marks[key].height_mm for key in ("socket-2", "socket-4", "switch-1")], [1050, 450, 1200])

    def test_heights_follow_the_rulebook_and_departures_are_told_until_agreed(self) -> None:
        places = plan(
            {"Hall 2 x 3": ["socket n left 500", "socket n left 900 at 250", "socket n left 1300 as socket-2"]}
        )
        self.assertEqual([each.height_mm for each in room_of(places).marks], [450, 250, 250])
        self.assertEqual([each.height_mm for each in room_of(places, "iec60364").marks], [300, 250, 250])
        self.assertIn("450 to 1200", room_of(places).marks[1].departs)
        self.assertEqual(room_of(places, "iec60364").marks[1].departs, "")
        agreed = after(places, AgreeHeight(mark="socket-2", agreed=model.Agreed(by="M. Fallow", on="2026-05-04")))
        self.assertEqual(room_of(agreed).marks[1].departs, "")

    def test_the_ends_of_the_guidance_are_within_it(self) -> None:
        for mm, departs in ((449, True), (450, False), (1200, False), (1201, True)):
            (mark,) = room_of(plan({"Hall 2 x 3": [f"socket n left 500 at {mm}"]})).marks
            self.assertEqual(bool(mark.departs), departs, mm)

    def test_back_to_back_through_a_wall(self) -> None:
        places = plan({"One 4 x 3": ["socket e left 700"], "Other 5 x 3": []})
        wall = model.SharedWall(one=face("one", "w3"), other=face("other", "w1"), thickness_mm=70, offset_mm=0)
        places = after(places, PutBetween(between=wall), TypeLine(room="other", typed="socket behind socket-1"))
        # 700 from the left of one face is 700 from the right of the other.
        self.assertEqual(along(places)["socket-2"], 2300)
        back = after(places, TypeLine(room="one", typed="socket behind socket-2 right 200"))
        self.assertEqual({each.mark: each.left_mm for each in room_of(Places(**dict(back))).marks}["socket-2"], 2300)
        # Shifted: the right end of the other face is 400 to the right of the left end of the first.
        shifted = after(places, PutBetween(between=wall.model_copy(update={"offset_mm": 400})))
        self.assertEqual(along(shifted)["socket-2"], 400 + 3000 - 700)
        self.assertIn("its box meets the one behind it", str(answered_of_first(places)))
        thick = after(places, PutBetween(between=wall.model_copy(update={"thickness_mm": 71})))
        self.assertEqual(answered_of_first(thick), [])

    def test_circles_and_what_is_gone_are_refused_or_told(self) -> None:
        places = plan({"Hall 2 x 3": ["socket n left 500"]})
        mark = places.marks[0]
        round_ = mark.model_copy(update={"rule": model.Straight(mark="socket-1")})
        with self.assertRaisesRegex(EditRefusedError, "leads back to itself"):
            after(places, PutMark(mark=round_))
        with self.assertRaisesRegex(EditRefusedError, "is gone"):
            after(places, PutMark(mark=mark.model_copy(update={"rule": model.MiddleOf(of="sofa")})))
        leaning = after(places, TypeLine(room="hall", typed="switch above socket-1"))
        with self.assertRaisesRegex(EditRefusedError, "measured from it"):
            after(leaning, DropMark(mark="socket-1"))
        self.assertEqual(after(leaning, DropMark(mark="switch-1")).marks, places.marks)

    def test_what_it_was_measured_from_goes_and_it_stays_and_says_so(self) -> None:
        places = after(plan(BEDROOM), DropPart(room="bedroom", part="bed"))
        self.assertEqual(along(places)["socket-1"], 825)
        rule = places.marks[0].rule
        assert isinstance(rule, model.StaysAt)
        self.assertIn("bed", rule.why)


def face(room: str, wall: str) -> model.WallFace:
    return model.WallFace(room=room, wall=wall)


def answered_of_first(places: Places) -> list[str]:
    return [each.why for each in answered(places).rooms[0].conflicts]


class TwoEdits(unittest.TestCase):
    """The tape was wrong, and a wall is moved: they look alike."""

    def places(self) -> Places:
        return plan(
            {
                "Room 4.00 x 3.00": [
                    "window 1000 n right 500",
                    "radiator 800 n left 200",
                    "socket n right 300",
                    "socket middle n existing",
                    "socket s left 400 existing",
                ]
            }
        )

    def test_where_the_tape_was_wrong_what_was_measured_holds(self) -> None:
        places = after(self.places(), TapeWasWrong(room="room", wall="w2", length_mm=4100))
        outline = places.rooms[0].outline
        assert outline is not None
        self.assertEqual([wall.length_mm for wall in outline.walls], [3000, 4100, 3000, 4100])
        # The window was measured from the right corner and goes with it.
        self.assertEqual(outline.openings[0].offset_mm, 500)
        self.assertEqual(along(places), {"socket-1": 3800, "socket-2": 2050, "socket-3": 400})

    def test_where_a_wall_is_moved_what_exists_stays_and_what_is_planned_follows(self) -> None:
        places = after(self.places(), MoveWall(room="room", wall="w3", by_mm=250))
        outline = places.rooms[0].outline
        assert outline is not None
        self.assertEqual([wall.length_mm for wall in outline.walls], [3000, 4250, 3000, 4250])
        self.assertEqual(outline.openings[0].offset_mm, 750)
        # Planned: 300 from the right corner. Existing, from the left of the south wall, which begins at the moved one.
        self.assertEqual(along(places), {"socket-1": 3950, "socket-2": 2125, "socket-3": 650})
        with self.assertRaisesRegex(EditRefusedError, "in the way"):
            after(self.places(), MoveWall(room="room", wall="w3", by_mm=-600))
        with self.assertRaisesRegex(EditRefusedError, "no length"):
            after(plan({"Room 4 x 3": []}), MoveWall(room="room", wall="w3", by_mm=-4000))

    def test_what_is_new_follows_its_measure_and_what_is_there_stays(self) -> None:
        for fate, offset in (("new", 200), ("", 450)):
            places = plan({"Room 4.00 x 3.00": [f"radiator 800 n right 200 {fate}"]})
            outline = after(places, MoveWall(room="room", wall="w3", by_mm=250)).rooms[0].outline
            assert outline is not None
            self.assertEqual(outline.things[0].offset_mm, offset, fate)

    def test_a_wall_at_an_inner_corner_takes_from_one_neighbour_and_gives_to_the_other(self) -> None:
        places = after(plan({"L 3 x 3": []}), Measure(room="l", typed="3 n, 2.5 e, 1 s, 1.5 e, 2 s, 4 w"))
        outline = after(places, MoveWall(room="l", wall="w4", by_mm=200)).rooms[0].outline
        assert outline is not None
        self.assertEqual([wall.length_mm for wall in outline.walls], [3000, 2500, 800, 1500, 2200, 4000])
        # One neighbour without length is enough, however long the other grows.
        for by_mm in (1000, 1200, -2000):
            with self.assertRaisesRegex(EditRefusedError, "no length"):
                after(places, MoveWall(room="l", wall="w4", by_mm=by_mm))

    @given(st.integers(-1000, 3000))
    def test_moved_out_and_back_is_as_it_was(self, by_mm: int) -> None:
        places = plan({"Room 4.00 x 3.00": ["socket n right 300", "2 sockets spread e"]})
        there = after(places, MoveWall(room="room", wall="w3", by_mm=by_mm))
        self.assertEqual(after(there, MoveWall(room="room", wall="w3", by_mm=-by_mm)), places)

    def test_an_l_asks_which_wall_across_is_as_much_longer(self) -> None:
        places = after(plan({"L 3 x 3": []}), Measure(room="l", typed="3 n, 2.5 e, 1 s, 1.5 e, 2 s, 4 w"))
        with self.assertRaisesRegex(EditRefusedError, "Which wall across .*: e1, e2"):
            after(places, TapeWasWrong(room="l", wall="w1", length_mm=3100))
        found = after(places, TapeWasWrong(room="l", wall="w1", length_mm=3100, also="w5"))
        outline = found.rooms[0].outline
        assert outline is not None
        self.assertEqual([wall.length_mm for wall in outline.walls], [3100, 2500, 1000, 1500, 2100, 4000])


class RunInto(unittest.TestCase):
    def said(self, *lines: str, room: str = "Room 5.00 x 4.00 h 2.40") -> dict[str, list[str]]:
        return wrong(plan({room: lines}))

    def test_openings_and_leaves(self) -> None:
        door = "door 800 s left 1000 hinge left"
        self.assertEqual(self.said(door, "switch s left 1400 at 1100"), {"switch-1": ["in the door"]})
        # The leaf lies on its own wall beyond the hinge, for its own width, below its head.
        self.assertEqual(
            self.said(door, "switch s left 500 at 1100"), {"switch-1": ["behind the door when it is open"]}
        )
        self.assertEqual(self.said(door, "switch s left 157 at 1100"), {})
        self.assertEqual(self.said(door, "switch s left 500 at 2100"), {})
        self.assertEqual(self.said(door + " out", "switch s left 500 at 1100"), {})
        # A hinge near a corner: on the return wall too. The south wall's left is the east wall's right.
        near = "door 800 s left 100 hinge left"
        self.assertEqual(
            self.said(near, "switch e right 400 at 1100"), {"switch-1": ["behind the door when it is open"]}
        )
        self.assertEqual(self.said(near, "switch e right 900 at 1100"), {})
        far = "door 800 s left 300 hinge left"
        self.assertEqual(self.said(far, "switch e right 400 at 1100"), {})

    def test_edges_that_touch_are_no_conflict(self) -> None:
        self.assertEqual(self.said("window 1000 n left 500 sill 900", "socket n left 1000 at 857"), {})
        self.assertEqual(
            self.said("window 1000 n left 500 sill 900", "socket n left 1000 at 858"), {"socket-1": ["in the window"]}
        )

    def test_things(self) -> None:
        for lines, why in (
            (["radiator 1000 n left 500", "socket n left 900"], "behind a radiator"),
            (["hob 600 n left 500", "socket n left 800 at 1200"], "over the hob"),
            (["built-in 600 n left 500 fixed", "socket n left 800 at 400"], "behind what cannot be pulled out"),
            (["appliance 600 n left 500", "socket n left 800 at 400"], "can it be pulled out"),
            (["sink 500 n left 500", "socket n left 1372 at 1100"], "within 300 mm of the sink"),
            (["socket n left 73 at 40"], "below the floor"),
            (["socket n left 72"], "past the end of its wall"),
        ):
            with self.subTest(lines):
                found = self.said(*lines)
                self.assertIn(why, str(found))
        for lines in (
            ["hob 600 n left 500", "extraction 600 n left 500", "socket n left 800 at 2000"],
            ["appliance 600 n left 500 loose", "socket n left 800 at 400"],
            ["sink 500 n left 500", "socket n left 1373 at 1100"],
            ["radiator 1000 n left 500 goes", "socket n left 900"],
            ["socket n left 73"],
        ):
            self.assertEqual(self.said(*lines), {}, lines)

    def test_a_sink_is_measured_round_the_corner(self) -> None:
        # The bowl ends 100 from the corner and comes 500 out: along the east wall from its left end.
        sink = "sink 500 n right 100 deep 500"
        self.assertEqual(self.said(sink, "socket e left 700 at 1100"), {"socket-1": ["within 300 mm of the sink"]})
        self.assertEqual(self.said(sink, "socket e left 900 at 1100"), {})

    def test_plates_boxes_and_walls_too_thin(self) -> None:
        self.assertIn("its plate meets that of socket-1", str(self.said("socket n left 500", "socket n left 640")))
        self.assertEqual(self.said("socket n left 500", "socket n left 646"), {})
        places = after(plan({"Room 5 x 4": ["socket n left 900"]}), SetWall(room="room", wall="w2", depth_mm=30))
        self.assertEqual(wrong(places), {"socket-1": ["a box of 35 mm in a wall of 30 mm"]})
        self.assertEqual(wrong(after(places, SetWall(room="room", wall="w2", depth_mm=35))), {})

    def test_nothing_in_an_opening_goes_untold(self) -> None:
        for left in range(50, 3000, 50):
            found = self.said("window 900 n left 1000 sill 300", f"socket n left {left + 1}")
            covers = 1000 - 73 < left + 1 < 1900 + 73
            self.assertEqual("in the window" in str(found), covers, left)


class SetOuts(unittest.TestCase):
    def test_running_from_one_end_with_edges_and_ticks(self) -> None:
        places = plan({"Room 4 x 3": ["socket n right 500", "switch n left 200", "light ceiling w 1.5 s 1.5"]})
        places = after(
            places,
            TickMark(mark="switch-1"),
            TickMark(mark="socket-1", is_made=False, moved=model.MovedBy(right_mm=40, up_mm=-5), why="a stud"),
        )
        wall, ceiling = room_of(places).set_out
        self.assertEqual([(each.mark, each.across_mm) for each in wall.marks], [("switch-1", 200), ("socket-1", 3500)])
        self.assertEqual((wall.marks[1].left_edge_mm, wall.marks[1].right_edge_mm), (3427, 3573))
        self.assertTrue(wall.marks[0].is_made)
        self.assertEqual(wall.marks[1].moved, "40 mm right and 5 mm down: a stud")
        for right, up, words in ((1, 0, "1 mm right"), (-1, 0, "1 mm left"), (0, 1, "1 mm up"), (0, 0, "not moved")):
            by = model.MovedBy(right_mm=right, up_mm=up)
            there = after(places, TickMark(mark="socket-1", is_made=False, moved=by, why="a stud"))
            self.assertEqual(room_of(there).set_out[0].marks[1].moved, f"{words}: a stud")
        self.assertEqual((ceiling.face, ceiling.marks[0].across_mm, ceiling.marks[0].up_mm), ("ceiling", 1500, 1500))
        with self.assertRaisesRegex(EditRefusedError, "why"):
            after(places, TickMark(mark="switch-1", is_made=False, moved=model.MovedBy(right_mm=1)))


class Sheet(unittest.TestCase):
    def test_every_mark_of_every_room_with_what_is_wrong_before_it(self) -> None:
        places = plan({"Room 4 x 3": ["radiator 900 n left 200", "socket n left 500", "light ceiling w 1.5 s 1.5"]})
        paper = set_out_paper(gather(Job(**dict(places))))
        wall, ceiling = paper.sections
        self.assertEqual(wall.title, "Room: wall n, 4000 × 2400 mm")
        self.assertEqual(ceiling.title, "Room: ceiling, from west and south, 4000 × 3000 mm")
        self.assertIn("No. 1: behind a radiator", str(wall.blocks[0]))
        (line,) = paper.tables[0].rows
        cells = ("500", "450", "427 to 573", "to mark")
        self.assertEqual(tuple(line.cells[key] for key in ("across", "up", "edges", "state")), cells)
        self.assertIn("Room,n,socket,500,450", paper_csv(paper))
        self.assertEqual(set_out_paper(gather(Job())).missing, ("Nothing is marked on the plan yet",))


class Lines(unittest.TestCase):
    def test_counts_alone_are_placed_by_rule(self) -> None:
        places = plan(
            {"Living room 6.00 x 4.00": ["door 800 s left 500 hinge left", "6 spots, fan, 3 sockets, switch"]}
        )
        kinds = [mark.kind for mark in places.marks]
        self.assertEqual([kinds.count(each) for each in ("downlight", "fan", "socket", "switch")], [6, 1, 3, 1])
        spots = {(each.x, each.y) for each in room_of(places).marks if each.mark.startswith("downlight")}
        self.assertEqual(spots, {(x, y) for x in (1000, 3000, 5000) for y in (1000, 3000)})
        self.assertEqual(wrong(places), {})
        self.assertEqual(room_of(places).wants, {"data": 2})

    def test_what_is_not_understood_says_what(self) -> None:
        places = plan({"Room 4 x 3": ["bed 1500 w middle"]})
        for line, why in {
            "sofa 2000 n left 0": "'sofa' is not known",
            "door 800 q left 0": "no wall 'q': w, n, e, s",
            "door 800 n left": "left: how much",
            "door n left 0": "door, width: 'n' is no measure",
            "socket n up 3": "left or right",
            "socket beside cupboard": "'cupboard' is not in this room",
            "2 sockets n left 300": "spread over which wall",
            "socket n left 300 twice": "'twice' is not understood",
            "door 800 n left 4000": "past the end of wall n",
            "door 800 n left 0 head 0": "the head is above the sill",
            "spot grid 3": "columns by rows",
        }.items():
            with self.assertRaisesRegex(EditRefusedError, why):
                after(places, TypeLine(room="room", typed=line))


class Zones(unittest.TestCase):
    def zone(self, *lines: str, room: str = "Bathroom 3.00 x 2.50 h 2.50") -> tuple[str, int]:
        (found,) = room_of(plan({room: lines})).zones
        return found.zone, found.from_zone_1_mm

    def test_bath(self) -> None:
        bath = "bath 1700 n left 0 deep 700"
        for mark, zone in {
            "light ceiling w 0.80 n 0.30": "outside",
            "light n left 800 at 2200": "1",
            "light n left 800 at 500": "0",
            "light n left 2000 at 1500": "2",
            "light n left 2343 at 1500": "2",
            "light n left 2344 at 1500": "outside",
            "light w right 1343 at 1500": "2",
            "light w right 1345 at 1500": "outside",
        }.items():
            with self.subTest(mark):
                self.assertEqual(self.zone(bath, mark)[0], zone)

    def test_a_head_that_is_higher_lifts_the_zone(self) -> None:
        self.assertEqual(self.zone("shower 900 n left 0 tray head 2400", "light n left 400 at 2400")[0], "1")
        self.assertEqual(self.zone("shower 900 n left 0 tray", "light n left 400 at 2400")[0], "unknown")

    def test_without_a_tray_there_is_no_zone_2(self) -> None:
        # From the fixed head, in the middle of 900 at the wall: 1200 round it.
        shower = "shower 900 n left 0 no tray"
        self.assertEqual(self.zone(shower, "light n left 1692 at 1500"), ("1", 0))
        self.assertEqual(self.zone(shower, "light n left 1694 at 1500"), ("outside", 1))
        self.assertEqual(self.zone(shower, "light n left 500 at 120")[0], "0")
        self.assertEqual(self.zone("shower 900 n left 0", "light n left 500 at 1500")[0], "unknown")

    def test_round_a_fixed_partition(self) -> None:
        # A screen beside the bath, 900 out from the wall: the string goes round its end.
        bath, light = "bath 1700 n left 0 deep 700", "light n left 1900 at 1500"
        self.assertEqual(self.zone(bath, light)[0], "2")
        # Nobody can tell how far a place that is not in the room is.
        self.assertEqual(self.zone(bath, "light ceiling w 3.20 s 1.00")[0], "unknown")
        screen = "partition 50 n left 1700 deep 1500 high 2300"
        self.assertEqual(self.zone(bath, screen, light)[0], "outside")
        self.assertEqual(self.zone(bath, screen.replace("2300", "2000"), light)[0], "2")

    def test_verdicts_by_rulebook(self) -> None:
        bath = "bath 1700 n left 0 deep 700"
        for mark, bs, iec in (
            ("socket n left 2600 at 1200", "2500 mm are wanted", ""),
            ("socket n left 2000 at 1200", "a socket in zone 2", "a socket in zone 2"),
            ("switch n left 2000 at 1200", "a switch in zone 2", "how tight"),
            ("switch n left 800 at 1200", "a switch in zone 1", "a switch in zone 1"),
            ("shaver n left 2000 at 1400", "", ""),
            ("light n left 2000 at 1400", "wants IPX4", "wants IPX4"),
        ):
            for book, why in (("bs7671", bs), ("iec60364", iec)):
                found = wrong(plan({"Bathroom 3.00 x 2.50 h 2.50": [bath, mark]}), book)
                self.assertIn(why, str(found), (mark, book)) if why else self.assertEqual(found, {}, (mark, book))

    def test_a_socket_just_far_enough(self) -> None:
        # The bath ends at 1700; half of a twin plate is 73.
        for left, fine in ((1700 + 2500 + 73, True), (1700 + 2500 + 72, False)):
            lines = ["bath 1700 n left 0 deep 700", f"socket n left {left} at 1200"]
            self.assertEqual(wrong(plan({"Bathroom 5.00 x 2.50 h 2.50": lines})) == {}, fine, left)

    def test_marked_tight(self) -> None:
        places = plan({"Bathroom 3.00 x 2.50 h 2.50": ["bath 1700 n left 0 deep 700", "light n left 2000 at 1400"]})
        for ip, fine in (("IPX4", True), ("IP44", True), ("IPX3", False), ("IP4X", False), ("IPX5", True)):
            marked = after(places, PutMark(mark=places.marks[0].model_copy(update={"ip": ip})))
            self.assertEqual(wrong(marked) == {}, fine, ip)

    def test_as_tight_as_the_point_that_sits_there(self) -> None:
        places = plan({"Bathroom 3.00 x 2.50 h 2.50": ["bath 1700 n left 0 deep 700", "light n left 2000 at 1400"]})
        sits = places.marks[0].model_copy(update={"point": model.CircuitPoint(circuit="C1", point="P1")})
        places = after(places, PutMark(mark=sits))
        book = load_rulebook("bs7671")
        for ip, fine in (("IP44", True), ("IP20", False), ("", False)):
            (room,) = answer_plan(places, book, {("C1", "P1"): ip}).rooms
            self.assertEqual(room.conflicts == (), fine, ip)


class ZonesOfPoints(unittest.TestCase):
    """What the plan says of a point's zone is heard by the checks of its circuit."""

    def check(self, zone: str | None, mark: str, book: str = "bs7671") -> Check:
        places = plan({"Bathroom 3.00 x 2.50 h 2.50": ["bath 1700 n left 0 deep 700", mark]})
        sits = places.marks[0].model_copy(update={"point": model.CircuitPoint(circuit="C1", point="P1")})
        places = after(places, PutMark(mark=sits))
        kind = "socket-twin" if mark.startswith("socket") else "light"
        point = {"id": "P1", "kind": kind, "zone": zone, "ip": "IP44", "at": {"room": "bathroom"}}
        leg = {"id": "L1", "a": "board", "b": "P1", "segments": [{"length_m": 5}]}
        design = Circuit.model_validate({"points": [point], "legs": [leg]})
        job = Job(rulebook=book, circuits=(JobCircuit(design=design),), **dict(places))  # type: ignore[arg-type]
        (answer,) = answer_circuits(job)
        return next(check for check in answer.result.checks if check.id == "bath")

    def test_a_socket_by_the_tape(self) -> None:
        self.assertEqual(self.check(None, "socket n left 2000 at 1200").verdict, Verdict.FAIL)
        near = self.check(None, "socket n left 2800 at 1200")
        self.assertEqual(near.verdict, Verdict.FAIL)
        self.assertIn("1.02", str(near.model_dump()))
        self.assertEqual(self.check(None, "light n left 2000 at 1500").verdict, Verdict.PASS)

    def test_a_zone_that_was_typed_otherwise_is_told_and_neither_is_believed(self) -> None:
        told = self.check("outside", "light n left 2000 at 1500")
        self.assertEqual(told.verdict, Verdict.CANNOT_TELL)
        self.assertIn("said to be in none, and the plan has it in zone 2", str(told.model_dump()))
        self.assertEqual(self.check("2", "light n left 2000 at 1500").verdict, Verdict.PASS)


class Lamps(unittest.TestCase):
    ROOM = "Kitchen 4.20 x 3.00 h 2.40"

    def test_a_grid_follows_the_joists_that_a_trial_hole_moves(self) -> None:
        places = plan({self.ROOM: ["joists n pitch 600 wide 50 first 275", "6 spots grid 3x2 cut 70 clear"]})
        (told,) = room_of(places).grids
        # A joist over the middle of an odd row: symmetry gives way, and no cut-out is over one.
        self.assertEqual(told.gave_way, ("symmetry",))
        self.assertEqual(wrong(places), {})
        before = [each.x for each in room_of(places).marks]
        moved = after(places, TypeLine(room="kitchen", typed="joists n pitch 600 wide 50 first 175"))
        self.assertEqual((room_of(moved).grids[0].greatest_mm, wrong(moved)), (0, {}))
        self.assertNotEqual([each.x for each in room_of(moved).marks], before)
        # Not nudged, the same is told.
        loose = plan({self.ROOM: ["joists n pitch 600 wide 50 first 275", "6 spots grid 3x2"]})
        self.assertEqual(set(wrong(loose)), {"downlight-2", "downlight-5"})

    def test_the_edge_of_a_cut_out_may_touch_a_joist(self) -> None:
        # 35 and 20 clear of the edge at 100.
        room = ["joists n pitch 600 wide 50 first 50"]
        for mm, hits in ((155, False), (154, True), (545, False), (546, False), (596, True)):
            found = wrong(plan({self.ROOM: [*room, f"spot ceiling w {mm} s 1.50"]}))
            self.assertEqual(found != {}, hits, mm)

    def test_where_no_grid_clears_it_says_so(self) -> None:
        with self.assertRaisesRegex(EditRefusedError, "clears what is above"):
            plan({self.ROOM: ["joists n pitch 110 wide 50 first 0", "6 spots grid 3x2 clear"]})
        with self.assertRaisesRegex(EditRefusedError, "wider than a joist"):
            plan({self.ROOM: ["joists n pitch 40 wide 47"]})

    def test_light_by_what_is_said_of_lamps(self) -> None:
        self.assertIsNone(room_of(plan({self.ROOM: ["6 spots grid 3x2"]})).light)
        places = plan({self.ROOM: ["units 600 600 n left 0", "6 spots grid 3x2 400lm 60deg"]})
        light = room_of(places).light
        assert light is not None
        self.assertEqual(light.plane_mm, 900)
        self.assertLess(light.least_lx, light.average_lx)
        self.assertEqual((len(light.rows), len(light.rows[0])), (12, 17))
        self.assertEqual(max(cell or 0 for row in light.rows for cell in row), 9)


class Alarms(unittest.TestCase):
    def test_reach_and_distances(self) -> None:
        (reach,) = room_of(plan({"Hall 9.00 x 9.00": ["smoke middle n at 2300"]})).reaches
        self.assertEqual((reach.farthest_mm, reach.is_covered), (10063, False))
        (reach,) = room_of(plan({"Hall 9.00 x 9.00": ["smoke ceiling w 4.5 s 4.5"]})).reaches
        self.assertEqual((reach.farthest_mm, reach.is_covered), (6364, True))
        self.assertIn("within 300 mm of a wall", str(wrong(plan({"Hall 4 x 4": ["smoke ceiling w 0.299 s 2"]}))))
        self.assertEqual(wrong(plan({"Hall 4 x 4": ["smoke ceiling w 0.30 s 2"]})), {})
        near = plan({"Hall 4 x 4": ["light ceiling w 2 s 2", "smoke ceiling w 2.25 s 2"]})
        self.assertIn("within 300 mm of light-1", str(wrong(near)))

    def test_the_reach_is_within_itself_and_a_wall_hangs_an_alarm_high(self) -> None:
        # Half the diagonal of 9 by 12 m is 7.5 m.
        for room, covered in (("Hall 9.00 x 12.00", True), ("Hall 9.00 x 12.02", False)):
            deep = room.rsplit(" ", 1)[1]
            line = f"smoke ceiling w 4.50 s {float(deep) / 2:.2f}"
            (reach,) = room_of(plan({room: [line]})).reaches
            self.assertEqual(reach.is_covered, covered, (room, reach.farthest_mm))
        for mm, told in ((1800, False), (1799, True)):
            found = wrong(plan({"Hall 4 x 4 h 2.40": [f"smoke n left 2000 at {mm}"]}))
            self.assertEqual("below the ceiling" in str(found), told, mm)

    def test_one_outside_its_room_hears_nothing_there(self) -> None:
        out = "smoke ceiling w 4.20 s 2.00"
        self.assertEqual(room_of(plan({"Hall 4 x 4": [out]})).reaches, ())
        (reach,) = room_of(plan({"Hall 4 x 4": [out, "smoke ceiling w 1.00 s 2.00"]})).reaches
        self.assertEqual((reach.x, reach.farthest_mm), (4000, 3606))
        stove = "stove 600 n left 1000 deep 500"
        self.assertIn(
            "not in the room of the stove", str(wrong(plan({"Lounge 4 x 4": [stove, "co ceiling w 4.20 s 2"]})))
        )

    def test_round_the_corner_of_an_l(self) -> None:
        places = after(plan({"L 3 x 3": []}), Measure(room="l", typed="10 n, 2 e, 8 s, 8 e, 2 s, 10 w"))
        places = after(places, TypeLine(room="l", typed="smoke ceiling w1 1.00 s 9.00"))
        (reach,) = room_of(places).reaches
        # From the top of one arm to the far end of the other, round the inner corner.
        self.assertGreater(reach.farthest_mm, 7070 + 8000)
        self.assertFalse(reach.is_covered)

    def test_carbon_monoxide(self) -> None:
        stove = "stove 600 n left 1000 deep 500"
        for co, why in {
            "co n left 1300 at 1800": "over the stove",
            "co n left 2500 at 1800": "0.90 m from the stove",
            "co n left 2700 at 1800": "",
            "co e left 100 at 1800": "3.4",
        }.items():
            found = wrong(plan({"Room 5 x 4": [stove, co]}))
            self.assertIn(why, str(found), co) if why else self.assertEqual(found, {}, co)
        self.assertIn("no stove", str(wrong(plan({"Room 5 x 4": ["co n left 2700"]}))))


class Typed(unittest.TestCase):
    def test_a_bedroom_is_typed_in_few_entries(self) -> None:
        entries = 1 + len(BEDROOM["Bedroom 4.20 x 3.60 h 2.40"]) + len(["socket below window"])
        self.assertLessEqual(entries, 25)
        self.assertEqual(wrong(plan(BEDROOM)), {})

    def test_a_room_typed_again_keeps_what_is_in_it(self) -> None:
        places = after(plan(BEDROOM), TypeRoom(typed="bedroom 4.30 x 3.60"))
        self.assertEqual(len(places.rooms), 1)
        outline = places.rooms[0].outline
        assert outline is not None
        self.assertEqual((outline.walls[1].length_mm, outline.height_mm, len(outline.openings)), (4300, 2400, 2))


if __name__ == "__main__":
    unittest.main()
