"""The work of a job: worked out from plan and circuits, ticked as a record, and nothing that a signature hangs on."""

import csv
import io

from lumbek.exchange.job_file import write_job
from tests.api.case import Api, new_id
from tests.core.test_hidden import job


class Working(Api):
    def setUp(self) -> None:
        self.job = self.take_in(write_job(job()).encode()).json()["id"]
        self.path = f"/api/jobs/{self.job}/work"

    def work(self) -> dict:
        answer = self.client.get(self.path)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()["work"]

    def steps(self) -> dict[str, dict]:
        return {step["key"]: step for step in self.work()["steps"]}

    def say(self, said: dict, write: str = ""):
        return self.client.post(
            f"/api/jobs/{self.job}/inspection", json={"id": write or new_id(), "made": {"said": said}}
        )

    def test_a_step_is_ticked_once_and_stands(self) -> None:
        before = self.work()
        write, said = new_id(), {"record": "step", "step": "box/socket-1", "status": "done"}
        for _ in range(2):
            self.assertEqual(self.say(said, write).status_code, 201)
        step = self.steps()["box/socket-1"]
        self.assertEqual((step["stands"]["status"], step["stands"]["by"]), ("done", "Robin Ash"))
        self.assertLess(float(self.work()["minutes_left"]), float(before["minutes_left"]))
        refused = self.say({"record": "step", "step": "box/socket-1", "status": "left"})
        self.assertEqual(refused.status_code, 422)
        self.assertIn("say what is left", refused.text)

    def test_readings_do_what_nobody_ticks(self) -> None:
        (key,) = [key for key in self.steps() if key.startswith("half-way/")]
        circuit = self.client.get(f"/api/jobs/{self.job}").json()["circuits"][0]["id"]
        self.assertEqual(key, f"half-way/{circuit.replace('-', '')}")
        self.assertIn(key, self.work()["holds"])
        self.enter(circuit, quantity="r1+r2", point="P1", value=0.2)
        self.enter(circuit, quantity="insulation-le", value=299)
        self.assertNotIn(key, self.work()["holds"])

    def test_what_was_signed_stands_though_more_is_ticked(self) -> None:
        self.assertEqual(self.say({"record": "signed", "role": "inspector"}).status_code, 201)

        def stands() -> bool:
            return self.client.get(f"/api/jobs/{self.job}/inspection").json()["signed"][0]["stands"]

        for said in (
            {"record": "step", "step": "fit/socket-1", "status": "done"},
            {"record": "worked", "day": "2026-03-09", "who": "Robin Ash", "minutes": 60},
            {"record": "used", "item": "box:35:2", "count": "2"},
        ):
            self.assertEqual(self.say(said).status_code, 201)
            self.assertTrue(stands(), said)
        self.say({"record": "particulars", "reason": "Sale"})
        self.assertFalse(stands())

    def test_ticks_go_with_the_file_and_find_their_circuits_again(self) -> None:
        (key,) = [key for key in self.steps() if key.startswith("pull/") and key.endswith("/L1")]
        self.say({"record": "step", "step": key, "status": "done"})
        file = self.client.get(f"/api/jobs/{self.job}/file")
        self.assertIn('"pull/C1/L1"', file.text)
        self.job = self.take_in(file.content).json()["id"]
        self.path = f"/api/jobs/{self.job}/work"
        (again,) = [step for key, step in self.steps().items() if key.startswith("pull/") and key.endswith("/L1")]
        self.assertEqual(again["stands"]["status"], "done")

    def test_the_sheets_as_tables(self) -> None:
        for kind, word in (("first-fix", "Cut "), ("second-fix", "fitted"), ("hidden", "1000, 450 to 2000, 450")):
            answer = self.client.get(f"/api/jobs/{self.job}/papers/{kind}.csv")
            self.assertEqual(answer.status_code, 200, kind)
            rows = list(csv.reader(io.StringIO(answer.text)))
            self.assertGreater(len(rows), 1)
            self.assertIn(word, answer.text)


if __name__ == "__main__":
    import unittest

    unittest.main()
