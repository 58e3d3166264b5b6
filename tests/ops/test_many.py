"""Many at once, and when something stands still: work that is ended, a queue that is full, a frozen database."""

import asyncio
import os
import signal
import time
import unittest
from functools import partial
from pathlib import Path

import httpx2 as httpx
from starlette.types import Scope

from lumbek.api.door import HEALTH, Door
from lumbek.api.errors import NobodyWaitsError
from lumbek.api.pool import APPLICATION_NICE, Pool
from lumbek.exchange.job_file import JobFileError, read_job
from lumbek.services import demo
from lumbek.services.errors import BusyError, CutOffError, TooLongError
from lumbek.services.heavy import Piece
from tests.support.stack import Server, cluster, new_database


class Asker:
    """Whoever asks for a piece of work, and may leave."""

    def __init__(self, leaves_after: float = 1e9) -> None:
        self.until = time.monotonic() + leaves_after

    async def is_disconnected(self) -> bool:
        return time.monotonic() > self.until


def sleeping(mark: str, seconds: float) -> str:
    Path(mark).write_text(str(os.getpid()))
    time.sleep(seconds)
    return "slept"


def cut_off_once(mark: str) -> str:
    if Path(mark).exists():
        return "done"
    Path(mark).touch()
    os._exit(3)


def holding(size: int) -> int:
    return len(b"x" * size)


def busy(seconds: float) -> int:
    """Work for so many seconds of a processor; return by how much this process goes behind others then."""
    end = time.process_time() + seconds
    while time.process_time() < end:
        pass
    return os.nice(0)


# Where its end is not asked about: the first piece waits until everything is loaded.
LONG_S = 120


class Pieces(unittest.TestCase):
    def setUp(self) -> None:
        self.mark = Path(f"/tmp/lumbek-{os.getpid()}-{time.monotonic_ns()}")
        self.addCleanup(self.mark.unlink, missing_ok=True)

    def is_running(self) -> bool:
        try:
            return "zombie" not in Path(f"/proc/{self.mark.read_text()}/status").read_text()
        except OSError:
            return False

    def test_what_is_made_or_raised_elsewhere_comes_back(self) -> None:
        async def try_it() -> None:
            pool = Pool(2, 4, LONG_S)
            self.addCleanup(pool.close)
            self.assertEqual(await pool.do(Asker(), Piece(partial(divmod, 7, 2), lambda made: made[::-1])), (1, 3))
            with self.assertRaises(JobFileError) as raised:
                await pool.do(Asker(), Piece(partial(read_job, b'{"circuits": 3}')))
            self.assertTrue(raised.exception.problems[0].field)
            with self.assertRaises(CutOffError):
                await pool.do(Asker(), Piece(partial(os._exit, 3)))
            self.assertEqual(await pool.do(Asker(), Piece(partial(cut_off_once, str(self.mark)))), "done")
            with self.assertRaisesRegex(RuntimeError, "cannot be sent"):
                await pool.do(Asker(), Piece(partial(open, os.devnull)))

        asyncio.run(try_it())

    def test_a_process_does_one_piece_after_another_until_it_is_worn(self) -> None:
        async def try_it() -> None:
            pool = Pool(1, 4, LONG_S)
            self.addCleanup(pool.close)
            first = await pool.do(Asker(), Piece(os.getpid))
            self.assertEqual(await pool.do(Asker(), Piece(os.getpid)), first)
            # Memory that it has held goes with it, and so does its low place after a long piece.
            self.assertEqual(await pool.do(Asker(), Piece(partial(holding, 400_000_000))), 400_000_000)
            second = await pool.do(Asker(), Piece(os.getpid))
            self.assertNotEqual(second, first)
            own = os.nice(0)
            self.assertGreater(await pool.do(Asker(), Piece(partial(busy, 1.5))), own + APPLICATION_NICE)
            self.assertNotEqual(await pool.do(Asker(), Piece(os.getpid)), second)

        asyncio.run(try_it())

    def test_one_that_has_died_idle_is_not_missed(self) -> None:
        async def try_it() -> None:
            pool = Pool(1, 4, LONG_S)
            self.addCleanup(pool.close)
            os.kill(await pool.do(Asker(), Piece(os.getpid)), signal.SIGKILL)
            self.assertEqual(await pool.do(Asker(), Piece(partial(divmod, 7, 2))), (3, 1))

        asyncio.run(try_it())

    def test_what_takes_too_long_is_ended(self) -> None:
        async def try_it() -> None:
            pool = Pool(1, 4, LONG_S)
            # Everything is loaded, by a piece that may take its time.
            await pool.do(Asker(), Piece(partial(divmod, 7, 2)))
            pool._seconds = 10.0
            with self.assertRaises(TooLongError):
                await pool.do(Asker(), Piece(partial(sleeping, str(self.mark), 60)))

        asyncio.run(try_it())
        self.assertTrue(self.mark.exists())
        self.assertFalse(self.is_running())

    def test_what_nobody_waits_for_any_more_is_ended(self) -> None:
        pool = Pool(1, 4, LONG_S)
        with self.assertRaises(NobodyWaitsError):
            asyncio.run(pool.do(Asker(1.5), Piece(partial(sleeping, str(self.mark), 60))))
        self.assertFalse(self.is_running())

    def test_so_many_at_once_so_many_in_the_queue_and_the_rest_are_told(self) -> None:
        async def try_it() -> list[object]:
            pool, begun = Pool(2, 3, LONG_S), time.monotonic()
            some = [pool.do(Asker(), Piece(partial(sleeping, f"{self.mark}", 0.4))) for _ in range(8)]
            found = await asyncio.gather(*some, return_exceptions=True)
            # Five pieces, two at once: three rounds.
            self.assertGreater(time.monotonic() - begun, 1.1)
            return found

        found = asyncio.run(try_it())
        self.assertEqual(found.count("slept"), 5)
        self.assertEqual(sum(isinstance(each, BusyError) for each in found), 3)


