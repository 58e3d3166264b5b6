"""The process that heavy work is forked from: one for all, nobody's burden, and missed by nobody when it is gone."""

import fcntl
import subprocess
import sys
import tempfile
import time
import unittest
from pathlib import Path

from lumbek.ops.cluster import free_port, is_free
from lumbek.ops.nursery import NAME
from tests.support.stack import ROOT

# Two processes that share a nursery, as those of `lumbek serve` do. Each says whose child its piece was done by, what
# that one is called, and whether what is large was loaded before the piece came.
SCRIPT = """
import asyncio, fcntl, multiprocessing, os, signal, socket, sys, time
from functools import partial
from pathlib import Path
from lumbek.api.pool import Pool
from lumbek.ops.nursery import NAME, begin_nursery
from lumbek.services.heavy import Piece

class Asker:
    async def is_disconnected(self):
        return False

def told():
    return os.getppid(), Path(f"/proc/{os.getppid()}/comm").read_text().strip(), "weasyprint" in sys.modules

def ask(name):
    pool = Pool(1, 1, 60)
    print(name, *asyncio.run(pool.do(Asker(), Piece(told))), flush=True)
    pool.close()

if __name__ == "__main__":
    port, lock, how = sys.argv[1:]
    listening = socket.create_server(("127.0.0.1", int(port)))
    held = open(lock, "w")
    fcntl.flock(held, fcntl.LOCK_EX)
    begin_nursery()
    ask("first")
    other = multiprocessing.get_context("fork").Process(target=partial(ask, "second"))
    other.start()
    other.join()
    (nursery,) = [
        int(each) for each in Path(f"/proc/self/task/{os.getpid()}/children").read_text().split()
        if Path(f"/proc/{each}/comm").read_text().strip() == NAME
    ]
    if how == "kill":
        os.kill(nursery, signal.SIGKILL)
        time.sleep(0.2)
        ask("third")
    print("done", nursery, flush=True)
    if how == "":
        os.kill(os.getpid(), signal.SIGKILL)
"""


class Nursery(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        (self.folder / "script.py").write_text(SCRIPT)
        (self.folder / "tmp").mkdir()
        self.port = free_port()

    def run_it(self, how: str = "") -> dict[str, list[str]]:
        command = [sys.executable, str(self.folder / "script.py"), str(self.port), str(self.folder / "lock"), how]
        known = {"PYTHONPATH": str(ROOT), "TMPDIR": str(self.folder / "tmp"), "PATH": "/usr/bin:/bin"}
        done = subprocess.run(command, capture_output=True, text=True, cwd=ROOT, env=known, check=False, timeout=180)
        self.assertIn("done", done.stdout, done.stderr)
        return {line.split()[0]: line.split()[1:] for line in done.stdout.splitlines()}

    def test_all_processes_have_theirs_from_one_that_has_loaded_everything(self) -> None:
        said = self.run_it()
        self.assertEqual(said["first"], [said["done"][0], NAME, "True"])
        self.assertEqual(said["second"], said["first"])

    def test_it_ends_with_who_began_it_and_holds_nothing_of_theirs(self) -> None:
        said = self.run_it()
        # Whoever began it was killed: the port is to be had, the lock too, nothing is left lying about.
        end = time.monotonic() + 30
        while Path(f"/proc/{said['done'][0]}").exists() and time.monotonic() < end:
            time.sleep(0.05)
        self.assertFalse(Path(f"/proc/{said['done'][0]}").exists())
        self.assertEqual(list((self.folder / "tmp").glob("lumbek-*")), [])
        self.assertTrue(is_free(self.port))
        with (self.folder / "lock").open("w") as lock:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)

    def test_where_it_was_ended_work_is_done_all_the_same(self) -> None:
        said = self.run_it("kill")
        self.assertNotEqual(said["third"][0], said["first"][0])
        self.assertEqual(said["third"][1:], ["python", "True"])
        # It could not clear up after itself: who began it has.
        self.assertEqual(list((self.folder / "tmp").glob("lumbek-*")), [])


if __name__ == "__main__":
    unittest.main()
