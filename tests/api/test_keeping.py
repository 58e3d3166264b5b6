"""What is kept: revisions, audit, older databases, and the answers' safety marks."""

import unittest
from collections.abc import Iterator
from contextlib import contextmanager
from hashlib import sha256

from alembic import command
from sqlalchemy import text

from lumbek.services.demo import load_demo
from lumbek.services.jobs import JobService
from lumbek.services.sessions import SessionService
from lumbek.services.worked_out import Results
from lumbek.settings import Settings
from lumbek.store.chain import Verified, verify
from lumbek.store.database import Database
from lumbek.store.migrate import NewerDatabaseError, alembic_config, check, need_current, state_of, upgrade
from tests.api.case import Api, new_id
from tests.support.client import make_client
from tests.support.quoted import offered, practised
from tests.support.running import emptied, without_inspections
from tests.support.stack import as_application, as_owner, cluster, new_database, run_sql


@contextmanager
def room_for_no_more(table: str, url: str) -> Iterator[None]:
    """Let PostgreSQL say of a table what it says where its disk is full."""
    run_sql(
        url,
        "create function no_room() returns trigger language plpgsql as "
        "$$ begin raise disk_full using message = 'could not extend file'; end $$",
    )
    run_sql(url, f"create trigger no_room before insert on {table} for each row execute function no_room()")
    try:
        yield
    finally:
        run_sql(url, "drop function no_room cascade")


class Kept(Api):
    def rows(self, query: str, **values: object):
        return run_sql(self.url, query, **values)

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

    def test_a_full_disk_is_told_keeps_nothing_and_shows_what_there_is(self) -> None:
        circuit = self.circuit(self.start(name="No room"))["id"]
        body = {"id": new_id(), "reading": {"quantity": "r1", "value": 0.3}}
        count = "select count(*) as n from reading where circuit_id = :c"
        with room_for_no_more("reading", self.url):
            answer = self.client.post(f"/api/circuits/{circuit}/readings", json=body)
            self.assertEqual((answer.status_code, answer.json()["code"]), (503, "full"))
            self.assertIn("This was not kept", answer.json()["message"])
            self.assertEqual(self.client.get(f"/api/circuits/{circuit}").status_code, 200)
        self.assertEqual(self.rows(count, c=circuit)[0].n, 0)
        # What was refused is as if it had never been sent: the same again is done, once.
        for _ in range(2):
            self.client.post(f"/api/circuits/{circuit}/readings", json=body).raise_for_status()
        self.assertEqual(self.rows(count, c=circuit)[0].n, 1)

    def test_a_disk_that_fills_only_when_all_is_to_be_kept(self) -> None:
        job = self.start(name="No room at the end")
        with room_for_no_more("audit_link", self.url):
            answer = self.client.post(f"/api/jobs/{job}/circuits", json={"id": new_id(), "kind": "cooker"})
            self.assertEqual((answer.status_code, answer.json()["code"]), (503, "full"))
        self.assertEqual(self.client.get(f"/api/jobs/{job}").json()["circuits"], [])

    def test_half_a_change_is_none(self) -> None:
        """A write that fails on its way leaves the row, its version and its revisions as they were."""
        job = self.start(name="Whole")
        view = self.circuit(job)
        before = self.rows("select count(*) as n from circuit_revision")[0].n
        design = {**view["design"], "points": [{"id": "P1"}, {"id": "P1"}]}
        answer = self.do(view, {"op": "circuit", "name": "Half"}, {"op": "take", "design": design})
        self.assertEqual((answer.status_code, answer.json()["problems"][0]["field"]), (422, "take.design.points"))
        self.assertEqual(self.rows("select count(*) as n from circuit_revision")[0].n, before)


def with_jobs_of_version_3(url: str) -> None:
    """Let the jobs of a database be from before rooms had ids, so that it may be brought back to what was then."""
    database = Database(url)
    with database.transaction() as db:
        db.execute(text("update job set format = 3"))
    database.close()


