"""The design bench over the API: proposals, typed runs, copies, the firm's library, the rulebook laid open."""

from importlib.resources import files

from tests.api.case import Api, new_id
from tests.support.client import RIVAL, make_client, sign_in

BOATHOUSE = (files("lumbek.services") / "demo_data" / "boathouse.json").read_bytes()


class Bench(Api):
    def setUp(self) -> None:
        self.job = self.start()
        self.view = self.circuit(self.job)
        self.path = f"/api/circuits/{self.view['id']}"

    def lay(self, text: str, version: int = 1):
        return self.client.post(f"{self.path}/run", json={"id": new_id(), "version": version, "text": text})

    def test_a_typed_run_is_laid_whole_or_not_at_all(self) -> None:
        bad = self.lay("9m kitchen twin, no length here, 4m")
        self.assertEqual((bad.status_code, bad.json()["problems"][0]["field"]), (422, "entry 2"))
        self.assertEqual(self.client.get(self.path).json()["version"], 1)
        laid = self.lay("9m kitchen twin, 4m window, spur 2m seat, back 8m").json()
        self.assertEqual(laid["result"]["shape"]["kind"], "ring-with-spurs")
        self.assertEqual(self.lay("5m more").status_code, 409)
        self.assertEqual(self.lay("", 2).status_code, 422)
        self.assertEqual(len(self.client.post("/api/runs", json={"text": "3m, ? x"}).json()["entries"]), 2)

    def test_a_leg_is_taken_through_new_points(self) -> None:
        self.lay("9m a, 4m b, back 8m")
        change = {"id": new_id(), "version": 2, "text": "3m loft single, back 5m", "through_leg": "L2"}
        laid = self.client.post(f"{self.path}/run", json=change).json()
        self.assertEqual(laid["result"]["shape"]["ring_points"], ["P1", "P3", "P2"])
        gone = self.client.post(f"{self.path}/run", json={**change, "id": new_id(), "version": 3})
        self.assertEqual(
            (gone.status_code, gone.json()["message"]), (422, "There is no cable L2 in this circuit any more.")
        )
        self.assertEqual(self.client.get(self.path).json()["version"], 3)

    def test_proposals_follow_the_jobs_school(self) -> None:
        self.lay("9m a, 4m b, back 8m")
        first = self.client.get(f"{self.path}/proposals").json()
        self.assertTrue(first["sizes"]["sizes"])
        kept = self.do_job(self.job, op="head", protection_school="shared-rcds")
        self.assertEqual(kept.json()["head"]["protection_school"], "shared-rcds")
        second = self.client.get(f"{self.path}/proposals").json()
        self.assertNotEqual(first["protection"]["school"], second["protection"]["school"])

    def test_copy_and_library(self) -> None:
        self.lay("9m a, 4m b, back 8m")
        copy = self.started(self.job, copy_of=self.view["id"]).json()
        self.assertEqual((copy["design"]["number"], copy["design"]["name"]), (2, "Ring (copy)"))
        kept = self.client.post(f"{self.path}/library", json={"id": new_id()}).json()
        self.assertIn(kept["id"], [each["id"] for each in self.client.get("/api/library").json()])
        rival = sign_in(make_client(self.url), *RIVAL)
        self.assertEqual(rival.get("/api/library").json(), [])
        used = self.started(self.job, library=kept["id"])
        self.assertEqual((used.status_code, used.json()["design"]["number"]), (201, 3))
        self.assertEqual(self.client.delete(f"/api/library/{kept['id']}").status_code, 204)
        self.assertEqual(self.started(self.job, library=kept["id"]).status_code, 404)

    def test_calculation_sheet_and_rulebook(self) -> None:
        self.assertTrue(self.client.get(f"{self.path}/papers/calculation.pdf").content.startswith(b"%PDF"))
        page = self.client.get("/api/rulebooks/iec60364").json()
        self.assertTrue(any(each["topic"] == "Cmin on U0 for Zs" for each in page["differences"]))
        self.assertGreater(len(page["tables"]), 8)
        self.assertEqual(self.client.get("/api/rulebooks/nonesuch").status_code, 422)

    def test_a_circuit_is_started_as_what_is_usual_for_its_kind(self) -> None:
        for kind, rating, cable in (("shower", 45, "flat-twin-and-earth"), ("outdoor", 16, "armoured")):
            made = self.started(self.job, kind=kind)
            self.assertEqual(made.status_code, 201, made.text)
            design = made.json()["design"]
            self.assertEqual(
                (design["kind"], design["device"]["rating_a"], design["cable"]["type"]), (kind, rating, cable)
            )
        self.assertEqual(
            [line["number"] for line in self.client.get(f"/api/jobs/{self.job}").json()["circuits"]], [1, 2, 3]
        )
        self.assertEqual(self.started(self.job, kind="sauna").status_code, 422)

    def test_a_point_of_which_nothing_is_said_comes_with_the_usual_load(self) -> None:
        view = self.started(self.job, kind="cooker").json()
        for _ in range(2):
            view = self.do(view, op="add", after="board", length_m=6).json()
        self.assertEqual([len(point["loads"]) for point in view["design"]["points"]], [1, 0])
        self.assertAlmostEqual(view["result"]["ib_a"], 10 + 0.3 * (10500 / 230 - 10))

    def test_a_job_keeps_the_edition_it_was_started_in(self) -> None:
        head = self.client.get(f"/api/jobs/{self.job}").json()["head"]
        self.assertEqual(head["edition"], "2018+A3:2024")
        refused = self.client.post("/api/jobs", json={"id": new_id(), "head": {"name": "Old", "edition": "1950"}})
        self.assertEqual((refused.status_code, refused.json()["problems"][0]["field"]), (422, "edition"))
        self.assertEqual(self.do_job(self.job, op="head", edition="1950").status_code, 422)
        self.assertEqual(self.client.get(f"/api/jobs/{self.job}").json()["head"], head)
        self.assertEqual(self.client.get("/api/rulebooks/bs7671", params={"edition": "1950"}).status_code, 422)
        named = self.client.get("/api/rulebooks/bs7671/choices", params={"edition": head["edition"]})
        self.assertEqual(named.json()["edition"], head["edition"])

    def test_figures_carry_their_margins(self) -> None:
        self.lay("9m a, 4m b, back 8m")
        self.do_job(self.job, op="supply", earthing="TN-S", ze_ohm=0.3)
        result = self.client.get(self.path).json()["result"]
        for leg in result["legs"]:
            self.assertAlmostEqual(leg["margin"], leg["iz_a"] / leg["needed_a"] - 1)
        for point in result["points"]:
            by = {"zs": 1 - point["zs_ohm"] / point["zs_limit_ohm"], "drop": 1 - point["drop_percent"] / 5}
            self.assertEqual(point["margin_of"], min(by, key=by.get))
            self.assertAlmostEqual(point["margin"], min(by.values()))

    def test_what_stands_ahead_follows_from_the_board_and_is_refused_elsewhere(self) -> None:
        self.lay("9m a, 4m b, back 8m")
        view = self.client.get(self.path).json()
        for command in (
            {"op": "add-ahead", "what": "feed"},
            {"op": "drop-ahead", "index": 0},
            {"op": "device", "ahead": 0, "rating_a": 6},
        ):
            answer = self.do(view, command)
            self.assertEqual(answer.status_code, 422, command)
        shared = self.do(view, {"op": "device", "rcd": "shared"})
        self.assertEqual((shared.status_code, "group" in shared.json()["message"]), (422, True))
        self.assertEqual(self.client.get(self.path).json()["version"], view["version"])

    def test_the_second_house_is_another_rulebook_and_three_phases(self) -> None:
        job = self.take_in(BOATHOUSE).json()
        stands = {line["name"]: line["verdict"] for line in job["circuits"]}
        self.assertEqual(stands["Heat pump"], "fail")
        self.assertEqual(stands["Boat hoist"], "pass")
