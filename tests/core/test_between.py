"""What circuit and board, one circuit and its fellows, a cable and the way it lies say of each other."""

import unittest
from typing import Any

from lumbek.core.board.house import house_of_job
from lumbek.core.board.judge import judge_house
from lumbek.core.circuit.changes.cables import SetCable
from lumbek.core.circuit.changes.circuit import SetCircuit, SetDevice
from lumbek.core.circuit.commands import carry_out
from lumbek.core.circuit.edit import AddPoint
from lumbek.core.circuit.usual import usual_circuit
from lumbek.core.documents.gathered import gather
from lumbek.core.documents.schedule import schedule_paper
from lumbek.core.judging.answers import answer_circuits
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.extent import Extent
from lumbek.core.model.job import Job
from lumbek.core.model.reading import Reading
from lumbek.core.model.supply import MainFuse, Supply
from lumbek.core.protection.conditional import conditional_ka, may_be_conditional
from lumbek.core.study.door import study_of
from lumbek.core.survey.as_read import supply_of_job
from lumbek.core.survey.judgement import judge_supply
from lumbek.core.survey.quick import Quick, quick_job
from lumbek.core.switching.prove import prove
from lumbek.core.testing.installation import installation_sheet
from lumbek.core.testing.sampling import planned
from lumbek.core.testing.sheet import HouseTests, sheet_of
from lumbek.exchange.job_file import make_job
from lumbek.exchange.typed_run import parse_run
from tests.core.test_assessor import PME, RCD, TT, TWIN, C, Cases, F, N, P, fuse, load, mcb, radial, rcbo, ring
from tests.core.test_evidence import zs as zs_of
from tests.support.houses import BS, IEC, SUPPLY, read, run, worked_ring
from tests.support.stated import a_device

FRONT = {"standard": "bs-en-61008", "curve": None, "rating_a": 80, "rcd": {**RCD, "rated_ma": 100, "delayed": True}}
SWITCH = {"standard": "switch", "curve": None, "rating_a": 100, "rcd": None}


def a_job(*circuits: dict[str, Any], groups: list[dict[str, Any]] | None = None, **more: Any) -> Job:
    """A job of these circuits on one board, in one group without an RCD unless said."""
    drawn = [{"id": f"C{i}", "design": {**each, "number": i}} for i, each in enumerate(circuits, 1)]
    ways = [{"id": f"W{i}", "circuits": [f"C{i}"]} for i in range(1, len(circuits) + 1)]
    board = {"id": "B1", "name": "Main board", "main": SWITCH, "enclosure": {"material": "metal"}, "main_poles": 2,
             "groups": groups or [{"id": "G1", "ways": ways}], **more.pop("board", {})}  # fmt: skip
    job = {"format": "lumbek-job", "version": 3, "supply": more.pop("supply", PME), "boards": [board]}
    return make_job({**job, "circuits": drawn, **more})


def house_check(job: Job, key: str):
    return next(each for each in judge_house(house_of_job(job)).checks if each.id == key)


def circuit_check(job: Job, number: int, key: str):
    answer = next(each for each in answer_circuits(job) if each.number == number)
    return next(each for each in answer.result.checks if each.id == key)


