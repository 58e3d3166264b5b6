"""Watching over the database: a question every half second, with an answer in time or the database is taken for gone.

A database that is stopped says so; one that is frozen, or behind a dead line, says nothing, and whoever asked it waits.
Then all connections are cut, so that everybody who waits is told, and nobody new is let wait until it answers again.
"""

import asyncio
import contextlib
import socket
import threading
import weakref
from collections.abc import Callable
from typing import Any

import psycopg

from lumbek.store.address import conninfo_of

_EVERY_S = 0.5
_PATIENCE_S = 1.5
# The least that libpq knows.
_CONNECT_S = 2


class Watch:
    """A watch over one database, from `start` to `stop`."""

    def __init__(self, url: str) -> None:
        self._conninfo = conninfo_of(url)
        self._answers = True
        self._over = threading.Event()
        self._connections: weakref.WeakSet[psycopg.Connection[Any]] = weakref.WeakSet()
        self._thread: threading.Thread | None = None

    @property
    def answers(self) -> bool:
        """Whether the database answered when it was last asked."""
        return self._answers

    @property
    def runs(self) -> bool:
        """Whether anybody watches."""
        return self._thread is not None

    def knows(self, connection: "psycopg.Connection[Any]") -> None:
        """Take note of a connection, to be cut when the database is gone."""
        self._connections.add(connection)

    def start(self) -> None:
        """Begin to watch."""
        self._thread = threading.Thread(target=asyncio.run, args=(self._watch(),), name="watch", daemon=True)
        self._thread.start()

    def stop(self) -> None:
        """Watch no more."""
        self._over.set()
        if self._thread is not None:
            self._thread.join(_EVERY_S + 2 * _PATIENCE_S)
            self._thread = None

    async def _watch(self) -> None:
        while not self._over.is_set():
            try:
                connection = await psycopg.AsyncConnection.connect(
                    self._conninfo, autocommit=True, connect_timeout=_CONNECT_S
                )
                await self._go_on_asking(connection)
            except (psycopg.Error, OSError):
                self._is_gone()
                await asyncio.sleep(_EVERY_S)

    async def _go_on_asking(self, connection: "psycopg.AsyncConnection[Any]") -> None:
        """Ask until it does not answer, which is raised."""
        while not self._over.is_set():
            asked = asyncio.ensure_future(connection.execute("SELECT 1"))
            await asyncio.wait({asked}, timeout=_PATIENCE_S)
            if not asked.done():
                # Not cancelled, which would ask the server first: cut, and then it is over by itself.
                self._is_gone()
                _cut(connection.fileno)
            await asked
            self._answers = True
            await asyncio.sleep(_EVERY_S)
        _cut(connection.fileno)

    def _is_gone(self) -> None:
        self._answers = False
        for connection in list(self._connections):
            if not connection.closed:
                _cut(connection.fileno)


def _cut(fileno: Callable[[], int]) -> None:
    """Cut a connection under whoever waits on it, who then finds it lost."""
    with contextlib.suppress(OSError, psycopg.Error):
        copy = socket.fromfd(fileno(), socket.AF_INET, socket.SOCK_STREAM)
        try:
            copy.shutdown(socket.SHUT_RDWR)
        finally:
            copy.close()
