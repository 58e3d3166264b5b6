"""`bin/demo`: the cluster under var/, the demo's data, and the application, until it is told to stop."""

import fcntl
import os
import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from lumbek.ops.cluster import ClusterError, PostgresCluster, free_port, is_free
from lumbek.ops.stopping import StoppedError, ignore, stoppable

# The same address at every start, as long as nothing else has it.
PREFERRED_PORT = 8321
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
                # Loaded now that it is sure that it can start: who chose a port that is taken is told at once.
                from lumbek.ops.demo_house import serve_demo  # noqa: PLC0415

                serve_demo(cluster, port, said)
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
