"""The door that requests come in by, one at a time, so that a crowd does not hold up whoever asks for health.

What a request needs before a thread works on it is done in the loop, and takes a millisecond or two. A hundred that
come in the same moment would all be begun before the loop looks again who else is there. Here each waits its turn at
next to no cost, and between two of them the loop looks.
"""

import asyncio

from starlette.types import ASGIApp, Receive, Scope, Send

HEALTH = "/api/health"


class Door:
    """The application behind a door; only health has no need of it."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app
        self._loop: asyncio.AbstractEventLoop | None = None
        self._turn = asyncio.Lock()

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer one request, in its turn."""
        if scope["type"] == "http" and scope["path"] != HEALTH:
            loop = asyncio.get_running_loop()
            if self._loop is not loop:
                # A lock belongs to a loop. An application has one for good, but where it is tried out.
                self._loop, self._turn = loop, asyncio.Lock()
            async with self._turn:
                await asyncio.sleep(0)
        await self._app(scope, receive, send)
