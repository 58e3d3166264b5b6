"""Links that go by mail, to the simulated mail server over its real protocol; and when there is none."""

import email
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from lumbek.ops.cluster import free_port, wait_for
from lumbek.services import demo
from tests.api.case import Api
from tests.support.client import SECRET, make_client, sign_in
from tests.support.stack import ROOT


class Mail(Api):
    def test_an_invitation_goes_by_mail_and_lets_in(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        port = free_port()
        command = [sys.executable, "-m", "lumbek.standins.mailbox", "--port", str(port), "--folder", folder.name]
        box = subprocess.Popen(command, cwd=ROOT)
        self.addCleanup(box.wait)
        self.addCleanup(box.terminate)
        self.assertTrue(wait_for(port))
        known = {"smtp_url": f"smtp://127.0.0.1:{port}", "public_address": "http://testserver"}
        client = sign_in(make_client(self.url, **known))
        body = {"email": "sam@signalbox.example", "name": "Sam", "roles": ["tester"]}
        handed = client.post("/api/people/invitations", json=body).json()
        self.assertTrue(handed["mailed"])
        end = time.monotonic() + 60
        while not (found := list(Path(folder.name).glob("*.eml"))) and time.monotonic() < end:
            time.sleep(0.05)
        message = email.message_from_bytes(found[0].read_bytes())
        self.assertEqual(message["To"], "sam@signalbox.example")
        self.assertIn(demo.FIRM, message["Subject"])
        line = next(each for each in message.get_payload().splitlines() if "/link/" in each)
        self.assertEqual(line, f"http://testserver{handed['path']}")
        use = {"token": line.rsplit("/", 1)[1], "password": SECRET, "name": "Sam"}
        self.assertEqual(make_client(self.url).post("/api/links/use", json=use).status_code, 200)

    def test_without_a_mail_server_the_link_is_handed_over(self) -> None:
        for known in ({}, {"smtp_url": f"smtp://127.0.0.1:{free_port()}", "public_address": "http://testserver"}):
            client = sign_in(make_client(self.url, **known))
            body = {"email": f"pat{len(known)}@signalbox.example", "name": "Pat", "roles": []}
            handed = client.post("/api/people/invitations", json=body)
            self.assertEqual((handed.status_code, handed.json()["mailed"]), (201, False))
