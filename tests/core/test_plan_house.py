"""Rooms of one house: walls that two share, what lies over what, lines about a room whole, alarms of a house."""

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from lumbek.core.circuit.edit import EditRefusedError
from lumbek.core.model.places import Places
from lumbek.core.model.plan import Floor, LampSaid, SharedWall, WallFace
from lumbek.core.places.commands import AddStorey, DropRoom, SetRoom
from lumbek.core.plan.commands import Measure, MoveWall, PutBetween, PutLamps, SetFloor, TypeLine
from lumbek.core.plan.frame import floor_levels_mm, frame_of, rooms_below_others
from tests.support.plans import after, answered, plan, wrong


def line(places: Places, room: str, *typed: str) -> Places:
    """Places after lines typed into a room."""
    return after(places, *(TypeLine(room=room, typed=each) for each in typed))


# A room with a notch at its north-east corner.
ELL = "3 n, 2.5 e, 1 s, 1.5 e, 2 s, 4 w"


def two() -> Places:
    """A bedroom, and a hall behind its east wall, 100 mm thick, its north wall 500 mm south of the bedroom's."""
    return line(
        plan({"Bedroom 4.20 x 3.60": [], "Hall 2.00 x 1.80": []}),
        "bedroom",
        "wall e against Hall w thick 100 shift 0.50",
    )


def seats(places: Places) -> dict[str, tuple[int, int]]:
    """Where the first corner of each room is."""
    frame = frame_of(places.rooms, places.between)
    return {room: (round(at.x), round(at.y)) for room, at in frame.rooms.items()}


class Frame(unittest.TestCase):
    def test_a_room_lies_behind_the_wall_it_shares(self) -> None:
        # Bedroom to (4200, 3600); the hall's north end 500 below, so its south-west corner is at 3600 - 500 - 1800.
        self.assertEqual(seats(two()), {"bedroom": (0, 0), "hall": (4300, 1300)})

    def test_every_side_is_reckoned_alike(self) -> None:
        for one, other, at in (("n", "s", (600, 3720)), ("s", "n", (1600, -1920)), ("w", "e", (-2120, 400))):
            places = line(
                plan({"Bedroom 4.20 x 3.60": [], "Hall 2.00 x 1.80": []}),
                "bedroom",
                f"wall {one} against Hall {other} thick 120 shift " + ("0.40" if one == "w" else "0.60"),
            )
            self.assertEqual(seats(places)["hall"], at, one)

    def test_what_lies_over_a_room_and_what_is_below(self) -> None:
        places = after(Places(), AddStorey(name="Up"), AddStorey(name="Down"))
        places = plan({"Hall 3 x 2": [], "Attic bed 4 x 3": [], "Shed 2 x 2": []}).model_copy(
            update={"storeys": places.storeys}
        )
        places = after(places, SetRoom(room="hall", storey="down"), SetRoom(room="attic-bed", storey="up"))
        places = line(places, "attic-bed", "lies over Hall e 1.20 s 0.50")
        self.assertEqual(seats(places)["attic-bed"], (1200, -500))
        self.assertEqual(rooms_below_others(places), {"hall"})
        self.assertEqual(frame_of(places.rooms, places.between).rooms["shed"].group, 1)
        # Edge to edge is beside, not below; one floor down is below, two are not said to be.
        beside = line(places, "attic-bed", "lies over Hall e 3.00")
        self.assertEqual(rooms_below_others(beside), frozenset())
        loft = after(places, SetRoom(room="attic-bed", name="Loft"))
        self.assertEqual(rooms_below_others(loft), frozenset())

    def test_two_ways_that_disagree_are_told(self) -> None:
        places = plan({"A 3 x 3": [], "B 3 x 3": [], "C 6.20 x 2": []})
        places = line(places, "a", "wall e against B w thick 200", "wall s against C n thick 100 shift 3.20")
        self.assertEqual(frame_of(places.rooms, places.between).disagreements, ())
        good = line(places, "b", "wall s against C n thick 100")
        self.assertEqual(len(good.between), 2)

    def test_disagreement_is_by_how_much(self) -> None:
        places = line(two(), "hall", "lies from Bedroom e 4.30 n 1.30")
        self.assertEqual(frame_of(places.rooms, places.between).disagreements, ())
        for mm, told in ((10, 0), (11, 1)):
            off = line(places, "hall", f"lies from Bedroom e {4300 + mm} n 1.30")
            found = frame_of(off.rooms, off.between).disagreements
            self.assertEqual([each.by_mm for each in found], [mm] * told)

    def test_a_room_that_goes_takes_its_ties_along(self) -> None:
        places = line(two(), "hall", "lies from Bedroom e 4.30 n 1.30")
        left = after(places, DropRoom(room="bedroom"))
        self.assertIsNone(left.rooms[0].seat)
        self.assertEqual((left.between, answered(left).seats[0].room), ((), "hall"))

    def test_floors_stand_on_each_other(self) -> None:
        places = after(Places(), AddStorey(name="Up"), AddStorey(name="Mid"), AddStorey(name="Down"))
        places = after(places, SetFloor(storey="down", floor=Floor(height_mm=2500, build_up_mm=250)))
        self.assertEqual(floor_levels_mm(places), {"down": 0, "mid": 2750, "up": 2750 + 2400 + 300})


