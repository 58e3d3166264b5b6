"""IEC 60364 through the same doors: where it differs from BS 7671 and where it does not."""

import unittest
from importlib.resources import files

from lumbek.core.choosing.propose import propose
from lumbek.core.judging.answers import answer_circuits
from lumbek.core.judging.check import Verdict
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Surroundings
from lumbek.core.model.leg import Segment
from lumbek.core.model.point import Point
from lumbek.core.model.supply import Service, Supply, Tails
from lumbek.core.survey.judgement import judge_supply, needed_bonding_mm2
from lumbek.exchange.job_file import read_job
from tests.support.houses import BS, IEC, SUPPLY, check, fixed, judged, leg, run
from tests.support.stated import a_device, an_rcd

BOATHOUSE = files("lumbek.services") / "demo_data" / "boathouse.json"
MULTI = Cable(type="multicore", csa_mm2=2.5)


class Limits(unittest.TestCase):
    def test_zs_is_u0_over_ia_unrounded(self) -> None:
        for curve, rating, limit in (("B", 16, 2.875), ("B", 32, 1.4375), ("C", 16, 1.4375), ("D", 10, 1.15)):
            zs = check(judged(run(5, cable=MULTI, device=a_device(curve=curve, rating_a=rating)), rulebook=IEC), "zs")
            self.assertAlmostEqual(zs.limit, limit)

    def test_the_same_loop_can_pass_one_book_and_fail_the_other(self) -> None:
        mcb = a_device(standard="bs-en-60898", rating_a=16, rcd=None)
        long = fixed(80, 3000, 16, 2.5, kind="fixed-appliance", device=mcb)
        supply = SUPPLY.model_copy(update={"ze_ohm": 0.9})
        by_bs, by_iec = check(judged(long, supply), "zs"), check(judged(long, supply, IEC), "zs")
        self.assertAlmostEqual(by_bs.value, by_iec.value)
        self.assertEqual((by_bs.verdict, by_iec.verdict), ("fail", "pass"))

    def test_clauses_are_the_books_own(self) -> None:
        for each in judged(run(5, cable=MULTI, device=a_device(rating_a=16)), rulebook=IEC).checks:
            self.assertEqual(each.clause.rulebook, "IEC 60364")

    def test_methods_rate_by_insulation_and_phases(self) -> None:
        for cable, method, phases_kind, iz in (
            (MULTI, "C", "fixed-appliance", 27),
            (MULTI, "B2", "fixed-appliance", 23),
            # On terminals for 70 °C it carries no more.
            (MULTI.model_copy(update={"insulation": "xlpe90"}), "B2", "fixed-appliance", 23),
            (MULTI, "B2", "three-phase", 20),
            (Cable(type="single-core"), "A1", "fixed-appliance", 19.5),
        ):
            found = fixed(10, 3000, 16, 2.5, kind=phases_kind, cable=cable, method=method)
            self.assertEqual(check(judged(found, rulebook=IEC), "cable").value, iz)

    def test_cooler_air_counts_in_this_book_only_as_far_as_its_table(self) -> None:
        def iz(book, ambient: float):
            one = leg("L1", "board", "P1", 5).model_copy(update={"segments": (Segment(length_m=5, ambient_c=ambient),)})
            circuit = run(5, cable=MULTI, device=a_device(rating_a=16)).model_copy(update={"legs": (one,)})
            return check(judged(circuit, rulebook=book), "cable").value

        self.assertAlmostEqual(iz(IEC, 10), 27 * 1.22)
        self.assertAlmostEqual(iz(BS, 10), 27 * 1.03)


