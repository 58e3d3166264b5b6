"""Heavy work in processes of its own: so many at once, the rest in a queue that ends somewhere, none for ever.

Each piece has a process to itself, forked from one that has loaded everything: what it takes in memory goes with it,
and it can be ended when its time is up or nobody waits for it any more.
"""

import asyncio
import multiprocessing
import os
import pickle
import signal
import threading
from collections.abc import Callable
from multiprocessing.connection import Connection
from multiprocessing.context import ForkServerContext, ForkServerProcess
from typing import Any, TypeVar

from fastapi import Request
from fastapi.concurrency import run_in_threadpool

from lumbek.api.errors import NobodyWaitsError
from lumbek.services.errors import BusyError, TooLongError
from lumbek.services.heavy import Piece

Made = TypeVar("Made")
# After so long of a processor a piece goes behind whoever reads, edits or asks for something small.
_SHORT_S = 1.0
_NICE = 5
# How often it is asked whether anybody still waits.
_LOOK_S = 0.25


class Pool:
    """The processes for heavy work of this process of the application."""

    def __init__(self, at_once: int, most_waiting: int, seconds: float) -> None:
        self._at_once, self._most, self._seconds = at_once, at_once + most_waiting, seconds
        self._asked = 0
        self._slots: asyncio.Semaphore | None = None
        self._context: ForkServerContext = multiprocessing.get_context("forkserver")
        self._context.set_forkserver_preload(["lumbek.api.ready"])

    def warm(self) -> None:
        """Load what every piece needs, before anybody waits for it."""
        threading.Thread(target=self._load, name="warm", daemon=True).start()

    def _load(self) -> None:
        first = self._context.Process(target=int, daemon=True)
        first.start()
        first.join()

    async def do(self, request: Request, piece: Piece[Made]) -> Made:
        """Return what a piece of work makes.

        Raises what it raises; BusyError where too many wait already, TooLongError when its time is up.
        """
        if piece.known:
            return await run_in_threadpool(piece.call)
        if self._asked >= self._most:
            raise BusyError("Too much is being worked out just now. Try again in a moment.")
        if self._slots is None:
            # Made where the loop runs that waits on it.
            self._slots = asyncio.Semaphore(self._at_once)
        self._asked += 1
        try:
            async with self._slots:
                made = await self._elsewhere(request, piece.call)
        finally:
            self._asked -= 1
        return await run_in_threadpool(piece.then, made)

    async def _elsewhere(self, request: Request, call: Callable[[], Made]) -> Made:
        mine, theirs = self._context.Pipe(duplex=False)
        process = self._context.Process(target=_do, args=(theirs, call), daemon=True)
        try:
            await run_in_threadpool(process.start)
            theirs.close()
            await self._until_there(request, mine)
            made: Made = _opened(await run_in_threadpool(_received, mine))
            return made
        finally:
            await run_in_threadpool(_end, process, mine)

    async def _until_there(self, request: Request, answer: Connection) -> None:
        loop, there = asyncio.get_running_loop(), asyncio.Event()
        loop.add_reader(answer.fileno(), there.set)
        end = loop.time() + self._seconds
        try:
            while not there.is_set():
                try:
                    await asyncio.wait_for(there.wait(), _LOOK_S)
                except TimeoutError:
                    if await request.is_disconnected():
                        raise NobodyWaitsError from None
                    if loop.time() > end:
                        raise TooLongError(f"That took more than {self._seconds:g} s and was stopped.") from None
        finally:
            loop.remove_reader(answer.fileno())


def _do(answer: Connection, call: Callable[[], Any]) -> None:
    """Do a piece of work, in its own process, and send what it made or raised."""
    signal.signal(signal.SIGPROF, lambda *_: os.nice(_NICE))
    signal.setitimer(signal.ITIMER_PROF, _SHORT_S)
    try:
        told: tuple[bool, Any] = (True, call())
    except Exception as error:
        told = (False, error)
    try:
        said = pickle.dumps(told)
    except Exception as error:
        said = pickle.dumps((False, RuntimeError(f"cannot be sent: {type(error).__name__}, {told[1]!r:.200}")))
    answer.send_bytes(said)


def _received(answer: Connection) -> bytes:
    try:
        return answer.recv_bytes()
    except EOFError:
        raise RuntimeError("a process for heavy work has died") from None


def _opened(said: bytes) -> Any:
    right, made = pickle.loads(said)  # noqa: S301 - written by a process of our own
    if not right:
        raise made
    return made


def _end(process: ForkServerProcess, answer: Connection) -> None:
    if process.pid is not None:
        process.kill()
        process.join()
    answer.close()