class CircuitAndBoard(unittest.TestCase):
    def test_a_shared_rcd_that_the_board_does_not_have_is_disputed(self) -> None:
        shared = radial(*TWIN, device=mcb(20, rcd={**RCD, "shared": True}))
        found = circuit_check(a_job(shared), 1, "rcd")
        self.assertEqual(found.verdict, C)
        for words in ("share an RCD of 30 mA", "Main board has none"):
            self.assertIn(words, found.missing[0])
        group = {"id": "G1", "rcd": RCD, "ways": [{"id": "W1", "circuits": ["C1"]}]}
        self.assertEqual(circuit_check(a_job(shared, groups=[group]), 1, "rcd").verdict, P)
        # Where nobody has described a board the circuit is all there is to go by.
        bare = a_job(shared).model_copy(update={"boards": ()})
        self.assertEqual(circuit_check(bare, 1, "rcd").verdict, P)

    def test_what_all_behind_an_rccb_draw_is_asked_of_the_board_once(self) -> None:
        group = {"id": "G1", "rcd": RCD, "rating_a": 63,
                 "ways": [{"id": f"W{i}", "circuits": [f"C{i}"]} for i in (1, 2, 3)]}  # fmt: skip
        job = a_job(*(radial(*TWIN, device=mcb(20)) for _ in range(3)), groups=[group])
        self.assertEqual(circuit_check(job, 1, "switches").verdict, P)

    def test_tt_ahead_of_the_first_rcd(self) -> None:
        one = radial(*TWIN, device=rcbo(20))
        for main, material, supply, verdict in (
            (SWITCH, "metal", TT, F),
            (FRONT, "metal", TT, P),
            (SWITCH, "plastic", TT, P),
            (SWITCH, "unknown", TT, C),
            ("unknown", "metal", TT, C),
            (SWITCH, "metal", PME, N),
        ):
            job = a_job(one, board={"main": main, "enclosure": {"material": material}}, supply=supply)
            self.assertEqual(house_check(job, "before-rcd-B1").verdict, verdict, (main, material))

    def test_the_case_of_a_board_on_tt_is_cut_off_by_the_rcd_at_its_main(self) -> None:
        """RA × IΔn of that RCD: what is behind it may have 30 mA, its own case has not."""
        one = radial(*TWIN, device=rcbo(20))
        for ma, ohm, material, verdict in (
            (300, 166, "metal", P),
            (300, 167, "metal", F),
            (100, 167, "metal", P),
            (300, 400, "plastic", P),
            (300, 400, "unknown", C),
            (300, 100, "unknown", P),
            (None, 20, "metal", C),
            (300, None, "metal", C),
        ):
            main = {**FRONT, "rcd": {**FRONT["rcd"], "rated_ma": ma}}
            supply = {"earthing": "TT", "ze_ohm": ohm, "ze_origin": "measured" if ohm else None}
            job = a_job(one, board={"main": main, "enclosure": {"material": material}}, supply=supply)
            found = house_check(job, "before-rcd-B1")
            self.assertEqual(found.verdict, verdict, (ma, ohm, material, found.answer))
        declared = {"earthing": "TT", "ze_ohm": 20, "ze_origin": "declared"}
        job = a_job(one, board={"main": FRONT, "enclosure": {"material": "metal"}}, supply=declared)
        self.assertEqual(house_check(job, "before-rcd-B1").missing_codes, ("electrode",))

    def test_an_open_way_is_not_a_closed_one(self) -> None:
        one = radial(*TWIN, device=rcbo(20))
        for spare, verdict in (({}, F), ({"blank": True}, P), ({"device": mcb(16)}, N)):
            ways = [{"id": "W1", "circuits": ["C1"]}, {"id": "W2", **spare}]
            job = a_job(one, groups=[{"id": "G1", "ways": ways}])
            self.assertEqual(house_check(job, "open-ways-B1").verdict, verdict, spare)

    def test_a_source_behind_the_rcd_of_sockets(self) -> None:
        solar = radial({"kind": "source", "isolator": True, "loads": [load(3000)]}, device=mcb(16))
        sockets = radial(*TWIN, device=mcb(20))
        together = [{"id": "G1", "rcd": RCD, "ways": [{"id": f"W{i}", "circuits": [f"C{i}"]} for i in (1, 2)]}]
        self.assertEqual(house_check(a_job(solar, sockets, groups=together), "source-rcd-G1").verdict, F)
        apart = [{"id": "G1", "rcd": RCD, "ways": [{"id": "W1", "circuits": ["C1"]}]},
                 {"id": "G2", "rcd": RCD, "ways": [{"id": "W2", "circuits": ["C2"]}]}]  # fmt: skip
        checks = judge_house(house_of_job(a_job(solar, sockets, groups=apart))).checks
        self.assertFalse([each for each in checks if each.id.startswith("source-rcd")])

    def test_bonding_of_a_bath_room_hears_of_its_other_circuits(self) -> None:
        def light(**more: Any) -> dict[str, Any]:
            point = {"kind": "light", "at": {"room": "wash"}, "zone": "outside"}
            return radial(point, csa=1.5, surroundings={"supplementary_bonding": False}, **more)

        guarded, bare = light(device=rcbo(6)), light(device=mcb(6))
        self.assertEqual(circuit_check(a_job(guarded, guarded), 1, "bath-bonding").verdict, P)
        found = circuit_check(a_job(guarded, bare), 1, "bath-bonding")
        self.assertEqual(found.verdict, F)
        elsewhere = radial({"kind": "light", "at": {"room": "attic"}, "zone": "outside"}, csa=1.5, device=mcb(6))
        self.assertEqual(circuit_check(a_job(guarded, elsewhere), 1, "bath-bonding").verdict, P)

    def test_alarms_behind_the_rcd_of_the_whole_house(self) -> None:
        alarms = radial(
            {"kind": "fixed", "loads": [load(2, diversity="lighting")]}, kind="alarms", device=mcb(6), csa=1.5
        )
        lights = radial("light", device=mcb(6), csa=1.5)
        found = house_check(a_job(alarms, lights, board={"main": FRONT}), "alarms")
        self.assertIn("Any of them can trip it", found.caution)
        self.assertEqual(house_check(a_job(alarms, lights), "alarms").caution, "")

    def test_one_rcd_over_everything_asks_for_no_storeys(self) -> None:
        lights = radial({"kind": "light", "at": {"room": "hall"}}, device=mcb(6), csa=1.5)
        sockets = radial({"kind": "socket-twin", "at": {"room": "loft"}}, device=mcb(20))
        self.assertEqual(house_check(a_job(lights, sockets, board={"main": FRONT}), "division").verdict, F)


