"""The shell's way in: `lumbek calc JOB.json` and its sisters, and what runs Lumbek for a firm."""

import argparse
import sys

# What needs database and accounts, and nothing of what a job is worked out with.
FOR_A_FIRM = ("serve", "upgrade", "backup", "restore", "verify", "admin")


def main(arguments: list[str] | None = None) -> int:
    """Run a command; return its exit code. Each half is loaded by whoever asks for it."""
    asked = sys.argv[1:] if arguments is None else arguments
    if asked and asked[0] in FOR_A_FIRM:
        from lumbek.ops import commands  # noqa: PLC0415

        parser = argparse.ArgumentParser(prog="lumbek")
        commands.add_to(parser.add_subparsers(dest="command", required=True))
        return commands.run(parser.parse_args(asked))
    from lumbek.cli import of_jobs  # noqa: PLC0415

    return of_jobs.main(asked)
