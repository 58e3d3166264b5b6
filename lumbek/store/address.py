"""A database's address, as SQLAlchemy writes it and as PostgreSQL's own programs want it."""

from psycopg.conninfo import make_conninfo
from sqlalchemy.engine import make_url

# What libpq calls each part, and what its programs read it from: a password has no place on a command line.
_VARIABLES = {"host": "PGHOST", "port": "PGPORT", "user": "PGUSER", "password": "PGPASSWORD", "dbname": "PGDATABASE"}


def conninfo_of(url: str) -> str:
    """Return an address as libpq reads it, password and all."""
    return make_conninfo(**_parts(url))


def environment_of(url: str) -> dict[str, str]:
    """Return an address as the environment of PostgreSQL's programs."""
    return {_VARIABLES[name]: value for name, value in _parts(url).items()}


def user_of(url: str) -> str:
    """Return the role that an address signs in as."""
    return make_url(url).username or ""


def _parts(url: str) -> dict[str, str]:
    parts = make_url(url)
    host = parts.host or parts.query.get("host")
    known = (host, parts.port, parts.username, parts.password, parts.database)
    return {name: str(value) for name, value in zip(_VARIABLES, known, strict=True) if value is not None}
