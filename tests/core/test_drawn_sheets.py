"""Sheets as drawings, a calendar, a circuit told to a tester, and the next inspection begun from the last."""

import unittest
from datetime import UTC, date, datetime
from itertools import pairwise
from xml.etree import ElementTree

from icalendar import Calendar

from lumbek.core.board.labels import sheet_of_board
from lumbek.core.diagnosis.hook_up import hook_up
from lumbek.core.diagnosis.patient import Patient
from lumbek.core.inspection.forward import copied_forward
from lumbek.core.model.extent import Extent
from lumbek.core.model.inspection import LastTime
from lumbek.core.model.job import Job, JobCircuit
from lumbek.core.plan.set_out import SetOut, SetOutMark
from lumbek.core.study.door import study_of
from lumbek.core.study.read import Read
from lumbek.core.switching.make_off import make_off
from lumbek.core.testing.sheet import test_sheet as sheet_of
from lumbek.exchange.calendar import DueEvent, calendar_ics
from lumbek.exchange.labels_svg import chart_svg, label_strip_svg
from lumbek.exchange.make_off_svg import make_off_svg
from lumbek.exchange.set_out_svg import Hole, set_out_svg
from tests.support.boards import FOUR, board, house, two_groups
from tests.support.houses import BS, SUPPLY, check, judged, read, run, study, worked_ring
from tests.support.lighting import stair, wired

SVG = "{http://www.w3.org/2000/svg}"


def texts(svg: str) -> list[str]:
    """What is written on a drawing, in its order."""
    return [each.text or "" for each in ElementTree.fromstring(svg).iter(f"{SVG}text")]


def rects(svg: str) -> list[dict[str, str]]:
    return [dict(each.attrib) for each in ElementTree.fromstring(svg).iter(f"{SVG}rect")]


class MakeOffDrawn(unittest.TestCase):
    def test_each_terminal_with_each_core_its_colour_and_its_sleeve_in_words(self) -> None:
        sheet = make_off(BS, wired(stair()))
        for box in sheet.boxes:
            svg = make_off_svg(sheet, box)
            words = texts(svg)
            self.assertEqual(words[0], box.title)
            self.assertIn(sheet.safety, words)
            for terminal in box.terminals:
                self.assertIn(terminal.terminal, words)
                for core in terminal.cores:
                    sleeve = f", {core.sleeve} sleeve" if core.sleeve else ""
                    self.assertIn(f"{core.colour}{sleeve}, to {core.to}", words)
            chips = sum(1 + bool(core.sleeve) for terminal in box.terminals for core in terminal.cores)
            # A chip for each core and each sleeve, on one sheet of white.
            self.assertEqual(len(rects(svg)), 1 + chips)

    def test_nothing_is_drawn_below_the_sheet_or_over_another_line(self) -> None:
        sheet = make_off(BS, wired(stair()))
        for box in sheet.boxes:
            root = ElementTree.fromstring(make_off_svg(sheet, box))
            high = float(root.attrib["viewBox"].split()[3])
            rows = sorted({float(each.attrib["y"]) for each in root.iter(f"{SVG}text")})
            self.assertLess(rows[-1], high)
            self.assertTrue(all(below - above >= 4 for above, below in pairwise(rows)), rows)


