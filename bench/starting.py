"""What a start costs: python -m bench.starting.

Processor time of `lumbek serve` until it has loaded all it will, heavy work's helper too, with one process and with
four: beside that of a Python that loads the libraries it stands on, and nothing of ours.
"""

import os
import subprocess
import sys
import time
from contextlib import suppress
from pathlib import Path

from lumbek.ops.cluster import free_port, wait_for
from tests.support.running import environment, serving_at
from tests.support.stack import ROOT, new_database, stop_stack

LIBRARIES = "fastapi, sqlalchemy.orm, psycopg, pydantic, numpy, scipy.optimize, weasyprint, jinja2, uvicorn"
TICKS = os.sysconf("SC_CLK_TCK")
# So long nothing happens once all is loaded.
QUIET_S = 1.5


def main() -> int:
    try:
        url = new_database(demo=True)
        bare = min(_bare_s() for _ in range(3))
        print(f"the libraries alone: {bare:.2f} s of a processor, as {LIBRARIES}")
        for workers in (1, 4):
            took = min((_start_s(url, workers) for _ in range(3)), key=lambda each: each[1])
            answers, whole = took
            print(f"{workers} of its processes: answers after {answers:.1f} s, {whole:.2f} s of a processor in all, "
                  f"{whole / bare:.1f} times the libraries")  # fmt: skip
    finally:
        stop_stack()
    return 0


def _bare_s() -> float:
    before = os.times()
    subprocess.run([sys.executable, "-c", f"import {LIBRARIES}"], check=True, cwd=ROOT)
    after = os.times()
    return after.children_user + after.children_system - before.children_user - before.children_system


def _start_s(url: str, workers: int) -> tuple[float, float]:
    """Return the seconds until it answers, and those of a processor until it has nothing more to load."""
    port = free_port()
    known = environment(
        url, LUMBEK_PORT=str(port), LUMBEK_WORKERS=str(workers), LUMBEK_DEMO="false", LUMBEK_LOG_LEVEL="ERROR"
    )
    began = time.monotonic()
    server = subprocess.Popen([sys.executable, "-m", "lumbek.cli", "serve"], env=known, cwd=ROOT)
    try:
        assert wait_for(port)
        answers = time.monotonic() - began
        used, since = _used_s(port), time.monotonic()
        while time.monotonic() - since < QUIET_S:
            time.sleep(0.1)
            now = _used_s(port)
            # What runs idle looks round now and then.
            if now - used > 0.05:
                used, since = now, time.monotonic()
        return answers, used
    finally:
        server.terminate()
        server.wait()


def _used_s(port: int) -> float:
    """Return what the processes that serve at a port have used of a processor, those that have ended with them."""
    used = 0
    for each in serving_at(port):
        with suppress(OSError):
            used += sum(map(int, Path(f"/proc/{each}/stat").read_text().rsplit(")", 1)[1].split()[11:15]))
    return used / TICKS


if __name__ == "__main__":
    sys.exit(main())
