"""The plan of a job over the API: typed, answered, undone, kept in the file, and nobody else's."""

from typing import Any
from xml.etree import ElementTree

from lumbek.core.model.plan import CircuitPoint
from lumbek.exchange.job_file import read_job
from tests.api.case import Api, new_id
from tests.support.client import RIVAL, make_client, sign_in
from tests.support.photos import photo


class Plans(Api):
    def setUp(self) -> None:
        self.job = self.start()
        self.path = f"/api/jobs/{self.job}/plan"

    def do_plan(self, *commands: dict[str, Any], version: int | None = None):
        version = self.client.get(self.path).json()["version"] if version is None else version
        return self.client.post(
            f"{self.path}/commands", json={"id": new_id(), "version": version, "commands": commands}
        )

    def test_a_room_is_typed_and_marked_and_undone(self) -> None:
        view = self.do_plan({"op": "type-room", "typed": "Bedroom 4.20 x 3.60 h 2.40"}).json()
        lines = ("bed 1500 w middle", "socket both sides of bed", "radiator 900 w left 400")
        for typed in lines:
            view = self.do_plan({"op": "line", "room": "bedroom", "typed": typed}).json()
        (room,) = view["answer"]["rooms"]
        self.assertEqual([(each["wall"], each["left_mm"]) for each in room["marks"]], [("w1", 825), ("w1", 2775)])
        self.assertEqual([each["why"] for each in room["conflicts"]], ["behind a radiator"])
        # Rooms are the rooms of the house, wherever they are named.
        self.assertIn(
            "Bedroom", [each["name"] for each in self.client.get(f"/api/jobs/{self.job}/places").json()["rooms"]]
        )
        job = read_job(self.client.get(f"/api/jobs/{self.job}/file").content)
        self.assertEqual([mark.id for mark in job.marks], ["socket-1", "socket-2"])
        again = self.take_in(self.client.get(f"/api/jobs/{self.job}/file").content).json()["id"]
        self.assertEqual(self.client.get(f"/api/jobs/{again}/plan").json()["answer"], view["answer"])
        undone = self.client.post(f"{self.path}/undo", json={"id": new_id(), "version": view["version"]}).json()
        self.assertEqual(undone["answer"]["rooms"][0]["conflicts"], [])
        redone = self.client.post(f"{self.path}/redo", json={"id": new_id(), "version": undone["version"]}).json()
        self.assertEqual(redone["answer"], view["answer"])

    def test_what_is_not_understood_is_told_and_nothing_is_kept(self) -> None:
        view = self.do_plan({"op": "type-room", "typed": "Hall 3.60 x 1.80"}).json()
        for command, why in (
            ({"op": "line", "room": "hall", "typed": "sofa 2000 n left 0"}, "'sofa' is not known here"),
            ({"op": "measure", "room": "hall", "typed": "3.00 n, 4.00 e, 3.00 s, 3.00 w"}, "1000 mm west are missing"),
            ({"op": "type-room", "typed": "3 x 4"}, "what the room is called"),
            ({"op": "drop-mark", "mark": "socket-9"}, "no such mark"),
            ({"op": "thing", "room": "hall", "thing": {"id": "x", "kind": "bed"}}, "wall"),
        ):
            refused = self.do_plan(command)
            self.assertEqual(refused.status_code, 422, command)
            self.assertIn(why, refused.text)
        self.assertEqual(self.client.get(self.path).json()["version"], view["version"])
        stale = self.do_plan({"op": "type-room", "typed": "Loft 3 x 3"}, version=0)
        self.assertEqual(stale.status_code, 409)
        self.assertEqual(sign_in(make_client(self.url), *RIVAL).get(self.path).status_code, 404)

    def test_a_point_at_a_mark_stays_at_it_through_a_file(self) -> None:
        """Circuits have other keys in a file than here: the marks name them as they are called on either side."""
        circuit = self.circuit(self.job)
        self.do(circuit, op="add", after="board", length_m=4)
        key = circuit["id"].replace("-", "")
        self.do_plan({"op": "type-room", "typed": "Shower room 2.40 x 1.80"})
        self.do_plan({"op": "line", "room": "shower-room", "typed": "bath 1700 n left 0"})
        view = self.do_plan({"op": "line", "room": "shower-room", "typed": "socket n right 0.30"}).json()
        mark = {**view["places"]["marks"][0], "point": {"circuit": key, "point": "P1"}}
        self.do_plan({"op": "mark", "mark": mark})
        content = self.client.get(f"/api/jobs/{self.job}/file").content
        self.assertEqual(read_job(content).marks[0].point, CircuitPoint(circuit="C1", point="P1"))
        again = self.take_in(content).json()
        (line,) = again["circuits"]
        kept = self.client.get(f"/api/jobs/{again['id']}/plan").json()["places"]["marks"][0]["point"]
        self.assertEqual(kept, {"circuit": line["id"].replace("-", ""), "point": "P1"})
        # So the circuit hears its zone there as well.
        zones = [self.client.get(f"/api/circuits/{each}").json() for each in (circuit["id"], line["id"])]
        told = [[c for c in each["result"]["checks"] if "bath" in c["id"]] for each in zones]
        self.assertEqual(told[0], told[1])
        self.assertTrue(told[0])

    def test_the_plan_as_a_table_out_and_in(self) -> None:
        self.do_plan({"op": "type-room", "typed": "Hall 3.60 x 1.80"})
        view = self.do_plan({"op": "line", "room": "hall", "typed": "2 sockets spread n"}).json()
        table = self.client.get(f"{self.path}.csv")
        self.assertEqual(table.headers["content-type"], "text/csv; charset=utf-8")
        other = self.start()
        path = f"/api/jobs/{other}/plan"
        version = self.client.get(path).json()["version"]
        taken = self.client.post(f"{path}/csv", json={"id": new_id(), "version": version, "text": table.text})
        self.assertEqual(taken.json()["answer"], view["answer"])
        again = {"id": new_id(), "version": version, "text": "room,typed\n,Loft 3 x 2\n"}
        self.assertEqual(self.client.post(f"{path}/csv", json=again).status_code, 409)
        bad = {
            "id": new_id(),
            "version": taken.json()["version"],
            "text": "room,typed\n,Loft 3 x 2\nCave,bed 1500 n left 0\n",
        }
        refused = self.client.post(f"{path}/csv", json=bad)
        self.assertEqual(refused.status_code, 422)
        self.assertIn("Line 3: no room is called 'Cave'", refused.text)
        self.assertEqual(self.client.get(path).json()["version"], taken.json()["version"])

    def test_a_tick_that_waited_lands_on_what_stands_by_then(self) -> None:
        self.do_plan({"op": "type-room", "typed": "Hall 3.60 x 1.80"})
        self.do_plan({"op": "line", "room": "hall", "typed": "2 sockets spread n"})
        tick = {"id": new_id(), "tick": {"op": "tick", "mark": "socket-1", "is_made": True}}
        self.do_plan({"op": "line", "room": "hall", "typed": "switch n left 0.30"})
        for _ in range(2):
            view = self.client.post(f"{self.path}/ticks", json=tick).json()
            self.assertEqual([mark["is_made"] for mark in view["places"]["marks"]], [True, False, False])
        no_why = {"id": new_id(), "tick": {"op": "tick", "mark": "socket-1", "moved": {"right_mm": 40}}}
        self.assertIn("Say why", self.client.post(f"{self.path}/ticks", json=no_why).text)

    def test_a_wall_is_drawn_and_photos_show_rooms_and_walls(self) -> None:
        self.do_plan({"op": "type-room", "typed": "Hall 3.60 x 1.80"})
        self.do_plan({"op": "line", "room": "hall", "typed": "window 600 n middle"})
        self.do_plan({"op": "line", "room": "hall", "typed": "socket n left 0.50"})
        drawn = self.client.get(f"{self.path}/hall/w2.svg")
        self.assertEqual(drawn.headers["content-type"], "image/svg+xml")
        root = ElementTree.fromstring(drawn.text)
        words = [each.text for each in root.iter("{http://www.w3.org/2000/svg}text")]
        self.assertEqual(words[1], "1  500, up 450: socket, 35 deep")
        self.assertEqual(self.client.get(f"{self.path}/hall/w1.svg").status_code, 404)
        for of, status in (("hall", 201), ("hall/w2", 201), ("hall/w9", 404), ("cave", 404)):
            where = f"/api/jobs/{self.job}/attachments?id={new_id()}&shows=room&of={of}"
            self.assertEqual(self.client.post(where, content=photo()).status_code, status, of)
