"""What is kept: revisions, audit, older databases, and the answers' safety marks."""

import unittest

from alembic import command
from sqlalchemy import create_engine, text

from lumbek.services.demo import load_demo
from lumbek.services.jobs import JobService
from lumbek.services.results import Results
from lumbek.services.sessions import SessionService
from lumbek.settings import Settings
from lumbek.store.database import Database
from lumbek.store.migrate import alembic_config, check, upgrade
from tests.api.case import Api
from tests.support.client import make_client
from tests.support.stack import cluster, new_database


class Kept(Api):
    def rows(self, query: str, **values: object):
        database = Database(self.url)
        with database.transaction() as db:
            found = db.execute(text(query), values).all()
        database.close()
        return found

    def test_every_state_of_a_job_and_who_made_it(self) -> None:
        job = self.start(name="Kept")
        for ze in (0.2, 0.3):
            self.do_job(job, op="supply", ze_ohm=ze)
        found = self.rows("select version, document, by from job_revision where job_id = :i order by version", i=job)
        self.assertEqual([row.document["supply"]["ze_ohm"] for row in found], [None, 0.2, 0.3])
        self.assertEqual({row.by for row in found}, {"Robin Ash"})

    def test_audit_says_who_did_what(self) -> None:
        job = self.start(name="Audited")
        circuit = self.circuit(job)["id"]
        self.enter(circuit, quantity="isolation", correct=True)
        self.client.delete(f"/api/circuits/{circuit}")
        found = self.rows("select action, subject from audit where subject in (:j, :c) order by id", j=job, c=circuit)
        actions = [row.action for row in found]
        self.assertEqual(actions, ["job-started", "circuit-started", "reading", "circuit-removed"])

    def test_passwords_and_tokens_are_kept_as_hashes_only(self) -> None:
        hashes = [row.password_hash for row in self.rows("select password_hash from app_user")]
        self.assertTrue(all(each.startswith("$argon2id$") for each in hashes))
        token = self.client.cookies.get("lumbek_session")
        kept = [row.token_hash for row in self.rows("select token_hash from signed_in")]
        self.assertNotIn(token, kept)

    def test_answers_carry_their_safety_marks(self) -> None:
        answer = self.client.get("/api/jobs")
        self.assertEqual(answer.headers["cache-control"], "no-store")
        self.assertIn("default-src 'self'", answer.headers["content-security-policy"])
        self.assertEqual(answer.headers["x-content-type-options"], "nosniff")

    def test_our_own_faults_show_no_trace(self) -> None:
        client = make_client(self.url)
        client.app.state.services.database.close()
        broken = client.app.state.services
        object.__setattr__(broken, "sessions", None)
        answer = client.get("/api/jobs")
        self.assertEqual((answer.status_code, answer.json()["code"]), (500, "our-fault"))
        self.assertNotIn("Traceback", answer.text)

    def test_half_a_change_is_none(self) -> None:
        """A write that fails on its way leaves the row, its version and its revisions as they were."""
        job = self.start(name="Whole")
        view = self.circuit(job)
        before = self.rows("select count(*) as n from circuit_revision")[0].n
        design = {**view["design"], "points": [{"id": "P1"}, {"id": "P1"}]}
        answer = self.do(view, {"op": "circuit", "name": "Half"}, {"op": "take", "design": design})
        self.assertEqual((answer.status_code, answer.json()["problems"][0]["field"]), (422, "take.design.points"))
        self.assertEqual(self.rows("select count(*) as n from circuit_revision")[0].n, before)


class OlderDatabases(unittest.TestCase):
    def test_data_of_the_first_schema_comes_through_every_migration(self) -> None:
        base = cluster().url
        engine = create_engine(base, isolation_level="AUTOCOMMIT")
        with engine.connect() as connection:
            connection.execute(text("CREATE DATABASE older"))
        engine.dispose()
        url = base.rsplit("/", 1)[0] + "/older"
        command.upgrade(alembic_config(url), "0001")
        database = Database(url)
        with database.transaction() as db:
            db.execute(text("insert into firm (id, name) values (gen_random_uuid(), 'Old')"))
            db.execute(
                text(
                    "insert into job (id, firm_id, version, name, client, address, rulebook, supply, changed_by) "
                    "select gen_random_uuid(), id, 1, 'Old job', '', '', 'bs7671', '{}', 'Someone' from firm"
                )
            )
        upgrade(url)
        check(url)
        with database.transaction() as db:
            self.assertEqual(db.execute(text("select protection_school from job")).scalar(), "rcbo-each")
        database.close()

    def test_the_demo_is_loaded_once(self) -> None:
        database = Database(new_database())
        self.assertTrue(load_demo(database))
        self.assertFalse(load_demo(database))
        service = SessionService(database, Settings())
        _, person = service.sign_in("spark@signalbox.example", "signal-box-42", "", "127.0.0.1", "")
        self.assertEqual(
            [job.name for job in JobService(database, Results()).list(person)],
            ["The old signal box", "Lakeside boathouse cabin"],
        )
        database.close()
