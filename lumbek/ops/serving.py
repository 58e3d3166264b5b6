"""`lumbek serve`: the application for real, in as many processes as settings say."""

import ctypes
import errno
import gc
import logging
import os
import signal
import socket
import sys

import structlog
import uvicorn
from fastapi import FastAPI

from lumbek.api.app import configure_logs, make_app
from lumbek.ops.forking import serve_in_several
from lumbek.ops.memory import keep_giving_back
from lumbek.ops.nursery import begin_nursery
from lumbek.ops.patience import PatientProtocol
from lumbek.services.links import first_link, has_accounts
from lumbek.settings import Settings
from lumbek.store.database import Database, DatabaseGoneError
from lumbek.store.migrate import need_current

_HEALTH_S = 120
_PR_SET_PDEATHSIG = 1
# What tells a process of the application which one started it.
_PARENT = "LUMBEK_STARTED_BY"


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
        # To a terminal only: whoever reads it makes the first account, and a journal is read by others.
        first = first_link(database, settings) if sys.stderr.isatty() else None
        nobody = first is None and not has_accounts(database)
    except DatabaseGoneError as error:
        raise CannotServeError(f"The database does not let Lumbek in: {error.__cause__}") from error
    finally:
        database.close()
    if first is not None:
        said = f"There is no account yet. Make the first one here, once:\n  {settings.address}{first.path}"
        print(f"\n  {said}\n", file=sys.stderr)
    elif nobody:
        print("There is no account yet: `lumbek admin begin` prints a link to make the first.", file=sys.stderr)
    configure_logs(settings.log_level)
    begin_nursery()
    config = uvicorn.Config(
        "lumbek.ops.serving:make_worker",
        factory=True,
        http=PatientProtocol,
        host=settings.host,
        port=settings.port,
        workers=settings.workers,
        proxy_headers=False,
        server_header=False,
        access_log=False,
        log_config=log_config(settings.log_level),
        # On a busy machine a process may take long to load, and long to answer whether it still works: one that is
        # killed for that only takes as long again.
        timeout_worker_healthcheck=_HEALTH_S,
    )
    listening = _listen(config)
    # What is answered goes out at once. A socket shared by several processes does not get this by itself, and every
    # answer would wait 40 ms for the asker's side to confirm its first half.
    listening.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)
    # What is loaded stays: it is never looked through for garbage again, and processes share its memory.
    gc.collect()
    gc.freeze()
    if settings.workers == 1:
        # It is this very process, and nobody else's.
        uvicorn.Server(config).run(sockets=[listening])
    else:
        os.environ[_PARENT] = str(os.getpid())
        serve_in_several(config, listening)


def _listen(config: uvicorn.Config) -> socket.socket:
    """Return the socket to listen on. Raises CannotServeError for a port that is taken, or not to be had."""
    try:
        # Tried first: the server itself would end the program without a word to whoever started it.
        with socket.socket(socket.AF_INET6 if ":" in config.host else socket.AF_INET) as tried:
            tried.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            tried.bind((config.host, config.port))
    except OSError as error:
        why = "something else listens there already" if error.errno == errno.EADDRINUSE else error.strerror
        raise CannotServeError(f"Lumbek cannot listen at {config.host}, port {config.port}: {why}.") from error
    return config.bind_socket()


def make_worker() -> FastAPI:
    """Return the application for this process; one of several ends with the one that started it."""
    if _PARENT in os.environ:
        end_with_parent()
    settings = Settings()
    PatientProtocol.seconds = settings.request_seconds
    keep_giving_back()
    return make_app(settings)


def end_with_parent() -> None:
    """Let this process be ended where the one that started it is gone, however that went (Linux's prctl).

    Where that one was gone before this could be asked for, this one ends at once.
    """
    libc = ctypes.CDLL(None, use_errno=True)
    if hasattr(libc, "prctl"):
        libc.prctl(_PR_SET_PDEATHSIG, signal.SIGTERM)
    if os.getppid() != int(os.environ[_PARENT]):
        sys.exit("The process that started this one is gone.")


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
