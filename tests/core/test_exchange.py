"""The job file there and back, the shell command, the schedule's formats."""

import contextlib
import csv
import html
import io
import json
import re
import subprocess
import sys
import tempfile
import tracemalloc
import unittest
from importlib.resources import files
from pathlib import Path
from unittest import mock

import jsonschema
from fontTools.ttLib import TTFont
from weasyprint.urls import URLFetchingError

from lumbek.cli import main
from lumbek.core.documents.calculation import calculation_paper
from lumbek.core.documents.gathered import gather
from lumbek.core.documents.registry import KINDS, make_paper
from lumbek.core.documents.results import results_paper
from lumbek.core.documents.schedule import schedule_paper
from lumbek.core.model.ahead import OwnEarth
from lumbek.core.model.job import Job, JobCircuit
from lumbek.exchange import paper_pdf as paper_module
from lumbek.exchange.job_file import JobFileError, job_schema, read_job, write_job
from lumbek.exchange.job_stream import JobStream
from lumbek.exchange.paper_csv import paper_csv
from lumbek.exchange.paper_pdf import NO_PHOTOS, paper_fetcher, paper_html, paper_pdf
from lumbek.exchange.readings_csv import read_figure, read_readings
from tests.support.houses import AT, SUPPLY, read, run, worked_ring

HOUSE = files("lumbek.services") / "demo_data" / "signal_box.json"
BOATHOUSE = files("lumbek.services") / "demo_data" / "boathouse.json"


def lumbek(*arguments: str) -> tuple[int, str, str]:
    out, err = io.StringIO(), io.StringIO()
    with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
        code = main(list(arguments))
    return code, out.getvalue(), err.getvalue()


def finished() -> Job:
    """A job whose one circuit complies and is tested throughout."""
    circuit = run(5, 4)
    circuit = circuit.model_copy(update={"device": circuit.device.model_copy(update={"rating_a": 20})})
    readings = [
        *(read(quantity="r1+r2", point=point, value=0.15) for point in ("P1", "P2")),
        *(read(quantity="zs", point=point, value=0.35) for point in ("P1", "P2")),
        *(read(quantity=quantity, value=999, beyond=True) for quantity in ("insulation-ll", "insulation-le")),
        *(read(quantity=quantity, correct=True) for quantity in ("isolation", "polarity", "rcd-button")),
        read(quantity="rcd-trip", value=22),
    ]
    whole = [
        *(read(quantity=quantity, correct=True) for quantity in ("isolation", "supply-polarity", "function")),
        read(quantity="earth-continuity", value=0.03),
        read(quantity="board-insulation", value=200),
        read(quantity="ze", value=0.21),
        read(quantity="fault-current", value=1.1),
    ]
    circuits = (JobCircuit(design=circuit, readings=tuple(readings)),)
    return Job(name="Small", supply=SUPPLY, circuits=circuits, readings=tuple(whole))


class JobFile(unittest.TestCase):
    def test_there_and_back_byte_for_byte(self) -> None:
        once = write_job(read_job(HOUSE.read_bytes()))
        self.assertEqual(write_job(read_job(once.encode())), once)
        self.assertEqual(once, HOUSE.read_text(encoding="utf-8"))

    def test_fits_its_published_schema(self) -> None:
        jsonschema.validate(json.loads(HOUSE.read_text(encoding="utf-8")), job_schema())

    def test_wrong_files_name_place_and_reason(self) -> None:
        good = json.loads(HOUSE.read_text(encoding="utf-8"))

        def changed(**changes: object) -> bytes:
            return json.dumps({**good, **changes}).encode()

        legs = [{"design": {"points": [{"id": "P1"}], "legs": [{"id": "L1", "a": "board", "b": "P9"}]}}]
        segment = {"id": "L1", "a": "board", "b": "P1", "segments": [{"length_m": -4}]}
        short = [{"design": {"points": [{"id": "P1"}], "legs": [segment]}}]
        many = [{"design": {"points": [{"id": f"P{i}"} for i in range(10_000)]}}]
        for raw, words in (
            (b"{", "line 1"),
            (b"\xff\xfe", "UTF-8"),
            (b'{"format": "lumbek-job", "x": NaN}', "NaN"),
            (b"[1, 2]", "lumbek-job"),
            (b'{"format": "other"}', "lumbek-job"),
            (b"[" * 100_000, "not JSON"),
            (changed(circuits=legs), "circuits.0.design.legs: leg L1 ends (b) at 'P9'"),
            (changed(circuits=short), "length_m: must be 0.001 m or more"),
            (changed(circuits=many), "200 at most, not 10000"),
            (changed(rulebook="nec"), "rulebook: must be one of"),
            (changed(colour="red"), "colour: is not a field"),
            (changed(name="a\x00b"), "name: holds a character"),
        ):
            with self.assertRaises(JobFileError) as refused:
                read_job(raw)
            self.assertIn(words, str(refused.exception))


