"""The demo as a user meets it: started, used, killed, started again with everything still there."""

import contextlib
import os
import re
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import time
import unittest
import unittest.mock
from pathlib import Path
from uuid import uuid4

import httpx2 as httpx
import psycopg

from lumbek.ops.cluster import ClusterError, PostgresCluster, free_port, wait_for
from lumbek.services import demo
from lumbek.services.demo import EMAIL, PASSWORD, load_demo
from lumbek.store.address import conninfo_of
from lumbek.store.database import Database
from lumbek.store.grants import grant
from lumbek.store.migrate import upgrade
from tests.support.stack import ROOT

_RUN = """
import sys
from pathlib import Path
from lumbek.ops import demo
demo.ROOT = Path(sys.argv[1])
sys.exit(demo.main())
"""


class DemoCase(unittest.TestCase):
    """A checkout of its own, in a folder called like no other."""

    name = "demo"

    def setUp(self) -> None:
        (ROOT / "var").mkdir(exist_ok=True)
        self.kept = Path(tempfile.mkdtemp(prefix="demo-", dir=ROOT / "var"))
        self.kept.chmod(0o755)
        self.folder = self.kept / self.name
        self.folder.mkdir()
        self.port = free_port()
        self.started: list[subprocess.Popen[str]] = []

    def tearDown(self) -> None:
        for process in self.started:
            if process.poll() is None:
                process.kill()
            process.communicate()
        PostgresCluster(self.folder / "var" / "demo").remove()
        shutil.rmtree(self.kept)

    def run_demo(self, port: str | None = None) -> subprocess.Popen[str]:
        process = subprocess.Popen(
            [sys.executable, "-c", _RUN, str(self.folder)],
            env={**os.environ, "LUMBEK_PORT": str(self.port) if port is None else port},
            stdout=subprocess.PIPE,
            stderr=subprocess.PIPE,
            text=True,
        )
        self.started.append(process)
        return process

    def start(self) -> tuple[subprocess.Popen[str], str]:
        """Start the demo and return what it prints until it is up."""
        process = self.run_demo()
        self.assertTrue(wait_for(self.port, 180))
        assert process.stdout is not None
        return process, "".join(process.stdout.readline() for _ in range(4))

    def servers(self) -> list[str]:
        """The PostgreSQL servers of this folder that are running."""
        data = (self.folder / "var" / "demo" / "data").resolve()
        found = []
        for each in Path("/proc").glob("[0-9]*/cwd"):
            with contextlib.suppress(OSError):
                if each.resolve() == data:
                    found.append(each.parent.name)
        return found

    def client(self) -> httpx.Client:
        # A busy machine takes its time over a password.
        client = httpx.Client(base_url=f"http://127.0.0.1:{self.port}", timeout=60)
        answer = client.post("/api/session", json={"email": EMAIL, "password": PASSWORD})
        self.assertEqual(answer.status_code, 200)
        client.headers["X-CSRF-Token"] = answer.json()["csrf_token"]
        return client


