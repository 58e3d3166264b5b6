"""Pipes in a slab: fills by hand, layouts beside every layout tried, and what is drawn in by a house's circuits."""

import unittest
from itertools import pairwise, permutations, product

from hypothesis import given, settings
from hypothesis import strategies as st

from lumbek.core.model.plan import Floor
from lumbek.core.places.commands import AddStorey, SetRoom
from lumbek.core.plan.commands import SetFloor
from lumbek.core.routes.pipe_size import draw_boxes, fill_of, most_fill, pipe_for
from lumbek.core.routes.pipes import PITCH_MM, PipeRun, Spot, lay_pipes, runs_between, slots_at
from lumbek.core.routes.pipes_of import PipeLayout, pipes_of, wanted_mm
from tests.core.test_routes import hall, routed, with_circuit
from tests.support.plans import after


class Fill(unittest.TestCase):
    def test_by_hand(self) -> None:
        # Three of 4.0 mm: 48 over 14.1 squared, 198.81.
        self.assertAlmostEqual(fill_of([4.0] * 3, 20), 48 / 198.81)
        for diameters, bends, size in (
            # 3 × 1.5: 32.67 of 114.49 is 29 %; 3 × 2.5: 41.9 %; 5 × 2.5: 80 of 198.81 is 40.2 %.
            ([3.3] * 3, 2, 16), ([4.0] * 3, 2, 16), ([4.0] * 5, 2, 20), ([4.6] * 3, 2, 20), ([5.2] * 3, 2, 20),
            ([6.7] * 3, 2, 25), ([6.7] * 5, 2, 32), ([7.8] * 5, 2, 40), ([9.7] * 5, 2, 50), ([9.7] * 9, 2, None),
            # 41.9 % with a third bend is more than 40.
            ([4.0] * 3, 3, 20), ([4.0] * 5, 3, 25), ([3.3] * 3, 5, 16), ([3.3] * 3, 6, 20),
        ):  # fmt: skip
            self.assertEqual(pipe_for(diameters, bends), size, (diameters, bends))

    def test_at_the_limit_it_is_taken(self) -> None:
        inner2 = 14.1**2
        self.assertEqual(pipe_for([(0.45 * inner2) ** 0.5], 2), 20)
        self.assertEqual(pipe_for([(0.4501 * inner2) ** 0.5], 2), 25)
        self.assertEqual([most_fill(bends) for bends in (0, 2)], [0.45, 0.45])
        self.assertAlmostEqual(most_fill(4), 0.35)

    def test_boxes_to_draw_from(self) -> None:
        found = [draw_boxes(mm, bends) for mm, bends in ((15_000, 3), (15_001, 3), (1_000, 4), (31_000, 2), (1_000, 7))]
        self.assertEqual(found, [0, 1, 1, 2, 2])


def meets(one: PipeRun, other: PipeRun) -> tuple[int, int]:
    """Whether two runs lie on each other, whether they cross or touch: by every pair of spots on their stretches."""

    def stretches(run: PipeRun) -> list[tuple[Spot, Spot]]:
        return [(min(a, b), max(a, b)) for a, b in pairwise(run.corners)]

    on_top = cross = False
    for (a, b), (c, d) in product(stretches(one), stretches(other)):
        xs = max(a[0], c[0]), min(b[0], d[0])
        ys = max(min(a[1], b[1]), min(c[1], d[1])), min(max(a[1], b[1]), max(c[1], d[1]))
        if xs[0] <= xs[1] and ys[0] <= ys[1]:
            if xs == (xs[0], xs[0]) and ys == (ys[0], ys[0]):
                cross = True
            else:
                on_top = True
    return int(on_top), int(cross)


def by_trying_all(slots: tuple[Spot, ...], places: list[Spot]) -> tuple[int, int, int, int]:
    """What the least layout costs: laid on top, crossings, mm, bends."""
    lanes, best = min(len(places), 3), (9, 9, 10**9, 9)
    for order in permutations(range(len(slots)), len(places)):
        choices = [runs_between(at, slots[at], place, lanes) for at, place in zip(order, places, strict=True)]
        for runs in product(*choices):
            pairs = [meets(a, b) for at, a in enumerate(runs) for b in runs[:at]]
            cost = (
                sum(pair[0] for pair in pairs), sum(pair[1] for pair in pairs),
                sum(run.mm for run in runs), sum(run.bends for run in runs),
            )  # fmt: skip
            best = min(best, cost)
    return best


SPOT = st.tuples(st.integers(-20, 20), st.integers(1, 30)).map(lambda spot: (spot[0] * 50, spot[1] * 50))