class Shell(unittest.TestCase):
    def test_calc_prints_everything_as_json(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder, "job.json")
            job = Job(supply=SUPPLY, circuits=(JobCircuit(design=worked_ring()),))
            path.write_text(write_job(job), encoding="utf-8")
            code, out, _ = lumbek("calc", str(path))
            answer = json.loads(out)
            self.assertEqual((code, answer["rulebook"]), (0, "bs7671"))
            result = answer["circuits"][0]["result"]
            self.assertEqual(result["shape"]["kind"], "ring-with-spurs")
            self.assertAlmostEqual(result["ring"]["r1_ohm"], 0.400, places=3)
            code, text, _ = lumbek("calc", "--text", str(path))
            self.assertIn("Circuit 1", text)
            self.assertIn("at S1", text)

    def test_bad_files_end_with_2_and_no_traceback(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder, "bad.json")
            path.write_text('{"format": "lumbek-job", "supply": {"ze_ohm": "high"}}', encoding="utf-8")
            done = subprocess.run(
                [sys.executable, "-m", "lumbek.cli", "calc", str(path)], capture_output=True, text=True, check=False
            )
            self.assertEqual((done.returncode, done.stdout), (2, ""))
            self.assertIn("supply.ze_ohm: must be a number", done.stderr)
            self.assertNotIn("Traceback", done.stderr)
            self.assertEqual(lumbek("calc", str(Path(folder, "none.json")))[0], 2)

    def test_routes_and_take_off(self) -> None:
        code, out, _ = lumbek("routes", str(HOUSE))
        told = json.loads(out)
        legs = {(leg["circuit"], leg["leg"]): leg for leg in told["routes"]["legs"]}
        first = legs["C1", "L1"]
        self.assertEqual((code, first["why_not"], first["slack_mm"]), (0, "", 1300))
        self.assertEqual(sum(piece["mm"] for piece in first["pieces"]), first["way_mm"])
        # Cable is the sum of its cuts.
        items = {item["key"]: item["count"] for item in told["take_off"]["items"]}
        for cable in told["take_off"]["cuts"]:
            self.assertEqual(items[cable["key"]], sum(cut["mm"] for cut in cable["cuts"]))

    def test_switching_proves_plans_and_mends(self) -> None:
        code, out, _ = lumbek("switching", str(HOUSE), "--circuit", "11")
        stair = json.loads(out)
        self.assertEqual((code, stair["proof"]["verdict"], stair["proof"]["states"]), (0, "pass", 16))
        self.assertEqual(stair["plan"]["best"]["controls"][0]["name"], "Stair")
        self.assertTrue(all(cable["used"] or cable["found"] for cable in stair["cables"]))
        code, out, _ = lumbek("switching", str(BOATHOUSE))
        answers = {answer["number"]: answer for answer in map(json.loads, out.splitlines())}
        self.assertEqual((code, sorted(answers)), (1, [2, 9, 11]))
        hazard = next(each for each in answers[11]["proof"]["hazards"] if each["id"] == "borrowed-neutral")
        self.assertTrue(hazard["stands"])
        self.assertEqual(len(answers[11]["mended"]["moves"]), 3)
        self.assertEqual(lumbek("switching", str(HOUSE), "--circuit", "99")[0], 2)

    def test_proposals_of_every_circuit_or_of_one(self) -> None:
        code, out, _ = lumbek("propose", str(HOUSE))
        self.assertEqual(code, 0)
        circuits = [json.loads(line) for line in out.splitlines()]
        self.assertEqual([each["number"] for each in circuits], list(range(1, 12)))
        shower = next(each for each in circuits if each["name"] == "Shower")
        self.assertTrue(any(mend["leaves"] == [] for mend in shower["proposals"]["mends"]))
        code, text, _ = lumbek("propose", "--text", "--circuit", "6", str(HOUSE))
        self.assertEqual((code, text.count("Circuit ")), (0, 1))
        for words in ("then it complies", "m by voltage drop", "16/6 mm², 45 A: Cable capacity", "protect RCBO type B"):
            self.assertIn(words, text)

    def test_boards_and_labels(self) -> None:
        code, out, _ = lumbek("boards", str(HOUSE))
        answer = json.loads(out)
        self.assertEqual((code, [each["board"] for each in answer["sheets"]]), (0, ["House board", "Studio board"]))
        self.assertEqual(answer["proposals"]["layouts"][0]["count"]["rcbos"], 10)
        code, out, _ = lumbek("labels", "--board", "2", str(HOUSE))
        self.assertEqual((code, out.startswith("<svg"), "Studio" in out), (0, True, True))
        code, out, err = lumbek("labels", "--board", "3", str(HOUSE))
        self.assertEqual((code, out, "no board 3" in err), (2, "", True))

    def test_proposals_of_a_circuit_that_is_not_there(self) -> None:
        code, out, err = lumbek("propose", "--circuit", "77", str(HOUSE))
        self.assertEqual((code, out), (2, ""))
        self.assertIn("no circuit 77", err)

    def test_schema_and_schedule(self) -> None:
        self.assertEqual(json.loads(lumbek("schema")[1])["title"], "Lumbek job file")
        self.assertIn("Upper floor sockets", lumbek("schedule", str(HOUSE))[1])