class Demo(DemoCase):
    def test_what_was_entered_outlives_kill_9_a_second_one_is_told_and_ctrl_c_stops_all(self) -> None:
        process, said = self.start()
        self.assertIn(f"http://127.0.0.1:{self.port}", said)
        self.assertIn(PASSWORD, said)
        self.assertIn("Demo data loaded", said)
        with contextlib.closing(self.client()) as client:
            self.assertIn('<div id="root">', client.get("/").text)
            new = {"id": str(uuid4()), "head": {"name": "Entered by hand"}}
            self.assertEqual(client.post("/api/jobs", json=new).status_code, 201)
            # An exercise that ends: marks are kept like readings.
            run, asked = str(uuid4()), {"kind": "isolation", "level": 1, "seed": 1}
            client.post("/api/practice/runs", json={"id": run, "asked": asked}).raise_for_status()
            act = {"id": str(uuid4()), "act": {"choice": "begin"}}
            ended = client.post(f"/api/practice/runs/{run}/acts", json=act)
            self.assertEqual(ended.status_code, 201, ended.text)
        process.kill()
        process.wait()
        process, said = self.start()
        self.assertIn("kept", said)
        # A second one says where this one is, and leaves it alone.
        out, _ = self.run_demo(port="").communicate(timeout=180)
        self.assertIn(f"runs already at http://127.0.0.1:{self.port}", out)
        self.assertIsNone(process.poll())
        with contextlib.closing(self.client()) as client:
            self.assertEqual(client.get("/api/health").json(), {"state": "up"})
            names = [job["name"] for job in client.get("/api/jobs").json()]
            self.assertEqual(client.get(f"/api/practice/runs/{run}").json(), ended.json())
            self.assertFalse(client.get("/api/practice").json()["runs"][0]["marks"]["safe"])
        self.assertIn("Entered by hand", names)
        self.assertEqual(names.count("The old signal box"), 1)
        process.send_signal(signal.SIGINT)
        self.assertEqual(process.wait(timeout=90), 0)
        self.assertEqual(self.servers(), [])

    def test_told_to_stop_at_any_moment_it_leaves_no_server(self) -> None:
        for told, after_s in (
            (signal.SIGTERM, 0.7),
            (signal.SIGTERM, 2.5),
            (signal.SIGHUP, None),
        ):
            process = self.run_demo()
            if after_s is None:
                self.assertTrue(wait_for(self.port, 180))
            else:
                time.sleep(after_s)
            process.send_signal(told)
            process.communicate(timeout=180)
            self.assertEqual(self.servers(), [], (told, after_s))

    def test_a_database_of_a_start_without_passwords_gets_them_and_its_owner(self) -> None:
        cluster = PostgresCluster(self.folder / "var" / "demo")
        cluster.start()
        upgrade(cluster.superuser_url)
        (cluster.folder / "data" / "pg_hba.conf").write_text("host all all 127.0.0.1/32 trust\n")
        cluster.stop()
        (cluster.folder / "passwords.json").unlink()
        cluster = PostgresCluster(cluster.folder)
        cluster.start()
        try:
            with psycopg.connect(conninfo_of(cluster.owner_url)) as owner:
                owners = owner.execute(
                    "SELECT DISTINCT tableowner FROM pg_tables WHERE schemaname = 'public'"
                ).fetchall()
            self.assertEqual(owners, [("lumbek_owner",)])
            with self.assertRaises(psycopg.OperationalError):
                psycopg.connect(conninfo_of(cluster.superuser_url), password="")
            self.assertEqual((cluster.folder / "passwords.json").stat().st_mode & 0o777, 0o600)
        finally:
            cluster.stop()

    def test_a_lock_left_empty_and_passwords_cut_off_are_mended(self) -> None:
        cluster = PostgresCluster(self.folder / "var" / "demo")
        for cut in ('{"lumbek": "ab', "[]", ""):
            cluster.start()
            with psycopg.connect(conninfo_of(cluster.owner_url)) as owner:
                owner.execute("CREATE TABLE IF NOT EXISTS kept (id int)")
            cluster.stop()
            (cluster.folder / "passwords.json").write_text(cut)
            (cluster.folder / "data" / "postmaster.pid").write_text("")
            cluster = PostgresCluster(cluster.folder)
            cluster.start()
            try:
                with psycopg.connect(conninfo_of(cluster.owner_url)) as owner:
                    owner.execute("SELECT id FROM kept")
                with self.assertRaises(psycopg.OperationalError):
                    psycopg.connect(conninfo_of(cluster.superuser_url), password="")
                # A lock of somebody who is starting is left to him.
                lock = cluster.folder / "data" / "postmaster.pid"
                held = lock.read_text()
                lock.write_text("")
                cluster._clear_lock()
                self.assertTrue(lock.exists())
                lock.write_text(held)
            finally:
                cluster.stop()

    def test_a_start_cut_off_anywhere_is_finished_by_the_next(self) -> None:
        self.start()[0].kill()
        place = self.folder / "var" / "demo"
        # Cut off inside initdb; before the database was made; between the people and their houses.
        PostgresCluster(place).stop()
        (place / "data").rename(place / "data.new")
        (place / "data.new" / "PG_VERSION").unlink()
        (place / "data").mkdir()
        cluster = PostgresCluster(place)
        cluster.start()
        with psycopg.connect(conninfo_of(cluster.superuser_url), dbname="postgres") as admin:
            admin.autocommit = True
            admin.execute("DROP DATABASE lumbek")
        cluster.stop()
        cluster.start()
        upgrade(cluster.owner_url)
        grant(cluster.owner_url, cluster.url)
        database = Database(cluster.url)
        with unittest.mock.patch.object(demo, "HOUSES", ("boathouse.json",)):
            self.assertTrue(load_demo(database))
        database.close()
        cluster.stop()
        self.assertIn("Demo data loaded", self.start()[1])
        with contextlib.closing(self.client()) as client:
            self.assertEqual(len(client.get("/api/jobs").json()), 3)

    def test_a_port_that_cannot_be_is_said_in_a_sentence(self) -> None:
        with socket.socket() as taken:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            for port, words in (
                ("ninety", "must be a number"),
                ("70000", "must be a number"),
                ("٣٣٣٣", "must be a number"),
                (str(taken.getsockname()[1]), "listens on"),
            ):
                process = self.run_demo(port)
                _, err = process.communicate(timeout=180)
                self.assertEqual(process.returncode, 1)
                self.assertIn(words, err)
                self.assertEqual(len(err.strip().splitlines()), 1, err)
        self.assertEqual(self.servers(), [])


class OddPlace(DemoCase):
    name = "a 'b', \"c\" $d " + "long " * 24

    def test_any_folder_will_do(self) -> None:
        process, said = self.start()
        self.assertIn(f"http://127.0.0.1:{self.port}", said)
        process.send_signal(signal.SIGTERM)
        process.communicate(timeout=60)
        self.assertEqual(self.servers(), [])


class Ports(unittest.TestCase):
    def test_a_preferred_port_that_is_taken_is_left_alone(self) -> None:
        wanted = free_port()
        self.assertEqual(free_port(preferred=wanted), wanted)
        with subprocess.Popen(
            [sys.executable, "-m", "http.server", str(wanted), "--bind", "127.0.0.1"], stderr=subprocess.DEVNULL
        ) as other:
            self.assertTrue(wait_for(wanted))
            self.assertNotEqual(free_port(preferred=wanted), wanted)
            other.terminate()

    def test_nothing_listening_is_said_in_time(self) -> None:
        self.assertFalse(wait_for(free_port(), 0.2))

    @unittest.skipUnless(os.geteuid() == 0, "only root hands the folder over")
    def test_a_folder_that_cannot_be_entered_is_named(self) -> None:
        with tempfile.TemporaryDirectory() as closed:
            Path(closed).chmod(0o700)
            with self.assertRaisesRegex(ClusterError, re.escape(closed)):
                PostgresCluster(Path(closed) / "inside").start()
