"""A database's address, as SQLAlchemy writes it and as PostgreSQL's own programs want it."""

from psycopg.conninfo import make_conninfo
from sqlalchemy.engine import make_url

# What libpq calls each part, and what its programs read it from: a password has no place on a command line.
_VARIABLES = {"host": "PGHOST", "port": "PGPORT", "user": "PGUSER", "password": "PGPASSWORD", "dbname": "PGDATABASE"}
# What stands behind the `?` of an address, such as how the server proves who it is: kept wherever the address goes.
_BESIDES = {
    "hostaddr": "PGHOSTADDR",
    "passfile": "PGPASSFILE",
    "sslmode": "PGSSLMODE",
    "sslrootcert": "PGSSLROOTCERT",
    "sslcert": "PGSSLCERT",
    "sslkey": "PGSSLKEY",
    "sslcrl": "PGSSLCRL",
    "sslcrldir": "PGSSLCRLDIR",
    "ssl_min_protocol_version": "PGSSLMINPROTOCOLVERSION",
    "ssl_max_protocol_version": "PGSSLMAXPROTOCOLVERSION",
    "channel_binding": "PGCHANNELBINDING",
    "gssencmode": "PGGSSENCMODE",
    "connect_timeout": "PGCONNECT_TIMEOUT",
    "target_session_attrs": "PGTARGETSESSIONATTRS",
    "options": "PGOPTIONS",
    "application_name": "PGAPPNAME",
}


class UnknownPartError(ValueError):
    """A part of a database's address that is none: left out, it might be what keeps others out."""


def conninfo_of(url: str) -> str:
    """Return an address as libpq reads it, password and all."""
    return make_conninfo(**_parts(url))


def environment_of(url: str) -> dict[str, str]:
    """Return an address as the environment of PostgreSQL's programs."""
    names = {**_VARIABLES, **_BESIDES}
    return {names[name]: value for name, value in _parts(url).items()}


def user_of(url: str) -> str:
    """Return the role that an address signs in as."""
    return make_url(url).username or ""


def _parts(url: str) -> dict[str, str]:
    parts = make_url(url)
    host = parts.host or parts.query.get("host")
    known = (host, parts.port, parts.username, parts.password, parts.database)
    found = {name: str(value) for name, value in zip(_VARIABLES, known, strict=True) if value is not None}
    for name, value in parts.query.items():
        if name != "host" and name not in _BESIDES:
            raise UnknownPartError(f"The database's address says {name}, which is not known.")
        found.setdefault(name, str(value))
    return found
