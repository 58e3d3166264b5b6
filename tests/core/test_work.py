"""The work on site: what its steps take is what the take-off has, their order, days, holds, and what was said of it."""

import unittest
from collections import Counter
from dataclasses import replace
from decimal import Decimal
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from lumbek.core.inspection.renamed import renamed_records
from lumbek.core.items.amounts import in_the_way, laying_of
from lumbek.core.items.labour import hours_of
from lumbek.core.items.take_off import take_off_of
from lumbek.core.items.terms import QuoteTerms
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.inspection import InspectionKept
from lumbek.core.model.places import Places
from lumbek.core.model.reading import Reading
from lumbek.core.model.routes import RouteRules
from lumbek.core.model.site import StepSaid
from lumbek.core.places.commands import AddStorey, SetRoom
from lumbek.core.plan.commands import PutWays, TypeLine
from lumbek.core.routes.answer import LegRoute, RoutesAnswer
from lumbek.core.routes.pieces import Corner3, RoutePiece
from lumbek.core.rulebooks import load_rulebook
from lumbek.core.work.answer import WorkAnswer, in_order, work_of
from lumbek.core.work.box_fit import least_depth_mm, too_shallow
from lumbek.core.work.box_room import BoxEnd, fill_percent, least_box_mm, too_full
from lumbek.core.work.days import days_of, tools_for
from lumbek.core.work.site import WorkSite, site_of
from lumbek.core.work.step import PHASES, WorkStep
from tests.core.test_routes import BOARD, hall, with_circuit
from tests.support.inspected import kept
from tests.support.plans import after

BOOK = load_rulebook("bs7671")
LINES = ("board n left 0.20 at 1400", "socket n left 1.00 at 450", "socket n left 2.00 at 450", "desk 900 s left 0.10")


def house(*more: str, lengths: tuple[float, ...] = (9.0, 9.0)) -> tuple[Places, Circuit]:
    """A hall with a board, two sockets on a circuit, a desk, and what else is said."""
    return with_circuit(hall(*LINES, *more), "socket-1", "socket-2", lengths=lengths)


def site(places: Places, design: Circuit, *readings: Reading) -> WorkSite:
    """A house as its work is planned, with readings of its circuit."""
    return site_of(places, (BOARD,), BOOK, [("C1", design)], QuoteTerms(), {"C1": readings})


def steps_of(work: WorkSite | WorkAnswer) -> dict[str, WorkStep]:
    return {step.key: step for step in (work.steps if isinstance(work, WorkAnswer) else in_order(work))}


def said(*records: dict[str, Any], at: str = "2026-03-09T15:00:00Z") -> tuple[InspectionKept, ...]:
    return kept(*records, at=at)


