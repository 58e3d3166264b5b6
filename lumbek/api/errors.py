"""One shape for every error, and no stack trace to a user."""

import re
from collections.abc import Callable
from typing import Any

import structlog
from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import ValidationError
from starlette.exceptions import HTTPException

from lumbek.core.rulebooks import UnknownEditionError
from lumbek.core.value import Frozen
from lumbek.exchange.job_file import JobFileError
from lumbek.exchange.problems import Problem, problems_of
from lumbek.services.errors import ChangedMeanwhileError, ServiceError, TooManyAttemptsError
from lumbek.store.database import DatabaseFullError, DatabaseGoneError

_IN_COMMANDS = re.compile(r"^commands\.\d+\.")

# What proxies call an asker that has gone.
_NOBODY_WAITS = 499

_FULL = (
    "Nothing more can be kept: the database's disk is full. This was not kept; all that was before is there. "
    "Whoever looks after Lumbek has to make room."
)

log = structlog.get_logger()

_STATUS = {
    "not-signed-in": 401,
    "wrong-token": 403,
    "not-allowed": 403,
    "prove-again": 403,
    "second-factor": 401,
    "too-many-attempts": 429,
    "not-found": 404,
    "busy": 503,
    "too-long": 503,
    "cut-off": 503,
    "bad-input": 422,
    "changed-meanwhile": 409,
}


class NobodyWaitsError(Exception):
    """Whoever asked has gone: there is nobody to answer."""


class ErrorBody(Frozen):
    """What every refused request answers with."""

    code: str
    message: str
    problems: tuple[Problem, ...] = ()
    current: dict[str, object] | None = None


def _answer(status: int, body: ErrorBody) -> JSONResponse:
    return JSONResponse(body.model_dump(mode="json"), status_code=status)


def _bad_input(problems: list[Problem]) -> JSONResponse:
    # A person knows a command by what it changes, not by its place in the list that was sent.
    problems = [each.model_copy(update={"field": _IN_COMMANDS.sub("", each.field)}) for each in problems]
    first = problems[0] if problems else None
    message = f"{first.field}: {first.reason}" if first else "The input cannot be used."
    return _answer(422, ErrorBody(code="bad-input", message=message, problems=tuple(problems)))


def unforeseen(writing: bool, what: str = "Something went wrong here, which is in the log") -> ErrorBody:
    """Return what a person is told when something broke: of a write it cannot be said whether it was kept."""
    if not writing:
        return ErrorBody(code="our-fault", message=f"{what}. Try again.")
    return ErrorBody(
        code="not-known",
        message=f"{what}, and it is not known whether this was kept. Send it again: what was kept is not done twice.",
    )


def _refused(_: Request, error: ServiceError) -> JSONResponse:
    current = error.current if isinstance(error, ChangedMeanwhileError) else None
    body = ErrorBody(code=error.code, message=error.message, problems=tuple(error.problems), current=current)
    answer = _answer(_STATUS.get(error.code, 400), body)
    if isinstance(error, TooManyAttemptsError):
        answer.headers["Retry-After"] = str(error.retry_after_s)
    elif error.code == "busy":
        answer.headers["Retry-After"] = "2"
    return answer


def _nobody(_: Request, __: NobodyWaitsError) -> JSONResponse:
    return _answer(_NOBODY_WAITS, ErrorBody(code="gone", message="Nobody waited for this."))


def _no_job_file(_: Request, error: JobFileError) -> JSONResponse:
    return _bad_input(error.problems)


def _no_edition(_: Request, error: UnknownEditionError) -> JSONResponse:
    return _bad_input([Problem(field="edition", reason=str(error))])


def _invalid(_: Request, error: RequestValidationError) -> JSONResponse:
    as_pydantic = ValidationError.from_exception_data(
        "request",
        [
            {"type": each["type"], "loc": each["loc"], "input": None, "ctx": each.get("ctx", {})}
            for each in error.errors()
            if each["type"] != "json_invalid"
        ],
    )
    return _bad_input(problems_of(as_pydantic) or [Problem(field="body", reason="is not JSON")])


def _http(_: Request, error: HTTPException) -> JSONResponse:
    names = {404: "not-found", 405: "not-allowed", 413: "too-large"}
    message = {404: "There is nothing at this address.", 405: "That cannot be done here."}
    return _answer(
        error.status_code,
        ErrorBody(
            code=names.get(error.status_code, "refused"),
            message=message.get(error.status_code, str(error.detail)),
        ),
    )


def _no_database(request: Request, error: DatabaseGoneError) -> JSONResponse:
    # A line each, without the way there: of an outage there are many.
    log.error("database", path=request.url.path, why=str(error.__cause__ or error).split("\n", 1)[0])
    return _answer(503, unforeseen(request.method not in ("GET", "HEAD"), "The database does not answer just now"))


def _full(request: Request, _: DatabaseFullError) -> JSONResponse:
    log.error("database", path=request.url.path, why="its disk is full")
    return _answer(503, ErrorBody(code="full", message=_FULL))


_HANDLERS: tuple[tuple[type[Exception], Callable[[Request, Any], JSONResponse]], ...] = (
    (ServiceError, _refused),
    (NobodyWaitsError, _nobody),
    (JobFileError, _no_job_file),
    (UnknownEditionError, _no_edition),
    (RequestValidationError, _invalid),
    (HTTPException, _http),
    (DatabaseGoneError, _no_database),
    (DatabaseFullError, _full),
)


def install_error_handlers(app: FastAPI) -> None:
    """Make the application answer every error in the one shape."""
    for error, handler in _HANDLERS:
        app.add_exception_handler(error, handler)