class SheetOfTheHouse(unittest.TestCase):
    def sheet(self, job: Job):
        return installation_sheet(BS, job.supply, job.readings, house_of_job(job))

    def items(self, job: Job, quantity: str):
        return [item for stage in self.sheet(job).stages for item in stage.items if item.quantity == quantity]

    def shared(self, *readings: dict[str, Any]) -> Job:
        group = {"id": "G1", "name": "Left RCD", "rcd": RCD, "rating_a": 63,
                 "ways": [{"id": f"W{i}", "circuits": [f"C{i}"]} for i in (1, 2)]}  # fmt: skip
        each = radial(*TWIN, device=mcb(20))
        kept = [{"by": "Robin Ash", "at": "2026-01-31T09:30:00Z", **one} for one in readings]
        return a_job(each, each, groups=[group], readings=kept)

    def test_an_rcd_that_circuits_share_is_tested_once_and_shown_on_each(self) -> None:
        untested = self.shared()
        self.assertEqual([item.point for item in self.items(untested, "shared-rcd-trip")], ["G1"])
        own = answer_circuits(untested)
        for answer in own:
            trips = [i for s in answer.tests.stages for i in s.items if i.quantity in ("rcd-trip", "rcd-button")]
            self.assertTrue(all(item.beside and item.tested_at == "Left RCD" for item in trips), answer.number)
        tested = self.shared({"quantity": "shared-rcd-trip", "point": "G1", "value": 24},
                             {"quantity": "shared-rcd-button", "point": "G1", "correct": True})  # fmt: skip
        self.assertEqual(self.sheet(tested).taken, self.sheet(untested).taken + 2)
        for answer in answer_circuits(tested):
            shown = next(i for s in answer.tests.stages for i in s.items if i.quantity == "rcd-trip")
            self.assertEqual((shown.reading.value, shown.check.verdict), (24, P))
        for value, verdict in ((300, P), (301, F)):
            late = self.shared({"quantity": "shared-rcd-trip", "point": "G1", "value": value})
            self.assertEqual(self.items(late, "shared-rcd-trip")[0].check.verdict, verdict)
        for value, verdict in ((14.9, F), (15, P), (30, P), (30.1, F)):
            ramp = self.shared({"quantity": "shared-rcd-ramp", "point": "G1", "value": value})
            self.assertEqual(self.items(ramp, "shared-rcd-ramp")[0].check.verdict, verdict)

    def test_a_delayed_one_waits(self) -> None:
        for value, verdict in ((129, F), (130, P), (500, P), (501, F)):
            kept = [
                {"quantity": "shared-rcd-trip", "point": "B1", "value": value, "by": "A", "at": "2026-01-31T09:30:00Z"}
            ]
            job = a_job(radial(*TWIN, device=rcbo(20)), board={"main": FRONT}, supply=TT, readings=kept)
            self.assertEqual(self.items(job, "shared-rcd-trip")[0].check.verdict, verdict, value)
            # The circuit's own RCD is tested on its own sheet.
            (answer,) = answer_circuits(job)
            trip = next(i for s in answer.tests.stages for i in s.items if i.quantity == "rcd-trip")
            self.assertEqual((trip.beside, trip.tested_at), (False, ""))

    def current(self, ka: float, quantity: str = "fault-current", **supply: Any) -> Job:
        kept = [{"quantity": quantity, "value": ka, "by": "A", "at": "2026-01-31T09:30:00Z"}]
        return a_job(radial(*TWIN, device=rcbo(20)), supply={**PME, **supply}, readings=kept)

    def test_a_measured_fault_current_is_held_to_what_is_fitted_and_heard_by_the_circuits(self) -> None:
        for ka, more, verdict in (
            (5.9, {}, P),
            (6.0, {}, P),
            (8.2, {}, C),
            (8.2, {"board_conditional_ka": 16}, P),
            (8.2, {"board_conditional_ka": 7}, F),
            (17, {}, F),
        ):
            job = self.current(ka, **more)
            self.assertEqual(self.items(job, "fault-current")[0].check.verdict, verdict, (ka, more))
            self.assertEqual(circuit_check(job, 1, "breaking").verdict, verdict, (ka, more))
        self.assertEqual(circuit_check(self.current(17, "fault-current-le"), 1, "breaking").verdict, F)

    def test_of_three_lines_twice_that_to_neutral_counts_unless_more_is_known(self) -> None:
        three = {"phases": 3, "board_conditional_ka": 6}
        self.assertEqual(circuit_check(self.current(2.9, **three), 1, "breaking").verdict, P)
        self.assertEqual(circuit_check(self.current(3.1, **three), 1, "breaking").verdict, F)


