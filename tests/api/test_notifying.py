"""Notifying the office of work: a process of its own over HTTP, there, refusing, slow to come, and not there."""

import json
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any
from unittest.mock import patch
from uuid import UUID

from lumbek.ops.cluster import free_port, wait_for
from lumbek.services.clock import now
from lumbek.services.office import Office
from lumbek.settings import Settings
from tests.api.case import Api, new_id
from tests.support.client import RIVAL, make_client, sign_in
from tests.support.stack import ROOT


class Notifying(Api):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.port = free_port()
        self.client = sign_in(make_client(self.url, office_url=f"http://127.0.0.1:{self.port}/", office_seconds=0.2))
        self.job = self.start(address="1 Weir Lane")
        self.where = f"/api/jobs/{self.job}/notifications"

    @contextmanager
    def office(self) -> Iterator[None]:
        command = [sys.executable, "-m", "lumbek.standins.office", "--port", str(self.port), "--folder", self.folder]
        process = subprocess.Popen(command, cwd=ROOT)
        try:
            self.assertTrue(wait_for(self.port))
            yield
        finally:
            process.terminate()
            process.wait()

    def say(self, **said: Any) -> None:
        body = {"id": new_id(), "made": {"said": said}}
        self.client.post(f"/api/jobs/{self.job}/inspection", json=body).raise_for_status()

    def ready(self, finished: str = "") -> None:
        self.say(record="notify", answers=[{"id": "new-board", "answer": "yes"}])
        self.say(record="particulars", work="A new board", finished=finished or f"{now():%Y-%m-%d}")

    def hand_in(self, write_id: str = "") -> Any:
        # What certifies it is issued elsewhere; here it is enough that there is one.
        with patch("lumbek.services.notifying.issued_of", return_value=[_Certificate()]):
            return self.client.post(self.where, json={"id": write_id or new_id()})

    def kept(self) -> list[dict[str, Any]]:
        return [json.loads(each.read_text()) for each in self.folder.glob("*.json")]

    def test_what_is_missing_is_said_and_nothing_goes_out(self) -> None:
        missing = self.client.get(self.where).json()["missing"]
        self.assertEqual(len(missing), 4, missing)
        self.assertIn("Not every question is answered", missing[0])
        refused = self.client.post(self.where, json={"id": new_id()})
        self.assertEqual(refused.status_code, 422)
        self.assertIn("No certificate of the work is issued yet", refused.json()["message"])
        self.assertEqual(self.client.get(self.where).json()["lines"], [])

    def test_handed_in_once_however_often_it_is_sent(self) -> None:
        self.ready()
        once = new_id()
        with self.office():
            lines = [self.hand_in(once).json()["lines"] for _ in range(3)]
            self.assertTrue(all(each == lines[0] for each in lines))
            ((line,),) = [lines[0]]
            self.assertEqual(line["state"], "received")
            (there,) = self.kept()
            self.assertEqual(there["receipt"], line["receipt"])
            said = there["said"]
            self.assertEqual((said["work"], said["papers"], said["address"]), ("A new board", [7], "1 Weir Lane"))
            again = self.hand_in()
            self.assertEqual((again.status_code, len(self.kept())), (422, 1))
            self.assertIn("handed in already", again.json()["message"])
            # The same id with the same words is answered with the same receipt; with others it is refused.
            office = Office(Settings(office_url=f"http://127.0.0.1:{self.port}"))
            same, other = office.hand_in(UUID(once), said), office.hand_in(UUID(once), said | {"work": "Another"})
            assert same is not None and other is not None
            self.assertEqual((same.receipt, other.outcome), (line["receipt"], "refused"))
        audited = self.client.get("/api/audit", params={"job": self.job}).text
        self.assertIn(f"received {line['receipt']}", audited)

    def test_it_waits_while_nobody_answers_and_goes_when_somebody_does(self) -> None:
        self.ready()
        (line,) = self.hand_in().json()["lines"]
        self.assertEqual((line["state"], line["receipt"]), ("waits", ""))
        self.assertEqual(self.hand_in().status_code, 422)
        services = self.client.app.state.services  # type: ignore[attr-defined]
        self.assertEqual(services.notifying.send_waiting(), 0)
        with self.office():
            self.assertGreaterEqual(services.notifying.send_waiting(), 1)
            self.assertEqual(services.notifying.send_waiting(), 0)
        (line,) = self.client.get(self.where).json()["lines"]
        self.assertEqual(line["state"], "received")

    def test_a_refusal_is_in_words_and_what_is_put_right_goes_in_anew(self) -> None:
        self.ready("2020-02-01")
        with self.office():
            (line,) = self.hand_in().json()["lines"]
            self.assertEqual(line["state"], "refused")
            self.assertRegex(line["said"], r"finished: that was \d+ days ago, and 30 are allowed")
            self.ready()
            states = [each["state"] for each in self.hand_in().json()["lines"]]
        self.assertEqual((states, len(self.kept())), (["refused", "received"], 1))

    def test_only_a_supervisor_of_the_firm_hands_in_and_without_an_office_it_is_told(self) -> None:
        self.assertEqual(sign_in(make_client(self.url), *RIVAL).get(self.where).status_code, 404)
        view = sign_in(make_client(self.url)).get(self.where).json()
        self.assertFalse(view["office"])


class _Certificate:
    id, kind, firm_number, corrects = UUID(int=7), "certificate", 7, None
