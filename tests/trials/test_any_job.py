"""Properties over whole jobs: nothing that the model accepts breaks, is lost, or is passed by rounding."""

import contextlib
import io
import json
import tempfile
import unittest
from pathlib import Path

from hypothesis import given, settings

from lumbek.cli import main
from lumbek.core.choosing.propose import propose
from lumbek.core.documents.gathered import gather
from lumbek.core.documents.paper import BLANK
from lumbek.core.documents.schedule import schedule_paper
from lumbek.core.judging.answers import answer_circuits
from lumbek.core.judging.check import Check, Verdict, worst_of
from lumbek.core.missing import OTHER
from lumbek.core.model.job import Job
from lumbek.core.study.lengths import settle
from lumbek.core.survey.judgement import judge_supply
from lumbek.exchange.job_file import read_job, write_job
from lumbek.exchange.paper_csv import paper_csv
from lumbek.exchange.written_figure import without_noise
from tests.support.houses import BS, IEC, SUPPLY, judged
from tests.support.random_jobs import designs, jobs

slow = settings(max_examples=60)


class AnyJob(unittest.TestCase):
    def sound(self, check: Check) -> None:
        """What every check must be, whatever it says."""
        self.assertTrue(check.title and check.answer and check.clause.ref and check.clause.text, check)
        self.assertEqual(bool(check.missing), check.verdict is Verdict.CANNOT_TELL, check)
        self.assertEqual(len(check.missing_codes), len(check.missing), check)
        self.assertNotIn(OTHER, check.missing_codes, check.missing)
        if check.margin is not None and check.verdict in (Verdict.PASS, Verdict.FAIL):
            self.assertEqual(check.margin >= 0, check.verdict is Verdict.PASS, check)

    @slow
    @given(jobs())
    def test_every_answer_is_whole(self, job: Job) -> None:
        for answer in answer_circuits(job):
            for check in answer.result.checks:
                self.sound(check)
            for stage in answer.tests.stages:
                for item in stage.items:
                    self.assertEqual(item.reading is None, item.check is None)
                    if item.expected:
                        self.assertLessEqual(item.expected.low, item.expected.value)
                        self.assertLessEqual(item.expected.value, item.expected.high)
        for check in judge_supply(BS if job.rulebook == "bs7671" else IEC, job.supply).checks:
            self.sound(check)

    @slow
    @given(jobs())
    def test_the_file_there_and_back(self, job: Job) -> None:
        text = write_job(job)
        self.assertEqual(read_job(text.encode()), job)
        self.assertEqual(write_job(read_job(text.encode())), text)

    @slow
    @given(jobs())
    def test_the_schedule_says_why_it_is_a_draft(self, job: Job) -> None:
        paper = schedule_paper(gather(job))
        self.assertEqual(paper.draft, bool(paper.missing))
        (table,) = paper.tables
        self.assertEqual(len(table.rows), len(job.circuits))
        for row in table.rows:
            self.assertEqual(set(row.cells), {column.key for column in table.columns})
            self.assertTrue(all(cell for cell in row.cells.values()))
            # The in-order words only stand where nothing speaks against them.
            if row.cells["design"] == "pass" and row.cells["tests"] == "pass":
                self.assertEqual(row.cells["state"], "in order")
        self.assertEqual(paper_csv(paper).count("\r\n") >= len(job.circuits) + 1, True)
        self.assertNotEqual(BLANK, "")

    @settings(max_examples=15)
    @given(jobs())
    def test_the_shell_says_the_same_as_the_core(self, job: Job) -> None:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder, "job.json")
            path.write_text(write_job(job), encoding="utf-8")
            out = io.StringIO()
            with contextlib.redirect_stdout(out):
                code = main(["calc", str(path)])
            with contextlib.redirect_stdout(io.StringIO()) as text:
                self.assertEqual(main(["calc", "--text", str(path)]), code)
        printed = json.loads(out.getvalue())
        answers = list(answer_circuits(job))
        wanted = [{"verdict": each.verdict.value, **json.loads(each.model_dump_json())} for each in answers]
        self.assertEqual(printed["circuits"], without_noise(wanted))
        survey = judge_supply(BS if job.rulebook == "bs7671" else IEC, job.supply).verdict
        whole = worst_of((survey, *(each.verdict for each in answers)))
        self.assertEqual((printed["verdict"], code), (whole.value, {"pass": 0, "fail": 1}.get(whole.value, 3)))
        self.assertIn(f"{len(job.circuits)} circuits", text.getvalue())

    @settings(max_examples=12)
    @given(designs)
    def test_every_proposal_is_a_circuit_and_keeps_its_word(self, design) -> None:
        found = propose(BS, SUPPLY, design, "rcbo-each")
        for size in found.sizes.sizes:
            self.assertNotEqual(judged(size.design).verdict, Verdict.FAIL)
        failing = {check.title for check in judged(design).checks if check.verdict is Verdict.FAIL}
        for mend in found.mends:
            self.assertTrue(set(mend.mends) <= failing)
            self.assertTrue(set(mend.leaves) < failing)
        for limit in found.reach.limits:
            self.assertGreaterEqual(limit.factor, 0)

    @slow
    @given(designs)
    def test_ranges_are_covered_from_end_to_end(self, design) -> None:
        resolved = settle(BS, design)
        ranged = any(segment.length_to_m is not None for leg in design.legs for segment in leg.segments)
        self.assertEqual(len(resolved.variants) > 1, ranged)
        for variant in resolved.variants:
            self.assertTrue(all(s.length_to_m is None for leg in variant.legs for s in leg.segments))
        low, high = resolved.variants[0], resolved.variants[-1]
        for short, mid, long in zip(low.legs, settle(BS, design).middle.legs, high.legs, strict=True):
            if short.length_m is not None:
                self.assertLessEqual(short.length_m, mid.length_m + 1e-9)
                self.assertLessEqual(mid.length_m, long.length_m + 1e-9)

    @slow
    @given(designs)
    def test_a_range_never_passes_what_one_of_its_ends_fails(self, design) -> None:
        whole = {check.id: check.verdict for check in judged(design).checks}
        for variant in settle(BS, design).variants:
            for check in judged(variant).checks:
                if check.verdict is Verdict.FAIL:
                    self.assertNotEqual(whole[check.id], Verdict.PASS, check.id)