class Residual(unittest.TestCase):
    def wants(self, book, kind: str = "", **more: object) -> str:
        bare = a_device(standard="bs-en-60898", rating_a=16, rcd=None)
        circuit = fixed(5, 2000, 16, 2.5, kind="water-heater", device=bare, **more)
        if kind:
            circuit = circuit.model_copy(update={"points": (Point(id="P1", kind=kind),)})
        return check(judged(circuit, rulebook=book), "rcd").verdict

    def test_shallow_cables_ask_for_it_in_one_book(self) -> None:
        self.assertEqual(self.wants(BS), Verdict.FAIL)
        self.assertEqual(self.wants(IEC), Verdict.NOT_APPLICABLE)

    def test_lights_sockets_and_bath_rooms_ask_for_it_in_both(self) -> None:
        for book in (BS, IEC):
            self.assertEqual(self.wants(book, kind="light"), Verdict.FAIL)
            self.assertEqual(self.wants(book, kind="socket-twin"), Verdict.FAIL)
            self.assertEqual(self.wants(book, surroundings=Surroundings(bath_room=True)), Verdict.FAIL)

    def test_every_tt_circuit_asks_for_one_and_fixed_ones_for_no_30_ma(self) -> None:
        tt = SUPPLY.model_copy(update={"earthing": "TT", "ze_ohm": 40.0, "ze_origin": "measured"})
        heater = fixed(5, 2000, 16, 2.5, kind="water-heater", surroundings=Surroundings(concealed_shallow=False))
        self.assertEqual(check(judged(heater, tt, IEC), "zs").verdict, Verdict.PASS)
        bare = heater.model_copy(update={"device": a_device(standard="bs-en-60898", rating_a=16, rcd=None)})
        self.assertEqual(check(judged(bare, tt, IEC), "rcd").verdict, Verdict.NOT_APPLICABLE)
        self.assertEqual(check(judged(bare, tt, IEC), "zs").verdict, Verdict.FAIL)

    def test_an_electrode_too_high_for_the_rcd_fails(self) -> None:
        for ohm, rated, verdict in ((1600, 30, "pass"), (1700, 30, "fail"), (400, 100, "pass"), (600, 100, "fail")):
            tt = SUPPLY.model_copy(update={"earthing": "TT", "ze_ohm": float(ohm), "ze_origin": "measured"})
            circuit = run(5, cable=MULTI, device=a_device(rating_a=16, rcd=an_rcd(rated_ma=rated)))
            self.assertEqual(check(judged(circuit, tt, IEC), "zs").verdict, verdict)


class Intake(unittest.TestCase):
    def test_bonding_by_each_book(self) -> None:
        for book, earthing, conductor, wanted in (
            (BS, "TN-C-S", 16, 10),
            (BS, "TN-S", 16, 10),
            (BS, "TT", 6, 6),
            (IEC, "TN-C-S", 16, 10),
            (IEC, "TN-C-S", 12, 6),
            (IEC, "TN-S", 6, 6),
            (IEC, "TN-S", 95, 25),
        ):
            supply = Supply(earthing=earthing, earthing_conductor_mm2=conductor)
            self.assertEqual(needed_bonding_mm2(book, supply), wanted, (book.id, earthing))

    def test_earthing_conductor_by_table_54_7(self) -> None:
        # What is fitted may be thicker than what is required: the tails decide.
        thick = Supply(earthing="TN-S", earthing_conductor_mm2=35, tails=Tails(csa_mm2=25))
        self.assertEqual(needed_bonding_mm2(BS, thick), 10)
        for tails, wanted in ((10, 10), (16, 16), (25, 16), (35, 16), (50, 25)):
            self.assertEqual(BS.earthing_conductor_mm2(tails), wanted)

    def test_nothing_is_assumed_of_a_supply_that_is_not_declared(self) -> None:
        checks = {each.id: each for each in judge_supply(IEC, Supply(earthing="TN-S")).checks}
        self.assertEqual(checks["ze"].verdict, Verdict.CANNOT_TELL)
        self.assertIn("Nothing may be assumed", checks["ze"].steps[0].text)
        long_tails = SUPPLY.model_copy(update={"tails": SUPPLY.tails.model_copy(update={"length_m": 9})})
        self.assertEqual({e.id: e.verdict for e in judge_supply(IEC, long_tails).checks}["tails"], Verdict.PASS)

    def test_plastic_is_never_bonded(self) -> None:
        for book in (BS, IEC):
            supply = SUPPLY.model_copy(update={"services": (Service(what="gas", material="plastic", bonded="no"),)})
            self.assertEqual({e.id: e.verdict for e in judge_supply(book, supply).checks}["bonding-0"], Verdict.PASS)


class Boathouse(unittest.TestCase):
    def test_the_house_stands_as_it_is_shown(self) -> None:
        job = read_job(BOATHOUSE.read_bytes())
        answers = {answer.name: answer for answer in answer_circuits(job)}
        self.assertEqual(answers["Heat pump"].result.verdict, Verdict.FAIL)
        failing = [c.id for c in answers["Heat pump"].result.checks if c.verdict is Verdict.FAIL]
        self.assertEqual(failing, ["rcd-type"])
        self.assertEqual(
            answers["Shore post on the jetty"].result.assumptions, ("the board to Shore post: 30 to 38 m",)
        )
        self.assertAlmostEqual(answers["Boat hoist"].result.ib_a, 5500 / (690 * 0.82))
        self.assertEqual(answers["Cabin and jetty lights"].tests.verdict, Verdict.PASS)

    def test_its_failure_is_mended_by_another_type(self) -> None:
        job = read_job(BOATHOUSE.read_bytes())
        pump = next(each.design for each in job.circuits if each.design.name == "Heat pump")
        found = propose(IEC, job.supply, pump, "rcbo-each")
        self.assertIn("An RCD of type F", [mend.change for mend in found.mends])
        self.assertEqual(found.protection.design.device.rcd.type, "F")
        self.assertEqual(found.mends[0].leaves, ())
