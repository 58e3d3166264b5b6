"""The shell's way to run Lumbek for a firm: serve, upgrade, admin, backup, restore."""

import argparse
import sys
from collections.abc import Callable
from pathlib import Path

from pydantic import ValidationError

from lumbek.exchange.problems import problems_of
from lumbek.ops import admin
from lumbek.ops.cluster import ClusterError
from lumbek.services.errors import ServiceError
from lumbek.settings import Settings
from lumbek.store.database import Database, DatabaseGoneError
from lumbek.store.grants import grant
from lumbek.store.migrate import NewerDatabaseError, OlderDatabaseError, upgrade

CANNOT = 1
BAD_INPUT = 2


def add_to(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    """Add these commands to those of the shell."""
    commands.add_parser("serve", help="run the application; settings come from the environment (docs/running.md)")
    commands.add_parser("upgrade", help="bring the database to this Lumbek's schema; give the application its rights")
    keeping = commands.add_parser("backup", help="write everything into one file, checked")
    keeping.add_argument("file", type=Path)
    back = commands.add_parser("restore", help="put a backup into an empty database, and compare every row")
    back.add_argument("file", type=Path)
    back.add_argument("--signed-by", default="", metavar="KEY", help="the key of another server that has signed it")
    back.add_argument("--unsigned", action="store_true", help="take one of an older Lumbek, which is not signed")
    checking = commands.add_parser("verify", help="say whether a file is a paper that was issued here, unaltered")
    checking.add_argument("file", type=Path)
    checking.add_argument("--away", action="store_true", help="look at its signature only, and ask no server")
    admin.add_to(commands.add_parser("admin", help="firms, people and the audit, from the shell"))


def run(given: argparse.Namespace) -> int:
    """Run one of these commands; 0 when it was done, 1 when it cannot be now, 2 for settings that are wrong."""
    try:
        settings = Settings()
    except ValidationError as error:
        for problem in problems_of(error):
            print(f"LUMBEK_{problem.field.upper()}: {problem.reason}", file=sys.stderr)
        return BAD_INPUT
    try:
        return _DO.get(given.command, _administer)(settings, given)
    except ServiceError as error:
        print(error.message, file=sys.stderr)
        return CANNOT
    except DatabaseGoneError as error:
        print(f"The database does not answer: {error.__cause__}", file=sys.stderr)
        return CANNOT
    except (ClusterError, NewerDatabaseError, OlderDatabaseError) as error:
        print(error, file=sys.stderr)
        return CANNOT


def _upgrade(settings: Settings, _: argparse.Namespace) -> int:
    upgrade(settings.owner_url)
    grant(settings.owner_url, settings.database_url)
    _seal(settings)
    print("The database is at this Lumbek's schema.")
    return 0


def _keep(settings: Settings, given: argparse.Namespace) -> int:
    # Only these two need what reads and writes whole jobs.
    from lumbek.ops import backup  # noqa: PLC0415

    try:
        if given.command == "backup":
            print(backup.make(settings, given.file))
        else:
            print(backup.restore(settings, given.file, given.signed_by, given.unsigned))
    except backup.BackupError as error:
        print(error, file=sys.stderr)
        return CANNOT
    return 0


def _administer(settings: Settings, given: argparse.Namespace) -> int:
    admin.run(settings, given)
    return 0


def _verify(settings: Settings, given: argparse.Namespace) -> int:
    # Only this command needs what reads signed papers.
    from lumbek.ops.verifying import verify_file  # noqa: PLC0415

    code, words = verify_file(settings, given.file, given.away)
    print(words, file=sys.stderr if code == BAD_INPUT else sys.stdout)
    return code


def _seal(settings: Settings) -> None:
    """Seal what was kept before there was a key."""
    # Only this command needs what makes and opens accounts.
    from lumbek.services.people import seal_all  # noqa: PLC0415
    from lumbek.services.sealing import Sealer  # noqa: PLC0415

    database = Database(settings.database_url)
    try:
        seal_all(database, Sealer(settings.key_file))
    finally:
        database.close()


def _serve(settings: Settings, _: argparse.Namespace) -> int:
    # It loads the whole application, which no other command needs.
    from lumbek.ops.serving import CannotServeError, serve  # noqa: PLC0415

    try:
        serve(settings)
    except CannotServeError as error:
        print(error, file=sys.stderr)
        return CANNOT
    return 0


_DO: dict[str, Callable[[Settings, argparse.Namespace], int]] = {
    "serve": _serve,
    "upgrade": _upgrade,
    "backup": _keep,
    "restore": _keep,
    "verify": _verify,
}
