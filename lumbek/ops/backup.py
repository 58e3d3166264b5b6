"""Everything into one file, and back: the database as it was at one moment, and each job as its own file beside it.

The file is a ZIP: `database.dump` (PostgreSQL's own format), `jobs/`, which any Lumbek reads, `manifest.json` (every
other part with its hash, each table with its rows counted and summed up), and `signature.json` over that. Restored into
an empty database, every table is compared.
"""

import fcntl
import hashlib
import json
import os
import re
import shutil
import subprocess
import tempfile
import zipfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import IO, Any

import psycopg
from psycopg import sql
from pydantic import ValidationError

from lumbek import __version__
from lumbek.exchange.job_file import write_job
from lumbek.exchange.problems import problems_of
from lumbek.ops.cluster import binary
from lumbek.ops.signing import ForgedError, check_signature, signed
from lumbek.services.clock import now, stamp
from lumbek.services.errors import ServiceError
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

# The first format was not signed, and said nothing of jobs that could not be read.
_FORMAT, _UNSIGNED = 2, 1
_DUMP, _MANIFEST, _SIGNATURE = "database.dump", "manifest.json", "signature.json"
# What a backup that was killed leaves behind begins so.
_HALF = ".lumbek-backup-"
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
    try:
        with _alone_in(file.parent), tempfile.TemporaryDirectory(prefix=_HALF, dir=file.parent) as folder:
            half = Path(folder) / "half"
            manifest, key = _write(settings, half, Path(folder) / _DUMP)
            _check(half)
            _keep(half)
            half.rename(file)
            _keep(file.parent)
    except OSError as error:
        raise BackupError(f"{file} cannot be written: {error.strerror}") from error
    rows = sum(count for count, _ in manifest["tables"].values())
    said = (
        f"{file}: {rows} rows of {len(manifest['tables'])} tables, {manifest['jobs']} jobs, checked; signed by {key}."
    )
    unread = "".join(
        f"\nNot written as a file of its own, but in the backup: {each}" for each in manifest["unreadable"]
    )
    return said + unread


@contextmanager
def _alone_in(folder: Path) -> Iterator[None]:
    """Hold a folder while a backup is written into it; what one that was killed left there is cleared away."""
    handle = os.open(folder, os.O_RDONLY)
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
        for left in folder.glob(f"{_HALF}*"):
            shutil.rmtree(left)
        yield
    except BlockingIOError as error:
        raise BackupError(f"Another backup is being written into {folder}.") from error
    finally:
        os.close(handle)


def _private(path: Path) -> IO[bytes]:
    """Open a file that nobody but its owner may read, from its first byte on."""
    return os.fdopen(os.open(path, os.O_RDWR | os.O_CREAT, 0o600), "r+b")


def _keep(path: Path) -> None:
    """Have the disk keep what was written."""
    handle = os.open(path, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)


def _write(settings: Settings, half: Path, dump: Path) -> tuple[dict[str, Any], str]:
    """Write every part, and the signature over what they are; return the manifest and the key that signed it."""
    _private(dump).close()
    manifest = _dump(settings, dump)
    with _private(half) as opened, zipfile.ZipFile(opened, "w", zipfile.ZIP_DEFLATED) as out:
        # The dump is compressed already.
        out.write(dump, _DUMP, zipfile.ZIP_STORED)
        parts, unreadable = _write_jobs(settings, out)
        manifest |= {"jobs": len(parts), "unreadable": unreadable, "parts": {_DUMP: manifest["sha256"], **parts}}
        content = json.dumps(manifest, indent=1).encode()
        signature, key = signed(settings.key_file, content)
        out.writestr(_MANIFEST, content)
        out.writestr(_SIGNATURE, signature)
    return manifest, key


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


