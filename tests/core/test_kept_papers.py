"""The papers beside the code say what is so."""

import json
import re
import unittest
from pathlib import Path

from lumbek import __version__

ROOT = Path(__file__).parents[2]


class Papers(unittest.TestCase):
    def test_whatever_is_shipped_is_listed_with_its_licence(self) -> None:
        listed = dict(re.findall(r"^\| (\S+).*? \| (.+) \|$", (ROOT / "LICENCE.md").read_text(encoding="utf-8"), re.M))
        locked = re.findall(r"^([\w.-]+)==", (ROOT / "requirements.lock").read_text(encoding="utf-8"), re.M)
        web = json.loads((ROOT / "web" / "package.json").read_text(encoding="utf-8"))["dependencies"]
        self.assertGreater(len(locked), 20)
        self.assertEqual({*locked, *web} - set(listed), set())
        self.assertEqual(set(listed) - {*locked, *web, "package", "tailwindcss", "daisyui"}, set())
        self.assertFalse([name for name, licence in listed.items() if licence in ("None", "UNKNOWN")])

    def test_the_version_that_stands_has_its_changes(self) -> None:
        heads = re.findall(r"^## (\S+?),? ", (ROOT / "CHANGELOG.md").read_text(encoding="utf-8"), re.M)
        self.assertEqual(heads[0], __version__)
