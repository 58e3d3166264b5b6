"""Signing in and out, giving the password again, one's sessions, and what a page may know before anyone signs in."""

from datetime import datetime
from typing import Annotated
from urllib.parse import urlsplit
from uuid import UUID

from fastapi import Request, Response
from pydantic import AfterValidator, Field

from lumbek import __version__
from lumbek.api.context import (
    COOKIE,
    DEVICE_COOKIE,
    Services,
    SignedInPerson,
    WithServices,
    address_of,
    cookie_name,
)
from lumbek.api.errors import ErrorBody
from lumbek.api.part import part_of_api
from lumbek.core.model.text import printable
from lumbek.core.value import Frozen
from lumbek.services import demo
from lumbek.services.errors import WrongTokenError
from lumbek.services.person import Person
from lumbek.services.roles import Right, Role
from lumbek.services.sessions import DEVICE_KEPT, SessionLine

router = part_of_api("session")

Secret = Annotated[str, Field(min_length=1, max_length=200), AfterValidator(printable)]
# The six figures of a second factor, if there is one.
Code = Annotated[str, Field(max_length=12), AfterValidator(printable)]


class Credentials(Frozen):
    """What signs a person in."""

    email: Secret
    password: Secret
    code: Code = ""


class PasswordProof(Frozen):
    """The password given again."""

    password: Secret
    code: Code = ""


class Me(Frozen):
    """Who is signed in, what they may do, and the token that this session's writes must carry."""

    id: UUID
    name: str
    email: str
    firm: str
    roles: tuple[Role, ...]
    rights: tuple[Right, ...]
    second_factor: bool
    # When somebody last tried so many passwords on this account that it was held back.
    held_at: datetime | None
    csrf_token: str


class About(Frozen):
    """What the sign-in page shows: the version and, in demo mode only, the demo's own sign-in."""

    version: str
    demo: Credentials | None


def me_of(person: Person) -> Me:
    """Return what a page knows of who is signed in."""
    return Me(
        id=person.user_id,
        name=person.name,
        email=person.email,
        firm=person.firm,
        roles=tuple(role for role in Role if role in person.roles),
        rights=tuple(right for right in Right if right in person.rights),
        second_factor=person.second_factor,
        held_at=person.held_at,
        csrf_token=person.csrf_token,
    )


def keep_session(response: Response, services: Services, token: str) -> None:
    """Set the session's cookie."""
    _set_cookie(response, services, COOKIE, token, services.settings.session_hours * 3600)


def _set_cookie(response: Response, services: Services, name: str, value: str, seconds: int) -> None:
    secure = services.settings.secure_cookies
    name = cookie_name(services.settings, name)
    response.set_cookie(name, value, httponly=True, samesite="lax", secure=secure, max_age=seconds)


def device_of(request: Request, services: Services) -> str:
    """Return what the device is known by, where somebody has signed in on it before."""
    return request.cookies.get(cookie_name(services.settings, DEVICE_COOKIE), "")[:200]


def need_own_page(request: Request) -> None:
    """Raise WrongTokenError for a sign-in that another site's page sends."""
    origin = request.headers.get("origin")
    if origin and urlsplit(origin).netloc != request.headers.get("host"):
        raise WrongTokenError("Sign in from Lumbek's own page.")


def browser_of(request: Request) -> str:
    """Return what the browser says it is."""
    return request.headers.get("user-agent", "")


@router.get("/about")
def about(services: WithServices) -> About:
    """Say what this is."""
    shown = Credentials(email=demo.EMAIL, password=demo.PASSWORD) if services.settings.demo else None
    return About(version=__version__, demo=shown)


@router.post("/session", responses={"4XX": {"model": ErrorBody}})
def sign_in(credentials: Credentials, request: Request, response: Response, services: WithServices) -> Me:
    """Sign in: sets the session cookie."""
    need_own_page(request)
    said = credentials
    begun = services.sessions.sign_in(
        said.email, said.password, said.code, address_of(request), browser_of(request), device_of(request, services)
    )
    keep_session(response, services, begun.token)
    _set_cookie(response, services, DEVICE_COOKIE, begun.device, int(DEVICE_KEPT.total_seconds()))
    return me_of(begun.person)


@router.get("/session")
def who_am_i(person: SignedInPerson) -> Me:
    """Say who is signed in."""
    return me_of(person)


@router.delete("/session", status_code=204)
def sign_out(response: Response, services: WithServices, person: SignedInPerson) -> None:
    """Sign out: ends the session on the server."""
    services.sessions.sign_out(person)
    response.delete_cookie(cookie_name(services.settings, COOKIE), secure=services.settings.secure_cookies)


@router.post("/session/proof", status_code=204)
def prove(proof: PasswordProof, request: Request, services: WithServices, person: SignedInPerson) -> None:
    """Take the password again, before what matters."""
    services.sessions.prove(person, proof.password, proof.code, device_of(request, services))


@router.get("/sessions")
def list_sessions(services: WithServices, person: SignedInPerson) -> list[SessionLine]:
    """List one's own sessions, the last used first."""
    return services.sessions.list(person)


@router.delete("/sessions", status_code=204)
def end_other_sessions(services: WithServices, person: SignedInPerson) -> None:
    """End all of one's own sessions but this one."""
    services.sessions.end(person, None)


@router.delete("/sessions/{session_id}", status_code=204)
def end_session(session_id: UUID, services: WithServices, person: SignedInPerson) -> None:
    """End one of one's own sessions."""
    services.sessions.end(person, session_id)
