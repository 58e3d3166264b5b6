"""The worked cases, to half a percent: figures found by hand and by a separate nodal solve."""

import unittest

from lumbek.core.judging.check import Verdict
from lumbek.core.model.cable import Cable
from lumbek.core.model.point import Load, Point
from lumbek.core.sizing.operating import temperature_factor_ct
from tests.support.houses import BS, IEC, check, cut, fixed, judged, leg, run, study, worked_ring
from tests.support.stated import a_device

ON_RING = [f"P{index}" for index in range(1, 8)]
LOADS = {"P2": 13, "P3": 10, "P6": 7, "S1": 2}


class WorkedCase(unittest.TestCase):
    def near(self, found: float | None, wanted: float, part: float = 0.005, digit: float = 0.0005) -> None:
        """Within half a percent, or within the last digit that the case is stated to."""
        self.assertIsNotNone(found)
        self.assertLessEqual(abs(found - wanted), max(abs(wanted) * part, digit), f"{found} against {wanted}")


class Ring(WorkedCase):
    def test_1_continuity_end_to_end_and_crossed(self) -> None:
        cold = study(worked_ring()).wires.cold
        self.near(cold.ring.r1_ohm, 0.400)
        self.near(cold.ring.rn_ohm, 0.400)
        self.near(cold.ring.r2_ohm, 0.653)
        for point in ON_RING:
            self.near(cold.ring.cross_ln_ohm[point], 0.200)
        for point, wanted in zip(ON_RING, (0.257, 0.260, 0.262, 0.263, 0.263, 0.262, 0.258), strict=True):
            self.near(cold.ring.cross_le_ohm[point], wanted)
        for point, wanted in zip(ON_RING, (0.111, 0.150, 0.185, 0.195, 0.198, 0.183, 0.130), strict=True):
            self.near(cold.ring.own_ends_ln_ohm[point], wanted)

    def test_1_r1_plus_r2_in_service(self) -> None:
        cold = study(worked_ring()).wires.cold
        for point, wanted in zip(ON_RING, (0.146, 0.198, 0.243, 0.256, 0.260, 0.240, 0.171), strict=True):
            self.near(cold.joined_ohm[point], wanted)
        self.near(cold.joined_ohm["S1"], 0.324)

    def test_2_fault_loop_is_worst_at_the_spur(self) -> None:
        zs = check(judged(worked_ring()), "zs")
        self.near(zs.value, 0.599)
        self.assertEqual((zs.limit, zs.place.id, zs.verdict), (1.37, "S1", Verdict.PASS))

    def test_3_currents_and_drops(self) -> None:
        result = judged(worked_ring(LOADS))
        currents = [each.current_a for each in result.legs]
        for found, wanted in zip(currents, (19.77, 19.77, 6.77, -3.23, -5.23, -5.23, -12.23, -12.23, 2.0), strict=True):
            self.near(found, wanted)
        wanted_v = {"P1": 3.16, "P2": 4.75, "P3": 5.47, "P4": 5.30, "P5": 4.60, "P6": 4.13, "P7": 2.39, "S1": 5.42}
        for figures in result.points:
            self.near(figures.drop_v, wanted_v[figures.point])
        drop = check(result, "volt-drop")
        self.near(drop.value, 2.38)
        self.assertEqual(drop.place.id, "P3")
        self.assertEqual(check(result, "ring-current").caution, "")

    def test_3_load_moved_towards_one_end_is_warned_of(self) -> None:
        result = judged(worked_ring({"P1": 10, "P2": 13, "P6": 7, "S1": 2}))
        current = check(result, "ring-current")
        self.assertGreater(current.value, 20)
        self.assertIn("over 20 A", current.caution)
        self.assertIn("the board to P1", current.caution)

    def test_4_line_broken(self) -> None:
        broken = cut(("L4", "L"))
        cold = study(worked_ring(), as_found=broken).wires.cold
        self.assertEqual(cold.ring.r1_ohm, float("inf"))
        self.near(cold.ring.rn_ohm, 0.400)
        self.near(cold.ring.r2_ohm, 0.653)
        # With one way round gone each point reads out one way and back the other: the whole 54 m, twice the
        # sound figure and the same everywhere for equal conductors; it differs where cpc and line differ.
        for point in ON_RING:
            self.near(cold.ring.cross_ln_ohm[point], 0.400)
        crossed = [cold.ring.cross_le_ohm[point] for point in ON_RING]
        self.assertGreater(max(crossed) - min(crossed), 0.05)

    def test_4_cpc_broken_raises_zs_to_the_way_that_is_left(self) -> None:
        broken = study(worked_ring(), as_found=cut(("L4", "E")))
        # Line: both ways round in parallel; cpc: 31.5 m the long way only.
        line = 1 / (1 / 22.5 + 1 / 31.5) * 7.41e-3
        self.near(broken.wires.cold.joined_ohm["P4"], line + 31.5 * 12.10e-3)


