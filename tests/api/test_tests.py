"""Tests over the API: the order of dead and live, several at once, visits, the installation, files, faults."""

import csv
import io
import json
import subprocess
import tempfile
from pathlib import Path
from uuid import UUID

from lumbek.services import demo
from tests.api.case import Api, new_id
from tests.support.client import make_client, sign_in

demo_data = Path(demo.__file__).parent / "demo_data"
RUN = {
    "points": [{"id": "P1", "name": "Lamp room"}, {"id": "P2", "name": "Coal hole"}],
    "legs": [
        {"id": "L1", "a": "board", "b": "P1", "segments": [{"length_m": 5}]},
        {"id": "L2", "a": "P1", "b": "P2", "segments": [{"length_m": 4}]},
    ],
}
DEAD = [
    {"quantity": "r1+r2", "point": "P1", "value": 0.1},
    {"quantity": "r1+r2", "point": "P2", "value": 0.18},
    {"quantity": "insulation-ll", "value": 200},
    {"quantity": "insulation-le", "value": 200},
    {"quantity": "polarity", "correct": True},
]


class Tests(Api):
    def setUp(self) -> None:
        self.job = self.start()
        self.view = self.circuit(self.job, **RUN)
        self.path = f"/api/circuits/{self.view['id']}"

    def several(self, *readings: dict, write: str | None = None):
        body = {"id": write or new_id(), "readings": list(readings)}
        return self.client.post(f"{self.path}/readings/several", json=body)

    def whole(self, **reading: object):
        return self.client.post(f"/api/jobs/{self.job}/readings", json={"id": new_id(), "reading": reading})

    def test_live_readings_wait_for_dead_ones_or_a_reason(self) -> None:
        live = {"quantity": "zs", "point": "P1", "value": 0.4}
        refused = self.enter(self.view["id"], **live)
        self.assertEqual(refused.status_code, 422)
        self.assertIn("Dead tests first: R1+R2", refused.json()["message"])
        self.assertEqual(refused.json()["problems"][0]["field"], "quantity")
        self.assertEqual(self.several(*DEAD).status_code, 201)
        self.assertEqual(self.enter(self.view["id"], **live).status_code, 201)
        other = self.circuit(self.job, number=2, **RUN)["id"]
        self.assertEqual(self.enter(other, **live).status_code, 422)
        self.assertEqual(self.enter(other, quantity="live-reason", correct=True).status_code, 422)
        self.assertEqual(self.enter(other, quantity="live-reason", correct=True, note="freezers").status_code, 201)
        self.assertEqual(self.enter(other, **live).status_code, 201)
        # What is put off needs no dead tests.
        third = self.circuit(self.job, number=3, **RUN)["id"]
        put_off = self.enter(third, quantity="zs", point="P1", untaken="deferred", note="no supply yet")
        self.assertEqual(put_off.status_code, 201)

    def test_several_are_kept_all_or_none_and_once(self) -> None:
        wrong = self.several(DEAD[0], {"quantity": "r1+r2", "point": "P9", "value": 0.1})
        self.assertEqual(wrong.status_code, 422)
        self.assertEqual(self.client.get(f"{self.path}/tests").json()["sheet"]["taken"], 0)
        write = new_id()
        for _ in range(2):
            self.assertEqual(self.several(*DEAD, write=write).json()["sheet"]["taken"], 5)
        whole = self.client.get(f"/api/jobs/{self.job}/file").json()
        self.assertEqual(len(whole["circuits"][0]["readings"]), 5)

    def test_what_a_reading_may_not_say(self) -> None:
        for reading in (
            {"quantity": "isolation", "correct": True, "isolation": {"pairs": ["L-N"], "proved_before": True}},
            {"quantity": "r1", "untaken": "limitation"},
            {"quantity": "r1", "value": 1, "untaken": "deferred", "note": "x"},
            {"quantity": "trace", "value": 1},
            {"quantity": "r1", "value": 1, "test": "link/LN/P1/-"},
            {"quantity": "r1", "value": 1, "point": "P1"},
        ):
            self.assertEqual(self.enter(self.view["id"], **reading).status_code, 422, reading)
        proved = {"pairs": ["L-N", "L-E", "N-E"], "proved_before": True, "proved_after": True, "lock": "7"}
        answer = self.enter(self.view["id"], quantity="isolation", correct=True, isolation=proved)
        self.assertTrue(answer.json()["sheet"]["isolated"])

    def test_three_phases_are_not_proved_dead_by_the_pairs_of_one(self) -> None:
        proved = {"pairs": ["L-N", "L-E", "N-E"], "proved_before": True, "proved_after": True}
        document = self.client.get(f"/api/jobs/{self.job}/file").json()
        document["supply"]["phases"] = 3
        self.job = self.take_in(json.dumps(document).encode()).json()["id"]
        refused = self.whole(quantity="isolation", correct=True, isolation=proved)
        self.assertEqual((refused.status_code, refused.json()["problems"][0]["field"]), (422, "isolation"))
        self.assertIn("L1-L2, L2-L3, L1-L3, L1-N", refused.json()["message"])
        every = self.client.get(f"/api/jobs/{self.job}/tests").json()["sheet"]["pairs"]
        self.assertEqual(len(every), 10)
        kept = self.whole(quantity="isolation", correct=True, isolation={**proved, "pairs": every})
        self.assertTrue(kept.json()["sheet"]["isolated"])

    def test_earlier_readings_stay_on_the_sheet_and_in_the_file(self) -> None:
        self.enter(self.view["id"], **DEAD[0])
        sheet = self.enter(self.view["id"], **{**DEAD[0], "value": 0.12}).json()["sheet"]
        items = [each for stage in sheet["stages"] for each in stage["items"] if each["point"] == "P1"]
        again = next(each for each in items if each["quantity"] == "r1+r2")
        self.assertEqual([each["value"] for each in again["earlier"]], [0.1])
        back = self.take_in(self.client.get(f"/api/jobs/{self.job}/file").content).json()
        sheet = self.client.get(f"/api/circuits/{back['circuits'][0]['id']}/tests").json()["sheet"]
        self.assertEqual(sheet["taken"], 1)

    def test_an_electrode_read_on_a_sheet_is_heard_by_its_circuit_and_clears_no_other(self) -> None:
        job, own = self.start(), {"electrode_ohm": 60, "electrode_origin": "declared"}
        rcbo = {"standard": "bs-en-61009", "curve": "B", "rating_a": 16, "rcd": {"rated_ma": 30, "type": "A"}}
        first, second = (self.circuit(job, **RUN, number=number, own_earth=own, device=rcbo)["id"] for number in (1, 2))

        def zs(circuit: str) -> dict:
            checks = self.client.get(f"/api/circuits/{circuit}").json()["result"]["checks"]
            return next(each for each in checks if each["id"] == "zs")

        self.assertEqual([zs(each)["verdict"] for each in (first, second)], ["cannot-tell", "cannot-tell"])
        answer = self.enter(first, quantity="own-electrode", value=64)
        self.assertEqual(answer.status_code, 201, answer.text)
        self.assertEqual([zs(each)["verdict"] for each in (first, second)], ["pass", "cannot-tell"])
        self.assertGreater(zs(first)["value"], 64)
        shown = [self.client.get(f"/api/circuits/{each}").json() for each in (first, second)]
        self.assertEqual([each["electrode_read_ohm"] for each in shown], [64, None])
        # The greater of the two stands in the design: the page says that it was read.
        self.assertEqual([each["design"]["own_earth"]["electrode_ohm"] for each in shown], [64, 60])
        self.assertIsNone(self.do(shown[0], {"op": "earth", "own_earth": None}).json()["electrode_read_ohm"])

    def test_the_installation_its_visits_and_the_way_there_and_back(self) -> None:
        visit = new_id()
        made = {"day": "2026-11-20", "ambient_c": 14, "leads_nulled": True}
        made["instruments"] = [{"name": "Tester", "serial": "0042", "calibrated_until": "2026-11-01"}]
        for _ in range(2):
            body = {"id": visit, "visit": made}
            view = self.client.post(f"/api/jobs/{self.job}/visits", json=body).json()
        self.assertEqual((len(view["visits"]), view["expired"]), (1, ["Tester"]))
        self.assertEqual(self.whole(quantity="ze", value=0.2).status_code, 422)
        self.assertEqual(self.whole(quantity="r1", value=0.2).status_code, 422)
        self.assertEqual(self.whole(quantity="bonding", value=0.02).status_code, 422)
        key = view["visits"][0]["id"]
        self.assertEqual(self.whole(quantity="earth-continuity", value=0.02, visit=key).status_code, 201)
        self.assertEqual(self.whole(quantity="ze", value=0.2, visit=key).status_code, 201)
        self.assertEqual(self.whole(quantity="isolation", correct=True).status_code, 201)
        self.assertTrue(self.client.get(f"{self.path}/tests").json()["sheet"]["isolated"])
        back = self.take_in(self.client.get(f"/api/jobs/{self.job}/file").content).json()
        again = self.client.get(f"/api/jobs/{back['id']}/tests").json()
        self.assertEqual([each["ambient_c"] for each in again["visits"]], [14])
        taken = [each["reading"] for stage in again["sheet"]["stages"] for each in stage["items"] if each["reading"]]
        self.assertEqual(
            {each["visit"] for each in taken if each["quantity"] != "isolation"}, {again["visits"][0]["id"]}
        )
        self.assertNotEqual(again["visits"][0]["id"], key)
        # An id that is another visit's is refused: a visit is never said to be kept when it is not.
        body = {"id": again["visits"][0]["id"], "visit": made}
        refused = self.client.post(f"/api/jobs/{self.job}/visits", json=body)
        self.assertEqual((refused.status_code, refused.json()["code"]), (422, "bad-input"))

    def test_a_file_of_readings_is_shown_before_it_is_kept(self) -> None:
        lines = ("Test;Location;Result;Unit", "R1+R2;Lamp room;100m;Ω", "R1+R2;nowhere;0,2;Ω", "IR L-E;;>999;MΩ")
        text = "\n".join((*lines, "Zs;P2;about;", "Wat;;1;"))
        found = self.client.post(f"{self.path}/readings/file", json={"text": text}).json()
        self.assertEqual(found["columns"], {"quantity": "Test", "point": "Location", "value": "Result", "unit": "Unit"})
        lines = [(each["reading"] or {}).get("value") for each in found["lines"]]
        self.assertEqual(lines, [0.1, None, 999, None, None])
        self.assertIn("no point of this circuit", found["lines"][1]["why"])
        self.assertIn("no figure", found["lines"][3]["why"])
        self.assertIn("no test that is known", found["lines"][4]["why"])
        kept = self.several(*(each["reading"] for each in found["lines"] if each["reading"])).json()["sheet"]
        self.assertEqual(kept["taken"], 2)
        empty = self.client.post(f"{self.path}/readings/file", json={"text": "a,b\n1,2\n"}).json()
        self.assertIn("no column", empty["lines"][0]["why"])

    def test_lengths_are_taken_into_the_design_on_request(self) -> None:
        self.several(DEAD[0], {**DEAD[1], "value": 0.4})
        found = self.client.get(f"{self.path}/lengths").json()
        self.assertEqual([each["leg"] for each in found["legs"]], ["L1", "L2"])
        view = self.client.get(self.path).json()
        self.assertEqual(self.do(view, *found["commands"]).status_code, 200)
        legs = self.client.get(self.path).json()["design"]["legs"]
        self.assertAlmostEqual(legs[1]["segments"][0]["length_m"], 0.3 / 0.01951, delta=0.2)

    def test_a_fault_is_followed_over_the_api(self) -> None:
        nothing = self.client.get(f"{self.path}/diagnosis").json()
        self.assertIn("Nothing has been read", nothing["sentence"])
        beyond = {"value": 1999, "beyond": True}
        self.several(
            *({"quantity": "r1+r2", "point": p, "value": v} for p, v in (("P1", 0.1), ("P2", 0.18))),
            {"quantity": "r1+rn", "point": "P1", "value": 0.08},
            {"quantity": "r1+rn", "point": "P2", **beyond},
            *(
                {"quantity": q, "value": 999, "beyond": True}
                for q in ("insulation-ll", "insulation-l-e", "insulation-n-e")
            ),
        )
        found = self.client.get(f"{self.path}/diagnosis").json()
        self.assertEqual(found["state"], "looking")
        ids = {each["id"] for each in found["suspects"]}
        self.assertIn("open/N/L2", ids)
        self.enter(self.view["id"], quantity="trace", test="leg/N/L2", **beyond)
        while found["next"] is not None:
            reading = {"value": 0.08} if "far" in found["next"]["id"] else beyond
            self.enter(self.view["id"], quantity="trace", test=found["next"]["id"], **reading)
            found = self.client.get(f"{self.path}/diagnosis").json()
        self.assertEqual(found["state"], "found")
        self.assertTrue(found["remedy"]["do"][0].startswith("Isolated"))

    def test_what_a_tester_is_told(self) -> None:
        told = self.client.get(f"{self.path}/hook-up").json()
        self.assertEqual([each["length_m"] for each in told["circuit"]["legs"]], [5, 4])
        way = told["ways"]["r1+r2:P2"]
        self.assertEqual(
            (way["probes"], way["links"]), ([["board", "L"], ["board", "E"]], [[["P2", "L"], ["P2", "E"]]])
        )
        self.assertEqual(told["ways"]["zs:P1"]["function"], "loop")
        self.assertNotIn("isolation:", told["ways"])

    def test_trips_and_codes(self) -> None:
        path = f"/api/jobs/{self.job}/rcd-trips"
        first = self.client.post(path, json={}).json()
        self.assertTrue(first["next"]["id"])
        answers = [{"question": first["next"]["id"], "tripped": True}]
        self.assertNotEqual(self.client.post(path, json={"answers": answers}).json()["suspects"], first["suspects"])
        self.assertEqual(self.client.post(path, json={"circuits": [99]}).status_code, 422)
        # Names of three rounds at most: two, and one that is nobody's.
        seen = [{"name": "grey", "rounds": [True, False]}, {"name": "black", "rounds": [False, True]}]
        codes = self.client.post("/api/codes", json={"names": ["loft", "stair"], "seen": seen}).json()
        self.assertEqual([each["belongs_to"] for each in codes["found"]], ["loft", "stair"])

    def test_what_was_found_stays_with_the_job_and_its_file(self) -> None:
        lines = [
            {"name": "hall @ 2", "belongs_to": "1 Sockets"},
            {"name": "shed", "why": "never dead: fed from elsewhere"},
        ]
        write = new_id()
        made = {"kind": "traced", "title": "Trace a board", "lines": lines}
        path = f"/api/jobs/{self.job}/found"
        for _ in range(2):
            view = self.client.post(path, json={"id": write, "found": made}).json()
        (kept,) = view["found"]
        self.assertEqual((kept["title"], kept["by"], len(kept["lines"])), ("Trace a board", "Robin Ash", 2))
        self.assertEqual(self.client.post(path, json={"id": new_id(), "found": {**made, "title": ""}}).status_code, 422)
        back = self.take_in(self.client.get(f"/api/jobs/{self.job}/file").content).json()
        (again,) = self.client.get(f"/api/jobs/{back['id']}/tests").json()["found"]
        self.assertEqual({**again, "id": ""}, {**kept, "id": ""})
        # An id that is another record's is refused.
        taken = UUID(again["id"])
        refused = self.client.post(path, json={"id": str(taken), "found": made})
        self.assertEqual((refused.status_code, refused.json()["code"]), (422, "bad-input"))

    def test_the_rcds_of_the_board_say_what_hangs_on_them(self) -> None:
        demo = self.take_in((demo_data / "boathouse.json").read_bytes()).json()
        path = f"/api/jobs/{demo['id']}/rcd-trips"
        groups = self.client.post(path, json={}).json()["groups"]
        self.assertTrue(groups)
        for group in groups:
            self.assertGreater(len(group["circuits"]), 0)
            one = self.client.post(path, json={"circuits": group["circuits"]}).json()
            numbers = {int(each["id"].split("/")[1]) for each in one["suspects"] if "/" in each["id"]}
            self.assertLessEqual(numbers, set(group["circuits"]))

    def test_every_reading_is_in_the_results(self) -> None:
        self.do_job(self.job, op="supply", earthing="TN-C-S", ze_ohm=0.2)
        self.client.post(
            f"/api/jobs/{self.job}/visits",
            json={"id": (visit := new_id()), "visit": {"instruments": [{"name": "Tester 9"}]}},
        )
        key = visit.replace("-", "")
        self.several(*({**each, "visit": key} for each in DEAD))
        self.enter(self.view["id"], **{**DEAD[0], "value": 0.3, "visit": key})
        self.enter(self.view["id"], quantity="zs", point="P2", untaken="limitation", note="=behind the range")
        rows = list(
            csv.DictReader(
                io.StringIO(self.client.get(f"/api/jobs/{self.job}/papers/results.csv").text.lstrip("\ufeff"))
            )
        )
        self.assertEqual(len(rows), 7)
        struck = [each for each in rows if each["Struck"]]
        self.assertEqual([each["Reading"] for each in struck], ["0.1 Ω"])
        limitation = next(each for each in rows if each["Reading"] == "limitation")
        self.assertEqual((limitation["Note"][0], limitation["Limit"][:7]), ("'", "at most"))
        self.assertEqual({each["Instrument"] for each in rows if each["Test"] == "R1+R2"}, {"Tester 9"})
        with tempfile.NamedTemporaryFile(suffix=".pdf") as file:
            file.write(self.client.get(f"/api/jobs/{self.job}/papers/results.pdf").content)
            file.flush()
            text = subprocess.run(
                ["pdftotext", "-layout", file.name, "-"], capture_output=True, text=True, check=True
            ).stdout
        for words in (
            "Test results",
            "Tester 9",
            "Coal hole",
            "limitation",
            "readings are not taken yet",
        ):
            self.assertIn(words, text)

    def test_a_colleague_of_the_firm_goes_on_with_it(self) -> None:
        mate = sign_in(make_client(self.url), "mate@signalbox.example")
        body = {"id": new_id(), "reading": DEAD[0]}
        self.assertEqual(mate.post(f"{self.path}/readings", json=body).status_code, 201)
        sheet = self.client.get(f"{self.path}/tests").json()["sheet"]
        by = [each["reading"]["by"] for stage in sheet["stages"] for each in stage["items"] if each["reading"]]
        self.assertEqual(by, ["Kit Marlow"])
