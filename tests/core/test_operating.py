"""Voltage drop with conductors as warm as their load makes them: Ct, in open runs and in rings."""

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import Segment
from lumbek.core.sizing.operating import temperature_factor_ct
from tests.support.houses import BS, SUPPLY, check, fixed, judged, run, study, worked_ring
from tests.support.stated import a_device


def warm(circuit: Circuit) -> Circuit:
    return circuit.model_copy(update={"drop_with_ct": True})


def in_surroundings(**segment: object) -> Circuit:
    circuit = fixed(30, 16 * 230, 16, 2.5, kind="fixed-appliance")
    one = circuit.legs[0].model_copy(update={"segments": (Segment(length_m=30, **segment),)})
    return circuit.model_copy(update={"legs": (one,)})


class Factor(unittest.TestCase):
    def test_worked(self) -> None:
        self.assertAlmostEqual(temperature_factor_ct(16, 27), 0.913, delta=0.0005)
        self.assertAlmostEqual(temperature_factor_ct(20, 27), 0.940, delta=0.0005)

    def test_at_its_ends(self) -> None:
        # No load: as cold as the air of 30 °C; the full tabulated load: the table itself.
        self.assertAlmostEqual(temperature_factor_ct(0, 27), (230 + 30) / 300)
        self.assertAlmostEqual(temperature_factor_ct(27, 27), 1)
        self.assertEqual(temperature_factor_ct(40, 27), 1)
        self.assertAlmostEqual(temperature_factor_ct(0, 27, 90.0), (230 + 30) / 320)
        with self.assertRaises(ValueError):
            temperature_factor_ct(10, 0)

    @given(st.floats(0, 60), st.floats(0, 20), st.floats(10, 60), st.floats(0.4, 1))
    def test_more_load_or_worse_surroundings_never_lower_it(self, load, more, it, factor) -> None:
        here = temperature_factor_ct(load, it)
        self.assertLessEqual(here, temperature_factor_ct(load + more, it) + 1e-12)
        self.assertLessEqual(here, temperature_factor_ct(load, it, ca=factor) + 1e-12)
        self.assertLessEqual(here, 1)


class OpenRun(unittest.TestCase):
    def test_the_table_times_ct(self) -> None:
        plain = check(judged(in_surroundings()), "volt-drop")
        found = check(judged(warm(in_surroundings())), "volt-drop")
        self.assertAlmostEqual(found.value, plain.value * temperature_factor_ct(16, 27))
        self.assertTrue(any("Ct 0.913 ×" in step.sum for step in found.steps))
        self.assertFalse(any("Ct" in step.sum for step in plain.steps))

    def test_surroundings_count(self) -> None:
        found = study(warm(in_surroundings(ambient_c=40, grouped_circuits=2))).currents.flow
        self.assertAlmostEqual(found.ct["L1"], temperature_factor_ct(16, 27, ca=0.87, cg=0.80))
        # A fuse of slow operation derates the cable, and leaves it no warmer for it.
        fuse = a_device(standard="bs3036", curve=None, rating_a=20, breaking_capacity_ka=2)
        slow = warm(in_surroundings()).model_copy(update={"device": fuse})
        self.assertAlmostEqual(study(slow).currents.flow.ct["L1"], temperature_factor_ct(16, 27))

    def test_each_segment_for_its_part_of_the_length(self) -> None:
        circuit = warm(in_surroundings())
        two = circuit.legs[0].model_copy(
            update={"segments": (Segment(length_m=10), Segment(length_m=20, method="103"))}
        )
        found = study(circuit.model_copy(update={"legs": (two,)})).currents.flow.ct["L1"]
        self.assertAlmostEqual(found, (temperature_factor_ct(16, 27) + 2 * temperature_factor_ct(16, 13.5)) / 3)

    def test_each_leg_by_its_own_current(self) -> None:
        circuit = warm(run(10, 10, device=a_device(rating_a=20), loads={"P1": 12, "P2": 4}))
        found = study(circuit).currents.flow.ct
        self.assertAlmostEqual(found["L1"], temperature_factor_ct(16, 27))
        self.assertAlmostEqual(found["L2"], temperature_factor_ct(4, 27))

    def test_nothing_is_taken_off_above_16_mm2_or_off_the_tables(self) -> None:
        thick = warm(fixed(30, 9000, 45, 25, cable=Cable(type="multicore", csa_mm2=25)))
        self.assertEqual(study(thick).currents.flow.ct["L1"], 1)
        hot = warm(in_surroundings(ambient_c=80))
        self.assertEqual(study(hot).currents.flow.ct["L1"], 1)

    def test_three_phases_by_the_rating_of_three_loaded_cores(self) -> None:
        load = warm(fixed(30, 9000, 16, 2.5, kind="three-phase", cable=Cable(type="multicore", csa_mm2=2.5)))
        self.assertAlmostEqual(study(load).currents.flow.ct["L1"], temperature_factor_ct(9000 / 690, 24))