class Circuits(Cases):
    """Circuits by themselves, in the manner of an assessor."""

    def test_the_cpc_of_a_ring_is_a_ring(self) -> None:
        plastic = {"kind": "socket-twin", "state": "as-found", "class_ii": True}
        old = ring(plastic, plastic, plastic, state="as-found")
        for leg in old["legs"]:
            leg["state"] = "as-found"
        self.case("with it all round", old, "cpc", N)
        old["legs"][1]["cable"] = {"csa_mm2": 2.5, "cpc_by": "none"}
        self.case("one leg without", old, "cpc", F, says="no ring")

    def test_a_metal_plate_without_a_cpc(self) -> None:
        def old(**more: Any) -> dict[str, Any]:
            switch = {"kind": "switch", "state": "as-found", "class_ii": True, **more}
            found = radial(switch, device=mcb(6), cable={"cpc_by": "none"}, csa=1, state="as-found")
            return {**found, "legs": [{**leg, "state": "as-found"} for leg in found["legs"]]}

        self.case("plastic", old(), "cpc", P, says="C3")
        self.case("metal", old(plate={"metal": True}), "cpc", F, says="C2")

    def test_a_cable_without_a_cpc_and_a_cpc_left_off_are_judged_alike(self) -> None:
        """By what can be touched there: a lamp's class says it, of a switch its plate, and an outlet takes anything."""
        looked = [{}, {"class_ii": True}, {"class_ii": False}, {"plate": {"metal": True}}, {"plate": {"metal": False}}]
        for kind, verdicts in {
            "light": (C, P, F, F, C),
            "switch": (C, P, F, F, P),
            "cord-switch": (C, P, F, F, P),
            "fixed": (F, P, F, F, F),
            "socket-twin": (F, F, F, F, F),
            "fused-spur": (F, F, F, F, F),
        }.items():
            for said, verdict in zip(looked, verdicts, strict=True):
                with self.subTest(kind=kind, said=said):
                    point = {"kind": kind, "state": "as-found", **said}
                    bare = radial(point, device=mcb(6), cable={"cpc_by": "none"}, csa=1, state="as-found")
                    bare = {**bare, "legs": [{**leg, "state": "as-found"} for leg in bare["legs"]]}
                    self.case("bare", bare, "cpc", verdict)
                    off = {**bare, "cable": {"csa_mm2": 1}}
                    ends = [{"ends": [{"leg": "L1", "core": core}], "terminals": [core]} for core in "LN"]
                    ends += [{"ends": [{"leg": "L1", "core": "E"}]}]
                    off["points"] = [{**off["points"][0], "joins": ends}]
                    proof = prove(BS, {1: Circuit.model_validate({**off, "number": 1})})
                    (reaches,) = [each for each in proof.checks if each.id == "cpc-reaches"]
                    self.assertEqual(reaches.verdict, verdict, reaches.answer)

    def test_what_hangs_on_one_outlet(self) -> None:
        def at(watts: float, kind: str = "socket-single", **more: Any) -> dict[str, Any]:
            return radial({"kind": kind, "loads": [load(watts, **more)]}, device=rcbo(20))

        self.case("3 kW", at(3000), "plugs", P)
        self.case("3.2 kW", at(3200), "plugs", F)
        self.case("3.2 kW under IEC", at(3200), "plugs", P, iec=True)
        twice = radial({"kind": "socket-twin", "loads": [load(2600), load(2600)]}, device=rcbo(32), csa=4)
        self.case("two of 2.6 kW on a twin", twice, "plugs", F)
        self.case("nothing stated", radial(*TWIN), "plugs", N)

    def test_what_hangs_on_one_outlet_counts_together(self) -> None:
        for watts, verdict in ((1500, P), (1600, F)):
            two = {"kind": "socket-single", "loads": [load(watts), load(watts)]}
            self.case(f"two of {watts} W on a single outlet", radial(two, device=rcbo(20)), "plugs", verdict)

        uneven = {"kind": "socket-twin", "loads": [load(3400), load(100)]}
        self.case("one of them by itself", radial(uneven, device=rcbo(20)), "plugs", F)

    def test_a_board_may_hold_what_nobody_has_said_up_to_a_usual_figure(self) -> None:
        def behind(rating_a: float, said: float | None = None) -> Supply:
            fuse = MainFuse(standard="bs88-3", rating_a=rating_a)
            return SUPPLY.model_copy(update={"main_fuse": fuse, "board_conditional_ka": said})

        for book in (BS, IEC):
            self.assertTrue(may_be_conditional(book, behind(100), 16))
            self.assertFalse(may_be_conditional(book, behind(100), 16.01))
            self.assertFalse(may_be_conditional(book, behind(125), 16))
            self.assertFalse(may_be_conditional(book, behind(100, said=10), 12))
            self.assertEqual(conditional_ka(book, behind(100, said=16)), 16)
            self.assertEqual(conditional_ka(book, behind(125, said=16)), 0)

    def test_a_socket_with_nothing_stated_keeps_its_conventional_load(self) -> None:
        stated = {"kind": "socket-single", "loads": [load(230)]}
        found = self.judge(radial(stated, "socket-twin", device=rcbo(20), length=40), PME, False)
        by_id = {each.id: each for each in found.checks}
        self.assertEqual(by_id["load"].value, 20)
        # 1 A at 40 m, and 19 A more at 80 m: 18 x (20 + 19) x 40 / 1000 = 28.1 V.
        self.assertEqual(by_id["volt-drop"].verdict, F)
        self.assertAlmostEqual(by_id["volt-drop"].value, 100 * 18 * (20 + 19) * 40 / 1000 / 230)

    def test_protective_conductor_current(self) -> None:
        def leaking(ma: float, **more: Any) -> dict[str, Any]:
            return radial({"kind": "fixed", "loads": [load(500, leakage_ma=ma)]}, device=mcb(16), **more)

        self.case("10 mA", leaking(10), "high-leakage", N)
        self.case("10.1 mA", leaking(10.1), "high-leakage", F)
        self.case("on a cpc of 10 mm²", leaking(12, csa=10, cable={"cpc_mm2": 10}), "high-leakage", P)
        self.case("and of 6 mm²", leaking(12, csa=10, cable={"cpc_mm2": 6}), "high-leakage", F)
        armour = {"type": "armoured", "insulation": "xlpe90", "cores": 3}
        self.case("a core and the armour", leaking(12, cable={**armour, "cpc_by": "core"}), "high-leakage", P)
        pipe = {"type": "single-core", "cpc_by": "conduit", "conduit": "20-light"}
        self.case("the conduit round singles", leaking(12, cable=pipe, method="B"), "high-leakage", P)
        # Of steel there are 17 mm² round 2.5 mm².
        self.case("the armour by itself", leaking(12, cable={**armour, "cpc_by": "armour"}), "high-leakage", P)
        round_it = ring({"kind": "socket-twin", "loads": [load(500, leakage_ma=12)]}, *TWIN)
        self.case("on a ring, both ends", round_it, "high-leakage", P)

    def test_a_water_heater_on_a_ring(self) -> None:
        heater = {"kind": "fused-spur", "fuse_a": 13, "loads": [load(3000, diversity="thermostatic")]}
        self.case("is minded", ring(heater, *TWIN), "ring-rule", P, says="circuit of its own")

    def test_a_fuse_that_nobody_can_call_small(self) -> None:
        self.case(
            "3 kW through 13 A", ring({"kind": "fused-spur", "fuse_a": 13, "loads": [load(3000)]}, *TWIN), "fuses", P
        )
        heater = {"kind": "fused-spur", "fuse_a": 13, "loads": [load(3000)]}
        self.case("the same through an IEC 13 A", ring(heater, *TWIN), "fuses", F, iec=True)
        self.case("a fuse of old", radial("fixed", device=fuse("bs3036", 15), csa=2.5), "lampholders", N)


