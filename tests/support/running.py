"""Running Lumbek from the shell on a database of a test's own."""

import os
import subprocess
import sys
from contextlib import suppress
from pathlib import Path

import psycopg

from lumbek.store.address import conninfo_of
from tests.support.stack import ROOT, as_application, as_owner, cluster


def environment(url: str, **more: str) -> dict[str, str]:
    said = {"LUMBEK_DATABASE_URL": as_application(url), "LUMBEK_OWNER_DATABASE_URL": as_owner(url)}
    return {**os.environ, **said, **more}


def lumbek(url: str, *arguments: str) -> subprocess.CompletedProcess[str]:
    command = [sys.executable, "-m", "lumbek.cli", *arguments]
    return subprocess.run(command, env=environment(url), capture_output=True, text=True, cwd=ROOT, check=False)


def serving_at(port: int) -> list[str]:
    """The processes that were told to serve at a port."""
    said, found = f"LUMBEK_PORT={port}".encode(), []
    for each in Path("/proc").glob("[0-9]*/environ"):
        with suppress(OSError):
            found += [each.parent.name] * (said in each.read_bytes().split(b"\0"))
    return found


def empty_database(name: str) -> str:
    cluster().make_database(name)
    return f"/{name}"


def without_inspections(url: str) -> None:
    """Take out what the schemas before inspections, prices, quotes and practice have no place for."""
    emptied(url, "inspection_record", "price_list", "quote", "quote_answer", "quote_offer")
    emptied(url, "practice_act", "practice_run", "practice_set")


def emptied(url: str, *tables: str) -> None:
    """Take everything out of tables that are only added to."""
    with psycopg.connect(conninfo_of(as_owner(url))) as db:
        for table in tables:
            db.execute(f"alter table {table} disable trigger only_added")
            db.execute(f"delete from {table}")
            db.execute(f"alter table {table} enable trigger only_added")


def rows(url: str) -> dict[str, list[tuple[object, ...]]]:
    """Everything in a database, to be compared."""
    with psycopg.connect(conninfo_of(as_owner(url))) as db:
        tables = [each[0] for each in db.execute("select tablename from pg_tables where schemaname = 'public'")]
        return {table: sorted(db.execute(f"select t::text from {table} t").fetchall()) for table in tables}
