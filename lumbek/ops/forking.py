"""Several processes of one application, forked from the one that has loaded it: it is loaded once for all of them.

uvicorn starts each as a new Python, which loads everything anew: on a busy machine that took longer than a
process was given to answer.
"""

import multiprocessing
import signal
import socket

import uvicorn
from uvicorn._subprocess import subprocess_started
from uvicorn.supervisors import multiprocess

_fork = multiprocessing.get_context("fork")


class _Forked(multiprocess.Process):
    """A process of the application. The one it is forked from runs no thread and holds no connection."""

    def __init__(self, config: uvicorn.Config, sockets: list[socket.socket]) -> None:
        super().__init__(config, sockets)
        said = {"config": config, "target": self.target, "sockets": sockets, "stdin_fileno": None}
        self.process = _fork.Process(target=subprocess_started, kwargs=said)  # type: ignore[assignment]

    def start(self) -> None:
        """Start it. Its end of the pipe is its own from then on: nobody waits for an answer of one that ended."""
        super().start()
        self.child_conn.close()

    def target(self, sockets: list[socket.socket] | None = None) -> None:
        """Serve, in the new process."""
        # Until the server listens to them itself, signals would only be noted, as the first process does.
        for name in multiprocess.SIGNALS:
            signal.signal(name, signal.SIG_DFL)
        super().target(sockets)


def serve_in_several(config: uvicorn.Config, listening: socket.socket) -> None:
    """Serve in as many processes as are asked for, until told to stop; one that ends is started again."""
    multiprocess.Process = _Forked  # type: ignore[misc]
    multiprocess.Multiprocess(config, [listening]).run()
