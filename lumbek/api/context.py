"""What routes ask for: the services, and who is signed in. A write must carry the session's own token."""

import secrets
from dataclasses import dataclass
from typing import Annotated

from fastapi import Depends, Request

from lumbek.services.boards import BoardService
from lumbek.services.circuits import CircuitService
from lumbek.services.errors import WrongTokenError
from lumbek.services.jobs import JobService
from lumbek.services.library import LibraryService
from lumbek.services.results import Results
from lumbek.services.sign_in import Person, SignInService
from lumbek.services.switching import SwitchingService
from lumbek.services.testing import TestingService
from lumbek.settings import Settings
from lumbek.store.database import Database

COOKIE = "lumbek_session"
CSRF_HEADER = "X-CSRF-Token"
_READING = ("GET", "HEAD", "OPTIONS")


@dataclass(frozen=True)
class Services:
    """Everything a route may call."""

    settings: Settings
    database: Database
    sign_in: SignInService
    jobs: JobService
    boards: BoardService
    circuits: CircuitService
    library: LibraryService
    testing: TestingService
    results: Results
    switching: SwitchingService

    @classmethod
    def make(cls, settings: Settings) -> "Services":
        """Return the services on the database of the settings."""
        database, results = Database(settings.database_url), Results()
        circuits = CircuitService(database, results)
        return cls(
            settings,
            database,
            SignInService(database, settings),
            JobService(database, results),
            BoardService(database, results),
            circuits,
            LibraryService(database),
            TestingService(database, results),
            results,
            SwitchingService(database, circuits),
        )


def get_services(request: Request) -> Services:
    """Return the application's services."""
    services: Services = request.app.state.services
    return services


WithServices = Annotated[Services, Depends(get_services)]


def get_person(request: Request, services: WithServices) -> Person:
    """Return who is signed in. Raises NotSignedInError; WrongTokenError for a write without its token."""
    person = services.sign_in.person(request.cookies.get(COOKIE))
    if request.method not in _READING:
        given = request.headers.get(CSRF_HEADER, "")
        if not secrets.compare_digest(given.encode(), person.csrf_token.encode()):
            raise WrongTokenError("This page is out of date. Reload it and try again.")
    return person


SignedInPerson = Annotated[Person, Depends(get_person)]
