"""The process that heavy work is forked from, forked itself from one that has loaded the application.

Python would start it as a new program that loads everything once more, one for each process of the application: most of
the work of a start. So it has only to load what heavy work needs besides, and all processes share it.
"""

import atexit
import os
import socket
import sys
import tempfile
from collections.abc import Sequence
from contextlib import suppress
from multiprocessing import forkserver, resource_tracker
from pathlib import Path
from typing import NoReturn

from lumbek.api.pool import READY
from lumbek.ops.memory import keep_tables
from lumbek.ops.stopping import end_when_told

# What it and its processes are called where processes are listed.
NAME = "lumbek-nursery"
# Where the nursery is gone.
_PYTHONS_OWN = forkserver.connect_to_new_process


def begin_nursery() -> None:
    """Fork the process that this one, and whatever is forked from it, has heavy work forked from.

    To be called while no thread runs and no connection is open. Returns at once: it loads by itself.
    """
    # Before it is forked: heavy work gains most by it.
    keep_tables()
    nursery = _Nursery()
    nursery.begin()
    forkserver.connect_to_new_process = nursery.connect_to_new_process


class _Nursery(forkserver.ForkServer):
    """Python's server of forks, begun by a fork."""

    def begin(self) -> None:
        """Fork it."""
        resource_tracker.ensure_running()
        # Nobody else may ask it for a process: the folder is ours alone.
        folder = Path(tempfile.mkdtemp(prefix="lumbek-"))
        address = folder / "nursery"
        with socket.socket(socket.AF_UNIX) as listener:
            listener.bind(str(address))
            listener.listen()
            alive, self._forkserver_alive_fd = os.pipe()
            sys.stdout.flush()
            sys.stderr.flush()
            if os.fork() == 0:
                _be_it(listener.detach(), alive, address)
            os.close(alive)
        self._forkserver_address = str(address)
        # Told to end with everybody else it ends at once, and who began it has time to clear up.
        atexit.register(_clear, address, os.getpid())

    def ensure_running(self) -> None:
        """Leave it: it runs, or does not answer."""

    def connect_to_new_process(self, fds: Sequence[int]) -> tuple[int, int]:
        """Return the ends of the pipes to a new process; where this one is gone, Python starts one of its own."""
        try:
            return super().connect_to_new_process(fds)
        except OSError:
            os.close(self._forkserver_alive_fd)
            forkserver.connect_to_new_process = _PYTHONS_OWN
            return _PYTHONS_OWN(fds)


def _be_it(listening: int, alive: int, address: Path) -> NoReturn:
    """Fork processes until nobody is left who could ask for one."""
    try:
        Path("/proc/self/comm").write_text(NAME)
        end_when_told()
        # What else is open belongs to the other: a lock would be held, a port be taken, after that one has ended.
        for each in [int(fd.name) for fd in Path("/proc/self/fd").iterdir()]:
            if each > 2 and each not in (listening, alive):
                with suppress(OSError):
                    os.close(each)
        forkserver.main(listening, alive, [READY])
    except SystemExit:
        # Python's way of saying that nobody is left.
        pass
    except Exception:
        sys.excepthook(*sys.exc_info())
    finally:
        _clear(address, os.getpid())
        os._exit(0)


def _clear(address: Path, of: int) -> None:
    """Remove where it was asked; not by whoever was only forked from that process."""
    if os.getpid() == of:
        with suppress(OSError):
            address.unlink()
        with suppress(OSError):
            address.parent.rmdir()
