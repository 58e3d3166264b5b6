"""The feeds and devices between the origin and a circuit: each judged by what stands ahead of it."""

import unittest
from math import hypot, sqrt

from hypothesis import given
from hypothesis import strategies as st

from lumbek.core.judging.check import Verdict
from lumbek.core.judging.judgement import judge_studied
from lumbek.core.model.ahead import Ahead, OwnEarth
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.supply import MainFuse, Supply
from lumbek.core.study.door import study_of
from lumbek.core.study.read import Read
from tests.support.houses import BS, IEC, SUPPLY, check, judged, read, run, study
from tests.support.stated import a_device, an_rcd

ARMOURED = Cable(type="armoured", insulation="xlpe90", csa_mm2=10, cpc_by="core")
MCB_40 = Ahead(name="Way 9", device=a_device(standard="bs-en-60898", curve="C", rating_a=40, rcd=None))


def feed(csa_mm2: float = 10, length_m: float = 24, **more: object) -> Ahead:
    more = {"method": "C", "current_a": 30, **more}
    cable = ARMOURED.model_copy(update={"csa_mm2": csa_mm2})
    return Ahead(name="To the shed", feed=cable, length_m=length_m, **more)


def fed(*ahead: Ahead, **more: object) -> Circuit:
    return run(6, 4, ahead=ahead, device=a_device(rating_a=20), **more)


class Capacity(unittest.TestCase):
    def test_nothing_ahead_is_nothing_to_judge(self) -> None:
        for key in ("feed", "feed-zs"):
            self.assertEqual(check(judged(fed()), key).verdict, Verdict.NOT_APPLICABLE)

    def test_by_the_device_ahead_of_it(self) -> None:
        found = check(judged(fed(MCB_40, feed())), "feed")
        # Its terminals are taken as fit for 70 °C.
        it, _ = BS.tabulated_capacity_a(ARMOURED.model_copy(update={"insulation": "pvc70"}), "C")
        self.assertEqual((found.verdict, found.value, found.limit), (Verdict.PASS, it, 40))
        self.assertIn("MCB type C, 40 A", found.answer)

    def test_by_the_main_fuse_where_nothing_else_stands_there(self) -> None:
        thin = check(judged(fed(feed(csa_mm2=6))), "feed")
        self.assertEqual((thin.verdict, thin.limit), (Verdict.FAIL, 80))
        unknown = SUPPLY.model_copy(update={"main_fuse": MainFuse()})
        self.assertEqual(check(judged(fed(feed()), unknown), "feed").missing, ("main fuse of the supply",))

    def test_a_switch_ahead_protects_no_feed(self) -> None:
        switch = Ahead(device=a_device(standard="switch", curve=None, rating_a=32, breaking_capacity_ka=None, rcd=None))
        self.assertEqual(check(judged(fed(switch, feed(csa_mm2=6))), "feed").limit, 80)

    def test_the_device_of_one_feed_is_not_that_of_the_next(self) -> None:
        found = check(judged(fed(MCB_40, feed(csa_mm2=2.5), feed(csa_mm2=10))), "feed")
        self.assertEqual((found.verdict, found.limit), (Verdict.FAIL, 40))
        smaller = Ahead(device=a_device(standard="bs-en-60898", rating_a=20, rcd=None))
        two = check(judged(fed(MCB_40, feed(csa_mm2=10), smaller, feed(csa_mm2=2.5, current_a=20))), "feed")
        self.assertEqual(two.verdict, Verdict.PASS)

    def test_more_than_the_device_carries_fails_whatever_the_cable(self) -> None:
        found = check(judged(fed(MCB_40, feed(csa_mm2=16, current_a=44))), "feed")
        self.assertEqual((found.verdict, found.value, found.limit, found.sense), (Verdict.FAIL, 44, 40, "at most"))
        # It is the worst of two feeds, though the other's cable has little to spare.
        smaller = Ahead(device=a_device(standard="bs-en-60898", rating_a=20, rcd=None))
        both = check(
            judged(fed(MCB_40, feed(csa_mm2=16, current_a=44), smaller, feed(csa_mm2=2.5, current_a=20))), "feed"
        )
        self.assertEqual((both.verdict, both.value, both.limit), (Verdict.FAIL, 44, 40))

    def test_without_a_current_of_its_own_the_circuits_is_taken_aloud(self) -> None:
        found = check(judged(fed(MCB_40, feed(current_a=None))), "feed")
        self.assertEqual(found.verdict, Verdict.PASS)
        self.assertIn("only this circuit's current", found.caution)

    def test_sizes_and_methods_that_are_not_listed_are_asked_for(self) -> None:
        for odd, words in ((feed(csa_mm2=7), "7 mm²"), (feed(method="101"), "no rating by method 101")):
            found = check(judged(fed(MCB_40, odd)), "feed")
            self.assertEqual(found.verdict, Verdict.CANNOT_TELL)
            self.assertIn(words, found.missing[0])


