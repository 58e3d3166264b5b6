"""Many people at once, on one running application with its own database: how long each waits.

    python -m bench.load                 100 people opening a job of 40 circuits, 16 PDFs, 20 people at mixed work
    python -m bench.load --seconds 30    longer at mixed work
    python -m bench.load --stands 2      the same on two `lumbek serve` of one process each, people shared out

Figures are for the machine it runs on, which also runs the people and PostgreSQL; so ratios stand beside them: to one
person who does the same alone. The application runs as `lumbek serve` does, in two processes.

Before heavy work had processes of its own, what was worked out was waited for, and a job was known by its marks, the
same load on the same two cores took: opening 15 times as long (99 of 100 in 6.2 s), 16 PDFs twice (10.9 s); mixed work
went at 0.6 of the requests a second (40), 99 of 100 in 9 s instead of 0.9, with health answered in 0.47 s at worst.
"""

import argparse
import asyncio
import json
import multiprocessing
import os
import random
import subprocess
import sys
import time
from collections import Counter
from dataclasses import dataclass, field
from http.client import HTTPConnection
from multiprocessing.queues import Queue
from multiprocessing.synchronize import Event as EventType
from uuid import uuid4

from bench.run import ring
from lumbek.ops.cluster import free_port, wait_for
from tests.support.client import add_person, make_client, sign_in
from tests.support.stack import ROOT, as_application, new_database, stop_stack

SECRET = "four unrelated words"


@dataclass
class Person:
    """Somebody at a browser: one connection, which is opened again when it is closed."""

    port: int
    email: str
    cookie: str = ""
    token: str = ""
    took: dict[str, list[float]] = field(default_factory=dict)
    codes: Counter[int] = field(default_factory=Counter)
    _streams: tuple[asyncio.StreamReader, asyncio.StreamWriter] | None = None

    async def ask(self, method: str, path: str, body: object = None, kind: str = "") -> bytes:
        """Send a request and read its answer; note how long that took under a kind."""
        content = b"" if body is None else json.dumps(body).encode()
        head = (
            f"{method} {path} HTTP/1.1\r\nHost: 127.0.0.1\r\nCookie: lumbek_session={self.cookie}\r\n"
            f"X-CSRF-Token: {self.token}\r\nContent-Type: application/json\r\nContent-Length: {len(content)}\r\n\r\n"
        )
        begun = time.perf_counter()
        for _ in range(2):
            reader, writer = self._streams or await asyncio.open_connection("127.0.0.1", self.port)
            self._streams = reader, writer
            try:
                writer.write(head.encode() + content)
                status, headers, answer = await _read(reader)
                break
            except (ConnectionError, asyncio.IncompleteReadError):
                self._streams = None
        if headers.get("connection") == "close":
            self._streams = None
        for cookie in (each for each in [headers.get("set-cookie", "")] if each):
            self.cookie = cookie.split("=", 1)[1].split(";", 1)[0]
        self.codes[status] += 1
        if kind:
            self.took.setdefault(kind, []).append(time.perf_counter() - begun)
        return answer

    async def sign_in(self) -> "Person":
        said = await self.ask("POST", "/api/session", {"email": self.email, "password": SECRET})
        self.token = json.loads(said)["csrf_token"]
        return self


async def _read(reader: asyncio.StreamReader) -> tuple[int, dict[str, str], bytes]:
    head = (await reader.readuntil(b"\r\n\r\n")).decode("latin-1").split("\r\n")
    lines = [line.partition(":") for line in head[1:] if line]
    # Of two cookies the first is the session's.
    headers = {key.lower(): value.strip() for key, _, value in reversed(lines)}
    if headers.get("transfer-encoding") == "chunked":
        parts = []
        while size := int((await reader.readline()).strip() or b"0", 16):
            parts.append(await reader.readexactly(size))
            await reader.readline()
        await reader.readline()
        return int(head[0].split()[1]), headers, b"".join(parts)
    return int(head[0].split()[1]), headers, await reader.readexactly(int(headers.get("content-length", 0)))


def at(part: float, took: list[float]) -> float:
    """Return the time in s that such a part of all took at most."""
    return sorted(took)[min(len(took) - 1, int(part * len(took)))] if took else 0.0


def line(what: str, took: list[float], alone: float) -> str:
    shown = f"{what}: {len(took)}, half in {at(0.5, took) * 1e3:.0f} ms, 99 of 100 in {at(0.99, took) * 1e3:.0f} ms"
    return f"{shown}, {at(0.99, took) / alone:.1f} of one alone ({alone * 1e3:.0f} ms)"


