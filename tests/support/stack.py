"""What the API and browser tests run on: one throw-away cluster, a database of its own for each application."""

import functools
import itertools
import os
import signal
import tempfile
from pathlib import Path
from typing import Any

from argon2 import PasswordHasher
from sqlalchemy import text

from lumbek.ops.cluster import PostgresCluster, free_port, wait_for
from lumbek.services import passwords
from lumbek.services.demo import load_demo
from lumbek.store.database import Database
from lumbek.store.grants import grant
from lumbek.store.migrate import upgrade
from tests.support.starter import Started, Starter

# A password costs a quarter of a second of a processor, as it should; in tests there are hundreds.
passwords._hasher = PasswordHasher(time_cost=1, memory_cost=64, parallelism=1)

ROOT = Path(__file__).resolve().parents[2]
_cluster: PostgresCluster | None = None
_counter = itertools.count(1)
_made: set[str] = set()


def cluster() -> PostgresCluster:
    """Return the tests' cluster, started when first asked for."""
    global _cluster  # noqa: PLW0603 - one cluster for the whole run
    if _cluster is None:
        (ROOT / "var").mkdir(exist_ok=True)
        _clear_up()
        folder = Path(tempfile.mkdtemp(prefix=f"test-{os.getpid()}-", dir=ROOT / "var"))
        folder.chmod(0o755)
        _cluster = PostgresCluster(folder, durable=False)
        _cluster.start()
    return _cluster


def _clear_up() -> None:
    """Remove the clusters of runs that were killed."""
    for left in (ROOT / "var").glob("test-*-*"):
        owner = left.name.split("-")[1]
        if owner.isdigit() and not Path(f"/proc/{owner}").exists():
            PostgresCluster(left).remove()


def stop_stack() -> None:
    if _starter.cache_info().currsize:
        _starter().stop()
    if _cluster is not None:
        _cluster.remove()


def new_database(demo: bool = False) -> str:
    """Return the superuser's address of a fresh, migrated database, with the demo's data if asked."""
    like = "like_demo" if demo else "like_new"
    if like not in _made:
        _made.add(like)
        _make(like, demo)
    name = f"test_{next(_counter)}"
    cluster().make_database(name, like)
    return _named(cluster().superuser_url, name)


def _make(name: str, demo: bool) -> None:
    """Make a database that others are copied from: to migrate each anew would take most of the tests' time."""
    cluster().make_database(name)
    owner, url = (_named(base, name) for base in (cluster().owner_url, cluster().superuser_url))
    upgrade(owner)
    grant(owner, as_application(url))
    if demo:
        database = Database(url)
        load_demo(database)
        database.close()


def _named(base: str, name: str) -> str:
    return base.rsplit("/", 1)[0] + "/" + name


def run_sql(url: str, statement: str, **values: object) -> list[Any]:
    """Do something to a database behind the application's back; return the rows it answers with."""
    database = Database(url)
    try:
        with database.transaction() as db:
            found = db.execute(text(statement), values)
            return list(found.all()) if found.returns_rows else []
    finally:
        database.close()


def as_application(url: str) -> str:
    """Return the address of a database as the application has it: tests themselves may do anything there."""
    return _named(cluster().url, url.rsplit("/", 1)[1])


def as_owner(url: str) -> str:
    """Return the address of a database as whoever upgrades it has it."""
    return _named(cluster().owner_url, url.rsplit("/", 1)[1])


class Server:
    """The application in a process of its own, as it runs for users; it can be killed like one."""

    def __init__(self, database_url: str) -> None:
        self.database_url = database_url
        self.port = free_port()
        self.process: Started | None = None

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def start(self) -> "Server":
        environment = {
            "LUMBEK_DATABASE_URL": as_application(self.database_url),
            "LUMBEK_DEMO": "true",
            "LUMBEK_SECURE_COOKIES": "false",
            "LUMBEK_LOG_LEVEL": "WARNING",
        }
        self.process = _starter().start(self.port, environment)
        if not wait_for(self.port):
            self.kill()
            raise RuntimeError("the application did not start")
        return self

    def kill(self) -> None:
        """Kill it as the power failing would."""
        self._end(signal.SIGKILL)

    def stop(self) -> None:
        self._end(signal.SIGTERM)

    def _end(self, told: signal.Signals) -> None:
        if self.process:
            self.process.send(told)
            self.process.wait(60)
            self.process = None


@functools.cache
def _starter() -> Starter:
    return Starter(str(ROOT))
