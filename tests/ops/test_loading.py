"""What is loaded when: little before the first answer, everything before heavy work is forked."""

import argparse
import subprocess
import sys
import unittest

from lumbek.cli import FOR_A_FIRM
from lumbek.ops.commands import add_to
from tests.support.stack import ROOT

_LARGE = ("scipy.optimize", "weasyprint", "jinja2", "pyhanko", "cryptography.x509", "icalendar", "zxcvbn", "segno")


def loaded_by(module: str, more: str = "import sys; print(*sys.modules)") -> list[str]:
    """What a fresh process says that has loaded a module."""
    done = subprocess.run(
        [sys.executable, "-c", f"import {module}\n{more}"], capture_output=True, text=True, cwd=ROOT, check=True
    )
    return done.stdout.split()


class Loading(unittest.TestCase):
    def test_what_is_large_is_loaded_by_who_wants_it(self) -> None:
        """Starting is done on busy machines too: half of what it took went into what nobody had asked for."""
        self.assertEqual([each for each in loaded_by("lumbek.api.app") if each in _LARGE], [])

    def test_what_checks_fields_is_there_before_two_threads_want_it(self) -> None:
        """Built when it is first wanted it would be built by both, each undoing what the other has."""
        every = "print(all(each.__pydantic_complete__ for each in Frozen.__subclasses__()))"
        said = loaded_by("lumbek.api.app", f"from lumbek.core.value import Frozen\n{every}")
        self.assertEqual(said, ["True"])

    def test_the_shell_loads_what_a_command_needs(self) -> None:
        """People and backups need nothing of what a job is worked out with; a job needs no database."""
        of_a_firm = loaded_by("lumbek.ops.commands")
        self.assertEqual([each for each in of_a_firm if each.startswith(("lumbek.core.checks", "lumbek.api"))], [])
        of_jobs = loaded_by("lumbek.cli.of_jobs")
        self.assertEqual([each for each in of_jobs if each in ("sqlalchemy", "fastapi", "psycopg")], [])

    def test_every_command_of_a_firm_is_known_for_one(self) -> None:
        commands = argparse.ArgumentParser().add_subparsers()
        add_to(commands)
        self.assertEqual(tuple(commands.choices), FOR_A_FIRM)

    def test_heavy_work_waits_for_nothing(self) -> None:
        self.assertLessEqual({"scipy.optimize", "weasyprint", "jinja2"}, set(loaded_by("lumbek.api.ready")))

    def test_a_first_request_warns_of_nothing(self) -> None:
        """A warning for every route would fill the journal of whoever serves it."""
        ask = """
from fastapi.testclient import TestClient
from lumbek.api.app import make_app
from lumbek.settings import Settings
client = TestClient(make_app(Settings(log_level="ERROR", database_url="postgresql+psycopg://nobody@127.0.0.1:1/none")))
print(client.post("/api/session", json={"email": 1}).status_code)
"""
        done = subprocess.run([sys.executable, "-c", ask], capture_output=True, text=True, cwd=ROOT, check=False)
        self.assertNotIn("Warning", done.stderr)
        self.assertIn("4", done.stdout)

    def test_a_password_costs_whoever_guesses_it(self) -> None:
        """Argon2id with 64 MB, three times over, in a process of its own: tests hash theirs cheaply."""
        hashed = "print(hash_password('four unrelated words'))"
        (said,) = loaded_by(
            "lumbek.services.passwords", f"from lumbek.services.passwords import hash_password\n{hashed}"
        )
        self.assertTrue(said.startswith("$argon2id$v=19$m=65536,t=3,p=4$"), said)

    def test_rubbish_is_looked_for_seldom(self) -> None:
        (first, *_) = loaded_by("lumbek.api", "import gc; print(*gc.get_threshold())")
        self.assertEqual(int(first), 20_000)


if __name__ == "__main__":
    unittest.main()
