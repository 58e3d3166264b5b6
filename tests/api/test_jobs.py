"""Jobs and circuits over the API: kept whole, changed by two, refused with reasons."""

import json
from importlib.resources import files
from unittest import mock

from sqlalchemy import text

from lumbek.exchange.job_file import read_job, write_job
from lumbek.store.database import Database
from lumbek.store.migrate import check
from tests.api.case import Api, new_id
from tests.support.client import make_client, sign_in

HOUSE = (files("lumbek.services") / "demo_data" / "signal_box.json").read_bytes()


def _readings(document: dict) -> list[dict]:
    circuits = [reading for each in document["circuits"] for reading in (*each["readings"], *each["former_readings"])]
    return [*document["readings"], *circuits]


class Jobs(Api):
    def test_models_and_migrations_agree(self) -> None:
        check(self.url)

    def test_list_finds_words_in_any_field_and_takes_percent_as_itself(self) -> None:
        self.start(name="Crossing 100% keeper", client="Wren")
        found = self.client.get("/api/jobs", params={"search": "wren cross"}).json()
        self.assertEqual([each["name"] for each in found], ["Crossing 100% keeper"])
        self.assertEqual(len(self.client.get("/api/jobs", params={"search": "100%"}).json()), 1)
        self.assertEqual(self.client.get("/api/jobs", params={"search": "%%%"}).json(), [])

    def test_recent_first(self) -> None:
        first, second = self.start(name="First"), self.start(name="Second")
        self.circuit(first)
        order = [each["id"] for each in self.client.get("/api/jobs").json()]
        self.assertLess(order.index(first), len(order))
        self.assertIn(second, order)

    def test_job_file_in_and_out_loses_nothing(self) -> None:
        taken = self.take_in(HOUSE)
        self.assertEqual(taken.status_code, 201, taken.text)
        out = self.client.get(f"/api/jobs/{taken.json()['id']}/file")
        # Whose readings they are stays as the file says, and so does that they came by it.
        brought = json.loads(write_job(read_job(HOUSE)))
        for reading in _readings(brought):
            self.assertEqual(reading["imported_by"], "")
            reading["imported_by"] = "Robin Ash"
        self.assertEqual(out.json(), brought)
        self.assertIn("attachment", out.headers["content-disposition"])

    def test_a_file_of_the_wrong_shape_leaves_nothing_behind(self) -> None:
        before = len(self.client.get("/api/jobs").json())
        job = json.loads(HOUSE)
        job["circuits"][8]["design"]["legs"][0]["b"] = "nowhere"
        for body in (json.dumps(job).encode(), b"not json", b""):
            answer = self.take_in(body)
            self.assertEqual((answer.status_code, answer.json()["code"]), (422, "bad-input"))
            self.assertTrue(answer.json()["problems"][0]["reason"])
        self.assertEqual(len(self.client.get("/api/jobs").json()), before)

    def test_supply_is_kept_and_a_stale_change_is_told(self) -> None:
        job = self.start()
        kept = self.do_job(job, op="supply", ze_ohm=0.2, earthing="TN-S")
        self.assertEqual(kept.json()["supply"]["ze_ohm"], 0.2)
        stale = self.do_job(job, op="supply", ze_ohm=0.5, version=1)
        self.assertEqual((stale.status_code, stale.json()["current"]["version"]), (409, 2))
        self.assertEqual(self.client.get(f"/api/jobs/{job}").json()["supply"]["ze_ohm"], 0.2)

    def test_rulebook_is_the_jobs(self) -> None:
        job = self.start(rulebook="iec60364")
        self.assertEqual(self.circuit(job)["result"]["rulebook"], "iec60364")

    def test_removed_is_gone_from_sight_and_kept_in_the_records(self) -> None:
        job = self.start(name="To go")
        circuit = self.circuit(job)["id"]
        self.assertEqual(self.client.delete(f"/api/circuits/{circuit}").status_code, 204)
        self.assertEqual(self.client.delete(f"/api/jobs/{job}").status_code, 204)
        self.assertEqual(self.client.get(f"/api/jobs/{job}").status_code, 404)
        database = Database(self.url)
        with database.transaction() as db:
            self.assertEqual(db.execute(text("select name from job where id = :i"), {"i": job}).scalar(), "To go")
        database.close()

    def test_schedule_in_three_forms(self) -> None:
        job = self.take_in(HOUSE).json()["id"]
        self.assertEqual(
            len(self.client.get(f"/api/jobs/{job}/papers/schedule").json()["sections"][0]["blocks"][1]["rows"]), 11
        )
        self.assertTrue(self.client.get(f"/api/jobs/{job}/papers/schedule.pdf").content.startswith(b"%PDF"))
        self.assertIn("Kiln", self.client.get(f"/api/jobs/{job}/papers/schedule.csv").text)