class WholeFiles(unittest.TestCase):
    """What no circuit by itself can say is wrong: told at its place, of every circuit, by file and by stream."""

    def refusals(self, *circuits: dict) -> str:
        data = {"format": "lumbek-job", "version": 2, "circuits": list(circuits)}
        raw = json.dumps(data).encode()
        with self.assertRaises(JobFileError) as whole:
            read_job(raw)
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder, "job.json")
            path.write_bytes(raw)
            with self.assertRaises(JobFileError) as streamed:
                JobStream(path)
        self.assertEqual(str(whole.exception), str(streamed.exception))
        return str(whole.exception)

    def test_a_number_is_given_once(self) -> None:
        found = self.refusals({"design": {"number": 4}}, {"design": {"number": 5}}, {"design": {"number": 4}})
        self.assertIn("circuits.2.design.number: 4 is the number of circuits.0 already", found)

    def test_every_bad_circuit_is_named(self) -> None:
        found = self.refusals({"design": {"number": 0}}, {"design": {"number": 2}}, {"design": {"kind": "nonsense"}})
        self.assertIn("circuits.0.design.number", found)
        self.assertIn("circuits.2.design.kind", found)

    def test_a_reading_is_at_a_point_that_is_drawn(self) -> None:
        stray = {"quantity": "zs", "point": "P9", "value": 0.4, "by": "Robin Ash", "at": AT}
        found = self.refusals({"design": {"points": [{"id": "P1"}]}, "readings": [stray]})
        self.assertIn("circuits.0.readings.0.point: there is no point 'P9' in this circuit", found)

    def test_what_was_read_at_a_point_that_is_gone_stays_in_the_file(self) -> None:
        reading = read("zs", 0.4, "P9")
        kept = JobCircuit.of(worked_ring(), (read("zs", 0.5, "P1"), reading))
        self.assertEqual(([each.point for each in kept.readings], kept.former_readings), (["P1"], (reading,)))
        job = Job(circuits=(kept,))
        self.assertEqual(read_job(write_job(job).encode()), job)

    def test_the_exit_code_is_the_verdict(self) -> None:
        whole = json.loads(HOUSE.read_text(encoding="utf-8"))
        # The shower of the house fails.
        for drop, bonded, code in (([], "6", 1), ([6], "10", 3), ([6, 2, 8], "10", 0)):
            # Of boards that nobody describes only what fails counts.
            job = {
                **whole,
                "boards": [],
                "circuits": [each for each in whole["circuits"] if each["design"]["number"] not in drop],
            }
            services = [
                {**each, "bonding_mm2": each["bonding_mm2"] and float(bonded)} for each in job["supply"]["services"]
            ]
            job["supply"] = {**job["supply"], "services": services}
            with tempfile.TemporaryDirectory() as folder:
                path = Path(folder, "job.json")
                path.write_text(json.dumps(job), encoding="utf-8")
                found, out, _ = lumbek("calc", str(path))
            self.assertEqual(
                (found, json.loads(out)["verdict"]), (code, {0: "pass", 1: "fail", 3: "cannot-tell"}[code])
            )