def _ask_for_health(port: int, over: "EventType", told: "Queue[list[float]]") -> None:
    took = []
    connection = HTTPConnection("127.0.0.1", port)
    while not over.is_set():
        begun = time.perf_counter()
        connection.request("GET", "/api/health")
        connection.getresponse().read()
        took.append(time.perf_counter() - begun)
        time.sleep(0.02)
    told.put(took)


async def watched(port: int, work: "asyncio.Task[object]") -> list[float]:
    """Ask for health while work goes on, from a process of its own; return how long each answer took, in s."""
    over, told = multiprocessing.Event(), multiprocessing.Queue()
    asker = multiprocessing.Process(target=_ask_for_health, args=(port, over, told))
    asker.start()
    try:
        await work
    finally:
        over.set()
    took = await asyncio.to_thread(told.get)
    asker.join()
    return took


async def open_at_once(port: int, emails: list[str], job: str) -> None:
    people = [await Person(port, email).sign_in() for email in emails]
    for each in people:
        # Every process knows it before anybody is timed: what is cached is asked about.
        await each.ask("GET", f"/api/jobs/{job}")
    alone = [(await _timed(people[0], job)) for _ in range(5)]

    async def all_of_them() -> None:
        await asyncio.gather(*(each.ask("GET", f"/api/jobs/{job}", kind="open") for each in people))

    health = await watched(port, asyncio.ensure_future(all_of_them()))
    took = [each for person in people for each in person.took["open"]]
    print(line("100 people open a job of 40 circuits", took, min(alone)))
    print(f"  health meanwhile: {len(health)} answers, the slowest in {max(health) * 1e3:.0f} ms")
    _codes(people)


async def _timed(person: Person, job: str) -> float:
    begun = time.perf_counter()
    await person.ask("GET", f"/api/jobs/{job}")
    return time.perf_counter() - begun


async def pdfs(port: int, email: str, job: str) -> None:
    people = [await Person(port, email).sign_in() for _ in range(16)]
    path = f"/api/jobs/{job}/papers/schedule.pdf"
    begun = time.perf_counter()
    await people[0].ask("GET", path)
    alone = time.perf_counter() - begun

    async def all_of_them() -> None:
        await asyncio.gather(*(each.ask("GET", path) for each in people))

    begun = time.perf_counter()
    health = await watched(port, asyncio.ensure_future(all_of_them()))
    took = time.perf_counter() - begun
    print(f"16 PDFs at once: {took:.1f} s, {took / alone:.1f} of one alone ({alone:.2f} s)")
    print(f"  health meanwhile: the slowest in {max(health) * 1e3:.0f} ms")
    _codes(people)


async def previews(ports: list[int], emails: list[str], job: str, long: str, seconds: float) -> None:
    """Ten people read while one tries out changes of a circuit of 200 points without a break."""
    tries = await Person(ports[0], emails[0]).sign_in()
    people = [await Person(ports[at % len(ports)], email).sign_in() for at, email in enumerate(emails[1:11])]
    end = time.perf_counter() + seconds

    async def trying() -> None:
        while time.perf_counter() < end:
            change = {"op": "segment", "leg": "L1", "length_m": random.uniform(2, 9)}
            await tries.ask("POST", f"/api/circuits/{long}/preview", {"commands": [change]}, kind="preview")

    async def reads(person: Person) -> None:
        while time.perf_counter() < end:
            await person.ask("GET", random.choice(("/api/jobs", f"/api/jobs/{job}")), kind="read")
            await asyncio.sleep(0.1)

    await asyncio.gather(trying(), *map(reads, people))
    took = [each for person in people for each in person.took["read"]]
    print(f"ten people reading beside one at previews of 200 points ({len(tries.took['preview'])} of them):")
    print(f"  {len(took)} read, half in {at(0.5, took) * 1e3:.0f} ms, 99 of 100 in {at(0.99, took) * 1e3:.0f} ms")
    _codes([tries, *people])