class Layout(unittest.TestCase):
    def test_the_order_at_the_board_decides(self) -> None:
        # Taken as they come the two would cross; changed over at the board they do not.
        laid = lay_pipes(slots_at((0, 0), (1, 0), 2), [(1000, 500), (-1000, 500)])
        self.assertEqual((laid.crossings, laid.on_top, laid.is_proved), ((), (), True))
        self.assertEqual([run.slot for run in laid.runs], [1, 0])

    def test_slots_lie_side_by_side_about_the_board(self) -> None:
        self.assertEqual(slots_at((100, 50), (1, 0), 3), ((100 - PITCH_MM, 50), (100, 50), (100 + PITCH_MM, 50)))
        self.assertEqual(slots_at((0, 0), (0, 1), 2), ((0, -30), (0, 30)))

    @settings(max_examples=12)
    @given(st.lists(SPOT, min_size=1, max_size=2, unique=True))
    def test_beside_every_layout_tried(self, places: list[Spot]) -> None:
        slots = slots_at((0, 0), (1, 0), len(places))
        laid = lay_pipes(slots, places)
        own = (
            len(laid.on_top),
            len(laid.crossings),
            sum(run.mm for run in laid.runs),
            sum(run.bends for run in laid.runs),
        )
        self.assertEqual(own, by_trying_all(slots, places))
        self.assertTrue(laid.is_proved)

    @settings(max_examples=15)
    @given(st.lists(SPOT, min_size=1, max_size=12, unique=True))
    def test_each_leads_from_a_slot_of_its_own_to_its_place_square(self, places: list[Spot]) -> None:
        slots = slots_at((0, 0), (1, 0), len(places))
        laid = lay_pipes(slots, places)
        self.assertEqual(sorted(run.slot for run in laid.runs), list(range(len(places))))
        for run, place in zip(laid.runs, places, strict=True):
            self.assertEqual((run.corners[0], run.corners[-1]), (slots[run.slot], place))
            self.assertTrue(all(a[0] == b[0] or a[1] == b[1] for a, b in pairwise(run.corners)))
        told = {*laid.crossings, *laid.on_top}
        for a in range(len(places)):
            for b in range(a):
                self.assertEqual((b, a) in told, any(meets(laid.runs[a], laid.runs[b])))


class InAHouse(unittest.TestCase):
    LINES = (
        "board n left 0.40 at 300",
        "socket n left 3.00 at 450",
        "socket s left 1.00 at 450",
        "light ceiling w 2.00 s 1.00",
    )

    def layout(self, *marks: str, screed: int | None = None, rating: int = 32, kind: str = "") -> PipeLayout:
        places, design = with_circuit(hall(*self.LINES), "socket-1", lengths=(9.0,))
        if screed is not None:
            places = after(places, AddStorey(name="Ground"))
            (storey,) = places.storeys
            places = after(
                places,
                SetRoom(room="hall", storey=storey.id),
                SetFloor(storey=storey.id, floor=Floor(screed_mm=screed)),
            )
        device = design.device.model_copy(update={"rating_a": rating})
        design = design.model_copy(update={"device": device, **({"kind": kind} if kind else {})})
        return pipes_of(routed(places), [("C1", design)], marks or ("socket-1", "socket-2", "light-1"))

    def test_what_is_drawn_in_by_the_circuit_else_what_is_usual(self) -> None:
        found = {pipe.mark: pipe for pipe in self.layout().pipes}
        self.assertEqual(found["socket-1"].circuits, (1,))
        self.assertEqual(found["socket-1"].drawn_in, "3 × 2.5 mm²")
        self.assertEqual(found["light-1"].drawn_in, "3 × 1.5 mm²")
        self.assertEqual((found["socket-1"].is_heavy, found["socket-2"].is_heavy), (True, False))
        self.assertFalse({pipe.mark: pipe for pipe in self.layout(rating=20).pipes}["socket-1"].is_heavy)
        for pipe in found.values():
            assert pipe.fill_percent is not None
            self.assertLessEqual(pipe.fill_percent, pipe.most_percent)
            self.assertGreaterEqual(pipe.bends, 2)

    def test_the_screed_covers_the_pipe_or_says_what_is_wanted(self) -> None:
        wanted = self.layout().wanted_mm
        assert wanted is not None
        self.assertEqual(self.layout().depth, "cannot-tell")
        self.assertEqual([self.layout(screed=mm).depth for mm in (wanted, wanted - 1)], ["pass", "fail"])

    def test_how_deep_a_screed_has_to_be(self) -> None:
        # The thickest of these is 20 mm, and 30 lie over it; where two cross, the one under it comes to that.
        pipes = self.layout().pipes
        self.assertEqual((max(pipe.size_mm or 0 for pipe in pipes), self.layout().wanted_mm), (20, 50))
        self.assertEqual([wanted_mm(pipes, crossing) for crossing in (set(), {0, 1})], [50, 70])
        self.assertIsNone(wanted_mm([pipes[0].model_copy(update={"size_mm": None})], set()))
        self.assertIsNone(wanted_mm([], set()))

    def test_heavy_from_25_a_and_three_lines_of_three_phases(self) -> None:
        found = [{pipe.mark: pipe for pipe in self.layout(rating=amps).pipes}["socket-1"] for amps in (25, 20)]
        self.assertEqual([pipe.is_heavy for pipe in found], [True, False])
        three = {pipe.mark: pipe for pipe in self.layout(kind="three-phase").pipes}["socket-1"]
        self.assertEqual(three.drawn_in, "5 × 2.5 mm²")

    def test_a_place_that_is_nowhere_is_told_and_a_house_without_a_board(self) -> None:
        self.assertEqual(self.layout("socket-1", "socket-9").missing, ("socket 9 is nowhere yet",))
        places = hall(*self.LINES)
        self.assertEqual(pipes_of(routed(places, boards=()), [], ("socket-1",)).missing, ("the board is at no mark",))
        self.assertEqual(len(self.layout().pipes), 3)
        self.assertEqual(self.layout().spares, 1)


if __name__ == "__main__":
    unittest.main()
