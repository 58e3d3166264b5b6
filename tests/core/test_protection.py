"""What is recommended to protect a circuit: device, curve, breaking capacity, RCD, and what lies around it."""

import unittest
from math import sqrt

from hypothesis import given
from hypothesis import strategies as st

from lumbek.core.choosing.protect import Protection, protect
from lumbek.core.circuit.usual import usual_circuit
from lumbek.core.judging.check import Verdict
from lumbek.core.model.ahead import Ahead
from lumbek.core.model.circuit import Circuit, Surroundings
from lumbek.core.model.device import Device
from lumbek.core.model.point import Load, Point
from lumbek.core.model.supply import MainFuse
from lumbek.core.protection.selectivity import selective
from tests.support.houses import BS, IEC, SUPPLY, check, fixed, judged, run, worked_ring
from tests.support.stated import a_device, an_rcd

SWITCH = a_device(standard="switch", curve=None, rating_a=63, breaking_capacity_ka=None, rcd=None)
DRY = Surroundings(concealed_shallow=False)


def advice(found: Protection, begins: str) -> str:
    return next((each.why for each in found.advice if each.what.startswith(begins)), "")


def of(circuit: Circuit, school: str = "rcbo-each", supply=SUPPLY, book=BS) -> Protection:
    return protect(book, supply, circuit, school)


class Rating(unittest.TestCase):
    def test_the_least_listed_rating_that_carries_the_load(self) -> None:
        for watts, rating in ((1000, 16), (3680, 16), (3681, 20), (7000, 32), (9500, 45), (11000, 50)):
            found = of(fixed(5, watts, 6, 10, kind="fixed-appliance"))
            self.assertEqual(found.design.device.rating_a, rating, watts)

    def test_a_ring_keeps_its_own(self) -> None:
        light = worked_ring({"P1": 3})
        self.assertEqual(of(light).design.device.rating_a, 32)
        self.assertEqual(advice(of(light), "32 A"), "A ring final circuit")

    def test_without_a_load_it_stays_or_is_the_kinds_usual_one_behind_a_switch(self) -> None:
        self.assertEqual(of(run(5, device=a_device(rating_a=20))).design.device.rating_a, 20)
        behind = run(5, kind="outdoor", device=SWITCH)
        self.assertEqual(of(behind).design.device.rating_a, BS.kinds["outdoor"].usual[0].rating_a)

    @given(st.floats(50, 14000))
    def test_what_is_recommended_carries_its_load(self, watts) -> None:
        found = of(fixed(2, watts, 6, 16, kind="fixed-appliance"))
        self.assertEqual(check(judged(found.design), "load").verdict, Verdict.PASS)


