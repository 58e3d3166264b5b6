"""What routes ask for: the services, who is signed in, and the right that a route needs.

A write must carry the session's own token.
"""

import secrets
from collections.abc import Awaitable, Callable
from dataclasses import dataclass
from typing import Annotated

from fastapi import Depends, Request

from lumbek.api.pool import Pool
from lumbek.services.attachments import AttachmentService
from lumbek.services.audit import AuditService
from lumbek.services.boards import BoardService
from lumbek.services.circuits import CircuitService
from lumbek.services.due import DueService
from lumbek.services.errors import WrongTokenError
from lumbek.services.handing import HandingService
from lumbek.services.inspecting import InspectingService
from lumbek.services.issuing import IssuingService
from lumbek.services.jobs import JobService
from lumbek.services.library import LibraryService
from lumbek.services.links import LinkService
from lumbek.services.mail import Mail
from lumbek.services.notifying import NotifyingService
from lumbek.services.offering import OfferService
from lumbek.services.papers import PaperService
from lumbek.services.people import PeopleService
from lumbek.services.person import Person
from lumbek.services.places import PlacesService
from lumbek.services.practising import PracticeService
from lumbek.services.prices import PriceService
from lumbek.services.quotes import QuoteService
from lumbek.services.roles import Right
from lumbek.services.routes import RouteService
from lumbek.services.sessions import SessionService, need_right
from lumbek.services.switching import SwitchingService
from lumbek.services.testing import TestingService
from lumbek.services.verifying import VerifyService
from lumbek.services.worked_out import Results
from lumbek.services.working import WorkingService
from lumbek.settings import Settings
from lumbek.store.database import Database

COOKIE, DEVICE_COOKIE = "lumbek_session", "lumbek_device"
CSRF_HEADER = "X-CSRF-Token"
_READING = ("GET", "HEAD", "OPTIONS")


@dataclass(frozen=True)
class Services:
    """Everything a route may call."""

    settings: Settings
    database: Database
    pool: Pool
    sessions: SessionService
    links: LinkService
    people: PeopleService
    audit: AuditService
    jobs: JobService
    papers: PaperService
    attachments: AttachmentService
    inspecting: InspectingService
    issuing: IssuingService
    verifying: VerifyService
    handing: HandingService
    notifying: NotifyingService
    prices: PriceService
    due: DueService
    boards: BoardService
    places: PlacesService
    routes: RouteService
    practising: PracticeService
    quotes: QuoteService
    offering: OfferService
    working: WorkingService
    circuits: CircuitService
    library: LibraryService
    testing: TestingService
    results: Results
    switching: SwitchingService

    @classmethod
    def make(cls, settings: Settings) -> "Services":
        """Return the services on the database of the settings."""
        database, results = Database(settings.database_url), Results()
        mail = Mail(settings)
        circuits, sessions = CircuitService(database, results), SessionService(database, settings, mail)
        jobs = JobService(database, results)
        return cls(
            settings,
            database,
            Pool(settings.heavy_at_once, settings.heavy_waiting, settings.heavy_seconds),
            sessions,
            LinkService(database, settings, sessions),
            PeopleService(database, settings, mail, sessions),
            AuditService(database),
            jobs,
            PaperService(database, jobs),
            AttachmentService(database),
            InspectingService(database, jobs, sessions),
            IssuingService(database, jobs, settings),
            VerifyService(database),
            HandingService(database, settings, mail),
            NotifyingService(database, jobs, settings),
            PriceService(database),
            DueService(database, jobs),
            BoardService(database, results),
            PlacesService(database, results),
            RouteService(database, circuits, results),
            PracticeService(database),
            QuoteService(database, results),
            OfferService(database, settings, mail),
            WorkingService(database, results),
            circuits,
            LibraryService(database),
            TestingService(database, results),
            results,
            SwitchingService(database, circuits),
        )


async def get_services(request: Request) -> Services:
    """Return the application's services. What waits for nothing is no work for a thread: hence `async`."""
    services: Services = request.app.state.services
    return services


WithServices = Annotated[Services, Depends(get_services)]


def cookie_name(settings: Settings, name: str) -> str:
    """Return what a cookie is called: where it goes over https only, so that no other host can set it (RFC 6265bis)."""
    return f"__Host-{name}" if settings.secure_cookies else name


def address_of(request: Request) -> str:
    """Return the address that a request came from; what goes round every request has asked a trusted proxy for it."""
    return request.client.host if request.client else "unknown"


def get_person(request: Request, services: WithServices) -> Person:
    """Return who is signed in. Raises NotSignedInError; WrongTokenError for a write without its token."""
    person = services.sessions.person(request.cookies.get(cookie_name(services.settings, COOKIE)), address_of(request))
    if request.method not in _READING:
        given = request.headers.get(CSRF_HEADER, "")
        if not secrets.compare_digest(given.encode(), person.csrf_token.encode()):
            raise WrongTokenError("This page is out of date. Reload it and try again.")
    return person


SignedInPerson = Annotated[Person, Depends(get_person)]


def _with(*rights: Right) -> Callable[[Person], Awaitable[Person]]:
    async def allowed(person: SignedInPerson) -> Person:
        need_right(person, *rights)
        return person

    return allowed


def _proved(right: Right) -> Callable[[Person, Services], Person]:
    def proved(person: Annotated[Person, Depends(_with(right))], services: WithServices) -> Person:
        services.sessions.need_proof(person)
        return person

    return proved


# Who may use a route, as its parameter says: one of these, or `SignedInPerson` for what each does for themselves.
Reader = Annotated[Person, Depends(_with(Right.READ))]
Designer = Annotated[Person, Depends(_with(Right.DESIGN))]
Tester = Annotated[Person, Depends(_with(Right.TEST))]
# Whoever works on site: a record of how a box was wired is made by designers and testers alike.
Worker = Annotated[Person, Depends(_with(Right.DESIGN, Right.TEST))]
Supervisor = Annotated[Person, Depends(_with(Right.ISSUE))]
# One who has given the password not long ago.
ProvedSupervisor = Annotated[Person, Depends(_proved(Right.ISSUE))]
Admin = Annotated[Person, Depends(_with(Right.MANAGE))]
# An admin who has given the password not long ago.
ProvedAdmin = Annotated[Person, Depends(_proved(Right.MANAGE))]
