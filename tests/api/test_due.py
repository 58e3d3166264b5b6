"""What falls due over all jobs, its calendar, and the next inspection begun from the last."""

from typing import Any

from icalendar import Calendar

from tests.api.case import Api, new_id
from tests.support.client import RIVAL, make_client, sign_in


class Due(Api):
    def setUp(self) -> None:
        self.job = self.start(name="Old mill; by the weir, 2", extent={"state": "as-found", "year": 1975})

    def say(self, **said: Any) -> None:
        body = {"id": new_id(), "made": {"said": {"record": "particulars", **said}}}
        self.client.post(f"/api/jobs/{self.job}/inspection", json=body).raise_for_status()

    def mine(self) -> list[dict[str, Any]]:
        return [each for each in self.client.get("/api/due").json() if each["job_id"] == self.job]

    def test_by_date_and_only_what_somebody_has_said(self) -> None:
        self.assertEqual(self.mine(), [])
        self.say(next_day="2020-01-01", next_why="once")
        self.say(next_day="2031-05-04", next_why="a home of one's own")
        self.say(summary="Sound")
        (line,) = self.mine()
        self.assertEqual((line["day"], line["why"], line["overdue"]), ("2031-05-04", "a home of one's own", False))
        self.say(next_day="2020-01-01")
        self.assertTrue(self.mine()[0]["overdue"])
        days = [each["day"] for each in self.client.get("/api/due").json()]
        self.assertEqual(days, sorted(days))
        self.assertEqual(sign_in(make_client(self.url), *RIVAL).get("/api/due").json(), [])
        self.client.delete(f"/api/jobs/{self.job}").raise_for_status()
        self.assertEqual(self.mine(), [])

    def test_the_calendar_says_when_and_escapes_what_is_said(self) -> None:
        self.assertEqual(self.client.get(f"/api/jobs/{self.job}/due.ics").status_code, 422)
        self.say(next_day="2031-05-04", next_why="END:VEVENT\nBEGIN:VALARM; so, what\\")
        answer = self.client.get(f"/api/jobs/{self.job}/due.ics")
        self.assertIn("text/calendar", answer.headers["content-type"])
        events = list(Calendar.from_ical(answer.content).walk("VEVENT"))
        self.assertEqual(len(events), 3)
        self.assertEqual(events[0]["DTSTART"].dt.isoformat(), "2031-05-04")
        self.assertEqual(str(events[0]["SUMMARY"]), "Inspection due: Old mill; by the weir, 2")
        self.assertEqual(len(events[0].walk("VALARM")), 1)
        self.assertEqual([each.get("RRULE", {}).get("INTERVAL") for each in events], [None, [6], [1]])
        self.assertTrue(all(len(line) <= 75 for line in answer.content.split(b"\r\n")))

    def test_the_next_begins_from_the_last_and_nothing_read_then_counts_as_read_now(self) -> None:
        view = self.circuit(self.job, device={"standard": "bs-en-60898", "rcd": None})
        self.do(view, op="add", after="board", length_m=4).raise_for_status()
        self.enter(view["id"], quantity="insulation-le", value=300).raise_for_status()
        self.say(occupier="Lock", reason="Sale")
        once = {"id": new_id()}
        for _ in range(2):
            answer = self.client.post(f"/api/jobs/{self.job}/next-inspection", json=once)
            self.assertEqual(answer.status_code, 201, answer.text)
        job = answer.json()
        self.assertEqual((job["head"]["extent"]["state"], job["circuits"][0]["taken"]), ("as-found", 0))
        whole = self.client.get(f"/api/jobs/{job['id']}/inspection").json()["whole"]
        (last,) = whole["last"]
        self.assertEqual(
            [(each["circuit"], each["quantity"], each["value"]) for each in last["readings"]],
            [(1, "insulation-le", 300)],
        )
        self.assertEqual((whole["particulars"]["occupier"], whole["particulars"]["reason"]), ("Lock", None))
        self.assertEqual(whole["findings"], [])
        # Read again, and far lower: it is named.
        circuit = job["circuits"][0]["id"]
        self.enter(circuit, quantity="insulation-le", value=90).raise_for_status()
        (line,) = self.client.get(f"/api/jobs/{job['id']}/inspection").json()["whole"]["compared"]
        self.assertTrue(line["moved"])
        named = [each["name"] for each in self.client.get("/api/jobs").json() if "next inspection" in each["name"]]
        self.assertEqual(len(named), 1)
