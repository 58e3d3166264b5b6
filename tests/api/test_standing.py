"""Papers that stand: numbered without a gap, signed, told from any other file, corrected, and never lost."""

import hashlib
import subprocess
import tempfile
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from io import BytesIO
from pathlib import Path
from unittest import mock
from uuid import uuid4

from asn1crypto import parser
from pyhanko.pdf_utils.reader import PdfFileReader
from sqlalchemy import text
from weasyprint import HTML

from lumbek.exchange.job_file import read_job, write_job
from lumbek.exchange.signed_pdf import check_pdf, make_key, sign_pdf
from lumbek.ops.verifying import verify_file
from lumbek.services import demo, firm_keys
from lumbek.services.clock import now
from lumbek.settings import Settings
from lumbek.store.database import Database
from tests.api.case import Api, new_id
from tests.core.test_exchange import finished
from tests.support.client import RIVAL, make_client, sign_in
from tests.support.pdf import words_of
from tests.support.running import lumbek
from tests.support.set_page import as_set
from tests.support.stack import as_application, new_database

# Each step of an issue, from what is gathered to what is said of it before it is kept for good.
STEPS = ("write_job", "open_key", "_take_number", "audit.note", "IssuingService._issued")


class Standing(Api):
    def setUp(self) -> None:
        self.job = self.take_in(write_job(finished()).encode()).json()["id"]
        self.path = f"/api/jobs/{self.job}/issued"

    def issue(self, client=None, path: str = "", **more: str):
        return (client or self.client).post(path or self.path, json={"id": new_id(), **more})

    def rows(self, query: str) -> list[tuple[object, ...]]:
        database = Database(self.url)
        with database.transaction() as db:
            found = [tuple(row) for row in db.execute(text(query))]
        database.close()
        return found

    def numbers(self) -> list[object]:
        firm = "(select id from firm where name = :name)".replace(":name", f"'{demo.FIRM}'")
        return [
            row[0] for row in self.rows(f"select firm_number from issued_document where firm_id = {firm} order by 1")
        ]

    def pdf(self, issued: dict) -> bytes:
        return self.client.get(f"/api/issued/{issued['id']}/file").content

    def ask(self, **asked: str) -> dict:
        answer = make_client(self.url).post("/api/verify", json=asked)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def test_any_firms_name_has_a_key_and_room_for_its_signature(self) -> None:
        """Of a name that is too long for a certificate as much as it holds, whole signs only."""
        data = HTML(string="A paper").write_pdf()
        for name, called in (("A", "A"), ("Å" * 40, "Å" * 32), ("x" + "電" * 60, "x" + "電" * 21)):
            signed = sign_pdf(data, make_key(name, now()), "Issued")
            found = check_pdf(signed)
            self.assertEqual((found.good, found.by), (True, called))
            contents = bytes(PdfFileReader(BytesIO(signed)).embedded_signatures[0].pkcs7_content)
            self.assertLess(2 * parser.peek(contents), len(contents))

    def test_the_file_by_those_who_know_the_format(self) -> None:
        (issued,) = self.issue().json()
        data = self.pdf(issued)
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "paper.pdf"
            file.write_bytes(data)
            said = subprocess.run(["pdfsig", file], capture_output=True, text=True, check=True).stdout
            self.assertIn("Signature is Valid", said)
            self.assertIn("Total document signed", said)
            # Every object, stream and cross-reference, by a program that knows nothing of who made it.
            subprocess.run(["qpdf", "--check", file], capture_output=True, check=True)
            fonts = subprocess.run(["pdffonts", file], capture_output=True, text=True, check=True).stdout
            families = {line.split()[0].partition("+")[2].removesuffix("-Bold") for line in fonts.splitlines()[2:]}
            self.assertLessEqual(families, {"plex-latin", "plex-latin-ext", "plex-greek", "signs"})
            subprocess.run(["pdfdetach", "-saveall", "-o", folder, file], capture_output=True, check=True)
            inside = (Path(folder) / "job.json").read_bytes()
            self.assertEqual(read_job(inside).name, finished().name)
            self.assertIn("Max Zs", (Path(folder) / "schedule.csv").read_text(encoding="utf-8"))
        page = words_of(data)
        self.assertIn(hashlib.sha256(inside).hexdigest(), page.replace("\n", "").replace(" ", ""))
        reader = PdfFileReader(BytesIO(data))
        said = reader.root["/Metadata"].get_object().data
        self.assertIn(b'pdfaid:part="3" pdfaid:conformance="B"', said)
        self.assertTrue(reader.root["/OutputIntents"])
        files = [each.get_object()["/F"] for each in reader.root["/AF"]]
        self.assertEqual(sorted(files), ["job.json", "schedule.csv"])

    def test_any_byte_changed_or_appended_is_found(self) -> None:
        (issued,) = self.issue().json()
        data = self.pdf(issued)
        self.assertEqual(self.ask(sha256=issued["sha256"])["word"], "unaltered")
        for other in (data + b"\n", data[:-1], data.replace(b"1", b"2", 1), b"\x00" + data[1:]):
            sha = hashlib.sha256(other).hexdigest()
            self.assertEqual(self.ask(sha256=sha), {**self.ask(sha256="0" * 64)})
            self.assertEqual(self.ask(sha256=sha, code=issued["code"])["word"], "altered")
            self.assertFalse(check_pdf(other).good)

    def test_what_it_tells_and_what_not(self) -> None:
        (issued,) = self.issue().json()
        said = self.ask(code=issued["code"])
        self.assertEqual((said["word"], said["firm"], said["number"]), ("known", demo.FIRM, issued["firm_number"]))
        self.assertNotIn(finished().name, str(said))
        unknown = self.ask(code="x" * 22)
        self.assertEqual((unknown["word"], unknown["firm"], unknown["number"]), ("unknown", "", None))
        # By file or code, never by number.
        number = make_client(self.url).post("/api/verify", json={"number": 1})
        self.assertEqual(number.status_code, 422)
        client = make_client(self.url)
        with mock.patch("lumbek.services.verifying._MOST", 3):
            codes = [client.post("/api/verify", json={"code": "y"}).status_code for _ in range(12)]
        self.assertIn(429, codes)
        # Papers that were asked for count for nothing at the door.
        sign_in(client)

    def test_one_that_is_corrected_says_so_and_cannot_be_corrected_twice(self) -> None:
        (first,) = self.issue().json()
        second = self.issue(corrects=first["id"]).json()[-1]
        self.assertIn(f"number {first['firm_number']}", " ".join(words_of(self.pdf(second)).split()))
        said = self.ask(sha256=first["sha256"])
        self.assertEqual((said["word"], said["corrected_by"]), ("unaltered", second["firm_number"]))
        self.assertIsNone(self.ask(sha256=second["sha256"])["corrected_by"])
        self.assertEqual(self.client.get(self.path).json()[0]["corrected_by"], second["firm_number"])
        self.assertEqual(self.issue(corrects=first["id"]).status_code, 422)
        self.assertEqual(self.issue(corrects=new_id()).status_code, 422)

    @mock.patch("lumbek.api.issuing.signed_paper", as_set)
    def test_fifty_that_are_cut_off_at_every_step_leave_no_gap_and_no_half_paper(self) -> None:
        self.assertEqual(self.issue().status_code, 201)
        before, kept = len(self.numbers()), self.rows("select count(*) from issued_document")
        for step in STEPS:
            with mock.patch(f"lumbek.services.issuing.{step}", side_effect=RuntimeError("cut off")) as cut:
                for _ in range(10):
                    self.assertEqual(self.issue().status_code, 500)
            self.assertEqual(cut.call_count, 10, step)
        self.assertEqual(self.rows("select count(*) from issued_document"), kept)
        self.assertEqual(self.issue().status_code, 201)
        self.assertEqual(self.numbers(), list(range(1, before + 2)))

    def test_two_at_once_have_two_numbers(self) -> None:
        jobs = [self.take_in(write_job(finished()).encode()).json()["id"] for _ in range(3)]
        before = len(self.numbers())
        clients = [sign_in(make_client(self.url)) for _ in jobs]
        # Each in an application of its own, so that nothing but the database keeps them apart.
        with ThreadPoolExecutor(3) as pool:
            answers = list(
                pool.map(lambda one: self.issue(one[0], f"/api/jobs/{one[1]}/issued"), zip(clients, jobs, strict=True))
            )
        self.assertEqual([each.status_code for each in answers], [201, 201, 201])
        self.assertEqual(self.numbers(), list(range(1, before + 4)))
        self.assertEqual(self.rows("select count(*) from issued_document where length(data) = 0")[0][0], 0)

    def test_another_firm_counts_for_itself_and_sees_nothing(self) -> None:
        (mine,) = self.issue().json()
        rival = sign_in(make_client(self.url), *RIVAL)
        self.assertEqual(rival.get(f"/api/issued/{mine['id']}/file").status_code, 404)
        job = rival.post("/api/jobs/file", params={"id": new_id()}, content=write_job(finished()).encode()).json()["id"]
        (theirs,) = self.issue(rival, f"/api/jobs/{job}/issued").json()
        self.assertEqual(theirs["firm_number"], 1)

    def test_handed_over_by_a_link_that_ends_and_every_opening_is_audited(self) -> None:
        (issued,) = self.issue().json()
        path = f"/api/issued/{issued['id']}/hand-over"
        made = self.client.post(path, json={"id": new_id(), "email": "owner@elsewhere.example"})
        self.assertEqual(made.status_code, 201, made.text)
        outside = make_client(self.url)
        self.assertEqual(outside.get(made.json()["path"]).content, self.pdf(issued))
        said = self.rows("select action, detail from audit where action in ('handed-over', 'opened') order by id desc")
        number = issued["firm_number"]
        self.assertEqual(said[0], ("opened", f"number {number}, by the link to owner@elsewhere.example"))
        self.assertEqual(said[1], ("handed-over", f"number {number} to owner@elsewhere.example"))
        self.assertEqual(self.client.post(path, json={"id": new_id(), "email": "nobody"}).status_code, 422)
        self.assertEqual(outside.get("/api/handed/never-made").status_code, 404)
        with mock.patch("lumbek.services.handing.now", return_value=now() + timedelta(days=31)):
            self.assertEqual(outside.get(made.json()["path"]).status_code, 404)

    def test_removing_the_job_removes_no_paper(self) -> None:
        (issued,) = self.issue().json()
        data = self.pdf(issued)
        self.client.delete(f"/api/jobs/{self.job}").raise_for_status()
        self.assertEqual(self.pdf(issued), data)
        self.assertEqual(self.ask(sha256=issued["sha256"])["word"], "unaltered")

    def test_a_new_key_by_command_and_old_papers_stay_good(self) -> None:
        (first,) = self.issue().json()
        done = lumbek(self.url, "admin", "key", demo.FIRM)
        self.assertEqual(done.returncode, 0, done.stderr)
        # The shell's server has the same key file as the tests'.
        (_, second) = self.issue().json()
        database = Database(self.url)
        with database.transaction() as db:
            certificates = firm_keys.every_certificate(db)
        database.close()
        signers = [check_pdf(self.pdf(each), certificates) for each in (first, second)]
        self.assertEqual([each.good for each in signers], [True, True])
        # Each by its own key, and by no other.
        good = [[check_pdf(self.pdf(each), [one]).good for one in certificates] for each in (first, second)]
        self.assertEqual([row.count(True) for row in good], [1, 1])
        self.assertNotEqual(*good)

    def test_the_key_lies_sealed_and_opens_for_its_own_firm_only(self) -> None:
        self.issue().raise_for_status()
        database = Database(self.url)
        with database.transaction() as db:
            row = db.query(firm_keys.FirmKey).first()
            settings = self.client.app.state.services.settings
            opened = firm_keys.open_key(row, settings.key_file)
            self.assertNotIn(opened.private, bytes(row.sealed))
            db.expunge(row)
            row.firm_id = uuid4()
            with self.assertRaisesRegex(Exception, "another key"):
                firm_keys.open_key(row, settings.key_file)
        database.close()

    def test_the_demos_house_is_issued_once(self) -> None:
        """Its report, the repairs read again, and their completion: both stand."""
        url, settings = new_database(demo=True), self.client.app.state.services.settings
        database = Database(as_application(url))
        self.assertTrue(demo.issue_demo(database, settings))
        self.assertFalse(demo.issue_demo(database, settings))
        with database.transaction() as db:
            found = db.execute(text("select kind, firm_number, data from issued_document order by 2")).all()
        database.close()
        self.assertEqual([(row[0], row[1]) for row in found], [("condition", 1), ("remedials", 2)])
        self.assertTrue(all(check_pdf(bytes(row[2])).good for row in found))

    def test_from_the_shell(self) -> None:
        (issued,) = self.issue().json()
        settings = Settings(database_url=as_application(self.url))
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "paper.pdf"
            file.write_bytes(self.pdf(issued))
            code, words = verify_file(settings, file)
            self.assertEqual((code, words.split(":")[0]), (0, "Unaltered"))
            code, words = verify_file(settings, file, away=True)
            self.assertEqual(code, 0)
            self.assertIn(f"Signature good, by {demo.FIRM}.", words)
            self.assertNotIn("Unaltered", words)
            file.write_bytes(self.pdf(issued) + b"\n")
            code, words = verify_file(settings, file)
            self.assertEqual((code, words.split(":")[0]), (1, "Altered or unknown"))
            self.assertEqual(verify_file(settings, file, away=True)[0], 1)
            file.write_bytes(b"no PDF at all")
            self.assertIn("not good", verify_file(settings, file, away=True)[1])
            self.assertEqual(verify_file(settings, Path(folder) / "none.pdf")[0], 2)
