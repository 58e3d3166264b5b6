"""The checks one by one: where each passes, fails, and cannot tell."""

import unittest

from lumbek.core.judging.check import Verdict, hold, overall
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Surroundings
from lumbek.core.model.leg import Segment
from lumbek.core.model.point import Load, Point
from lumbek.core.model.supply import MainFuse, Supply
from lumbek.core.numbers import ceil_to, floor_to
from tests.support.houses import (
    BS,
    IEC,
    SUPPLY,
    check,
    fixed,
    judged,
    leg,
    run,
    study,
    with_spur,
    worked_ring,
)
from tests.support.stated import a_circuit, a_device, an_rcd

MCB = a_device(standard="bs-en-60898", rcd=None)


class Numbers(unittest.TestCase):
    def test_limits_are_shown_against_the_user(self) -> None:
        self.assertEqual(floor_to(1.37 * 0.8, 2), 1.09)
        self.assertEqual(floor_to(2.875 * 2 / 3, 2), 1.91)
        self.assertEqual(floor_to(0.29, 2), 0.29)
        self.assertEqual(ceil_to(1.001, 2), 1.01)

    def test_judge_by_the_unrounded_value(self) -> None:
        self.assertEqual(hold(1.3701, 1.37, "at most")[0], Verdict.FAIL)
        self.assertEqual(hold(1.37, 1.37, "at most"), (Verdict.PASS, 0.0))
        self.assertEqual(overall([]), Verdict.NOT_APPLICABLE)


