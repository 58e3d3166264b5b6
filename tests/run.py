"""Run the tests and say at the end, on a line of its own, how many passed and failed."""

import os
import sys
import unittest
from pathlib import Path

from hypothesis import settings

from lumbek.ops.stopping import StoppedError, ignore, stoppable
from tests.support.stack import stop_stack

HERE = Path(__file__).parent

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
    for name in names or ["core", "api", "ops", "browser"]:
        if (HERE / name).is_dir():
            found.addTest(loader.discover(str(HERE / name), top_level_dir=str(HERE.parent)))
        else:
            found.addTest(loader.loadTestsFromName(name))
    return found


def main() -> int:
    runner = unittest.TextTestRunner(resultclass=Result, verbosity=1, buffer=True)
    try:
        with stoppable():
            result = runner.run(suite(sys.argv[1:]))
    except StoppedError:
        return 1
    finally:
        ignore()
        stop_stack()
    failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    print(f"{result.passed} passed, {failed} failed, {len(result.skipped)} skipped", flush=True)
    return 0 if result.passed and not failed else 1


if __name__ == "__main__":
    sys.exit(main())
