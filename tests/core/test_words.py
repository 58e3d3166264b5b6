"""How things are said: problems, choices, the rulebook laid open, the text report."""

import unittest

from pydantic import BaseModel, Field, ValidationError

from lumbek.core.choices import choices
from lumbek.core.judging.answers import answer_circuits
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.job import Job, JobCircuit
from lumbek.core.model.supply import Supply
from lumbek.core.numbers import plain, show
from lumbek.core.rulebooks.page import rulebook_page
from lumbek.exchange.problems import problems_of
from lumbek.exchange.text_report import circuit_lines
from tests.support.houses import BS, IEC, SUPPLY, fixed, run, worked_ring


class Problems(unittest.TestCase):
    def reasons(self, model: type[BaseModel], data: object) -> dict[str, str]:
        with self.assertRaises(ValidationError) as refused:
            model.model_validate(data)
        return {each.field: each.reason for each in problems_of(refused.exception)}

    def test_each_kind_of_slip_is_said_plainly(self) -> None:
        found = self.reasons(
            Supply,
            {
                "ze_ohm": -1,
                "fault_current_ka": "lots",
                "earthing": "IT",
                "phases": 2,
                "board": "x" * 90,
                "spare": 1,
                "tails": {"length_m": 400},
            },
        )
        self.assertEqual(found["ze_ohm"], "must be 0 Ω or more")
        self.assertEqual(found["fault_current_ka"], "must be a number")
        self.assertIn("must be one of", found["earthing"])
        self.assertIn("must be one of", found["phases"])
        self.assertEqual(found["board"], "may have 80 characters at most")
        self.assertEqual(found["spare"], "is not a field of this format")
        self.assertEqual(found["tails.length_m"], "must be 100 m or less")

    def test_circuit_slips(self) -> None:
        found = self.reasons(
            Circuit, {"number": 1.5, "name": " ", "device": {"curve": None}, "points": [{"id": "b d"}]}
        )
        self.assertEqual(found["number"], "must be a whole number")
        self.assertEqual(found["name"], "must not be empty")
        self.assertEqual(found["device.curve"], "a circuit-breaker is type B, C or D; one of BS 3871 is type 1 to 4")
        self.assertIn("characters", found["points.0.id"])

    def test_missing_and_infinite(self) -> None:
        class Needed(BaseModel):
            figure: float = Field(allow_inf_nan=False)

        self.assertEqual(self.reasons(Needed, {}), {"figure": "is missing"})
        self.assertEqual(self.reasons(Needed, {"figure": float("inf")}), {"figure": "must be a finite number"})

    def test_no_more_than_a_page_of_them(self) -> None:
        many = {"points": [{"id": f"P{i}", "kind": "nonsense"} for i in range(60)]}
        self.assertEqual(len(self.reasons(Circuit, many)), 20)


class Figures(unittest.TestCase):
    def test_idle_digits_are_left_out_or_kept_as_meant(self) -> None:
        self.assertEqual([plain(each) for each in (2.5, 32.0, 0.35)], ["2.5", "32", "0.35"])
        self.assertEqual(show(0.6), "0.60")


class Offered(unittest.TestCase):
    def test_old_copper_is_offered_by_its_strands_where_it_was_drawn(self) -> None:
        for book in (BS, IEC):
            found = {each.id: [size.words for size in each.old_sizes] for each in choices(book).cables}
            self.assertIn("3 mm² (7/.029)", found["flat-twin-and-earth"])
            self.assertEqual(found["armoured"], [])

    def test_everything_offered_is_accepted(self) -> None:
        for book in (BS, IEC):
            offered = choices(book)
            for cable in offered.cables:
                self.assertTrue(cable.csas_mm2 and cable.methods)
                Circuit.model_validate({"cable": {"type": cable.id, "insulation": cable.insulations[0]}})
            for device in offered.devices:
                curve = device.curves[0] if device.curves else None
                for rating in device.ratings_a:
                    device_of = {"standard": device.id, "curve": curve, "rating_a": rating}
                    Circuit.model_validate({"device": device_of})
            for kind in offered.kinds:
                Circuit.model_validate({"kind": kind.id})
                self.assertTrue(kind.special)
            for appliance in offered.appliances:
                self.assertGreater(appliance.load.design_current_a(230), 0)

    def test_methods_in_the_ground(self) -> None:
        self.assertEqual(choices(BS).methods_in_ground, ("D",))
        self.assertEqual(choices(IEC).methods_in_ground, ("D1", "D2"))


class LaidOpen(unittest.TestCase):
    def test_every_table_and_clause_is_on_the_page(self) -> None:
        for book in (BS, IEC):
            page = rulebook_page(book)
            self.assertEqual(len(page.clauses), len(book.data.clauses))
            self.assertTrue(all(table.rows and len(table.rows[0]) == len(table.columns) for table in page.tables))
        self.assertIn("Greatest Zs as published", [table.title for table in rulebook_page(BS).tables])
        self.assertNotIn("Greatest Zs as published", [table.title for table in rulebook_page(IEC).tables])

    def test_differences_are_differences(self) -> None:
        for each in rulebook_page(BS).differences:
            self.assertNotEqual(each.bs7671, each.iec60364)
        by_topic = {each.topic: each for each in rulebook_page(BS).differences}
        self.assertEqual(by_topic["Part of the Zs limit that a cold measurement may reach"].iec60364, "2/3")


class Report(unittest.TestCase):
    def text(self, circuit: Circuit) -> str:
        job = Job(supply=SUPPLY, circuits=(JobCircuit(design=circuit),))
        return "\n".join(line for answer in answer_circuits(job) for line in circuit_lines(answer))

    def test_a_failure_comes_with_its_working(self) -> None:
        text = self.text(fixed(14, 9500, 45, 10, method="101"))
        self.assertIn("FAIL  Cable capacity", text)
        self.assertIn("Table 4D5: 10 mm², method 101", text)

    def test_what_is_open_says_what_it_needs(self) -> None:
        text = self.text(run(5, None))
        self.assertIn("needs: reading of R1+R2 at P2, which settles most; length of P1 to P2", text)

    def test_what_passes_is_one_line(self) -> None:
        lines = self.text(worked_ring()).splitlines()
        self.assertTrue(any(line.startswith("  pass  Fault loop Zs") and "at S1" in line for line in lines))
        self.assertNotIn("Bath zones", "\n".join(lines))