class Bounds(Api):
    def test_a_job_holds_so_many_circuits_and_says_so(self) -> None:
        job = self.start()
        with mock.patch("lumbek.services.circuits.MOST_CIRCUITS", 2):
            codes = [self.started(job, kind="cooker") for _ in range(3)]
        self.assertEqual([each.status_code for each in codes], [201, 201, 422])
        self.assertIn("2 circuits at the most", codes[-1].json()["message"])

    def test_a_large_preview_is_worked_out_beside_and_says_the_same(self) -> None:
        view = self.circuit(self.start())
        body = {"id": new_id(), "version": view["version"], "text": ", ".join(["2m"] * 60)}
        self.client.post(f"/api/circuits/{view['id']}/run", json=body).raise_for_status()
        here = []
        with mock.patch("lumbek.services.heavy.judge_circuit", lambda *given: here.append(given)):
            shown = self.client.post(
                f"/api/circuits/{view['id']}/preview", json={"commands": [{"op": "circuit", "name": "Longer"}]}
            )
        self.assertEqual((shown.status_code, here), (200, []), "in a process of its own")
        self.assertEqual(shown.json()["design"]["name"], "Longer")
        stands = self.client.get(f"/api/circuits/{view['id']}").json()
        self.assertEqual(shown.json()["result"]["verdict"], stands["result"]["verdict"])


