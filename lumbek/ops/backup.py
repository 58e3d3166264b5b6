"""Everything into one file, and back: the database as it was at one moment, and each job as its own file beside it.

The file is a ZIP: `database.dump` (PostgreSQL's own format), `manifest.json` (what is in it, each table with its rows
counted and summed up), and `jobs/`, which any Lumbek reads. Restored into an empty database, every table is compared.
"""

import hashlib
import json
import os
import re
import subprocess
import tempfile
import zipfile
from pathlib import Path
from typing import Any

import psycopg
from psycopg import sql

from lumbek import __version__
from lumbek.exchange.job_file import write_job
from lumbek.ops.cluster import binary
from lumbek.services.clock import now, stamp
from lumbek.services.jobs import JobService
from lumbek.services.person import Person
from lumbek.services.worked_out import Results
from lumbek.settings import Settings
from lumbek.store.address import conninfo_of, environment_of
from lumbek.store.chain import verify
from lumbek.store.database import Database
from lumbek.store.grants import grant
from lumbek.store.jobs import job_ids
from lumbek.store.migrate import need_current, revision_of, state_of, upgrade
from lumbek.store.people import firms

_FORMAT = 1
_DUMP, _MANIFEST = "database.dump", "manifest.json"
_TABLES = "SELECT tablename FROM pg_tables WHERE schemaname = 'public' ORDER BY tablename"
# A table's rows, summed up so that their order does not matter and every byte does.
_SUM = "SELECT count(*), coalesce(sum(('x' || substr(md5(t::text), 1, 15))::bit(60)::bigint), 0)::text FROM {} t"


class BackupError(Exception):
    """A backup that cannot be made or restored; the message says why. What was there before is there still."""


def make(settings: Settings, file: Path) -> str:
    """Write a backup; return what there is to say of it. Raises BackupError, and leaves no half of a file."""
    if file.exists():
        raise BackupError(f"{file} is there already: a backup never writes over another.")
    need_current(settings.owner_url)
    half = file.with_name(file.name + ".part")
    try:
        with tempfile.TemporaryDirectory(dir=file.parent) as folder:
            dump = Path(folder) / _DUMP
            manifest = _dump(settings, dump)
            with zipfile.ZipFile(half, "x", zipfile.ZIP_DEFLATED) as out:
                # The dump is compressed already.
                out.write(dump, _DUMP, zipfile.ZIP_STORED)
                jobs = _write_jobs(settings, out)
                out.writestr(_MANIFEST, json.dumps({**manifest, "jobs": jobs}, indent=1))
        half.chmod(0o600)
        _check(half)
        with half.open("rb") as written:
            os.fsync(written.fileno())
        half.rename(file)
    except OSError as error:
        raise BackupError(f"{file} cannot be written: {error.strerror}") from error
    finally:
        half.unlink(missing_ok=True)
    rows = sum(count for count, _ in manifest["tables"].values())
    return f"{file}: {rows} rows of {len(manifest['tables'])} tables, {jobs} jobs, checked."


def _put_in(url: str, file: Path) -> None:
    with tempfile.TemporaryDirectory() as folder:
        with zipfile.ZipFile(file) as archive:
            archive.extract(_DUMP, folder)
        _run(
            url,
            "pg_restore",
            "--exit-on-error",
            "--single-transaction",
            "--no-owner",
            "--no-privileges",
            f"--dbname={environment_of(url)['PGDATABASE']}",
            str(Path(folder) / _DUMP),
        )


def restore(settings: Settings, file: Path) -> str:
    """Put a backup into the owner's database, which must be empty; return what there is to say. Raises BackupError."""
    try:
        manifest = _check(file)
    except (OSError, zipfile.BadZipFile, KeyError, ValueError) as error:
        raise BackupError(f"{file} is no backup that can be read: {error}") from error
    url = settings.owner_url
    if state_of(url) != "empty" or _tables(url):
        raise BackupError("The database is not empty: a backup is only restored into one where nothing is.")
    _put_in(url, file)
    found = _summed(url)
    wrong = [table for table, summed in manifest["tables"].items() if found.get(table) != summed]
    if found != manifest["tables"]:
        raise BackupError(f"Not as it was backed up: {', '.join(wrong) or 'other tables'}. Do not use this database.")
    _need_chain(url)
    before = revision_of(url)
    upgrade(url)
    grant(url, settings.database_url)
    rows = sum(count for count, _ in found.values())
    later = "" if revision_of(url) == before else " It was brought forward to this Lumbek's schema then."
    return f"Restored {rows} rows of {len(found)} tables, every table as it was at {manifest['at']}.{later}"


