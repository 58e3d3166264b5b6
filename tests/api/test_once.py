"""Sent twice, done once; undone from what is kept; worked out once."""

import threading
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from importlib.resources import files
from unittest import mock

from sqlalchemy import event, text

from lumbek.store.database import DatabaseGoneError
from tests.api.case import Api, new_id
from tests.support.client import make_client, sign_in
from tests.support.photos import photo

HOUSE = (files("lumbek.services") / "demo_data" / "signal_box.json").read_bytes()


class Once(Api):
    def setUp(self) -> None:
        self.job = self.start()
        self.view = self.circuit(self.job)
        self.path = f"/api/circuits/{self.view['id']}"

    def twice(self, path: str, body: dict, status: int = 200) -> list[dict]:
        answers = [self.client.post(path, json=body) for _ in range(2)]
        self.assertEqual([each.status_code for each in answers], [status, status], answers[1].text)
        return [each.json() for each in answers]

    def test_every_write_sent_twice_is_done_once(self) -> None:
        add = {"id": new_id(), "version": 1, "commands": [{"op": "add", "after": "board", "length_m": 4}]}
        first, second = self.twice(f"{self.path}/commands", add)
        self.assertEqual((first["version"], second["version"]), (2, 2))
        self.twice(f"{self.path}/run", {"id": new_id(), "version": 2, "text": "5m a, 6m b"})
        self.assertEqual(len(self.client.get(self.path).json()["design"]["points"]), 3)
        reading = {"id": new_id(), "reading": {"quantity": "r1+r2", "point": "P1", "value": 0.2}}
        self.twice(f"{self.path}/readings", reading, 201)
        whole = self.client.get(f"/api/jobs/{self.job}/file").json()
        self.assertEqual(len(whole["circuits"][0]["readings"]), 1)
        board = {"id": new_id(), "version": 1, "commands": [{"op": "supply", "board": "stair"}]}
        self.assertEqual([each["version"] for each in self.twice(f"/api/jobs/{self.job}/commands", board)], [2, 2])
        started = self.twice(f"/api/jobs/{self.job}/circuits", {"id": new_id(), "kind": "cooker"}, 201)
        self.assertEqual(started[0]["id"], started[1]["id"])
        kept = self.twice(f"{self.path}/library", {"id": new_id()}, 201)
        self.assertEqual(kept[0]["id"], kept[1]["id"])
        jobs = self.twice("/api/jobs", {"id": new_id(), "head": {"name": "Once"}}, 201)
        self.assertEqual(jobs[0]["id"], jobs[1]["id"])
        same = {"id": new_id()}
        taken = [self.client.post("/api/jobs/file", params=same, content=HOUSE).json()["id"] for _ in range(2)]
        self.assertEqual(taken[0], taken[1])
        undo = {"id": new_id(), "version": 3}
        self.assertEqual([each["version"] for each in self.twice(f"{self.path}/undo", undo)], [4, 4])

    def test_an_id_of_another_firm_finds_nothing_out(self) -> None:
        rival = sign_in(make_client(self.url), "rival@other.example", "another-secret-7")
        used = new_id()
        self.client.post("/api/jobs", json={"id": used, "head": {"name": "Ours"}})
        answer = rival.post("/api/jobs", json={"id": used, "head": {"name": "Theirs"}})
        self.assertEqual((answer.status_code, answer.json()["code"]), (422, "bad-input"))
        self.assertNotIn("Ours", answer.text)

    def test_the_same_write_from_several_at_once_is_one(self) -> None:
        body = {"id": new_id(), "version": 1, "commands": [{"op": "add", "after": "board", "length_m": 4}]}
        clients = [sign_in(make_client(self.url)) for _ in range(4)]
        with ThreadPoolExecutor(4) as pool:
            answers = list(pool.map(lambda client: client.post(f"{self.path}/commands", json=body), clients))
        self.assertEqual([each.status_code for each in answers], [200] * 4)
        self.assertEqual(self.client.get(self.path).json()["version"], 2)

    def test_circuits_started_at_once_have_numbers_of_their_own(self) -> None:
        clients = [sign_in(make_client(self.url)) for _ in range(6)]
        gate = threading.Barrier(6)

        def start(client) -> int:
            gate.wait()
            made = client.post(f"/api/jobs/{self.job}/circuits", json={"id": new_id(), "kind": "lighting"})
            return made.json()["design"]["number"]

        with ThreadPoolExecutor(6) as pool:
            numbers = list(pool.map(start, clients))
        self.assertEqual(sorted(numbers), [2, 3, 4, 5, 6, 7])

    def test_a_number_that_is_taken_is_not_given_twice(self) -> None:
        made = self.started(self.job, design={"name": "Again", "number": 1}).json()
        self.assertEqual(made["design"]["number"], 2)
        top = self.started(self.job, design={"name": "Top", "number": 9999}).json()
        self.assertEqual(top["design"]["number"], 9999)
        self.assertEqual(self.started(self.job, kind="cooker").json()["design"]["number"], 3)

    def test_what_changes_nothing_is_no_state(self) -> None:
        same = self.do(self.view, op="circuit", name="Ring").json()
        self.assertEqual((same["version"], same["can_undo"]), (1, False))

    def test_all_or_none(self) -> None:
        answer = self.do(self.view, {"op": "add", "after": "board"}, {"op": "drop-load", "point": "P1", "index": 3})
        self.assertEqual((answer.status_code, answer.json()["message"]), (422, "There is no load 4 any more."))
        self.assertEqual(self.client.get(self.path).json()["design"]["points"], [])


