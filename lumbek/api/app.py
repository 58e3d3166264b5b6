"""The application: API and built front end from one process."""

import gc
import logging
import os
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager

import structlog
from anyio.to_thread import current_default_thread_limiter
from fastapi import FastAPI
from fastapi.concurrency import run_in_threadpool
from fastapi.middleware.gzip import GZipMiddleware
from fastapi.responses import JSONResponse

from lumbek import __version__
from lumbek.api import (
    attachments,
    boards,
    circuits,
    diagnosis,
    inspecting,
    issuing,
    jobs,
    papers,
    people,
    places,
    practice,
    prices,
    quotes,
    routes,
    session,
    switching,
    testing,
    verifying,
    working,
)
from lumbek.api.around import Around
from lumbek.api.context import Services
from lumbek.api.door import HEALTH, Door
from lumbek.api.errors import install_error_handlers
from lumbek.api.outside import Outside
from lumbek.api.pool import APPLICATION_NICE
from lumbek.api.web import serve_web
from lumbek.exchange.job_file import MOST_BYTES
from lumbek.services.attachments import MOST_BYTES as MOST_ATTACHED_BYTES
from lumbek.settings import Settings

_MOST_EDIT_BYTES = 2_000_000
# So many requests of one process are worked on at once: while one waits for the database, another goes on. More would
# only take turns, and whoever asks for health with them.
THREADS = 2
PARTS = (
    session.router,
    people.router,
    jobs.router,
    boards.router,
    places.router,
    routes.router,
    prices.router,
    practice.router,
    quotes.router,
    working.router,
    circuits.router,
    switching.router,
    testing.router,
    papers.router,
    attachments.router,
    issuing.router,
    verifying.router,
    inspecting.router,
    diagnosis.router,
)


def configure_logs(level: str) -> None:
    """Log one JSON object a line."""
    structlog.configure(
        processors=[
            structlog.contextvars.merge_contextvars,
            structlog.processors.add_log_level,
            structlog.processors.TimeStamper(fmt="iso", utc=True),
            structlog.processors.format_exc_info,
            structlog.processors.JSONRenderer(ensure_ascii=False),
        ],
        wrapper_class=structlog.make_filtering_bound_logger(logging.getLevelNamesMapping()[level]),
    )


def make_app(settings: Settings | None = None) -> FastAPI:
    """Return the application for these settings, else for those of the environment."""
    settings = settings or Settings()
    configure_logs(settings.log_level)
    services = Services.make(settings)

    @asynccontextmanager
    async def life(_: FastAPI) -> AsyncIterator[None]:
        current_default_thread_limiter().total_tokens = THREADS
        services.database.watch.start()
        services.pool.warm()
        services.notifying.begin()
        # After the pool, which so goes before us: a PDF has waited in its queue while we answered others.
        os.nice(APPLICATION_NICE)
        gc.freeze()
        yield
        services.notifying.end()
        services.pool.close()
        services.database.close()

    app = FastAPI(
        title="Lumbek",
        version=__version__,
        lifespan=life,
        separate_input_output_schemas=False,
        docs_url=None,
        redoc_url=None,
        openapi_url=None,
        routes=[route for part in PARTS for route in part.routes],
    )
    app.state.services = services
    # Whose turn it is to issue, firm by firm.
    app.state.turns = {}
    install_error_handlers(app)

    @app.get(HEALTH, include_in_schema=False)
    async def health() -> JSONResponse:
        # An application whose database is gone is not up. The watch knows; nobody waits for a thread to ask.
        watched = services.database.watch.runs
        if services.database.answers() if watched else await run_in_threadpool(services.database.answers):
            return JSONResponse({"state": "up"})
        return JSONResponse({"state": "down", "why": "the database does not answer"}, status_code=503)

    serve_web(app)
    app.add_middleware(GZipMiddleware, minimum_size=1000, compresslevel=6)
    app.add_middleware(Door)
    app.add_middleware(Around, most_bytes=_most_bytes, outside=Outside(settings))
    return app


def _most_bytes(path: str) -> int:
    """Return the greatest body in bytes that an address takes."""
    if path.endswith("/attachments"):
        return MOST_ATTACHED_BYTES
    return MOST_BYTES if path == "/api/jobs/file" else _MOST_EDIT_BYTES