class AtTheDoor(unittest.TestCase):
    def test_a_crowd_is_let_in_one_by_one_health_at_once_and_nobody_waits_for_anothers_work(self) -> None:
        begun: list[str] = []

        async def try_it() -> None:
            everybody = asyncio.Event()

            async def app(scope: Scope, *_: object) -> None:
                begun.append(scope["path"])
                if len(begun) == 21:
                    everybody.set()
                await everybody.wait()

            def ask(path: str) -> "asyncio.Task[None]":
                return asyncio.create_task(door({"type": "http", "path": path}, None, None))

            door = Door(app)
            crowd = [ask(f"/api/{number}") for number in range(20)]
            await asyncio.sleep(0)
            health = ask(HEALTH)
            await asyncio.sleep(0)
            self.assertIn(HEALTH, begun)
            self.assertLess(len(begun), 5)
            await asyncio.wait_for(asyncio.gather(*crowd, health), 20)

        asyncio.run(try_it())
        self.assertEqual(len(begun), 21)


def _stop(pid: int) -> None:
    """Stop a process, and wait until it stands still or has ended."""
    os.kill(pid, signal.SIGSTOP)
    while Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()[0] not in "TZ":
        time.sleep(0.01)


class StandingStill(unittest.TestCase):
    def setUp(self) -> None:
        self.server = Server(new_database(demo=True)).start()
        self.addCleanup(self.server.stop)
        self.client = httpx.Client(base_url=self.server.address, timeout=60)
        self.addCleanup(self.client.close)
        body = {"email": demo.EMAIL, "password": demo.PASSWORD}
        self.client.post("/api/session", json=body).raise_for_status()

    def freeze(self) -> None:
        """Stop the database server and everything it has started, until it is thawed."""
        _stop(self.servers()[0])
        # Listed when it can start no more. One that went on would wait for a lock of one that stands still.
        for pid in self.servers()[1:]:
            _stop(pid)

    def thaw(self) -> None:
        for pid in self.servers():
            os.kill(pid, signal.SIGCONT)

    def servers(self) -> list[int]:
        """Return the database server and everything it has started."""
        main = cluster()._server()
        return [main, *map(int, Path(f"/proc/{main}/task/{main}/children").read_text().split())]

    def test_a_frozen_database_is_told_in_words_within_three_seconds(self) -> None:
        self.assertEqual(self.client.get("/api/jobs").status_code, 200)
        self.freeze()
        try:
            for _ in range(3):
                begun = time.monotonic()
                answer = self.client.get("/api/jobs")
                self.assertLess(time.monotonic() - begun, 3.0)
                self.assertEqual((answer.status_code, answer.json()["code"]), (503, "our-fault"))
            begun = time.monotonic()
            self.assertEqual(self.client.get("/api/health").status_code, 503)
            self.assertLess(time.monotonic() - begun, 3.0)
        finally:
            self.thaw()
        end = time.monotonic() + 60
        while self.client.get("/api/jobs").status_code != 200 and time.monotonic() < end:
            time.sleep(0.2)
        self.assertEqual(self.client.get("/api/jobs").status_code, 200)
        self.assertEqual(self.client.get("/api/health").json(), {"state": "up"})

    def test_pdfs_are_made_side_by_side_and_health_answers_meanwhile(self) -> None:
        job = self.client.get("/api/jobs").json()[0]["id"]

        async def try_it() -> None:
            cookies = dict(self.client.cookies)
            async with httpx.AsyncClient(base_url=self.server.address, timeout=180, cookies=cookies) as client:
                pdfs = [asyncio.create_task(client.get(f"/api/jobs/{job}/papers/schedule.pdf")) for _ in range(6)]
                answers = 0
                while not all(each.done() for each in pdfs):
                    self.assertEqual((await client.get("/api/health")).status_code, 200)
                    answers += not all(each.done() for each in pdfs)
                    await asyncio.sleep(0.05)
                for each in pdfs:
                    self.assertTrue((await each).content.startswith(b"%PDF"))
                self.assertGreater(answers, 3)

        asyncio.run(try_it())