class Loop(unittest.TestCase):
    def test_what_is_assumed_of_the_supply_is_said_without_the_feed(self) -> None:
        supply = SUPPLY.model_copy(update={"ze_ohm": None})
        said = "Ze is not measured: 0.35 Ω assumed for TN-C-S."
        drawn = check(judged(fed(MCB_40, feed()), supply), "zs")
        unknown = run(None, None, ahead=(MCB_40, feed()), device=a_device(rating_a=20))
        proved = Read.of(read(quantity, 0.1, each) for quantity in ("r1+r2", "r1+rn") for each in ("P1", "P2"))
        by_readings = check(judge_studied(study_of(BS, supply, unknown, read=proved)), "zs")
        for found in (drawn, by_readings):
            self.assertEqual(found.verdict, Verdict.PASS)
            self.assertIn(said, found.caution)
            self.assertIn("0.350 + 0.112 = 0.462 Ω", [step.sum for step in found.steps])
        # A feed stands on it as well, though the circuit behind has an electrode of its own.
        own = OwnEarth(electrode_ohm=90)
        for circuit in (fed(MCB_40, feed()), fed(MCB_40, feed(), own_earth=own)):
            self.assertEqual(check(judged(circuit, supply), "feed-zs").caution, said)
        self.assertNotIn(said, check(judged(fed(MCB_40, feed(), own_earth=own), supply), "zs").caution)

    def test_zs_at_the_end_of_a_feed_has_five_seconds(self) -> None:
        fuse = Ahead(device=a_device(standard="bs88-3", curve=None, rating_a=32, breaking_capacity_ka=31.5, rcd=None))
        found = check(judged(fed(fuse, feed())), "feed-zs")
        self.assertAlmostEqual(found.value, 0.21 + 24 * 2 * 1.83 * 1.28 / 1000)
        self.assertEqual(found.limit, BS.published_zs_ohm(fuse.device, 5))
        self.assertGreater(found.limit, BS.published_zs_ohm(fuse.device, 0.4))

    def test_too_long_a_feed_fails_by_itself(self) -> None:
        self.assertEqual(check(judged(fed(MCB_40, feed(length_m=200))), "feed-zs").verdict, Verdict.FAIL)

    def test_the_circuit_starts_from_where_the_feed_ends(self) -> None:
        result = judged(fed(MCB_40, feed()))
        at_board = check(result, "feed-zs").value
        cold = study(fed(MCB_40, feed())).wires.cold.joined_ohm
        self.assertAlmostEqual(check(result, "zs").value, at_board + max(cold.values()) * 1.20)

    def test_its_own_electrode_parts_the_circuit_from_the_feeds_earth(self) -> None:
        result = judged(fed(MCB_40, feed(), own_earth=OwnEarth(electrode_ohm=90, electrode_origin="measured")))
        # Whatever its cores are for, its armour is metal that is touched: 4.0 mΩ/m at 80 °C.
        self.assertAlmostEqual(check(result, "feed-zs").value, 0.21 + 24 * (1.83 * 1.28 + 4.0 * 1.27) / 1000)
        self.assertGreater(check(result, "zs").value, 90)

    def test_on_tt_an_rcd_must_stand_ahead_of_the_feed(self) -> None:
        tt = SUPPLY.model_copy(update={"earthing": "TT", "ze_ohm": 60.0})
        unsaid = Ahead(device=a_device(standard="bs-en-60898", curve="C", rating_a=40, rcd="unknown"))
        twin, conduit = {"cable": Cable(csa_mm2=10)}, {"cable": Cable(type="single-core", csa_mm2=10, cpc_by="conduit")}
        for ahead, other, verdict in (
            (MCB_40, {}, Verdict.FAIL),
            (MCB_40, {"length_m": None}, Verdict.FAIL),
            (unsaid, {}, Verdict.CANNOT_TELL),
            # Sheathed and without metal it may be as good as class II as far as the RCD at its end.
            (MCB_40, twin, Verdict.CANNOT_TELL),
            (MCB_40, conduit, Verdict.FAIL),
        ):
            cable = feed().model_copy(update={"feed": other["cable"]} if "cable" in other else other)
            found = check(judged(fed(ahead, cable), tt), "feed-zs")
            self.assertEqual(found.verdict, verdict, (found.answer, other))
            if verdict is Verdict.CANNOT_TELL:
                self.assertIn("RCD ahead of it", found.missing[0])
        self.assertNotEqual(check(judged(fed(MCB_40, feed())), "feed-zs").verdict, Verdict.FAIL)
        delayed = Ahead(device=a_device(rating_a=40, curve="C", rcd=an_rcd(rated_ma=300, delayed=True)))
        # Behind one whose armour is not listed the electrode is not what is missing.
        unlisted = feed().model_copy(
            update={"feed": ARMOURED.model_copy(update={"cpc_by": "armour", "cores": 5, "csa_mm2": 4})}
        )
        for length, words in ((24.0, "To the shed: cable as listed"), (None, "length of To the shed")):
            circuit = fed(delayed, unlisted.model_copy(update={"length_m": length}))
            self.assertEqual(check(judged(circuit, tt), "zs").missing, (words,))
        # An electrode that nobody has measured clears no feed, as it clears no circuit; one that is too high fails.
        found = check(judged(fed(delayed, feed()), tt), "feed-zs")
        self.assertEqual(
            (found.verdict, found.missing), (Verdict.CANNOT_TELL, ("resistance of the electrode, measured",))
        )
        high = tt.model_copy(update={"ze_ohm": 180.0})
        self.assertEqual(check(judged(fed(delayed, feed()), high), "feed-zs").verdict, Verdict.FAIL)
        measured = tt.model_copy(update={"ze_origin": "measured"})
        found = check(judged(fed(delayed, feed()), measured), "feed-zs")
        self.assertEqual(found.verdict, Verdict.PASS)
        self.assertAlmostEqual(found.limit, 50 / 0.3)
        # Of two in a row the one before the feed counts.
        nearer = Ahead(device=a_device(rating_a=40, curve="C", rcd=an_rcd(rated_ma=100, delayed=True)))
        self.assertAlmostEqual(check(judged(fed(delayed, nearer, feed()), measured), "feed-zs").limit, 50 / 0.1)

    def test_what_is_not_known_of_the_supply_is_asked_for(self) -> None:
        self.assertIn("earthing system of the supply", check(judged(fed(feed()), Supply()), "feed-zs").missing)
        bare = Supply(earthing="TN-S", main_fuse=SUPPLY.main_fuse)
        self.assertIn("Ze of the supply", check(judged(fed(MCB_40, feed()), bare, IEC), "feed-zs").missing)


