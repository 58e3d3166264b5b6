"""Run the tests and say at the end, on a line of its own, how many passed and failed.

Classes of tests are handed out to a few workers as they are found, the slow kinds first; each worker has its own
throw-away cluster, and the tests of the pages' own code run beside them.
With one name or on one core everything runs in this process.
"""

import json
import os
import subprocess
import sys
import threading
import time
import unittest
from collections.abc import Iterable, Iterator
from dataclasses import asdict, dataclass, field
from itertools import chain, repeat
from pathlib import Path
from queue import Queue

from lumbek.ops.memory import keep_tables
from lumbek.ops.stopping import StoppedError, ignore, stoppable
from tests.support.stack import stop_stack

HERE = Path(__file__).parent
ROOT = HERE.parent
# The longest first, so that no worker is left alone with one of them at the end.
KINDS = ("browser", "ops", "trials", "api", "core")
# What the tests of the pages' own code say.
_FOUND = ROOT / "var" / "vitest.json"


class Result(unittest.TextTestResult):
    """A result that counts what passed."""

    passed = 0

    def addSuccess(self, test: unittest.TestCase) -> None:
        super().addSuccess(test)
        self.passed += 1


def suite(names: list[str]) -> unittest.TestSuite:
    """Return the tests named: a folder of tests, or a dotted name; all of them without names."""
    loader = unittest.TestLoader()
    found = unittest.TestSuite()
    for name in names or KINDS:
        if (HERE / name).is_dir():
            found.addTest(loader.discover(str(HERE / name), top_level_dir=str(ROOT)))
        else:
            found.addTest(loader.loadTestsFromName(name))
    return found


def cases(of: unittest.TestSuite) -> Iterator[unittest.TestCase]:
    """Yield every single test."""
    for each in of:
        if isinstance(each, unittest.TestSuite):
            yield from cases(each)
        else:
            yield each


@dataclass
class Count:
    """How many tests passed and were skipped, and the names of those that failed."""

    passed: int = 0
    skipped: int = 0
    failed: list[str] = field(default_factory=list)

    def add(self, other: "Count") -> None:
        """Take in what was counted elsewhere."""
        self.passed += other.passed
        self.skipped += other.skipped
        self.failed += other.failed


def run(tests: unittest.TestSuite) -> Count:
    """Run tests here."""
    result = unittest.TextTestRunner(resultclass=Result, verbosity=1, buffer=True).run(tests)
    failed = [test for test, _ in (*result.failures, *result.errors)] + result.unexpectedSuccesses
    return Count(result.passed, len(result.skipped), [test.id() for test in failed])


def work() -> int:
    """Be a worker: run each class named on standard input, answer with what it counted and its seconds."""
    answers = os.fdopen(os.dup(1), "w")
    # What tests print is no answer.
    os.dup2(2, 1)
    try:
        keep_tables()
        with stoppable():
            for name in sys.stdin:
                began = time.monotonic()
                answer = asdict(run(suite([name.strip()])))
                answers.write(json.dumps([answer, time.monotonic() - began]) + "\n")
                answers.flush()
    except StoppedError:
        return 1
    finally:
        ignore()
        stop_stack()
    return 0


