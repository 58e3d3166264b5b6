"""Survey and boards are written as circuits are: once, on the version seen, with a way back each of its own."""

from tests.api.case import Api, new_id
from tests.support.client import make_client, sign_in


class WaysBack(Api):
    def setUp(self) -> None:
        self.job = self.start()
        self.path = f"/api/jobs/{self.job}"

    def get(self, path: str) -> dict:
        return self.client.get(path).json()

    def step(self, path: str, way: str, client=None):
        version = self.get(self.path)["version"]
        return (client or self.client).post(f"{path}/{way}", json={"id": new_id(), "version": version})

    def name_board(self, name: str) -> dict:
        view = self.get(f"{self.path}/boards")
        body = {
            "id": new_id(),
            "version": view["version"],
            "commands": [{"op": "board", "board": view["boards"][0]["id"], "name": name}],
        }
        answer = self.client.post(f"{self.path}/boards/commands", json=body)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def board(self) -> str:
        return self.get(f"{self.path}/boards")["boards"][0]["name"]

    def test_each_part_goes_back_by_itself_and_the_other_stays(self) -> None:
        self.do_job(self.job, op="supply", ze_ohm=0.5)
        self.name_board("Hall")
        self.do_job(self.job, op="supply", ze_ohm=0.8)
        self.name_board("Loft")
        self.assertEqual(self.step(self.path, "undo").json()["supply"]["ze_ohm"], 0.5)
        self.assertEqual(self.board(), "Loft")
        undone = self.step(f"{self.path}/boards", "undo").json()
        self.assertEqual((undone["boards"][0]["name"], undone["can_undo"], undone["can_redo"]), ("Hall", True, True))
        self.assertEqual(self.get(self.path)["supply"]["ze_ohm"], 0.5)
        again = self.step(self.path, "redo").json()
        self.assertEqual((again["supply"]["ze_ohm"], again["can_redo"]), (0.8, False))

    def test_back_and_forth_as_far_as_it_goes_from_another_sign_in(self) -> None:
        for name in ("B", "C", "D"):
            self.name_board(name)
        mate = sign_in(make_client(self.url), "mate@signalbox.example")
        seen = []
        for way in ("undo", "undo", "redo", "undo", "undo", "redo", "redo", "redo"):
            self.assertEqual(self.step(f"{self.path}/boards", way, mate).status_code, 200, way)
            seen.append(self.board())
        first = seen[4]
        self.assertEqual(seen, ["C", "B", "C", "B", first, "B", "C", "D"])
        self.assertNotIn(first, "BCD")
        self.step(f"{self.path}/boards", "undo")
        self.name_board("E")
        self.assertEqual(self.step(f"{self.path}/boards", "redo").status_code, 422)

    def test_nothing_to_undo_and_a_stale_undo_are_told(self) -> None:
        for path in (self.path, f"{self.path}/boards"):
            self.assertEqual(self.step(path, "undo").json()["message"], "There is nothing to undo.")
        self.do_job(self.job, op="supply", ze_ohm=0.5)
        stale = self.client.post(f"{self.path}/undo", json={"id": new_id(), "version": 1})
        self.assertEqual((stale.status_code, stale.json()["current"]["version"]), (409, 2))

    def test_an_undo_sent_twice_is_done_once(self) -> None:
        for ze in (0.5, 0.6, 0.7):
            self.do_job(self.job, op="supply", ze_ohm=ze)
        undo = {"id": new_id(), "version": 4}
        twice = [self.client.post(f"{self.path}/undo", json=undo).json()["supply"]["ze_ohm"] for _ in range(2)]
        self.assertEqual(twice, [0.6, 0.6])

    def test_a_circuit_that_came_since_keeps_its_way(self) -> None:
        self.name_board("Hall")
        circuit = self.circuit(self.job)
        undone = self.step(f"{self.path}/boards", "undo")
        self.assertEqual(undone.status_code, 200, undone.text)
        held = [
            key for group in undone.json()["boards"][0]["groups"] for way in group["ways"] for key in way["circuits"]
        ]
        self.assertIn(circuit["id"].replace("-", ""), held)

    def test_what_changes_nothing_is_no_state(self) -> None:
        self.do_job(self.job, op="supply", ze_ohm=0.5)
        same = self.do_job(self.job, op="supply", ze_ohm=0.5).json()
        self.assertEqual(same["version"], 2)
        self.assertEqual(self.step(self.path, "undo").json()["supply"]["ze_ohm"], None)

    def test_an_id_that_wrote_something_else_is_refused(self) -> None:
        write = {"id": new_id(), "version": 1, "commands": [{"op": "supply", "ze_ohm": 0.5}]}
        self.assertEqual(self.client.post(f"{self.path}/commands", json=write).status_code, 200)
        other = self.client.post(f"/api/jobs/{self.start()}/commands", json=write)
        self.assertEqual((other.status_code, other.json()["message"][:14]), (422, "This id has be"))