class Undo(Api):
    def setUp(self) -> None:
        self.view = self.circuit(self.start())
        self.path = f"/api/circuits/{self.view['id']}"

    def step(self, way: str):
        version = self.client.get(self.path).json()["version"]
        return self.client.post(f"{self.path}/{way}", json={"id": new_id(), "version": version})

    def name(self) -> str:
        return self.client.get(self.path).json()["design"]["name"]

    def test_back_and_forth_as_far_as_it_goes_whoever_asks(self) -> None:
        view = self.view
        for name in ("B", "C", "D"):
            view = self.do(view, op="circuit", name=name).json()
        seen = []
        for way in ("undo", "undo", "redo", "undo", "undo", "redo", "redo", "redo"):
            self.assertEqual(self.step(way).status_code, 200, way)
            seen.append(self.name())
        self.assertEqual(seen, ["C", "B", "C", "B", "Ring", "B", "C", "D"])
        # Another sign-in, with nothing remembered, goes back as well.
        mate = sign_in(make_client(self.url), "mate@signalbox.example")
        view = mate.get(self.path).json()
        self.assertEqual((view["can_undo"], view["can_redo"]), (True, False))
        back = mate.post(f"{self.path}/undo", json={"id": new_id(), "version": view["version"]}).json()
        self.assertEqual(back["design"]["name"], "C")
        # A new change is where the way forward ends.
        self.do(back, op="circuit", name="E")
        self.assertEqual((self.step("redo").status_code, self.name()), (422, "E"))
        self.step("undo")
        self.assertEqual(self.name(), "C")

    def test_nothing_to_undo_and_a_stale_undo_are_told(self) -> None:
        self.assertEqual(self.step("undo").json()["message"], "There is nothing to undo.")
        self.do(self.view, op="circuit", name="B")
        stale = self.client.post(f"{self.path}/undo", json={"id": new_id(), "version": 1})
        self.assertEqual(stale.status_code, 409)


class WorkedOutOnce(Api):
    def setUp(self) -> None:
        self.job = self.take_in(HOUSE).json()["id"]
        self.results = self.client.app.state.services.results

    def counted(self, ask) -> int:
        before = self.results.worked_out
        ask()
        return self.results.worked_out - before

    def test_one_edit_judges_one_circuit(self) -> None:
        lines = self.client.get(f"/api/jobs/{self.job}").json()["circuits"]
        self.assertEqual(self.counted(lambda: self.client.get(f"/api/jobs/{self.job}")), 0)
        view = self.client.get(f"/api/circuits/{lines[0]['id']}").json()
        self.assertEqual(self.counted(lambda: self.do(view, op="circuit", name="Renamed")), 1)
        self.assertEqual(self.counted(lambda: self.client.get(f"/api/jobs/{self.job}")), 0)
        self.assertEqual(self.counted(lambda: self.client.get(f"/api/circuits/{view['id']}/tests")), 0)
        # What is read of the conductors is part of what a circuit is judged by; what is read of its insulation is not.
        self.assertEqual(self.counted(lambda: self.enter(view["id"], quantity="r1", value=0.4)), 1)
        self.assertEqual(self.counted(lambda: self.enter(view["id"], quantity="insulation-ll", value=200)), 0)
        self.assertEqual(self.counted(lambda: self.client.get(f"/api/jobs/{self.job}/papers/schedule")), 0)

    def test_another_supply_judges_all_and_another_client_none(self) -> None:
        self.assertEqual(self.counted(lambda: self.do_job(self.job, op="supply", ze_ohm=0.19)), 11)
        self.assertEqual(self.counted(lambda: self.do_job(self.job, op="head", client="Somebody")), 0)

    def test_what_is_kept_is_bounded(self) -> None:
        for number in range(3):
            self.do_job(self.job, op="supply", ze_ohm=0.2 + number / 100)
        self.assertLessEqual(self.results._held, self.results._most)
        self.results._most = 30
        self.do_job(self.job, op="supply", ze_ohm=0.3)
        self.assertLessEqual(self.results._held, 60)


