"""Several stands over one database: nothing is kept in a process but what can be worked out again."""

import socket
import threading
import time
import unittest
from contextlib import suppress

import httpx2 as httpx

from lumbek.services import demo
from tests.api.case import new_id
from tests.support.client import SECRET, add_person, sign_in
from tests.support.stack import new_database, run_sql
from tests.support.stands import Proxy, Stand


class TwoStands(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo=True)
        cls.stands = [Stand(cls.url), Stand(cls.url)]
        for each in cls.stands:
            cls.addClassCleanup(each.kill)
        for each in cls.stands:
            each.wait()
        cls.proxy = Proxy(cls.stands)
        cls.addClassCleanup(cls.proxy.stop)

    def client(self, address: str) -> httpx.Client:
        client = httpx.Client(base_url=address, timeout=60)
        self.addCleanup(client.close)
        return client

    def pair(self) -> tuple[httpx.Client, httpx.Client]:
        """Somebody who signed in at the first stand, and the same session at the second."""
        first = sign_in(self.client(self.stands[0].address))
        second = self.client(self.stands[1].address)
        second.cookies.update(dict(first.cookies))
        second.headers["X-CSRF-Token"] = first.headers["X-CSRF-Token"]
        return first, second

    def circuit(self, client: httpx.Client) -> dict:
        job = client.get("/api/jobs").json()[0]["id"]
        circuit = client.get(f"/api/jobs/{job}").json()["circuits"][0]["id"]
        return client.get(f"/api/circuits/{circuit}").json()

    def test_an_edit_on_one_is_seen_on_the_other_at_once_and_the_other_way(self) -> None:
        first, second = self.pair()
        path = f"/api/circuits/{self.circuit(first)['id']}"
        for count in range(6):
            here, there = (first, second) if count % 2 else (second, first)
            view = here.get(path).json()
            there.get(path).raise_for_status()
            body = {"version": view["version"], "commands": [{"op": "circuit", "name": f"Called {count}"}]}
            here.post(f"{path}/commands", json={"id": new_id(), **body}).raise_for_status()
            seen = there.get(path).json()
            self.assertEqual((seen["design"]["name"], seen["version"]), (f"Called {count}", view["version"] + 1))
            # What was seen before is no longer what stands, whichever of them is asked.
            late = there.post(f"{path}/commands", json={"id": new_id(), **body})
            self.assertEqual(late.status_code, 409)

    def test_ids_hold_over_both(self) -> None:
        first, second = self.pair()
        view = self.circuit(first)
        reading = {"id": new_id(), "reading": {"quantity": "r1", "value": 0.31}}
        path = f"/api/circuits/{view['id']}/readings"
        for client in (first, second, first):
            self.assertEqual(client.post(path, json=reading).status_code, 201)
        other = second.post(path, json={**reading, "reading": {"quantity": "r1", "value": 0.32}})
        self.assertEqual(other.status_code, 422)
        kept = run_sql(self.url, "select count(*) from reading where value = 0.31 and quantity = 'r1'")
        self.assertEqual(kept[0][0], 1)

    def test_limits_hold_over_both_and_a_session_ended_at_one_is_over_at_the_other(self) -> None:
        add_person(self.url, "sam@signalbox.example", ["tester"])
        at = [self.client(stand.address) for stand in self.stands]
        wrong = {"email": "sam@signalbox.example", "password": "another one entirely"}
        codes = [at[count % 2].post("/api/session", json=wrong).status_code for count in range(7)]
        self.assertEqual((codes[:5], codes[5:]), ([422] * 5, [429] * 2))
        right = at[0].post("/api/session", json={**wrong, "password": SECRET})
        self.assertEqual(right.status_code, 429)
        first, second = self.pair()
        self.assertEqual(second.get("/api/session").status_code, 200)
        first.delete("/api/session").raise_for_status()
        self.assertEqual(second.get("/api/session").status_code, 401)

    def test_one_is_killed_and_nobody_notices(self) -> None:
        client = sign_in(self.client(self.proxy.address))
        path, codes, sent = f"/api/circuits/{self.circuit(client)['id']}/readings", list[int](), list[float]()
        over = threading.Event()

        def works(who: int) -> None:
            mine, count = self.client(self.proxy.address), 0
            mine.cookies.update(dict(client.cookies))
            mine.headers["X-CSRF-Token"] = client.headers["X-CSRF-Token"]
            while not over.is_set():
                count += 1
                value = round(200 + who + count / 1000, 3)
                reading = {"id": new_id(), "reading": {"quantity": "rn", "value": value}}
                code = mine.post(path, json=reading).status_code
                # Too busy just now: sent again by the same id, as the outbox does.
                while code == 503:
                    code = mine.post(path, json=reading).status_code
                codes.append(code)
                sent.append(value)
                codes.append(mine.get("/api/jobs").status_code)

        people = [threading.Thread(target=works, args=(who,)) for who in range(4)]
        for each in people:
            each.start()
        third = Stand(self.url).wait()
        self.addCleanup(third.kill)
        time.sleep(1)
        before = dict(self.proxy.answered)
        self.stands[1].kill()
        # Long enough for the one that is left to be asked by all of them: on a busy machine that is not soon.
        end = time.monotonic() + 60
        while self.proxy.answered[self.stands[0].port] <= before[self.stands[0].port] + 12 and time.monotonic() < end:
            time.sleep(0.2)
        over.set()
        for each in people:
            each.join()
        self.assertEqual({*codes} - {200, 201}, set())
        # Both worked, and the first went on.
        self.assertGreater(min(before.values()), 3)
        self.assertGreater(self.proxy.answered[self.stands[0].port], before[self.stands[0].port] + 12)
        mine = "select value from reading where quantity = 'rn' and value > 200 order by 1"
        kept = [row[0] for row in run_sql(self.url, mine)]
        self.assertEqual(kept, sorted(sent))
        # One that comes later finds all of it.
        late = self.client(third.address)
        late.cookies.update(dict(client.cookies))
        self.assertEqual(late.get("/api/session").json()["email"], demo.EMAIL)


