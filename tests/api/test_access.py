"""Who may see and change what: every route, as nobody, as another firm, and without the session's token."""

import unittest

from lumbek.services import demo
from tests.api.case import new_id
from tests.support.client import RIVAL, demo_database, make_client, sign_in

# What anyone may ask: the sign-in page needs these two.
OPEN_TO_ALL = {("GET", "/api/about"), ("POST", "/api/session"), ("GET", "/api/health")}

PNG = b"\x89PNG\r\n\x1a\n" + b"a photo, as far as its first bytes go"


class Access(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = demo_database()
        cls.owner = sign_in(make_client(cls.url))
        cls.job = cls.owner.get("/api/jobs").json()[0]["id"]
        cls.circuit = cls.owner.get(f"/api/jobs/{cls.job}").json()["circuits"][0]["id"]

        cls.kept = cls.owner.post(f"/api/circuits/{cls.circuit}/library", json={"id": new_id()}).json()["id"]

        # A record of its wiring, with a photo.
        cls.record = new_id()
        cls.owner.post(f"/api/circuits/{cls.circuit}/records", json={"id": cls.record}).raise_for_status()
        cls.photo = new_id()
        cls.owner.post(f"/api/records/{cls.record}/photos?id={cls.photo}", content=PNG).raise_for_status()

    def routes(self):
        """Every route of the application with its methods, ids filled in with the owner's."""
        paths = self.owner.app.openapi()["paths"]
        for path, methods in paths.items():
            filled = path.format(
                job_id=self.job,
                circuit_id=self.circuit,
                library_id=self.kept,
                rulebook="bs7671",
                kind="cooker",
                record_id=self.record,
                photo_id=self.photo,
            )
            if path.endswith("/photos"):
                filled += f"?id={new_id()}"
            for method in methods:
                yield method.upper(), path, filled

    def body_for(self, method: str, path: str) -> dict[str, object]:
        """A body that is right in shape, so that a refusal is for who asks and not for what."""
        circuit = self.owner.get(f"/api/circuits/{self.circuit}").json()
        job = self.owner.get(f"/api/jobs/{self.job}").json()
        write = {"id": new_id(), "version": circuit["version"]}
        bodies = {
            "/api/jobs": {"id": new_id(), "head": job["head"]},
            "/api/jobs/{job_id}/commands": {**write, "commands": [{"op": "supply", "board": "x"}]},
            "/api/jobs/{job_id}/boards/commands": {**write, "commands": [{"op": "storey", "name": "Attic"}]},
            "/api/jobs/{job_id}/circuits": {"id": new_id(), "kind": "cooker"},
            "/api/circuits/{circuit_id}/commands": {**write, "commands": [{"op": "remove", "point": "P1"}]},
            "/api/circuits/{circuit_id}/preview": {"commands": [{"op": "remove", "point": "P1"}]},
            "/api/circuits/{circuit_id}/run": {**write, "text": "5m"},
            "/api/circuits/{circuit_id}/undo": write,
            "/api/circuits/{circuit_id}/redo": write,
            "/api/circuits/{circuit_id}/library": {"id": new_id()},
            "/api/circuits/{circuit_id}/records": {"id": new_id()},
            "/api/records/{record_id}/put-back": write,
            "/api/circuits/{circuit_id}/readings": {"id": new_id(), "reading": {"quantity": "r1", "value": 0.4}},
            "/api/circuits/{circuit_id}/readings/several": {
                "id": new_id(),
                "readings": [{"quantity": "r1", "value": 1}],
            },
            "/api/circuits/{circuit_id}/readings/file": {"text": "test,value"},
            "/api/jobs/{job_id}/readings": {"id": new_id(), "reading": {"quantity": "ze", "value": 0.2}},
            "/api/jobs/{job_id}/visits": {"id": new_id(), "visit": {}},
            "/api/codes": {"names": ["a"]},
        }
        return bodies.get(path, {})

    def test_the_walk_meets_every_route(self) -> None:
        self.assertGreaterEqual(len(list(self.routes())), 20)

    def test_nobody_gets_in(self) -> None:
        nobody = make_client(self.url)
        for method, path, filled in self.routes():
            if (method, path) in OPEN_TO_ALL:
                continue
            answer = nobody.request(method, filled, json=self.body_for(method, path))
            self.assertEqual((answer.status_code, answer.json()["code"]), (401, "not-signed-in"), (method, path))

    def test_another_firm_finds_nothing(self) -> None:
        rival = sign_in(make_client(self.url), *RIVAL)
        self.assertEqual(rival.get("/api/jobs").json(), [])
        for method, path, filled in self.routes():
            if any(each in path for each in ("{job_id}", "{circuit_id}", "{library_id}", "{record_id}", "{photo_id}")):
                answer = rival.request(method, filled, json=self.body_for(method, path))
                self.assertEqual(answer.status_code, 404, (method, path, answer.text))
        self.assertEqual(self.owner.get(f"/api/jobs/{self.job}").status_code, 200)

    def test_no_write_without_the_sessions_token(self) -> None:
        forged = sign_in(make_client(self.url))
        for wrong in ({}, {"X-CSRF-Token": "guess"}, {"X-CSRF-Token": "gü"}):
            forged.headers.pop("X-CSRF-Token", None)
            forged.headers.update({key: value.encode() for key, value in wrong.items()})
            for method, path, filled in self.routes():
                if method == "GET" or (method, path) in OPEN_TO_ALL:
                    continue
                answer = forged.request(method, filled, json=self.body_for(method, path))
                self.assertEqual((answer.status_code, answer.json()["code"]), (403, "wrong-token"), (method, path))


class SignIn(unittest.TestCase):
    def setUp(self) -> None:
        self.url = demo_database()

    def test_cookie_is_http_only_and_same_site_and_ends_with_the_session(self) -> None:
        client = make_client(self.url)
        answer = client.post("/api/session", json={"email": demo.EMAIL, "password": demo.PASSWORD})
        cookie = answer.headers["set-cookie"].lower()
        self.assertIn("httponly", cookie)
        self.assertIn("samesite=lax", cookie)
        client.headers["X-CSRF-Token"] = answer.json()["csrf_token"]
        kept = dict(client.cookies)
        self.assertEqual(client.delete("/api/session").status_code, 204)
        client.cookies.update(kept)
        self.assertEqual(client.get("/api/session").status_code, 401)

    def test_failures_close_the_door_for_a_while(self) -> None:
        client = make_client(self.url, sign_in_failures_per_account=3)
        for _ in range(3):
            answer = client.post("/api/session", json={"email": demo.EMAIL, "password": "wrong"})
            self.assertEqual(answer.status_code, 422)
        answer = client.post("/api/session", json={"email": demo.EMAIL, "password": demo.PASSWORD})
        self.assertEqual((answer.status_code, answer.json()["code"]), (429, "too-many-attempts"))
        other = client.post("/api/session", json={"email": RIVAL[0], "password": RIVAL[1]})
        self.assertEqual(other.status_code, 200)

    def test_one_address_trying_many_accounts_is_stopped(self) -> None:
        client = make_client(self.url, sign_in_failures_per_address=4)
        codes = [
            client.post("/api/session", json={"email": f"a{i}@x.example", "password": "p"}).status_code
            for i in range(5)
        ]
        self.assertEqual(codes, [422, 422, 422, 422, 429])

    def test_sign_in_from_another_page_is_refused(self) -> None:
        answer = make_client(self.url).post(
            "/api/session",
            json={"email": demo.EMAIL, "password": demo.PASSWORD},
            headers={"Origin": "https://elsewhere.example"},
        )
        self.assertEqual(answer.status_code, 403)

    def test_the_demos_sign_in_shows_in_demo_mode_only(self) -> None:
        client = make_client(self.url)
        self.assertEqual(client.get("/api/about").json()["demo"]["email"], demo.EMAIL)
        client.app.state.services.settings.demo = False
        self.assertIsNone(client.get("/api/about").json()["demo"])
