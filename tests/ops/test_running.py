"""Running for a firm: the first start, the shell's commands, backups that come back row for row."""

import json
import os
import random
import socket
import subprocess
import sys
import tempfile
import time
import unittest
import zipfile
from contextlib import suppress
from pathlib import Path

import httpx2 as httpx
import psycopg

from lumbek.ops import backup
from lumbek.ops.cluster import free_port, wait_for
from lumbek.services import demo
from lumbek.settings import Settings
from lumbek.store.address import conninfo_of
from tests.api.case import new_id
from tests.support.client import make_client, sign_in
from tests.support.stack import ROOT, as_application, as_owner, cluster, new_database


def environment(url: str, **more: str) -> dict[str, str]:
    said = {"LUMBEK_DATABASE_URL": as_application(url), "LUMBEK_OWNER_DATABASE_URL": as_owner(url)}
    return {**os.environ, **said, **more}


def lumbek(url: str, *arguments: str) -> subprocess.CompletedProcess[str]:
    command = [sys.executable, "-m", "lumbek.cli", *arguments]
    return subprocess.run(command, env=environment(url), capture_output=True, text=True, cwd=ROOT, check=False)


def empty_database(name: str) -> str:
    cluster().make_database(name)
    return f"/{name}"


def rows(url: str) -> dict[str, list[tuple[object, ...]]]:
    """Everything in a database, to be compared."""
    with psycopg.connect(conninfo_of(as_owner(url))) as db:
        tables = [each[0] for each in db.execute("select tablename from pg_tables where schemaname = 'public'")]
        return {table: sorted(db.execute(f"select t::text from {table} t").fetchall()) for table in tables}


def serving_at(port: int) -> list[str]:
    """The processes that were told to serve at a port."""
    said, found = f"LUMBEK_PORT={port}".encode(), []
    for each in Path("/proc").glob("[0-9]*/environ"):
        with suppress(OSError):
            found += [each.parent.name] * (said in each.read_bytes().split(b"\0"))
    return found


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
        with httpx.Client(base_url=f"http://127.0.0.1:{port}") as client:
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
        busy = [subprocess.Popen([sys.executable, "-c", "while True: pass"]) for _ in range(4)]
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
                if httpx.get(f"http://127.0.0.1:{port}/api/health", timeout=30).status_code == 200:
                    break
            time.sleep(0.2)
        else:
            self.fail("it never came up")
        self.assertGreaterEqual(len(serving_at(port)), 2)
        server.kill()
        server.wait()
        # Those that are still loading too: they see it when they have.
        while serving_at(port) and time.monotonic() < end:
            time.sleep(0.2)
        self.assertEqual(serving_at(port), [])
        self.assertNotIn("died", server.stdout.read())

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