class Capacity(unittest.TestCase):
    def iz(self, rulebook=BS, csa: float = 2.5, method: str = "C", **segment: object):
        one = leg("L1", "board", "P1", 5).model_copy(update={"segments": (Segment(length_m=5, **segment),)})
        cable = Cable(csa_mm2=csa)
        circuit = a_circuit(
            points=(Point(id="P1"),), legs=(one,), cable=cable, method=method, device=a_device(rating_a=16)
        )
        return check(judged(circuit, rulebook=rulebook), "cable")

    def test_its_working_shows_what_is_multiplied(self) -> None:
        sums = [step.sum for step in self.iz().steps]
        self.assertIn("Iz = It = 27.0 A", sums)
        sums = [step.sum for step in self.iz(ambient_c=40, grouped_circuits=3).steps]
        self.assertIn("Iz = 27 × 0.87 × 0.7 = 16.4 A", sums)

    def test_factors_multiply(self) -> None:
        self.assertAlmostEqual(self.iz(ambient_c=40, grouped_circuits=3).value, 27 * 0.87 * 0.70)
        self.assertAlmostEqual(self.iz(insulation_mm=100).value, 27 * 0.78)
        self.assertAlmostEqual(self.iz(arrangement="single-layer-under-ceiling").value, 27 * 0.95)

    def test_between_entries_the_worse_one_counts(self) -> None:
        self.assertAlmostEqual(self.iz(ambient_c=36).value, 27 * 0.87)
        self.assertAlmostEqual(self.iz(grouped_circuits=10).value, 27 * 0.45)
        self.assertAlmostEqual(self.iz(insulation_mm=20).value, 27 * 0.88)
        self.assertAlmostEqual(self.iz(insulation_mm=50).value, 27 * 0.88)
        self.assertAlmostEqual(self.iz(insulation_mm=60).value, 27 * 0.78)
        self.assertAlmostEqual(self.iz(insulation_mm=5000).value, 27 * 0.50)

    def test_soil_and_depth(self) -> None:
        ground = Cable(type="armoured", insulation="xlpe90", csa_mm2=4)

        def buried(rulebook, method: str, **segment: object):
            one = leg("L1", "board", "P1", 5).model_copy(update={"segments": (Segment(length_m=5, **segment),)})
            circuit = a_circuit(points=(Point(id="P1"),), legs=(one,), cable=ground, method=method)
            return check(judged(circuit, rulebook=rulebook), "cable")

        plain = buried(IEC, "D2").value
        self.assertAlmostEqual(buried(IEC, "D2", soil_km_w=3).value, plain * 0.90)
        self.assertAlmostEqual(buried(BS, "D", soil_km_w=1).value, buried(BS, "D").value * 1.18)
        for depth, factor in ((0.3, 1), (0.7, 1), (0.8, 0.97), (1.25, 0.95), (3, 0.89)):
            self.assertAlmostEqual(buried(IEC, "D2", depth_m=depth).value, plain * factor)

    def test_insulation_is_not_counted_twice(self) -> None:
        self.assertEqual(self.iz(method="103", insulation_mm=400).value, 13.5)

    def test_off_the_tables_it_cannot_tell(self) -> None:
        for found, words in (
            (self.iz(ambient_c=65), "Ca"),
            (self.iz(grouped_circuits=30), "Cg"),
            (self.iz(csa=3.3), "not listed"),
            (self.iz(method="D"), "no rating by method D"),
        ):
            self.assertEqual(found.verdict, Verdict.CANNOT_TELL)
            self.assertIn(words, found.missing[0])

    def test_semi_enclosed_fuse_derates(self) -> None:
        fuse = a_device(standard="bs3036", curve=None, rating_a=20, breaking_capacity_ka=2, rcd=an_rcd(shared=True))
        self.assertAlmostEqual(check(judged(run(5, device=fuse)), "cable").value, 27 * 0.725)

    def test_a_rings_20_a_is_the_cables_own_behind_such_a_fuse(self) -> None:
        fuse = a_device(standard="bs3036", curve=None, rating_a=30, breaking_capacity_ka=2, rcd=an_rcd(shared=True))
        ring = check(judged(run(5, 5, back=5, device=fuse)), "cable")
        self.assertEqual((ring.value, ring.verdict), (27, Verdict.PASS))
        self.assertAlmostEqual(check(judged(run(5, 5, device=fuse)), "cable").value, 27 * 0.725)

    def test_worst_segment_is_named(self) -> None:
        mixed = fixed(14, 9500, 45, 10)
        two = mixed.legs[0].model_copy(update={"segments": (Segment(length_m=8), Segment(length_m=6, method="101"))})
        cable = check(judged(mixed.model_copy(update={"legs": (two,)})), "cable")
        self.assertEqual((cable.place.kind, cable.value), ("segment", 36))
        self.assertIn("segment 2", cable.place.name)

    def test_what_lies_otherwise_is_worked_out_otherwise(self) -> None:
        """Everything that is said of a segment but its length tells it from its like, in whatever leg that is."""
        others = {
            "method": "101",
            "ambient_c": 40,
            "grouped_circuits": 3,
            "lightly_loaded": 1,
            "arrangement": "single-layer-under-ceiling",
            "insulation_mm": 100,
            "spacing": "0.25 m",
            "depth_m": 1,
            "soil_km_w": 3,
        }
        self.assertEqual({*others, "length_m", "length_to_m"}, set(Segment.model_fields))
        plain = Segment(length_m=5, grouped_circuits=2)
        self.assertEqual(plain.surroundings, Segment(length_m=7, length_to_m=8, grouped_circuits=2).surroundings)
        for name, other in others.items():
            self.assertNotEqual(plain.surroundings, plain.model_copy(update={name: other}).surroundings, name)
        thin = Cable(csa_mm2=1.5)
        legs = [
            leg("L1", "board", "P1", 5),
            leg("L2", "P1", "P2", 5).model_copy(update={"segments": (Segment(length_m=5, ambient_c=40),)}),
            leg("L3", "P2", "P3", 9),
            leg("L4", "P3", "P4", 5, cable=thin),
        ]
        points = tuple(Point(id=f"P{index}") for index in range(1, 5))
        found = study(a_circuit(points=points, legs=tuple(legs))).capacities
        self.assertEqual([(each.leg, each.segment) for (each,) in found.values()], [(one.id, 0) for one in legs])
        one, hot, like, less = (found[each.id][0].iz_a for each in legs)
        self.assertEqual((one, like), (27, 27))
        self.assertAlmostEqual(hot, 27 * 0.87)
        self.assertEqual(less, 20)

    def test_iec_has_its_own_methods(self) -> None:
        self.assertEqual(self.iz(IEC, method="A2").value, 18.5)
        self.assertEqual(self.iz(IEC, method="101").verdict, Verdict.CANNOT_TELL)


