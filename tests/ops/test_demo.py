"""The demo as a user meets it: started, used, killed, started again with everything still there."""

import contextlib
import os
import re
import signal
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

import httpx2 as httpx

from lumbek.ops.cluster import Cluster, ClusterError, free_port, wait_for
from lumbek.services.demo import EMAIL, PASSWORD
from tests.support.stack import ROOT

_RUN = """
import sys
from pathlib import Path
from lumbek.ops import demo
demo.ROOT = Path(sys.argv[1])
sys.exit(demo.main())
"""


class Demo(unittest.TestCase):
    def setUp(self) -> None:
        (ROOT / "var").mkdir(exist_ok=True)
        self.folder = Path(tempfile.mkdtemp(prefix="demo-", dir=ROOT / "var"))
        self.folder.chmod(0o755)
        self.port = free_port()
        self.process: subprocess.Popen[str] | None = None

    def tearDown(self) -> None:
        if self.process and self.process.poll() is None:
            self.process.kill()
            self.process.wait()
        if self.process and self.process.stdout:
            self.process.stdout.close()
        Cluster(self.folder / "var" / "demo").remove()
        subprocess.run(["rm", "-rf", str(self.folder)], check=False)

    def start(self) -> str:
        """Start the demo and return what it prints until it is up."""
        if self.process and self.process.stdout:
            self.process.stdout.close()
        self.process = subprocess.Popen(
            [sys.executable, "-c", _RUN, str(self.folder)],
            env={**os.environ, "LUMBEK_PORT": str(self.port)},
            stdout=subprocess.PIPE,
            text=True,
        )
        self.assertTrue(wait_for(self.port, 60))
        assert self.process.stdout is not None
        return "".join(self.process.stdout.readline() for _ in range(4))

    def client(self) -> httpx.Client:
        client = httpx.Client(base_url=f"http://127.0.0.1:{self.port}")
        answer = client.post("/api/session", json={"email": EMAIL, "password": PASSWORD})
        self.assertEqual(answer.status_code, 200)
        client.headers["X-CSRF-Token"] = answer.json()["csrf_token"]
        return client

    def test_what_was_entered_outlives_kill_9_and_ctrl_c_stops_all(self) -> None:
        said = self.start()
        self.assertIn(f"http://127.0.0.1:{self.port}", said)
        self.assertIn(PASSWORD, said)
        self.assertIn("Demo data loaded", said)
        with contextlib.closing(self.client()) as client:
            self.assertIn('<div id="root">', client.get("/").text)
            client.post("/api/jobs", json={"name": "Entered by hand"})
        assert self.process is not None
        self.process.kill()
        self.process.wait()
        self.assertIn("kept", self.start())
        with contextlib.closing(self.client()) as client:
            names = [job["name"] for job in client.get("/api/jobs").json()]
        self.assertIn("Entered by hand", names)
        self.assertEqual(names.count("The old signal box"), 1)
        self.process.send_signal(signal.SIGINT)
        self.assertEqual(self.process.wait(timeout=30), 0)
        self.assertFalse((self.folder / "var" / "demo" / "data" / "postmaster.pid").exists())


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
                Cluster(Path(closed) / "inside").start()