class OlderDatabases(unittest.TestCase):
    def test_data_of_the_first_schema_comes_through_every_migration(self) -> None:
        cluster().make_database("older")
        url = as_owner("/older")
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
            # Two circuits of one number, as could be once; a line of the audit, when there was no chain.
            for place in (1, 2, 3):
                db.execute(
                    text(
                        "insert into circuit (id, job_id, place, version, design, changed_by) "
                        "select gen_random_uuid(), id, :p, 1, '{\"number\": 1}', 'Someone' from job"
                    ),
                    {"p": place},
                )
            db.execute(text("insert into audit (id, action, subject) values (1, 'sign-in', 'Someone')"))
        upgrade(url)
        check(url)
        with database.transaction() as db:
            self.assertEqual(db.execute(text("select protection_school from job")).scalar(), "rcbo-each")
            numbers = db.execute(text("select number from circuit order by place")).scalars().all()
            self.assertEqual(numbers, [1, 2, 3])
            self.assertEqual(verify(db), Verified(1, verify(db).last, ""))
        with self.assertRaisesRegex(RuntimeError, "cannot keep anything at all"):
            command.downgrade(alembic_config(url), "base")
        with database.transaction() as db:
            self.assertEqual(db.execute(text("select name from job")).scalar(), "Old job")
        database.close()

    def test_going_down_refuses_what_would_be_lost_and_goes_where_nothing_is(self) -> None:
        url = as_owner(new_database())
        command.downgrade(alembic_config(url), "base")
        self.assertEqual(state_of(url), "empty")
        upgrade(url)
        check(url)
        owner = as_owner(new_database(demo=True))
        offered(owner)
        practised(owner)
        with self.assertRaisesRegex(RuntimeError, "exercises that were set to everybody"):
            command.downgrade(alembic_config(owner), "0014")
        emptied(owner, "practice_set")
        with self.assertRaisesRegex(RuntimeError, "quotes that were offered to customers"):
            command.downgrade(alembic_config(owner), "0014")
        emptied(owner, "quote_offer")
        with self.assertRaisesRegex(RuntimeError, "quotes that somebody put down"):
            command.downgrade(alembic_config(owner), "0014")
        emptied(owner, "quote")
        with self.assertRaisesRegex(RuntimeError, "prices that a firm put down"):
            command.downgrade(alembic_config(owner), "0014")
        emptied(owner, "price_list")
        with self.assertRaisesRegex(RuntimeError, "what was said on inspections"):
            command.downgrade(alembic_config(owner), "0014")
        without_inspections(owner)
        with self.assertRaisesRegex(RuntimeError, "jobs whose rooms have ids of their own"):
            command.downgrade(alembic_config(owner), "0014")
        with_jobs_of_version_3(owner)
        with self.assertRaisesRegex(RuntimeError, "who entered what"):
            command.downgrade(alembic_config(owner), "0007")
        self.assertEqual(state_of(owner), "current")

    def test_photos_of_records_become_attachments_and_go_back_unless_there_are_others(self) -> None:
        url = as_owner(new_database(demo=True))
        config, database = alembic_config(url), Database(url)
        self.addCleanup(database.close)
        with_jobs_of_version_3(url)
        without_inspections(url)
        command.downgrade(config, "0013")
        with database.transaction() as db:
            db.execute(
                text(
                    "insert into wiring_record (id, circuit_id, taken_at, by, note, design) "
                    "select gen_random_uuid(), id, now(), 'Robin Ash', '', design from circuit limit 1"
                )
            )
            photo = "insert into wiring_photo (id, record_id, kind, data) select gen_random_uuid(), id, 'image/png', :d"
            db.execute(text(f"{photo} from wiring_record"), {"d": b"a photo"})
        upgrade(url)
        check(url)
        with database.transaction() as db:
            moved = "select a.shows, a.data, a.sha256, replace(r.id::text, '-', '') = a.of, c.job_id = a.job_id "
            of = "from attachment a join circuit c on c.id = a.circuit_id join wiring_record r on r.circuit_id = c.id"
            row = db.execute(text(moved + of)).one()
        self.assertEqual(tuple(row), ("record", b"a photo", sha256(b"a photo").hexdigest(), True, True))
        command.downgrade(config, "0013")
        upgrade(url)
        with database.transaction() as db:
            self.assertEqual(db.execute(text("select data from attachment")).scalar(), b"a photo")
            other = "insert into attachment (id, job_id, shows, of, kind, data, sha256, by, taken_at) "
            db.execute(
                text(other + "select gen_random_uuid(), id, 'job', '', 'image/png', 'x', '', '', now() from job")
            )
        with self.assertRaisesRegex(RuntimeError, "photos and papers of more"):
            command.downgrade(config, "0013")

    def test_a_newer_database_is_refused_in_words(self) -> None:
        url = as_owner(new_database())
        database = Database(url)
        with database.transaction() as db:
            db.execute(text("update alembic_version set version_num = '0999'"))
        database.close()
        with self.assertRaisesRegex(NewerDatabaseError, "0999.*a newer one has written it"):
            upgrade(url)
        with self.assertRaises(NewerDatabaseError):
            need_current(url)

    def test_the_application_may_add_to_what_is_kept_and_no_more(self) -> None:
        database = Database(as_application(new_database(demo=True)))
        self.addCleanup(database.close)
        for statement in (
            "update reading set value = 1",
            "delete from audit",
            "update circuit_revision set design = '{}'",
            "insert into audit_link values (999, 1, '')",
            "alter table reading disable trigger all",
            "create table mine (id int)",
            "drop table reading",
            "delete from job",
            "update alembic_version set version_num = '0001'",
        ):
            with self.assertRaisesRegex(Exception, "permission denied|must be owner"), database.transaction() as db:
                db.execute(text(statement))
        with database.transaction() as db:
            supers = "select count(*) from pg_roles where rolsuper and rolname = current_user"
            self.assertEqual(db.execute(text(supers)).scalar(), 0)

    def test_the_demo_is_loaded_once(self) -> None:
        database = Database(new_database())
        self.assertTrue(load_demo(database))
        self.assertFalse(load_demo(database))
        service = SessionService(database, Settings())
        person = service.sign_in("spark@signalbox.example", "signal-box-42", "", "127.0.0.1", "").person
        self.assertEqual(
            [job.name for job in JobService(database, Results()).list(person)],
            ["The old signal box", "The old signal box, as we found it", "Lakeside boathouse cabin"],
        )
        database.close()