class SetOutDrawn(unittest.TestCase):
    def mark(self, name: str, across_mm: int, up_mm: int | None, **more: object) -> SetOutMark:
        half = 43
        said = {
            "mark": name,
            "kind": "socket",
            "name": name,
            "left_edge_mm": across_mm - half,
            "right_edge_mm": across_mm + half,
            "width_mm": 2 * half,
            "height_mm": 2 * half,
            "depth_mm": 35,
            "is_existing": False,
            "goes": False,
            "is_made": False,
        }
        return SetOutMark.model_validate({**said, "across_mm": across_mm, "up_mm": up_mm, **more})

    def test_a_mark_lies_where_its_tape_says_in_true_proportion(self) -> None:
        """A wall of 4.8 m is drawn 240 wide: a twentieth. A mark at 1200 and 450 lies 60 along and 22.5 up."""
        face = SetOut.model_validate({**FACE, "marks": (self.mark("kettle", 1200, 450),)})
        svg = set_out_svg("Kitchen: wall n", face)
        wall, mark = rects(svg)[1:3]
        left, floor = float(wall["x"]), float(wall["y"]) + float(wall["height"])
        self.assertAlmostEqual(float(wall["width"]), 240)
        self.assertAlmostEqual(float(wall["height"]), 120)
        self.assertAlmostEqual(float(mark["x"]) + float(mark["width"]) / 2 - left, 60, places=1)
        self.assertAlmostEqual(floor - float(mark["y"]) - float(mark["height"]) / 2, 22.5, places=1)
        self.assertIn("1  1200, up 450: kettle, 35 deep", texts(svg))

    def test_what_is_there_is_not_filled_and_what_goes_is_struck(self) -> None:
        marks = (
            self.mark("new", 1000, 450),
            self.mark("old", 2000, 450, is_existing=True),
            self.mark("gone", 3000, 450, is_existing=True, goes=True),
        )
        svg = set_out_svg("Hall: wall n", SetOut.model_validate({**FACE, "marks": marks}))
        fills = [each["fill"] for each in rects(svg)[2:]]
        self.assertEqual(fills, ["#c8501e", "none", "none"])
        words = texts(svg)
        self.assertIn("3  3000, up 450: goes: gone, 35 deep", words)
        self.assertFalse(any("goes" in each for each in words if "gone" not in each))
        # Two centre lines and a dimension each, and one more through what goes.
        paths = list(ElementTree.fromstring(svg).iter(f"{SVG}path"))
        self.assertEqual(len(paths), 3 * 3 + 1)

    def test_openings_are_white_and_what_stands_there_is_not(self) -> None:
        holes = (Hole(1000, 1800, 0, 2000, True), Hole(2400, 3000, 0, 900, False))
        svg = set_out_svg("Hall: wall n", SetOut.model_validate({**FACE, "marks": ()}), holes)
        door, cupboard = rects(svg)[2:]
        self.assertEqual((door["fill"], cupboard["fill"]), ("#fff", "#ddd8cc"))
        self.assertEqual([float(door[each]) for each in ("width", "height")], [40, 100])
        self.assertEqual([float(cupboard[each]) for each in ("width", "height")], [30, 45])
        floor = float(rects(svg)[1]["y"]) + float(rects(svg)[1]["height"])
        for each in (door, cupboard):
            self.assertAlmostEqual(float(each["y"]) + float(each["height"]), floor, places=1)

    def test_names_are_written_as_they_are_and_not_as_markup(self) -> None:
        face = SetOut.model_validate({**FACE, "marks": (self.mark("<b>&", 1000, 450),)})
        svg = set_out_svg('Tom & "Jo" <kitchen>', face)
        self.assertEqual(texts(svg)[0], 'Tom & "Jo" <kitchen>')
        self.assertTrue(any("<b>&" in each for each in texts(svg)))


FACE = {"face": "n", "called": "wall n", "width_mm": 4800, "height_mm": 2400}


class Labels(unittest.TestCase):
    def test_a_strip_has_a_label_for_each_way_eighteen_millimetres_wide(self) -> None:
        found = house([two_groups((1, 2), (3, 4))], *FOUR)
        sheet = sheet_of_board(found, found.boards[0])
        root = ElementTree.fromstring(label_strip_svg(sheet))
        self.assertEqual(root.attrib["width"], f"{18 * len(sheet.labels)}mm")
        for label in sheet.labels:
            self.assertIn(label.numbers or "–", texts(label_strip_svg(sheet)))

    def test_the_chart_says_every_way_its_device_and_its_rcd(self) -> None:
        found = house([two_groups((1, 2), (3, 4))], *FOUR)
        sheet = sheet_of_board(found, found.boards[0])
        words = " ".join(texts(chart_svg(sheet)))
        for label in sheet.labels:
            for each in (label.numbers, label.device):
                self.assertIn(each, words)
        self.assertIn("30 mA", words)

    def test_a_bare_board_has_an_empty_strip_and_no_error(self) -> None:
        found = house([board()])
        sheet = sheet_of_board(found, found.boards[0])
        self.assertEqual(ElementTree.fromstring(label_strip_svg(sheet)).attrib["width"], "18mm")


class Due(unittest.TestCase):
    MADE = datetime(2026, 3, 1, 12, 0, tzinfo=UTC)

    def test_what_comes_once_reminds_a_month_ahead_and_what_recurs_does_so_by_rule(self) -> None:
        once = DueEvent("a@lumbek", "Next inspection", "Signal box, by the line", date(2031, 3, 1))
        often = DueEvent("b@lumbek", "RCD buttons", "Press each", date(2026, 9, 1), every_months=6)
        calendar = Calendar.from_ical(calendar_ics((once, often), self.MADE))
        first, second = calendar.walk("VEVENT")
        self.assertEqual((first["uid"], first["summary"], first["dtstart"].dt), (once.uid, once.title, once.day))
        self.assertEqual(str(first["description"]), once.words)
        (alarm,) = first.walk("VALARM")
        self.assertEqual(alarm["trigger"].dt.days, -30)
        self.assertNotIn("rrule", first)
        self.assertEqual((second["rrule"]["FREQ"], second["rrule"]["INTERVAL"]), (["MONTHLY"], [6]))
        self.assertEqual(second.walk("VALARM"), [])
        self.assertEqual(second["dtstamp"].dt, self.MADE)

    def test_nothing_due_is_a_calendar_with_nothing_in_it(self) -> None:
        calendar = Calendar.from_ical(calendar_ics((), self.MADE))
        self.assertEqual((calendar["version"], calendar.walk("VEVENT")), ("2.0", []))


