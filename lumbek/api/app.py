"""The application: API and built front end from one process."""

import logging
import time
from collections.abc import AsyncIterator, Awaitable, Callable
from contextlib import asynccontextmanager
from pathlib import Path
from uuid import uuid4

import structlog
from fastapi import FastAPI, Request, Response
from fastapi.responses import FileResponse, JSONResponse
from fastapi.staticfiles import StaticFiles

from lumbek import __version__
from lumbek.api import circuits, jobs, session
from lumbek.api.context import Services
from lumbek.api.errors import ErrorBody, install_error_handlers
from lumbek.exchange.job_file import MOST_BYTES
from lumbek.settings import Settings

WEB = Path(__file__).resolve().parents[2] / "web" / "dist"
_POLICY = (
    "default-src 'self'; img-src 'self' data:; style-src 'self' 'unsafe-inline'; "
    "frame-ancestors 'none'; base-uri 'none'; form-action 'self'"
)
_MOST_EDIT_BYTES = 2_000_000

log = structlog.get_logger()


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
        yield
        services.database.close()

    app = FastAPI(
        title="Lumbek",
        version=__version__,
        lifespan=life,
        separate_input_output_schemas=False,
        docs_url=None,
        redoc_url=None,
        openapi_url=None,
        responses={"4XX": {"model": ErrorBody}},
    )
    app.state.services = services
    install_error_handlers(app)
    for router in (session.router, jobs.router, circuits.router):
        app.include_router(router)

    @app.get("/api/health", include_in_schema=False)
    def health() -> dict[str, str]:
        return {"state": "up"}

    @app.middleware("http")
    async def around(request: Request, answer: Callable[[Request], Awaitable[Response]]) -> Response:
        most = MOST_BYTES if request.url.path == "/api/jobs/file" else _MOST_EDIT_BYTES
        # A body of no stated length could be of any: nothing of ours sends one.
        length = request.headers.get("content-length", "0" if "transfer-encoding" not in request.headers else "")
        if not length.isdigit() or int(length) > most:
            body = ErrorBody(
                code="too-large", message=f"That is more than {most // 1_000_000} MB, or of a length not stated."
            )
            return JSONResponse(body.model_dump(), status_code=413)
        started = time.perf_counter()
        structlog.contextvars.clear_contextvars()
        structlog.contextvars.bind_contextvars(request=uuid4().hex[:12])
        response = await answer(request)
        response.headers["Content-Security-Policy"] = _POLICY
        response.headers["X-Content-Type-Options"] = "nosniff"
        response.headers["Referrer-Policy"] = "same-origin"
        if request.url.path.startswith("/api/"):
            response.headers["Cache-Control"] = "no-store"
            log.info(
                "request",
                method=request.method,
                path=request.url.path,
                status=response.status_code,
                ms=round((time.perf_counter() - started) * 1000, 1),
            )
        return response

    _serve_web(app)
    return app


def _serve_web(app: FastAPI) -> None:
    """Serve the built front end; every other address is one of its pages."""
    if not (WEB / "index.html").is_file():
        return
    app.mount("/assets", StaticFiles(directory=WEB / "assets"))

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> Response:
        if path.startswith("api/"):
            return JSONResponse(
                ErrorBody(code="not-found", message="There is nothing at this address.").model_dump(), status_code=404
            )
        wanted = (WEB / path).resolve()
        if path and wanted.is_file() and wanted.is_relative_to(WEB):
            return FileResponse(wanted)
        return FileResponse(WEB / "index.html", headers={"Cache-Control": "no-cache"})