class Streams(unittest.TestCase):
    def test_a_large_file_is_answered_in_memory_that_does_not_grow(self) -> None:
        circuit = JobCircuit(design=worked_ring())
        peaks = []
        with tempfile.TemporaryDirectory() as folder:
            for count in (8, 64):
                path = Path(folder, f"{count}.json")
                ring = circuit.design
                many = (ring.model_copy(update={"number": number}) for number in range(1, count + 1))
                job = Job(supply=SUPPLY, circuits=tuple(JobCircuit(design=each) for each in many))
                path.write_text(write_job(job), encoding="utf-8")
                tracemalloc.start()
                with Path("/dev/null").open("w") as nowhere, contextlib.redirect_stdout(nowhere):
                    self.assertEqual(main(["calc", str(path)]), 0)
                peaks.append(tracemalloc.get_traced_memory()[1])
                tracemalloc.stop()
        # Eight times the file, held whole, would be eight times the memory; what is left is the collector's slack.
        self.assertLess(peaks[1], peaks[0] * 2)

    def test_what_is_wrong_deep_inside_is_found_before_anything_is_printed(self) -> None:
        whole = json.loads(HOUSE.read_text(encoding="utf-8"))
        whole["circuits"][7]["design"]["legs"][0]["segments"][0]["length_m"] = -1
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder, "bad.json")
            path.write_text(json.dumps(whole), encoding="utf-8")
            code, out, err = lumbek("calc", str(path))
        self.assertEqual((code, out), (2, ""))
        self.assertIn("circuits.7.design.legs.0.segments.0.length_m: must be 0.001 m or more", err)

    def test_odd_files(self) -> None:
        for raw, words in ((b"", "not JSON"), (b"{", "line 1"), (b"[]", "lumbek-job"), (b"\xff", "UTF-8")):
            with tempfile.NamedTemporaryFile(suffix=".json") as file:
                file.write(raw)
                file.flush()
                code, _, err = lumbek("calc", file.name)
            self.assertEqual(code, 2)
            self.assertIn(words, err)


