"""What falls due over all jobs of a firm: next inspections by date, and starting the next one from the last."""

from collections.abc import Sequence
from datetime import date
from uuid import UUID

from lumbek.core.inspection.forward import copied_forward
from lumbek.exchange.calendar import DueEvent, calendar_ics
from lumbek.services.clock import now, stamp
from lumbek.services.errors import BadInputError
from lumbek.services.inspecting import standing_inspection
from lumbek.services.jobs import JobService, need_job
from lumbek.services.person import Person
from lumbek.services.views import DueLine, JobView
from lumbek.store import jobs as store
from lumbek.store.database import Database

_BUTTON_MONTHS, _ALARM_MONTHS = 6, 1


class DueService:
    """Use cases on what falls due."""

    def __init__(self, database: Database, jobs: JobService) -> None:
        self._database, self._jobs = database, jobs

    def list(self, person: Person) -> Sequence[DueLine]:
        """Return the jobs whose next inspection somebody has said, the soonest first."""
        today = stamp(now())[:10]
        with self._database.transaction() as db:
            lines = [
                DueLine(job_id=job_id, name=name, client=client, address=address, day=day, why=why, overdue=day < today)
                for job_id, name, client, address, day, why in store.due_of(db, person.firm_id)
            ]
        return sorted(lines, key=lambda line: (line.day, line.name))

    def calendar(self, person: Person, job_id: UUID) -> bytes:
        """Return what falls due of a job as a calendar. Raises BadInputError where nothing does."""
        with self._database.transaction() as db:
            job = need_job(db, person, job_id)
            said = standing_inspection(db, job).particulars
            if not said.next_day:
                raise BadInputError("Nobody has said when the next inspection is due.")
            day, made = date.fromisoformat(said.next_day), now()
            events = (
                DueEvent(f"{job.id}-next@lumbek", f"Inspection due: {job.name}", said.next_why or "", day),
                DueEvent(
                    f"{job.id}-rcd@lumbek",
                    "Press the test button of every RCD",
                    "It must switch off; switch it on again. If it does not, call an electrician.",
                    made.date(),
                    _BUTTON_MONTHS,
                ),
                DueEvent(
                    f"{job.id}-alarms@lumbek",
                    "Test smoke and heat alarms",
                    "By their buttons.",
                    made.date(),
                    _ALARM_MONTHS,
                ),
            )
        return calendar_ics(events, made)

    def next_inspection(self, person: Person, job_id: UUID, write_id: UUID) -> JobView:
        """Start the next inspection of an installation: what is there, as found; its readings as those of last time."""
        last = self._jobs.whole(person, job_id)
        return self._jobs.take_in(person, write_id, copied_forward(last, stamp(now())))
