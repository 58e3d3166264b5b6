"""`lumbek serve`: the application for real, in as many processes as settings say."""

import logging
import socket
import sys

import structlog
import uvicorn
from uvicorn.supervisors import Multiprocess

from lumbek.api.app import configure_logs
from lumbek.services.links import first_link
from lumbek.settings import Settings
from lumbek.store.database import Database, DatabaseGoneError
from lumbek.store.migrate import need_current


class CannotServeError(Exception):
    """The application cannot be started so; the message says why, in one sentence."""


def serve(settings: Settings) -> None:
    """Serve until told to stop.

    Raises CannotServeError where the database does not answer, NewerDatabaseError and OlderDatabaseError.
    """
    if settings.demo:
        raise CannotServeError("LUMBEK_DEMO is for bin/demo: it shows a password on the sign-in page.")
    database = Database(settings.database_url)
    try:
        if not database.answers():
            raise CannotServeError("The database does not answer: is LUMBEK_DATABASE_URL right, and is it running?")
        need_current(settings.database_url)
        first = first_link(database, settings)
    except DatabaseGoneError as error:
        raise CannotServeError(f"The database does not let Lumbek in: {error.__cause__}") from error
    finally:
        database.close()
    if first is not None:
        # To the terminal, not into the log: whoever reads it makes the first account.
        said = f"There is no account yet. Make the first one here, once:\n  {settings.address}{first.path}"
        print(f"\n  {said}\n", file=sys.stderr)
    configure_logs(settings.log_level)
    config = uvicorn.Config(
        "lumbek.api.app:make_app",
        factory=True,
        host=settings.host,
        port=settings.port,
        workers=settings.workers,
        proxy_headers=False,
        server_header=False,
        access_log=False,
        log_config=log_config(settings.log_level),
    )
    listening = config.bind_socket()
    # What is answered goes out at once. A socket shared by several processes does not get this by itself, and every
    # answer would wait 40 ms for the asker's side to confirm its first half.
    listening.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)
    if settings.workers == 1:
        uvicorn.Server(config).run(sockets=[listening])
    else:
        Multiprocess(config, sockets=[listening]).run()


def log_config(level: str) -> dict[str, object]:
    """Return how what the server itself says is logged: one JSON object a line, as everything else."""
    return {
        "version": 1,
        "disable_existing_loggers": False,
        "formatters": {"json": {"()": "lumbek.ops.serving.JsonFormatter"}},
        "handlers": {"out": {"class": "logging.StreamHandler", "formatter": "json", "stream": "ext://sys.stdout"}},
        "root": {"handlers": ["out"], "level": level},
        "loggers": {name: {"level": level} for name in ("uvicorn", "uvicorn.error")},
    }


class JsonFormatter(logging.Formatter):
    """What a library logs, as one JSON object a line."""

    _stamp = structlog.processors.TimeStamper(fmt="iso", utc=True)
    _render = structlog.processors.JSONRenderer(ensure_ascii=False)

    def format(self, record: logging.LogRecord) -> str:
        """Return a record as JSON."""
        said: dict[str, object] = {"event": record.getMessage(), "level": record.levelname.lower(), "by": record.name}
        if record.exc_info:
            said["exception"] = self.formatException(record.exc_info)
        return str(self._render(None, "", self._stamp(None, "", said)))