class OneWall(unittest.TestCase):
    def test_it_moves_for_both_rooms_and_what_is_beyond_stays(self) -> None:
        places = line(two(), "hall", "door 762 e left 100")
        moved = line(places, "bedroom", "wall e moves 0.30 out")
        widths = {room.id: room.outline.walls[1].length_mm for room in moved.rooms if room.outline}
        self.assertEqual(widths, {"bedroom": 4500, "hall": 1700})
        # The hall's east wall, and so its door, is where it was in the house.
        self.assertEqual(seats(moved)["hall"][0] + 1700, seats(places)["hall"][0] + 2000)
        back = line(moved, "hall", "wall w moves 0.30 out")
        self.assertEqual(back.rooms, places.rooms)

    @settings(max_examples=40)
    @given(st.sampled_from("nesw"), st.integers(-900, 900).filter(bool), st.integers(0, 1500))
    def test_a_room_beyond_another_wall_stays_where_it_lies(self, side: str, by_mm: int, shift: int) -> None:
        """Whatever wall of the bedroom moves, the hall behind its east wall keeps its place in the house."""
        places = line(
            plan({"Bedroom 4.20 x 3.60": [], "Hall 2.00 x 1.80": []}),
            "bedroom",
            f"wall e against Hall w thick 100 shift {shift / 1000:.3f}",
        )
        wall = {"w": "w1", "n": "w2", "e": "w3", "s": "w4"}[side]
        moved = after(places, MoveWall(room="bedroom", wall=wall, by_mm=by_mm))
        before, then = seats(places), seats(moved)

        def corner(of: Places, at: dict[str, tuple[int, int]]) -> tuple[int, int]:
            """The hall's far corner, from that corner of the bedroom which the move leaves alone."""
            bedroom, hall = (room.outline for room in of.rooms)
            assert bedroom is not None and hall is not None
            (x, y), (ox, oy) = at["hall"], at["bedroom"]
            east, north = bedroom.walls[1].length_mm, bedroom.walls[0].length_mm
            fixed_x = ox + (east if side == "w" else 0)
            fixed_y = oy + (north if side == "s" else 0)
            return x + hall.walls[1].length_mm - fixed_x, y - fixed_y

        self.assertEqual(corner(places, before), corner(moved, then))

    def test_the_room_behind_stays_where_its_own_other_wall_moves(self) -> None:
        moved = line(two(), "hall", "wall n moves 0.20 out")
        self.assertEqual(seats(moved)["hall"], seats(two())["hall"])

    def test_a_room_in_the_notch_of_an_l_stays_whichever_of_the_two_walls_is_named_first(self) -> None:
        """An inner wall takes from one neighbour and gives to the other: each end has its own growth."""
        room = after(plan({"L 3 x 3": [], "Cupboard 1.4 x 0.8": []}), Measure(room="l", typed=ELL))
        for wall, face in (("w3", "w1"), ("w5", "w1")):
            for first in (True, False):
                faces = [WallFace(room="l", wall=wall), WallFace(room="cupboard", wall=face)]
                one, other = faces if first else faces[::-1]
                shared = SharedWall(one=one, other=other, thickness_mm=100, offset_mm=300)
                places = after(room, PutBetween(between=shared))
                moved = after(places, MoveWall(room="l", wall="w4", by_mm=200))
                with self.subTest(wall=wall, first=first):
                    self.assertEqual(self.from_l(moved), self.from_l(places))

    def from_l(self, places: Places) -> tuple[int, int]:
        """Where the cupboard lies from the corner of the L that no move of its inner wall touches."""
        at = seats(places)
        return at["cupboard"][0] - at["l"][0], at["cupboard"][1] - at["l"][1]

    def test_a_seat_over_a_room_waits_until_both_are_measured(self) -> None:
        seated = line(plan({"Hall 3 x 2": [], "Loft 4 x 3": []}), "loft", "lies over Hall e 1.20 s 0.50")
        self.assertEqual(seats(seated), {"hall": (0, 0), "loft": (1200, -500)})
        for lost in range(2):
            rooms = [room.model_copy(update={"outline": None}) if at == lost else room
                     for at, room in enumerate(seated.rooms)]  # fmt: skip
            self.assertEqual(len(frame_of(rooms, ()).rooms), 1)

    def test_two_faces_look_opposite_ways(self) -> None:
        one = WallFace(room="bedroom", wall="w3")
        for wall in ("w2", "w3", "w4"):
            shared = SharedWall(one=one, other=WallFace(room="hall", wall=wall), thickness_mm=100)
            with self.assertRaisesRegex(EditRefusedError, "opposite ways"):
                after(two(), PutBetween(between=shared))


