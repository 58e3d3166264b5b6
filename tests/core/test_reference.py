"""The data packs against the reference figures they were made from, row by row, and nothing that was never there."""

import csv
import json
import unittest
from collections.abc import Iterator
from pathlib import Path

from lumbek.core.model.cable import Cable
from tests.support.houses import BS, IEC
from tests.support.stated import a_device

REFERENCE = Path(__file__).resolve().parents[1] / "reference"
BOOKS = {"bs7671": BS, "iec60364": IEC}
# Where the reference names a row of ratings, the cables of the pack that are rated by it.
ARMOURED = Cable(type="armoured", cpc_by="armour")


def reference(name: str) -> list[dict[str, str]]:
    return list(csv.DictReader((REFERENCE / f"{name}.csv").read_text(encoding="utf-8").splitlines()))


class Reference(unittest.TestCase):
    def test_capacities(self) -> None:
        seen = {"bs7671": 0, "iec60364": 0}
        for row in reference("cable_ratings"):
            book = BOOKS[row["rulebook"]]
            rated = [name for name, kind in book.data.cables.items() if kind.rating_rows == row["cable"]]
            self.assertTrue(rated, row)
            found = set()
            for name in rated:
                cable = Cable(type=name, insulation=row["insulation"], csa_mm2=float(row["csa_mm2"]))
                found.add(book.tabulated_capacity_a(cable, row["method"], int(row["loaded_conductors"])))
            # A cable that cannot be laid so has no figure; every other has this one.
            self.assertEqual(found - {None}, {(float(row["current_a"]), row["table"])}, row)
            seen[row["rulebook"]] += 1
        for book_id, count in seen.items():
            self.assertEqual(count, len(BOOKS[book_id]._ratings), "rows that the reference does not have")

    def test_ambient_factors(self) -> None:
        for book_id, book in BOOKS.items():
            rows = [row for row in reference("ambient_factor") if row["rulebook"] in (book_id, "both")]
            for row in rows:
                table = book._ambient[row["medium"], row["insulation"]]
                self.assertEqual(table[float(row["temperature_c"])], float(row["factor"]), row)
            self.assertEqual(sum(len(table) for table in book._ambient.values()), len(rows))

    def test_grouping_and_insulation(self) -> None:
        for book in BOOKS.values():
            for row in reference("grouping_factor"):
                found = book.grouping_factor(row["arrangement"], int(row["circuits"]))
                self.assertEqual(found, float(row["factor"]), row)
            for row in reference("insulation_factor"):
                found = book.insulation_factor(float(row["length_in_insulation_mm"]))
                self.assertEqual(found, float(row["factor"]), row)

    def test_grouping_in_the_ground(self) -> None:
        lays = {"direct": "D2", "duct": "D1"}
        for row in reference("grouping_ground"):
            found = IEC.ground_grouping_factor(lays[row["laid"]], row["spacing"], int(row["circuits"]))
            self.assertEqual(found, float(row["factor"]), row)
        # Where a method covers both, the lower.
        self.assertEqual(BS.ground_grouping_factor("D", "touching", 3), 0.65)
        self.assertEqual(BS.ground_grouping_factor("D", "touching", 1), 1)
        self.assertIsNone(BS.ground_grouping_factor("D", "touching", 7))
        self.assertIsNone(IEC.ground_grouping_factor("D1", "one-diameter", 2))

    def test_voltage_drop(self) -> None:
        for book in BOOKS.values():
            for row in reference("voltage_drop"):
                cable = Cable(type="multicore", insulation=row["insulation"], csa_mm2=float(row["csa_mm2"]))
                self.assertEqual(book.volt_drop_mv_per_a_m(cable, int(row["phases"])), float(row["mv_per_a_m"]), row)

    def test_resistances_of_cores_cpcs_and_armour(self) -> None:
        for book in BOOKS.values():
            for row in reference("conductor_resistance"):
                cable = Cable(type="single-core", csa_mm2=float(row["csa_mm2"]))
                for conductor in ("L", "N", "E"):
                    self.assertEqual(book.milliohm_per_m(cable, conductor), float(row["milliohm_per_m_20c"]), row)
            for row in reference("flat_cable_cpc"):
                for kind in ("flat-twin-and-earth", "flat-three-core-and-earth"):
                    cable = Cable(type=kind, csa_mm2=float(row["line_csa_mm2"]))
                    self.assertEqual(book.cpc_mm2(cable), float(row["cpc_csa_mm2"]), row)
            for row in reference("armour_resistance"):
                cable = ARMOURED.model_copy(update={"cores": int(row["cores"]), "csa_mm2": float(row["csa_mm2"])})
                found = book.milliohm_per_m(cable, "E")
                self.assertEqual(found, float(row["armour_milliohm_per_m_20c_max"]), row)

    def test_greatest_zs_as_published(self) -> None:
        old = [row for row in reference("old_stock") if row["what"].startswith("zs_")]
        rows = reference("max_zs_bs7671") + [
            {
                "device": row["name"].partition("-")[0],
                "rating_a": row["name"].partition("-")[2],
                "disconnection_s": row["what"][3:-1],
                "max_zs_ohm": row["figure"],
            }
            for row in old
        ]
        of_gates = [key for key in BS._published_zs if key[0] == "iec60269"]
        self.assertEqual(len(rows), len(BS._published_zs) - len(of_gates))
        for row in rows:
            breaker = row["device"].startswith("bs-en-60898")
            standard = "bs-en-60898" if breaker else row["device"]
            curve = row["device"][-1] if breaker else None
            device = a_device(standard=standard, curve=curve, rating_a=float(row["rating_a"]), rcd=None)
            found = BS.published_zs_ohm(device, float(row["disconnection_s"]))
            self.assertEqual(found, float(row["max_zs_ohm"]), row)


