"""Bringing a database to the newest schema."""

from pathlib import Path

from alembic import command
from alembic.config import Config


def alembic_config(url: str) -> Config:
    """Return Alembic's configuration for our migrations on this database."""
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations").replace("%", "%%"))
    config.set_main_option("sqlalchemy.url", url.replace("%", "%%"))
    return config


def upgrade(url: str) -> None:
    """Apply every migration that is not applied yet."""
    command.upgrade(alembic_config(url), "head")


def check(url: str) -> None:
    """Raise if the models say something that no migration does."""
    command.check(alembic_config(url))