class Steps(unittest.TestCase):
    def test_together_they_take_what_the_take_off_has_and_as_long(self) -> None:
        for more in ((), ("light ceiling w 1.00 s 1.00", "switch n left 0.60 at 1100"), ("fan ceiling w 0.50 s 0.50",)):
            places, design = house(*more)
            work = site(places, design)
            taken: Counter[str] = Counter()
            for step in in_order(work):
                taken.update({item.key: item.count for item in step.takes})
            routes = RoutesAnswer(legs=tuple(work.ways.values()), missing=())
            whole = take_off_of(places, [("C1", design)], routes, BOOK)
            self.assertEqual(taken, {item.key: item.count for item in whole.items})
            hours = hours_of(whole.items, QuoteTerms())
            minutes = work_of(work, ()).minutes
            self.assertGreater(minutes, 0)
            self.assertTrue(0 <= hours * 60 - minutes < Decimal("0.6"), (hours, minutes))

    def test_cleared_before_cable_photographed_before_it_is_closed_fitted_last(self) -> None:
        steps = in_order(site(*house()))
        phases = [PHASES.index(step.phase) for step in steps]
        self.assertEqual(phases, sorted(phases))
        keys = [step.key for step in steps]
        self.assertEqual(keys[0], "clear/hall")
        self.assertIn("Desk", steps[0].told[0])
        order = ["pull/C1/L1", "box/socket-1", "photo/hall", "plaster/hall", "fit/socket-1"]
        self.assertEqual(sorted(order, key=keys.index), order)
        self.assertTrue(steps_of(site(*house()))["photo/hall"].wants_photo)

    def test_a_floor_is_opened_where_cable_goes_under_it_and_laid_again(self) -> None:
        places, design = house("door 838 n left 1.10 head 2400")
        places = after(places, AddStorey(name="Upper"), AddStorey(name="Ground"))
        upper = places.storeys[0]
        places = after(places, SetRoom(room="hall", storey=upper.id))
        opened = steps_of(site(places, design))
        self.assertEqual([item.key for item in opened["open/hall"].takes], ["work:opened"])
        self.assertIn("boards/hall", opened)
        self.assertIn("floor and walls", opened["photo/hall"].what)
        shut = steps_of(site(after(places, PutWays(ways=RouteRules(closed=("hall",)))), design))
        self.assertFalse({"open/hall", "boards/hall"} & shut.keys())

    def test_what_is_new_or_goes_is_not_in_the_way(self) -> None:
        places, _ = house()
        room = places.rooms[0]
        outline = room.outline
        assert outline is not None
        for fate, told in ((None, ["desk"]), ("keep", ["desk"]), ("move", ["desk"]), ("new", []), ("remove", [])):
            things = tuple(each.model_copy(update={"fate": fate}) for each in outline.things)
            other = room.model_copy(update={"outline": outline.model_copy(update={"things": things})})
            self.assertEqual(in_the_way(other), told, fate)

    def test_a_box_is_told_where_which_cables_reach_it_and_that_none_does(self) -> None:
        box = steps_of(site(*house("socket n left 3.00 at 450")))["box/socket-1"]
        self.assertEqual(box.told, ("Wall n, 1000 mm from its left end, 450 mm up.",))
        self.assertEqual([(cable.leg, cable.to) for cable in box.cables], [("L1", "the board"), ("L2", "P2")])
        self.assertTrue(all(cable.mm and not cable.is_found for cable in box.cables))
        alone = steps_of(site(*house("socket n left 3.00 at 450")))["box/socket-3"]
        self.assertIn("No cable comes here yet.", alone.told)

    def test_a_box_too_shallow_for_what_comes_into_it_is_told(self) -> None:
        told = {}
        for depth, csa in ((35, 2.5), (25, 2.5), (25, 4.0), (16, 2.5)):
            places, design = house()
            marks = tuple(
                mark.model_copy(update={"box": mark.box.model_copy(update={"depth_mm": depth})})
                for mark in places.marks
            )
            design = design.model_copy(update={"cable": design.cable.model_copy(update={"csa_mm2": csa})})
            told[depth, csa] = " ".join(
                steps_of(site(places.model_copy(update={"marks": marks}), design))["box/socket-1"].told
            )
        self.assertNotIn("firm's rule", told[35, 2.5] + told[25, 2.5])
        self.assertIn("2 cables: 35 mm deep at least by the firm's rule, and this box is 25 mm.", told[25, 4.0])
        self.assertIn("25 mm deep at least", told[16, 2.5])
        (socket,) = [mark for mark in house()[0].marks if mark.id == "socket-1"]
        self.assertEqual([least_depth_mm(socket, [2.5] * count) for count in (2, 3)], [25, 35])
        surface = socket.model_copy(update={"box": socket.box.model_copy(update={"depth_mm": 16, "is_surface": True})})
        self.assertEqual(too_shallow(surface, [2.5] * 3), "")

    def test_a_box_is_as_full_as_the_room_behind_what_sits_in_it(self) -> None:
        """By hand: a core of 2.5 mm² is 4.0 mm thick: π4²/4 x 150 mm = 1885 mm³; 10 mm behind a socket: 49 000 mm³."""
        (double,) = [mark for mark in house()[0].marks if mark.id == "socket-1"]
        self.assertEqual(double.box.gangs, 2)
        socket = double.model_copy(update={"box": double.box.model_copy(update={"gangs": 1})})
        twin = BoxEnd(3, 2.5)
        fills = [fill_percent(socket, [twin] * many, 25) for many in (1, 2, 3)]
        self.assertEqual(fills, [12, 24, 35])
        self.assertEqual([fill_percent(socket, [twin] * 3, depth) for depth in (15, 10, 35)], [100, 100, 18])
        self.assertEqual(fill_percent(double, [twin] * 3, 25), 19)
        self.assertEqual(fill_percent(socket, [BoxEnd(4, 1.0)], 25), fill_percent(socket, [BoxEnd(4, 1.5)], 25))
        self.assertIsNone(fill_percent(socket.model_copy(update={"kind": "downlight"}), [twin], 25))
        # A third is allowed, no more.
        shallow = socket.model_copy(update={"box": socket.box.model_copy(update={"depth_mm": 25})})
        self.assertEqual(too_full(shallow, [twin] * 2), "")
        self.assertIn("fill 35 % of the room", too_full(shallow, [twin] * 3))
        surface = socket.model_copy(update={"box": socket.box.model_copy(update={"depth_mm": 25, "is_surface": True})})
        self.assertEqual(too_full(surface, [twin] * 3), "")
        self.assertEqual([least_box_mm(socket, [twin] * many, (47, 16, 25, 35)) for many in (2, 3, 9)], [25, 35, 47])
        self.assertIsNone(least_box_mm(socket, [twin] * 12, (16, 25, 35, 47)))

    def test_what_fills_a_box_is_told_at_its_first_fix(self) -> None:
        places, design = house()
        marks = tuple(
            mark.model_copy(update={"box": mark.box.model_copy(update={"depth_mm": 18})}) for mark in places.marks
        )
        told = steps_of(site(places.model_copy(update={"marks": marks}), design))["box/socket-1"].told
        self.assertIn("at most by the firm's rule", " ".join(told))
        self.assertIn("of the room behind", " ".join(told))

    def test_armour_takes_glands_and_cleats_and_no_capping(self) -> None:
        places, design = house("door 838 n left 1.10 head 2400")
        armoured = design.model_copy(update={"cable": Cable(type="armoured", csa_mm2=2.5)})
        items = {item.key: item.count for item in steps_of(site(places, armoured))["pull/C1/L2"].takes}
        free = items["work:laid"]
        self.assertEqual((items["fixing:gland"], items["fixing:cleat"]), (2, -(-free // 400)))
        self.assertFalse({"fixing:capping", "fixing:clip", "fixing:grommet"} & items.keys())

    def test_cleats_hold_what_lies_outside_too(self) -> None:
        spot = Corner3(x=0, y=0, z=0)
        piece = {"storey": "", "room": "", "method": "C", "grouped": 1, "line": (spot, spot)}
        pieces = (RoutePiece(within="over", mm=700, **piece), RoutePiece(within="outside", mm=500, **piece))
        way = LegRoute(circuit="C1", leg="L1", a="board", b="P1", pieces=pieces)
        found = {each.key: count for each, count in laying_of(Cable(type="armoured", csa_mm2=6), way).items()}
        self.assertEqual((found["fixing:cleat"], found["work:outside"], found["work:laid"]), (3, 500, 700))
        flat = {each.key: count for each, count in laying_of(Cable(), way).items()}
        self.assertEqual((flat["fixing:clip"], "fixing:cleat" in flat), (3, False))

    def test_what_is_there_is_only_opened_and_what_goes_is_no_step(self) -> None:
        places, design = house()
        marks = tuple(
            mark.model_copy(update={"socket-1": {"is_existing": True}, "socket-2": {"fate": "remove"}}.get(mark.id, {}))
            for mark in places.marks
        )
        found = steps_of(site(places.model_copy(update={"marks": marks}), design))
        self.assertIn("enter/socket-1", found)
        self.assertEqual(found["enter/socket-1"].takes, ())
        self.assertFalse({"box/socket-1", "fit/socket-1", "box/socket-2", "fit/socket-2"} & found.keys())
        old = design.model_copy(
            update={"legs": tuple(leg.model_copy(update={"state": "as-found"}) for leg in design.legs)}
        )
        quiet = steps_of(site(places.model_copy(update={"marks": marks}), old))
        self.assertFalse({"enter/socket-1", "pull/C1/L1", "half-way/C1", "photo/hall"} & quiet.keys())

    def test_units_that_come_later_leave_a_long_tail_and_its_metre_is_bought(self) -> None:
        places, design = house("units 600 600 n left 700")
        outline = places.rooms[0].outline
        assert outline is not None
        plain = site(places, design)

        def with_fate(fate: str | None) -> WorkSite:
            assert outline is not None
            things = tuple(
                each.model_copy(update={"fate": fate if each.kind == "units" else each.fate}) for each in outline.things
            )
            room = places.rooms[0].model_copy(update={"outline": outline.model_copy(update={"things": things})})
            return site(places.model_copy(update={"rooms": (room, *places.rooms[1:])}), design)

        self.assertEqual(plain.ways["C1", "L1"].tail_mm, 0)
        later = with_fate("new")
        self.assertEqual(later.ways["C1", "L1"].tail_mm, 1000)
        self.assertEqual(later.ways["C1", "L1"].length_mm, plain.ways["C1", "L1"].length_mm + 1000)
        self.assertIn("metre long", " ".join(steps_of(later)["box/socket-1"].told))
        self.assertNotIn("metre long", " ".join(steps_of(later)["box/socket-2"].told))
        self.assertEqual(with_fate("keep").ways["C1", "L1"].tail_mm, 0)
        # What comes above the worktop is not behind the units.
        high = after(with_fate("new").places, TypeLine(room="hall", typed="socket n left 1.20 at 1200"))
        self.assertEqual(set(site(high, design).routed.tails), {"socket-1"})

    def test_the_half_way_test_follows_from_readings_and_says_what_stays_off(self) -> None:
        places, design = house()
        reading = {"at": "2026-03-09T12:00:00Z", "by": "Robin Ash"}
        continuity = Reading.model_validate({"quantity": "r1+r2", "point": "P1", "value": 0.3, **reading})
        insulation = Reading.model_validate(
            {"quantity": "insulation-le", "value": 200, **reading, "at": "2026-03-09T13:00:00Z"}
        )
        open_ = steps_of(site(places, design))["half-way/C1"]
        self.assertEqual((open_.follows, open_.stands.status), (True, "to-do"))
        self.assertIn("joined at the board", open_.told[0])
        for readings in ((continuity,), (insulation,)):
            self.assertEqual(steps_of(site(places, design, *readings))["half-way/C1"].stands.status, "to-do")
        done = steps_of(site(places, design, continuity, insulation))["half-way/C1"].stands
        self.assertEqual((done.status, done.by, done.at), ("done", "Robin Ash", "2026-03-09T13:00:00Z"))
        # Nobody ticks what follows from readings.
        ticked = work_of(site(places, design), said({"record": "step", "step": "half-way/C1", "status": "done"}))
        self.assertIn("half-way/C1", ticked.holds)
        ring = with_circuit(hall(*LINES), "socket-1", "socket-2", lengths=(9.0, 9.0))[1]
        closed = ring.model_copy(
            update={"legs": (*ring.legs, ring.legs[0].model_copy(update={"id": "L9", "a": "P2", "b": "board"}))}
        )
        self.assertIn("r1, rn and r2", steps_of(site(places, closed))["half-way/C1"].told[0])


class Said(unittest.TestCase):
    def test_the_last_counts_by_day_and_what_is_open_holds(self) -> None:
        work = site(*house())
        done = {"record": "step", "step": "box/socket-1", "status": "done"}
        left = {"record": "step", "step": "box/socket-2", "status": "left", "note": "no box"}
        photo = {"record": "step", "step": "photo/hall", "status": "done"}
        answer = work_of(
            work, (*said(done, left), *said(photo, {**left, "status": "missing"}, at="2026-03-10T09:00:00Z"))
        )
        stands = {key: step.stands.status for key, step in steps_of(answer).items()}
        self.assertEqual((stands["box/socket-1"], stands["box/socket-2"]), ("done", "missing"))
        self.assertEqual(answer.holds, ("half-way/C1",))
        days = [(each.day, each.done, each.left, each.missing) for each in answer.done]
        self.assertEqual(
            days,
            [("2026-03-10", ("photo/hall",), (), ("box/socket-2",)), ("2026-03-09", ("box/socket-1",), (), ())],
        )
        self.assertEqual(answer.minutes_left, answer.minutes - steps_of(answer)["box/socket-1"].minutes)
        back = work_of(work, said(done, {**done, "status": "to-do"}))
        self.assertEqual((back.done, steps_of(back)["box/socket-1"].stands.status), ((), "to-do"))

    def test_hours_add_up_by_day_and_person(self) -> None:
        hours = [
            {"record": "worked", "day": day, "who": who, "minutes": minutes}
            for day, who, minutes in (("2026-03-09", "Ash", 90), ("2026-03-10", "Ash", 60), ("2026-03-09", "Ash", 30))
        ]
        found = work_of(site(*house()), said(*hours)).hours
        self.assertEqual([(each.day, each.minutes) for each in found], [("2026-03-10", 60), ("2026-03-09", 120)])

    def test_used_against_planned_and_what_nobody_planned(self) -> None:
        box = "box:35:2"
        used = [
            {"record": "used", "item": item, "count": count} for item, count in ((box, 3), (box, -1), ("tape", "2.5"))
        ]
        found = {each.key: each for each in work_of(site(*house()), said(*used)).used}
        self.assertEqual((found[box].planned, found[box].used), (2, 2))
        self.assertEqual((found["tape"].planned, found["tape"].used), (0, Decimal("2.5")))
        cable = next(each for key, each in found.items() if key.startswith("cable:"))
        self.assertEqual(cable.unit, "m")
        self.assertGreater(cable.planned, 1)
        self.assertNotIn("work:laid", found)

    def test_left_without_a_word_is_refused(self) -> None:
        for status in ("left", "missing"):
            with self.assertRaisesRegex(ValueError, "say what is"):
                StepSaid(step="box/x", status=status)
        for bad in ("../x", "box/", "Box/x", "box/a/b/c"):
            with self.assertRaises(ValueError):
                StepSaid(step=bad, status="done")

    def test_circuits_in_keys_are_renamed_with_their_file(self) -> None:
        records = said(
            *({"record": "step", "step": key, "status": "done"} for key in ("pull/C1/L1", "box/C1", "half-way/C1"))
        )
        found = [each.said.step for each in renamed_records(records, {"C1": "abc"}) if isinstance(each.said, StepSaid)]
        self.assertEqual(found, ["pull/abc/L1", "box/C1", "half-way/abc"])


class Days(unittest.TestCase):
    @settings(max_examples=40)
    @given(st.lists(st.integers(0, 700), max_size=25), st.integers(1, 12), st.integers(1, 3))
    def test_every_step_is_on_one_day_in_order_and_none_begins_after_hours(
        self, minutes: list[int], hours: int, hands: int
    ) -> None:
        steps = [
            WorkStep(key=f"box/m{at}", phase="first-fix", room="", what="x", minutes=Decimal(each))
            for at, each in enumerate(minutes)
        ]
        terms = QuoteTerms(hours_a_day=Decimal(hours), hands=hands)
        days = days_of(steps, terms)
        self.assertEqual([key for day in days for key in day.steps], [step.key for step in steps])
        self.assertEqual(sum(day.minutes for day in days), sum(minutes))
        begun = 0
        for day in days:
            for key in day.steps:
                self.assertEqual(begun // (hours * 60 * hands) + 1, day.number)
                begun += minutes[int(key.removeprefix("box/m"))]

    def test_tools_for_what_is_done_that_day(self) -> None:
        answer = work_of(site(*house()), ())
        every = {tool for day in answer.days for tool in day.tools}
        self.assertTrue(any("Chaser" in tool for tool in every))
        self.assertTrue(any("proving unit" in tool for tool in answer.days[0].tools))
        # No joist is drilled there, and there is no armour.
        self.assertFalse([tool for tool in every if "augers" in tool or "Gland" in tool])
        self.assertEqual(tools_for([]), ())
        fitted = [step for step in answer.steps if step.key == "fit/socket-1"]
        self.assertFalse([tool for tool in tools_for(fitted) if "Chaser" in tool])

    def test_the_van_brings_what_the_days_take_and_no_work(self) -> None:
        answer = work_of(replace(site(*house()), terms=QuoteTerms(hours_a_day=Decimal(1))), ())
        self.assertGreater(len(answer.days), 1)
        van: Counter[str] = Counter()
        for day in answer.days:
            van.update({item.key: item.count for item in day.van})
        taken: Counter[str] = Counter()
        for step in answer.steps:
            taken.update({item.key: item.count for item in step.takes if item.sort != "work"})
        self.assertEqual(van, taken)
        self.assertFalse([key for key in van if key.startswith("work:")])


if __name__ == "__main__":
    unittest.main()