class Rings(unittest.TestCase):
    def test_device_and_size(self) -> None:
        self.assertEqual(check(judged(run(5, 5, back=5, device=a_device(rating_a=40))), "ring-rule").verdict, "fail")
        small = check(judged(run(5, 5, back=5, device=a_device(rating_a=20))), "ring-rule")
        self.assertEqual((small.verdict, "not the usual ring" in small.caution), ("pass", True))
        thin = run(5, 5, back=5, cable=Cable(csa_mm2=1.5))
        self.assertEqual(check(judged(thin), "ring-rule").verdict, "fail")
        self.assertEqual(check(judged(thin), "cable").verdict, "pass")

    def test_every_part_carries_20_a(self) -> None:
        self.assertEqual(check(judged(run(5, 5, back=5, method="101")), "cable").verdict, "fail")

    def test_iec_says_that_national_rules_must_allow_it(self) -> None:
        rule = check(judged(run(5, back=5), rulebook=IEC), "ring-rule")
        self.assertIn("national rules", rule.caution)

    def test_open_ring_carries_the_whole_rating(self) -> None:
        found = check(judged(run(5, 5, 5)), "cable")
        self.assertEqual((found.verdict, found.limit), (Verdict.FAIL, 32))
        self.assertTrue(any("not a closed ring" in step.text for step in found.steps))

    def test_spur_rules(self) -> None:
        self.assertEqual(check(judged(worked_ring()), "spurs").verdict, "pass")
        long = check(judged(with_spur(worked_ring(), "S1", "S2", 2)), "spurs")
        self.assertEqual((long.verdict, long.place.id), (Verdict.FAIL, "S2"))
        crowded = run(5, back=5)
        for name in ("S1", "S2"):
            crowded = with_spur(crowded, "P1", name, 2)
        self.assertEqual(check(judged(crowded), "spurs").verdict, "fail")

    def test_fused_spur_feeds_any_number_by_its_own_fuse(self) -> None:
        ring = with_spur(run(5, 5, back=5), "P1", "F1", 2, kind="fused-spur", fuse_a=3)
        ring = with_spur(with_spur(ring, "F1", "S1", 2), "S1", "S2", 2)
        thin = [
            each.model_copy(update={"cable": Cable(csa_mm2=1)}) if each.a in ("F1", "S1") else each
            for each in ring.legs
        ]
        result = judged(ring.model_copy(update={"legs": tuple(thin)}))
        self.assertEqual([check(result, key).verdict for key in ("spurs", "cable")], ["pass", "pass"])
        limits = {each.point: each.zs_limit_ohm for each in result.points}
        self.assertEqual((limits["P1"], limits["S2"]), (1.37, 15.6))


class Drop(unittest.TestCase):
    def test_lighting_is_held_to_three_percent_and_by_the_table(self) -> None:
        lamps = (Point(id="P1", kind="light", loads=(Load(power_w=690),)),)
        lights = fixed(80, 690, 6, 1.0, kind="lighting").model_copy(update={"points": lamps})
        drop = check(judged(lights), "volt-drop")
        self.assertAlmostEqual(drop.value, 100 * 44 * 3 * 80 / 1000 / 230)
        self.assertEqual((drop.limit, drop.verdict), (3, Verdict.FAIL))

    def test_an_unknown_length_is_named(self) -> None:
        drop = check(judged(run(5, None)), "volt-drop")
        self.assertEqual(drop.missing, ("reading of R1+R2 at P2, which settles most", "length of P1 to P2"))

    def test_a_size_that_the_table_lacks_is_named(self) -> None:
        thick = fixed(30, 9000, 45, 35, cable=Cable(type="multicore", csa_mm2=35))
        self.assertIn("35 mm², which the table does not list", check(judged(thick), "volt-drop").missing[0])
        flex = fixed(5, 3000, 16, 1.5, kind="three-phase", cable=Cable(type="flex", csa_mm2=1.5), method="flex")
        self.assertIn("1.5 mm²", check(judged(flex), "volt-drop").missing[0])

    def test_conventional_loads_of_a_radial(self) -> None:
        figures = judged(run(10, 10, device=a_device(rating_a=20))).points
        self.assertEqual([each.load_a for each in figures], [0, 20])


