"""What comes before sign-in, and what no honest page sends: bounded, refused in a sentence, never a fault of ours."""

import json
import threading
import unittest
from concurrent.futures import ThreadPoolExecutor
from unittest import mock

from argon2 import PasswordHasher

from lumbek.exchange import job_file
from lumbek.exchange.job_file import JobFileError, read_job
from lumbek.services import demo, passwords
from tests.api.case import Api, new_id
from tests.support.client import demo_database, make_client, sign_in
from tests.support.stack import ROOT


class Bodies(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.client = make_client(demo_database())

    def test_the_limit_holds_for_bodies_sent_in_pieces(self) -> None:
        sent = []

        def pieces():
            for _ in range(300):
                sent.append(1)
                yield b"x" * 100_000

        for path in ("/api/session", "/api/jobs"):
            sent.clear()
            answer = self.client.post(path, content=pieces())
            self.assertEqual((answer.status_code, answer.json()["code"]), (413, "too-large"), path)
            self.assertEqual(answer.headers["connection"], "close")
            self.assertIn("default-src", answer.headers["content-security-policy"])

    def test_a_length_that_is_none_is_refused(self) -> None:
        answer = self.client.post("/api/session", content=b"{}", headers={"Content-Length": "-1"})
        self.assertEqual(answer.status_code, 413)

    def test_a_file_of_nothing_but_brackets_is_refused_before_it_is_taken_apart(self) -> None:
        many = b'{"format": "lumbek-job", "circuits": [' + b"[]," * 2_000_000 + b"[]]}"
        deep = b'{"format": "lumbek-job", "circuits": ' + b"[" * 100_000 + b"]" * 100_000 + b"}"
        never = mock.patch.object(job_file.json, "loads", side_effect=AssertionError("taken apart"))
        with never, self.assertRaisesRegex(JobFileError, "more lists and values than any job has"):
            read_job(many)
        with self.assertRaisesRegex(JobFileError, "is not JSON"):
            read_job(deep)


class SigningIn(unittest.TestCase):
    def setUp(self) -> None:
        self.url = demo_database()

    def test_many_tries_at_once_do_not_slip_past_the_limit(self) -> None:
        client = make_client(self.url, sign_in_failures_per_account=5)
        gate = threading.Barrier(12)

        def attempt(_: int) -> int:
            gate.wait()
            return client.post("/api/session", json={"email": demo.EMAIL, "password": "wrong"}).status_code

        with ThreadPoolExecutor(12) as pool:
            codes = sorted(pool.map(attempt, range(12)))
        self.assertEqual(codes, [422] * 5 + [429] * 7)

    def test_no_more_than_two_passwords_are_hashed_at_once(self) -> None:
        client = make_client(self.url, sign_in_failures_per_account=50, sign_in_failures_per_address=50)
        at_once, most, lock = 0, 0, threading.Lock()
        verify = passwords._hasher.verify

        def counted(*given: str) -> bool:
            nonlocal at_once, most
            with lock:
                at_once += 1
                most = max(most, at_once)
            try:
                return verify(*given)
            finally:
                with lock:
                    at_once -= 1

        with mock.patch.object(passwords, "_hasher", mock.Mock(verify=counted)), ThreadPoolExecutor(10) as pool:
            list(pool.map(lambda _: client.post("/api/session", json={"email": "a@b.c", "password": "p"}), range(10)))
        self.assertLessEqual(most, 2)
        self.assertGreater(most, 0)

    def test_nobodys_hash_takes_as_long_as_anybodys(self) -> None:
        self.assertFalse(PasswordHasher().check_needs_rehash(passwords._NOBODY))
        self.assertFalse(passwords.matches(None, "four unrelated words"))

    def test_a_right_password_is_no_failure(self) -> None:
        client = make_client(self.url, sign_in_failures_per_account=2)
        for _ in range(5):
            sign_in(client)


class NoFaultOfOurs(Api):
    """Whatever is sent, the answer is a refusal in the one shape."""

    def refused(self, answer, *statuses: int) -> None:
        self.assertIn(answer.status_code, statuses or (422,), answer.text[:300])
        self.assertTrue(answer.json()["message"])

    def test_odd_characters_anywhere(self) -> None:
        for odd in ("a\u0000b", "\u0007", "\ud800"):
            raw = json.dumps({"id": new_id(), "head": {"name": odd}})
            self.refused(self.client.post("/api/jobs", content=raw, headers={"Content-Type": "application/json"}))
            raw = json.dumps({"email": odd, "password": "x"})
            self.refused(self.client.post("/api/session", content=raw, headers={"Content-Type": "application/json"}))
        self.refused(self.client.get("/api/jobs", params={"search": "a\u0000"}))
        self.refused(self.client.get("/api/rulebooks/bs7671", params={"edition": "\u0000"}))
        for path in ("/%00", "/assets/%00.js", "/..%2f..%2fetc%2fpasswd", "/assets/../../pyproject.toml"):
            answer = self.client.get(path)
            self.assertLess(answer.status_code, 500, path)
            self.assertNotIn("root:", answer.text)
            self.assertNotIn("setuptools", answer.text)

    def test_figures_that_nobody_can_mean(self) -> None:
        view = self.circuit(self.start())
        view = self.do(view, op="add", after="board", length_m=5).json()
        for command in (
            {"op": "segment", "leg": "L1", "length_m": 1e-300},
            {"op": "device", "rating_a": 1e-300},
            {"op": "add-load", "point": "P1", "current_a": 1e-300},
            {"op": "leg", "leg": "L1", "measured_r1_ohm": 5e-324},
            {"op": "circuit", "number": 10_000},
            {"op": "segment", "leg": "L1", "index": 7, "length_m": 3},
            {"op": "point", "point": "P77", "name": "x"},
            {"op": "ahead", "index": 2, "name": "x"},
            {"op": "device", "ahead": 0, "rating_a": 6},
            {"op": "add-load", "point": "P1", "appliance": "warp drive"},
            {"op": "drop-segment", "leg": "L1", "index": 0},
            {"op": "joins", "point": "P1", "joins": [{"ends": [{"leg": "L9", "core": "L"}]}]},
        ):
            self.refused(self.do(view, command))
        for text in ('{"op": "segment", "leg": "L1", "length_m": NaN}', '{"op": "device", "rating_a": 1e999}'):
            raw = f'{{"id": "{new_id()}", "version": {view["version"]}, "commands": [{text}]}}'
            path = f"/api/circuits/{view['id']}/commands"
            self.refused(self.client.post(path, content=raw, headers={"Content-Type": "application/json"}))
        self.refused(self.do_job(view["job_id"], op="supply", ze_ohm=1e-300))
        self.assertEqual(self.client.get(f"/api/circuits/{view['id']}").json()["version"], view["version"])

    def test_impossible_times_in_a_file(self) -> None:
        for at in ("2026-02-30T10:00:00Z", "2026-01-01T10:00:60Z", "0000-01-01T10:00:00Z", "٢٠٢٦-01-01T10:00:00Z"):
            reading = {"quantity": "r1", "value": 1, "by": "", "at": at}
            job = {"format": "lumbek-job", "version": 2, "circuits": [{"design": {}, "readings": [reading]}]}
            self.refused(self.take_in(json.dumps(job).encode()))

    def test_security_headers_on_every_answer(self) -> None:
        for answer in (
            self.client.get("/api/nothing"),
            self.client.post("/api/jobs", content=b"x" * 2_500_000),
            self.client.get("/"),
            make_client(self.url).get("/api/jobs"),
        ):
            for name in ("content-security-policy", "x-content-type-options", "referrer-policy"):
                self.assertIn(name, answer.headers, answer.status_code)
        broken = make_client(self.url)
        object.__setattr__(broken.app.state.services, "jobs", None)
        answer = sign_in(broken).get("/api/jobs")
        self.assertEqual((answer.status_code, answer.json()["code"]), (500, "our-fault"))
        self.assertEqual(answer.headers["connection"], "close")
        self.assertIn("content-security-policy", answer.headers)
        written = broken.post("/api/jobs", json={"id": new_id(), "head": {"name": "x"}})
        self.assertEqual((written.status_code, written.json()["code"]), (500, "not-known"))

    def test_health_knows_the_database(self) -> None:
        client = make_client(self.url.rsplit("/", 1)[0] + "/no_such_database")
        self.assertEqual((client.get("/api/health").status_code, client.get("/api/jobs").status_code), (503, 401))
        client.cookies.set("lumbek_session", "x")
        self.assertEqual((client.get("/api/jobs").status_code, self.client.get("/api/health").status_code), (503, 200))


class Web(Api):
    def test_the_first_page_is_small_compressed_and_kept(self) -> None:
        asked = {"Accept-Encoding": "gzip, br"}
        page = self.client.get("/", headers=asked)
        names = [part.split('"')[0] for part in page.text.split('"/') if part.startswith("assets/")]
        self.assertTrue(any(name.endswith(".js") for name in names), page.text)
        total = 0
        for name in names:
            answer = self.client.get(f"/{name}", headers=asked)
            self.assertEqual(answer.headers["content-encoding"], "br")
            self.assertIn("immutable", answer.headers["cache-control"])
            total += int(answer.headers["content-length"])
        fonts = list((ROOT / "web" / "dist" / "assets").glob("*latin*woff2"))
        total += sum(font.stat().st_size for font in fonts)
        self.assertLess(total, 160_000)
        self.assertEqual(self.client.get("/assets/gone-123.js").status_code, 404)
        self.assertEqual(
            self.client.get("/", headers={"Accept-Encoding": "identity"}).headers.get("content-encoding"), None
        )

    def test_the_head_of_a_page_alone_and_none_of_an_answer(self) -> None:
        for path in ("/", "/jobs/nowhere/survey", "/mark.svg"):
            whole, head = self.client.get(path), self.client.head(path)
            self.assertEqual((head.status_code, head.content), (200, b""), path)
            self.assertEqual(head.headers["content-type"], whole.headers["content-type"])
        for path, status in (("/api/jobs", 405), ("/assets/gone-123.js", 404)):
            self.assertEqual(self.client.head(path).status_code, status, path)

    def test_long_answers_are_compressed(self) -> None:
        job = self.client.get("/api/jobs").json()[0]["id"]
        answer = self.client.get(f"/api/jobs/{job}", headers={"Accept-Encoding": "gzip"})
        self.assertEqual(answer.headers["content-encoding"], "gzip")
