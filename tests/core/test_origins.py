"""What stands ahead of a circuit, what is only known within a range, and what its cable is made of."""

import unittest
from math import log

from lumbek.core.judging.check import Verdict
from lumbek.core.judging.judgement import judge_studied
from lumbek.core.model.ahead import Ahead, OwnEarth
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Segment
from lumbek.core.model.point import Load, Point
from lumbek.core.model.supply import MainFuse
from lumbek.core.sizing.diversity import diversified_a
from lumbek.core.study.door import study_of
from lumbek.core.study.read import Read
from tests.support.houses import BS, IEC, SUPPLY, check, fixed, judged, leg, read, run, with_spur, worked_ring
from tests.support.stated import a_circuit, a_device, an_rcd

SWITCH = a_device(standard="switch", curve=None, rating_a=100, breaking_capacity_ka=None, rcd=an_rcd(shared=True))
OWN = "resistance of its own electrode, measured"
SWA = Cable(type="armoured", insulation="xlpe90", csa_mm2=2.5)


class WhatIsAhead(unittest.TestCase):
    def test_10_a_switch_protects_nothing(self) -> None:
        behind = SUPPLY.model_copy(update={"main_fuse": MainFuse(standard="bs88-3", rating_a=100)})
        result = judged(run(20, device=SWITCH), behind)
        cable, zs = check(result, "cable"), check(result, "zs")
        self.assertEqual((cable.verdict, cable.limit), (Verdict.FAIL, 100))
        self.assertEqual(cable.clause.ref, BS.clause("switch-ahead").ref)
        self.assertEqual((zs.limit, zs.verdict), (0.38, Verdict.FAIL))

    def test_a_switch_fuse_ahead_takes_over(self) -> None:
        fuse = a_device(standard="bs88-2", curve=None, rating_a=20, breaking_capacity_ka=80, rcd=None)
        result = judged(run(5, device=SWITCH, ahead=(Ahead(name="Switch-fuse", device=fuse),)))
        self.assertEqual([check(result, key).limit for key in ("cable", "zs")], [20, 1.68])

    def test_unknown_main_fuse_behind_a_switch_cannot_tell(self) -> None:
        unknown = SUPPLY.model_copy(update={"main_fuse": MainFuse()})
        result = judged(run(5, device=SWITCH), unknown)
        self.assertEqual(result.verdict, Verdict.CANNOT_TELL)
        self.assertEqual(check(result, "cable").missing, ("main fuse of the supply",))

    def test_a_feed_adds_its_loop_and_its_drop(self) -> None:
        feed = Ahead(name="To the studio", feed=Cable(csa_mm2=10), length_m=20, current_a=40)
        alone, fed = judged(run(5)), judged(run(5, ahead=(feed,)))
        loop = 20 * (1.83 + 4.61) / 1000 * 1.20
        self.assertAlmostEqual(check(fed, "zs").value - check(alone, "zs").value, loop)
        drop = 100 * 4.4 * 40 * 20 / 1000 / 230
        self.assertAlmostEqual(check(fed, "volt-drop").value - check(alone, "volt-drop").value, drop)

    def test_an_electrode_of_its_own_makes_it_tt(self) -> None:
        own = OwnEarth(electrode_ohm=80, electrode_origin="measured")
        shed = fixed(20, 2000, 16, 2.5, kind="outdoor", own_earth=own)
        zs = check(judged(shed), "zs")
        self.assertEqual((zs.verdict, zs.clause.ref), ("pass", BS.clause("zs-tt").ref))
        blank = shed.model_copy(update={"own_earth": OwnEarth()})
        self.assertEqual(check(judged(blank), "zs").missing, (OWN,))
        # That of the house was measured; it is not where this circuit's earth begins.
        house = check(judged(shed.model_copy(update={"own_earth": None}), SUPPLY), "zs")
        self.assertEqual(house.verdict, "pass")

    def test_an_electrode_of_its_own_clears_only_as_measured(self) -> None:
        read_all = Read.of([read("r1+r2", 0.2, "P1")])
        for origin, ohm, verdict, missing in (
            ("measured", 80, "pass", ()),
            ("declared", 80, "cannot-tell", (OWN,)),
            (None, 80, "cannot-tell", (OWN,)),
            # One that is too high is so whoever says it.
            (None, 1700, "fail", ()),
            ("declared", 1700, "fail", ()),
        ):
            own = OwnEarth(electrode_ohm=ohm, electrode_origin=origin)
            drawn, unknown = (fixed(length, 2000, 16, 2.5, kind="outdoor", own_earth=own) for length in (20, None))
            for circuit, been in ((drawn, Read()), (unknown, read_all)):
                with self.subTest(origin=origin, ohm=ohm, by_readings=been is read_all):
                    zs = check(judge_studied(study_of(BS, SUPPLY, circuit, read=been)), "zs")
                    self.assertEqual((zs.verdict, zs.missing), (verdict, missing))

    def test_an_electrode_that_was_not_measured_says_nothing_of_the_circuits_part_of_zs(self) -> None:
        for origin, told in (("measured", True), ("declared", False), (None, False)):
            own = OwnEarth(electrode_ohm=80, electrode_origin=origin)
            circuit = fixed(20, 2000, 16, 2.5, kind="outdoor", own_earth=own)
            evidence = study_of(BS, SUPPLY, circuit, read=Read.of([read("zs", 95, "P1")])).longest.evidence
            self.assertEqual(evidence.loop_of_zs(95) is not None, told)