class Fault(unittest.TestCase):
    def test_each_device_has_its_limit(self) -> None:
        for device, limit in (
            (a_device(curve="C", rating_a=32), 0.68),
            (a_device(curve="B", rating_a=45), 0.97),
            (a_device(standard="bs88-3", curve=None, rating_a=32, rcd=None), 0.91),
            (a_device(standard="bs3036", curve=None, rating_a=30, rcd=None), 1.04),
        ):
            self.assertEqual(check(judged(run(5, device=device)), "zs").limit, limit)

    def test_a_fuse_between_listed_ones_is_as_quick_as_the_next_larger(self) -> None:
        ring = with_spur(run(5, 5, back=5), "P1", "F1", 1, kind="fused-spur", fuse_a=5)
        ring = with_spur(ring, "F1", "Q1", 2, kind="fixed")
        for book, limit in ((BS, 2.3), (IEC, 230 / (230 * 0.95 / 2.3))):
            figures = {each.point: each for each in judged(ring, rulebook=book).points}
            self.assertAlmostEqual(figures["Q1"].zs_limit_ohm, limit)
        fuse = a_device(standard="bs3036", curve=None, rating_a=25, rcd=None)
        steps = check(judged(run(5, device=fuse)), "zs").steps
        self.assertIn("not listed: that of rewirable fuse 30 A", steps[-1].text)

    def test_unlisted_fuse_cannot_tell(self) -> None:
        odd = a_device(standard="bs88-3", curve=None, rating_a=45, rcd=None)
        found = check(judged(run(5, device=odd)), "zs")
        self.assertEqual((found.verdict, found.missing), ("cannot-tell", ("trip current of the device",)))
        # An RCD whose rating nobody read does not stand in for it: on TT alone it is all that is asked for.
        behind = odd.model_copy(update={"rcd": an_rcd(rated_ma=None, shared=True)})
        found = check(judged(run(5, device=behind)), "zs")
        self.assertEqual((found.verdict, found.missing), ("cannot-tell", ("trip current of the device",)))
        tt = SUPPLY.model_copy(update={"earthing": "TT", "ze_ohm": 120.0, "ze_origin": "measured"})
        found = check(judged(run(5, device=behind), tt), "zs")
        self.assertEqual(found.verdict, "cannot-tell")
        self.assertIn("RCD", found.missing[0])

    def test_the_loop_can_be_followed_by_hand(self) -> None:
        for circuit, lines in (
            (
                worked_ring(),
                ("22.5 × 31.5 / 54 m × 19.51 mΩ/m / 1000 = 0.256 Ω", "3.5 m × 19.51 mΩ/m / 1000 = 0.068 Ω"),
            ),
            (run(10, 5), ("10 m × 19.51 mΩ/m / 1000 = 0.195 Ω", "5 m × 19.51 mΩ/m / 1000 = 0.098 Ω")),
        ):
            zs = check(judged(circuit), "zs")
            sums = [step.sum for step in zs.steps]
            self.assertEqual(tuple(sums[:2]), lines)
            written = sum(float(line.rsplit("= ", 1)[1].split()[0]) for line in lines)
            self.assertAlmostEqual(written, judged(circuit).points[-1].r1_plus_r2_ohm, delta=0.002)

    def test_tt_is_held_by_the_rcd(self) -> None:
        tt = SUPPLY.model_copy(update={"earthing": "TT", "ze_ohm": 120.0, "ze_origin": "measured"})
        zs = check(judged(run(5), tt), "zs")
        self.assertEqual(zs.verdict, "pass")
        self.assertAlmostEqual(zs.limit, 50 / 0.030)
        self.assertEqual(check(judged(run(5, device=MCB), tt), "zs").verdict, "fail")

    def test_unmeasured_ze_is_assumed_aloud_or_not_at_all(self) -> None:
        zs = check(judged(run(5), Supply(earthing="TN-S")), "zs")
        self.assertIn("0.8 Ω assumed", zs.caution)
        self.assertEqual(check(judged(run(5), Supply(earthing="TN-S"), IEC), "zs").missing, ("Ze of the supply",))
        self.assertIn("earthing system of the supply", check(judged(run(5), Supply()), "zs").missing)


