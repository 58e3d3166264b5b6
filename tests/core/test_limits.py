"""What joists and walls bear: holes and chases by hand, at their limits, and as the ways of a house cut them."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from lumbek.core.model.cable import Cable
from lumbek.core.model.places import Places
from lumbek.core.model.plan import Floor
from lumbek.core.model.routes import RouteRules
from lumbek.core.places.commands import AddStorey, SetRoom
from lumbek.core.plan.commands import PutWays, SetFloor
from lumbek.core.routes.answer import answer_routes
from lumbek.core.routes.limit_words import told_of
from lumbek.core.routes.limits import Bears, ChaseCut, JoistsCut, bears_chase, bears_joists, hole_for, worst
from lumbek.core.rulebooks.cable_size import CableSize, size_of
from tests.core.test_routes import hall, line, routed, with_circuit
from tests.support.plans import after, plan

TWIN = Cable(csa_mm2=2.5)


def joists(depth: int | None, count: int, cable: Cable = TWIN) -> Bears:
    return bears_joists(JoistsCut("hall", depth, (cable,) * count))


class Joists(unittest.TestCase):
    def test_cables_lie_on_each_other_in_a_round_hole(self) -> None:
        # Two of 11.5 by 6.2: the corner of 11.5 by 12.4 is 16.9 away; 2 mm to pull them.
        self.assertEqual(hole_for([CableSize(11.5, 6.2)] * 2), 19)
        self.assertEqual(hole_for([CableSize(3.0, 4.0)]), 7)

    def test_a_quarter_of_the_depth_and_fifty_millimetres_above_and_below(self) -> None:
        # A quarter of 240 is 60; of 120 it is 30, but 50 above and below leave 20.
        self.assertEqual(joists(240, 1).allowed_mm, 60)
        self.assertEqual(joists(120, 1).allowed_mm, 20)
        self.assertEqual(joists(133, 1).allowed_mm, 33)

    def test_at_the_limit_it_passes_and_a_millimetre_less_is_shared_out(self) -> None:
        # Three want 24 mm: a joist of 124 mm leaves so much, one of 123 does not.
        self.assertEqual([joists(depth, 3).verdict for depth in (124, 123)], ["pass", "fail"])
        self.assertEqual((joists(124, 3).wanted_mm, joists(123, 3).holes), (24, 2))
        thick = joists(110, 1, Cable(type="armoured", csa_mm2=16))
        self.assertEqual((thick.verdict, thick.holes), ("fail", 0))

    def test_a_notch_where_no_hole_takes_it_and_a_notch_does(self) -> None:
        # 100 mm leave no timber for a hole: an eighth of it is 12, and the cable is 6.2 thick.
        shallow = joists(100, 2)
        self.assertEqual((shallow.verdict, shallow.allowed_mm, shallow.holes, shallow.notch_mm), ("fail", 0, 0, 12))
        self.assertIn("12 mm deep at most, 7% to 25% of the span", told_of(shallow, "Hall", ""))
        # 55 mm: an eighth is 6, and 6.2 does not lie in it; one that goes in two holes wants no notch.
        self.assertIsNone(joists(55, 1).notch_mm)
        self.assertIsNone(joists(123, 3).notch_mm)
        self.assertIn("through no joist", told_of(joists(55, 1), "Hall", ""))

    def test_what_is_not_known_is_not_good(self) -> None:
        self.assertEqual(joists(None, 1).verdict, "cannot-tell")
        unknown = Cable(type="flex", csa_mm2=0.75)
        self.assertIsNone(size_of(unknown))
        mixed = bears_joists(JoistsCut("hall", 240, (TWIN, unknown)))
        self.assertEqual((mixed.verdict, mixed.wanted_mm), ("cannot-tell", None))

    @given(st.integers(100, 300), st.integers(1, 12))
    def test_shared_out_every_cable_has_a_hole_that_is_allowed(self, depth: int, count: int) -> None:
        found = joists(depth, count)
        if found.verdict == "fail" and found.holes:
            size = size_of(TWIN)
            assert size is not None and found.allowed_mm is not None
            most = max(many for many in range(1, count + 1) if hole_for([size] * many) <= found.allowed_mm)
            self.assertEqual(found.holes, -(-count // most))


class Chases(unittest.TestCase):
    def chase(self, thickness: int | None, level: bool = False, plaster: int = 0) -> Bears:
        return bears_chase(ChaseCut("hall", "n", level, thickness, plaster, (TWIN,)))

    def test_upright_a_third_level_a_sixth(self) -> None:
        # 6.2 up to 7, and 3 of capping.
        self.assertEqual([self.chase(mm).verdict for mm in (30, 29)], ["pass", "fail"])
        self.assertEqual([self.chase(mm, level=True).verdict for mm in (60, 59)], ["pass", "fail"])
        self.assertEqual(self.chase(100).wanted_mm, 10)

    def test_the_thickest_cable_says_how_deep(self) -> None:
        both = (TWIN, Cable(csa_mm2=10))
        self.assertEqual(bears_chase(ChaseCut("hall", "n", False, 100, 0, both)).wanted_mm, 13)

    def test_plaster_is_no_part_of_the_wall(self) -> None:
        self.assertEqual(self.chase(24, plaster=2).verdict, "pass")
        self.assertEqual(self.chase(23, plaster=2).verdict, "fail")
        # In plaster alone nothing of the wall is cut, however thick it is.
        self.assertEqual(
            (self.chase(None, plaster=10).verdict, self.chase(None, plaster=9).verdict), ("pass", "cannot-tell")
        )

    def test_the_worst_of_each_place_is_told(self) -> None:
        good, bad, open_ = self.chase(100), self.chase(20), self.chase(None)
        self.assertEqual(worst([good, open_, bad, good]), (bad,))
        self.assertEqual(worst([good, open_]), (open_,))


class House(unittest.TestCase):
    def bears(self, *more: str, found: bool = False) -> list[Bears]:
        places = hall("board n left 0.20 at 1400", "socket n left 1.00 at 450", "socket n left 2.00 at 450", *more)
        places, design = with_circuit(places, "socket-1", "socket-2", lengths=(9.0, 9.0))
        if found:
            legs = tuple(leg.model_copy(update={"state": "as-found"}) for leg in design.legs)
            design = design.model_copy(update={"legs": legs})
        return list(answer_routes(routed(places), [("C1", design)]).bears)

    def test_a_wall_of_brick_is_asked_how_deep_it_is_and_a_hollow_one_is_not(self) -> None:
        (chase,) = self.bears()
        self.assertEqual((chase.verdict, chase.told), ("cannot-tell", "Hall, wall n: say its depth"))
        self.assertEqual(self.bears("wall n stud"), [])
        self.assertEqual(self.bears(found=True), [])

    def test_level_and_upright_in_one_wall_the_level_one_is_the_worse(self) -> None:
        (chase,) = self.bears("wall n brick depth 50")
        # Level a sixth of 50 is 8, and 10 are wanted; upright there would be 16.
        self.assertEqual((chase.verdict, chase.allowed_mm, chase.wanted_mm), ("fail", 8, 10))
        self.assertIn("another way, or on the surface", chase.told)
        (deep,) = self.bears("wall n brick depth 60")
        self.assertEqual(deep.verdict, "pass")

    def alone(self, *more: str, places: Places | None = None, wall: str = "n") -> Bears:
        """What a cable straight down from the board meets."""
        marks = f"board {wall} left 1.00 at 1400", f"socket {wall} left 1.00 at 450"
        there = hall(*marks, *more) if places is None else line(places, "hall", *marks)
        there, design = with_circuit(there, "socket-1", lengths=(9.0,))
        (found,) = answer_routes(routed(there), [("C1", design)]).bears
        return found

    def test_straight_down_is_upright_and_plaster_counts(self) -> None:
        self.assertEqual([self.alone(f"wall n brick depth {mm}").verdict for mm in (30, 29)], ["pass", "fail"])
        plastered = self.alone("wall n brick depth 20 plaster 8")
        self.assertEqual((plastered.verdict, plastered.wanted_mm), ("pass", 2))

    def test_a_wall_between_two_rooms_is_as_thick_as_was_said(self) -> None:
        places = plan({"Hall 4.00 x 3.00 h 2.40": [], "Kitchen 3.00 x 3.00 h 2.40": []})
        places = line(places, "hall", "wall e against Kitchen w thick 100")
        found = self.alone(places=places, wall="e")
        self.assertEqual((found.verdict, found.allowed_mm), ("pass", 33))

    def test_joists_of_each_storey_by_their_own_depth(self) -> None:
        allowed = []
        for depths in ((240, 100), (100, 240)):
            places = after(hall(), AddStorey(name="Upper"), AddStorey(name="Ground"))
            upper, ground = places.storeys
            places = after(
                places,
                SetRoom(room="hall", storey=upper.id),
                SetFloor(storey=upper.id, floor=Floor(joist_depth_mm=depths[0])),
                SetFloor(storey=ground.id, floor=Floor(joist_depth_mm=depths[1])),
            )
            marks = "board n left 0.20 at 1400", "socket n left 1.00 at 450", "socket n left 2.00 at 450"
            more = "joists n pitch 400 wide 50 first 100", "door 838 n left 1.10 head 2400"
            places = after(line(places, "hall", *marks, *more), PutWays(ways=RouteRules(closed=("hall",))))
            places, design = with_circuit(places, "socket-1", "socket-2", lengths=(9.0, 9.0))
            bears = answer_routes(routed(places), [("C1", design)]).bears
            allowed += [each.allowed_mm for each in bears if each.what == "joist"]
        self.assertEqual(allowed, [60, 0])

    def test_joists_over_a_room_by_the_depth_of_their_floor(self) -> None:
        more = ("joists n pitch 400 wide 50 first 100", "door 838 n left 1.10 head 2400")
        told = [each for each in self.bears(*more) if each.what == "joist"]
        self.assertEqual([each.verdict for each in told], ["cannot-tell"])
        self.assertIn("Hall, joists: say how deep they are", [each.told for each in told])


if __name__ == "__main__":
    unittest.main()
