"""Who may see and change what: every route, as nobody, as another firm, and without the session's token."""

import unittest

from lumbek.services import demo
from tests.api.case import new_id
from tests.support.client import RIVAL, SECRET, add_person, demo_database, make_client, sign_in
from tests.support.photos import photo

# What anyone may ask: to sign in, or with a link that is proof enough.
OPEN_TO_ALL = {
    ("GET", "/api/about"),
    ("POST", "/api/session"),
    ("GET", "/api/health"),
    ("POST", "/api/links/look"),
    ("POST", "/api/links/use"),
    ("POST", "/api/verify"),
    ("GET", "/api/handed/{token}"),
    ("GET", "/api/offers/{token}"),
    ("POST", "/api/offers/{token}/answer"),
}
# Who else than everybody may use a route: the roles by their first letters. A supervisor designs and tests, an admin
# looks after people; whoever is not named here reads.
ROLES = {"r": "reader", "d": "designer", "t": "tester", "s": "supervisor", "a": "admin"}
ONLY = {
    ("POST", "/api/jobs"): "ds",
    ("POST", "/api/jobs/file"): "ds",
    ("POST", "/api/jobs/quick"): "ds",
    ("DELETE", "/api/jobs/{job_id}"): "ds",
    ("POST", "/api/jobs/{job_id}/commands"): "ds",
    ("POST", "/api/jobs/{job_id}/boards/commands"): "ds",
    ("POST", "/api/jobs/{job_id}/undo"): "ds",
    ("POST", "/api/jobs/{job_id}/redo"): "ds",
    ("POST", "/api/jobs/{job_id}/boards/undo"): "ds",
    ("POST", "/api/jobs/{job_id}/boards/redo"): "ds",
    ("POST", "/api/jobs/{job_id}/places/commands"): "ds",
    ("POST", "/api/jobs/{job_id}/places/undo"): "ds",
    ("POST", "/api/jobs/{job_id}/places/redo"): "ds",
    ("POST", "/api/jobs/{job_id}/circuits"): "ds",
    ("POST", "/api/circuits/{circuit_id}/commands"): "ds",
    ("POST", "/api/circuits/{circuit_id}/undo"): "ds",
    ("POST", "/api/circuits/{circuit_id}/redo"): "ds",
    ("POST", "/api/circuits/{circuit_id}/run"): "ds",
    ("DELETE", "/api/circuits/{circuit_id}"): "ds",
    ("POST", "/api/circuits/{circuit_id}/library"): "ds",
    ("DELETE", "/api/library/{library_id}"): "ds",
    ("POST", "/api/records/{record_id}/put-back"): "ds",
    ("POST", "/api/circuits/{circuit_id}/records"): "dts",
    ("POST", "/api/jobs/{job_id}/attachments"): "dts",
    ("POST", "/api/circuits/{circuit_id}/readings"): "ts",
    ("POST", "/api/circuits/{circuit_id}/readings/several"): "ts",
    ("POST", "/api/jobs/{job_id}/readings"): "ts",
    ("POST", "/api/jobs/{job_id}/visits"): "ts",
    ("POST", "/api/jobs/{job_id}/found"): "ts",
    ("POST", "/api/jobs/{job_id}/inspection"): "dts",
    ("POST", "/api/jobs/{job_id}/issued"): "s",
    ("POST", "/api/jobs/{job_id}/next-inspection"): "ds",
    ("POST", "/api/issued/{issued_id}/hand-over"): "s",
    ("POST", "/api/jobs/{job_id}/notifications"): "s",
    ("POST", "/api/prices"): "ds",
    ("POST", "/api/jobs/{job_id}/quote"): "ds",
    ("POST", "/api/jobs/{job_id}/offers"): "s",
    ("POST", "/api/jobs/{job_id}/plan/commands"): "ds",
    ("POST", "/api/jobs/{job_id}/plan/undo"): "ds",
    ("POST", "/api/jobs/{job_id}/plan/redo"): "ds",
    ("POST", "/api/jobs/{job_id}/plan/csv"): "ds",
    ("POST", "/api/jobs/{job_id}/routes/laid"): "ds",
    ("POST", "/api/circuits/{circuit_id}/as-laid"): "ds",
    ("POST", "/api/circuits/{circuit_id}/extended"): "ds",
    ("POST", "/api/jobs/{job_id}/plan/ticks"): "dts",
    ("POST", "/api/practice/sets"): "s",
    ("GET", "/api/practice/learners"): "s",
    ("GET", "/api/people"): "a",
    ("POST", "/api/people/invitations"): "a",
    ("DELETE", "/api/people/invitations/{invitation_id}"): "a",
    ("PATCH", "/api/people/{user_id}/roles"): "a",
    ("PUT", "/api/people/{user_id}/lock"): "a",
    ("DELETE", "/api/people/{user_id}/lock"): "a",
    ("POST", "/api/people/{user_id}/reset"): "a",
    ("DELETE", "/api/people/{user_id}/second-factor"): "a",
    ("GET", "/api/audit"): "a",
}
# What each does for themselves, whatever their roles, if they have any.
OWN = ("/api/session", "/api/account")

