"""Heavy work in processes of its own: so many at once, the rest in a queue that ends somewhere, none for ever.

Each process does one piece after another, until it is worn: by many pieces, by a long one or by much memory, which goes
with it. It can be ended when its time is up or nobody waits for its piece any more.
"""

import asyncio
import itertools
import multiprocessing
import os
import pickle
import resource
import signal
import threading
from collections.abc import Callable
from multiprocessing.connection import Connection
from multiprocessing.context import ForkServerContext
from typing import Any, TypeVar

from anyio import CapacityLimiter, to_thread
from fastapi import Request
from fastapi.concurrency import run_in_threadpool

from lumbek.api.errors import NobodyWaitsError
from lumbek.services.errors import BusyError, CutOffError, TooLongError
from lumbek.services.heavy import Piece

Made = TypeVar("Made")
Found = TypeVar("Found")
# What the process has loaded that they are forked from.
READY = "lumbek.api.ready"
# The application gives way to what it waits for; a piece that has had so long of a processor gives way to both.
APPLICATION_NICE = 7
_SHORT_S, _LONG_NICE = 1.0, 12
# A process is worn after so many pieces, or where it has ever held so much more than it began with.
_PIECES, _GROWN_KB = 200, 100_000
# How often it is asked whether anybody still waits.
_LOOK_S = 0.25


class Pool:
    """The processes for heavy work of this process of the application."""

    def __init__(self, at_once: int, most_waiting: int, seconds: float) -> None:
        self._at_once, self._most, self._seconds = at_once, at_once + most_waiting, seconds
        self._asked = 0
        # Both are made where the loop runs that waits on them. Threads of our own: whoever waits for a piece has waited
        # enough without standing behind those who read.
        self._slots: asyncio.Semaphore | None = None
        self._threads: CapacityLimiter | None = None
        self._context: ForkServerContext = multiprocessing.get_context("forkserver")
        self._context.set_forkserver_preload([READY])
        self._idle: list[_Hand] = []

    def warm(self) -> None:
        """Have a process ready before anybody waits for it."""
        threading.Thread(target=lambda: self._idle.append(_Hand(self._context)), name="warm", daemon=True).start()

    def close(self) -> None:
        """End the processes that have nothing to do."""
        while self._idle:
            self._idle.pop().end()

    async def do(self, request: Request, piece: Piece[Made]) -> Made:
        """Return what a piece of work makes.

        Raises what it raises; BusyError where too many wait already, TooLongError when its time is up, CutOffError
        where it was ended from outside, twice.
        """
        if piece.known:
            return await run_in_threadpool(piece.call)
        if self._asked >= self._most:
            raise BusyError("Too much is being worked out just now. Try again in a moment.")
        if self._slots is None:
            self._slots, self._threads = asyncio.Semaphore(self._at_once), CapacityLimiter(2 * self._at_once)
        self._asked += 1
        try:
            async with self._slots:
                try:
                    made = await self._elsewhere(request, piece.call)
                except CutOffError:
                    # Nothing of it was kept anywhere: it is done again, once, in case it was ended by chance.
                    made = await self._elsewhere(request, piece.call)
        finally:
            self._asked -= 1
        return made if piece.then is None else await run_in_threadpool(piece.then, made)

    async def _elsewhere(self, request: Request, call: Callable[[], Made]) -> Made:
        hand = self._idle.pop() if self._idle else await self._aside(_Hand, self._context)
        worn = True
        try:
            await self._aside(hand.begin, call)
            await self._until_there(request, hand.pipe)
            right, made, worn = await self._aside(hand.made)
        finally:
            if worn:
                await self._aside(hand.end)
            else:
                self._idle.append(hand)
        if not right:
            raise made
        found: Made = made
        return found

    async def _aside(self, call: Callable[..., Found], *given: Any) -> Found:
        return await to_thread.run_sync(call, *given, limiter=self._threads)

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


class _Hand:
    """A process that works, as it is seen from here."""

    def __init__(self, context: ForkServerContext) -> None:
        self.pipe, theirs = context.Pipe()
        self._process = context.Process(target=_work, args=(theirs,), daemon=True)
        self._process.start()
        theirs.close()

    def begin(self, call: Callable[[], Any]) -> None:
        """Hand over a piece. Raises CutOffError."""
        try:
            self.pipe.send_bytes(pickle.dumps(call))
        except OSError:
            raise CutOffError(_CUT_OFF) from None

    def made(self) -> tuple[bool, Any, bool]:
        """Return whether it went right, what was made or raised, and whether it is worn. Raises CutOffError."""
        try:
            right, made, worn = pickle.loads(self.pipe.recv_bytes())  # noqa: S301 - written by a process of our own
        except (EOFError, OSError):
            raise CutOffError(_CUT_OFF) from None
        return right, made, worn

    def end(self) -> None:
        """End it, whatever it does."""
        self._process.kill()
        self._process.join()
        self.pipe.close()


_CUT_OFF = "This was ended by the machine, perhaps for lack of memory. Try again."


def _work(pipe: Connection) -> None:
    """Do pieces of work, in their own process, and send what each made or raised, until nobody is there."""
    behind = False

    def go_behind(*_: object) -> None:
        nonlocal behind
        behind = True
        os.nice(_LONG_NICE)

    signal.signal(signal.SIGPROF, go_behind)
    began_kb = _most_kb()
    for count in itertools.count(1):
        try:
            said = pipe.recv_bytes()
        except (EOFError, OSError):
            return
        signal.setitimer(signal.ITIMER_PROF, _SHORT_S)
        right, made = _tried(said)
        signal.setitimer(signal.ITIMER_PROF, 0)
        worn = behind or count >= _PIECES or _most_kb() - began_kb > _GROWN_KB
        try:
            pipe.send_bytes(_pickled(right, made, worn))
        except OSError:
            return


def _tried(said: bytes) -> tuple[bool, Any]:
    try:
        return True, pickle.loads(said)()  # noqa: S301 - written by a process of our own
    except Exception as error:
        return False, error


def _pickled(right: bool, made: Any, worn: bool) -> bytes:
    try:
        return pickle.dumps((right, made, worn))
    except Exception as error:
        cannot = RuntimeError(f"cannot be sent: {type(error).__name__}, {made!r:.200}")
        return pickle.dumps((False, cannot, worn))


def _most_kb() -> int:
    """Return the most memory this process has ever held, in kB."""
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
