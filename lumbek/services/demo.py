"""The demo: its own firm and sign-in, and its house. Only ever loaded in demo mode."""

from importlib.resources import files
from uuid import uuid4

from lumbek.exchange.job_file import read_job
from lumbek.services.jobs import JobService
from lumbek.services.passwords import hash_password
from lumbek.services.person import Person
from lumbek.services.roles import Role
from lumbek.services.worked_out import Results
from lumbek.store.database import Database
from lumbek.store.jobs import names_ever
from lumbek.store.models import Firm, User
from lumbek.store.people import user_by_email

EMAIL = "spark@signalbox.example"
PASSWORD = "signal-box-42"  # noqa: S105 - shown on the demo's sign-in page
SECOND_EMAIL = "mate@signalbox.example"
FIRM = "Overline Electrics"
_PEOPLE = (
    (EMAIL, "Robin Ash", (Role.ADMIN, Role.SUPERVISOR)),
    (SECOND_EMAIL, "Kit Marlow", (Role.DESIGNER, Role.TESTER)),
)
# The last one taken in comes first in the list.
HOUSES = ("boathouse.json", "signal_box.json")


def load_demo(database: Database) -> bool:
    """Make what is missing of the demo's firm, people and houses; return whether anything was.

    A start that was cut off between them is finished by the next one. A house that was taken off the list stays off.
    """
    with database.transaction() as db:
        user = user_by_email(db, EMAIL)
        made = user is None
        if user is None:
            firm = Firm(name=FIRM)
            db.add(firm)
            db.flush()
            users = [
                User(firm_id=firm.id, email=email, name=name, password_hash=hash_password(PASSWORD), roles=list(roles))
                for email, name, roles in _PEOPLE
            ]
            db.add_all(users)
            db.flush()
            user = users[0]
        person = Person(user.id, user.firm_id, user.name, FIRM, user.email, tuple(user.roles))
        there = names_ever(db, user.firm_id)
    jobs = JobService(database, Results())
    for house in HOUSES:
        job = read_job((files("lumbek.services") / "demo_data" / house).read_bytes())
        if job.name not in there:
            made = True
            jobs.take_in(person, uuid4(), job)
    return made