async def mixed(ports: list[int], emails: list[str], job: str, seconds: float) -> None:
    people = [await Person(ports[at % len(ports)], email).sign_in() for at, email in enumerate(emails[:20])]
    circuits = [each["id"] for each in json.loads(await people[0].ask("GET", f"/api/jobs/{job}"))["circuits"]]
    end = time.perf_counter() + seconds

    async def works(person: Person, chance: random.Random, mine: list[str]) -> None:
        while time.perf_counter() < end:
            circuit, deed = chance.choice(mine), chance.random()
            if deed < 0.05:
                await person.ask("GET", f"/api/circuits/{circuit}/papers/calculation.pdf", kind="PDF")
            elif deed < 0.30:
                view = json.loads(await person.ask("GET", f"/api/circuits/{circuit}", kind="read"))
                change = {"op": "segment", "leg": "L1", "length_m": chance.randint(2, 9)}
                body = {"id": str(uuid4()), "version": view["version"], "commands": [change]}
                await person.ask("POST", f"/api/circuits/{circuit}/commands", body, kind="edit")
            else:
                asked = chance.choice(
                    (f"/api/circuits/{circuit}", f"/api/circuits/{circuit}/tests", "/api/jobs", f"/api/jobs/{job}")
                )
                await person.ask("GET", asked, kind="read")

    async def all_of_them() -> None:
        # Everybody edits circuits of their own: what happens when two edit one is another question.
        await asyncio.gather(*(works(each, random.Random(at), circuits[at::20]) for at, each in enumerate(people)))

    health = await watched(ports[0], asyncio.ensure_future(all_of_them()))
    count = sum(len(took) for person in people for took in person.took.values())
    print(f"20 people at mixed work for {seconds:.0f} s: {count / seconds:.0f} requests a second")
    for kind in ("read", "edit", "PDF"):
        took = [each for person in people for each in person.took.get(kind, [])]
        print(
            f"  {kind}: {len(took)}, half in {at(0.5, took) * 1e3:.0f} ms, 99 of 100 in {at(0.99, took) * 1e3:.0f} ms"
        )
    every = [each for person in people for took in person.took.values() for each in took]
    print(f"  all: 99 of 100 in {at(0.99, every) * 1e3:.0f} ms; health: the slowest in {max(health) * 1e3:.0f} ms")
    _codes(people)


def _codes(people: list[Person]) -> None:
    codes: Counter[int] = sum((person.codes for person in people), Counter())
    wrong = {code: count for code, count in codes.items() if code >= 400}
    print(f"  answers that were refusals or errors: {wrong or 'none'}")


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--seconds", type=float, default=15)
    parser.add_argument("--stands", type=int, default=1)
    given = parser.parse_args()
    url = new_database(demo=True)
    emails = [f"p{index}@signalbox.example" for index in range(100)]
    for email in emails:
        add_person(url, email, ["supervisor"])
    client = sign_in(make_client(url))
    job = client.post("/api/jobs", json={"id": str(uuid4()), "head": {"name": "Forty circuits"}}).json()["id"]
    for number in range(1, 41):
        body = {"id": str(uuid4()), "design": ring(6 + number % 5, number).model_dump(mode="json")}
        client.post(f"/api/jobs/{job}/circuits", json=body).raise_for_status()
    small = client.get("/api/jobs").json()[1]["id"]
    body = {"id": str(uuid4()), "design": ring(200, 41).model_dump(mode="json")}
    long = client.post(f"/api/jobs/{small}/circuits", json=body).json()["id"]
    ports = [free_port() for _ in range(given.stands)]
    servers = [_serve(url, port, workers=2 if given.stands == 1 else 1) for port in ports]
    try:
        for port in ports:
            wait_for(port)
        time.sleep(3)
        asyncio.run(open_at_once(ports[0], emails, job))
        asyncio.run(pdfs(ports[0], emails[0], small))
        asyncio.run(previews(ports, emails, job, long, given.seconds))
        asyncio.run(mixed(ports, emails, job, given.seconds))
    finally:
        for server in servers:
            server.terminate()
            server.wait()
        stop_stack()


def _serve(url: str, port: int, workers: int) -> "subprocess.Popen[bytes]":
    said = {
        "LUMBEK_DATABASE_URL": as_application(url),
        "LUMBEK_PORT": str(port),
        "LUMBEK_WORKERS": str(workers),
        "LUMBEK_SECURE_COOKIES": "false",
        "LUMBEK_LOG_LEVEL": "WARNING",
    }
    return subprocess.Popen([sys.executable, "-m", "lumbek.cli", "serve"], env={**os.environ, **said}, cwd=ROOT)


if __name__ == "__main__":
    main()