class Backups(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.file = Path(folder.name) / "lumbek.backup"

    def settings(self, url: str) -> Settings:
        return Settings(database_url=as_application(url), owner_database_url=as_owner(url))

    def test_after_random_writes_everything_comes_back_row_for_row(self) -> None:
        url, chance = new_database(demo=True), random.Random(11)
        client = sign_in(make_client(url))
        job = client.get("/api/jobs").json()[0]["id"]
        circuits = [each["id"] for each in client.get(f"/api/jobs/{job}").json()["circuits"]]
        for _ in range(40):
            circuit, deed = chance.choice(circuits), chance.randrange(3)
            view = client.get(f"/api/circuits/{circuit}").json()
            write = {"id": new_id(), "version": view["version"]}
            if deed == 0:
                name = chance.choice(("Ünder the eaves", "Kiln ⚡ shed", "a\tb", "'); drop table reading; --"))
                client.post(
                    f"/api/circuits/{circuit}/commands", json={**write, "commands": [{"op": "circuit", "name": name}]}
                )
            elif deed == 1:
                client.post(f"/api/circuits/{circuit}/undo", json=write)
            else:
                reading = {"quantity": "r1", "value": chance.random()}
                client.post(f"/api/circuits/{circuit}/readings", json={"id": new_id(), "reading": reading})
        told = backup.make(self.settings(url), self.file)
        self.assertIn("checked", told)
        self.assertEqual(self.file.stat().st_mode & 0o777, 0o600)
        back = empty_database(f"restored_{new_id()[:8]}")
        self.assertIn("every table as it was", backup.restore(self.settings(back), self.file))
        self.assertEqual(rows(back), rows(url))
        # It is a database to go on with, as the application, with its triggers.
        again = sign_in(make_client(back))
        self.assertEqual(
            again.get(f"/api/jobs/{job}").json()["version"], client.get(f"/api/jobs/{job}").json()["version"]
        )
        again.post(
            f"/api/circuits/{circuits[0]}/readings", json={"id": new_id(), "reading": reading}
        ).raise_for_status()
        with (
            psycopg.connect(conninfo_of(as_owner(back))) as db,
            self.assertRaises(psycopg.errors.InsufficientPrivilege),
        ):
            db.execute("delete from reading")
        with self.assertRaisesRegex(backup.BackupError, "not empty"):
            backup.restore(self.settings(back), self.file)
        with zipfile.ZipFile(self.file) as archive:
            names = [name for name in archive.namelist() if name.startswith("jobs/")]
            self.assertEqual(len(names), 2)
            whole = json.loads(archive.read(next(name for name in names if job in name)))
        self.assertEqual(whole, client.get(f"/api/jobs/{job}/file").json())

    def test_a_backup_while_others_write_is_of_one_moment(self) -> None:
        url = new_database(demo=True)
        script = (
            "import sys, psycopg, uuid\n"
            "db = psycopg.connect(sys.argv[1], autocommit=True)\n"
            "told = False\n"
            "while True:\n"
            "    with db.transaction():\n"
            "        firm = uuid.uuid4()\n"
            "        db.execute('insert into firm values (%s, %s)', (firm, 'f'))\n"
            '        db.execute("insert into audit (id, firm_id, action, subject) '
            "select max(id) + 1, %s, 'x', 'y' from audit\", (firm,))\n"
            "    told = told or print('writing', flush=True) is None\n"
        )
        before = rows(url)
        command = [sys.executable, "-c", script, conninfo_of(as_owner(url))]
        with subprocess.Popen(command, stdout=subprocess.PIPE, text=True) as writer:
            assert writer.stdout is not None
            try:
                self.assertEqual(writer.stdout.readline(), "writing\n")
                backup.make(self.settings(url), self.file)
                meanwhile = len(rows(url)["firm"])
            finally:
                writer.kill()
        back = empty_database(f"restored_{new_id()[:8]}")
        backup.restore(self.settings(back), self.file)
        found = rows(back)
        written = len(found["firm"]) - len(before["firm"])
        self.assertGreater(written, 0)
        self.assertLess(len(found["firm"]), meanwhile)
        self.assertEqual(len(found["audit"]) - len(before["audit"]), written)
        self.assertEqual(len(found["audit"]), len(found["audit_link"]))

    def test_what_is_damaged_or_in_the_way_is_refused_and_leaves_nothing(self) -> None:
        url = new_database(demo=True)
        backup.make(self.settings(url), self.file)
        with self.assertRaisesRegex(backup.BackupError, "is there already"):
            backup.make(self.settings(url), self.file)
        whole = self.file.read_bytes()
        back = empty_database(f"restored_{new_id()[:8]}")
        for damaged in (b"", b"not a backup", whole[: len(whole) // 2], whole[:2000] + b"\0" * 50 + whole[2050:]):
            self.file.write_bytes(damaged)
            with self.assertRaisesRegex(backup.BackupError, "no backup that can be read"):
                backup.restore(self.settings(back), self.file)
        self.assertEqual(rows(back), {})
        with self.assertRaisesRegex(backup.BackupError, "cannot be written"):
            backup.make(self.settings(url), self.file.parent / "nowhere" / "x")
        self.assertEqual([each.name for each in self.file.parent.iterdir()], [self.file.name])