def restore(settings: Settings, file: Path, signed_by: str = "", unsigned: bool = False) -> str:
    """Put a backup into the owner's database, which must be empty; return what there is to say. Raises BackupError.

    It must be signed by this server, or by the key that is named; one of an older Lumbek, `unsigned`, is taken on one's
    own word.
    """
    try:
        manifest = _check(file)
        _check_who(settings, file, manifest, signed_by, unsigned)
    except ForgedError as error:
        raise BackupError(f"{file} is not restored: {error}.") from error
    except (OSError, zipfile.BadZipFile, KeyError, ValueError, TypeError, AttributeError) as error:
        raise BackupError(f"{file} is no backup that can be read: {_said(error)}") from error
    url = settings.owner_url
    if state_of(url) != "empty" or _tables(url):
        raise BackupError("The database is not empty: a backup is only restored into one where nothing is.")
    _put_in(url, file)
    found = _summed(url)
    wrong = [table for table, summed in manifest["tables"].items() if found.get(table) != summed]
    if found != manifest["tables"]:
        raise BackupError(f"Not as it was backed up: {', '.join(wrong) or 'other tables'}. Do not use this database.")
    before = revision_of(url)
    upgrade(url)
    # Links of an older schema are as they were; what had none then is linked behind them.
    _need_chain(url)
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


def _write_jobs(settings: Settings, out: zipfile.ZipFile) -> tuple[dict[str, str], list[str]]:
    """Write each job as its file, for whoever has no PostgreSQL at hand; return their hashes by name.

    One that cannot be read, whatever is wrong in it, is named with the reason: it is in the dump as it is.
    """
    database = Database(settings.database_url)
    parts, unreadable = dict[str, str](), list[str]()
    try:
        with database.transaction() as db:
            every = [(firm.id, firm.name, job_id) for firm in firms(db) for job_id in job_ids(db, firm.id)]
        jobs = JobService(database, Results())
        for firm_id, firm, job_id in every:
            try:
                job = jobs.whole(Person(job_id, firm_id, "backup", firm), job_id)
                content = write_job(job).encode()
            except (ValueError, KeyError, TypeError, AttributeError, ServiceError) as error:
                unreadable.append(f"job {job_id} of {firm}: {_said(error)}")
                continue
            called = re.sub(r"[^A-Za-z0-9]+", "-", f"{firm}-{job.name}").strip("-")[:80]
            name = f"jobs/{called}-{job_id}.lumbek.json"
            out.writestr(name, content)
            parts[name] = hashlib.sha256(content).hexdigest()
    finally:
        database.close()
    return parts, unreadable


def _said(error: Exception) -> str:
    """Return what an error says in one line: of data that does not fit, the field and the reason."""
    if isinstance(error, ValidationError):
        return "; ".join(f"{each.field}: {each.reason}" for each in problems_of(error, most=3))
    if isinstance(error, KeyError):
        return f"it has no {error.args[0]}"
    return " ".join(str(error).split())


def _check(file: Path) -> dict[str, Any]:
    """Return the manifest of a backup whose parts are all as they were written.

    Raises ValueError and the like for what is none.
    """
    with zipfile.ZipFile(file) as archive:
        broken = archive.testzip()
        if broken is not None:
            raise ValueError(f"{broken} is damaged")
        manifest: dict[str, Any] = json.loads(archive.read(_MANIFEST))
        if manifest["format"] not in (_UNSIGNED, _FORMAT):
            raise ValueError(f"it is of format {manifest['format']}, and a newer Lumbek has written it")
        parts = manifest["parts"] if manifest["format"] == _FORMAT else {_DUMP: manifest["sha256"]}
        strangers = set(archive.namelist()) - {*parts, _MANIFEST, _SIGNATURE}
        if strangers and manifest["format"] == _FORMAT:
            raise ValueError(f"{min(strangers)} is in it, of which its manifest says nothing")
        for name, hashed in parts.items():
            with archive.open(name) as part:
                if hashlib.file_digest(part, "sha256").hexdigest() != hashed:  # type: ignore[arg-type]
                    raise ValueError("the database in it is damaged" if name == _DUMP else f"{name} is damaged")
    manifest["tables"] = {table: (int(count), str(summed)) for table, (count, summed) in manifest["tables"].items()}
    return manifest


def _check_who(settings: Settings, file: Path, manifest: dict[str, Any], signed_by: str, unsigned: bool) -> None:
    """See that somebody who is trusted has signed a backup. Raises ForgedError."""
    if manifest["format"] == _UNSIGNED:
        if not unsigned:
            raise ForgedError("it is not signed, as those of older Lumbeks are not: say --unsigned if you trust it")
        return
    with zipfile.ZipFile(file) as archive:
        if _SIGNATURE not in archive.namelist():
            raise ForgedError("its signature was taken out")
        check_signature(settings.key_file, archive.read(_MANIFEST), archive.read(_SIGNATURE).decode(), signed_by)


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
