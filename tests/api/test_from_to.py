"""What the audit says was changed: each field from what it said to what it says."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from lumbek.services.difference import difference
from tests.api.case import Api, new_id
from tests.support.client import add_person

words = st.text(max_size=60) | st.integers() | st.booleans() | st.none() | st.floats(allow_nan=False)
members = st.dictionaries(st.sampled_from("abc"), words, max_size=3)
rows = st.lists(st.tuples(st.sampled_from("PQRS"), members), max_size=4, unique_by=lambda row: row[0]).map(
    lambda some: [{"id": each, **row} for each, row in some]
)
documents = st.dictionaries(st.sampled_from(["name", "device", "points"]), words | members | rows, max_size=3)


class Difference(unittest.TestCase):
    def test_it_names_what_changed_and_nothing_else(self) -> None:
        before = {
            "name": "Ring",
            "device": {"rating_a": 32, "rcd": {"rated_ma": 30}},
            "points": [{"id": "P1", "kind": "socket", "loads": []}, {"id": "P2", "kind": "light"}],
            "reason": "",
        }
        first, second = before["points"]
        for change, said in (
            ({}, ""),
            ({"name": "Kitchen ring"}, "name: Ring → Kitchen ring"),
            ({"reason": "Long run"}, "reason: – → Long run"),
            ({"device": {"rating_a": 20, "rcd": {"rated_ma": 30}}}, "device rating_a: 32 → 20"),
            ({"device": {"rating_a": 32, "rcd": {"rated_ma": 10}}}, "device rcd rated_ma: 30 → 10"),
            ({"device": {"rating_a": 32, "rcd": None}}, "device rcd: rated_ma 30 → –"),
            ({"points": [before["points"][1]]}, "points P1: gone"),
            ({"points": [*before["points"], {"id": "P3"}]}, "points P3: new"),
            ({"points": before["points"][::-1]}, "points: in another order"),
            ({"points": [{**first, "kind": "light"}, second]}, "points P1 kind: socket → light"),
            ({"points": [{**first, "loads": [{"w": 3}, {"w": 4}]}, second]}, "points P1 loads: – → 2 of them"),
            ({"name": "x" * 90}, f"name: Ring → {'x' * 39}…"),
            ({"name": "x" * 40}, f"name: Ring → {'x' * 40}"),
        ):
            self.assertEqual(difference(before, {**before, **change}), said)

    def test_of_many_the_first_are_named(self) -> None:
        before = {f"f{count}": count for count in range(9)}
        said = difference(before, {key: value + 1 for key, value in before.items()})
        self.assertEqual((said.count("→"), said.endswith("; and 3 more")), (6, True))

    @given(documents, documents)
    def test_it_says_nothing_only_where_nothing_changed_and_is_never_long(self, before: dict, after: dict) -> None:
        said = difference(before, after)
        # What is not said and what says nothing are one.
        told = [{key: value for key, value in each.items() if value is not None} for each in (before, after)]
        if not any(isinstance(value, dict | list) for each in told for value in each.values()):
            self.assertEqual(said == "", told[0] == told[1])
        self.assertLess(len(said), 1000)
        self.assertEqual(difference(before, before), "")


class OnThePage(Api):
    def test_from_and_to_of_circuits_jobs_boards_rooms_roles_and_readings(self) -> None:
        job = self.start(name="Signal cabin")
        view = self.circuit(job)
        view = self.do(view, op="circuit", name="Kiln").json()
        view = self.do(view, op="add", after="board", length_m=4).json()
        self.do_job(job, op="head", client="The lock keeper").raise_for_status()
        boards = self.client.get(f"/api/jobs/{job}/boards").json()
        command = {"op": "board", "board": boards["boards"][0]["id"], "name": "Yard board"}
        body = {"id": new_id(), "version": boards["version"], "commands": [command]}
        self.client.post(f"/api/jobs/{job}/boards/commands", json=body).raise_for_status()
        version = self.client.get(f"/api/jobs/{job}/places").json()["version"]
        body = {"id": new_id(), "version": version, "commands": [{"op": "add-room", "name": "Loft"}]}
        self.client.post(f"/api/jobs/{job}/places/commands", json=body).raise_for_status()
        self.enter(view["id"], quantity="r1+r2", point="P1", value=0.42).raise_for_status()
        self.enter(view["id"], quantity="isolation", correct=False).raise_for_status()
        said = [(each["action"], each["detail"]) for each in self.client.get("/api/audit").json()["lines"]]
        for line in (
            ("circuit-changed", "name: Ring → Kiln"),
            ("circuit-changed", "points P1: new; legs L1: new"),
            ("job-changed", "head client: – → The lock keeper"),
            ("reading", "r1+r2 at P1: 0.42"),
            ("reading", "isolation: wrong"),
        ):
            self.assertIn(line, said)
        self.assertIn(("job-changed", "boards B1: new, Yard board"), said)
        self.assertTrue(any(action == "places-changed" and detail.endswith(": new, Loft") for action, detail in said))
        add_person(self.url, "pat@signalbox.example", ["tester"])
        people = self.client.get("/api/people").json()["people"]
        person = next(each for each in people if each["email"].startswith("pat"))
        path = f"/api/people/{person['id']}/roles"
        # What somebody has already is no change.
        for said in ({"give": ["designer"]}, {"give": ["tester"], "take": ["supervisor"]}):
            self.client.patch(path, json=said).raise_for_status()
        newest = self.client.get("/api/audit").json()["lines"][0]
        self.assertEqual((newest["action"], newest["detail"]), ("roles", "tester → designer, tester"))
