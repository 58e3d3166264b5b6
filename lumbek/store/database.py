"""Opening the database, and transactions on it."""

from collections.abc import Iterator
from contextlib import contextmanager

from sqlalchemy import create_engine
from sqlalchemy.orm import Session, sessionmaker


class Database:
    """A PostgreSQL database. All work on it happens inside `transaction`."""

    def __init__(self, url: str) -> None:
        self.engine = create_engine(url, pool_pre_ping=True)
        self._sessions = sessionmaker(self.engine, expire_on_commit=False)

    @contextmanager
    def transaction(self) -> Iterator[Session]:
        """Yield a session; commit at the end, roll back whole on any error."""
        with self._sessions.begin() as session:
            yield session

    def close(self) -> None:
        """Give back all connections."""
        self.engine.dispose()