class Recommended(unittest.TestCase):
    def test_the_curve_is_the_kinds(self) -> None:
        for kind, curve in (("sockets", "B"), ("outdoor", "C"), ("three-phase", "C"), ("shower", "B")):
            self.assertEqual(of(usual_circuit(BS, kind)).design.device.curve, curve)
        self.assertIn("starting current", advice(of(usual_circuit(BS, "three-phase")), "Type C"))

    def test_it_breaks_what_there_is_to_break(self) -> None:
        for fault_ka, capacity in ((None, 6), (1.1, 6), (6.0, 6), (6.01, 10)):
            supply = SUPPLY.model_copy(update={"fault_current_ka": fault_ka})
            self.assertEqual(of(run(5), supply=supply).design.device.breaking_capacity_ka, capacity)
        unmeasured = SUPPLY.model_copy(update={"fault_current_ka": None})
        self.assertIn("measure it", advice(of(run(5), supply=unmeasured), "6 kA"))
        beyond = SUPPLY.model_copy(update={"fault_current_ka": 14.0})
        self.assertIn("back-up fuse", advice(of(run(5), supply=beyond), "10 kA"))

    def test_an_rcbo_or_a_breaker_behind_a_shared_rcd_or_none(self) -> None:
        dry_heater = fixed(5, 2000, 16, 2.5, kind="water-heater", surroundings=DRY)
        for circuit, school, standard, rcd in (
            (run(5), "rcbo-each", "bs-en-61009", an_rcd()),
            (run(5), "shared-rcds", "bs-en-60898", an_rcd(shared=True)),
            (dry_heater, "rcbo-each", "bs-en-60898", None),
            (dry_heater, "shared-rcds", "bs-en-60898", None),
        ):
            device = of(circuit, school).design.device
            self.assertEqual((device.standard, device.rcd), (standard, rcd))
        self.assertEqual(advice(of(dry_heater), "No RCD"), "Nothing here asks for one")

    def test_the_type_follows_what_is_fed_and_is_never_below_a(self) -> None:
        for dc, kind in (("none", "A"), ("pulsed", "A"), ("mixed", "F"), ("smooth-6ma", "A"), ("smooth", "B")):
            point = Point(id="P1", kind="fixed", loads=(Load(name="It", current_a=3, dc=dc),))
            found = of(run(5).model_copy(update={"points": (point,)}))
            self.assertEqual(found.design.device.rcd.type, kind, dc)
            if dc != "none":
                self.assertIn("Asked for by It", advice(found, "RCD type"))

    def test_what_is_settled_already_is_said_to_be(self) -> None:
        found = of(worked_ring())
        self.assertTrue(all(each.has for each in found.advice))
        bare = of(worked_ring().model_copy(update={"device": a_device(standard="bs-en-60898", curve="C", rcd=None)}))
        open_points = [each.what for each in bare.advice if not each.has]
        self.assertEqual(open_points, ["Type B", "30 mA, in the device itself", "RCD type A"])

    def test_every_piece_of_advice_has_its_clause(self) -> None:
        for book in (BS, IEC):
            for kind in book.kinds:
                for each in of(usual_circuit(book, kind), book=book).advice:
                    self.assertTrue(each.why and each.clause, each.what)


class Around(unittest.TestCase):
    def test_arc_detection_where_it_must_be(self) -> None:
        risk = SUPPLY.model_copy(update={"higher_risk": True})
        for supply, book, fitted, words in (
            (SUPPLY, BS, False, "recommended"),
            (risk, BS, True, "required"),
            (risk, IEC, False, "recommended"),
        ):
            found = of(run(5), supply=supply, book=book)
            self.assertEqual(found.design.device.afdd, fitted)
            self.assertTrue(advice(found, f"Arc-fault detection {words}"))
        self.assertEqual(advice(of(fixed(5, 2000, 16, 2.5)), "Arc-fault"), "")

    def test_surges(self) -> None:
        for state, words in (("fitted", "Fitted"), ("declined", "Declined"), ("unknown", "ask")):
            supply = SUPPLY.model_copy(update={"surge_protection": state})
            self.assertIn(words, advice(of(run(5), supply=supply), "Surge protection"))