class Rules(unittest.TestCase):
    """The figures of the written rules, restated once more by hand."""

    def test_supply(self) -> None:
        for book, ze, declared in (
            (
                BS,
                {
                    "TN-S": 0.80,
                    "TN-C-S": 0.35,
                },
                16,
            ),
            (IEC, {}, None),
        ):
            supply = book.data.supply
            self.assertEqual((supply.u0_v, supply.u_v), (230, 400))
            self.assertEqual(supply.assumed_ze_ohm, ze)
            self.assertEqual(supply.assumed_fault_current_ka, declared)
            self.assertEqual(supply.earthing_systems, ("TN-S", "TN-C-S", "TT"))

    def test_disconnection(self) -> None:
        for book, cmin, part in ((BS, 0.95, 0.8), (IEC, 1.0, 2 / 3)):
            rules = book.data.fault_protection
            self.assertEqual({key: rules.trip_multiple[key] for key in "BCD"}, {"B": 5, "C": 10, "D": 20})
            for row in reference("old_stock"):
                if row["what"] == "breaker":
                    self.assertEqual(rules.trip_multiple[row["name"][-1]], float(row["figure"]), row)
            self.assertEqual((rules.final_s.TN, rules.final_s.TT, rules.other_s.TN, rules.other_s.TT), (0.4, 0.2, 5, 1))
            self.assertEqual((rules.socket_final_up_to_a, rules.fixed_final_up_to_a), (63, 32))
            self.assertEqual((rules.cmin, rules.touch_voltage_v), (cmin, 50))
            self.assertAlmostEqual(book.measured_zs_factor, part)

    def test_rings_radials_and_drops(self) -> None:
        for book in BOOKS.values():
            ring, radial = book.data.ring, book.data.socket_radial
            self.assertEqual((ring.ratings_a, ring.min_csa_mm2, ring.min_iz_a), ((30, 32), 2.5, 20))
            self.assertEqual((ring.floor_area_m2, ring.far_a, radial.far_a), (100, 20, 20))
            self.assertEqual(radial.floor_area_m2, {"20": 50, "32": 75})
            self.assertEqual((book.volt_drop_limit_percent(True), book.volt_drop_limit_percent(False)), (3, 5))

    def test_withstand_leakage_and_tests(self) -> None:
        for book in BOOKS.values():
            self.assertEqual(book.data.withstand.k, {"pvc70": 115, "xlpe90": 143})
            self.assertEqual(book.data.withstand.k_armour, {"pvc70": 51, "xlpe90": 46})
            self.assertEqual((book.data.residual.leakage_fraction, book.data.residual.selective_ratio), (0.3, 3))
            for curve, rating, energies in (
                ("B", 16, (15000, 35000, 70000)),
                ("B", 20, (18000, 45000, 90000)),
                ("B", 32, (18000, 45000, 90000)),
                ("C", 6, (17000, 42000, 84000)),
                ("C", 32, (20000, 55000, 110_000)),
            ):
                device = a_device(curve=curve, rating_a=rating)
                for fault_ka, energy in zip((3, 6, 10), energies, strict=True):
                    self.assertEqual(book.let_through_a2s(device, fault_ka), (energy, fault_ka))
                self.assertIsNone(book.let_through_a2s(device, 10.1))
            self.assertIsNone(book.let_through_a2s(a_device(curve="B", rating_a=40), 1))
            self.assertIsNone(book.let_through_a2s(a_device(curve="D", rating_a=16), 1))
            tests = book.data.testing
            self.assertEqual((tests.insulation_v, tests.insulation_mohm, tests.ring_ends_within_ohm), (500, 1, 0.05))
            self.assertEqual((tests.rcd_trip_ms, tests.rcd_s_trip_ms, tests.rcd_five_times_ms), (300, (130, 500), 40))

    def test_lookups_off_the_tables_are_none_not_guesses(self) -> None:
        for book in BOOKS.values():
            odd = Cable(csa_mm2=3.3)
            self.assertIsNone(book.tabulated_capacity_a(odd, "C"))
            self.assertIsNone(book.tabulated_capacity_a(Cable(), "no such method"))
            self.assertIsNone(book.milliohm_per_m(odd, "L"))
            self.assertIsNone(book.volt_drop_mv_per_a_m(odd))
            self.assertIsNone(book.cpc_mm2(Cable(csa_mm2=25)))
            self.assertIsNone(book.grouping_factor("bunched-or-enclosed", 99))
            self.assertIsNone(book.depth_factor(3.5))
            method = next(iter(book.data.methods))
            self.assertIsNone(book.ambient_factor(method, "pvc70", 99))
            self.assertIsNone(book.published_zs_ohm(a_device(standard="bs1362", curve=None, rating_a=7, rcd=None), 0.4))


