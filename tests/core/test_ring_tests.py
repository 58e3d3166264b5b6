"""What a ring reads: the laws behind the three steps, and what each mistake does to them."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from lumbek.core.model.cable import Cable
from lumbek.core.testing.band import band
from tests.support.houses import BS, cut, run, study, with_spur

rings = st.tuples(st.lists(st.floats(0.5, 30), min_size=2, max_size=8), st.floats(0.5, 30))


class CrossedRing(unittest.TestCase):
    @given(rings)
    def test_equal_conductors_read_a_quarter_of_their_sum_everywhere(self, spec) -> None:
        ring = study(run(*spec[0], back=spec[1])).wires.cold.ring
        for ohm in ring.cross_ln_ohm.values():
            self.assertAlmostEqual(ohm, (ring.r1_ohm + ring.rn_ohm) / 4, places=9)

    @given(rings)
    def test_line_and_cpc_crossed_is_close_to_a_quarter_and_is_r1_plus_r2_of_the_joined_ring(self, spec) -> None:
        ring = study(run(*spec[0], back=spec[1])).wires.cold.ring
        quarter = (ring.r1_ohm + ring.r2_ohm) / 4
        for ohm in ring.cross_le_ohm.values():
            self.assertLessEqual(ohm, quarter + 1e-9)
            self.assertGreaterEqual(ohm, quarter * 0.93)

    @given(rings)
    def test_own_ends_joined_rise_to_the_middle_and_fall(self, spec) -> None:
        found = study(run(*spec[0], back=spec[1])).wires.cold.ring.own_ends_ln_ohm
        readings = [round(found[f"P{index + 1}"], 9) for index in range(len(spec[0]))]
        peak = readings.index(max(readings))
        self.assertEqual(readings[: peak + 1], sorted(readings[: peak + 1]))
        self.assertEqual(readings[peak:], sorted(readings[peak:], reverse=True))

    @given(rings, st.floats(0.5, 10))
    def test_a_spur_reads_higher_by_its_own_length(self, spec, length) -> None:
        circuit = with_spur(run(*spec[0], back=spec[1]), "P1", "S1", length)
        ring = study(circuit).wires.cold.ring
        self.assertAlmostEqual(ring.cross_ln_ohm["S1"] - ring.cross_ln_ohm["P1"], 2 * 7.41e-3 * length, places=9)
        self.assertAlmostEqual(
            ring.cross_le_ohm["S1"] - ring.cross_le_ohm["P1"], (7.41 + 12.1) * 1e-3 * length, places=9
        )

    @given(rings, st.sampled_from(["L", "N", "E"]), st.integers(0, 8))
    def test_a_broken_core_opens_its_own_conductor_only(self, spec, conductor, at) -> None:
        leg = f"L{at % (len(spec[0]) + 1) + 1}"
        ring = study(run(*spec[0], back=spec[1]), as_found=cut((leg, conductor))).wires.cold.ring
        for name, ohm in (("L", ring.r1_ohm), ("N", ring.rn_ohm), ("E", ring.r2_ohm)):
            self.assertEqual(ohm == float("inf"), name == conductor)

    @given(rings)
    def test_broken_core_never_lowers_a_loop(self, spec) -> None:
        circuit = run(*spec[0], back=spec[1])
        sound, broken = study(circuit).wires.cold, study(circuit, as_found=cut(("L1", "E"))).wires.cold
        for point, ohm in sound.joined_ohm.items():
            self.assertGreaterEqual(broken.joined_ohm[point], ohm - 1e-9)

    def test_both_ways_broken_is_open(self) -> None:
        broken = cut(("L1", "E"), ("L2", "E"))
        self.assertEqual(study(run(5, 5, back=5), as_found=broken).wires.cold.joined_ohm["P1"], float("inf"))

    def test_r2_of_a_ring_is_1_67_of_r1_in_2_5_and_1_5(self) -> None:
        ring = study(run(9, 9, back=9, cable=Cable(csa_mm2=2.5))).wires.cold.ring
        self.assertAlmostEqual(ring.r2_ohm / ring.r1_ohm, 1.63, delta=0.04)


class Bands(unittest.TestCase):
    @given(st.floats(0, 50), st.floats(0, 50))
    def test_a_band_holds_its_figure(self, cable, fixed) -> None:
        found = band(BS, cable, fixed)
        self.assertLessEqual(found.low, found.value)
        self.assertLess(found.value, found.high)
        self.assertGreaterEqual(found.low, 0)

    def test_copper_warms_four_parts_in_a_thousand_a_kelvin(self) -> None:
        self.assertAlmostEqual(BS.temperature_factor(20), 1)
        self.assertAlmostEqual(BS.temperature_factor(70), 1.20)
        self.assertAlmostEqual(BS.temperature_factor(0), 0.92)