class Lines(unittest.TestCase):
    def test_what_is_said_of_a_room_whole(self) -> None:
        places = line(
            plan({"Bedroom 4.20 x 3.60": []}),
            "bedroom",
            "wall n stud depth 60 plaster 12 tiled",
            "ceiling 2.45 lath void 200 insulated",
            "pipe e 1.20 wide 28",
            "duct n 0.40",
            "wall e is 3.75 and w",
        )
        outline = places.rooms[0].outline
        assert outline is not None
        wall = outline.walls[1]
        self.assertEqual((wall.build, wall.depth_mm, wall.plaster_mm, wall.tiled), ("stud", 60, 12, True))
        said = (outline.height_mm, outline.ceiling, outline.void_mm, outline.is_insulated)
        self.assertEqual(said, (2450, "lath-and-plaster", 200, True))
        above = [(each.id, each.runs, each.at_mm, each.width_mm) for each in outline.above]
        self.assertEqual(above, [("pipe", "e", 1200, 28), ("duct", "n", 400, 125)])
        self.assertEqual([each.length_mm for each in outline.walls], [3750, 4200, 3750, 4200])

    def test_what_is_not_understood(self) -> None:
        for typed, why in (
            ("wall q stud", "no wall 'q'"),
            ("wall n", "What of that wall"),
            ("wall n velvet", "velvet"),
            ("wall e against Cellar w", "no room of that name"),
            ("wall e moves", "how much"),
            ("lies beside Hall", "over, under or from"),
            ("ceiling blue", "blue"),
            ("pipe x 1.20", "'n' or 'e'"),
            ("ceiling 2.40 void 200 tall", "tall"),
        ):
            with self.assertRaisesRegex(EditRefusedError, why, msg=typed):
                line(two(), "bedroom", typed)

    def test_a_wall_too_thin_for_its_box_is_told_as_it_is_said(self) -> None:
        places = line(two(), "hall", "socket n left 0.60", "wall n depth 35")
        self.assertEqual(wrong(places), {})
        self.assertIn(
            "a box of 35 mm in a wall of 34 mm", wrong(line(places, "hall", "wall n depth 34"))["socket-1"][0]
        )


