"""Run the tests and say at the end, on a line of its own, how many passed and failed.

Classes of tests are handed out to a worker a core, the slow kinds first; each worker has its own throw-away cluster.
With one name or on one core everything runs in this process.
"""

import json
import os
import subprocess
import sys
import threading
import unittest
from collections.abc import Iterator
from pathlib import Path
from queue import Empty, Queue

from hypothesis import settings

from lumbek.ops.stopping import StoppedError, ignore, stoppable
from tests.support.stack import stop_stack

HERE = Path(__file__).parent
ROOT = HERE.parent
# The longest first, so that no worker is left alone with one of them at the end.
KINDS = ("browser", "ops", "api", "core")

# Where a change is let through or not, the same examples are tried each time; at the desk new ones are. No example
# is timed: how fast things are is for the bench, not for a busy machine to decide.
settings.register_profile("here", deadline=None, derandomize=bool(os.environ.get("CI")))
settings.load_profile("here")


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


def run(tests: unittest.TestSuite) -> tuple[int, int, int]:
    """Run tests here; return how many passed, failed and were skipped."""
    result = unittest.TextTestRunner(resultclass=Result, verbosity=1, buffer=True).run(tests)
    failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    return result.passed, failed, len(result.skipped)


def work() -> int:
    """Be a worker: run each class named on standard input, and answer with its counts on standard output."""
    answers = os.fdopen(os.dup(1), "w")
    # What tests print is no answer.
    os.dup2(2, 1)
    try:
        with stoppable():
            for name in sys.stdin:
                counts = run(suite([name.strip()]))
                answers.write(json.dumps(counts) + "\n")
                answers.flush()
    except StoppedError:
        return 1
    finally:
        ignore()
        stop_stack()
    return 0


def share_out(names: list[str], workers: int) -> tuple[int, int, int]:
    """Run these classes in so many workers; return how many tests passed, failed and were skipped."""
    queue: Queue[str] = Queue()
    for name in names:
        queue.put(name)
    total = [0, 0, 0]
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
        while True:
            try:
                name = queue.get_nowait()
            except Empty:
                break
            process.stdin.write(name + "\n")
            process.stdin.flush()
            answer = process.stdout.readline()
            # A worker that is gone has failed at what it was given.
            counts = json.loads(answer) if answer else (0, 1, 0)
            with lock:
                for index, count in enumerate(counts):
                    total[index] += count
            if not answer:
                sys.stderr.write(f"a worker ended in {name}\n")
                break
        process.stdin.close()
        process.wait()

    threads = [threading.Thread(target=what, args=(each,)) for each in processes for what in (drain, feed)]
    try:
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
    except BaseException:
        for process in processes:
            process.terminate()
        raise
    # What nobody was left to run has not passed.
    total[1] += queue.qsize()
    return total[0], total[1], total[2]


def pages() -> tuple[int, int, int]:
    """Run the tests of the pages' own code; return how many passed, failed and were skipped."""
    found = ROOT / "var" / "vitest.json"
    found.unlink(missing_ok=True)
    command = ["npx", "--no-install", "vitest", "run", "--reporter=default", "--reporter=json", f"--outputFile={found}"]
    subprocess.run(command, cwd=ROOT / "web", check=False, stdout=sys.stderr)
    if not found.is_file():
        return 0, 1, 0
    counts = json.loads(found.read_text())
    broken = sum(each["status"] == "failed" and not each["assertionResults"] for each in counts["testResults"])
    return counts["numPassedTests"], counts["numFailedTests"] + broken, counts["numPendingTests"]


def main() -> int:
    if sys.argv[1:] == ["--work"]:
        return work()
    names = sys.argv[1:]
    with_pages = not names or "web" in names
    names = [name for name in names if name != "web"]
    workers = min(os.cpu_count() or 1, 4)
    try:
        with stoppable():
            seen = pages() if with_pages else (0, 0, 0)
            if with_pages and sys.argv[1:] == ["web"]:
                passed, failed, skipped = 0, 0, 0
            elif workers == 1 or any(name not in KINDS for name in names):
                passed, failed, skipped = run(suite(names))
            else:
                found = dict.fromkeys(
                    f"{type(each).__module__}.{type(each).__qualname__}"
                    if type(each).__name__ != "_FailedTest"
                    else each.id()
                    for each in cases(suite(names))
                )
                passed, failed, skipped = share_out(list(found), workers)
    except StoppedError:
        return 1
    finally:
        ignore()
        stop_stack()
    passed, failed, skipped = (own + more for own, more in zip((passed, failed, skipped), seen, strict=True))
    print(f"{passed} passed, {failed} failed, {skipped} skipped", flush=True)
    return 0 if passed and not failed else 1


if __name__ == "__main__":
    sys.exit(main())
