"""Running for a firm: the first start, the shell's commands, backups that come back row for row."""

import json
import os
import signal
import socket
import subprocess
import sys
import time
import unittest
from contextlib import suppress
from pathlib import Path

import httpx2 as httpx
import psycopg

from lumbek.ops.cluster import free_port, wait_for
from lumbek.ops.nursery import NAME
from lumbek.services import demo
from lumbek.store.address import conninfo_of
from tests.support.client import make_client
from tests.support.running import empty_database, environment, lumbek, serving_at
from tests.support.stack import ROOT, new_database


def forked_of(parent: int) -> list[int]:
    """The processes under one that run by the very words that it was started with, so were forked; not its nursery."""
    words = Path(f"/proc/{parent}/cmdline").read_bytes()
    found = (each for each in children_of(parent) if (each / "cmdline").read_bytes() == words)
    return sorted(int(each.name) for each in found if (each / "comm").read_text().strip() != NAME)


def children_of(parent: int) -> list[Path]:
    return [Path(f"/proc/{each}") for each in Path(f"/proc/{parent}/task/{parent}/children").read_text().split()]


class FirstStart(unittest.TestCase):
    def test_from_an_empty_database_to_the_first_account(self) -> None:
        url = empty_database("first_start")
        refused = lumbek(url, "serve")
        self.assertEqual(refused.returncode, 1)
        self.assertIn("lumbek upgrade", refused.stderr)
        self.assertEqual(lumbek(url, "upgrade").returncode, 0)
        port = free_port()
        more = {"LUMBEK_PORT": str(port), "LUMBEK_WORKERS": "2", "LUMBEK_SECURE_COOKIES": "false"}
        server = subprocess.Popen(
            [sys.executable, "-m", "lumbek.cli", "serve"],
            env=environment(url, **more),
            stdout=subprocess.PIPE,
            stderr=subprocess.PIPE,
            text=True,
            cwd=ROOT,
        )
        self.addCleanup(server.stdout.close)
        self.addCleanup(server.stderr.close)
        self.addCleanup(server.wait)
        self.addCleanup(server.terminate)
        self.assertTrue(wait_for(port))
        # No terminal is there: the link is for whoever sits at one, never for a journal.
        said = server.stderr.readline()
        self.assertIn("lumbek admin begin", said)
        token = lumbek(url, "admin", "begin").stdout.strip().rsplit("/", 1)[1]
        with httpx.Client(base_url=f"http://127.0.0.1:{port}", timeout=60) as client:
            body = {"token": token, "password": "four unrelated words", "email": "ann@firm.example"}
            made = client.post("/api/links/use", json={**body, "name": "Ann", "firm": "Firm"})
            self.assertEqual((made.status_code, made.json()["roles"]), (200, ["supervisor", "admin"]))
            self.assertEqual(client.get("/api/jobs").json(), [])
        server.terminate()
        out = server.stdout.read()
        for line in out.splitlines():
            self.assertIn("event", json.loads(line))
        self.assertNotIn("ann@firm.example", out)
        self.assertNotIn(token, out)

    def test_a_port_that_is_taken_is_told_in_words(self) -> None:
        with socket.create_server(("127.0.0.1", 0)) as taken:
            port = taken.getsockname()[1]
            command = [sys.executable, "-m", "lumbek.cli", "serve"]
            known = environment(new_database(demo=True), LUMBEK_PORT=str(port), LUMBEK_DEMO="false")
            done = subprocess.run(command, env=known, capture_output=True, text=True, cwd=ROOT, check=False)
        said = f"Lumbek cannot listen at 127.0.0.1, port {port}: something else listens there already."
        self.assertEqual((done.returncode, done.stderr.strip()), (1, said))

    def test_processes_end_with_the_one_that_started_them_and_come_up_on_a_busy_machine(self) -> None:
        port = free_port()
        more = {"LUMBEK_PORT": str(port), "LUMBEK_WORKERS": "2", "LUMBEK_DEMO": "false"}
        known = environment(new_database(demo=True), **more)
        busy = [subprocess.Popen([sys.executable, "-c", "while True: pass"]) for _ in range(os.cpu_count() or 1)]
        for each in busy:
            self.addCleanup(each.wait)
            self.addCleanup(each.kill)
        server = subprocess.Popen(
            [sys.executable, "-m", "lumbek.cli", "serve"], env=known, stdout=subprocess.PIPE, text=True, cwd=ROOT
        )
        self.addCleanup(server.stdout.close)
        self.addCleanup(server.wait)
        self.addCleanup(server.kill)
        end = time.monotonic() + 120
        while time.monotonic() < end:
            with suppress(httpx.HTTPError):
                if httpx.get(f"http://127.0.0.1:{port}/api/health", timeout=60).status_code == 200:
                    break
            time.sleep(0.2)
        else:
            self.fail("it never came up")
        # The application is loaded once: its processes are forked, and one that ends is followed by another.
        self.assertEqual(len(forked := forked_of(server.pid)), 2)
        os.kill(forked[0], signal.SIGTERM)
        while len(now := forked_of(server.pid)) != 2 or forked[0] in now:
            self.assertLess(time.monotonic(), end)
            time.sleep(0.2)
        self.assertIn(forked[1], now)
        server.kill()
        server.wait()
        # Those that are still loading too: they see it when they have.
        while serving_at(port) and time.monotonic() < end:
            time.sleep(0.2)
        self.assertEqual(serving_at(port), [])
        # One that was ended is noticed, and no other.
        self.assertEqual(server.stdout.read().count("died"), 1)

    def test_memory_that_was_used_once_is_given_back(self) -> None:
        script = (
            "import sys\n"
            "from lumbek.ops.memory import give_back, keep_giving_back\n"
            "def held(): return int(open('/proc/self/statm').read().split()[1]) * 4096 // 1_000_000\n"
            "before, much = held(), [bytes(600 + n % 900) for n in range(200_000)]\n"
            "kept, full = much[::4000], held()\n"
            "del much\n"
            "over = keep_giving_back(0.05)\n"
            "over.wait(1.0)\n"
            "over.set()\n"
            "print(before, full, held(), len(kept))\n"
        )
        done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, cwd=ROOT, check=True)
        before, full, after, _ = map(int, done.stdout.split())
        self.assertGreater(full - before, 150)
        self.assertLess(after - before, (full - before) / 4)

    def test_tables_are_made_where_the_last_one_was(self) -> None:
        script = (
            "import numpy, resource, sys\n"
            "from lumbek.ops.memory import give_back, keep_tables\n"
            "if sys.argv[1] == 'kept': assert keep_tables()\n"
            "def fetched(): return resource.getrusage(resource.RUSAGE_SELF).ru_minflt\n"
            "def held(): return int(open('/proc/self/statm').read().split()[1]) * 4096\n"
            "numpy.ones(5_000_000)\n"
            "before = fetched()\n"
            "for _ in range(5): numpy.ones(5_000_000)\n"
            "print(fetched() - before)\n"
            "full = held()\n"
            "give_back()\n"
            "print(full - held())\n"
        )
        runs = [[sys.executable, "-c", script, kept] for kept in ("kept", "asked")]
        kept, asked = ([*map(int, subprocess.check_output(run, text=True, cwd=ROOT).split())] for run in runs)
        self.assertLess(kept[0], asked[0] / 10)
        # What is kept for the next is no more than that: it goes with all else that nobody uses.
        self.assertGreater(kept[1], 39_000_000)

    def test_people_from_the_shell(self) -> None:
        url = new_database(demo=True)
        made = lumbek(url, "admin", "person", demo.FIRM, "sam@signalbox.example", "--role", "tester")
        token = made.stdout.strip().rsplit("/", 1)[1]
        client = make_client(url)
        body = {"token": token, "password": "four unrelated words", "name": "Sam"}
        self.assertEqual(client.post("/api/links/use", json=body).json()["roles"], ["tester"])
        self.assertEqual(lumbek(url, "admin", "lock", "sam@signalbox.example").returncode, 0)
        self.assertEqual(client.get("/api/session").status_code, 401)
        listed = lumbek(url, "admin", "list").stdout
        self.assertIn("sam@signalbox.example  Sam  tester  (locked out, no second factor)", listed)
        self.assertEqual(lumbek(url, "admin", "lock", "nobody@signalbox.example").returncode, 1)
        self.assertEqual(lumbek(url, "admin", "firm", "Other", "sam@signalbox.example").returncode, 1)
        self.assertIn("/link/", lumbek(url, "admin", "firm", "Other", "eve@other.example").stdout)
        self.assertIn("holds", lumbek(url, "admin", "verify").stdout)
        self.assertIn("Deleted", lumbek(url, "admin", "clear").stdout)
        with psycopg.connect(conninfo_of(url)) as db:
            db.execute("set session_replication_role = replica")
            db.execute("update audit set detail = 'nothing happened' where id = (select min(id) from audit)")
        broken = lumbek(url, "admin", "verify")
        self.assertEqual(broken.returncode, 1)
        self.assertIn("does not hold", broken.stderr)

    def test_settings_that_are_wrong_are_named(self) -> None:
        done = subprocess.run(
            [sys.executable, "-m", "lumbek.cli", "serve"],
            env={**os.environ, "LUMBEK_PORT": "many"},
            capture_output=True,
            text=True,
            cwd=ROOT,
            check=False,
        )
        self.assertEqual(done.returncode, 2)
        self.assertIn("LUMBEK_PORT", done.stderr)
