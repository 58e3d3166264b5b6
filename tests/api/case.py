"""What tests of the API share: a client on the demo's database, and the hands that use it."""

import unittest
from uuid import uuid4

from tests.support.client import demo_database, make_client, sign_in


class Api(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = demo_database()
        cls.client = sign_in(make_client(cls.url))

    def start(self, **head: object) -> str:
        answer = self.client.post("/api/jobs", json={"id": new_id(), "head": {"name": "Test", **head}})
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()["id"]

    def take_in(self, content: bytes):
        return self.client.post("/api/jobs/file", params={"id": new_id()}, content=content)

    def started(self, job: str, **begun_from: object):
        """Start a circuit of a kind, by a design, as a copy or from the library."""
        return self.client.post(f"/api/jobs/{job}/circuits", json={"id": new_id(), **begun_from})

    def circuit(self, job: str, **design: object) -> dict:
        answer = self.started(job, design={"name": "Ring", **design})
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()

    def do(self, view: dict, *commands: dict, client=None, **command: object):
        """Carry out commands on a circuit as this person saw it; one command by its fields."""
        body = {"id": new_id(), "version": view["version"], "commands": [*commands, *([command] if command else [])]}
        return (client or self.client).post(f"/api/circuits/{view['id']}/commands", json=body)

    def do_job(self, job: str, *commands: dict, version: int | None = None, **command: object):
        """Carry out commands on a job, on the version that stands unless another is said."""
        if version is None:
            version = self.client.get(f"/api/jobs/{job}").json()["version"]
        body = {"id": new_id(), "version": version, "commands": [*commands, *([command] if command else [])]}
        return self.client.post(f"/api/jobs/{job}/commands", json=body)

    def enter(self, circuit: str, **reading: object):
        return self.client.post(f"/api/circuits/{circuit}/readings", json={"id": new_id(), "reading": reading})


def new_id() -> str:
    return str(uuid4())
