"""A simulated installation tester: a process of its own that measures a hidden house over a small protocol.

    python -m lumbek.standins.tester --port 8431 --seed 7 --mishap "cut core"

It listens on loopback only, for WebSocket; the protocol is in docs/formats/tester.md. What is wrong with the house it
decides by itself, from its seed; whoever connects says only what is drawn.
"""

import argparse
import asyncio
import json
import os
import signal
import sys
from typing import Any

from websockets.asyncio.server import ServerConnection, serve
from websockets.exceptions import ConnectionClosed

from lumbek.simulated.instruments import BadRequestError, Message, Tester
from lumbek.simulated.mishaps import EVERYWHERE, IN_RINGS

PORT = 8431
_MOST_BYTES = 2_000_000


async def answer(tester: Tester, connection: ServerConnection) -> None:
    """Answer one page until it goes."""
    streaming: asyncio.Task[None] | None = None
    try:
        async for text in connection:
            reply, wanted = _reply(tester, text)
            if streaming is not None:
                streaming.cancel()
                streaming = None
            if wanted is not None:
                streaming = asyncio.create_task(_stream(tester, connection, wanted))
            else:
                await connection.send(json.dumps(reply, ensure_ascii=False))
    except ConnectionClosed:
        pass
    finally:
        if streaming is not None:
            streaming.cancel()


def _reply(tester: Tester, text: str | bytes) -> tuple[Message, Message | None]:
    """Return the answer to a message; or what is to be read again and again."""
    asked: Any = None
    try:
        asked = json.loads(text)
        if not isinstance(asked, dict):
            raise BadRequestError("a message is an object")
        say, about = asked.get("say"), {"id": asked.get("id")}
        if say == "hello":
            return {**tester.hello(), **about}, None
        if say == "hook-up":
            return {**tester.hook_up(asked.get("circuit") or {}), **about}, None
        if say == "null-leads":
            return {**tester.null_leads(), **about}, None
        if say == "take":
            return {"says": "value", **tester.take(asked.get("how") or {}), **about}, None
        if say == "stream":
            tester.take(asked.get("how") or {})
            return {}, asked
        if say == "stop":
            return {"says": "stopped", **about}, None
        raise BadRequestError(f"nothing is known of {str(say)[:40]!r}")
    except json.JSONDecodeError:
        return {"says": "error", "why": "this is not JSON"}, None
    except BadRequestError as error:
        return {"says": "error", "why": str(error), "id": asked.get("id") if isinstance(asked, dict) else None}, None


async def _stream(tester: Tester, connection: ServerConnection, asked: Message) -> None:
    """Read again and again, as while probes are moved about, until something else is asked."""
    every = min(5.0, max(0.1, float(asked.get("every_s") or 0.5)))
    try:
        while True:
            reply = {"says": "value", "streaming": True, **tester.take(asked["how"]), "id": asked.get("id")}
            await connection.send(json.dumps(reply, ensure_ascii=False))
            await asyncio.sleep(every)
    except BadRequestError as error:
        await connection.send(json.dumps({"says": "error", "why": str(error), "id": asked.get("id")}))
    except ConnectionClosed:
        pass


async def run(tester: Tester, port: int, with_parent: bool = False) -> None:
    """Listen until told to stop; `with_parent` until standard input ends, which is when whoever started it is gone."""
    stopped = asyncio.Event()
    loop = asyncio.get_running_loop()
    if with_parent:
        loop.add_reader(sys.stdin, lambda: None if os.read(sys.stdin.fileno(), 64) else stopped.set())
    for each in (signal.SIGINT, signal.SIGTERM):
        loop.add_signal_handler(each, stopped.set)
    async with serve(lambda connection: answer(tester, connection), "127.0.0.1", port, max_size=_MOST_BYTES):
        print(f"Practice tester at ws://127.0.0.1:{port}", flush=True)  # noqa: T201 - said to whoever started it
        await stopped.wait()


def main() -> None:
    """Start it."""
    parser = argparse.ArgumentParser(prog="lumbek-tester", description="A simulated installation tester.")
    parser.add_argument("--port", type=int, default=PORT)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--mishap", default="none", help=f"none, any, or one of: {', '.join((*EVERYWHERE, *IN_RINGS))}")
    parser.add_argument("--battery", type=float, default=1.0, help="1 is full")
    parser.add_argument("--with-parent", action="store_true", help="stop when standard input ends")
    given = parser.parse_args()
    asyncio.run(run(Tester(given.seed, given.mishap, given.battery), given.port, given.with_parent))


if __name__ == "__main__":
    main()