class FaultCurrent(unittest.TestCase):
    def test_a_feed_takes_it_down_but_never_below_the_true_one(self) -> None:
        strong = SUPPLY.model_copy(update={"fault_current_ka": 8.0})
        at_board = study(fed(MCB_40, feed()), strong).ahead.board_fault_current_ka
        source, wire = 230 / 8000, 24 * 2 * 1.83 / 1000
        self.assertAlmostEqual(at_board, 230 / hypot(source, wire) / 1000)
        # If the source were all resistance the current would be the least it can be.
        self.assertGreater(at_board, 230 / (source + wire) / 1000)
        self.assertLess(at_board, 8)

    @given(st.floats(0.5, 16), st.floats(1, 60), st.floats(1, 60))
    def test_a_longer_feed_never_raises_it(self, origin_ka, short, more) -> None:
        # A supply whose Ze says no more than what was read.
        supply = SUPPLY.model_copy(update={"fault_current_ka": origin_ka, "ze_ohm": 0.8})
        origin_ka = max(origin_ka, 230 / 0.8 / 1000)
        near = study(fed(MCB_40, feed(length_m=short)), supply).ahead.board_fault_current_ka
        far = study(fed(MCB_40, feed(length_m=short + more)), supply).ahead.board_fault_current_ka
        self.assertLessEqual(far, near)
        self.assertLessEqual(near, origin_ka + 1e-9)

    def test_between_three_lines_only_one_conductor_counts(self) -> None:
        three = SUPPLY.model_copy(update={"fault_current_ka": 8.0, "phases": 3})
        one = study(fed(feed()), SUPPLY.model_copy(update={"fault_current_ka": 8.0})).ahead.board_fault_current_ka
        self.assertGreater(study(fed(feed()), three).ahead.board_fault_current_ka, one)

    def test_breaking_capacity_is_judged_where_each_device_stands(self) -> None:
        strong = SUPPLY.model_copy(update={"fault_current_ka": 8.0})
        # Six kA will do behind the feed, not for the device that feeds it.
        behind = check(judged(fed(MCB_40, feed()), strong), "breaking")
        self.assertEqual((behind.verdict, behind.value, behind.limit), (Verdict.FAIL, 6, 8))
        ten = MCB_40.model_copy(update={"device": MCB_40.device.model_copy(update={"breaking_capacity_ka": 10})})
        mended = check(judged(fed(ten, feed()), strong), "breaking")
        self.assertEqual(mended.verdict, Verdict.PASS)
        self.assertEqual(len(mended.steps), 3)

    def test_a_device_ahead_of_unknown_capacity_is_asked_for(self) -> None:
        blank = MCB_40.model_copy(update={"device": MCB_40.device.model_copy(update={"breaking_capacity_ka": None})})
        self.assertEqual(check(judged(fed(blank)), "breaking").missing, ("breaking capacity of Way 9",))

    def test_withstand_counts_the_current_that_is_left(self) -> None:
        strong = SUPPLY.model_copy(update={"fault_current_ka": 1.3})
        alone = check(judged(fed(), strong), "withstand")
        behind = check(judged(fed(MCB_40, feed()), strong), "withstand")
        left_ka = study(fed(MCB_40, feed()), strong).ahead.board_fault_current_ka
        self.assertAlmostEqual(alone.limit, sqrt(1300**2 * 0.01) / 115)
        self.assertAlmostEqual(behind.limit, sqrt((1000 * left_ka) ** 2 * 0.01) / 115)