class SurgeAskedOnce(unittest.TestCase):
    """What is said of surge protection in the survey or on the board is heard in the other, and not asked again."""

    def checks(self, survey: str, board: object):
        job = a_job(radial(*TWIN), supply={**PME, "surge_protection": survey}, board={"surge": board})
        found = {each.id: each for each in judge_supply(BS, supply_of_job(job)).checks}
        return found["surge"], house_check(job, "surge-B1")

    def test_a_device_on_the_board_is_fitted(self) -> None:
        for survey in ("unknown", "fitted"):
            said, leads = self.checks(survey, {"type": "2", "lead_m": 0.4})
            self.assertEqual((said.verdict, leads.verdict), (P, P), survey)
        self.assertEqual(self.checks("unknown", {"type": "3", "lead_m": 0.4})[0].verdict, C)
        self.assertEqual(self.checks("unknown", None)[0].verdict, C)

    def test_fitted_in_the_survey_and_none_on_the_board_are_both_said(self) -> None:
        leads = self.checks("fitted", None)[1]
        self.assertEqual(leads.verdict, C)
        self.assertIn("the survey says so", leads.missing[0])
        self.assertEqual(self.checks("declined", None)[1].verdict, N)
        declined, leads = self.checks("declined", {"type": "2", "lead_m": 0.4})
        self.assertEqual((declined.verdict, leads.verdict), (P, C))
        self.assertIn("says declined", leads.missing[0])


