"""What lies hidden: lines on the wall they are in, as one faces it; and the sheets that are worked by."""

import unittest

from lumbek.core.documents.fix_sheets import first_fix_paper, second_fix_paper
from lumbek.core.documents.gathered import gather
from lumbek.core.documents.hidden_sheet import hidden_paper
from lumbek.core.documents.paper import Paper, WallDrawing, Words
from lumbek.core.model.board import Board, Group, Way
from lumbek.core.model.job import Job, JobCircuit
from lumbek.core.model.places import Spot
from lumbek.core.model.plan import Floor
from lumbek.core.places.commands import AddStorey, SetRoom
from lumbek.core.plan.commands import SetFloor
from lumbek.core.routes.graph import ZONE_MM
from lumbek.core.routes.hidden import hidden_runs, hidden_walls
from tests.core.test_routes import hall, with_circuit
from tests.core.test_work import house, site
from tests.support.plans import after

ALONE = Board(id="B1", at=Spot(room="hall"), groups=(Group(id="G", ways=(Way(id="W1", circuits=("C1",)),)),))


def job(*more: str) -> Job:
    """A hall with its circuit, as a job."""
    places, design = house(*more)
    return Job(rulebook="bs7671", circuits=(JobCircuit.of(design, (), "C1"),), boards=(ALONE,), **dict(places))


class Hidden(unittest.TestCase):
    def test_level_between_two_boxes_as_one_faces_the_wall(self) -> None:
        places, design = house()
        work = site(places, design)
        (wall,) = hidden_walls(work.routed, work.designs, work.ways)
        self.assertEqual((wall.room, wall.called, wall.width_mm, wall.height_mm), ("hall", "n", 4000, 2400))
        (second,) = [line for line in wall.lines if len(line.spots) == 2]
        self.assertEqual([(spot.along_mm, spot.up_mm) for spot in second.spots], [(1000, 450), (2000, 450)])
        self.assertEqual({line.circuit for line in wall.lines}, {design.number})
        self.assertEqual(sorted(box.left_mm + 43 for box in wall.boxes), [200, 1000, 2000])

    def test_every_wall_keeps_its_own_left_end(self) -> None:
        # A box so far from the left end of each wall is drawn so far from it.
        for name in "nesw":
            places = hall(
                f"board {name} left 0.20 at 1400", f"socket {name} left 1.00 at 450", f"socket {name} left 2.00 at 450"
            )
            places, design = with_circuit(places, "socket-1", "socket-2", lengths=(9.0, 9.0))
            work = site(places, design)
            (wall,) = hidden_walls(work.routed, work.designs, work.ways)
            along = {spot.along_mm for line in wall.lines for spot in line.spots}
            self.assertLessEqual({200, 1000, 2000}, along | {200}, name)
            self.assertEqual((min(along), max(along)), (200, 2000), name)

    def test_upstairs_it_is_up_from_its_own_floor(self) -> None:
        places, design = house()
        places = after(places, AddStorey(name="Upper"), AddStorey(name="Ground"))
        upper, ground = places.storeys
        floor = SetFloor(storey=ground.id, floor=Floor(height_mm=2600, build_up_mm=300))
        places = after(places, floor, SetRoom(room="hall", storey=upper.id))
        work = site(places, design)
        self.assertGreater(work.routed.house.floor_mm(1), 2000)
        (wall,) = hidden_walls(work.routed, work.designs, work.ways)
        spots = {(spot.along_mm, spot.up_mm) for line in wall.lines for spot in line.spots}
        self.assertLessEqual({(1000, 450), (2000, 450)}, spots)
        self.assertTrue(all(0 <= up <= 2400 for _, up in spots), spots)

    def test_no_line_is_anywhere_but_where_it_is_looked_for(self) -> None:
        places, design = house("door 838 n left 1.10", "window 900 n left 2.20 sill 300")
        work = site(places, design)
        walls = hidden_walls(work.routed, work.designs, work.ways)
        for wall in walls:
            columns = {box.left_mm + 43 for box in wall.boxes} | {ZONE_MM, wall.width_mm - ZONE_MM}
            rows = {box.low_mm + 43 for box in wall.boxes} | {wall.height_mm - ZONE_MM}
            for line in wall.lines:
                for one, other in zip(line.spots, line.spots[1:], strict=False):
                    level, upright = one.up_mm == other.up_mm, one.along_mm == other.along_mm
                    self.assertTrue((level and one.up_mm in rows) or (upright and one.along_mm in columns), line)
        runs = hidden_runs(work.designs, work.ways)
        self.assertEqual([(run.room, run.under, run.circuits) for run in runs], [("hall", False, (design.number,))])

    def test_what_was_there_is_not_drawn(self) -> None:
        places, design = house()
        old = design.model_copy(
            update={"legs": tuple(leg.model_copy(update={"state": "as-found"}) for leg in design.legs)}
        )
        work = site(places, old)
        self.assertEqual(hidden_walls(work.routed, work.designs, work.ways), ())
        self.assertEqual(hidden_runs(work.designs, work.ways), ())


def cells(paper: Paper) -> str:
    return " | ".join(cell for table in paper.tables for row in table.rows for cell in row.cells.values())


class Sheets(unittest.TestCase):
    def test_first_fix_has_boxes_and_cables_second_fix_what_is_fitted(self) -> None:
        gathered = gather(job())
        first, second = first_fix_paper(gathered), second_fix_paper(gathered)
        self.assertIn("1000 mm from its left end", cells(first))
        self.assertIn("Cut ", cells(first))
        self.assertNotIn("fitted", cells(first))
        self.assertIn("socket 1: fitted", cells(second).replace("P1", "socket 1"))
        self.assertNotIn("Cut ", cells(second))
        warned = [
            line
            for section in first.sections
            for block in section.blocks
            if isinstance(block, Words)
            for line in block.lines
        ]
        self.assertTrue(any("half-way test" in line for line in warned), warned)
        self.assertEqual([section.title for section in second.sections], ["Hall"])

    def test_the_walls_are_drawn_and_a_detector_comes_first(self) -> None:
        paper = hidden_paper(gather(job()))
        drawn = [block.wall for section in paper.sections for block in section.blocks if isinstance(block, WallDrawing)]
        self.assertEqual([wall.called for wall in drawn], ["n"])
        self.assertIn("1000, 450 to 2000, 450", cells(paper))
        self.assertIn("a detector before every hole", " ".join(paper.statements))

    def test_with_nothing_new_they_say_so(self) -> None:
        empty = gather(Job(rulebook="bs7671"))
        for made in (first_fix_paper, second_fix_paper, hidden_paper):
            self.assertTrue(made(empty).missing)


if __name__ == "__main__":
    unittest.main()
