"""The test sheet: order, expectations, and what readings mean."""

import unittest

from lumbek.core.model.device import Device, Rcd
from lumbek.core.model.reading import Reading, standing
from lumbek.core.testing.band import band
from lumbek.core.testing.sheet import Sheet, test_sheet
from tests.support.houses import AT, BS, IEC, SUPPLY, read, run, study, worked_ring


def sheet(circuit, *readings: Reading, peers=(), supply=SUPPLY, rulebook=BS, ambient_c=20.0) -> Sheet:
    return test_sheet(study(circuit, supply, rulebook), readings, peers, ambient_c)


def item(found: Sheet, quantity: str, point: str | None = None):
    return next(
        each for stage in found.stages for each in stage.items if (each.quantity, each.point) == (quantity, point)
    )


class Sheets(unittest.TestCase):
    def test_order_of_a_ring_and_of_a_radial(self) -> None:
        ring = [stage.id for stage in sheet(worked_ring()).stages]
        self.assertEqual(ring, ["isolation", "ring-1", "ring-2", "ring-3", "insulation", "polarity", "zs", "rcd"])
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
        odd = item(sheet(worked_ring(), read("cross-ln", 0.4, "P3")), "cross-ln", "P3").check
        self.assertIn("Over the 0.20", odd.caution)
        low = item(sheet(worked_ring(), read("cross-le", 0.11, "P3")), "cross-le", "P3").check
        self.assertIn("Under the", low.caution)

    def test_zs_is_held_to_the_measured_limit_unrounded(self) -> None:
        for value, verdict in ((1.09, "pass"), (1.096, "pass"), (1.10, "fail")):
            found = item(sheet(worked_ring(), read("zs", value, "P1")), "zs", "P1")
            self.assertEqual((found.limit, found.check.verdict), ("1.09", verdict))
        high = item(sheet(worked_ring(), read("zs", 0.9, "P1")), "zs", "P1").check
        self.assertIn("never higher", high.caution)
        iec = sheet(run(5, device=Device(rating_a=16)), rulebook=IEC)
        self.assertEqual(item(iec, "zs", "P1").limit, "1.91")

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
        slow = run(5, device=Device(rcd=Rcd(rated_ma=100, delayed=True)))
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