class Cables(unittest.TestCase):
    def test_9_armour_as_cpc(self) -> None:
        result = judged(fixed(28, 2300, 16, 2.5, kind="outdoor", cable=SWA.model_copy(update={"cpc_by": "armour"})))
        # Armour at 80 °C: 28 x (7.41 x 1.28 + 8.2 x 1.27) mΩ.
        self.assertAlmostEqual(result.points[0].zs_ohm - 0.21, 0.557, delta=0.0025)

    def test_armour_that_is_not_listed_and_conduit_ask_their_maker(self) -> None:
        thick = fixed(
            28, 2300, 16, 25, kind="outdoor", cable=SWA.model_copy(update={"cpc_by": "armour", "csa_mm2": 25})
        )
        self.assertIn("maker", check(judged(thick), "zs").missing[0])
        pipe = Cable(type="single-core", cpc_by="conduit")
        self.assertIn("conduit", check(judged(run(5, cable=pipe, method="B")), "zs").missing[0])
        known = pipe.model_copy(update={"conduit_milliohm_per_m": 2.0})
        self.assertAlmostEqual(judged(run(10, cable=known, method="B")).points[0].r2_ohm, 0.020)
        with self.assertRaises(ValueError):
            Cable(cpc_by="armour")

    def test_13_a_fuse_before_075_flex_fails_and_3_a_passes(self) -> None:
        for fuse, verdict in ((13, "fail"), (3, "pass")):
            ring = with_spur(run(5, 5, back=5), "P1", "F1", 1, kind="fused-spur", fuse_a=fuse)
            ring = with_spur(ring, "F1", "Q1", 2, kind="fixed")
            flex = Cable(type="flex", csa_mm2=0.75)
            last = ring.legs[-1].model_copy(update={"cable": flex, "segments": (Segment(length_m=2, method="flex"),)})
            cable = check(judged(ring.model_copy(update={"legs": (*ring.legs[:-1], last)})), "cable")
            self.assertEqual(cable.verdict, verdict)
            if verdict == "fail":
                self.assertEqual((cable.value, cable.place.id), (6, last.id))

    def test_three_phases(self) -> None:
        load = fixed(30, 9000, 16, 2.5, kind="three-phase", cable=Cable(type="multicore", csa_mm2=2.5))
        result = judged(load)
        self.assertAlmostEqual(result.ib_a, 9000 / 690)
        self.assertAlmostEqual(check(result, "volt-drop").value, 100 * 15 * (9000 / 690) * 30 / 1000 / 400)
        self.assertEqual(check(result, "cable").value, 24)


