"""Ways of cable over the API: found, taken into a circuit, a circuit laid through marks; undone, and nobody else's."""

from typing import Any

from tests.api.case import Api, new_id
from tests.support.client import RIVAL, make_client, sign_in

LINES = (
    "board n left 0.20 at 1400",
    "socket n left 1.00 at 450",
    "socket n left 2.20 at 450",
    "socket n right 0.50 at 450",
    "data n right 0.20",
)


class Ways(Api):
    def setUp(self) -> None:
        self.job = self.start()
        self.path = f"/api/jobs/{self.job}"
        self.plan({"op": "type-room", "typed": "Hall 4.00 x 3.00 h 2.40"})
        self.plan(*({"op": "line", "room": "hall", "typed": line} for line in LINES))
        boards = self.client.get(f"{self.path}/boards").json()
        board = boards["boards"][0]["id"]
        command = {"op": "board", "board": board, "at": {"room": "hall"}}
        put = {"id": new_id(), "version": boards["version"], "commands": [command]}
        self.assertEqual(self.client.post(f"{self.path}/boards/commands", json=put).status_code, 200)

    def plan(self, *commands: dict[str, Any]) -> dict[str, Any]:
        version = self.client.get(f"{self.path}/plan").json()["version"]
        body = {"id": new_id(), "version": version, "commands": commands}
        answer = self.client.post(f"{self.path}/plan/commands", json=body)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def lay(self, shape: str = "radial", marks: tuple[str, ...] = ("socket-1", "socket-2", "socket-3")):
        laid = {"id": new_id(), "kind": "sockets", "shape": shape, "marks": marks}
        return laid, self.client.post(f"{self.path}/routes/laid", json=laid)

    def test_orders_are_found_and_a_circuit_is_laid_once(self) -> None:
        orders = self.client.post(
            f"{self.path}/routes/orders", json={"marks": ["socket-3", "socket-1", "socket-2"]}
        ).json()
        self.assertEqual([order["shape"] for order in orders], ["ring", "radial", "two-radials", "ring"])
        self.assertEqual(orders[1]["runs"], [["socket-1", "socket-2", "socket-3"]])
        body, answer = self.lay()
        self.assertEqual(answer.status_code, 201, answer.text)
        circuit = answer.json()
        lengths = [sum(s["length_m"] for s in leg["segments"]) for leg in circuit["design"]["legs"]]
        self.assertEqual(round(1000 * sum(lengths)), orders[1]["length_mm"])
        again = self.client.post(f"{self.path}/routes/laid", json=body)
        self.assertEqual(again.json()["id"], circuit["id"])
        self.assertEqual(len(self.client.get(self.path).json()["circuits"]), 1)
        key = circuit["id"].replace("-", "")
        marks = self.client.get(f"{self.path}/plan").json()["places"]["marks"]
        self.assertEqual([mark["point"] and mark["point"]["circuit"] for mark in marks[1:4]], [key] * 3)
        routes = self.client.get(f"{self.path}/routes").json()["answer"]["legs"]
        self.assertEqual([leg["differs"] for leg in routes], [False] * 3)

    def test_a_ring_that_shares_better_is_laid_as_it_was_shown(self) -> None:
        marks = ["socket-1", "socket-2", "socket-3"]
        orders = self.client.post(f"{self.path}/routes/orders", json={"marks": marks}).json()
        least, evener = (order for order in orders if order["shape"] == "ring")
        self.assertLess(evener["busier_percent"], least["busier_percent"])
        laid = {"id": new_id(), "kind": "sockets", "shape": "ring", "marks": marks}
        refused = self.client.post(f"{self.path}/routes/laid", json={**laid, "busier_percent": 51})
        self.assertEqual(refused.status_code, 422)
        share = evener["busier_percent"]
        made = self.client.post(f"{self.path}/routes/laid", json={**laid, "id": new_id(), "busier_percent": share})
        self.assertEqual(made.status_code, 201, made.text)
        legs = made.json()["design"]["legs"]
        self.assertEqual(round(1000 * sum(s["length_m"] for leg in legs for s in leg["segments"])), evener["length_mm"])

    def test_pipes_in_the_slab(self) -> None:
        found = self.client.post(
            f"{self.path}/routes/pipes", json={"marks": ["socket-1", "socket-2", "socket-3"]}
        ).json()
        self.assertEqual((len(found["pipes"]), found["crossings"], found["is_proved"]), (3, [], True))
        self.assertEqual(sorted(pipe["slot"] for pipe in found["pipes"]), [0, 1, 2])
        self.assertTrue(all(pipe["drawn_in"] == "3 × 2.5 mm²" for pipe in found["pipes"]))
        for marks, why in ((["socket-9"], "not there any more"), ([], "marks"), (["socket-1"] * 17, "marks")):
            refused = self.client.post(f"{self.path}/routes/pipes", json={"marks": marks})
            self.assertEqual(refused.status_code, 422)
            self.assertIn(why, refused.text)

    def test_what_cannot_be_laid_is_told(self) -> None:
        self.assertEqual(self.lay()[1].status_code, 201)
        for marks, why in (
            (("socket-1",), "a point of a circuit already"),
            (("data-1",), "no point of a final circuit"),
            (("socket-9",), "not there any more"),
            (("board-1",), "no point of a final circuit"),
        ):
            refused = self.lay(marks=marks)[1]
            self.assertEqual(refused.status_code, 422)
            self.assertIn(why, refused.text)

    def test_a_moved_wall_is_taken_into_the_circuit_and_undone(self) -> None:
        circuit = self.lay()[1].json()
        self.plan(
            {"op": "line", "room": "hall", "typed": "wall n stud"},
            {"op": "move-wall", "room": "hall", "wall": "w3", "by_mm": 1000},
        )
        legs = {leg["leg"]: leg for leg in self.client.get(f"{self.path}/routes").json()["answer"]["legs"]}
        last = circuit["design"]["legs"][-1]["id"]
        self.assertTrue(legs[last]["differs"])
        where = f"/api/circuits/{circuit['id']}"
        body = {"id": new_id(), "version": circuit["version"]}
        taken = self.client.post(f"{where}/as-laid", json=body).json()
        length = sum(each["length_m"] for each in taken["design"]["legs"][-1]["segments"])
        self.assertAlmostEqual(length, (legs[last]["way_mm"] + legs[last]["slack_mm"]) / 1000)
        self.assertEqual(self.client.post(f"{where}/as-laid", json=body).json()["version"], taken["version"])
        stale = {"id": new_id(), "version": circuit["version"]}
        self.assertEqual(self.client.post(f"{where}/as-laid", json=stale).status_code, 409)
        undone = self.client.post(f"{where}/undo", json={"id": new_id(), "version": taken["version"]}).json()
        self.assertEqual(undone["design"]["legs"], circuit["design"]["legs"])
        # A length that was measured on site stays.
        tape = {"op": "leg", "leg": last, "taped": True}
        taped = self.do(undone, tape).json()
        kept = self.client.post(f"{where}/as-laid", json={"id": new_id(), "version": taped["version"]}).json()
        self.assertEqual(kept["design"]["legs"][-1]["segments"], circuit["design"]["legs"][-1]["segments"])

    def test_an_old_run_is_broken_for_a_new_place_once(self) -> None:
        circuit = self.lay(shape="ring", marks=("socket-1", "socket-3"))[1].json()
        where = f"/api/circuits/{circuit['id']}"
        found = self.client.post(f"{where}/breaks", json={"marks": ["socket-2"]}).json()
        self.assertEqual([each["cost"] for each in found], sorted(each["cost"] for each in found))
        best = found[0]["broken"]
        body = {"id": new_id(), "version": circuit["version"], "broken": best}
        extended = self.client.post(f"{where}/extended", json=body)
        self.assertEqual(extended.status_code, 200, extended.text)
        view = extended.json()
        self.assertEqual((len(view["design"]["points"]), view["result"]["shape"]["kind"]), (3, "ring"))
        before = {leg["id"] for leg in circuit["design"]["legs"]}
        new = [leg for leg in view["design"]["legs"] if leg["id"] not in before]
        mm = sum(round(1000 * each["length_m"]) for leg in new for each in leg["segments"])
        self.assertEqual(mm, found[0]["length_mm"])
        at = {mark["id"]: mark["point"] for mark in self.client.get(f"{self.path}/plan").json()["places"]["marks"]}
        self.assertEqual(at["socket-2"]["circuit"], circuit["id"].replace("-", ""))
        self.assertEqual(self.client.post(f"{where}/extended", json=body).json()["version"], view["version"])
        again = {"id": new_id(), "version": view["version"], "broken": best}
        self.assertEqual(self.client.post(f"{where}/extended", json=again).status_code, 422)

    def test_a_circuit_at_no_marks_is_told_and_others_see_nothing(self) -> None:
        circuit = self.circuit(self.job)
        refused = self.client.post(
            f"/api/circuits/{circuit['id']}/as-laid", json={"id": new_id(), "version": circuit["version"]}
        )
        self.assertEqual(refused.status_code, 422)
        self.assertIn("at which marks", refused.text)
        rival = sign_in(make_client(self.url), *RIVAL)
        self.assertEqual(rival.get(f"{self.path}/routes").status_code, 404)
        self.assertEqual(rival.post(f"{self.path}/routes/orders", json={"marks": ["socket-1"]}).status_code, 404)

    def test_ways_are_put_and_what_is_not_there_refused(self) -> None:
        bad = {"op": "ways", "ways": {"closed": ["cellar"]}}
        version = self.client.get(f"{self.path}/plan").json()["version"]
        refused = self.client.post(
            f"{self.path}/plan/commands", json={"id": new_id(), "version": version, "commands": [bad]}
        )
        self.assertEqual(refused.status_code, 422)
        view = self.plan({"op": "ways", "ways": {"closed": ["hall"], "weights": {"bend": 400}}})
        self.assertEqual(view["places"]["ways"]["weights"]["bend"], 400)
        self.assertEqual(self.client.get(f"{self.path}/routes").json()["ways"]["closed"], ["hall"])