class DraftReasons(unittest.TestCase):
    def test_they_say_what_is_wrong_or_missing_and_never_what_passes(self) -> None:
        supply = {**PME, "ze_ohm": 3.0, "surge_protection": "unknown"}
        readings = [read("fault-current", 8.2), read("ze", 3.0)]
        reasons = schedule_paper(gather(a_job(radial(*TWIN), supply=supply, readings=readings))).missing
        self.assertTrue(any(each.startswith("Survey: ") for each in reasons))
        self.assertTrue(any(each.startswith("Survey not finished: ") and "Surge" in each for each in reasons))
        of_current = [each for each in reasons if "Fault current, line to neutral" in each]
        self.assertTrue(of_current and all("cannot be told" in each or "6 kA" in each for each in of_current), reasons)


class SmallJobs(unittest.TestCase):
    """A change and what it relies on: from its start to nothing left to ask in few entries."""

    def left(self, quick: Quick, *readings: Reading) -> tuple[str, list[str], tuple[str, ...]]:
        job = quick_job(BS, quick)
        (circuit,) = job.circuits
        job = job.model_copy(update={"circuits": (circuit.model_copy(update={"readings": readings}),)})
        (answer,) = answer_circuits(job)
        items = [item for stage in answer.tests.stages for item in stage.items]
        asked = [item.quantity for item in items if not item.beside and not item.is_done]
        return answer.verdict, asked, schedule_paper(gather(job)).missing

    def taken(self, where: str, **changed: float) -> list[Reading]:
        figures = {"r1+r2": 0.3, "zs": 0.5, **changed}
        at_point = [read(quantity, value, where) for quantity, value in figures.items()]
        seen = [read(each, correct=True) for each in ("isolation", "polarity", "rcd-button")]
        return [*at_point, *seen, read("insulation-le", 200), read("rcd-trip", 20)]

    def test_three_of_them_are_closed(self) -> None:
        relied = {"earthing": "TN-C-S", "bonding": "10", "rcd": "30-A", "fault_current_ka": 1.2}
        for quick, where in (
            (Quick(what="light", rating_a=6, csa_mm2=1.5, **relied), "P1"),
            (Quick(what="socket", rating_a=20, csa_mm2=2.5, **relied), "P2"),
            (Quick(what="breaker", rating_a=20, csa_mm2=2.5, breaking_ka=6, **relied), "P1"),
        ):
            verdict, asked, reasons = self.left(quick)
            self.assertNotEqual(verdict, "pass")
            self.assertTrue(reasons)
            # What is asked before, and what is read: no more than fifteen in all.
            self.assertLessEqual(len(quick.model_fields_set) + len(asked), 15)
            self.assertEqual(self.left(quick, *self.taken(where)), ("pass", [], ()), quick.what)
            self.assertEqual(self.left(quick, *self.taken(where, zs=9.0))[0], "fail")

    def test_an_rcd_is_the_circuits_own_in_an_rcbo_and_shared_before_a_breaker(self) -> None:
        of = {"what": "socket", "rating_a": 20, "csa_mm2": 2.5, "rcd": "30-A"}
        for standard, shared in (("bs-en-61009", False), ("bs-en-60898", True), ("bs3036", True)):
            (circuit,) = quick_job(BS, Quick(**of, standard=standard)).circuits
            rcd = circuit.design.device.rcd
            self.assertEqual((rcd.rated_ma, rcd.type, rcd.shared), (30, "A", shared), standard)

    def test_a_socket_on_a_ring_asks_for_the_ring(self) -> None:
        quick = Quick(what="socket", on_ring=True, rating_a=32, csa_mm2=2.5, earthing="TN-C-S", bonding="10",
                      rcd="30-A", fault_current_ka=1.2)  # fmt: skip
        asked = self.left(quick)[1]
        self.assertEqual(asked[1:4], ["r1", "rn", "r2"])
        # Its rating and its cable stand there as a ring has them.
        prefilled = {"on_ring", "rating_a", "csa_mm2"}
        self.assertLessEqual(len(quick.model_fields_set - prefilled) + len(asked), 15)
        ends = [read(each, ohm) for each, ohm in (("r1", 0.45), ("rn", 0.45), ("r2", 0.75))]
        at_new = [each for each in self.taken("P2", zs=0.55) if each.quantity != "r1+r2"]
        closed = self.left(quick, *ends, read("cross-le", 0.31, "P2"), *at_new)
        self.assertEqual(closed, ("pass", [], ()))

    def test_what_it_relies_on_is_asked_and_the_rest_is_not(self) -> None:
        known = {"what": "light", "rating_a": 6, "csa_mm2": 1.5, "earthing": "TN-C-S", "bonding": "10", "rcd": "30-A"}
        for gone, words in (
            ({"bonding": "none"}, "Bonding"),
            ({"earthing": None}, "Earthing"),
            ({"rcd": "none"}, "RCD"),
        ):
            reasons = self.left(Quick(**{**known, **gone}), *self.taken("P1"))[2]
            self.assertTrue(any(words in each for each in reasons), (gone, reasons))
        self.assertEqual(self.left(Quick(**known), *self.taken("P1"))[2], ())

    def test_a_plan_of_which_points_are_read(self) -> None:
        circuit = run(5, 5, 5, 5, 5, 5, 5, device=a_device(rating_a=20))
        for sampling, wanted in (("every", 7), ("ends", 1), ("share", 3)):
            told = HouseTests(extent=Extent(sampling=sampling))
            items = [i for s in sheet_of(study_of(BS, SUPPLY, circuit), (), house=told).stages for i in s.items]
            asked = [item for item in items if item.quantity == "zs" and not item.beside]
            self.assertEqual(len(asked), wanted)
            self.assertTrue(all(item.outside for item in items if item.quantity == "zs" and item not in asked))
        # Of a ring the point in its middle and the ends of its spurs; of a change what is new, or the ends where only
        # the device is another.
        round_it = study_of(BS, SUPPLY, worked_ring()).longest
        walk = [each.id for each in round_it.circuit.points]
        self.assertEqual(planned(round_it, walk, Extent(sampling="ends")), {"P4", "S1"})
        self.assertEqual(planned(round_it, walk, Extent(work="change")), set(walk))
        old = tuple(each.model_copy(update={"state": "as-found"}) for each in circuit.points)
        there = circuit.model_copy(update={"points": (*old[:2], circuit.points[2], *old[3:])})
        change = Extent(work="change")
        self.assertEqual(planned(study_of(BS, SUPPLY, there).longest, [each.id for each in old], change), {"P3"})
        there = circuit.model_copy(update={"points": old})
        self.assertEqual(planned(study_of(BS, SUPPLY, there).longest, [each.id for each in old], change), {"P7"})
        # Nothing live waits for points outside the plan.
        dead = [read(q, correct=True) for q in ("isolation", "polarity")]
        dead += [read("insulation-ll", 200), read("insulation-le", 200), read("r1+r2", 0.68, "P7")]
        ends = HouseTests(extent=Extent(sampling="ends"))
        self.assertEqual(sheet_of(study_of(BS, SUPPLY, circuit), tuple(dead), house=ends).waits_for, ())
        self.assertTrue(sheet_of(study_of(BS, SUPPLY, circuit), tuple(dead)).waits_for)


