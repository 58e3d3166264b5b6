"""The demo: its own firm and sign-in, and its house. Only ever loaded in demo mode."""

from collections.abc import Mapping, Sequence
from importlib.resources import files
from uuid import UUID, uuid4

from lumbek.core.inspection.standing import StandingTask
from lumbek.core.items.terms import QuoteTerms
from lumbek.core.model.inspection import InspectionMade
from lumbek.core.model.reading import ReadingTaken
from lumbek.exchange.job_file import read_job
from lumbek.exchange.standing_pdf import signed_paper
from lumbek.services.clock import now
from lumbek.services.inspecting import InspectingService
from lumbek.services.issuing import IssuingService
from lumbek.services.jobs import JobService
from lumbek.services.mail import Mail
from lumbek.services.passwords import hash_password
from lumbek.services.person import Person
from lumbek.services.prices import PriceService, prices_of
from lumbek.services.quotes import QuoteService
from lumbek.services.roles import Role
from lumbek.services.sessions import SessionService
from lumbek.services.testing import TestingService
from lumbek.services.worked_out import Results
from lumbek.settings import Settings
from lumbek.store.database import Database
from lumbek.store.issued import issued_of
from lumbek.store.jobs import job_called, names_ever
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
HOUSES = ("boathouse.json", "signal_box_found.json", "signal_box.json")
_QUOTED = "signal_box.json"
_INSPECTED = "The old signal box, as we found it"


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
        priced = bool(prices_of(db, user.firm_id).lines)
    if not priced:
        text = (files("lumbek.services") / "demo_data" / "prices.csv").read_text(encoding="utf-8")
        PriceService(database).put(person, uuid4(), text)
    jobs = JobService(database, Results())
    for house in HOUSES:
        job = read_job((files("lumbek.services") / "demo_data" / house).read_bytes())
        if job.name not in there:
            made = True
            taken = jobs.take_in(person, uuid4(), job)
            if house == _QUOTED:
                text = (files("lumbek.services") / "demo_data" / "quote.json").read_text(encoding="utf-8")
                terms = QuoteTerms.model_validate_json(text)
                QuoteService(database, Results()).put(person, taken.id, uuid4(), terms, version=0)
    return made


def issue_demo(database: Database, settings: Settings) -> bool:
    """Issue the papers of the house that was inspected, once: the report, the repairs, their completion.

    Only where the demo is shown: setting and signing pages takes seconds.
    """
    with database.transaction() as db:
        user = user_by_email(db, EMAIL)
        found = None if user is None else job_called(db, user.firm_id, _INSPECTED)
        there = set() if found is None else {row.kind for row in issued_of(db, found)}
        if user is None or found is None or "remedials" in there:
            return False
        roles = tuple(user.roles)
        person = Person(user.id, user.firm_id, user.name, FIRM, user.email, roles, proved_at=now())
    services = _Issuer(database, settings, person, found)
    # A start that was cut off is gone on with by the next one.
    if "condition" not in there:
        services.sign("inspector", "authoriser")
        services.issue("condition")
    services.put_right()
    services.sign("constructor", "inspector")
    services.issue("remedials")
    return True


class _Issuer:
    """Hands of the demo's supervisor."""

    def __init__(self, database: Database, settings: Settings, person: Person, job_id: UUID) -> None:
        results = Results()
        jobs = JobService(database, results)
        self._inspecting = InspectingService(database, jobs, SessionService(database, settings, Mail(settings)))
        self._issuing = IssuingService(database, jobs, settings)
        self._testing = TestingService(database, results)
        self._person, self._job, self._jobs = person, job_id, jobs

    def say(self, said: Mapping[str, object]) -> None:
        made = InspectionMade.model_validate({"said": said})
        self._inspecting.add(self._person, self._job, uuid4(), made)

    def sign(self, *roles: str) -> None:
        for role in roles:
            self.say({"record": "signed", "role": role})

    def issue(self, kind: str) -> None:
        write_id = uuid4()
        made = self._issuing.gather(self._person, self._job, write_id, kind)
        if made is not None:
            data = signed_paper(made.paper, made.issue, made.inside, made.at, made.key, made.photos)
            self._issuing.keep(self._person, self._job, write_id, made, data)

    def put_right(self) -> None:
        """Put right what wants action: the task that was agreed, and the blank; read again what was touched."""
        whole = self._inspecting.view(self._person, self._job).whole
        if all(task.said.status == "done" for task in whole.tasks) and len(whole.tasks) > 1:
            return
        for task in whole.tasks:
            proof = {
                "before": "plate cracked",
                "after": "plate whole; R1+R2, insulation and polarity read again as before",
                "old_part": "twin front",
                "new_part": "twin front, new",
            }
            self.say({**task.said.model_dump(), "status": "done", "proof": proof})
        blank = next(each.said for each in whole.findings if each.said.code == "C1")
        closed = {"before": "bare bar in reach", "after": "closed: no finger, no wire gets in", "new_part": "blank"}
        other = {"task": uuid4().hex, "findings": [blank.finding], "what": "A blank of the maker fitted, cover fixed"}
        self.say({"record": "task", **other, "status": "done", "by": self._person.name, "proof": closed})
        for finding in whole.findings:
            if finding.said.code in ("C1", "C2"):
                self.say({**finding.said.model_dump(), "status": "done"})
        self._read_again(whole.tasks)

    def _read_again(self, tasks: Sequence[StandingTask]) -> None:
        """Enter once more what was read of what a task touched."""
        for touched in {each for task in tasks for each in task.said.touched}:
            circuit_id = UUID(touched.circuit)
            sheet = self._testing.sheet(self._person, circuit_id, 20).sheet
            taken = [
                ReadingTaken.model_validate(item.reading.model_dump(include=set(ReadingTaken.model_fields)))
                for item in sheet.items
                if item.reading is not None and item.point in (None, touched.point) and item.reading.isolation is None
            ]
            self._testing.enter(self._person, circuit_id, uuid4(), tuple(taken), 20)