class Circuits(Api):
    def setUp(self) -> None:
        self.job = self.start()
        view = self.circuit(self.job)
        for _ in range(3):
            last = view["design"]["points"][-1]["id"] if view["design"]["points"] else "board"
            view = self.do(view, op="add", after=last, length_m=5).json()
        self.view = self.do(view, op="join", a="P3", b="board", length_m=6).json()

    def test_a_ring_built_edit_by_edit(self) -> None:
        self.assertEqual(self.view["result"]["shape"]["kind"], "ring")
        self.assertEqual(self.view["version"], 5)

    def test_every_state_is_kept(self) -> None:
        database = Database(self.url)
        with database.transaction() as db:
            query = text("select count(*) from circuit_revision where circuit_id = :i")
            self.assertEqual(db.execute(query, {"i": self.view["id"]}).scalar(), 5)
        database.close()

    def test_two_people_the_second_is_told_and_nothing_is_lost(self) -> None:
        mate = sign_in(make_client(self.url), "mate@signalbox.example")
        theirs = self.do(self.view, op="circuit", name="Theirs", client=mate)
        self.assertEqual(theirs.status_code, 200)
        told = self.do(self.view, op="circuit", name="Mine")
        self.assertEqual((told.status_code, told.json()["code"]), (409, "changed-meanwhile"))
        self.assertIn("Kit Marlow", told.json()["message"])
        self.assertEqual(told.json()["current"]["design"]["name"], "Theirs")
        self.assertEqual(self.do(self.view, op="add", after="P1").status_code, 409)
        again = self.do(theirs.json(), op="circuit", name="Mine")
        self.assertEqual(again.json()["design"]["name"], "Mine")

    def test_a_preview_keeps_nothing(self) -> None:
        path = f"/api/circuits/{self.view['id']}"
        tried = self.client.post(f"{path}/preview", json={"commands": [{"op": "device", "rating_a": 20}]}).json()
        overall = (tried["result"]["verdict"], tried["design"]["device"]["rating_a"])
        # Nothing is known of its RCD and of what it breaks.
        self.assertEqual(overall, ("cannot-tell", 20))
        self.assertEqual(self.client.get(path).json()["version"], 5)

    def test_bad_input_names_the_field_and_saves_nothing(self) -> None:
        path = f"/api/circuits/{self.view['id']}"

        def length(value: object) -> dict:
            return {"op": "segment", "leg": "L1", "length_m": value}

        crowd = {**self.view["design"], "points": [{"id": f"P{i}"} for i in range(10_000)]}
        stray = {**self.view["design"], "legs": [{"id": "L1", "a": "board", "b": "Q"}]}
        for command, field, words in (
            (length(-4), "segment.length_m", "0.001 m or more"),
            (length(0), "segment.length_m", "0.001 m or more"),
            (length(5000), "segment.length_m", "500 m or less"),
            (length("nine"), "segment.length_m", "a number"),
            ({"op": "take", "design": crowd}, "take.design.points", "200 at most"),
            ({"op": "take", "design": stray}, "take.design.legs", "no point here"),
            ({"op": "surroundings", "floor_area_m2": -1}, "surroundings.floor_area_m2", "0.1 m² or more"),
            ({"op": "device", "rcd": "gold"}, "device.rcd", "must be one of 'unknown', 'none', 'own'"),
            ({"op": "circuit", "number": 10_000}, "circuit.number", "9999 or less"),
            ({"op": "circuit", "name": "a\u0000b"}, "circuit.name", "cannot be printed"),
        ):
            answer = self.do(self.view, command)
            self.assertEqual(answer.status_code, 422, words)
            problem = answer.json()["problems"][0]
            self.assertEqual(problem["field"], field)
            self.assertIn(words, problem["reason"])
        self.assertEqual(self.client.get(path).json()["version"], 5)

    def test_odd_bodies_get_the_one_shape_of_error(self) -> None:
        path = f"/api/circuits/{self.view['id']}/commands"
        for answer in (
            self.client.post(path, content=b"{", headers={"Content-Type": "application/json"}),
            self.client.post(path, json=[1]),
            self.client.get("/api/circuits/not-an-id"),
            self.client.get("/api/nothing"),
            self.client.post(path, content=b"x" * 2_500_000),
            self.client.post(path, content=iter([b"x" * 1_500_000] * 2)),
            # Half of a character, as JSON can write it.
            self.client.post(path, content=b'{"id": "\\ud800", "version": 5, "commands": []}'),
            self.do(self.view, op="explode"),
            self.do(self.view, op="remove", point="P77"),
        ):
            self.assertIn(answer.status_code, (404, 413, 422))
            self.assertEqual({"code", "message", "problems", "current"}, set(answer.json()))
            self.assertTrue(answer.json()["message"])

    def test_readings_are_added_never_changed(self) -> None:
        for value in (0.4, 0.41):
            answer = self.enter(self.view["id"], quantity="r1", value=value)
            self.assertEqual(answer.status_code, 201)
        sheet = answer.json()["sheet"]
        self.assertEqual(sheet["stages"][1]["items"][0]["reading"]["value"], 0.41)
        self.assertEqual(sheet["stages"][1]["items"][0]["reading"]["by"], "Robin Ash")
        whole = self.client.get(f"/api/jobs/{self.job}/file").json()
        self.assertEqual([each["value"] for each in whole["circuits"][0]["readings"]], [0.4, 0.41])
        lost = self.enter(self.view["id"], quantity="zs", value=1, point="P9")
        self.assertEqual((lost.status_code, lost.json()["problems"][0]["field"]), (422, "point"))
