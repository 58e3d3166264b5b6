"""People of a firm: let in by links, held to roles, slowed down alone; their sessions, second factor and the audit."""

from datetime import timedelta

import pyotp
from sqlalchemy import text
from sqlalchemy.exc import DBAPIError

from lumbek.services import demo
from lumbek.services.clock import now
from lumbek.services.links import first_link
from lumbek.settings import Settings
from lumbek.store.chain import verify
from lumbek.store.database import Database
from tests.api.case import Api, new_id
from tests.support.client import RIVAL, SECRET, add_person, make_client, sign_in
from tests.support.stack import new_database, run_sql

ADMIN = {"email": demo.EMAIL, "password": demo.PASSWORD}


class People(Api):
    def setUp(self) -> None:
        self.database = Database(self.url)
        self.addCleanup(self.database.close)
        self.client.post("/api/session/proof", json={"password": demo.PASSWORD}).raise_for_status()

    def run_sql(self, statement: str, **values: object):
        return run_sql(self.url, statement, **values)

    def invited(self, email: str, *roles: str) -> str:
        body = {"email": email, "name": "Sam Reed", "roles": roles}
        answer = self.client.post("/api/people/invitations", json=body)
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()["path"].removeprefix("/link/")

    def someone(self, *roles: str) -> tuple[str, str]:
        """Add somebody with these roles; return their e-mail and id."""
        email = f"{new_id()[:8]}@signalbox.example"
        add_person(self.url, email, list(roles))
        return email, str(self.run_sql("select id from app_user where email = :e", e=email)[0].id)

    def test_an_invitation_is_used_once_and_lets_in_with_its_roles(self) -> None:
        first = self.invited("sam@signalbox.example", "reader")
        token = self.invited("sam@signalbox.example", "tester")
        there = make_client(self.url)
        self.assertEqual(there.post("/api/links/look", json={"token": first}).status_code, 404)
        seen = there.post("/api/links/look", json={"token": token}).json()
        self.assertEqual((seen["purpose"], seen["firm"], seen["email"]), ("join", demo.FIRM, "sam@signalbox.example"))
        for password in ("short", "aaaaaaaaaaaaaaa", "sam-sam-sam-1", "password123456"):
            weak = there.post("/api/links/use", json={"token": token, "name": "Sam Reed", "password": password})
            self.assertEqual(weak.status_code, 422, password)
        used = there.post("/api/links/use", json={"token": token, "name": "Sam Reed", "password": SECRET})
        self.assertEqual((used.status_code, used.json()["rights"]), (200, ["read", "test"]))
        self.assertEqual(there.get("/api/session").json()["name"], "Sam Reed")
        again = make_client(self.url).post("/api/links/use", json={"token": token, "name": "x", "password": SECRET})
        self.assertEqual(again.status_code, 404)
        taken = self.client.post("/api/people/invitations", json={"email": demo.EMAIL, "name": "x", "roles": []})
        self.assertEqual(taken.status_code, 422)

    def test_the_first_account_is_made_with_a_code_and_no_second_one(self) -> None:
        url = new_database()
        database = Database(url)
        self.addCleanup(database.close)
        old, code = (first_link(database, Settings()).token for _ in range(2))
        there, body = make_client(url), {"password": SECRET, "email": "ann@firm.example", "name": "Ann", "firm": "Firm"}
        self.assertEqual(there.post("/api/links/use", json={**body, "token": old}).status_code, 404)
        self.assertEqual(there.post("/api/links/use", json={**body, "token": code, "firm": None}).status_code, 422)
        made = there.post("/api/links/use", json={**body, "token": code}).json()
        self.assertEqual((made["firm"], made["roles"]), ("Firm", ["supervisor", "admin"]))
        self.assertIsNone(first_link(database, Settings()))

    def test_a_new_password_ends_every_session(self) -> None:
        email, key = self.someone("reader")
        old = sign_in(make_client(self.url), email, SECRET)
        token = self.client.post(f"/api/people/{key}/reset").json()["path"].removeprefix("/link/")
        self.assertEqual(old.get("/api/session").status_code, 200)
        link = make_client(self.url)
        used = link.post("/api/links/use", json={"token": token, "password": "other unrelated words"})
        # The link sets the password and lets nobody in: a second factor is not gone round by a mailbox.
        self.assertEqual((used.status_code, used.json(), link.get("/api/session").status_code), (200, None, 401))
        self.assertEqual(old.get("/api/session").status_code, 401)
        here = sign_in(make_client(self.url), email, "other unrelated words")
        there = sign_in(make_client(self.url), email, "other unrelated words")
        wrong = here.put("/api/account/password", json={"current": "no", "new": SECRET})
        self.assertEqual(wrong.status_code, 422)
        change = {"current": "other unrelated words", "new": SECRET}
        self.assertEqual(here.put("/api/account/password", json=change).status_code, 204)
        self.assertEqual((here.get("/api/session").status_code, there.get("/api/session").status_code), (200, 401))

    def test_somebody_locked_is_out_at_once_and_the_last_admin_stays(self) -> None:
        email, key = self.someone("designer")
        there = sign_in(make_client(self.url), email, SECRET)
        self.client.put(f"/api/people/{key}/lock").raise_for_status()
        self.assertEqual(there.get("/api/jobs").status_code, 401)
        self.assertEqual(there.post("/api/session", json={"email": email, "password": SECRET}).status_code, 422)
        self.client.delete(f"/api/people/{key}/lock").raise_for_status()
        sign_in(make_client(self.url), email, SECRET)
        view = self.client.get("/api/people").json()
        me = next(each["id"] for each in view["people"] if each["you"])
        for answer in (
            self.client.put(f"/api/people/{me}/lock"),
            self.client.patch(f"/api/people/{me}/roles", json={"give": ["supervisor"], "take": ["admin"]}),
        ):
            self.assertEqual(answer.status_code, 422)
            self.assertIn("needs an admin", answer.json()["message"])
        self.assertEqual(self.client.get("/api/session").status_code, 200)
        self.assertEqual(sign_in(make_client(self.url), *RIVAL).put(f"/api/people/{key}/lock").status_code, 403)

    def test_roles_that_two_admins_change_at_once_hold_together(self) -> None:
        _, key = self.someone("tester")
        email, admin = self.someone("admin")
        other = sign_in(make_client(self.url), email, SECRET)
        for client, given in (
            (self.client, {"give": ["designer"]}),
            (other, {"give": ["supervisor"], "take": ["tester"]}),
            (self.client, {"take": ["designer"], "give": ["designer"]}),
        ):
            answer = client.patch(f"/api/people/{key}/roles", json=given)
            self.assertEqual(answer.status_code, 200, answer.text)
        there = next(each for each in answer.json()["people"] if each["id"] == key)
        self.assertEqual(set(there["roles"]), {"designer", "supervisor"})
        self.assertEqual(self.client.patch(f"/api/people/{key}/roles", json={"give": ["lord"]}).status_code, 422)
        self.client.put(f"/api/people/{admin}/lock").raise_for_status()

    def test_what_matters_asks_for_the_password_again(self) -> None:
        self.run_sql("update signed_in set proved_at = :t", t=now() - timedelta(minutes=11))
        body = {"email": "late@signalbox.example", "name": "Late", "roles": []}
        refused = self.client.post("/api/people/invitations", json=body)
        self.assertEqual((refused.status_code, refused.json()["code"]), (403, "prove-again"))
        # So does all else that changes what somebody may do.
        mate = next(each["id"] for each in self.client.get("/api/people").json()["people"] if not each["you"])
        for method, path in (
            ("PATCH", "roles"),
            ("PUT", "lock"),
            ("DELETE", "lock"),
            ("POST", "reset"),
            ("DELETE", "second-factor"),
        ):
            answer = self.client.request(method, f"/api/people/{mate}/{path}", json={"give": ["reader"]})
            self.assertEqual((answer.status_code, answer.json()["code"]), (403, "prove-again"), (method, path))
        self.assertEqual(self.client.post("/api/session/proof", json={"password": "no"}).status_code, 422)
        self.assertEqual(self.client.post("/api/session/proof", json={"password": demo.PASSWORD}).status_code, 204)
        self.assertEqual(self.client.post("/api/people/invitations", json=body).status_code, 201)

    def test_a_second_factor_is_asked_for_and_no_code_counts_twice(self) -> None:
        email, key = self.someone("reader")
        there = sign_in(make_client(self.url), email, SECRET)
        offer = there.post("/api/account/second-factor").json()
        self.assertIn("<svg", offer["svg"])
        made, moment = pyotp.TOTP(offer["secret"]), now()
        wrong = there.put("/api/account/second-factor", json={"secret": offer["secret"], "code": "000000"})
        self.assertEqual(wrong.status_code, 422)
        code = made.at(moment)
        there.put("/api/account/second-factor", json={"secret": offer["secret"], "code": code}).raise_for_status()
        credentials = {"email": email, "password": SECRET}
        asked = make_client(self.url).post("/api/session", json=credentials)
        self.assertEqual((asked.status_code, asked.json()["code"]), (401, "second-factor"))
        again = make_client(self.url).post("/api/session", json={**credentials, "code": code})
        self.assertEqual(again.status_code, 422)
        following = made.at(moment + timedelta(seconds=30))
        self.assertEqual(
            make_client(self.url).post("/api/session", json={**credentials, "code": following}).status_code, 200
        )
        self.client.delete(f"/api/people/{key}/second-factor").raise_for_status()
        sign_in(make_client(self.url), email, SECRET)

    def test_codes_cannot_be_guessed_between_right_passwords(self) -> None:
        email, _ = self.someone("reader")
        self.run_sql("update app_user set totp_secret = :s where email = :e", s=pyotp.random_base32(), e=email)
        there, credentials = make_client(self.url), {"email": email, "password": SECRET}
        codes = []
        for _ in range(6):
            there.post("/api/session", json=credentials)
            codes.append(there.post("/api/session", json={**credentials, "code": "000000"}).status_code)
        self.assertEqual(codes, [422] * 5 + [429])

    def test_sessions_are_listed_ended_and_end_by_themselves(self) -> None:
        email, _ = self.someone("reader")
        here, there = (sign_in(make_client(self.url), email, SECRET) for _ in range(2))
        listed = here.get("/api/sessions").json()
        self.assertEqual(sorted(each["this"] for each in listed), [False, True])
        other = next(each["id"] for each in listed if not each["this"])
        self.assertEqual(here.delete(f"/api/sessions/{other}").status_code, 204)
        self.assertEqual(here.delete(f"/api/sessions/{other}").status_code, 404)
        self.assertEqual((there.get("/api/session").status_code, here.get("/api/session").status_code), (401, 200))
        idle = sign_in(make_client(self.url), email, SECRET)
        self.run_sql("update signed_in set seen_at = :t", t=now() - timedelta(hours=11, minutes=58))
        self.assertEqual(idle.get("/api/session").status_code, 200)
        self.run_sql("update signed_in set seen_at = :t", t=now() - timedelta(hours=12, minutes=1))
        self.assertEqual(idle.get("/api/session").status_code, 401)
        self.client = sign_in(make_client(self.url))
        kept = sign_in(make_client(self.url), email, SECRET)
        self.run_sql("update signed_in set expires_at = :t where device = 'testclient'", t=now())
        self.assertEqual(kept.get("/api/session").status_code, 401)
        type(self).client = sign_in(make_client(self.url))
        self.assertEqual(self.run_sql("select count(*) as n from signed_in where expires_at <= now()")[0].n, 0)

    def test_wrong_tries_slow_down_only_who_makes_them(self) -> None:
        email, _ = self.someone("reader")
        owner = make_client(self.url)
        sign_in(owner, email, SECRET)
        moment = now()
        for index in range(40):
            self.run_sql(
                "insert into sign_in_failure (email, address, at) values (:e, :a, :t)",
                e=email,
                a=f"203.0.113.{index}",
                t=moment,
            )
        sign_in(make_client(self.url), email, SECRET)
        stranger, _ = self.someone("reader")
        for _ in range(5):
            self.run_sql(
                "insert into sign_in_failure (email, address, at) values (:e, 'testclient', :t)",
                e=stranger,
                t=moment - timedelta(minutes=10),
            )
        slow = make_client(self.url).post("/api/session", json={"email": stranger, "password": SECRET})
        self.assertEqual(slow.status_code, 429)
        self.assertTrue(290 <= int(slow.headers["retry-after"]) <= 301, slow.headers)
        sign_in(make_client(self.url), email, SECRET)

    def test_readings_of_a_file_are_nobodys_own(self) -> None:
        job = self.start()
        circuit = self.circuit(job)["id"]
        self.enter(circuit, quantity="r1", value=0.4).raise_for_status()
        document = self.client.get(f"/api/jobs/{job}/file").content.replace(b"Robin Ash", b"Kit Marlow")
        back = self.take_in(document).json()["id"]
        of = "from reading r join circuit c on c.id = r.circuit_id"
        rows = self.run_sql(f"select r.by, r.by_id, r.more {of} where c.job_id = :j", j=back)
        said = [(row.by, row.by_id, row.more["imported_by"]) for row in rows]
        self.assertEqual(said, [("Kit Marlow", None, "Robin Ash")])
        own = self.run_sql(f"select u.name {of} join app_user u on u.id = r.by_id where c.job_id = :j", j=job)
        self.assertEqual([row.name for row in own], ["Robin Ash"])

    def test_the_audit_says_who_did_what_from_where_to_admins_of_the_firm(self) -> None:
        job = self.start(name="Watched")
        self.client.get(f"/api/jobs/{job}/file")
        self.client.delete(f"/api/jobs/{job}")
        lines = [each for each in self.client.get("/api/audit").json()["lines"] if each["subject"] == job]
        self.assertEqual([each["action"] for each in lines], ["job-removed", "exported", "job-started"])
        self.assertEqual({(each["by"], each["address"]) for each in lines}, {("Robin Ash", "testclient")})
        job = self.start(name="Watched too")
        circuit = self.circuit(job, name="Ring of the loft")["id"]
        lines = self.client.get("/api/audit", params={"job": job}).json()["lines"]
        self.assertEqual({each["about"] for each in lines}, {"1 Ring of the loft, Watched too", "Watched too"})
        self.assertEqual({each["job_id"] for each in lines}, {job})
        self.assertIn(circuit, {each["subject"] for each in lines})
        me = next(each["id"] for each in self.client.get("/api/people").json()["people"] if each["you"])
        for asked, some in (
            ({"by": me}, True),
            ({"by": new_id()}, False),
            ({"day": f"{now():%Y-%m-%d}"}, True),
            ({"day": "2001-02-03"}, False),
            ({"job": new_id()}, False),
        ):
            found = self.client.get("/api/audit", params=asked).json()["lines"]
            self.assertEqual(bool(found), some, asked)
        self.assertEqual(self.client.get("/api/audit", params={"day": "yesterday"}).status_code, 422)
        page = self.client.get("/api/audit", params={"action": "exported"}).json()
        self.assertEqual({each["action"] for each in page["lines"]}, {"exported"})

    def test_only_a_qualified_supervisor_issues(self) -> None:
        job = self.client.get("/api/jobs").json()[0]["id"]
        email, _ = self.someone("designer", "tester")
        for client, told in ((self.client, False), (sign_in(make_client(self.url), email, SECRET), True)):
            made = client.get(f"/api/jobs/{job}/papers/schedule").json()
            self.assertEqual(any("qualified supervisor" in each for each in made["missing"]), told)
            self.assertTrue(made["draft"])

    def test_the_chain_holds_and_shows_what_was_changed(self) -> None:
        job = self.start(name="Chained ünïcode")
        self.client.delete(f"/api/jobs/{job}")
        with self.database.transaction() as db:
            found = verify(db)
        self.assertEqual(found.trouble, "")
        self.assertGreater(found.links, 3)
        for statement, told in (
            ("update audit set subject = 'x' where id = (select max(id) from audit)", "is not as it was written"),
            ("delete from audit_link where place = 2", "link 2 is missing"),
            ("delete from audit_link where place = (select max(place) from audit_link)", "is in no link"),
        ):
            with self.database.engine.connect() as connection, connection.begin() as held:
                connection.execute(text("set local session_replication_role = replica"))
                connection.execute(text(statement))
                with self.database._sessions(bind=connection) as db:
                    self.assertIn(told, verify(db).trouble)
                held.rollback()

    def test_what_is_only_added_is_never_changed_even_by_the_owner(self) -> None:
        for table in (
            "audit",
            "audit_link",
            "reading",
            "circuit_revision",
            "job_revision",
            "visit",
            "found_record",
            "issued_document",
            "price_list",
            "quote",
            "quote_offer",
            "quote_answer",
            "practice_set",
            "practice_run",
            "practice_act",
            "notification",
            "notification_answer",
            "attachment",
        ):
            for statement in (f"delete from {table}", f"truncate {table} cascade"):
                with self.assertRaisesRegex(DBAPIError, "only ever added"):
                    self.run_sql(statement)
        with self.assertRaisesRegex(DBAPIError, "only ever added"):
            self.run_sql("update reading set value = 1")

    def test_no_two_circuits_of_a_job_have_one_number(self) -> None:
        job = self.start()
        first, second = self.circuit(job)["id"], self.circuit(job)["id"]
        change = "update circuit set design = jsonb_set(design, '{number}', to_jsonb(cast(:n as int))) where id = :i"
        with self.assertRaisesRegex(DBAPIError, "circuit_number_once"):
            self.run_sql(change, n=1, i=second)
        with self.database.transaction() as db:
            # Two that change numbers with each other are alike for a moment only.
            db.execute(text(change), {"n": 1, "i": second})
            db.execute(text(change), {"n": 2, "i": first})
        self.client.delete(f"/api/circuits/{first}").raise_for_status()
        self.run_sql(change, n=2, i=second)
