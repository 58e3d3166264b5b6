"""A database's address, as SQLAlchemy writes it and as PostgreSQL's own programs want it."""

from psycopg.conninfo import make_conninfo
from sqlalchemy.engine import make_url


def conninfo_of(url: str) -> str:
    """Return an address as libpq reads it, password and all."""
    parts = make_url(url)
    known = {
        "host": parts.host or parts.query.get("host"),
        "port": parts.port,
        "user": parts.username,
        "password": parts.password,
        "dbname": parts.database,
    }
    return make_conninfo(**{key: str(value) for key, value in known.items() if value is not None})


def environment_of(url: str) -> dict[str, str]:
    """Return an address as the environment of PostgreSQL's programs: a password has no place on a command line."""
    parts = make_url(url)
    known = {
        "PGHOST": parts.host or parts.query.get("host"),
        "PGPORT": parts.port,
        "PGUSER": parts.username,
        "PGPASSWORD": parts.password,
        "PGDATABASE": parts.database,
    }
    return {key: str(value) for key, value in known.items() if value is not None}


def user_of(url: str) -> str:
    """Return the role that an address signs in as."""
    return make_url(url).username or ""
