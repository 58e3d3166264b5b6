"""Bringing a database to the newest schema, and telling one that is older or newer than this Lumbek."""

from pathlib import Path
from typing import Literal

from alembic import command
from alembic.config import Config
from alembic.runtime.migration import MigrationContext
from alembic.script import ScriptDirectory
from sqlalchemy import create_engine

State = Literal["empty", "older", "current", "newer"]


class NewerDatabaseError(Exception):
    """A database that a newer Lumbek has written; the message says what to do."""


def alembic_config(url: str) -> Config:
    """Return Alembic's configuration for our migrations on this database."""
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations").replace("%", "%%"))
    config.set_main_option("sqlalchemy.url", url.replace("%", "%%"))
    return config


def revision_of(url: str) -> str | None:
    """Return the revision of the schema that a database is at; none where it is empty."""
    engine = create_engine(url)
    try:
        with engine.connect() as connection:
            return MigrationContext.configure(connection).get_current_revision()
    finally:
        engine.dispose()


def state_of(url: str) -> State:
    """Return how a database stands to this Lumbek."""
    revision = revision_of(url)
    if revision is None:
        return "empty"
    scripts = ScriptDirectory.from_config(alembic_config(url))
    if revision == scripts.get_current_head():
        return "current"
    return "older" if revision in {each.revision for each in scripts.walk_revisions()} else "newer"


def upgrade(url: str) -> None:
    """Apply every migration that is not applied yet. Raises NewerDatabaseError, and changes nothing then."""
    need_not_newer(url)
    command.upgrade(alembic_config(url), "head")


def need_not_newer(url: str) -> None:
    """Raise NewerDatabaseError for a database that a newer Lumbek has written."""
    if state_of(url) == "newer":
        raise NewerDatabaseError(
            f"This database is at {revision_of(url)}, which this Lumbek does not know: a newer one has written it. "
            "Start that one, or restore a backup made before. Nothing was changed."
        )


class OlderDatabaseError(Exception):
    """A database that this Lumbek must bring forward first; the message says how."""


def need_current(url: str) -> None:
    """Raise NewerDatabaseError or OlderDatabaseError where a database is not at this Lumbek's schema."""
    need_not_newer(url)
    if state_of(url) != "current":
        raise OlderDatabaseError(
            "This database is empty or of an older Lumbek. Make a backup of it, then bring it forward: lumbek upgrade"
        )


def check(url: str) -> None:
    """Raise if the models say something that no migration does."""
    command.check(alembic_config(url))