class OtherContent(Api):
    """One id with other content is refused, not said to be kept; the same in another order, or later, is the same."""

    def setUp(self) -> None:
        self.job = self.start()
        self.path = f"/api/circuits/{self.circuit(self.job)['id']}"

    def refused(self, path: str, first: dict, other: dict) -> None:
        write = {"id": new_id()}
        self.assertIn(self.client.post(path, json={**write, **first}).status_code, (200, 201), path)
        answer = self.client.post(path, json={**write, **other})
        self.assertEqual((answer.status_code, "used already" in answer.text), (422, True), path)
        again = self.client.post(path, json={**write, **dict(reversed(first.items()))})
        self.assertIn(again.status_code, (200, 201), path)

    def test_of_whatever_is_written(self) -> None:
        name = {"op": "circuit", "name": "One"}
        self.refused(
            f"{self.path}/commands",
            {"version": 1, "commands": [name]},
            {"version": 1, "commands": [{**name, "name": "Two"}]},
        )
        self.refused(f"{self.path}/run", {"version": 2, "text": "5m a"}, {"version": 2, "text": "6m a"})
        one, two = ({"reading": {"quantity": "r1", "value": value}} for value in (0.4, 0.5))
        self.refused(f"{self.path}/readings", one, two)
        self.refused(f"/api/jobs/{self.job}/visits", {"visit": {}}, {"visit": {"ambient_c": 12}})
        found = {"kind": "traced", "title": "Board"}
        self.refused(f"/api/jobs/{self.job}/found", {"found": found}, {"found": {**found, "title": "Other"}})
        self.refused(f"/api/jobs/{self.job}/circuits", {"kind": "cooker"}, {"kind": "shower"})
        self.refused("/api/jobs", {"head": {"name": "A"}}, {"head": {"name": "B"}})
        readings = self.client.get(f"/api/jobs/{self.job}/file").json()["circuits"][0]["readings"]
        self.assertEqual([each["value"] for each in readings], [0.4])

    def test_the_same_seen_on_a_later_version_is_the_same(self) -> None:
        body = {"id": new_id(), "version": 1, "commands": [{"op": "circuit", "name": "Kept"}]}
        for version in (1, 2):
            answer = self.client.post(f"{self.path}/commands", json={**body, "version": version})
            self.assertEqual((answer.status_code, answer.json()["version"]), (200, 2))

    def test_an_id_used_on_one_thing_is_none_for_another(self) -> None:
        write, other = {"id": new_id()}, self.circuit(self.job)["id"]
        reading = {**write, "reading": {"quantity": "r1", "value": 0.4}}
        self.assertEqual(self.client.post(f"{self.path}/readings", json=reading).status_code, 201)
        for path in (f"/api/circuits/{other}/readings", f"/api/jobs/{self.job}/visits"):
            answer = self.client.post(path, json={**reading, "visit": {}} if "visits" in path else reading)
            self.assertEqual(answer.status_code, 422, path)

    def test_a_photo_under_the_id_of_another_is_refused(self) -> None:
        asked = {"id": new_id()}
        path = f"/api/jobs/{self.job}/attachments"
        for data, status in ((photo(), 201), (photo(), 201), (photo(size=(9, 9)), 422)):
            self.assertEqual(self.client.post(path, params=asked, content=data).status_code, status)
        self.assertEqual(len(self.client.get(path).json()), 1)


class Lost(Api):
    def test_a_lost_answer_says_that_it_is_not_known_and_the_id_finds_out(self) -> None:
        """The connection goes after the commit: the write is kept, and the answer cannot say so."""
        job = self.start()
        view = self.circuit(job)
        body = {"id": new_id(), "version": 1, "commands": [{"op": "circuit", "name": "Kept"}]}
        database = self.client.app.state.services.database
        whole, written = database.transaction, []

        @event.listens_for(database.engine, "before_cursor_execute")
        def watch(_connection, _cursor, statement, *_more) -> None:
            written.extend([statement] if statement.startswith("UPDATE circuit") else [])

        @contextmanager
        def losing():
            with whole() as db:
                yield db
            if written:
                raise DatabaseGoneError

        with mock.patch.object(database, "transaction", losing):
            answer = self.client.post(f"/api/circuits/{view['id']}/commands", json=body)
        event.remove(database.engine, "before_cursor_execute", watch)
        self.assertEqual((answer.status_code, answer.json()["code"]), (503, "not-known"))
        self.assertIn("not known whether this was kept", answer.json()["message"])
        self.assertEqual(answer.headers["connection"], "close")
        again = self.client.post(f"/api/circuits/{view['id']}/commands", json=body)
        self.assertEqual((again.status_code, again.json()["version"]), (200, 2))
        with database.transaction() as db:
            count = db.execute(text("select count(*) from circuit_revision where circuit_id = :i"), {"i": view["id"]})
            self.assertEqual(count.scalar(), 2)
