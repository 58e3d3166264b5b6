"""Notifying an office of work: kept first, then handed in, and again until the office has said what it makes of it."""

import threading
from uuid import UUID

from sqlalchemy.orm import Session

from lumbek.core.documents.gathered import Gathered
from lumbek.core.inspection.notice import CERTIFYING, missing_for_notice, notice_of
from lumbek.core.inspection.notifiable import Notifiable, notifiable
from lumbek.core.inspection.standing import standing_of
from lumbek.core.model.inspection import Particulars
from lumbek.services import audit
from lumbek.services.clock import now
from lumbek.services.deeds import Deed
from lumbek.services.errors import BadInputError
from lumbek.services.jobs import JobService, need_job
from lumbek.services.office import Office
from lumbek.services.person import Person
from lumbek.services.views import NotificationLine, NotifyingView
from lumbek.services.writes import is_new
from lumbek.settings import Settings
from lumbek.store import audit as audit_store
from lumbek.store import notifications as store
from lumbek.store.database import Database, DatabaseGoneError
from lumbek.store.issued import issued_of
from lumbek.store.models import JobRow, Notification, NotificationAnswer


class NotifyingService:
    """Use cases on notifications, and the thread that hands in what waits."""

    def __init__(self, database: Database, jobs: JobService, settings: Settings) -> None:
        self._database, self._jobs, self._office = database, jobs, Office(settings)
        self._every_s = settings.office_seconds
        self._over = threading.Event()

    def view(self, person: Person, job_id: UUID) -> NotifyingView:
        """Return what was handed in of a job, and what is missing for it."""
        with self._database.transaction() as db:
            return self._view(db, need_job(db, person, job_id))

    def hand_in(self, person: Person, job_id: UUID, write_id: UUID) -> NotifyingView:
        """Hand in the work of a job, once.

        Raises BadInputError where something is missing for it, or the same was handed in and not refused.
        """
        with self._database.transaction() as db:
            job = need_job(db, person, job_id, lock=True)
            made = is_new(db, person, write_id, job_id, Notification)
            if made:
                db.add(self._made(db, person, job, write_id))
                audit.note(db, person, Deed.NOTIFIED, job.id, "handed in")
        if made:
            self._send(write_id)
        return self.view(person, job_id)

    def begin(self) -> None:
        """Hand in what waits, now and every so often, until `end`: nothing where there is no office."""
        if self._office.is_known:
            threading.Thread(target=self._go_on, name="office", daemon=True).start()

    def end(self) -> None:
        """Hand in no more."""
        self._over.set()

    def send_waiting(self) -> int:
        """Hand in everything that has no answer; return how much got one. Stops at the first that gets no word."""
        answered: list[UUID] = []
        while True:
            with self._database.transaction() as db:
                ids = [each.id for each in store.waiting(db, answered)]
            if not ids:
                return len(answered)
            for each in ids:
                if not self._send(each):
                    return len(answered)
                answered.append(each)

    def _go_on(self) -> None:
        while not self._over.wait(self._every_s):
            try:
                self.send_waiting()
            except DatabaseGoneError:
                continue

    def _send(self, notification_id: UUID) -> bool:
        """Hand one in, with no transaction held meanwhile; return whether the office gave its word."""
        if not self._office.is_known:
            return False
        with self._database.transaction() as db:
            row = db.get_one(Notification, notification_id)
            document, firm_id, job_id = row.document, row.firm_id, row.job_id
        said = self._office.hand_in(notification_id, document)
        if said is None:
            return False
        answer = NotificationAnswer(notification_id=notification_id, at=now(), **said._asdict())
        with self._database.transaction() as db:
            if store.keep_answer(db, answer):
                words = f"{said.outcome} {said.receipt or said.said}"
                audit_store.add(db, firm_id, None, "office", Deed.NOTIFIED, str(job_id), words)
        return True

    def _made(self, db: Session, person: Person, job: JobRow, write_id: UUID) -> Notification:
        gathered, said, notify, papers = self._asked(db, job)
        missing = missing_for_notice(gathered, said, notify, papers)
        if missing:
            raise BadInputError(f"Not handed in: {'; '.join(missing)}.")
        document = notice_of(gathered, said, notify, papers, person.firm, person.name).model_dump(mode="json")
        for before, answer in store.notifications_of(db, job.id):
            if (answer is None or answer.outcome == "received") and _same(before.document, document):
                raise BadInputError("That was handed in already, just as it stands.")
        who = {"by": person.name, "by_id": person.user_id, "at": now()}
        return Notification(id=write_id, job_id=job.id, firm_id=person.firm_id, document=document, **who)

    def _asked(self, db: Session, job: JobRow) -> tuple[Gathered, Particulars, Notifiable, tuple[int, ...]]:
        gathered = self._jobs.gather(db, job)
        inspection = standing_of(gathered.job.inspection)
        notify = notifiable(gathered, () if inspection.notify is None else inspection.notify.answers)
        issued = issued_of(db, job.id)
        corrected = {row.corrects for row in issued}
        papers = tuple(row.firm_number for row in issued if row.kind in CERTIFYING and row.id not in corrected)
        return gathered, inspection.particulars, notify, papers

    def _view(self, db: Session, job: JobRow) -> NotifyingView:
        rows = store.notifications_of(db, job.id)
        return NotifyingView(
            office=self._office.is_known,
            missing=tuple(missing_for_notice(*self._asked(db, job))),
            lines=tuple(_line(row, answer) for row, answer in rows),
        )


def _same(one: dict[str, object], other: dict[str, object]) -> bool:
    return {**one, "by": ""} == {**other, "by": ""}


def _line(row: Notification, answer: NotificationAnswer | None) -> NotificationLine:
    if answer is None:
        return NotificationLine(id=row.id, by=row.by, at=row.at, state="waits")
    said = {"receipt": answer.receipt, "said": answer.said, "answered_at": answer.at}
    return NotificationLine.model_validate({"id": row.id, "by": row.by, "at": row.at, "state": answer.outcome, **said})