class Ring(unittest.TestCase):
    LOADS = {"P2": 13, "P3": 10, "P6": 7, "S1": 2}

    def test_currents_and_ct_agree_with_each_other(self) -> None:
        found = study(warm(worked_ring(self.LOADS))).currents.flow
        for leg_id, current in found.leg_a.items():
            self.assertAlmostEqual(found.ct[leg_id], temperature_factor_ct(abs(current), 27), places=8)

    def test_it_still_carries_its_loads_and_drops_less(self) -> None:
        full, cooled = study(worked_ring(self.LOADS)).currents.flow, study(warm(worked_ring(self.LOADS))).currents.flow
        self.assertAlmostEqual(cooled.leg_a["L1"] - cooled.leg_a["L8"], 32, places=6)
        for point, volts in full.drop_v.items():
            self.assertLess(cooled.drop_v[point], volts)
            self.assertGreater(cooled.drop_v[point], volts * 260 / 300)

    @settings(max_examples=30)
    @given(
        st.lists(st.floats(1, 30), min_size=2, max_size=7),
        st.floats(1, 30),
        st.lists(st.floats(0.1, 6), min_size=7, max_size=7),
    )
    def test_never_worse_than_without(self, lengths, back, loads) -> None:
        circuit = run(*lengths, back=back, loads={f"P{i + 1}": loads[i] for i in range(len(lengths))})
        without, found = judged(circuit), judged(warm(circuit))
        self.assertLessEqual(check(found, "volt-drop").value, check(without, "volt-drop").value + 1e-9)
        self.assertEqual(check(found, "zs").value, check(without, "zs").value)


class Opened(unittest.TestCase):
    def test_a_ring_is_held_to_the_table_of_its_opened_run_only_where_that_is_less(self) -> None:
        cable, loads = Cable(csa_mm2=4), {"P1": 20}
        even = study(run(10, back=12, loads=loads, cable=cable)).currents.flow
        self.assertEqual(even.opened, {})
        self.assertAlmostEqual(even.drop_v["P1"], 20 * 10 * 12 / 22 * 2 * 4.61e-3 * 1.20)
        # Nearly nothing comes round the long way: the table's rounded 11 mV/A/m for 1 m is less than the network's.
        lopsided = study(run(1, back=400, loads=loads, cable=cable)).currents.flow
        self.assertEqual(lopsided.opened, {"P1": "L2"})
        self.assertAlmostEqual(lopsided.drop_v["P1"], 11 * 20 / 1000)
        steps = check(judged(run(1, back=400, loads=loads, cable=cable)), "volt-drop").steps
        self.assertTrue(any("opened at the cable from P1 to the board" in step.text for step in steps))

    @settings(max_examples=60)
    @given(st.lists(st.floats(0.5, 30), min_size=1, max_size=6), st.floats(0.5, 400), st.sampled_from([1.5, 4.0, 6.0]))
    def test_it_lowers_no_drop_by_more_than_the_table_is_rounded(self, lengths, back, csa) -> None:
        loads = {f"P{index + 1}": 3.0 for index in range(len(lengths))}
        circuit = study(run(*lengths, back=back, loads=loads, cable=Cable(csa_mm2=csa)))
        each = BS.volt_drop_mv_per_a_m(Cable(csa_mm2=csa)) / (2 * BS.conductor_milliohm_per_m[csa] * 1.20)
        whole, gone, first = sum(lengths) + back, 0.0, 0.0
        for length in lengths:
            gone += length
            first += 3.0 * (whole - gone) / whole
        carried, volts = first, 0.0
        for index, length in enumerate(lengths):
            volts += carried * 2 * BS.conductor_milliohm_per_m[csa] / 1000 * 1.20 * length
            carried -= 3.0
            drop = circuit.currents.flow.drop_v[f"P{index + 1}"]
            self.assertLessEqual(drop, volts + 1e-9)
            self.assertGreaterEqual(drop, volts * each - 1e-9)


class Fuse(unittest.TestCase):
    def test_a_buried_cable_behind_a_semi_enclosed_fuse_is_derated_twice(self) -> None:
        fuse = a_device(standard="bs3036", curve=None, rating_a=20, breaking_capacity_ka=2)
        cable = Cable(type="armoured", csa_mm2=4)
        by_method = {}
        for method in ("C", "D"):
            circuit = fixed(10, 2000, 20, 4, kind="outdoor", device=fuse, cable=cable, method=method)
            it, _ = BS.tabulated_capacity_a(cable, method)
            by_method[method] = check(judged(circuit, SUPPLY), "cable").value / it
        self.assertAlmostEqual(by_method["C"], 0.725)
        self.assertAlmostEqual(by_method["D"], 0.725 * 0.9)