class FixedLoads(WorkedCase):
    def test_5_shower(self) -> None:
        result = judged(fixed(14, 9500, 45, 10))
        self.near(result.ib_a, 41.3)
        self.near(check(result, "volt-drop").value, 1.11)
        self.near(result.points[0].drop_v, 2.54)
        self.near(result.points[0].r1_plus_r2_ohm * 1.20, 0.108)
        self.assertEqual(check(result, "cable").value, 64)
        self.assertEqual(result.verdict, Verdict.PASS)

    def test_5_shower_under_loft_insulation(self) -> None:
        for csa, rating, iz, verdict in ((10, 45, 36, "fail"), (16, 45, 46, "pass"), (16, 50, 46, "fail")):
            cable = check(judged(fixed(14, 9500, rating, csa, method="101")), "cable")
            self.assertEqual((cable.value, cable.verdict), (iz, verdict), (csa, rating))

    def test_6_cooker_with_a_socket_in_its_control_unit(self) -> None:
        unit = Point(id="P1", kind="control-with-socket")
        hob = Point(id="P2", kind="fixed", loads=(Load(power_w=10500),))
        cooker = run(15, 2).model_copy(
            update={"kind": "cooker", "points": (unit, hob), "cable": Cable(csa_mm2=6), "device": a_device(rating_a=32)}
        )
        result = judged(cooker)
        self.near(result.ib_a, 25.7)
        self.near(result.points[1].r1_plus_r2_ohm * 1.20, 0.214)
        self.assertEqual(result.verdict, Verdict.PASS)

    def test_7_temperature_factor(self) -> None:
        self.near(temperature_factor_ct(16, 27), 0.913)
        self.near(temperature_factor_ct(20, 27), 0.940)
        with self.assertRaises(ValueError):
            temperature_factor_ct(16, 0)

    def test_9_outdoor_feed_by_third_core(self) -> None:
        cable = Cable(type="armoured", insulation="xlpe90", csa_mm2=2.5)
        result = judged(fixed(28, 2300, 16, 2.5, kind="outdoor", cable=cable))
        self.near(result.points[0].drop_v, 5.32)
        self.near(check(result, "volt-drop").value, 2.31)
        self.near(result.points[0].zs_ohm - 0.21, 0.531)


class Limits(WorkedCase):
    def test_8_measured_against_design(self) -> None:
        for book, circuit, design, measured in (
            (BS, run(5, back=5), 1.37, 1.096),
            (IEC, fixed(5, 2000, 16, 2.5, kind="fixed-appliance"), 2.875, 2.875 * 2 / 3),
        ):
            zs = check(judged(circuit, rulebook=book), "zs")
            self.near(zs.limit, design)
            self.near(zs.limit * book.measured_zs_factor, measured)


class OneLeg(WorkedCase):
    def test_a_single_leg_is_the_law_itself(self) -> None:
        """R = 7.41 and 12.10 mΩ/m over 10 m."""
        result = judged(run(10))
        self.near(result.points[0].r1_plus_r2_ohm, 0.1951)
        self.assertEqual(leg("L1", "board", "P1", 10), run(10).legs[0])
