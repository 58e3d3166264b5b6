"""A firm that has grown to 50 000 jobs: whatever a page asks goes by an index."""

import re
import unittest

from sqlalchemy import event

from lumbek.services import demo
from tests.api.case import new_id
from tests.support.client import make_client, sign_in
from tests.support.filled import JOBS, filled_database
from tests.support.stack import run_sql

# Tables that grow with a firm; all others are small, or read by whom they belong to.
_GROW = (
    "job|job_revision|places|places_revision|circuit|circuit_revision|reading|audit|audit_link|done_write|"
    "sign_in_failure|attachment|visit|found_record|wiring_record"
)
_READ_WHOLE = re.compile(rf"Seq Scan on ({_GROW})\b")


class ByIndex(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = filled_database(demo.FIRM, demo.EMAIL)
        cls.client = sign_in(make_client(cls.url))
        cls.engine = cls.client.app.state.services.database.engine

    def asked(self, *requests: tuple) -> dict[str, str]:
        """Every question that the database was asked on the way of these, with how it was answered."""
        seen: dict[str, object] = {}

        def note(_connection, _cursor, statement, parameters, _context, _many) -> None:
            seen.setdefault(statement, parameters)

        event.listen(self.engine, "before_cursor_execute", note)
        try:
            for method, path, *body in requests:
                answer = self.client.request(method, path, **({"json": body[0]} if body else {}))
                self.assertLess(answer.status_code, 300, f"{path}: {answer.text[:300]}")
        finally:
            event.remove(self.engine, "before_cursor_execute", note)
        found = {}
        with self.engine.connect() as connection:
            # As few rows as a test has are found quicker whole: it is the way that is asked for.
            for statement, parameters in seen.items():
                if statement.lstrip().upper().startswith(("SELECT", "UPDATE", "DELETE", "WITH")):
                    rows = connection.exec_driver_sql(f"EXPLAIN {statement}", parameters)
                    found[statement] = "\n".join(row[0] for row in rows)
        return found

    def by_index(self, *requests: tuple) -> None:
        plans = self.asked(*requests)
        self.assertGreater(len(plans), 1)
        for statement, plan in plans.items():
            self.assertNotRegex(plan, _READ_WHOLE, f"{statement}\n{plan}")

    def test_it_is_as_large_as_it_says(self) -> None:
        self.assertGreaterEqual(run_sql(self.url, "select count(*) from job")[0][0], JOBS)

    def test_the_list_and_a_search_in_it(self) -> None:
        self.by_index(("GET", "/api/jobs"), ("GET", "/api/jobs?search=Job 4711"), ("GET", "/api/jobs?search=nowhere"))
        self.assertEqual(len(self.client.get("/api/jobs").json()), 200)
        self.assertEqual(self.client.get("/api/jobs?search=Job 49999").json()[0]["circuits"], 3)

    def test_a_job_and_everything_in_it(self) -> None:
        job = next(each for each in self.client.get("/api/jobs?search=signal").json() if "signal" in each["name"])["id"]
        circuit = self.client.get(f"/api/jobs/{job}").json()["circuits"][0]["id"]
        paths = [f"/api/jobs/{job}{each}" for each in ("", "/boards", "/places", "/tests", "/attachments", "/issued")]
        paths += [f"/api/circuits/{circuit}{each}" for each in ("", "/tests", "/switching", "/records")]
        self.by_index(*(("GET", path) for path in paths if self.client.get(path).status_code == 200))

    def test_writing(self) -> None:
        job = next(each for each in self.client.get("/api/jobs?search=signal").json() if "signal" in each["name"])["id"]
        circuit = self.client.get(f"/api/jobs/{job}").json()["circuits"][0]["id"]
        view = self.client.get(f"/api/circuits/{circuit}").json()
        change = {"id": new_id(), "version": view["version"], "commands": [{"op": "circuit", "name": "Grown"}]}
        reading = {"id": new_id(), "reading": {"quantity": "r1", "value": 0.3}}
        self.by_index(
            ("POST", f"/api/circuits/{circuit}/commands", change),
            ("POST", f"/api/circuits/{circuit}/readings", reading),
            ("POST", f"/api/circuits/{circuit}/undo", {"id": new_id(), "version": view["version"] + 1}),
            ("POST", "/api/jobs", {"id": new_id(), "head": {"name": "Another"}}),
        )

    def test_the_audit_and_signing_in(self) -> None:
        me = {"email": demo.EMAIL, "password": demo.PASSWORD}
        user = run_sql(self.url, "select id from app_user where email = :email", email=demo.EMAIL)[0][0]
        job = run_sql(self.url, "select id from job limit 1")[0][0]
        asked = ("", "?action=reading", f"?user_id={user}", f"?job_id={job}", "?day=2020-02-02", "?before=1000")
        self.by_index(*(("GET", f"/api/audit{each}") for each in asked))
        mine, type(self).client = self.client, make_client(self.url)
        self.engine = self.client.app.state.services.database.engine
        try:
            self.by_index(("POST", "/api/session", me), ("GET", "/api/session"))
        finally:
            type(self).client = mine
