"""Connections that are closed where a request does not come whole in time.

Whoever opens a connection, or sends half of a request, or a byte now and then, would hold it for good otherwise. A body
that is slow but comes has time: so many seconds, and more by what has come of it.
"""

import asyncio
from typing import ClassVar

import h11
from uvicorn.protocols.http.h11_impl import H11Protocol

# A body that comes at so many bytes a second or more is waited for: a photo by a poor signal.
_LEAST_RATE = 8192


class PatientProtocol(H11Protocol):
    """HTTP/1.1 as uvicorn speaks it, with an end to waiting for a request."""

    # How long a request may take to come whole, beside what its size allows.
    seconds: ClassVar[float] = 20.0

    _since = 0.0
    _bytes = 0
    _waiting: asyncio.TimerHandle | None = None

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        """Begin to wait for the first request."""
        super().connection_made(transport)
        self._begin()

    def data_received(self, data: bytes) -> None:
        """Take in what has come; the next request is waited for from its first byte on."""
        if self._waiting is None:
            self._begin()
        self._bytes += len(data)
        super().data_received(data)

    def handle_events(self) -> None:
        """Wait no longer where the request is whole."""
        super().handle_events()
        if self.conn.their_state not in (h11.IDLE, h11.SEND_BODY):
            self._end()

    def connection_lost(self, exc: Exception | None) -> None:
        """Wait for nothing any more."""
        self._end()
        super().connection_lost(exc)

    def _begin(self) -> None:
        self._since, self._bytes = self.loop.time(), 0
        self._waiting = self.loop.call_later(self.seconds, self._look)

    def _end(self) -> None:
        if self._waiting is not None:
            self._waiting.cancel()
            self._waiting = None

    def _look(self) -> None:
        """Close the connection where it has had its time; look again later where it has some left."""
        left = self._since + self.seconds + self._bytes / _LEAST_RATE - self.loop.time()
        if self.flow.read_paused:
            # It is the application that takes its time.
            left = max(left, self.seconds)
        if left > 0:
            self._waiting = self.loop.call_later(left, self._look)
        else:
            self._waiting = None
            self.transport.close()