class Additional(unittest.TestCase):
    def test_rcd_where_it_is_wanted(self) -> None:
        dry = Surroundings(concealed_shallow=False)
        heater = fixed(
            5, 2000, 16, 2.5, kind="water-heater", device=a_device(standard="bs-en-60898", rating_a=16, rcd=None)
        )
        for circuit, book, verdict in (
            (run(5, device=MCB), BS, "fail"),
            (heater, BS, "fail"),
            (heater.model_copy(update={"surroundings": dry}), BS, "not-applicable"),
            (heater, IEC, "not-applicable"),
            (heater.model_copy(update={"surroundings": Surroundings(bath_room=True)}), IEC, "fail"),
            (run(5, device=a_device(rcd=an_rcd(rated_ma=100))), BS, "fail"),
            (run(5, device=a_device(rcd=an_rcd(rated_ma=30, delayed=True))), BS, "fail"),
            (run(5), BS, "pass"),
        ):
            self.assertEqual(check(judged(circuit, rulebook=book), "rcd").verdict, verdict)
        blind = check(judged(run(5, device=a_device(rcd=an_rcd(type="AC")))), "rcd-type")
        self.assertEqual(blind.verdict, "fail")

    def test_breaking_capacity(self) -> None:
        strong = SUPPLY.model_copy(update={"fault_current_ka": 7.2})
        unsaid = check(judged(run(5), strong), "breaking")
        self.assertEqual((unsaid.verdict, unsaid.missing_codes), ("cannot-tell", ("conditional-rating",)))
        for said, verdict in ((6, "fail"), (16, "pass")):
            stated = strong.model_copy(update={"board_conditional_ka": said})
            self.assertEqual(check(judged(run(5), stated), "breaking").verdict, verdict)
        # No enclosure is usually tested at more.
        fierce = SUPPLY.model_copy(update={"fault_current_ka": 16.1})
        self.assertEqual(check(judged(run(5), fierce), "breaking").verdict, "fail")
        large = strong.model_copy(update={"main_fuse": MainFuse(standard="bs88-2", rating_a=125)})
        self.assertEqual(check(judged(run(5), large), "breaking").verdict, "fail")
        self.assertEqual(check(judged(run(5), Supply(earthing="TN-S")), "breaking").verdict, "cannot-tell")

    def test_load_over_the_device_fails(self) -> None:
        heavy = Point(id="P1", kind="fixed", loads=(Load(power_w=9500),))
        load = check(
            judged(run(5, device=a_device(rating_a=40)).model_copy(update={"points": (heavy,), "kind": "shower"})),
            "load",
        )
        self.assertEqual(load.verdict, "fail")
        self.assertAlmostEqual(load.value, 9500 / 230)

    def test_load_behind_a_fuse_is_held_to_it(self) -> None:
        for watts, fuse, verdict in ((600, 3, "pass"), (800, 3, "fail"), (3000, 13, "pass"), (3121, 13, "fail")):
            ring = with_spur(run(5, 5, back=5), "P1", "F1", 1, kind="fused-spur", fuse_a=fuse)
            ring = with_spur(ring, "F1", "Q1", 2, kind="fixed")
            heater = ring.points[-1].model_copy(update={"loads": (Load(power_w=watts),)})
            ring = ring.model_copy(update={"points": (*ring.points[:-1], heater)})
            found = check(judged(ring), "fuses")
            self.assertEqual((found.verdict, found.place.id), (verdict, "F1"))
            # Heating appliances are rated at 240 V here.
            self.assertAlmostEqual(found.value, watts / 240)

    def test_a_fuse_with_nothing_stated_behind_it_says_so(self) -> None:
        ring = with_spur(run(5, 5, back=5), "P1", "F1", 1, kind="fused-spur", fuse_a=3)
        self.assertEqual(check(judged(ring), "fuses").caution, "No load is stated behind F1.")

    def test_points_without_a_load_beside_stated_ones_are_pointed_out(self) -> None:
        silent = check(judged(run(5, 5, loads={"P1": 3})), "load")
        self.assertIn("Sockets have no loads stated", silent.caution)
        self.assertEqual(silent.value, 32)
        self.assertEqual(check(judged(run(5, 5, loads={"P1": 3, "P2": 2})), "load").caution, "")

    def test_nothing_drawn_cannot_tell(self) -> None:
        result = judged(a_circuit())
        self.assertEqual(result.verdict, Verdict.CANNOT_TELL)
        self.assertTrue(all(each.missing for each in result.checks if each.verdict == "cannot-tell"))
