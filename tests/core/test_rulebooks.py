"""What the tables and clauses of a rulebook say of each other, and which edition is in force."""

import csv
import json
import shutil
import tempfile
import unittest
from pathlib import Path

from pydantic import ValidationError

from lumbek.core.model.job import JobHead
from lumbek.core.rulebooks import UnknownEditionError, rulebook_of
from lumbek.core.rulebooks.pack import editions_of, packs_in
from lumbek.core.rulebooks.tables import DATA
from tests.support.houses import BS, IEC, check, judged, run
from tests.support.stated import a_device


def table(*parts: str) -> list[dict[str, str]]:
    return list(csv.DictReader(DATA.joinpath(*parts).read_text().splitlines()))


class Tables(unittest.TestCase):
    def test_published_breaker_limits_follow_their_formula(self) -> None:
        for row in table("common", "max_zs.csv"):
            if "60898" in row["device"]:
                trip = BS.data.fault_protection.trip_multiple[row["device"][-1]] * float(row["rating_a"])
                self.assertAlmostEqual(float(row["max_zs_ohm"]), 230 * 0.95 / trip, delta=0.011)

    def test_fuses_by_the_gates_of_iec_60269(self) -> None:
        """Their currents are never less than the standard's, and a size it does not list takes the next larger."""
        gates = {16: (107, 65), 20: (145, 85), 25: (180, 110), 32: (265, 150), 35: (285, 173), 40: (310, 190)}
        gates |= {50: (460, 250), 63: (550, 320)}
        for rating, amps in gates.items():
            fuse = a_device(standard="iec60269", curve=None, rating_a=rating, rcd=None)
            for book in (BS, IEC):
                for time_s, gate in zip((0.4, 5), amps, strict=True):
                    trip = book.trip_current_a(fuse, time_s)
                    self.assertTrue(gate <= trip <= gate * 1.003, (rating, time_s, trip))
        fuse = a_device(standard="iec60269", curve=None, rating_a=10, rcd=None)
        self.assertAlmostEqual(IEC.trip_current_a(fuse, 0.4), 107, delta=0.1)
        self.assertIsNone(IEC.trip_current_a(fuse.model_copy(update={"rating_a": 80}), 5))
        self.assertAlmostEqual(IEC.needed_iz_a(fuse), 10 * 1.9 / 1.45)

    def test_disconnection_times(self) -> None:
        mcb = a_device(rating_a=32)
        self.assertEqual(BS.disconnection_time_s(mcb, False, True, "TN-S"), 0.4)
        self.assertEqual(BS.disconnection_time_s(a_device(rating_a=45), False, True, "TN-S"), 5)
        self.assertEqual(BS.disconnection_time_s(a_device(rating_a=63), True, True, "TN-C-S"), 0.4)
        self.assertEqual(BS.disconnection_time_s(mcb, False, False, "TT"), 1)
        self.assertEqual(BS.disconnection_time_s(mcb, True, True, "TT"), 0.2)

    def test_clauses_that_checks_name_exist_in_both(self) -> None:
        self.assertEqual(set(BS.data.clauses), set(IEC.data.clauses))


class Editions(unittest.TestCase):
    def folder_with(self, **changes: object) -> Path:
        """A folder of packs: the two of the application, and one more made from BS 7671 with other figures."""
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()), "packs")
        shutil.copytree(str(DATA), folder)
        shutil.copytree(folder / "bs7671", folder / "the-next-one")
        rules_file = folder / "the-next-one" / "rules.json"
        rules = json.loads(rules_file.read_text(encoding="utf-8"))
        rules_file.write_text(json.dumps({**rules, **changes}), encoding="utf-8")
        return folder

    def test_the_newest_comes_first_and_the_older_stays(self) -> None:
        folder = self.folder_with(edition="2030", since="2030-01-01")
        self.assertEqual(
            [each.data.edition for each in editions_of("bs7671", packs_in(folder))], ["2030", BS.data.edition]
        )
        self.assertEqual([each.data.edition for each in editions_of("iec60364", packs_in(folder))], [IEC.data.edition])
        older = self.folder_with(edition="1970", since="1970-01-01")
        self.assertEqual(
            [each.data.edition for each in editions_of("bs7671", packs_in(older))], [BS.data.edition, "1970"]
        )

    def test_a_changed_pack_changes_answers_without_a_line_of_code(self) -> None:
        stricter = {**BS.data.model_dump(mode="json")["volt_drop"], "other_percent": 1.0}
        folder = self.folder_with(edition="2030", since="2030-01-01", volt_drop=stricter)
        new, old = editions_of("bs7671", packs_in(folder))
        circuit = run(20, 20, device=a_device(rating_a=16))
        self.assertEqual(check(judged(circuit, rulebook=new), "volt-drop").limit, 1)
        self.assertEqual(judged(circuit, rulebook=new).edition, "2030")
        self.assertEqual(check(judged(circuit, rulebook=old), "volt-drop").limit, 5)

    def test_a_pack_that_lacks_something_is_refused_by_name(self) -> None:
        folder = self.folder_with(edition="2030")
        rules_file = folder / "the-next-one" / "rules.json"
        rules = json.loads(rules_file.read_text(encoding="utf-8"))
        del rules["fault_protection"]["cmin"]
        rules_file.write_text(json.dumps(rules), encoding="utf-8")
        with self.assertRaisesRegex(ValidationError, "cmin"):
            editions_of("bs7671", packs_in(folder))

    def test_a_job_is_judged_by_its_own_edition(self) -> None:
        self.assertIs(rulebook_of(JobHead()), BS)
        self.assertIs(rulebook_of(JobHead(edition=BS.data.edition)), BS)
        self.assertIs(rulebook_of(JobHead(rulebook="iec60364")), IEC)
        with self.assertRaisesRegex(UnknownEditionError, "1950 is not known here; known are"):
            rulebook_of(JobHead(edition="1950"))