class Patience(unittest.TestCase):
    """Whoever holds a connection with half of a request is closed; whoever sends a body, if slowly, is not."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.stand = Stand(new_database(demo=True), LUMBEK_REQUEST_SECONDS="1.5")
        cls.addClassCleanup(cls.stand.kill)
        cls.stand.wait()

    def held(self, first: bytes, drip: bytes = b"", every: float = 0.2) -> tuple[float, bytes]:
        """How long a connection is held that sends so, and what was answered meanwhile."""
        begun, answer = time.monotonic(), b""
        with socket.create_connection(("127.0.0.1", self.stand.port)) as connection:
            connection.settimeout(every)
            connection.sendall(first)
            while time.monotonic() - begun < 12:
                with suppress(TimeoutError):
                    part = connection.recv(65536)
                    if not part:
                        break
                    answer += part
                if drip:
                    try:
                        connection.sendall(drip)
                    except OSError:
                        break
        return time.monotonic() - begun, answer

    def test_half_a_request_is_closed(self) -> None:
        head = (
            b"POST /api/session HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\nContent-Length: 90\r\n"
        )
        for what, first, drip in (
            ("nothing", b"", b""),
            ("half a line", b"GET /api/hea", b""),
            ("half of the headers", head, b""),
            ("a header now and then", head, b"X: y\r\n"),
            ("half of the body", head + b'\r\n{"email": ', b""),
            ("a byte now and then", head + b"\r\n", b"{"),
        ):
            with self.subTest(what):
                took, _ = self.held(first, drip)
                self.assertGreater(took, 1.0)
                self.assertLess(took, 6.0)

    def test_a_slow_body_that_comes_is_waited_for_and_the_next_request_has_its_own_time(self) -> None:
        size = 60_000
        head = f"POST /api/session HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: {size}\r\n\r\n".encode()
        begun = time.monotonic()
        with socket.create_connection(("127.0.0.1", self.stand.port)) as connection:
            connection.sendall(head)
            for _ in range(20):
                time.sleep(0.15)
                connection.sendall(b" " * (size // 20))
            self.assertGreater(time.monotonic() - begun, 2.5)
            answer = b""
            while not answer.endswith(b"}"):
                answer += connection.recv(65536)
            self.assertIn(b"HTTP/1.1 4", answer)
            for _ in range(3):
                time.sleep(1)
                connection.sendall(b"GET /api/health HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n")
                answer = b""
                while not answer.endswith(b"}"):
                    answer += connection.recv(65536)
                self.assertIn(b"200 OK", answer)