class Copies(unittest.TestCase):
    """Copies kept by hand: a figure that changes in the data must be meant, and is changed here as well."""

    def test_every_figure_of_the_rules(self) -> None:
        copies = json.loads((REFERENCE / "rule_figures.json").read_text(encoding="utf-8"))
        for book_id, book in BOOKS.items():
            found = dict(_figures("", json.loads((book.pack / "rules.json").read_text(encoding="utf-8"))))
            self.assertEqual(found, copies[book_id])

    def test_old_conductors_by_their_copper_area(self) -> None:
        kept = {row["name"]: float(row["figure"]) for row in reference("old_stock") if row["what"] == "conductor"}
        with (BS.common / "imperial.csv").open(encoding="utf-8") as file:
            found = {row["stranding"]: row for row in csv.DictReader(file)}
        self.assertEqual({name: float(row["csa_mm2"]) for name, row in found.items()}, kept)
        for row in found.values():
            # Copper of that area is no better than the sizes of today: 18.1 to 18.6 mΩ mm² / m.
            self.assertTrue(18.0 < float(row["csa_mm2"]) * float(row["milliohm_per_m_20c"]) < 18.6, row)
        self.assertEqual([BS.rated_csa_mm2(csa) for csa in (1.0, 1.3, 2.0, 3.0, 4.6, 6.9)], [1, 1, 1.5, 2.5, 4, 6])

    def test_what_is_usual_for_each_kind(self) -> None:
        copies = json.loads((REFERENCE / "rule_figures.json").read_text(encoding="utf-8"))["kinds"]
        for book in BOOKS.values():
            for kind, rules in book.kinds.items():
                if kind not in book.data.usual:
                    pairs = [[pair.rating_a, pair.csa_mm2] for pair in rules.usual]
                    self.assertEqual(pairs, copies[kind], kind)

    def test_soil_depth_flex_and_let_through(self) -> None:
        for book in BOOKS.values():
            for name in ("soil_factor", "depth_factor", "flex", "let_through", "grouping_ground"):
                with (book.common / f"{name}.csv").open(encoding="utf-8") as kept:
                    self.assertEqual(list(csv.DictReader(kept)), reference(name), name)
            for row in reference("flex"):
                cord = Cable(type="flex", csa_mm2=float(row["csa_mm2"]))
                self.assertEqual(book.tabulated_capacity_a(cord, "flex")[0], float(row["current_a"]))
                self.assertEqual(book.milliohm_per_m(cord, "L"), float(row["milliohm_per_m_20c"]))
                self.assertEqual(book.volt_drop_mv_per_a_m(cord), float(row["mv_per_a_m"]))
            for row in reference("depth_factor"):
                self.assertEqual(book.depth_factor(float(row["depth_m"])), float(row["factor"]))


_WORDS = ("clauses", "guidance", "methods", "cables")


def _figures(path: str, value: object) -> Iterator[tuple[str, object]]:
    """Yield every figure of a rulebook's rules with its path; words and what belongs to them apart."""
    if isinstance(value, dict):
        for key, each in value.items():
            if path or key not in _WORDS:
                yield from _figures(f"{path}.{key}" if path else key, each)
    elif isinstance(value, list):
        if not any(isinstance(each, dict | list) for each in value):
            yield path, value
    elif value is None or isinstance(value, int | float):
        yield path, value
