"""Every table entry is reachable through the interface and is what the reference files say."""

import csv
import unittest
from pathlib import Path

from lumbek.core.model.circuit import Cable, Device
from lumbek.core.rulebooks.tables import DATA
from tests.support.houses import BS, IEC


def table(*parts: str) -> list[dict[str, str]]:
    return list(csv.DictReader(DATA.joinpath(*parts).read_text().splitlines()))


class Tables(unittest.TestCase):
    def test_every_rating_is_reachable(self) -> None:
        for book in (BS, IEC):
            rows_of = {}
            for name, kind in book.data.cables.items():
                rows_of.setdefault(kind.rating_rows, []).append((name, kind))
            for row in table(book.id, "cable_ratings.csv"):
                found = [
                    book.tabulated_capacity_a(
                        Cable(type=name, insulation=row["insulation"], csa_mm2=float(row["csa_mm2"])),
                        row["method"],
                        int(row["loaded_conductors"]),
                    )
                    for name, kind in rows_of[row["cable"]]
                    if row["method"] in kind.methods
                ]
                self.assertTrue(found, row)
                self.assertEqual({each[0] for each in found}, {float(row["current_a"])}, row)

    def test_every_zs_is_reachable(self) -> None:
        for row in table("bs7671", "max_zs.csv"):
            standard, _, curve = row["device"].partition("-en-60898-")
            standard = "bs-en-60898" if curve else row["device"]
            device = Device(standard=standard, curve=curve or None, rating_a=float(row["rating_a"]), rcd=None)
            self.assertEqual(BS.published_zs_ohm(device, float(row["disconnection_s"])), float(row["max_zs_ohm"]))

    def test_published_breaker_limits_follow_their_formula(self) -> None:
        for row in table("bs7671", "max_zs.csv"):
            if "60898" in row["device"]:
                trip = BS.data.fault_protection.trip_multiple[row["device"][-1]] * float(row["rating_a"])
                self.assertAlmostEqual(float(row["max_zs_ohm"]), 230 * 0.95 / trip, delta=0.011)

    def test_factors_drops_and_conductors(self) -> None:
        for book in (BS, IEC):
            for row in table(book.id, "ambient_factor.csv"):
                method = next(key for key, each in book.data.methods.items() if each.medium == row["medium"])
                found = book.ambient_factor(method, row["insulation"], float(row["temperature_c"]))
                self.assertEqual(found, float(row["factor"]))
            for row in table("common", "grouping_factor.csv"):
                self.assertEqual(book.grouping_factor(row["arrangement"], int(row["circuits"])), float(row["factor"]))
            for row in table("common", "voltage_drop.csv"):
                cable = Cable(insulation=row["insulation"], csa_mm2=float(row["csa_mm2"]))
                self.assertEqual(book.volt_drop_mv_per_a_m(cable, int(row["phases"])), float(row["mv_per_a_m"]))
            for row in table("common", "flat_cable_cpc.csv"):
                self.assertEqual(book.cpc_mm2(Cable(csa_mm2=float(row["line_csa_mm2"]))), float(row["cpc_csa_mm2"]))
            self.assertEqual(len(book.conductor_milliohm_per_m), len(table("common", "conductor_resistance.csv")))

    def test_disconnection_times(self) -> None:
        mcb = Device(rating_a=32)
        self.assertEqual(BS.disconnection_time_s(mcb, "fixed", True, "TN-S"), 0.4)
        self.assertEqual(BS.disconnection_time_s(Device(rating_a=45), "fixed", True, "TN-S"), 5)
        self.assertEqual(BS.disconnection_time_s(Device(rating_a=63), "sockets", True, "TN-C-S"), 0.4)
        self.assertEqual(BS.disconnection_time_s(mcb, "fixed", False, "TT"), 1)
        self.assertEqual(BS.disconnection_time_s(mcb, "sockets", True, "TT"), 0.2)

    def test_clauses_that_checks_name_exist_in_both(self) -> None:
        self.assertEqual(set(BS.data.clauses), set(IEC.data.clauses))
        self.assertTrue(Path(str(DATA)).is_dir())
