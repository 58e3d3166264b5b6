"""Backups: signed, of one moment, back row for row; what is forged, cut off or unreadable is told in words."""

import json
import random
import shutil
import subprocess
import sys
import tempfile
import unittest
import zipfile
from pathlib import Path
from unittest import mock

import psycopg
from alembic import command

from lumbek.ops import backup
from lumbek.ops.signing import signed
from lumbek.settings import Settings
from lumbek.store.address import conninfo_of
from lumbek.store.migrate import alembic_config
from tests.api.case import new_id
from tests.support.client import make_client, sign_in
from tests.support.running import empty_database, environment, lumbek, rows, without_inspections
from tests.support.stack import ROOT, as_application, as_owner, new_database, run_sql


class Backups(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.file = Path(folder.name) / "lumbek.backup"

        self.key = str(self.file.with_name("lumbek.key"))

    def settings(self, url: str, key: str = "") -> Settings:
        addresses = {"database_url": as_application(url), "owner_database_url": as_owner(url)}
        return Settings(key_file=key or self.key, **addresses)

    def made(self, url: str) -> Path:
        backup.make(self.settings(url), self.file)
        return self.file

    def with_part(self, name: str, content: bytes | None) -> Path:
        """The backup with one of its parts another, or gone."""
        other = self.file.with_name(f"{new_id()}.backup")
        with zipfile.ZipFile(self.file) as old, zipfile.ZipFile(other, "w") as new:
            for each in old.namelist():
                if each != name:
                    new.writestr(each, old.read(each))
            if content is not None:
                new.writestr(name, content)
        return other

    def refused(self, file: Path, words: str, key: str = "", **given: object) -> None:
        back = empty_database(f"restored_{new_id()[:8]}")
        with self.assertRaisesRegex(backup.BackupError, words):
            backup.restore(self.settings(back, key), file, **given)
        self.assertEqual(rows(back), {})

    def test_after_random_writes_everything_comes_back_row_for_row(self) -> None:
        url, chance = new_database(demo=True), random.Random(11)
        client = sign_in(make_client(url))
        job = client.get("/api/jobs").json()[0]["id"]
        circuits = [each["id"] for each in client.get(f"/api/jobs/{job}").json()["circuits"]]
        for _ in range(40):
            circuit, deed = chance.choice(circuits), chance.randrange(3)
            view = client.get(f"/api/circuits/{circuit}").json()
            write = {"id": new_id(), "version": view["version"]}
            if deed == 0:
                name = chance.choice(("Ünder the eaves", "Kiln ⚡ shed", "a\tb", "'); drop table reading; --"))
                client.post(
                    f"/api/circuits/{circuit}/commands", json={**write, "commands": [{"op": "circuit", "name": name}]}
                )
            elif deed == 1:
                client.post(f"/api/circuits/{circuit}/undo", json=write)
            else:
                reading = {"quantity": "r1", "value": chance.random()}
                client.post(f"/api/circuits/{circuit}/readings", json={"id": new_id(), "reading": reading})
        told = backup.make(self.settings(url), self.file)
        self.assertIn("checked", told)
        self.assertEqual(self.file.stat().st_mode & 0o777, 0o600)
        back = empty_database(f"restored_{new_id()[:8]}")
        self.assertIn("every table as it was", backup.restore(self.settings(back), self.file))
        self.assertEqual(rows(back), rows(url))
        # It is a database to go on with, as the application, with its triggers.
        again = sign_in(make_client(back))
        self.assertEqual(
            again.get(f"/api/jobs/{job}").json()["version"], client.get(f"/api/jobs/{job}").json()["version"]
        )
        again.post(
            f"/api/circuits/{circuits[0]}/readings", json={"id": new_id(), "reading": reading}
        ).raise_for_status()
        with (
            psycopg.connect(conninfo_of(as_owner(back))) as db,
            self.assertRaises(psycopg.errors.InsufficientPrivilege),
        ):
            db.execute("delete from reading")
        with self.assertRaisesRegex(backup.BackupError, "not empty"):
            backup.restore(self.settings(back), self.file)
        with zipfile.ZipFile(self.file) as archive:
            names = [name for name in archive.namelist() if name.startswith("jobs/")]
            self.assertEqual(len(names), 3)
            whole = json.loads(archive.read(next(name for name in names if job in name)))
        self.assertEqual(whole, client.get(f"/api/jobs/{job}/file").json())

    def test_a_backup_while_others_write_is_of_one_moment(self) -> None:
        url = new_database(demo=True)
        script = (
            "import sys, psycopg, uuid\n"
            "db = psycopg.connect(sys.argv[1], autocommit=True)\n"
            "told = False\n"
            "while True:\n"
            "    with db.transaction():\n"
            "        firm = uuid.uuid4()\n"
            "        db.execute('insert into firm values (%s, %s)', (firm, 'f'))\n"
            '        db.execute("insert into audit (id, firm_id, action, subject) '
            "select max(id) + 1, %s, 'x', 'y' from audit\", (firm,))\n"
            "    told = told or print('writing', flush=True) is None\n"
        )
        before = rows(url)
        command = [sys.executable, "-c", script, conninfo_of(as_owner(url))]
        with subprocess.Popen(command, stdout=subprocess.PIPE, text=True) as writer:
            assert writer.stdout is not None
            try:
                self.assertEqual(writer.stdout.readline(), "writing\n")
                backup.make(self.settings(url), self.file)
                meanwhile = len(rows(url)["firm"])
            finally:
                writer.kill()
        back = empty_database(f"restored_{new_id()[:8]}")
        backup.restore(self.settings(back), self.file)
        found = rows(back)
        written = len(found["firm"]) - len(before["firm"])
        self.assertGreater(written, 0)
        self.assertLess(len(found["firm"]), meanwhile)
        self.assertEqual(len(found["audit"]) - len(before["audit"]), written)
        links = [link for (link,) in found["audit_link"] if ",audit," in str(link)]
        self.assertEqual(len(found["audit"]), len(links))

    def test_what_is_damaged_or_in_the_way_is_refused_and_leaves_nothing(self) -> None:
        url = new_database(demo=True)
        backup.make(self.settings(url), self.file)
        with self.assertRaisesRegex(backup.BackupError, "is there already"):
            backup.make(self.settings(url), self.file)
        whole = self.file.read_bytes()
        back = empty_database(f"restored_{new_id()[:8]}")
        for damaged in (b"", b"not a backup", whole[: len(whole) // 2], whole[:2000] + b"\0" * 50 + whole[2050:]):
            self.file.write_bytes(damaged)
            with self.assertRaisesRegex(backup.BackupError, "no backup that can be read"):
                backup.restore(self.settings(back), self.file)
        self.assertEqual(rows(back), {})
        with self.assertRaisesRegex(backup.BackupError, "cannot be written"):
            backup.make(self.settings(url), self.file.parent / "nowhere" / "x")
        self.assertEqual({each.name for each in self.file.parent.iterdir()}, {self.file.name, "lumbek.key"})

    def test_one_that_was_forged_is_refused(self) -> None:
        url = new_database(demo=True)
        told = backup.make(self.settings(url), self.file)
        with zipfile.ZipFile(self.file) as archive:
            manifest = json.loads(archive.read("manifest.json"))
            key = json.loads(archive.read("signature.json"))["key"]
            job = next(name for name in archive.namelist() if name.startswith("jobs/"))
        self.assertIn(f"signed by {key}", told)
        # Everything in it made to fit, but nobody to sign it.
        forged = json.dumps({**manifest, "at": "2020-01-01T00:00:00Z"}).encode()
        self.refused(self.with_part("manifest.json", forged), "not restored: its signature does not hold")
        self.refused(self.with_part("signature.json", None), "its signature was taken out")
        for nonsense in (b"{}", b"[]", b"no JSON", b'{"key": 1, "signature": 2}', b'{"key": "00", "signature": "zz"}'):
            self.refused(self.with_part("signature.json", nonsense), "its signature does not hold")
        self.refused(self.with_part(job, b"{}"), "is damaged")
        self.refused(self.with_part("jobs/another.lumbek.json", b"{}"), "of which its manifest says nothing")
        with self.assertRaisesRegex(backup.BackupError, "is damaged"):
            backup.restore(self.settings("/nowhere"), self.with_part("database.dump", b"another"))
        # Called one of the older sort it is refused as well, unless somebody takes it on his own word.
        old = json.dumps({**manifest, "format": 1}).encode()
        self.refused(self.with_part("manifest.json", old), "it is not signed")

    def test_one_of_another_server_comes_in_by_its_key_only(self) -> None:
        file = self.made(new_database(demo=True))
        key = signed(self.key, b"")[1]
        other = str(self.file.with_name("other.key"))
        self.refused(file, f"signed by another server, whose key is {key}", other)
        self.assertFalse(Path(other).exists())
        self.refused(file, "signed by another server", other, signed_by="00" * 32)
        signed(other, b"")
        self.refused(file, "signed by another server", other)
        back = empty_database(f"restored_{new_id()[:8]}")
        self.assertIn("every table", backup.restore(self.settings(back, other), file, signed_by=key.upper()))

    def test_one_of_the_older_sort_comes_in_on_one_s_own_word(self) -> None:
        url = new_database(demo=True)
        self.made(url)
        with zipfile.ZipFile(self.file) as archive:
            manifest = json.loads(archive.read("manifest.json"))
        older = {each: manifest[each] for each in ("lumbek", "schema", "at", "sha256", "tables", "jobs")}
        old = self.with_part("manifest.json", json.dumps({"format": 1, **older}).encode())
        back = empty_database(f"restored_{new_id()[:8]}")
        self.assertIn("every table", backup.restore(self.settings(back), old, unsigned=True))
        self.assertEqual(rows(back), rows(url))

    def test_one_of_an_older_schema_is_brought_forward_its_chain_and_all(self) -> None:
        url = new_database(demo=True)
        # What the older schema has no place for is not there; that it is refused where it is, is another matter.
        without_inspections(url)
        command.downgrade(alembic_config(as_owner(url)), "0017")
        # That schema has no table for what an inspection says.
        said = mock.patch("lumbek.services.jobs.inspection_to", return_value=())
        with mock.patch.object(backup, "need_current"), said:
            self.made(url)
        back = empty_database(f"restored_{new_id()[:8]}")
        self.assertIn("brought forward", backup.restore(self.settings(back), self.file))
        links = "select count(*), count(*) filter (where what = 'audit') from audit_link"
        ((every, of_audit),) = run_sql(as_owner(back), links)
        self.assertEqual(run_sql(as_owner(back), "select count(*) from audit")[0][0], of_audit)
        self.assertGreater(every, of_audit + 10)

    def test_a_manifest_of_another_shape_is_told_in_words(self) -> None:
        self.made(new_database())
        for manifest in (
            b"[]",
            b"{}",
            b"null",
            b"no JSON",
            b'{"format": 2}',
            b'{"format": 2, "parts": []}',
            b'{"format": 2, "parts": {}, "tables": [1]}',
            b'{"format": 9}',
            b"\xff\xfe",
        ):
            self.refused(self.with_part("manifest.json", manifest), "no backup that can be read|is in it, of which")

    def test_one_unreadable_reading_is_named_and_no_reason_for_no_backup(self) -> None:
        url = new_database(demo=True)
        reading = run_sql(url, "select id from reading where circuit_id is not null order by id limit 1")[0][0]
        broken = "update reading set quantity = 'gone' where id = :id"
        with psycopg.connect(conninfo_of(as_owner(url))) as db:
            db.execute("alter table reading disable trigger only_added")
            db.execute(broken.replace(":id", "%s"), (reading,))
            db.execute("alter table reading enable trigger only_added")
        told = backup.make(self.settings(url), self.file)
        self.assertRegex(told, r"2 jobs, checked(.|\n)*in the backup: job .*quantity")
        with zipfile.ZipFile(self.file) as archive:
            (named,) = json.loads(archive.read("manifest.json"))["unreadable"]
            self.assertEqual(len([name for name in archive.namelist() if name.startswith("jobs/")]), 2)
        self.assertIn("quantity", named)

    def test_readable_to_nobody_else_from_the_first_byte_and_cleared_up_after_a_kill(self) -> None:
        url, folder = new_database(demo=True), self.file.parent
        # The dump is held up while it is written: what is there meanwhile is looked at, then it is killed.
        slow = folder / "slow"
        slow.mkdir()
        script = slow / "pg_dump"
        script.write_text(
            '#!/bin/sh\nfor each; do case $each in --file=*) echo half > "${each#--file=}";; esac; done\nsleep 60\n'
        )
        script.chmod(0o755)
        code = (
            "import os, sys; os.umask(0); from lumbek.ops import backup; from lumbek.settings import Settings; "
            "backup.binary = lambda name: sys.argv[2]; backup.make(Settings(), __import__('pathlib').Path(sys.argv[1]))"
        )
        said = environment(url, LUMBEK_KEY_FILE=self.key)
        with subprocess.Popen([sys.executable, "-c", code, str(self.file), str(script)], env=said, cwd=ROOT) as making:
            try:
                while not (
                    found := [each for each in folder.glob(".lumbek-backup-*/database.dump") if each.stat().st_size]
                ):
                    self.assertIsNone(making.poll())
                self.assertEqual({each.stat().st_mode & 0o077 for each in (*found, found[0].parent)}, {0})
                with self.assertRaisesRegex(backup.BackupError, "Another backup is being written"):
                    backup.make(self.settings(url), self.file)
            finally:
                making.kill()
        self.assertTrue(list(folder.glob(".lumbek-backup-*")))
        subprocess.run(["pkill", "-f", str(script)], check=False)
        shutil.rmtree(slow)
        self.made(url)
        self.assertEqual({each.name for each in folder.iterdir()}, {self.file.name, "lumbek.key"})

    def test_from_the_shell(self) -> None:
        url = new_database(demo=True)
        said = lumbek(url, "backup", str(self.file))
        self.assertEqual((said.returncode, "signed by" in said.stdout), (0, True), said.stderr)
        back = empty_database(f"restored_{new_id()[:8]}")
        forged = self.with_part("signature.json", b"{}")
        self.assertIn("its signature does not hold", lumbek(back, "restore", str(forged)).stderr)
        self.assertEqual(lumbek(back, "restore", str(self.file)).returncode, 0)