# What takes seconds to work out: one role asks for it, the others for what is not there.
LONG = (".pdf", "/proposals", "/diagnosis", "/switching/plan", "/compared", "/work", "/routes", "/quote")

PNG = photo()


class Access(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = demo_database()
        cls.owner = sign_in(make_client(cls.url))
        cls.job = cls.owner.get("/api/jobs").json()[0]["id"]
        cls.circuit = cls.owner.get(f"/api/jobs/{cls.job}").json()["circuits"][0]["id"]

        cls.kept = cls.owner.post(f"/api/circuits/{cls.circuit}/library", json={"id": new_id()}).json()["id"]

        cls.nobody_else = new_id()
        # A record of its wiring, with a photo.
        cls.record = new_id()
        cls.owner.post(f"/api/circuits/{cls.circuit}/records", json={"id": cls.record}).raise_for_status()
        cls.photo = new_id()
        asked = {"id": cls.photo, "shows": "record", "of": cls.record.replace("-", "")}
        cls.owner.post(f"/api/jobs/{cls.job}/attachments", params=asked, content=PNG).raise_for_status()

    def routes(self):
        """Every route of the application with its methods, ids filled in with the owner's."""
        paths = self.owner.app.openapi()["paths"]
        for path, methods in paths.items():
            filled = path.format(
                job_id=self.job,
                circuit_id=self.circuit,
                library_id=self.kept,
                rulebook="bs7671",
                kind="schedule" if path.startswith("/api/jobs/") else "calculation",
                form="pdf",
                record_id=self.record,
                attachment_id=self.photo,
                issued_id=self.nobody_else,
                token="never-made",
                session_id=new_id(),
                invitation_id=new_id(),
                user_id=self.nobody_else,
                run_id=self.nobody_else,
                room="kitchen",
                face="w2",
            )
            for method in methods:
                # What is sent as a file has its id beside it.
                beside = f"?id={new_id()}" if path.endswith("/attachments") and method == "post" else ""
                yield method.upper(), path, filled + beside

    def version_for(self, path: str) -> int:
        """The version a write needs, asked for only where it may be done: that takes a judgement."""
        versioned = path.endswith(("/commands", "/run", "/undo", "/redo", "/put-back", "/as-laid", "/extended"))
        return self.owner.get(f"/api/circuits/{self.circuit}").json()["version"] if versioned else 0

    def body_for(self, method: str, path: str, version: int = 0) -> dict[str, object]:
        """A body that is right in shape, so that a refusal is for who asks and not for what."""
        if method == "GET":
            return {}
        write = {"id": new_id(), "version": version}
        bodies = {
            "/api/jobs": {"id": new_id(), "head": {"name": "A job"}},
            "/api/jobs/quick": {"id": new_id(), "quick": {"what": "light"}},
            "/api/jobs/{job_id}/commands": {**write, "commands": [{"op": "supply", "board": "x"}]},
            "/api/jobs/{job_id}/boards/commands": {**write, "commands": [{"op": "add-board", "name": "Attic"}]},
            "/api/jobs/{job_id}/places/commands": {**write, "commands": [{"op": "add-room", "name": "Attic"}]},
            "/api/jobs/{job_id}/places/undo": write,
            "/api/jobs/{job_id}/plan/commands": {**write, "commands": [{"op": "type-room", "typed": "Attic 3 x 3"}]},
            "/api/jobs/{job_id}/routes/orders": {"marks": ["downlight-2", "downlight-3"]},
            "/api/jobs/{job_id}/routes/laid": {
                "id": new_id(),
                "kind": "lighting",
                "shape": "radial",
                "marks": ["downlight-2", "downlight-3"],
            },
            "/api/jobs/{job_id}/routes/pipes": {"marks": ["downlight-2"]},
            "/api/circuits/{circuit_id}/as-laid": write,
            "/api/circuits/{circuit_id}/breaks": {"marks": ["downlight-2"]},
            "/api/circuits/{circuit_id}/extended": {**write, "broken": [{"leg": "L1", "marks": ["downlight-2"]}]},
            "/api/jobs/{job_id}/plan/csv": {**write, "text": "room,typed\n,Attic 3 x 3\n"},
            "/api/jobs/{job_id}/plan/ticks": {"id": new_id(), "tick": {"op": "tick", "mark": "socket-1"}},
            "/api/jobs/{job_id}/plan/undo": write,
            "/api/jobs/{job_id}/plan/redo": write,
            "/api/jobs/{job_id}/places/redo": write,
            "/api/jobs/{job_id}/circuits": {"id": new_id(), "kind": "cooker"},
            "/api/circuits/{circuit_id}/commands": {**write, "commands": [{"op": "remove", "point": "P1"}]},
            "/api/circuits/{circuit_id}/preview": {"commands": [{"op": "remove", "point": "P1"}]},
            "/api/circuits/{circuit_id}/run": {**write, "text": "5m"},
            "/api/jobs/{job_id}/undo": write,
            "/api/jobs/{job_id}/redo": write,
            "/api/jobs/{job_id}/boards/undo": write,
            "/api/jobs/{job_id}/boards/redo": write,
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
            "/api/jobs/{job_id}/found": {"id": new_id(), "found": {"kind": "traced", "title": "Board"}},
            "/api/jobs/{job_id}/inspection": {
                "id": new_id(),
                "made": {"said": {"record": "dismissed", "offer": "C1/rcd", "why": "Looked"}},
            },
            "/api/jobs/{job_id}/issued": {"id": new_id()},
            "/api/jobs/{job_id}/notifications": {"id": new_id()},
            "/api/jobs/{job_id}/quote": {"id": new_id(), "version": 0, "terms": {}},
            "/api/jobs/{job_id}/offers": {"id": new_id(), "email": "owner@elsewhere.example"},
            "/api/practice/runs": {"id": new_id(), "asked": {"kind": "isolation", "level": 1}},
            "/api/practice/runs/{run_id}/acts": {"id": new_id(), "act": {"choice": "ask"}},
            "/api/practice/sets": {"id": new_id(), "exercise": {"kind": "isolation", "level": 1, "seed": 1}},
            "/api/prices": {"id": new_id(), "text": "code,name,price"},
            "/api/jobs/{job_id}/next-inspection": {"id": new_id()},
            "/api/issued/{issued_id}/hand-over": {"id": new_id(), "email": "owner@elsewhere.example"},
            "/api/codes": {"names": ["a"]},
            "/api/people/invitations": {"email": "new@signalbox.example", "name": "New", "roles": []},
            "/api/people/{user_id}/roles": {"give": ["reader"]},
            "/api/links/look": {"token": "nothing-of-the-kind"},
            "/api/links/use": {"token": "nothing-of-the-kind", "password": "four unrelated words"},
            "/api/account/password": {"current": "not that", "new": "four unrelated words"},
            "/api/account/second-factor": {"secret": "A" * 32, "code": "000000"},
            "/api/session/proof": {"password": "not that"},
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
            if any(
                each in path for each in ("{job_id}", "{circuit_id}", "{library_id}", "{record_id}", "{attachment_id}")
            ):
                answer = rival.request(method, filled, json=self.body_for(method, path))
                self.assertEqual(answer.status_code, 404, (method, path, answer.text))
        self.assertEqual(self.owner.get(f"/api/jobs/{self.job}").status_code, 200)

    def test_every_route_as_every_role(self) -> None:
        """Whoever lacks the right is told so, whatever they ask for; whoever has it is answered otherwise."""
        allowed = {role: set() for role in ROLES.values()}
        for role in (*ROLES.values(), ""):
            email = f"{role or 'none'}@signalbox.example"
            add_person(self.url, email, [role] if role else [])
            client = sign_in(make_client(self.url), email, SECRET)
            for method, path, asked in self.routes():
                filled, own = asked, path.startswith(OWN)
                if (method, path) in OPEN_TO_ALL or (method == "DELETE" and own):
                    continue
                if method == "DELETE" or (path.endswith(LONG) and role != "reader"):
                    # Nothing is taken away that the next one needs, and long work is done once.
                    ours = {self.job, self.circuit, self.kept}
                    filled = "/".join(new_id() if each in ours else each for each in filled.split("/"))
                wanted = ONLY.get((method, path), "rdtsa")
                may = own or (role or "reader")[:1] in wanted
                version = self.version_for(path) if may and method != "GET" else 0
                answer = client.request(method, filled, json=self.body_for(method, path, version))
                refused = answer.status_code == 403 and answer.json()["code"] == "not-allowed"
                self.assertEqual(refused, not may, (role, method, path, answer.text[:200]))
                self.assertLess(answer.status_code, 500, (role, method, path))
                if may and role:
                    allowed[role].add((method, path))
        for method_path, letters in ONLY.items():
            for letter in letters:
                self.assertIn(method_path, allowed[ROLES[letter]])

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
