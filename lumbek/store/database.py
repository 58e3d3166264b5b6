"""Opening the database, and transactions on it."""

from collections.abc import Iterator
from contextlib import contextmanager

from sqlalchemy import create_engine, text
from sqlalchemy.exc import InterfaceError, OperationalError, SQLAlchemyError
from sqlalchemy.orm import Session, sessionmaker


class DatabaseGoneError(Exception):
    """The database did not answer, or was lost on the way: of a write it is not known whether it was kept."""


class Database:
    """A PostgreSQL database. All work on it happens inside `transaction`."""

    def __init__(self, url: str) -> None:
        self.engine = create_engine(url, pool_pre_ping=True)
        self._sessions = sessionmaker(self.engine, expire_on_commit=False)

    @contextmanager
    def transaction(self) -> Iterator[Session]:
        """Yield a session; commit at the end, roll back whole on any error. Raises DatabaseGoneError."""
        try:
            with self._sessions.begin() as session:
                yield session
        except (OperationalError, InterfaceError) as error:
            raise DatabaseGoneError from error

    def answers(self) -> bool:
        """Whether the database answers."""
        try:
            with self.engine.connect() as connection:
                connection.execute(text("SELECT 1"))
        except SQLAlchemyError:
            return False
        return True

    def close(self) -> None:
        """Give back all connections."""
        self.engine.dispose()
