"""What the documents say is shown by a test: the test is there, by the name they give it."""

import re
import unittest
from pathlib import Path

ROOT = Path(__file__).parents[2]
_NAMED = re.compile(r"`(?:core/)?(test_\w+)(…?)`")
DOCUMENTS = ("docs/security.md", "docs/asvs.md", "docs/architecture.md", "docs/decisions.md", "docs/contributing.md")


def tests_there() -> set[str]:
    """Every test, and every file of tests, by its name."""
    found = set()
    for path in (ROOT / "tests").rglob("*.py"):
        found |= {path.stem, *re.findall(r"def (test_\w+)", path.read_text(encoding="utf-8"))}
    return found


class Claims(unittest.TestCase):
    def test_every_test_that_is_named_is_there(self) -> None:
        there, named = tests_there(), 0
        for document in DOCUMENTS:
            for name, cut in _NAMED.findall((ROOT / document).read_text(encoding="utf-8")):
                named += 1
                found = any(each.startswith(name) for each in there) if cut else name in there
                self.assertTrue(found, f"{document} names {name}, which is not there")
        self.assertGreater(named, 80)

    def test_every_row_of_the_standard_says_how_and_by_what(self) -> None:
        rows = [
            [cell.strip() for cell in line.strip("|").split("|")]
            for line in (ROOT / "docs/asvs.md").read_text(encoding="utf-8").splitlines()
            if re.match(r"\| \d", line)
        ]
        self.assertGreater(len(rows), 70)
        for row, stands, how, shown in rows:
            self.assertIn(stands, ("held", "part", "not held", "n/a", "proxy"), row)
            self.assertGreater(len(how), 5, row)
            # What is held is shown; what is looked at by people or by a browser is said so.
            if stands == "held":
                self.assertRegex(shown, r"`test_|`\.ci/run`|review|browser", row)
