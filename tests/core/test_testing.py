"""The test sheet: order, expectations, and what readings mean."""

import unittest

from lumbek.core.model.ahead import Ahead
from lumbek.core.model.cable import Cable
from lumbek.core.model.reading import Reading, standing
from lumbek.core.testing.band import band
from lumbek.core.testing.sheet import Sheet, test_sheet
from tests.support.houses import AT, BS, IEC, SUPPLY, check, judged, read, run, study, worked_ring
from tests.support.stated import a_device, an_rcd


def sheet(circuit, *readings: Reading, peers=(), supply=SUPPLY, rulebook=BS, ambient_c=20.0) -> Sheet:
    return test_sheet(study(circuit, supply, rulebook), readings, peers, ambient_c)


def item(found: Sheet, quantity: str, point: str | None = None):
    return next(
        each for stage in found.stages for each in stage.items if (each.quantity, each.point) == (quantity, point)
    )


class Sheets(unittest.TestCase):
    def test_order_of_a_ring_and_of_a_radial(self) -> None:
        ring = [stage.id for stage in sheet(worked_ring()).stages]
        self.assertEqual(ring, ["isolation", "ring-1", "ring-2", "ring-3", "insulation", "polarity", "zs", "rcd", "function"])
        radial = [stage.id for stage in sheet(run(5, 5)).stages]
        self.assertEqual(radial[:2], ["isolation", "cpc"])
        self.assertEqual([stage.live for stage in sheet(run(5)).stages][-2:], [True, True])

    def test_expected_is_the_network_with_a_band_and_warms_up(self) -> None:
        cold, warm = sheet(worked_ring()), sheet(worked_ring(), ambient_c=30)
        r1 = item(cold, "r1").expected
        self.assertAlmostEqual(r1.value, 0.400, places=3)
        self.assertLess(r1.low, r1.value)
        self.assertAlmostEqual(item(warm, "r1").expected.value, r1.value * 1.04)
        self.assertAlmostEqual(item(cold, "zs", "S1").expected.value, 0.21 + 0.324, places=3)

    def test_ring_ends_within_005(self) -> None:
        good = sheet(worked_ring(), read("r1", 0.40), read("rn", 0.45))
        self.assertEqual(good.verdict, "pass")
        bad = sheet(worked_ring(), read("r1", 0.40), read("rn", 0.46))
        self.assertEqual(bad.verdict, "fail")
        self.assertEqual((bad.taken, bad.total), (2, 1 + 3 + 8 + 8 + 2 + 1 + 8 + 2))

    def test_open_ring_and_unlikely_readings(self) -> None:
        self.assertEqual(item(sheet(worked_ring(), read("r1", 999, beyond=True)), "r1").check.verdict, "fail")
        odd = item(sheet(worked_ring(), read("cross-ln", 0.3, "P3")), "cross-ln", "P3").check
        self.assertIn("Over the 0.20", odd.caution)
        low = item(sheet(worked_ring(), read("cross-le", 0.2, "P3")), "cross-le", "P3").check
        self.assertIn("Under the", low.caution)

    def test_what_no_sound_circuit_reads_proves_nothing(self) -> None:
        """Twice as far off as lengths and contacts may put it, far from its fellows, or under Ze itself."""
        # 0.200 Ω: a tenth and 0.05 Ω above, a tenth and 0.01 Ω below, and as much again.
        for value, verdict in ((0.339, "pass"), (0.341, "cannot-tell"), (0.141, "pass"), (0.139, "cannot-tell")):
            found = item(sheet(worked_ring(), read("cross-ln", value, "P3")), "cross-ln", "P3").check
            self.assertEqual(found.verdict, verdict, value)
        fellows = [read("cross-ln", 0.20, point) for point in ("P1", "P2", "P4")]
        for value, verdict in ((0.27, "pass"), (0.28, "cannot-tell"), (0.12, "cannot-tell")):
            found = item(sheet(worked_ring(), *fellows, read("cross-ln", value, "P3")), "cross-ln", "P3").check
            self.assertEqual(found.verdict, verdict, value)
        for value, verdict in ((0.20, "pass"), (0.19, "cannot-tell"), (1.19, "pass"), (1.21, "cannot-tell")):
            found = item(sheet(worked_ring(), read("zs", value, "S1")), "zs", "S1").check
            self.assertEqual(found.verdict, verdict, value)
        bare = a_device(standard="bs-en-60898", rcd=None)
        through = worked_ring().model_copy(update={"device": bare})
        found = item(sheet(through, read("zs", 0.8, "S1")), "zs", "S1").check
        self.assertEqual(found.verdict, "cannot-tell", "with no RCD in its way a meter reads true")
        r1_r2 = item(sheet(run(10), read("r1+r2", 0.5, "P1")), "r1+r2", "P1").check
        self.assertEqual((r1_r2.verdict, "no sound circuit" in r1_r2.answer), ("cannot-tell", True))

    def test_zs_is_held_to_the_measured_limit_unrounded(self) -> None:
        # 0.21 + 43 x 19.51 mΩ = 1.05 Ω expected.
        bare = run(43, device=a_device(standard="bs-en-60898", rcd=None))
        for value, verdict in ((1.09, "pass"), (1.096, "pass"), (1.10, "fail")):
            found = item(sheet(bare, read("zs", value, "P1")), "zs", "P1")
            self.assertEqual((found.limit, found.check.verdict), ("1.09", verdict))
        behind = item(sheet(run(43), read("zs", 1.10, "P1")), "zs", "P1").check
        self.assertEqual((behind.verdict, behind.limit), ("pass", 50 / 0.03))
        self.assertIn("only the RCD", behind.caution)
        high = item(sheet(worked_ring(), read("zs", 0.7, "P1")), "zs", "P1").check
        self.assertIn("A no-trip test reads high", high.caution)
        iec = sheet(run(5, device=a_device(rating_a=16)), rulebook=IEC)
        self.assertEqual(item(iec, "zs", "P1").limit, "1.91")

    def test_a_feed_is_cold_when_its_loop_is_read(self) -> None:
        feed = Ahead(feed=Cable(type="multicore", csa_mm2=10), length_m=50, current_a=40)
        fed = run(5, ahead=(feed,))
        expected = item(sheet(fed), "zs", "P1").expected.value
        self.assertAlmostEqual(expected, 0.21 + 50 * 2 * 1.83e-3 + 5 * 19.51e-3)
        self.assertGreater(check(judged(fed), "zs").value, expected)

    def test_tt_zs_is_not_derated(self) -> None:
        tt = SUPPLY.model_copy(update={"earthing": "TT", "ze_ohm": 90.0})
        self.assertEqual(item(sheet(run(5), supply=tt), "zs", "P1").limit, "1666")

    def test_insulation(self) -> None:
        for value, peers, verdict, word in (
            (0.99, (), "fail", ""),
            (2.0, (250, 300, 999), "pass", "worth a look"),
            (200, (250, 300), "pass", ""),
        ):
            found = item(sheet(run(5), read("insulation-le", value), peers=peers), "insulation-le").check
            self.assertEqual(found.verdict, verdict)
            self.assertIn(word, found.caution)

    def test_a_reading_may_lie_a_tenth_off_and_a_contact_above(self) -> None:
        for cable_ohm, fixed_ohm, low, high in (
            (1.0, 0.0, 0.89, 1.15),
            (1.0, 0.5, 1.39, 1.65),
            (0.01, 0.0, 0.0, 0.061),
        ):
            found = band(BS, cable_ohm, fixed_ohm)
            self.assertEqual(found.value, cable_ohm + fixed_ohm)
            self.assertAlmostEqual(found.low, low, 12)
            self.assertAlmostEqual(found.high, high, 12)

    def test_rcd_times(self) -> None:
        slow = run(5, device=a_device(rcd=an_rcd(rated_ma=100, delayed=True)))
        for circuit, value, verdict in (
            (run(5), 300, "pass"),
            (run(5), 301, "fail"),
            (slow, 129, "fail"),
            (slow, 130, "pass"),
            (slow, 500, "pass"),
            (slow, 501, "fail"),
        ):
            self.assertEqual(item(sheet(circuit, read("rcd-trip", value)), "rcd-trip").check.verdict, verdict)

    def test_the_last_reading_stands_and_an_empty_one_clears(self) -> None:
        first, second, clear = read("r1", 0.4), read("r1", 0.41), read("r1")
        self.assertEqual(standing((first, second))["r1", None].value, 0.41)
        self.assertEqual(standing((first, second, clear)), {})

    def test_readings_that_make_no_sense_are_refused(self) -> None:
        for bad in (
            {"quantity": "zs", "value": 1},
            {"quantity": "r1", "value": 1, "point": "P1"},
            {"quantity": "polarity", "value": 1},
            {"quantity": "r1", "correct": True},
            {"quantity": "r1", "beyond": True},
            {"quantity": "r1", "value": -1},
            {"quantity": "r1", "value": float("nan")},
        ):
            with self.assertRaises(ValueError):
                Reading.model_validate({"by": "", "at": AT, **bad})
