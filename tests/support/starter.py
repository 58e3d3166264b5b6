"""Starts the application for tests: forked from a process that has loaded it, as `lumbek serve` forks its own.

To load it anew for every class of tests took an eighth of their time.
"""

import json
import os
import select
import signal
import subprocess
import sys
from contextlib import suppress
from typing import NoReturn

import uvicorn

from lumbek.api.app import make_app
from lumbek.ops.nursery import begin_nursery
from lumbek.ops.stopping import StoppedError, end_when_told, ignore, stoppable


class Started:
    """A process that was started, as it is seen from the tests; it is the starter's child, not theirs."""

    def __init__(self, pid: int) -> None:
        self.pid = pid
        self._fd = os.pidfd_open(pid)

    def send(self, told: signal.Signals) -> None:
        signal.pidfd_send_signal(self._fd, told)

    def wait(self, seconds: float) -> None:
        """Wait until it is gone. Raises TimeoutError."""
        gone = select.poll()
        gone.register(self._fd, select.POLLIN)
        if not gone.poll(1000 * seconds):
            raise TimeoutError(f"process {self.pid} did not end in {seconds:g} s")
        os.close(self._fd)


class Starter:
    """The process that starts applications, begun when the first is asked for."""

    def __init__(self, root: str) -> None:
        command = [sys.executable, "-m", "tests.support.starter"]
        self._process = subprocess.Popen(command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True, cwd=root)

    def start(self, port: int, environment: dict[str, str]) -> Started:
        """Start an application on a port, its settings in its environment."""
        assert self._process.stdin is not None and self._process.stdout is not None
        print(json.dumps([port, environment]), file=self._process.stdin, flush=True)
        return Started(int(self._process.stdout.readline()))

    def stop(self) -> None:
        self._process.communicate()


def main() -> None:
    """Start an application for each line, until there are no more: its port and environment."""
    begin_nursery()
    # Nobody asks how one ended: it is gone when it has.
    signal.signal(signal.SIGCHLD, signal.SIG_IGN)
    started = []
    try:
        with stoppable():
            for line in sys.stdin:
                port, environment = json.loads(line)
                pid = os.fork()
                if pid == 0:
                    _serve(port, environment)
                started.append(pid)
                print(pid, flush=True)
    except StoppedError:
        ignore()
    finally:
        # What a test that failed has left running.
        for pid in started:
            with suppress(ProcessLookupError):
                os.kill(pid, signal.SIGTERM)


def _serve(port: int, environment: dict[str, str]) -> NoReturn:
    code = 1
    try:
        signal.signal(signal.SIGCHLD, signal.SIG_DFL)
        end_when_told()
        # What the tests say to the starter, and it to them, is nothing to an application.
        nothing = os.open(os.devnull, os.O_RDWR)
        os.dup2(nothing, 0)
        os.dup2(2, 1)
        os.environ.update(environment)
        uvicorn.run(make_app(), host="127.0.0.1", port=port, log_level="warning")
        code = 0
    finally:
        os._exit(code)


if __name__ == "__main__":
    main()