def _dump(settings: Settings, dump: Path) -> dict[str, Any]:
    """Write the database as it is at one moment, and return what was in it at that moment."""
    url = settings.owner_url
    with psycopg.connect(conninfo_of(url)) as connection:
        connection.isolation_level = psycopg.IsolationLevel.REPEATABLE_READ
        connection.read_only = True
        snapshot = connection.execute("SELECT pg_export_snapshot()").fetchone()
        assert snapshot is not None
        _run(
            url,
            "pg_dump",
            "--format=custom",
            "--no-owner",
            "--no-privileges",
            f"--snapshot={snapshot[0]}",
            f"--file={dump}",
        )
        tables = _sum_up(connection)
    return {
        "format": _FORMAT,
        "lumbek": __version__,
        "schema": revision_of(url),
        "at": stamp(now()),
        "sha256": _sha256(dump),
        "tables": tables,
    }


def _write_jobs(settings: Settings, out: zipfile.ZipFile) -> int:
    """Write each job as its file, for whoever has no PostgreSQL at hand; return how many there are."""
    database = Database(settings.database_url)
    try:
        with database.transaction() as db:
            every = [(firm.id, firm.name, job_id) for firm in firms(db) for job_id in job_ids(db, firm.id)]
        jobs = JobService(database, Results())
        for firm_id, firm, job_id in every:
            job = jobs.whole(Person(job_id, firm_id, "backup", firm), job_id)
            name = re.sub(r"[^A-Za-z0-9]+", "-", f"{firm}-{job.name}").strip("-")[:80]
            out.writestr(f"jobs/{name}-{job_id}.lumbek.json", write_job(job))
    finally:
        database.close()
    return len(every)


def _check(file: Path) -> dict[str, Any]:
    """Return the manifest of a backup whose parts are all as they were written. Raises ValueError and KeyError."""
    with zipfile.ZipFile(file) as archive:
        broken = archive.testzip()
        if broken is not None:
            raise ValueError(f"{broken} is damaged")
        manifest: dict[str, Any] = json.loads(archive.read(_MANIFEST))
        if manifest["format"] != _FORMAT:
            raise ValueError(f"it is of format {manifest['format']}, and a newer Lumbek has written it")
        with archive.open(_DUMP) as dump:
            if hashlib.file_digest(dump, "sha256").hexdigest() != manifest["sha256"]:  # type: ignore[arg-type]
                raise ValueError("the database in it is damaged")
    manifest["tables"] = {table: tuple(summed) for table, summed in manifest["tables"].items()}
    return manifest


def _need_chain(url: str) -> None:
    database = Database(url)
    try:
        with database.transaction() as db:
            trouble = verify(db).trouble
    finally:
        database.close()
    if trouble:
        raise BackupError(f"The chain of the audit does not hold: {trouble}. Do not use this database.")


def _tables(url: str) -> list[str]:
    with psycopg.connect(conninfo_of(url)) as connection:
        return [str(row[0]) for row in connection.execute(_TABLES)]


def _summed(url: str) -> dict[str, tuple[int, str]]:
    with psycopg.connect(conninfo_of(url)) as connection:
        return _sum_up(connection)


def _sum_up(connection: "psycopg.Connection[tuple[Any, ...]]") -> dict[str, tuple[int, str]]:
    # Times and floats read alike wherever they are read.
    connection.execute("SET LOCAL timezone = 'UTC'")
    found = {}
    for (table,) in connection.execute(_TABLES).fetchall():
        row = connection.execute(sql.SQL(_SUM).format(sql.Identifier(table))).fetchone()
        assert row is not None
        found[str(table)] = (int(row[0]), str(row[1]))
    return found


def _run(url: str, program: str, *arguments: str) -> None:
    environment = {**os.environ, **environment_of(url)}
    done = subprocess.run([binary(program), *arguments], env=environment, capture_output=True, text=True, check=False)
    if done.returncode:
        raise BackupError(f"{program} failed: {done.stderr.strip()[:500]}")


def _sha256(path: Path) -> str:
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()
