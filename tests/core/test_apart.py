"""What cable keeps clear of: data cable, pipes, and walls that a circuit denies; by hand and at the limits."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit, Surroundings
from lumbek.core.model.places import Places
from lumbek.core.model.plan import AboveCeiling
from lumbek.core.routes.answer import answer_routes
from lumbek.core.routes.apart import Alongside, Keeps, side_by_side
from lumbek.core.routes.lay import as_laid
from tests.core.test_routes import hall, routed, with_circuit


def keeps(places: Places, design: Circuit) -> tuple[Keeps, ...]:
    return answer_routes(routed(places), (("C1", design),)).keeps


class SideBySide(unittest.TestCase):
    @given(st.integers(-500, 500), st.integers(0, 300), st.integers(1, 300), st.integers(0, 300), st.integers(1, 300))
    def test_as_every_millimetre_has_it(self, at: int, low: int, long: int, start: int, length: int) -> None:
        found = side_by_side(at, low, low + long, (0, 40), (start, start + length))
        beside = set(range(low, low + long)) & set(range(start, start + length))
        gap = min(abs(at - each) for each in range(41))
        self.assertEqual(found, Alongside(gap, len(beside)) if beside else None)


class Data(unittest.TestCase):
    def near(self, at_m: str) -> tuple[Keeps, ...]:
        """A socket fed from over the ceiling, and a data outlet on its wall."""
        places = hall("board s left 0.20 at 1400", "socket n left 2.00 at 450", f"data n left {at_m} at 900")
        return keeps(*with_circuit(places, "socket-1"))

    def test_fifty_millimetres_are_kept_and_two_hundred_are_better(self) -> None:
        too_near = (("2.049", 49, "fail"), ("1.951", 49, "fail"))
        for at_m, gap, verdict in (*too_near, ("2.050", 50, "pass"), ("1.801", 199, "pass")):
            (found,) = self.near(at_m)
            self.assertEqual((found.what, found.gap_mm, found.verdict), ("data", gap, verdict))
            # From 450 up to the ceiling at 2400.
            self.assertEqual((found.beside_mm, found.circuit, found.room), (1950, 1, "hall"))
        self.assertEqual(self.near("2.200"), ())
        self.assertEqual(
            self.near("2.030")[0].told,
            "Hall, circuit 1: 1.9 m beside data cable, 30 mm from it: keep 50 mm, or part them by conduit",
        )
        self.assertIn("200 mm are better", self.near("2.100")[0].told)

    def test_on_another_wall_or_of_another_kind_nothing_is_told(self) -> None:
        for line in ("data e left 2.00 at 900", "switch n left 2.10 at 900"):
            places = hall("board s left 0.20 at 1400", "socket n left 2.00 at 450", line)
            self.assertEqual(keeps(*with_circuit(places, "socket-1")), ())


class Pipes(unittest.TestCase):
    def near(self, at_mm: int, runs: str = "e", kind: str = "pipe") -> tuple[Keeps, ...]:
        """Three lights in a row over a ceiling, 1.5 m from the south wall, and a pipe of 30 mm there."""
        lights = (f"light ceiling w {west} s 1.50" for west in ("1.00", "3.00", "3.50"))
        places = hall("board s right 0.20 at 1400", *lights)
        outline = places.rooms[0].outline
        assert outline is not None
        pipe = AboveCeiling.model_validate({"id": "x", "kind": kind, "runs": runs, "at_mm": at_mm, "width_mm": 30})
        room = places.rooms[0].model_copy(update={"outline": outline.model_copy(update={"above": (pipe,)})})
        places = places.model_copy(update={"rooms": (room,)})
        places, design = with_circuit(places, "light-1", "light-2", "light-3")
        return keeps(places, design)

    def test_along_a_pipe_from_either_side_of_it(self) -> None:
        for at_mm, gap in ((1500, 0), (1649, 149), (1470, 0), (1321, 149)):
            (found,) = self.near(at_mm)
            # From light to light 2 m and half a metre, as near: the longer one is told.
            self.assertEqual((found.what, found.gap_mm, found.verdict), ("pipe", gap, "fail"))
            self.assertEqual(found.beside_mm, 2000)
            self.assertIn(f"2.0 m along a pipe, {gap} mm from it: keep 150 mm", found.told)
        for at_mm in (1650, 1320):
            self.assertEqual(self.near(at_mm), ())

    def test_across_it_or_beside_a_beam_nothing_is_told(self) -> None:
        self.assertEqual(self.near(1500, runs="n"), ())
        self.assertEqual(self.near(1500, kind="beam"), ())


class Walls(unittest.TestCase):
    def test_a_circuit_that_denies_what_its_ways_do(self) -> None:
        places = hall("board n left 0.20 at 1400", "socket n left 2.00 at 450")
        places, design = with_circuit(places, "socket-1")
        self.assertEqual(keeps(places, design), ())
        none = design.model_copy(update={"surroundings": Surroundings(concealed_shallow=False)})
        (found,) = keeps(places, none)
        self.assertEqual((found.what, found.verdict, found.beside_mm), ("walls", "fail", 950 + 1800))
        self.assertIn("Circuit 1 says that no cable of it is in a wall", found.told)
        for cable in (Cable(type="armoured", csa_mm2=2.5), Cable(type="single-core", csa_mm2=2.5, cpc_by="conduit")):
            self.assertEqual(keeps(places, none.model_copy(update={"cable": cable})), ())

    def test_what_is_laid_into_walls_says_so_where_nobody_has(self) -> None:
        places, design = with_circuit(hall("board n left 0.20 at 1400", "socket n left 2.00 at 450"), "socket-1")
        legs = answer_routes(routed(places), (("C1", design),)).legs
        self.assertIs(as_laid(design, legs).surroundings.concealed_shallow, True)
        said = design.model_copy(update={"surroundings": Surroundings(concealed_shallow=False)})
        self.assertIs(as_laid(said, legs).surroundings.concealed_shallow, False)
        self.assertIsNone(as_laid(design, ()).surroundings.concealed_shallow)


if __name__ == "__main__":
    unittest.main()
