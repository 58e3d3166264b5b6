"""`bin/demo`: the cluster under var/, the demo's data, and the application, until it is told to stop."""

import fcntl
import os
import subprocess
import sys
import threading
import time
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager, suppress
from pathlib import Path

import uvicorn
from sqlalchemy.exc import SQLAlchemyError

from lumbek.api.app import make_app
from lumbek.ops.cluster import ClusterError, PostgresCluster, free_port, is_free
from lumbek.ops.nursery import begin_nursery
from lumbek.ops.stopping import StoppedError, ignore, stoppable
from lumbek.services.demo import EMAIL, PASSWORD, issue_demo, load_demo
from lumbek.services.errors import ServiceError
from lumbek.settings import Settings
from lumbek.store.database import Database, DatabaseGoneError
from lumbek.store.grants import grant
from lumbek.store.migrate import upgrade

# The same address at every start, as long as nothing else has it.
PREFERRED_PORT = 8321
TESTER_PORT = 8431
MAIL_PORT = 8425
OFFICE_PORT = 8433
ROOT = Path(__file__).resolve().parents[2]
_SECONDS = 60.0


class CannotStartError(Exception):
    """The demo cannot be started so; the message says why, in one sentence."""


class RunsAlreadyError(Exception):
    """A demo of this checkout runs already; the message is its address."""


def main() -> int:
    """Run the demo; 0 when it was stopped, or runs already."""
    try:
        with stoppable(), _alone(ROOT / "var" / "demo.lock") as said:
            port = _port(os.environ.get("LUMBEK_PORT", ""))
            cluster = PostgresCluster(ROOT / "var" / "demo")
            try:
                _serve(cluster, port, said)
            finally:
                ignore()
                cluster.stop()
    except RunsAlreadyError as running:
        print(f"\n  Lumbek runs already at {running}; stop it there first to start it anew.\n")
    except (ClusterError, CannotStartError) as error:
        print(error, file=sys.stderr)
        return 1
    except StoppedError:
        pass
    return 0


def _issue(database: Database, settings: Settings) -> None:
    """Issue the papers of the house that was inspected, where they are not issued yet."""
    with suppress(DatabaseGoneError, SQLAlchemyError, ServiceError):
        issue_demo(database, settings)
    database.close()


def _serve(cluster: PostgresCluster, port: int, said: Path) -> None:
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
    with _standins(ROOT / "var" / "demo"):
        uvicorn.run(make_app(settings), host="127.0.0.1", port=port, log_level="warning")


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


def _port(wanted: str) -> int:
    """Return the port to listen on. Raises CannotStartError for one that is no port, or is taken."""
    if not wanted:
        return free_port(preferred=PREFERRED_PORT)
    if not (wanted.isascii() and wanted.isdigit() and 0 < int(wanted) < 65536):
        raise CannotStartError(f"LUMBEK_PORT must be a number from 1 to 65535, not {wanted[:40]!r}.")
    if int(wanted) < 1024 and os.geteuid() != 0:
        raise CannotStartError(f"LUMBEK_PORT: only root may listen on {wanted}; choose 1024 or more.")
    if not is_free(int(wanted)):
        raise CannotStartError(f"LUMBEK_PORT: something listens on {wanted} already; choose another.")
    return int(wanted)


@contextmanager
def _alone(lock: Path) -> Iterator[Path]:
    """Hold this checkout's demo for oneself; yield the file that others read its address from.

    Raises RunsAlreadyError where another holds it. The lock goes with the process, however that ends.
    """
    lock.parent.mkdir(parents=True, exist_ok=True)
    said = lock.with_suffix(".address")
    with lock.open("w") as held:
        try:
            fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            raise RunsAlreadyError(_address(said)) from None
        said.unlink(missing_ok=True)
        try:
            yield said
        finally:
            said.unlink(missing_ok=True)


def _address(said: Path) -> str:
    """Return the address of the demo that runs; while it is still starting, wait for it to be said."""
    end = time.monotonic() + _SECONDS
    while time.monotonic() < end:
        if said.is_file() and (address := said.read_text()):
            return address
        time.sleep(0.1)
    return "an address it has not said yet"


if __name__ == "__main__":
    sys.exit(main())