class Ranges(unittest.TestCase):
    def ranged(self, low: float, high: float, **more) -> Circuit:
        circuit = run(5, 5, **more)
        last = circuit.legs[1].model_copy(update={"segments": (Segment(length_m=low, length_to_m=high),)})
        return circuit.model_copy(update={"legs": (circuit.legs[0], last)})

    def test_holds_over_the_whole_range_or_cannot_tell(self) -> None:
        radial = {"device": a_device(rating_a=20)}
        short = judged(self.ranged(5, 20, **radial))
        self.assertEqual(check(short, "volt-drop").verdict, "pass")
        self.assertEqual(short.assumptions, ("P1 to P2: 5 to 20 m",))
        open_ended = check(judged(self.ranged(5, 60, **radial)), "volt-drop")
        self.assertEqual(open_ended.verdict, "cannot-tell")
        self.assertIn("Depends on lengths", open_ended.answer)
        self.assertEqual(check(judged(self.ranged(50, 60, **radial)), "volt-drop").verdict, "fail")

    def test_length_from_a_measured_r1(self) -> None:
        circuit = run(5, None)
        known = circuit.legs[1].model_copy(update={"measured_r1_ohm": 0.0741})
        result = judged(circuit.model_copy(update={"legs": (circuit.legs[0], known)}))
        self.assertAlmostEqual(result.legs[1].length_m, 10)
        self.assertIn("10.0 m from r1", result.assumptions[0])

    def test_backwards_range_is_refused(self) -> None:
        with self.assertRaises(ValueError):
            Segment(length_m=9, length_to_m=3)


class Residual(unittest.TestCase):
    def with_load(self, **load: object) -> Circuit:
        appliance = Load(name="It", power_w=1000, **load)
        return a_circuit(points=(Point(id="P1", loads=(appliance,)),), legs=(leg("L1", "board", "P1", 5),))

    def test_type_follows_the_dc_part(self) -> None:
        for dc, verdict in (
            ("none", "pass"),
            ("pulsed", "pass"),
            ("mixed", "pass"),
            ("smooth-6ma", "pass"),
            ("smooth", "fail"),
        ):
            self.assertEqual(check(judged(self.with_load(dc=dc)), "rcd-type").verdict, verdict, dc)

    def test_leakage_adds_up_to_a_third(self) -> None:
        self.assertEqual(check(judged(self.with_load(leakage_ma=9)), "leakage").verdict, "pass")
        self.assertEqual(check(judged(self.with_load(leakage_ma=9.1)), "leakage").verdict, "fail")

    def test_arc_detection_in_homes_of_higher_risk(self) -> None:
        risk = SUPPLY.model_copy(update={"higher_risk": True})
        self.assertEqual(check(judged(run(5), risk), "arc-fault").verdict, "fail")
        self.assertEqual(check(judged(run(5, device=a_device(afdd=True)), risk), "arc-fault").verdict, "pass")
        self.assertEqual(check(judged(run(5)), "arc-fault").verdict, "not-applicable")


class BathRooms(unittest.TestCase):
    def test_what_may_sit_where(self) -> None:
        for kind, zone, verdict in (
            ("socket-twin", "2", "fail"),
            ("socket-single", "outside", "cannot-tell"),
            ("switch", "2", "fail"),
            ("cord-switch", "2", "fail"),
            ("light", "1", "cannot-tell"),
            ("light", "0", "fail"),
            ("light", None, "not-applicable"),
        ):
            circuit = run(5).model_copy(update={"points": (Point(id="P1", kind=kind, zone=zone),)})
            self.assertEqual(check(judged(circuit), "bath").verdict, verdict, (kind, zone))
        outside = run(5).model_copy(update={"points": (Point(id="P1", zone="outside", from_zone_1_m=2.49),)})
        self.assertIn("2.5 m", check(judged(outside), "bath").answer)