class Selectivity(unittest.TestCase):
    def ahead(self, **device: object) -> Device:
        return Device.model_validate({"rating_a": 63, "rcd": None, **device})

    def test_breakers_part_by_the_magnetic_release_of_the_one_ahead(self) -> None:
        own = a_device(rating_a=32, rcd=None, standard="bs-en-60898")
        # A type B breaker of 63 A stays put up to 3 In = 189 A, type C up to 5 In = 315 A, type D up to 10 In.
        for curve, fault_ka, verdict in (
            ("B", 0.189, Verdict.PASS),
            ("B", 0.1891, Verdict.CANNOT_TELL),
            ("C", 0.315, Verdict.PASS),
            ("C", 0.316, Verdict.CANNOT_TELL),
            ("D", 0.63, Verdict.PASS),
            ("D", 0.64, Verdict.CANNOT_TELL),
            ("D", None, Verdict.CANNOT_TELL),
        ):
            ahead = self.ahead(standard="bs-en-60898", rating_a=63, curve=curve)
            self.assertEqual(selective(BS, ahead, own, fault_ka).verdict, verdict, (curve, fault_ka))

    def test_a_breaker_that_is_sure_to_go_first_fails_whatever_the_ratio_of_ratings(self) -> None:
        for rating, verdict in ((32, Verdict.FAIL), (40, Verdict.CANNOT_TELL)):
            ahead = self.ahead(standard="bs-en-60898", rating_a=rating)
            own = a_device(rating_a=32, rcd=None, standard="bs-en-60898")
            self.assertEqual(selective(BS, ahead, own, 1.0).verdict, verdict)
        slow = a_device(rating_a=20, curve="D", rcd=None, standard="bs-en-60898")
        quick = self.ahead(standard="bs-en-60898", rating_a=40)
        # Type B of 40 A surely trips at 200 A, where type D of 20 A only begins to.
        self.assertEqual(selective(BS, quick, slow, 1.0).verdict, Verdict.FAIL)

    def test_a_fuse_ahead_holds_by_what_melts_it(self) -> None:
        own = a_device(rating_a=16, rcd=None, standard="bs-en-60898", let_through_a2s=9000)
        for rating, verdict in ((63, Verdict.PASS), (50, Verdict.FAIL)):
            fuse = self.ahead(standard="bs88-3", curve=None, rating_a=rating)
            self.assertEqual(selective(BS, fuse, own, 3.0).verdict, verdict, rating)
        bound = a_device(rating_a=16, rcd=None, standard="bs-en-60898")
        fuse = self.ahead(standard="bs88-2", curve=None, rating_a=80)
        # A class figure is a bound: below what melts the fuse it passes, above it decides nothing.
        self.assertEqual(selective(BS, fuse, bound, 3.0).verdict, Verdict.PASS)
        beyond = selective(BS, fuse, bound, 6.0)
        self.assertEqual(beyond.verdict, Verdict.CANNOT_TELL)
        self.assertAlmostEqual(beyond.up_to_ka, sqrt(16000 / 0.01) / 1000)
        self.assertEqual(selective(BS, fuse, bound, None).verdict, Verdict.CANNOT_TELL)
        old = self.ahead(standard="bs1361", curve=None, rating_a=80)
        self.assertEqual(selective(BS, old, bound, 1.0).verdict, Verdict.CANNOT_TELL)

    def test_two_fuses_part_at_a_ratio(self) -> None:
        own = a_device(standard="bs88-3", curve=None, rating_a=50, rcd=None)
        for rating, verdict in ((80, Verdict.PASS), (79, Verdict.FAIL)):
            ahead = self.ahead(standard="bs88-3", curve=None, rating_a=rating)
            self.assertEqual(selective(BS, ahead, own, 1.0).verdict, verdict)

    def test_rcds_in_series(self) -> None:
        for rated, delayed, fits in ((100, True, True), (90, True, True), (89, True, False), (300, False, False)):
            ahead = self.ahead(rcd=an_rcd(rated_ma=rated, delayed=delayed).model_dump())
            found = selective(BS, ahead, a_device(), 0.1)
            self.assertEqual(found.verdict is Verdict.PASS, fits, (rated, delayed))
            self.assertTrue(fits or "time-delayed" in found.why)

    def test_a_switch_ahead_takes_nothing_with_it(self) -> None:
        self.assertEqual(selective(BS, SWITCH, a_device(), 1.0).verdict, Verdict.PASS)

    def test_it_is_part_of_the_advice(self) -> None:
        fast = Ahead(name="Main", device=self.ahead(rcd=an_rcd(rated_ma=30).model_dump()))
        found = of(run(5, ahead=(fast,)))
        self.assertIn("Main ahead is not selective", [each.what for each in found.advice])

    def test_the_supply_fuse_counts_and_the_device_recommended_not_the_one_drawn(self) -> None:
        small = SUPPLY.model_copy(update={"main_fuse": MainFuse(standard="bs88-3", rating_a=60)})
        drawn_at_50 = fixed(5, 6000, 50, 10, kind="fixed-appliance")
        # The 60 A fuse is taken as the 50 A one, whose 5000 A²s melt it: 0.5 kA for a half-cycle are 2500.
        weak = small.model_copy(update={"fault_current_ka": 0.5, "ze_ohm": 0.46})
        self.assertIn("2500 A²s", advice(of(drawn_at_50, supply=weak), "Supply fuse ahead is selective"))
        self.assertIn("0.71 kA", advice(of(drawn_at_50, supply=small), "Supply fuse ahead is selective in part"))
        heavy = fixed(5, 14500, 63, 16, kind="fixed-appliance")
        self.assertIn("an overload", advice(of(heavy, supply=small), "Supply fuse ahead is not selective"))
        unknown = SUPPLY.model_copy(update={"main_fuse": MainFuse()})
        self.assertEqual(advice(of(run(5), supply=unknown), "Supply fuse"), "")