class PapersFromTheShell(unittest.TestCase):
    def test_a_draft_is_written_into_a_folder_that_is_made_for_it(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            into = Path(folder, "papers", "of the house")
            code, out, _ = lumbek("papers", str(HOUSE), "--kind", "labels", "--into", str(into))
            self.assertEqual((code, out.strip()), (0, str(into / "labels.pdf")))
            done = subprocess.run(
                ["pdftotext", "-layout", str(into / "labels.pdf"), "-"], capture_output=True, text=True, check=True
            )
        self.assertIn("issued where the job is kept", " ".join(done.stdout.split()))

    def test_what_cannot_be_is_told_by_its_own_name(self) -> None:
        code, out, err = lumbek("papers", str(HOUSE), "--kind", "poem")
        self.assertEqual((code, out), (2, ""))
        self.assertIn("there is no paper 'poem' of it, but ", err)
        with tempfile.NamedTemporaryFile() as file:
            code, out, err = lumbek("papers", str(HOUSE), "--kind", "labels", "--into", file.name)
        self.assertEqual((code, out), (2, ""))
        self.assertIn(f"{file.name}: cannot be written into: ", err)
        code, _, err = lumbek("papers", "/nowhere/job.json")
        self.assertEqual(code, 2)
        self.assertIn("/nowhere/job.json: cannot be read: ", err)


class Calculation(unittest.TestCase):
    def test_sheet_can_be_followed_by_hand(self) -> None:
        hut = Job(name="Hut", supply=SUPPLY, circuits=(JobCircuit.of(worked_ring(), (), "C1"),))
        with tempfile.NamedTemporaryFile(suffix=".pdf") as file:
            file.write(paper_pdf(calculation_paper(gather(hut, "C1"))))
            file.flush()
            done = subprocess.run(["pdftotext", "-layout", file.name, "-"], capture_output=True, text=True, check=True)
        text = " ".join(done.stdout.split())
        for words in ("Zs = Ze + (R1 + R2) × temperature", "0.210 + 0.324 × 1.20 = 0.599 Ω", "433.1.204", "Complies"):
            self.assertIn(words, text)
        self.assertNotIn("DRAFT", text)


class Schedules(unittest.TestCase):
    def test_finished_job_is_no_draft_and_any_gap_makes_it_one(self) -> None:
        self.assertEqual(schedule_paper(gather(finished())).missing, ())
        gap = finished().circuits[0]
        for job in (
            finished().model_copy(update={"circuits": (gap.model_copy(update={"readings": gap.readings[1:]}),)}),
            finished().model_copy(update={"circuits": ()}),
            finished().model_copy(update={"readings": finished().readings[1:]}),
            finished().model_copy(update={"supply": SUPPLY.model_copy(update={"ze_ohm": 2.0})}),
        ):
            self.assertTrue(schedule_paper(gather(job)).draft)

    def test_csv_has_the_highest_readings_and_no_formulas(self) -> None:
        job = finished()
        named = job.circuits[0].design.model_copy(update={"name": "=1+1"})
        job = job.model_copy(update={"circuits": (job.circuits[0].model_copy(update={"design": named}),)})
        head, row = list(csv.reader(io.StringIO(paper_csv(schedule_paper(gather(job))))))
        cells = dict(zip(head, row, strict=True))
        self.assertEqual((cells["Serves"], cells["Zs Ω"], cells["L–N MΩ"]), ("'=1+1", "0.35", ">999"))
        self.assertEqual(cells["Max Zs Ω"], "2.19")

    def test_a_document_fetches_nothing_and_takes_names_for_words(self) -> None:
        name = '<img src="http://127.0.0.1:9/x.png">'
        job = read_job(HOUSE.read_bytes()).model_copy(update={"name": name})
        with mock.patch("socket.socket", side_effect=AssertionError("something was fetched")):
            pdf = paper_pdf(schedule_paper(gather(job)))
        with tempfile.NamedTemporaryFile(suffix=".pdf") as file:
            file.write(pdf)
            file.flush()
            said = subprocess.run(["pdftotext", file.name, "-"], capture_output=True, text=True, check=True).stdout
        self.assertIn("<img src=", said)
        for url in ("http://127.0.0.1:9/x.png", "font:../paper_pdf.py", "file:///etc/hosts"):
            with self.assertRaises(URLFetchingError):
                paper_fetcher(NO_PHOTOS).fetch(url)

    def test_it_is_set_in_the_typeface_that_is_shipped_every_sign_of_it(self) -> None:
        fonts = [TTFont(file) for file in Path(paper_module.__file__).parent.glob("fonts/*-400.woff2")]
        known = {chr(code) for font in fonts for code in font.getBestCmap()}
        job = read_job(HOUSE.read_bytes())
        for kind in KINDS:
            for key in [each.key for each in job.circuits] if kind.of == "circuit" else [None]:
                page = re.sub(
                    r"<(style|svg).*?</\\1>", "", paper_html(make_paper(kind, gather(job, key))), flags=re.DOTALL
                )
                said = set(html.unescape(re.sub(r"<[^>]*>", "", page))) - {"\n"}
                self.assertEqual(said - known, set(), kind.id)
        pdf = paper_pdf(schedule_paper(gather(finished())), plain=True)
        names = set(re.findall(rb"/BaseFont\s*/([A-Za-z0-9+-]+)", pdf))
        self.assertTrue(names and all(b"+plex-" in name or name.endswith(b"+signs") for name in names), names)

    def test_pdf_says_draft_only_when_it_is_one(self) -> None:
        for job, draft in ((finished(), False), (read_job(HOUSE.read_bytes()), True)):
            with tempfile.NamedTemporaryFile(suffix=".pdf") as file:
                file.write(paper_pdf(schedule_paper(gather(job))))
                file.flush()
                text = subprocess.run(
                    ["pdftotext", "-layout", file.name, "-"], capture_output=True, text=True, check=True
                ).stdout
            self.assertEqual("Draft, not issued" in text, draft)
            self.assertEqual("DRAFT" in text, draft)
            self.assertIn(job.circuits[0].design.name, " ".join(text.split()))


class Results(unittest.TestCase):
    def test_what_was_seen_is_said_by_what_it_was(self) -> None:
        said = [row.cells["reading"] for table in results_paper(gather(finished())).tables for row in table.rows]
        self.assertEqual((said.count("proved dead"), said.count("trips")), (2, 1))
        self.assertIn("right", said)


class ReadingsFromAFile(unittest.TestCase):
    def test_figures_as_testers_write_them(self) -> None:
        for text, unit, base, meant in (
            (".35", "", "", (False, 0.35)),
            ("350m", "", "", (False, 0.35)),
            ("350", "mΩ", "", (False, 0.35)),
            ("0,35 Ω", "", "", (False, 0.35)),
            ("1.2k", "", "", (False, 1200.0)),
            ("> 999", "", "MΩ", (True, 999.0)),
            ("500k", "", "MΩ", (False, 0.5)),
            ("2", "GΩ", "MΩ", (False, 2000.0)),
            ("o.l", "", "", (True, 1999.0)),
            ("22", "ms", "", (False, 22.0)),
            ("22ms", "", "", (False, 22.0)),
        ):
            self.assertEqual(read_figure(text, unit, base), meant, text)
        for text in ("", "abc", "1.2.3", "-4", "=1+1"):
            with self.assertRaises(ValueError, msg=text):
                read_figure(text)

    def test_any_text_is_read_without_falling_over(self) -> None:
        circuit = run(5, 4)
        for text in (
            "",
            "\n",
            ";;;",
            "test,value",
            "test\tvalue\nr1\t0.4",
            '"unclosed,1\nr1,2',
            "test,value\nr1," + "9" * 400,
        ):
            found = read_readings(text, circuit)
            self.assertEqual(found.ready, sum(line.reading is not None for line in found.lines))
        self.assertEqual(read_readings("test\tvalue\nr1\t0.4", circuit).lines[0].reading.value, 0.4)
        (electrode,) = read_readings("test,value\nRA,64", circuit).lines
        self.assertIn("has no electrode of its own", electrode.why)
        own = circuit.model_copy(update={"own_earth": OwnEarth()})
        (electrode,) = read_readings("test,value\nRA,64", own).lines
        self.assertEqual((electrode.reading.quantity, electrode.reading.value), ("own-electrode", 64))
        many = read_readings("test,value\n" + "r1,0.4\n" * 1200, circuit)
        self.assertEqual(many.ready, 1000)