def share_out(names: Iterable[str], workers: int) -> Count:
    """Run these classes in so many workers, and say which took longest."""
    queue: Queue[str | None] = Queue()
    total = Count()
    took: dict[str, float] = {}
    lock = threading.Lock()
    processes = [
        subprocess.Popen(
            [sys.executable, "-m", "tests.run", "--work"],
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            stderr=subprocess.PIPE,
            text=True,
            cwd=ROOT,
        )
        for _ in range(workers)
    ]

    def drain(process: "subprocess.Popen[str]") -> None:
        assert process.stderr is not None
        for line in process.stderr:
            sys.stderr.write(line)

    def feed(process: "subprocess.Popen[str]") -> None:
        assert process.stdin is not None and process.stdout is not None
        while (name := queue.get()) is not None:
            process.stdin.write(name + "\n")
            process.stdin.flush()
            answer = process.stdout.readline()
            # A worker that is gone has failed at what it was given.
            counts, took_s = json.loads(answer) if answer else ({"failed": [f"{name} (its worker ended)"]}, 0.0)
            with lock:
                total.add(Count(**counts))
                took[name] = took_s
            if not answer:
                break
        process.stdin.close()
        process.wait()

    threads = [threading.Thread(target=what, args=(each,), daemon=True) for each in processes for what in (drain, feed)]
    try:
        for thread in threads:
            thread.start()
        for name in chain(names, repeat(None, workers)):
            queue.put(name)
        for thread in threads:
            thread.join()
    except BaseException:
        for process in processes:
            process.terminate()
        raise
    # What nobody was left to run has not passed.
    total.failed += [f"{name} (not run)" for name in queue.queue if name is not None]
    print("took longest:")
    for name in sorted(took, key=lambda name: -took[name])[:15]:
        print(f"{took[name]:7.1f} s  {name}")
    for kind in KINDS:
        mine = [took_s for name, took_s in took.items() if name.startswith(f"tests.{kind}.")]
        print(f"{sum(mine):7.1f} s  all of {kind}, {len(mine)} classes")
    return total


def begin_pages() -> "subprocess.Popen[bytes]":
    """Begin the tests of the pages' own code."""
    _FOUND.unlink(missing_ok=True)
    told = ["--reporter=default", "--reporter=json", f"--outputFile={_FOUND}"]
    return subprocess.Popen(["npx", "--no-install", "vitest", "run", *told], cwd=ROOT / "web", stdout=sys.stderr)


def end_pages(begun: "subprocess.Popen[bytes]") -> Count:
    """Wait for the tests of the pages' own code."""
    begun.wait()
    if not _FOUND.is_file():
        return Count(failed=["vitest (it said nothing)"])
    told = json.loads(_FOUND.read_text())
    failed = []
    for each in told["testResults"]:
        names = [one["fullName"] for one in each["assertionResults"] if one["status"] == "failed"]
        failed += names or ([each["name"]] if each["status"] == "failed" else [])
    return Count(told["numPassedTests"], told["numPendingTests"], failed)


def classes(names: list[str]) -> Iterator[str]:
    """Yield the classes of these tests by name, as they are found."""
    seen = set()
    for name in names or KINDS:
        for each in cases(suite([name])):
            # What cannot be loaded is asked for by its own name, and says why.
            found = (
                each.id().removeprefix("unittest.loader._FailedTest.")
                if type(each).__name__ == "_FailedTest"
                else f"{type(each).__module__}.{type(each).__qualname__}"
            )
            if found not in seen:
                seen.add(found)
                yield found


def main() -> int:
    if sys.argv[1:] == ["--work"]:
        return work()
    names = [name for name in sys.argv[1:] if name != "web"]
    # Two more than there are cores: a worker with a browser waits for half of its time.
    cores = os.cpu_count() or 1
    workers = min(cores + 2, 4) if cores > 1 else 1
    total, beside = Count(), None
    try:
        with stoppable():
            if not sys.argv[1:] or "web" in sys.argv[1:]:
                beside = begin_pages()
            if names or not sys.argv[1:]:
                alone = workers == 1 or any(name not in KINDS for name in names)
                total.add(run(suite(names)) if alone else share_out(classes(names), workers))
            if beside is not None:
                total.add(end_pages(beside))
    except StoppedError:
        if beside is not None:
            beside.terminate()
        return 1
    finally:
        ignore()
        stop_stack()
    for name in total.failed:
        print(f"failed: {name}")
    print(f"{total.passed} passed, {len(total.failed)} failed, {total.skipped} skipped", flush=True)
    return 0 if total.passed and not total.failed else 1


if __name__ == "__main__":
    sys.exit(main())
