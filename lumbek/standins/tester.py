"""A simulated installation tester: a process of its own that measures a hidden house over a small protocol.

    python -m lumbek.standins.tester --port 8431 --seed 7 --mishap "cut core"

It listens on loopback only, for WebSocket; the protocol is in docs/formats/tester.md. What is wrong with the house it
decides by itself, from its seed; whoever connects says only what is drawn.
"""

import argparse
import asyncio
import json
import math
import os
import random
import signal
import sys
from dataclasses import dataclass, field
from typing import Any

from websockets.asyncio.server import ServerConnection, serve
from websockets.exceptions import ConnectionClosed

from lumbek.standins.installed import Installed
from lumbek.standins.mishaps import EVERYWHERE, IN_RINGS, Mishap, something_goes_wrong

PROTOCOL = 1
PORT = 8431
NAME, SERIAL, CALIBRATED_UNTIL = "Practice tester", "SIM-0042", "2027-06-30"
FUNCTIONS = ("ohms", "insulation", "loop", "rcd", "seen")
# It shows no more than this: Ω, MΩ, Ω of a loop, ms.
_MOST = {"ohms": 1999.0, "insulation": 999.0, "loop": 1999.0, "rcd": 300.0}
_UNIT = {"ohms": "Ω", "insulation": "MΩ", "loop": "Ω", "rcd": "ms", "seen": ""}
# Noise, as a part of the reading and in its unit; and steps of the display.
_NOISE = {"ohms": (0.01, 0.01), "insulation": (0.03, 0.02), "loop": (0.03, 0.02), "rcd": (0.02, 0.5)}
_STEPS = {"ohms": 2, "insulation": 2, "loop": 2, "rcd": 0}
_DRAIN = {"ohms": 0.0004, "insulation": 0.002, "loop": 0.001, "rcd": 0.001, "seen": 0.0}
_TOO_LOW = 0.05
_MOST_BYTES = 2_000_000
Message = dict[str, Any]


class BadRequestError(Exception):
    """A message that cannot be followed; says why."""


@dataclass
class Tester:
    """The instrument: its leads, its battery, and the house that it is hooked up to."""

    seed: int = 1
    mishap: str = "none"
    battery: float = 1.0
    chance: random.Random = field(init=False)
    lead_ohm: float = field(init=False)
    nulled_ohm: float = 0.0
    house: Installed | None = None
    done: Mishap | None = None
    # What the loop has outside, and whether the RCD has tripped and waits to be reset.
    ze_ohm: float = 0.2
    tripped: bool = False

    def __post_init__(self) -> None:
        self.chance = random.Random(self.seed)  # noqa: S311 - chance of a simulation, no secret
        self.lead_ohm = self.chance.uniform(0.03, 0.12)

    def hello(self) -> Message:
        """Say what it is."""
        return {
            "says": "hello",
            "protocol": PROTOCOL,
            "name": NAME,
            "serial": SERIAL,
            "calibrated_until": CALIBRATED_UNTIL,
            "functions": list(FUNCTIONS),
            "battery": round(self.battery, 3),
            "simulated": True,
        }

    def hook_up(self, circuit: Message) -> Message:
        """Be clipped to a circuit: as drawn it is this, and as installed whatever the seed makes of it."""
        try:
            chance = random.Random(f"{self.seed}/{circuit.get('name', '')}")  # noqa: S311 - no secret either
            self.house = Installed(circuit, chance)
            self.ze_ohm = float(circuit.get("ze_ohm") or 0.2) * chance.uniform(0.92, 1.08)
            kind = self.mishap
            if kind == "any":
                kind = chance.choice(EVERYWHERE + (IN_RINGS if circuit.get("ring") else ()))
            self.done = None if kind == "none" else something_goes_wrong(self.house, kind)
        except (KeyError, TypeError, ValueError, AttributeError, IndexError) as error:
            self.house = None
            raise BadRequestError(f"this is no circuit: {error!r}"[:200]) from error
        return {"says": "hooked-up", "points": len(circuit["points"])}

    def null_leads(self) -> Message:
        """Take off what the leads read on each other, nearly."""
        self.nulled_ohm = self.lead_ohm + self.chance.uniform(-0.01, 0.01)
        return {"says": "nulled", "lead_ohm": round(self.lead_ohm, 2)}

    def take(self, how: Message) -> Message:
        """Take one reading."""
        if self.battery < _TOO_LOW:
            raise BadRequestError("the battery is too low: no reading can be trusted")
        if self.house is None:
            raise BadRequestError("not hooked up to any circuit")
        function = how.get("function")
        if function not in FUNCTIONS:
            raise BadRequestError(f"no such function: {str(function)[:40]}")
        self.battery -= _DRAIN[function]
        try:
            value, right = self._ideal(function, how)
        except (KeyError, TypeError, ValueError, IndexError) as error:
            raise BadRequestError(f"this cannot be followed: {error!r}"[:200]) from error
        found: Message = {"function": function, "unit": _UNIT[function], "battery": round(self.battery, 3)}
        if function == "seen":
            return {**found, "correct": right}
        part, step = _NOISE[function]
        most = _MOST[function]
        if math.isinf(value) or value > most:
            return {**found, "value": most, "beyond": True}
        shown = value * (1 + self.chance.gauss(0, part / 2)) + self.chance.gauss(0, step / 2)
        if function in ("ohms", "loop"):
            shown += self.lead_ohm - self.nulled_ohm
        return {**found, "value": max(0.0, round(shown, _STEPS[function])), "beyond": shown > most}

    def _ideal(self, function: str, how: Message) -> tuple[float, bool]:
        """Return what an ideal instrument would show, and what would be seen to be right."""
        assert self.house is not None
        if function == "rcd":
            # It trips between a tenth and a third of what is allowed, at five times the current sooner.
            self.tripped = True
            return self.chance.uniform(18, 38) / (2.0 if how.get("times") == 5 else 1.0), True
        if function == "seen":
            # Polarity at every point: line to neutral behind the plate is what it should be.
            return 0.0, self.done is None or self.done.kind not in ("accessory reversed", "cores crossed")
        ohm = self.house.read({**how, "function": "insulation" if function == "insulation" else "ohms"})
        return ohm + (self.ze_ohm if function == "loop" else 0.0), True


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
