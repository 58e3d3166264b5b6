"""Every deed of the audit is set down somewhere, and by its name."""

import re
import unittest
from pathlib import Path

from lumbek.services.deeds import Deed

SOURCES = Path(__file__).resolve().parents[2] / "lumbek"


class Deeds(unittest.TestCase):
    def test_each_is_set_down_and_no_other(self) -> None:
        code = "\n".join(each.read_text(encoding="utf-8") for each in SOURCES.rglob("*.py") if each.name != "deeds.py")
        used = {Deed[name] for name in re.findall(r"\bDeed\.([A-Z_]+)", code)}
        self.assertEqual(set(Deed) - used, set(), "is never set down: take it out, or note it where it is done")
