"""Lighting control over the API: the bench, plans, repairs, the make-off sheet, records with photos."""

import json
from importlib.resources import files

from tests.api.case import Api, new_id
from tests.support.photos import photo

HOUSES = files("lumbek.services") / "demo_data"
PNG = photo()


class Switching(Api):
    def setUp(self) -> None:
        self.job = self.taken("signal_box")
        self.stair = self.circuit(self.job, 11)

    def taken(self, name: str) -> str:
        house = (HOUSES / f"{name}.json").read_bytes()
        answer = self.client.post("/api/jobs/file", params={"id": new_id()}, content=house)
        return str(answer.json()["id"])

    def circuit(self, job: str, number: int) -> str:
        lines = self.client.get(f"/api/jobs/{job}/switching").json()
        return str(next(line["id"] for line in lines if line["number"] == number))

    def bench(self, circuit: str | None = None) -> dict:
        answer = self.client.get(f"/api/circuits/{circuit or self.stair}/switching")
        self.assertEqual(answer.status_code, 200, answer.text)
        return dict(answer.json())

    def command(self, *commands: dict, circuit: str | None = None):
        where = circuit or self.stair
        version = self.client.get(f"/api/circuits/{where}").json()["version"]
        body = {"id": new_id(), "version": version, "commands": list(commands)}
        return self.client.post(f"/api/circuits/{where}/commands", json=body)

    def test_the_demo_stair_is_proved_and_its_circuits_are_listed(self) -> None:
        lines = self.client.get(f"/api/jobs/{self.job}/switching").json()
        # Lights, and the alarms, which are linked.
        self.assertEqual([line["number"] for line in lines], [3, 4, 9, 11])
        bench = self.bench()
        self.assertEqual((bench["proof"]["verdict"], bench["proof"]["states"]), ("pass", 16))
        self.assertEqual(
            {face["title"] for face in bench["faces"]} >= {"Stair foot", "Half landing", "Stair head"}, True
        )
        self.assertIn("intermediate", [gang["kind"] for face in bench["faces"] for gang in face["gangs"]])
        colours = {core["colour"] for face in bench["faces"] for each in face["terminals"] for core in each["cores"]}
        self.assertLessEqual({"brown", "red"}, colours)

    def test_the_borrowed_neutral_of_the_boathouse_is_found_and_put_right(self) -> None:
        job = self.taken("boathouse")
        loft = self.circuit(job, 11)
        proof = self.bench(loft)["proof"]
        self.assertEqual((proof["verdict"], proof["circuits"]), ("fail", [11, 9]))
        self.assertIn("borrowed-neutral", [hazard["id"] for hazard in proof["hazards"]])
        mended = self.client.get(f"/api/circuits/{loft}/switching/mending").json()["mended"]
        self.assertEqual(len(mended["moves"]), 3)
        kept = self.command({"op": "take", "design": mended["design"]}, circuit=loft)
        self.assertEqual(kept.status_code, 200, kept.text)
        self.assertEqual(self.bench(loft)["proof"]["circuits"], [11])
        self.assertNotIn("fail", [check["verdict"] for check in self.bench(loft)["proof"]["checks"]])

    def test_a_scheme_is_planned_wired_undone(self) -> None:
        scheme = self.client.get(f"/api/circuits/{self.stair}").json()["design"]["scheme"]
        before = self.client.get(f"/api/circuits/{self.stair}").json()["design"]
        walls = [{**route, "closed": bool(route["cables"])} for route in scheme["routes"]]
        plan = self.client.post(f"/api/circuits/{self.stair}/switching/plan", json={**scheme, "routes": walls}).json()
        self.assertIsNone(plan["best"])
        self.assertTrue(plan["missing"][0]["words"])
        self.assertIn("radio", [each["kind"] for each in plan["alternatives"]])
        eased = self.client.post(f"/api/circuits/{self.stair}/switching/plan", json=scheme).json()
        taken = self.command({"op": "take", "design": eased["next_best"]["design"]})
        self.assertEqual(taken.status_code, 200)
        self.assertNotEqual(taken.json()["design"]["points"], before["points"])
        self.assertEqual(self.bench()["proof"]["verdict"], "pass")
        undone = self.client.post(
            f"/api/circuits/{self.stair}/undo", json={"id": new_id(), "version": taken.json()["version"]}
        )
        self.assertEqual(undone.json()["design"]["points"], before["points"])

    def test_what_a_scheme_may_not_name_is_refused_in_words(self) -> None:
        scheme = {"feed": "P1", "controls": [{"id": "S1", "outputs": [{"point": "P99"}]}]}
        answer = self.client.post(f"/api/circuits/{self.stair}/switching/plan", json=scheme)
        self.assertEqual(
            (answer.status_code, answer.json()["message"]), (422, "There is no point P99 in this circuit any more.")
        )
        twice = self.command(
            {"op": "scheme", "scheme": {**scheme, "controls": [*scheme["controls"], *scheme["controls"]]}}
        )
        self.assertEqual(twice.status_code, 422)
        self.assertIn("used twice", json.dumps(twice.json()))

    def test_a_fault_makes_the_circuit_fail_and_the_schedule_a_draft(self) -> None:
        design = self.client.get(f"/api/circuits/{self.stair}").json()["design"]
        head = next(point for point in design["points"] if point["id"] == "P3")
        join = next(each for each in head["joins"] if "1.COM" in each["terminals"])
        end = join["ends"][0]
        cut = self.command({"op": "connect", "point": "P3", "leg": end["leg"], "core": end["core"]})
        check = next(each for each in cut.json()["result"]["checks"] if each["id"] == "switching")
        self.assertEqual(check["verdict"], "fail")
        schedule = self.client.get(f"/api/jobs/{self.job}/papers/schedule").json()
        self.assertTrue(any(reason.startswith("11") or "Stair" in reason for reason in schedule["missing"]))

    def test_the_make_off_sheet_in_three_forms(self) -> None:
        sheet = self.client.get(f"/api/circuits/{self.stair}/make-off").json()
        self.assertEqual(len(sheet["boxes"]), 6)
        self.assertIn("two versions", sheet["notices"][0])
        pdf = self.client.get(f"/api/circuits/{self.stair}/papers/make-off.pdf")
        self.assertTrue(pdf.content.startswith(b"%PDF"))
        svg = self.client.get(f"/api/circuits/{self.stair}/make-off.svg", params={"box": 2})
        self.assertIn("Half landing", svg.text)
        self.assertIn("sleeve", svg.text)
        bare = self.circuit(self.job, 3)
        answer = self.client.get(f"/api/circuits/{bare}/make-off.svg")
        self.assertEqual(answer.status_code, 422)

    def test_a_record_with_photos_and_back_from_it(self) -> None:
        before = self.client.get(f"/api/circuits/{self.stair}").json()["design"]
        write = {"id": new_id(), "note": "Before the landing was opened"}
        record = self.client.post(f"/api/circuits/{self.stair}/records", json=write).json()
        again = self.client.post(f"/api/circuits/{self.stair}/records", json=write).json()
        self.assertEqual(record["id"], again["id"])
        photo = new_id()
        attached, shows = f"/api/jobs/{self.job}/attachments", {"shows": "record", "of": record["id"].replace("-", "")}
        self.assertEqual(self.client.post(attached, params={"id": photo, **shows}, content=PNG).status_code, 201)
        # An id that something else was done under is not taken for what it made.
        used = [
            self.client.post(f"/api/circuits/{self.stair}/records", json={"id": photo}),
            self.client.post(attached, params={"id": record["id"], **shows}, content=PNG),
            self.client.post(f"/api/circuits/{self.circuit(self.job, 3)}/records", json=write),
        ]
        self.assertEqual({(each.status_code, "used already" in each.text) for each in used}, {(422, True)})
        point = next(each for each in before["points"] if each["id"] == "P3")
        end = next(each for each in point["joins"] if "1.COM" in each["terminals"])["ends"][0]
        self.command({"op": "connect", "point": "P3", "leg": end["leg"], "core": end["core"]})
        version = self.client.get(f"/api/circuits/{self.stair}").json()["version"]
        back = self.client.post(f"/api/records/{record['id']}/put-back", json={"id": new_id(), "version": version})
        self.assertEqual(back.json()["design"]["points"], before["points"])
        self.assertEqual(
            [each["note"] for each in self.client.get(f"/api/circuits/{self.stair}/records").json()], [write["note"]]
        )
