"""The design bench over the API: proposals, typed runs, copies, the firm's library, the rulebook laid open."""

from importlib.resources import files

from tests.api.test_jobs import Api
from tests.support.client import RIVAL, make_client, sign_in

BOATHOUSE = (files("lumbek.services") / "demo_data" / "boathouse.json").read_bytes()


class Bench(Api):
    def setUp(self) -> None:
        self.job = self.start()
        self.view = self.circuit(self.job)
        self.path = f"/api/circuits/{self.view['id']}"

    def lay(self, text: str, version: int = 1):
        return self.client.post(f"{self.path}/run", json={"version": version, "text": text})

    def test_a_typed_run_is_laid_whole_or_not_at_all(self) -> None:
        bad = self.lay("9m kitchen twin, no length here, 4m")
        self.assertEqual((bad.status_code, bad.json()["problems"][0]["field"]), (422, "entry 2"))
        self.assertEqual(self.client.get(self.path).json()["version"], 1)
        laid = self.lay("9m kitchen twin, 4m window, spur 2m seat, back 8m").json()
        self.assertEqual(laid["result"]["shape"]["kind"], "ring-with-spurs")
        self.assertEqual(self.lay("5m more").status_code, 409)
        self.assertEqual(self.lay("", 2).status_code, 422)
        self.assertEqual(len(self.client.post("/api/runs", json={"text": "3m, ? x"}).json()["entries"]), 2)

    def test_proposals_follow_the_jobs_school(self) -> None:
        self.lay("9m a, 4m b, back 8m")
        first = self.client.get(f"{self.path}/proposals").json()
        self.assertTrue(first["sizes"]["sizes"])
        job = self.client.get(f"/api/jobs/{self.job}").json()
        head = {**job["head"], "protection_school": "shared-rcds"}
        kept = self.client.put(f"/api/jobs/{self.job}/head", json={"version": job["version"], "head": head})
        self.assertEqual(kept.json()["head"]["protection_school"], "shared-rcds")
        second = self.client.get(f"{self.path}/proposals").json()
        self.assertNotEqual(first["protection"]["school"], second["protection"]["school"])

    def test_copy_and_library(self) -> None:
        self.lay("9m a, 4m b, back 8m")
        copy = self.client.post(f"{self.path}/copy").json()
        self.assertEqual((copy["design"]["number"], copy["design"]["name"]), (2, "Ring (copy)"))
        kept = self.client.post(f"{self.path}/library").json()
        self.assertIn(kept["id"], [each["id"] for each in self.client.get("/api/library").json()])
        rival = sign_in(make_client(self.url), *RIVAL)
        self.assertEqual(rival.get("/api/library").json(), [])
        used = self.client.post(f"/api/jobs/{self.job}/library/{kept['id']}")
        self.assertEqual((used.status_code, used.json()["design"]["number"]), (201, 3))
        self.assertEqual(self.client.delete(f"/api/library/{kept['id']}").status_code, 204)
        self.assertEqual(self.client.post(f"/api/jobs/{self.job}/library/{kept['id']}").status_code, 404)

    def test_calculation_sheet_and_rulebook(self) -> None:
        self.assertTrue(self.client.get(f"{self.path}/calculation.pdf").content.startswith(b"%PDF"))
        page = self.client.get("/api/rulebooks/iec60364").json()
        self.assertTrue(any(each["topic"] == "Cmin on U0 for Zs" for each in page["differences"]))
        self.assertGreater(len(page["tables"]), 8)
        self.assertEqual(self.client.get("/api/rulebooks/nec").status_code, 422)

    def test_the_second_house_is_another_rulebook_and_three_phases(self) -> None:
        job = self.client.post("/api/jobs/file", content=BOATHOUSE).json()
        stands = {line["name"]: line["verdict"] for line in job["circuits"]}
        self.assertEqual(stands["Heat pump"], "fail")
        self.assertEqual(stands["Boat hoist"], "pass")
