"""Signing in and out, and what a page may know before anyone has."""

from typing import Annotated
from urllib.parse import urlsplit

from fastapi import APIRouter, Request, Response
from pydantic import AfterValidator, Field

from lumbek import __version__
from lumbek.api.context import COOKIE, SignedInPerson, WithServices
from lumbek.core.model.text import printable
from lumbek.core.value import Frozen
from lumbek.services import demo
from lumbek.services.errors import WrongTokenError
from lumbek.services.sign_in import Person

router = APIRouter(prefix="/api", tags=["session"])


class Credentials(Frozen):
    """What signs a person in."""

    email: Annotated[str, Field(min_length=1, max_length=200), AfterValidator(printable)]
    password: Annotated[str, Field(min_length=1, max_length=200), AfterValidator(printable)]


class Me(Frozen):
    """Who is signed in, and the token that this session's writes must carry."""

    name: str
    firm: str
    csrf_token: str


class About(Frozen):
    """What the sign-in page shows: the version and, in demo mode only, the demo's own sign-in."""

    version: str
    demo: Credentials | None


def _me(person: Person) -> Me:
    return Me(name=person.name, firm=person.firm, csrf_token=person.csrf_token)


@router.get("/about")
def about(services: WithServices) -> About:
    """Say what this is."""
    shown = Credentials(email=demo.EMAIL, password=demo.PASSWORD) if services.settings.demo else None
    return About(version=__version__, demo=shown)


@router.post("/session")
def sign_in(credentials: Credentials, request: Request, response: Response, services: WithServices) -> Me:
    """Sign in: sets the session cookie."""
    origin = request.headers.get("origin")
    if origin and urlsplit(origin).netloc != request.headers.get("host"):
        raise WrongTokenError("Sign in from Lumbek's own page.")
    address = request.client.host if request.client else "unknown"
    token, person = services.sign_in.sign_in(credentials.email, credentials.password, address)
    response.set_cookie(
        COOKIE,
        token,
        httponly=True,
        samesite="lax",
        secure=services.settings.secure_cookies,
        max_age=services.settings.session_hours * 3600,
    )
    return _me(person)


@router.get("/session")
def who_am_i(person: SignedInPerson) -> Me:
    """Say who is signed in."""
    return _me(person)


@router.delete("/session", status_code=204)
def sign_out(request: Request, response: Response, services: WithServices, _: SignedInPerson) -> None:
    """Sign out: ends the session on the server."""
    services.sign_in.sign_out(request.cookies.get(COOKIE))
    response.delete_cookie(COOKIE)