class Withstand(unittest.TestCase):
    def test_the_class_at_the_fault_current_or_a_half_cycle_and_a_bound_never_fails(self) -> None:
        for fault_ka, energy, verdict in (
            (1.1, 1100**2 * 0.01, "pass"),
            (1.4, 18000, "pass"),
            (3.0, 18000, "pass"),
            (3.01, 45000, "cannot-tell"),
            (6.0, 45000, "cannot-tell"),
        ):
            supply = SUPPLY.model_copy(update={"fault_current_ka": fault_ka})
            found = check(judged(worked_ring(), supply), "withstand")
            self.assertEqual(found.verdict, verdict, fault_ka)
            if verdict == "pass":
                self.assertAlmostEqual(found.limit, energy**0.5 / 115)
        ten = a_device(breaking_capacity_ka=10)
        thick = run(5, cable=Cable(csa_mm2=6, cpc_mm2=4), device=ten)
        found = check(judged(thick, SUPPLY.model_copy(update={"fault_current_ka": 9})), "withstand")
        self.assertAlmostEqual(found.limit, 90000**0.5 / 115)

    def test_beyond_the_table_the_bound_passes_or_cannot_tell(self) -> None:
        self.assertEqual(check(judged(fixed(14, 9500, 45, 10)), "withstand").verdict, "pass")
        thin = Cable(csa_mm2=10, cpc_mm2=0.75)
        self.assertEqual(check(judged(fixed(14, 9500, 45, 10, cable=thin)), "withstand").verdict, "cannot-tell")

    def test_fuse_by_its_trip_current(self) -> None:
        fuse = a_device(standard="bs3036", curve=None, rating_a=30, breaking_capacity_ka=2, rcd=an_rcd(shared=True))
        found = check(judged(run(5, 5, back=5, device=fuse)), "withstand")
        self.assertAlmostEqual(found.limit, (230 * 0.95 / 1.04) * 0.4**0.5 / 115)

    def test_fuse_by_its_curve_where_the_fault_is_slow(self) -> None:
        """Between its two currents: straight on double logarithmic paper, so t = 5 (0.4 / 5)^part."""
        fuse = a_device(standard="bs3036", curve=None, rating_a=30, breaking_capacity_ka=2, rcd=an_rcd(shared=True))
        supply = SUPPLY.model_copy(update={"earthing": "TN-S", "ze_ohm": 0.7})
        found = check(judged(run(40, device=fuse), supply), "withstand")
        quick, slow = 230 * 0.95 / 1.04, 230 * 0.95 / 2.51
        current = 230 / (0.7 + 40 * 19.51e-3 * 1.2)
        self.assertTrue(slow < current < quick)
        seconds = 5 * (0.4 / 5) ** (log(current / slow) / log(quick / slow))
        self.assertAlmostEqual(found.limit, current * seconds**0.5 / 115)


class Loads(unittest.TestCase):
    def test_diversity(self) -> None:
        rules = BS.data.diversity
        for name, loads, together in (
            ("cooker", [45.65], 10 + 0.3 * 35.65),
            ("instantaneous", [40, 40, 20], 85),
            ("fixed-heating", [30], 20),
            ("sockets", [32, 32, 20], 32 + 0.4 * 52),
            ("lighting", [10], 6.6),
            ("thermostatic", [13, 13], 26),
        ):
            self.assertAlmostEqual(diversified_a(rules[name], loads), together)

    def test_every_appliance_and_guidance_is_there_in_both(self) -> None:
        self.assertEqual(set(BS.appliances), set(IEC.appliances))
        self.assertTrue(all((each.power_w is None) != (each.current_a is None) for each in BS.appliances.values()))
        self.assertEqual(len(BS.data.guidance), len(IEC.data.guidance))
