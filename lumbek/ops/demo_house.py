"""What `bin/demo` runs once it is sure that it can: the cluster, the demo's houses, the application, its stand-ins."""

import subprocess
import sys
import threading
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager, suppress
from pathlib import Path

import uvicorn
from sqlalchemy.exc import SQLAlchemyError

from lumbek.api.app import make_app
from lumbek.ops.cluster import PostgresCluster, is_free
from lumbek.ops.nursery import begin_nursery
from lumbek.services.demo import EMAIL, PASSWORD, issue_demo, load_demo
from lumbek.services.errors import ServiceError
from lumbek.settings import Settings
from lumbek.store.database import Database, DatabaseGoneError
from lumbek.store.grants import grant
from lumbek.store.migrate import upgrade

TESTER_PORT = 8431
MAIL_PORT = 8425
OFFICE_PORT = 8433


def serve_demo(cluster: PostgresCluster, port: int, said: Path) -> None:
    """Run the demo on a cluster until it is told to stop, and write its address where it is looked for."""
    begin_nursery()
    cluster.start()
    upgrade(cluster.owner_url)
    grant(cluster.owner_url, cluster.url)
    database = Database(cluster.url)
    fresh = load_demo(database)
    address = f"http://127.0.0.1:{port}"
    settings = Settings(
        database_url=cluster.url,
        port=port,
        demo=True,
        secure_cookies=False,
        log_level="WARNING",
        public_address=address,
        smtp_url=f"smtp://127.0.0.1:{MAIL_PORT}",
        office_url=f"http://127.0.0.1:{OFFICE_PORT}",
    )
    # Setting and signing pages takes seconds, which nobody waits for.
    threading.Thread(target=_issue, args=(database, settings), name="issue", daemon=True).start()
    print(f"\n  Lumbek runs at {address}")
    print(f"  Sign in as {EMAIL} with {PASSWORD}")
    print(f"  {'Demo data loaded' if fresh else 'What was entered before is kept'}; Ctrl-C stops it.\n", flush=True)
    said.write_text(address)
    with _standins(cluster.folder):
        uvicorn.run(make_app(settings), host="127.0.0.1", port=port, log_level="warning")


def _issue(database: Database, settings: Settings) -> None:
    """Issue the papers of the house that was inspected, where they are not issued yet."""
    with suppress(DatabaseGoneError, SQLAlchemyError, ServiceError):
        issue_demo(database, settings)
    database.close()


@contextmanager
def _standins(folder: Path) -> Iterator[None]:
    """Run the simulated tester, mail server and office beside the demo: processes that go when the demo does."""
    mail, office = folder / "mail", folder / "office"
    wanted = (
        (
            TESTER_PORT,
            ["tester", "--mishap", "cut core"],
            f"A simulated tester listens at ws://127.0.0.1:{TESTER_PORT}",
        ),
        (MAIL_PORT, ["mailbox", "--folder", str(mail)], f"Mail that it sends lands in {mail}"),
        (OFFICE_PORT, ["office", "--folder", str(office)], f"Work that it notifies lands in {office}"),
    )
    with ExitStack() as running:
        for port, (name, *more), said in wanted:
            if is_free(port):
                running.enter_context(_beside([f"lumbek.standins.{name}", "--port", str(port), *more]))
                print(f"  {said}", flush=True)
        print(flush=True)
        yield


@contextmanager
def _beside(module: list[str]) -> Iterator[None]:
    # However the demo ends, its end of the pipe closes with it, and the stand-in stops.
    command = [sys.executable, "-m", *module, "--with-parent"]
    process = subprocess.Popen(command, stdin=subprocess.PIPE, stdout=subprocess.DEVNULL)
    try:
        yield
    finally:
        process.terminate()
        process.wait(timeout=10)
