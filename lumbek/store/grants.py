"""What the application's own role may do in the database: little more than add. The owner's role is for upgrades."""

import psycopg
from psycopg import sql

from lumbek.store.address import conninfo_of, user_of

# What may be changed where it stands; `wiring_record` and links only to be held while they are used.
_CHANGED = (
    "app_user",
    "firm",
    "signed_in",
    "one_time_link",
    "known_device",
    "job",
    "places",
    "circuit",
    "library_circuit",
    "firm_counter",
    "wiring_record",
)
# What is kept no longer than needed.
_DELETED = ("signed_in", "one_time_link", "known_device", "sign_in_failure")


def grant(owner_url: str, application_url: str) -> None:
    """Give the role of the application's address what it needs and no more; nothing where it is the owner itself."""
    role = user_of(application_url)
    if role == user_of(owner_url):
        return
    named, changed, deleted = sql.Identifier(role), _names(_CHANGED), _names(_DELETED)
    with psycopg.connect(conninfo_of(owner_url)) as connection:
        for statement in (
            "REVOKE ALL ON ALL TABLES IN SCHEMA public FROM {role}",
            "GRANT USAGE ON SCHEMA public TO {role}",
            "GRANT SELECT, INSERT ON ALL TABLES IN SCHEMA public TO {role}",
            "GRANT USAGE ON ALL SEQUENCES IN SCHEMA public TO {role}",
            "GRANT UPDATE ON {changed} TO {role}",
            "GRANT DELETE ON {deleted} TO {role}",
            "REVOKE INSERT ON audit_link, chained, alembic_version FROM {role}",
        ):
            connection.execute(sql.SQL(statement).format(role=named, changed=changed, deleted=deleted))


def _names(tables: tuple[str, ...]) -> sql.Composed:
    return sql.SQL(", ").join(map(sql.Identifier, tables))
