"""Opening the database, and transactions on it."""

from collections.abc import Iterator
from contextlib import contextmanager

import psycopg
from sqlalchemy import create_engine, event, text
from sqlalchemy.exc import InterfaceError, OperationalError, SQLAlchemyError
from sqlalchemy.exc import TimeoutError as NoneFreeError
from sqlalchemy.orm import Session, sessionmaker

from lumbek.store.watch import Watch

# Nobody waits longer: for a connection, for a lock that another holds, for one question.
_CONNECT_S, _FREE_S, _LOCK_MS, _QUESTION_MS = 2, 3, 5_000, 20_000
# More than there are threads that ask: nobody who works waits for another's connection.
POOL = 12


class DatabaseGoneError(Exception):
    """The database did not answer, or was lost on the way: of a write it is not known whether it was kept."""


class DatabaseFullError(Exception):
    """There is no room on the database's disk: what was to be written was not kept."""


class Database:
    """A PostgreSQL database. All work on it happens inside `transaction`."""

    def __init__(self, url: str) -> None:
        options = f"-c lock_timeout={_LOCK_MS} -c statement_timeout={_QUESTION_MS}"
        self.engine = create_engine(
            url,
            pool_pre_ping=True,
            pool_size=POOL,
            max_overflow=0,
            pool_timeout=_FREE_S,
            connect_args={"connect_timeout": _CONNECT_S, "options": options},
        )
        self.watch = Watch(url)
        event.listen(self.engine, "do_connect", self._need_answers)
        event.listen(self.engine, "connect", lambda connection, _: self.watch.knows(connection))
        self._sessions = sessionmaker(self.engine, expire_on_commit=False)

    @contextmanager
    def transaction(self) -> Iterator[Session]:
        """Yield a session; commit at the end, roll back whole on any error.

        Raises DatabaseGoneError and DatabaseFullError.
        """
        if not self.watch.answers:
            raise DatabaseGoneError("it does not answer")
        try:
            with self._sessions.begin() as session:
                yield session
        except (OperationalError, InterfaceError, NoneFreeError) as error:
            full = isinstance(error, OperationalError) and isinstance(error.orig, psycopg.errors.DiskFull)
            raise (DatabaseFullError if full else DatabaseGoneError) from error

    def _need_answers(self, *_: object) -> None:
        """Refuse to connect to a database that is known not to answer: that would only be waited for."""
        if not self.watch.answers:
            raise psycopg.OperationalError("the database does not answer")

    def answers(self) -> bool:
        """Whether the database answers; what the watch last saw, where one is kept."""
        if self.watch.runs:
            return self.watch.answers
        try:
            with self.engine.connect() as connection:
                connection.execute(text("SELECT 1"))
        except SQLAlchemyError:
            return False
        return True

    def close(self) -> None:
        """Give back all connections."""
        self.watch.stop()
        self.engine.dispose()