class Recessed(unittest.TestCase):
    def test_pipes_and_ducts_are_cleared(self) -> None:
        # Half a cut-out of 70 and 20 clear is 55: a pipe 55 away is clear, one 54 away is not.
        for at, is_wrong in ((1800 + 55, False), (1800 + 54, True), (1800 - 55 - 22, False), (1800 - 54 - 22, True)):
            places = line(plan({"Room 4.20 x 3.60": []}), "room", "spot ceiling w 2.10 s 1.80", f"pipe e {at} wide 22")
            self.assertEqual(bool(wrong(places)), is_wrong, at)
        nudged = line(
            plan({"Room 4.20 x 3.60": []}), "room", "pipe e 0.88 wide 40", "6 spots grid 3x2 400lm 36deg cut 70 clear"
        )
        self.assertEqual(wrong(nudged), {})

    def test_a_driver_has_its_length_at_the_ends_of_joists(self) -> None:
        for driver, is_wrong in ((265, False), (266, True)):
            places = line(
                plan({"Room 4.20 x 3.60": []}),
                "room",
                "joists n pitch 600 wide 47 first 0",
                f"spot ceiling w 2.10 s 0.30 cut 70 driver {driver}",
            )
            self.assertEqual(bool(wrong(places)), is_wrong, driver)

    def test_void_insulation_and_the_floor_above(self) -> None:
        places = plan({"Hall 3 x 2": ["spot ceiling w 1.00 s 1.00 recess 90", "ceiling void 90"]})
        self.assertEqual(wrong(places), {})
        self.assertIn("90 mm deep in a void of 89", wrong(line(places, "hall", "ceiling void 89"))["downlight-1"][0])
        warm = line(places, "hall", "ceiling insulated")
        self.assertIn("insulation", wrong(warm)["downlight-1"][0])
        covered = line(places, "hall", "spot ceiling w 2.00 s 1.00 may be covered", "ceiling insulated")
        self.assertNotIn("downlight-2", wrong(covered))

    def test_a_floor_above_wants_fire_rating(self) -> None:
        places = after(Places(), AddStorey(name="Up"), AddStorey(name="Down"))
        rooms = plan({"Bedroom 3 x 3": [], "Hall 3 x 2": ["spot ceiling w 1 s 1", "spot ceiling w 2 s 1 fire rated"]})
        places = rooms.model_copy(update={"storeys": places.storeys})
        places = after(places, SetRoom(room="hall", storey="down"), SetRoom(room="bedroom", storey="up"))
        self.assertEqual(wrong(places), {})
        self.assertEqual(list(wrong(line(places, "bedroom", "lies over Hall"))), ["downlight-1"])

    def test_lamps_are_called_by_name(self) -> None:
        lamp = LampSaid(name="Low glare", lumens=450, beam_deg=38, cut_out_mm=68, ip="IP65")
        places = after(plan({"Room 4 x 3": []}), PutLamps(lamps=(lamp,)))
        places = line(places, "room", "2 spots grid 2x1 lamp low-glare 3000k")
        self.assertEqual(places.marks[0].lamp, lamp.model_copy(update={"kelvin": 3000}))
        with self.assertRaisesRegex(EditRefusedError, "known are Low-glare"):
            line(places, "room", "spot grid 1x1 lamp other")
        with self.assertRaisesRegex(EditRefusedError, "known are none yet"):
            line(plan({"Room 4 x 3": []}), "room", "spot grid 1x1 lamp other")
        with self.assertRaisesRegex(EditRefusedError, "name of its own"):
            after(places, PutLamps(lamps=(lamp, lamp)))