class ToldToATester(unittest.TestCase):
    def told(self, circuit=None):
        design = worked_ring() if circuit is None else circuit
        of = study_of(BS, SUPPLY, design, read=Read.of(())).middle
        return design, hook_up(Patient(of), sheet_of(of, ()))

    def test_the_circuit_as_it_is_drawn(self) -> None:
        design, told = self.told()
        self.assertEqual([leg["id"] for leg in told.circuit["legs"]], [leg.id for leg in design.legs])
        self.assertEqual({(leg["line_mm2"], leg["cpc_mm2"]) for leg in told.circuit["legs"]}, {(2.5, 1.5)})
        self.assertEqual([leg["length_m"] for leg in told.circuit["legs"]], [leg.length_m for leg in design.legs])
        self.assertEqual(len(told.circuit["ring"]), 2)
        self.assertIn("S1", told.circuit["points"])
        self.assertIsNone(self.told(run(5, 5))[1].circuit["ring"])

    def test_each_reading_has_its_way(self) -> None:
        _, told = self.told()
        ways = told.ways
        self.assertEqual(ways["rcd-trip:"], {"function": "rcd", "times": 1})
        for key, way in ways.items():
            quantity = key.split(":")[0]
            if quantity == "rcd-five":
                self.assertEqual(way["times"], 5)
            if quantity == "polarity":
                self.assertEqual(way, {"function": "seen", "what": "polarity"})
            if quantity == "zs":
                self.assertEqual(way["function"], "loop")
        # What is said of the supply being off is nobody's to measure.
        self.assertFalse(any(key.startswith(("isolation", "live-reason")) for key in ways))
        self.assertEqual(ways["r1:"]["function"], "ohms")
        self.assertEqual(ways["insulation-le:"]["function"], "insulation")


class NextTime(unittest.TestCase):
    def job(self) -> Job:
        readings = (
            read("r1+r2", 0.4, "P2"),
            read("r1+r2", 0.5, "P2", at="2026-02-01T10:00:00Z"),
            read("zs", 0.7, "gone"),
        )
        design = run(5, 5)
        return Job(
            name="Signal box",
            extent=Extent(state="new"),
            supply=SUPPLY,
            boards=(board(state="new"),),
            circuits=(JobCircuit.of(design, readings, "C1"),),
            readings=(read("ze", 0.21),),
        )

    def test_everything_is_as_found_and_nothing_read_counts_as_read_now(self) -> None:
        following = copied_forward(self.job(), "2031-03-01T09:00:00Z")
        self.assertEqual(following.name, "Signal box, next inspection")
        self.assertEqual((following.extent.state, following.readings), ("as-found", ()))
        (circuit,) = following.circuits
        self.assertEqual((circuit.readings, circuit.design.state), ((), "as-found"))
        parts = (*circuit.design.points, *circuit.design.legs, *following.boards)
        self.assertEqual({each.state for each in parts}, {"as-found"})

    def test_readings_in_force_stand_beside_as_those_of_last_time(self) -> None:
        following = copied_forward(self.job(), "2031-03-01T09:00:00Z")
        (paper,) = [each.said for each in following.inspection if isinstance(each.said, LastTime)]
        lines = {(line.circuit, line.quantity, line.place): line for line in paper.readings}
        self.assertEqual(lines[None, "ze", ""].value, 0.21)
        # The later of two counts; what was read at a point that is gone stays with what was.
        self.assertEqual(lines[1, "r1+r2", "P2"].value, 0.5)
        self.assertEqual(lines[1, "r1+r2", "P2"].day, "2026-02-01")
        self.assertEqual(len(lines), 2)

    def test_a_long_name_stays_within_what_a_name_may_have(self) -> None:
        long = self.job().model_copy(update={"name": "A" * 80})
        self.assertLessEqual(len(copied_forward(long, "2031-03-01T09:00:00Z").name), 80)


class DropMeasured(unittest.TestCase):
    def test_it_is_held_to_what_is_allowed_at_its_point(self) -> None:
        """Sockets may have 5 % of the nominal voltage: at it passes, a hundredth over fails."""
        of = study(worked_ring())
        for value, verdict in ((5.0, "pass"), (5.01, "fail"), (0.0, "pass")):
            reading = read("volt-drop", value, "P1")
            sheet = sheet_of(study_of(BS, SUPPLY, worked_ring(), read=Read.of([reading])).middle, (reading,))
            item = next(each for each in sheet.items if (each.quantity, each.point) == ("volt-drop", "P1"))
            assert item.check is not None
            self.assertEqual(item.check.verdict, verdict, value)
        self.assertEqual(check(judged(worked_ring()), "volt-drop").limit, 5)
        self.assertEqual(of.currents.drop_base_v, 230)


if __name__ == "__main__":
    unittest.main()
