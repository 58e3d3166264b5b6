"""Issuing a document: a deed of a supervisor, done once, kept as it was; all else that is handed out is a draft."""

import hashlib
from unittest import mock

from sqlalchemy import text

from lumbek.exchange.job_file import write_job
from lumbek.services import demo
from lumbek.store.database import Database
from tests.api.case import Api, new_id
from tests.core.test_exchange import finished
from tests.support.client import SECRET, add_person, make_client, sign_in
from tests.support.pdf import words_of


class Issuing(Api):
    def setUp(self) -> None:
        self.job = self.take_in(write_job(finished()).encode()).json()["id"]
        self.path = f"/api/jobs/{self.job}/issued"

    def issue(self, client=None, write: str = ""):
        return (client or self.client).post(self.path, json={"id": write or new_id()})

    def audited(self, action: str) -> list[str]:
        database = Database(self.url)
        with database.transaction() as db:
            query = text("select detail from audit where action = :action and subject = :job order by id")
            found = [row[0] for row in db.execute(query, {"action": action, "job": self.job})]
        database.close()
        return found

    def test_it_is_issued_once_and_kept_as_it_was(self) -> None:
        write = new_id()
        (first,) = self.issue(write=write).json()
        (again,) = self.issue(write=write).json()
        self.assertEqual((first["id"], first["number"], first["stands"]), (write, 1, True))
        self.assertEqual(again, first)
        pdf = self.client.get(f"/api/issued/{write}/file").content
        self.assertEqual(hashlib.sha256(pdf).hexdigest(), first["sha256"])
        said = words_of(pdf)
        self.assertNotIn("DRAFT", said)
        self.assertIn(f"Issue 1, issued by {first['by']}", " ".join(said.split()))
        self.assertIn(f"Number {first['firm_number']} of {demo.FIRM}", " ".join(said.split()))
        self.assertIn(first["code"], said)
        number = first["firm_number"]
        self.assertEqual(self.audited("issued"), [f"schedule, number {number}, issue 1, {first['sha256']}"])
        # The job goes on: the issue stays what it was, and is said to be of another state.
        self.assertEqual(self.do_job(self.job, op="head", client="Somebody else").status_code, 200)
        (stale,) = self.client.get(self.path).json()
        self.assertEqual((stale["stands"], stale["sha256"]), (False, first["sha256"]))
        self.assertEqual(self.client.get(f"/api/issued/{write}/file").content, pdf)
        self.assertEqual([each["number"] for each in self.issue().json()], [1, 2])

    def test_an_id_of_another_job_is_not_said_to_be_issued(self) -> None:
        write = new_id()
        self.issue(write=write)
        other = self.take_in(write_job(finished()).encode()).json()["id"]
        refused = self.client.post(f"/api/jobs/{other}/issued", json={"id": write})
        self.assertEqual(refused.status_code, 422)
        self.assertEqual(self.client.get(f"/api/jobs/{other}/issued").json(), [])

    def test_what_is_not_in_order_is_not_issued_and_says_why(self) -> None:
        circuit = self.client.get(f"/api/jobs/{self.job}").json()["circuits"][0]["id"]
        self.enter(circuit, quantity="zs", point="P1", value=40)
        refused = self.issue()
        self.assertEqual(refused.status_code, 422)
        self.assertIn("Not in order", refused.json()["message"])
        self.assertIn("Zs", refused.json()["message"])
        self.assertEqual((self.client.get(self.path).json(), self.audited("issued")), ([], []))

    def test_what_changes_while_the_page_is_set_is_not_issued_as_it_was(self) -> None:
        async def set_slowly(*_: object) -> bytes:
            database = Database(self.url)
            with database.transaction() as db:
                db.execute(text("update job set version = version + 1 where id = :job"), {"job": self.job})
            database.close()
            return b"%PDF"

        with mock.patch.object(self.client.app.state.services.pool, "do", set_slowly):
            refused = self.issue()
        self.assertEqual((refused.status_code, refused.json()["code"]), (409, "changed-meanwhile"))
        self.assertEqual((self.client.get(self.path).json(), self.audited("issued")), ([], []))
        self.assertEqual(self.issue().json()[0]["number"], 1)

    def test_looking_is_no_deed(self) -> None:
        said = words_of(self.client.get(f"/api/jobs/{self.job}/papers/schedule.pdf").content)
        self.assertIn("DRAFT", said)
        self.assertIn("not issued yet", said)
        self.assertEqual(self.audited("exported"), ["schedule, draft"])

    def test_whoever_may_not_issue_takes_away_drafts_of_every_kind(self) -> None:
        """By kind and role: only a supervisor's calculation and results are unmarked; the schedule never is."""
        lights = self.circuit(self.job, number=2, kind="lighting")["id"]
        circuit = self.client.get(f"/api/jobs/{self.job}").json()["circuits"][0]["id"]
        marked = {
            f"/api/jobs/{self.job}/papers/schedule.pdf": True,
            f"/api/jobs/{self.job}/papers/results.pdf": False,
            f"/api/jobs/{self.job}/papers/labels.pdf": False,
            f"/api/jobs/{self.job}/papers/condition.pdf": True,
            f"/api/jobs/{self.job}/papers/certificate.pdf": True,
            f"/api/jobs/{self.job}/papers/minor-works.pdf": True,
            f"/api/jobs/{self.job}/papers/verification.pdf": True,
            f"/api/jobs/{self.job}/papers/remedials.pdf": True,
            # Nothing is marked on a plan, and no danger is on record.
            f"/api/jobs/{self.job}/papers/set-out.pdf": True,
            f"/api/jobs/{self.job}/papers/hidden.pdf": True,
            f"/api/jobs/{self.job}/papers/danger.pdf": True,
            # Nothing has a price yet.
            f"/api/jobs/{self.job}/papers/quote.pdf": True,
            f"/api/circuits/{circuit}/papers/calculation.pdf": False,
            f"/api/circuits/{lights}/papers/make-off.pdf": False,
        }
        # What is handed over at once is nobody's draft.
        papers = f"/api/jobs/{self.job}"
        at_once = [
            f"{papers}/papers/isolation.pdf",
            f"{papers}/papers/householder.pdf",
            f"{papers}/papers/take-off.pdf",
            f"{papers}/papers/first-fix.pdf",
            f"{papers}/papers/second-fix.pdf",
        ]
        unmarked = {path for path, always in marked.items() if not always}
        for role in ("reader", "designer", "tester", "admin", "supervisor"):
            add_person(self.url, f"{role}@papers.example", [role])
            client = sign_in(make_client(self.url), f"{role}@papers.example", SECRET)
            self.assertEqual(self.issue(client).status_code, 422 if role == "supervisor" else 403, role)
            # Of those who may not issue one sees every kind; of the others each what would be unmarked.
            every = role in ("reader", "supervisor")
            for path in at_once if every else at_once[:1]:
                self.assertNotIn("DRAFT", words_of(client.get(path).content), (role, path))
            for path, always in marked.items():
                if not every and path not in unmarked:
                    continue
                answer = client.get(path)
                self.assertEqual(answer.status_code, 200, (role, path, answer.text[:200]))
                said = words_of(answer.content)
                self.assertEqual("DRAFT" in said, always or role != "supervisor", (role, path))
                if role != "supervisor":
                    self.assertNotIn("Complies.", said, (role, path))