class Schools(unittest.TestCase):
    def test_a_spacing_that_is_said_lies_in_the_middle(self) -> None:
        places = plan({"Room 4.20 x 3.00": ["6 spots grid 3x2 spacing 1.20"]})
        at = [(each.x, each.y) for each in answered(places).rooms[0].marks]
        self.assertEqual(at, [(x, y) for y in (900, 2100) for x in (900, 2100, 3300)])

    def test_a_spacing_is_where_nudging_begins(self) -> None:
        places = plan({"Room 4.20 x 3.00": ["pipe e 0.88 wide 40", "6 spots grid 3x2 spacing 1.20 cut 70 clear"]})
        at = {each.y for each in answered(places).rooms[0].marks}
        # Rows at 900 and 2100; the pipe lies from 880 to 920, and 55 clear of that is 825 or 975: 75 either way.
        self.assertEqual(wrong(places), {})
        # Symmetric within a millimetre.
        self.assertEqual(at, {825, 2174})

    def test_over_the_edge_of_the_worktop(self) -> None:
        lines = ["units 1000 1000 1000 n left 0.60", "3 spots edge units", "spot edge units out 100"]
        at = [(each.x, each.y) for each in answered(plan({"Kitchen 4.20 x 3.00": lines})).rooms[0].marks]
        # The north wall runs east at y = 3000; units are 600 deep.
        self.assertEqual(at, [(1100, 2400), (2100, 2400), (3100, 2400), (2100, 2300)])

    def test_along_a_stair_and_where_the_cable_comes_in(self) -> None:
        room = {
            "Stair 3.00 x 4.00": [
                "stair 2600 n left 0.20 rises right",
                "wall-light n left 1.50 stair 1.90",
                "switch n left 0.10 stair 1.10 entry top",
                "switch n right 0.05 stair 1.10",
            ]
        }
        places = plan(room)
        heights = [each.height_mm for each in answered(places).rooms[0].marks]
        # Half way up 2700 is 1350; before the first riser it is level, past the last one too.
        self.assertEqual(heights, [1350 + 1900, 1100, 2700 + 1100])
        self.assertEqual(answered(places).rooms[0].set_out[0].marks[0].entry, "top")
        # The stair stays, the mark follows its corner: 800 of 2600 up.
        moved = line(places, "stair", "wall w moves 0.5")
        self.assertEqual(answered(moved).rooms[0].marks[0].height_mm, 831 + 1900)


KITCHEN = (
    "door 838 s left 200 hinge left",
    "window 1200 e left 0.60 sill 1050",
    "units 600 600 1000 600 600 n left 0",
    "units 600 600 600 450 w right 0.60",
    "hob 600 n left 2.20",
    "extraction 600 n left 2.20",
    "socket over units 1",
    "socket over units 3",
    "socket over units2 1",
    "socket over units2 4",
    "cooker n right 0.60 at 1100",
    "fcu w left 0.30",
    "switch beside door",
    "8 spots grid 4x2 500lm 60deg cut 70 clear",
    "heat ceiling w 2.40 s 1.80",
)


class Kitchen(unittest.TestCase):
    def test_nine_units_six_outlets_and_eight_spots_are_typed_in_fifteen_lines(self) -> None:
        room = answered(plan({"Kitchen 4.80 x 3.60 h 2.40": KITCHEN})).rooms[0]
        kinds = [mark.mark.rsplit("-", 1)[0] for mark in room.marks]
        outlets = [kinds.count(kind) for kind in ("socket", "cooker-switch", "fused-spur")]
        self.assertEqual((outlets, kinds.count("downlight")), ([4, 1, 1], 8))
        self.assertEqual([each.why for each in room.conflicts], [])
        assert room.light is not None
        self.assertEqual(room.light.plane_mm, 900)
        self.assertNotIn("socket", {kind for kind, count in room.wants.items() if count > 2})


class Levels(unittest.TestCase):
    def test_a_category_is_reached_when_every_room_has_its_own(self) -> None:
        places = plan({"Hall 3 x 2": ["smoke ceiling w 1.50 s 1.00"], "Landing 3 x 2": [], "Kitchen 3 x 3": []})
        ld3, ld2 = answered(places).alarm_levels
        self.assertEqual((ld3.name, ld3.without, ld3.is_reached), ("LD3", ("Landing: smoke alarm",), False))
        places = line(places, "landing", "smoke ceiling w 1.50 s 1.00")
        ld3, ld2 = answered(places).alarm_levels
        self.assertEqual((ld3.is_reached, ld2.without), (True, ("Kitchen: heat alarm",)))
        smoke = line(places, "kitchen", "smoke ceiling w 1.50 s 1.50")
        self.assertEqual(answered(smoke).alarm_levels[1].without, ("Kitchen: heat alarm",))
        heat = line(places, "kitchen", "heat ceiling w 1.50 s 1.50")
        self.assertTrue(answered(heat).alarm_levels[1].is_reached)
        self.assertEqual(answered(plan({"Hall 3 x 2": []})).alarm_levels, ())


if __name__ == "__main__":
    unittest.main()