class AsItWasFound(unittest.TestCase):
    def test_a_circuit_that_was_there_begins_with_nothing_credited(self) -> None:
        found = usual_circuit(BS, "sockets", found=True)
        self.assertEqual(
            (found.state, found.device.rcd, found.device.breaking_capacity_ka), ("as-found", "unknown", None)
        )
        self.assertEqual(found.device.standard, "bs-en-60898")
        drawn = carry_out(BS, found, (AddPoint(after="board", length_m=None),)).circuit
        self.assertEqual({drawn.points[0].state, drawn.legs[0].state}, {"as-found"})
        rcbo_ = carry_out(BS, drawn, (SetDevice(standard="bs-en-61009"),)).circuit.device
        self.assertEqual(
            (rcbo_.known_rcd.rated_ma, rcbo_.known_rcd.type, rcbo_.breaking_capacity_ka), (None, None, None)
        )
        back = carry_out(
            BS, drawn, (SetDevice(standard="bs-en-61009"), SetDevice(standard="bs-en-60898"))
        ).circuit.device
        self.assertEqual(back.rcd, "unknown")
        said = carry_out(BS, drawn, (SetDevice(rcd="own"),)).circuit.device.known_rcd
        self.assertEqual((said.rated_ma, said.type), (30, None))

    def test_one_press_takes_all_along_and_an_alteration_keeps_what_differs(self) -> None:
        new = run(5, 5)
        found = carry_out(BS, new, (SetCircuit(state="as-found"),)).circuit
        self.assertEqual({each.state for each in (*found.points, *found.legs)}, {"as-found"})
        altered = carry_out(BS, found, (SetCircuit(state="altered"), AddPoint(after="P2", length_m=3))).circuit
        self.assertEqual([each.state for each in altered.points], ["as-found", "as-found", "new"])
        self.assertEqual(
            {each.state for each in carry_out(BS, altered, (SetCircuit(state="new"),)).circuit.points}, {"new"}
        )

    def test_departures_are_told_as_they_are_recorded(self) -> None:
        def coded(**more: Any) -> tuple[str, str]:
            found = Cases().judge(radial("light", csa=1.5, device=mcb(6), **more), PME, False)
            rcd = next(each for each in found.checks if each.id == "rcd")
            return rcd.verdict, rcd.code

        self.assertEqual(coded(), ("fail", ""))
        self.assertEqual(coded(state="as-found"), ("fail", "C3"))
        bath = {"bath_room": True}
        self.assertEqual(coded(state="as-found", surroundings=bath), ("fail", "C2"))
        self.assertEqual(coded(state="as-found", surroundings={**bath, "supplementary_bonding": True}), ("fail", "C3"))
        loop = zs_of(run(None, state="as-found"), read("zs", 2.0, "P1"))
        self.assertEqual((loop.verdict, loop.code), ("fail", "FI"))
        one = radial(*TWIN, device=rcbo(20))
        ways = [{"id": "W1", "circuits": ["C1"]}, {"id": "W2"}]
        board = {"state": "as-found", "groups": [{"id": "G1", "ways": ways}]}
        self.assertEqual(house_check(a_job(one, board=board), "open-ways-B1").code, "C1")


class AsItIsLaid(unittest.TestCase):
    def test_singles_keep_no_method_of_the_flat_cable_they_were(self) -> None:
        flat = run(5, cable=Cable(csa_mm2=2.5), method="C")
        singles = carry_out(BS, flat, (SetCable(type="single-core"),)).circuit
        self.assertEqual(singles.method, "B")
        self.assertEqual(BS.tabulated_capacity_a(singles.cable, singles.method)[0], 24)
        self.assertEqual(carry_out(BS, flat, (SetCable(type="flat-three-core-and-earth"),)).circuit.method, "C")
        ways = {book.id: carry_out(book, flat, (SetCable(csa_mm2=4),)).circuit.method for book in (BS, IEC)}
        self.assertEqual(set(ways.values()), {"C"})

    def test_a_typed_point_is_one_thing(self) -> None:
        (problem,) = parse_run("4m light switch fused").problems
        self.assertIn("say one", problem.reason)
        (entry,) = parse_run("4m light switch").entries
        self.assertEqual((entry.kind, entry.name), ("switch", "light"))


if __name__ == "__main__":
    unittest.main()