class Shown(unittest.TestCase):
    def test_what_is_needed_is_rounded_up_and_what_is_there_down(self) -> None:
        strong = SUPPLY.model_copy(update={"fault_current_ka": 2.9})
        withstand = check(judged(fed(), strong), "withstand")
        needed = float(withstand.answer.rsplit("needs ", 1)[1].split()[0])
        self.assertTrue(withstand.limit <= needed < withstand.limit + 0.01)
        breaking = check(judged(fed(feed()), strong), "breaking")
        against = float(breaking.answer.split()[-2])
        self.assertTrue(breaking.limit <= against < breaking.limit + 0.01)
        thin = fed(cable=Cable(type="flex", csa_mm2=1.25), method="flex")
        self.assertTrue(check(judged(thin), "withstand").answer.startswith("cpc 1.25 mm²"))


class ArmourInAFault(unittest.TestCase):
    def test_its_area_follows_from_its_resistance(self) -> None:
        cable = Cable(type="armoured", insulation="xlpe90", csa_mm2=2.5, cpc_by="armour")
        found = check(judged(run(20, cable=cable, device=a_device(rating_a=16))), "withstand")
        self.assertAlmostEqual(found.value, 138 / 8.2)
        self.assertAlmostEqual(found.limit, sqrt(1100**2 * 0.01) / 46)
        self.assertEqual(found.verdict, Verdict.PASS)

    def test_conduit_is_judged_by_size_and_gauge_where_nobody_states_its_resistance(self) -> None:
        for conduit, milliohm in (("20-light", 4.7), ("20-heavy", 3.9), ("25-light", 3.7), ("25-heavy", 2.6)):
            pipe = Cable(type="single-core", cpc_by="conduit", conduit=conduit)
            for book in (BS, IEC):
                self.assertEqual(book.milliohm_per_m(pipe, "E"), milliohm)
            read = pipe.model_copy(update={"conduit_milliohm_per_m": 5.5})
            self.assertEqual(BS.milliohm_per_m(read, "E"), 5.5)
            # The conduit of 20 m at a fault beside 2.5 mm² of copper at 70 °C.
            found = judged(run(20, cable=pipe, method="B"))
            self.assertAlmostEqual(found.points[0].zs_ohm, 0.21 + 0.02 * (7.41 * 1.2 + milliohm), delta=1e-3)
            self.assertEqual(check(found, "zs").verdict, Verdict.PASS)

    def test_conduit_is_steel_enough(self) -> None:
        pipe = Cable(type="single-core", cpc_by="conduit", conduit_milliohm_per_m=2)
        found = check(judged(run(5, cable=pipe, method="B")), "withstand")
        self.assertEqual(
            (found.verdict, found.answer),
            (Verdict.NOT_APPLICABLE, "Conduit is the cpc: steel far beyond what is asked"),
        )


class ReturnPath(unittest.TestCase):
    def test_the_better_way_back_counts_for_the_fault_current_and_never_the_worse(self) -> None:
        """Of neutral and cpc the thicker lets more flow: the devices behind must break that."""
        thin_cpc = Cable(type="multicore", csa_mm2=10, cpc_mm2=1.5)
        found = study(run(5, ahead=(Ahead(feed=thin_cpc, length_m=20),)))
        each = BS.milliohm_per_m(thin_cpc, "L") / 1000
        self.assertAlmostEqual(found.ahead.feed_fault_ohm, 20 * 2 * each)
