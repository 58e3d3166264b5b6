"""The chain over the audit and every record: what was changed behind the application's back is named."""

import contextlib
import io
import os
from collections.abc import Callable
from unittest import mock

from sqlalchemy import text

from lumbek.cli import main
from lumbek.exchange.job_file import write_job
from lumbek.services.office import Office, OfficeSaid
from lumbek.store.chain import Verified, holds, verify
from lumbek.store.database import Database
from lumbek.store.models import Base
from tests.api.case import Api, new_id
from tests.core.test_exchange import finished
from tests.support.photos import photo
from tests.support.quoted import whole_terms
from tests.support.stack import run_sql


class Records(Api):
    """A job with a record of every kind, changed by the owner of the database with every trigger off."""

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.database = Database(cls.url)
        case = cls()
        cls.job = case.take_in(write_job(finished()).encode()).json()["id"]
        job = f"/api/jobs/{cls.job}"

        def post(path: str, **body: object) -> None:
            cls.client.post(path, json={"id": new_id(), **body}).raise_for_status()

        case.do_job(cls.job, op="head", address="1 Weir Lane").raise_for_status()
        post(f"{job}/issued")
        view = case.circuit(cls.job)
        case.do(view, op="add", after="board", length_m=4)
        cls.circuit_id = view["id"]
        case.enter(view["id"], quantity="r1", value=0.4).raise_for_status()
        post(f"/api/circuits/{view['id']}/records")
        post(f"{job}/found", found={"kind": "traced", "title": "Board"})
        post(f"{job}/visits", visit={"lead_ohm": 0.03})
        said = {"record": "finding", "finding": "f1", "seen": "Cracked plate", "code": "C2"}
        post(f"{job}/inspection", made={"said": said})
        cls.notify(post)
        post("/api/prices", text="code,name,price\nS2,Socket,4.75")
        post(f"{job}/quote", version=0, terms=whole_terms(cls.client, cls.job, "S2"))
        made = cls.client.post(f"{job}/offers", json={"id": new_id(), "email": "owner@elsewhere.example"}).json()
        said = {"accepted": True, "name": "M. Fallow"}
        cls.client.post(f"/api/offers/{made['path'].removeprefix('/offer/')}/answer", json=said).raise_for_status()
        cls.practise(post)
        cls.client.post(f"{job}/attachments", params={"id": new_id()}, content=photo()).raise_for_status()
        version = cls.client.get(f"{job}/places").json()["version"]
        post(f"{job}/places/commands", version=version, commands=[{"op": "add-room", "name": "Loft"}])

    @classmethod
    def practise(cls, post: Callable[..., None]) -> None:
        """Set an exercise, begin one, and do something in it."""
        asked = {"kind": "isolation", "level": 1}
        post("/api/practice/sets", exercise={**asked, "seed": 1})
        run = new_id()
        cls.client.post("/api/practice/runs", json={"id": run, "asked": asked}).raise_for_status()
        post(f"/api/practice/runs/{run}/acts", act={"choice": "begin"})

    @classmethod
    def notify(cls, post: Callable[..., None]) -> None:
        """Hand work in, and have it answered; the schedule stands for its certificate."""
        job = f"/api/jobs/{cls.job}"
        for said in (
            {"record": "notify", "answers": [{"id": "new-board", "answer": "yes"}]},
            {"record": "particulars", "work": "A new board", "finished": "2026-05-04"},
        ):
            post(f"{job}/inspection", made={"said": said})
        answered = OfficeSaid("received", "BC-1", "")
        with (
            mock.patch("lumbek.services.notifying.CERTIFYING", ("schedule",)),
            mock.patch.object(Office, "is_known", True),
            mock.patch.object(Office, "hand_in", return_value=answered),
        ):
            post(f"{job}/notifications")

    @classmethod
    def tearDownClass(cls) -> None:
        cls.database.close()

    def changed(self, *statements: str) -> str:
        """What is wrong with the chain after this; it is taken back again."""
        with self.database.engine.connect() as connection, connection.begin() as held:
            connection.execute(text("set local session_replication_role = replica"))
            for statement in statements:
                self.assertGreater(connection.execute(text(statement)).rowcount, 0, statement)
            with self.database._sessions(bind=connection) as db:
                found = verify(db).trouble
            held.rollback()
        return found

    def verified(self) -> Verified:
        with self.database.transaction() as db:
            return verify(db)

    def test_it_holds_over_every_kind_of_record(self) -> None:
        found = self.verified()
        self.assertEqual(found.trouble, "")
        kinds = {row[0]: row[1] for row in run_sql(self.url, "select what, count(*) from audit_link group by what")}
        for table in Base.metadata.sorted_tables:
            if table.name in kinds:
                (count,) = run_sql(self.url, f"select count(*) from {table.name}")[0]
                self.assertEqual(kinds[table.name], count, table.name)
        self.assertEqual(sum(kinds.values()), found.links)

    def test_every_table_that_is_only_added_is_in_it_with_every_column(self) -> None:
        triggers = "select relname from pg_trigger join pg_class on pg_class.oid = tgrelid where tgname = 'only_added'"
        added = {row[0] for row in run_sql(self.url, triggers)} - {"audit", "audit_link", "chained"}
        shapes = dict(
            run_sql(self.url, "select distinct on (what) what, fields from chained order by what, shape desc")
        )
        self.assertEqual(set(shapes), added)
        for name, fields in shapes.items():
            self.assertEqual(
                {each.rstrip("#") for each in fields}, {c.name for c in Base.metadata.tables[name].columns}
            )
            self.assertGreater(run_sql(self.url, f"select count(*) from {name}")[0][0], 0, name)

    def test_a_change_of_any_record_is_named(self) -> None:
        for table, change in (
            ("reading", "value = 0.04"),
            ("reading", '"at" = "at" - interval \'1 day\''),
            ("reading", "more = '{\"a\": 1}'"),
            ("circuit_revision", "design = jsonb_set(design, '{name}', '\"Other\"')"),
            ("job_revision", "by = 'Somebody else'"),
            ("places_revision", "document = '{}'"),
            ("visit", "document = '{}'"),
            ("found_record", "document = '{}'"),
            ("inspection_record", "document = jsonb_set(document, '{said,code}', '\"C3\"')"),
            ("notification", 'document = document || \'{"work": "Nothing"}\''),
            ("price_list", "document = '{}'"),
            ("quote", "document = '{}'"),
            ("quote_offer", "document = jsonb_set(document, '{quote,total}', '\"1.00\"')"),
            ("quote_answer", "document = jsonb_set(document, '{accepted}', 'false')"),
            ("practice_set", 'document = document || \'{"note": "another"}\''),
            ("practice_run", "document = document || '{\"level\": 5}'"),
            ("practice_act", "marks = marks || '{\"marks\": 100}'"),
            ("notification_answer", "receipt = 'BC-2'"),
            ("wiring_record", "note = 'as it was'"),
            ("attachment", "data = '\\x00'"),
            ("attachment", "sha256 = 'x'"),
            ("issued_document", "data = data || '\\x00'"),
            ("issued_document", "follows = '{}'"),
        ):
            with self.subTest(table, change=change):
                said = self.changed(f"update {table} set {change}")
                self.assertRegex(
                    said, f"^{table.replace('_', ' ')} .* is not as it was written: link \\d+ does not hold$"
                )

    def test_what_is_gone_or_was_slipped_in_is_told(self) -> None:
        last = "(select max(id) from reading)"
        self.assertRegex(
            self.changed(f"delete from reading where id = {last}"), r"link \d+ is of reading \d+, which is gone"
        )
        slipped_in = f"values (999999, '{self.circuit_id}', 'r1', 0.1, 'x', now())"
        said = self.changed(f"insert into reading (id, circuit_id, quantity, value, by, at) {slipped_in}")
        self.assertEqual(said, "reading 999999 is in no link")
        with_link = f"delete from audit_link where what = 'reading' and row_id = {last}::text"
        self.assertIn("is missing: the next is", self.changed(with_link))
        self.assertIn("which is gone", self.changed("update chained set shape = 7 where what = 'visit'"))

    def test_a_chain_made_anew_is_found_by_the_last_link_kept_elsewhere(self) -> None:
        kept = self.verified()
        with self.database.transaction() as db:
            self.assertEqual(holds(db, kept.links), kept.last)
            self.assertEqual(holds(db, kept.links + 10_000), "")

        def said(*given: str) -> tuple[int, str]:
            out = io.StringIO()
            here = mock.patch.dict(os.environ, {"LUMBEK_DATABASE_URL": self.url})
            with here, contextlib.redirect_stdout(out), contextlib.redirect_stderr(out):
                code = main(["admin", "verify", *given])
            return code, out.getvalue()

        code, words = said()
        self.assertEqual((code, f"{kept.links}:{kept.last}" in words), (0, True))
        self.assertEqual(said("--kept", f"{kept.links}:{kept.last}")[0], 0)
        code, words = said("--kept", f"{kept.links}:{'0' * 64}")
        self.assertEqual((code, "was made anew" in words), (1, True))
        self.assertIn("kept: as `verify` says it", said("--kept", "nonsense")[1])
