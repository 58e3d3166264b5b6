"""What goes round every request: limits on its body, headers on its answer, one line of log, and no stack trace.

Plain ASGI, outermost: whatever happens inside, the answer has these headers and the one shape of error.
"""

import time
from collections.abc import Callable
from uuid import uuid4

import structlog
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from lumbek.api.errors import ErrorBody, unforeseen
from lumbek.api.outside import Outside

_POLICY = (
    "default-src 'self'; img-src 'self' data: blob:; style-src 'self'; "
    # A tester on this very machine is spoken to by the page itself.
    "connect-src 'self' ws://127.0.0.1:* ws://localhost:*; "
    "object-src 'none'; frame-ancestors 'none'; base-uri 'none'; form-action 'self'"
)
_ALWAYS = (
    (b"content-security-policy", _POLICY.encode()),
    (b"x-content-type-options", b"nosniff"),
    (b"referrer-policy", b"same-origin"),
    (b"cross-origin-opener-policy", b"same-origin"),
    (b"cross-origin-resource-policy", b"same-origin"),
    (b"permissions-policy", b"camera=(), geolocation=(), microphone=(), payment=(), usb=()"),
)
# Told only where a proxy speaks TLS for us: half a year, as is usual.
_TLS_ONLY = (b"strict-transport-security", b"max-age=15768000; includeSubDomains")
_READING = ("GET", "HEAD", "OPTIONS")
_YEAR = b"public, max-age=31536000, immutable"

log = structlog.get_logger()


class Around:
    """The application with what goes round it. `most_bytes` gives the greatest body for a path."""

    def __init__(self, app: ASGIApp, most_bytes: Callable[[str], int], outside: Outside) -> None:
        self._app, self._most_bytes, self._outside = app, most_bytes, outside

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer one request."""
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        structlog.contextvars.clear_contextvars()
        structlog.contextvars.bind_contextvars(request=uuid4().hex[:12])
        scope = self._outside.seen(scope)
        exchange = _Exchange(scope, receive, send, self._most_bytes(scope["path"]))
        if not self._outside.is_ours(scope):
            await exchange.answer(421, ErrorBody(code="not-here", message="Lumbek is not at this address."))
            return
        if exchange.says_too_much():
            await exchange.refuse_size()
            return
        try:
            await self._app(scope, exchange.receive, exchange.send)
        except Exception as error:
            log.error("unforeseen", path=scope["path"], exc_info=error)
            if not exchange.started:
                await exchange.answer(500, unforeseen(writing=scope["method"] not in _READING))
        exchange.log()


class _Exchange:
    """One request and its answer, counted and headed."""

    def __init__(self, scope: Scope, receive: Receive, send: Send, most: int) -> None:
        self.scope, self._receive, self._send, self._most = scope, receive, send, most
        self.started = self._too_large = False
        self._status, self._read, self._since = 0, 0, time.perf_counter()

    def says_too_much(self) -> bool:
        """Whether the request says itself that its body is too large, or says nothing that can be read."""
        stated = dict(self.scope["headers"]).get(b"content-length", b"0")
        return not stated.isdigit() or int(stated) > self._most

    async def receive(self) -> Message:
        """Hand on the body piece by piece, until there is too much of it."""
        message = await self._receive()
        if message["type"] == "http.request":
            self._read += len(message.get("body", b""))
            if self._read > self._most:
                # Whatever the application makes of a body cut off here, the answer is ours.
                self._too_large = True
                return {"type": "http.disconnect"}
        return message

    async def send(self, message: Message) -> None:
        """Hand on the answer with the headers that every answer has."""
        if self._too_large:
            if not self.started:
                await self.refuse_size()
            return
        if message["type"] == "http.response.start":
            self.started, self._status = True, message["status"]
            message["headers"] = [*message.get("headers", []), *self._headers()]
        await self._send(message)

    def _headers(self) -> list[tuple[bytes, bytes]]:
        path, more = self.scope["path"], list(_ALWAYS)
        if self.scope["scheme"] == "https":
            more.append(_TLS_ONLY)
        if path.startswith("/api/"):
            more.append((b"cache-control", b"no-store"))
        elif path.startswith("/assets/") and self._status == 200:
            # The name holds a hash of what is in it: it never changes.
            more.append((b"cache-control", _YEAR))
        if self._status >= 500 or self._status == 413:
            # Nothing more is to be trusted to this connection.
            more.append((b"connection", b"close"))
        return more

    async def refuse_size(self) -> None:
        """Answer that the body is too large."""
        self._too_large = False
        await self.answer(413, ErrorBody(code="too-large", message=f"That is more than {self._most // 1_000_000} MB."))

    async def answer(self, status: int, body: ErrorBody) -> None:
        """Answer in the one shape of error."""
        content = body.model_dump_json().encode()
        headers = [(b"content-type", b"application/json"), (b"content-length", str(len(content)).encode())]
        await self.send({"type": "http.response.start", "status": status, "headers": headers})
        await self.send({"type": "http.response.body", "body": content})

    def log(self) -> None:
        """Write one line about it."""
        if self.scope["path"].startswith("/api/"):
            log.info(
                "request",
                method=self.scope["method"],
                path=self.scope["path"],
                status=self._status,
                ms=round((time.perf_counter() - self._since) * 1000, 1),
            )
