"""Issuing a document: a deed of a qualified supervisor, done once, kept as it was, numbered, signed, never changed.

It takes two steps, for setting the page takes seconds: what is to be issued is gathered, and kept with its file only
where nothing it follows from has changed meanwhile, and nobody of the firm has taken its number.
"""

import secrets
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from lumbek.core.documents.issue import Issue
from lumbek.core.documents.paper import Paper
from lumbek.core.documents.registry import kind_of, make_paper
from lumbek.core.documents.schedule import schedule_paper
from lumbek.exchange.job_file import write_job
from lumbek.exchange.paper_csv import paper_csv
from lumbek.exchange.signed_pdf import SigningKey
from lumbek.exchange.standing_pdf import Inside, hash_of
from lumbek.services import audit
from lumbek.services.clock import moment, now, stamp
from lumbek.services.deeds import Deed
from lumbek.services.errors import BadInputError, ChangedMeanwhileError, NotFoundError, TakenNumberError
from lumbek.services.firm_keys import add_key, newest_key, open_key
from lumbek.services.follows import follows, hash_of_follows
from lumbek.services.jobs import JobService, need_job
from lumbek.services.papers import need_kind, photos_in
from lumbek.services.person import Person
from lumbek.services.views import Issued
from lumbek.services.writes import is_new
from lumbek.settings import Settings
from lumbek.store import issued as store
from lumbek.store.database import Database
from lumbek.store.models import FirmCounter, IssuedDocument, JobRow

# So many reasons are told where something cannot be issued.
_TOLD = 6
_CODE_BYTES = 16


@dataclass(frozen=True)
class Prepared:
    """What is to be issued: the paper as it stands, which issue it will be, what is inside, what it follows from."""

    paper: Paper
    issue: Issue
    inside: tuple[Inside, ...]
    key: SigningKey
    key_id: UUID
    follows: dict[str, Any]
    corrects: UUID | None
    photos: dict[str, bytes]

    @property
    def at(self) -> datetime:
        """When it is issued."""
        return moment(self.issue.at)


class IssuingService:
    """Issues documents and hands out what was issued."""

    def __init__(self, database: Database, jobs: JobService, settings: Settings) -> None:
        self._database, self._jobs, self._settings = database, jobs, settings

    def issued(self, person: Person, job_id: UUID) -> tuple[Issued, ...]:
        """Return what was issued of a job."""
        with self._database.transaction() as db:
            return self._issued(db, need_job(db, person, job_id))

    def gather(
        self, person: Person, job_id: UUID, write_id: UUID, kind_id: str, corrects: UUID | None = None
    ) -> Prepared | None:
        """Return the paper that is to be issued; nothing where this write has issued it already.

        Raises BadInputError where it is not in order, or is of a kind that is not issued.
        """
        kind = need_kind(kind_id, "job")
        if not kind.issued:
            raise BadInputError(f"{kind.title}: not a document that is issued; hand it out as it is.")
        with self._database.transaction() as db:
            job = need_job(db, person, job_id)
            before = store.issued_of(db, job.id)
            if any(each.id == write_id for each in before):
                return None
            # Before the answers: what changes while they are gathered is a change too.
            stands = follows(db, job)
            gathered = self._jobs.gather(db, job, kind.every_reading, hash_of_follows(stands))
            paper = _in_order(make_paper(kind, gathered))
            key = newest_key(db, person.firm_id) or add_key(db, person.firm_id, self._settings.key_file, person.name)
            whole = write_job(self._jobs.whole(person, job_id)).encode()
            number, corrected = _next_number(before, kind.id), _corrected(before, kind.id, corrects)
            issue = self._issue(db, person, number, hash_of(whole), corrected)
            tables = paper_csv(schedule_paper(gathered)).encode()
            inside = (Inside("job.json", whole, True), Inside("schedule.csv", tables, False))
            opened = open_key(key, self._settings.key_file)
            return Prepared(paper, issue, inside, opened, key.id, stands, corrects, photos_in(db, job.id, paper))

    def _issue(self, db: Session, person: Person, number: int, job_sha256: str, corrected: str) -> Issue:
        code = secrets.token_urlsafe(_CODE_BYTES)
        last = db.get(FirmCounter, person.firm_id)
        return Issue(
            number=number,
            by=person.name,
            at=stamp(now()),
            firm=person.firm,
            firm_number=1 + (last.last if last is not None else 0),
            code=code,
            address=f"{self._settings.address}/verify/{code}",
            job_sha256=job_sha256,
            corrects=corrected,
        )

    def keep(self, person: Person, job_id: UUID, write_id: UUID, made: Prepared, data: bytes) -> tuple[Issued, ...]:
        """Keep an issue with its file, once.

        Raises ChangedMeanwhileError where it does not say what stands now, TakenNumberError where another paper of the
        firm has had its number.
        """
        with self._database.transaction() as db:
            job = need_job(db, person, job_id, lock=True)
            if is_new(db, person, write_id, job_id, IssuedDocument):
                number = _next_number(store.issued_of(db, job.id), made.paper.kind)
                if (follows(db, job), number) != (made.follows, made.issue.number):
                    raise ChangedMeanwhileError("The job has changed meanwhile: look at it again, then issue it.", {})
                _take_number(db, person.firm_id, made.issue.firm_number)
                sha = hash_of(data)
                db.add(
                    IssuedDocument(
                        id=write_id,
                        job_id=job.id,
                        kind=made.paper.kind,
                        number=made.issue.number,
                        document=made.paper.model_dump(mode="json"),
                        follows=made.follows,
                        data=data,
                        sha256=sha,
                        by=person.name,
                        by_id=person.user_id,
                        at=made.at,
                        firm_id=person.firm_id,
                        firm_number=made.issue.firm_number,
                        code=made.issue.code,
                        job_sha256=made.issue.job_sha256,
                        corrects=made.corrects,
                        key_id=made.key_id,
                    )
                )
                said = f"{made.paper.kind}, number {made.issue.firm_number}, issue {made.issue.number}, {sha}"
                audit.note(db, person, Deed.ISSUED, job.id, said)
            return self._issued(db, job)

    def file(self, person: Person, issued_id: UUID) -> tuple[bytes, str]:
        """Return the file of an issued document as it was kept, and its name. Raises NotFoundError."""
        with self._database.transaction() as db:
            row = store.find_issued(db, person.firm_id, issued_id)
            if row is None:
                raise NotFoundError("There is no such document here.")
            audit.note(db, person, Deed.EXPORTED, row.job_id, f"{row.kind}, issue {row.number}")
            return row.data, f"{row.document['job']} {row.kind} issue {row.number}.pdf"

    def _issued(self, db: Session, job: JobRow) -> tuple[Issued, ...]:
        stands = follows(db, job)
        rows = store.issued_of(db, job.id)
        corrected = {row.corrects: row.firm_number for row in rows if row.corrects is not None}
        kinds = {row.kind: kind_of(row.kind) for row in rows}
        return tuple(
            Issued(
                id=row.id,
                kind=row.kind,
                title=kind.title if (kind := kinds[row.kind]) is not None else row.kind,
                number=row.number,
                firm_number=row.firm_number,
                code=row.code,
                by=row.by,
                at=row.at,
                sha256=row.sha256,
                stands=row.follows == stands,
                corrected_by=corrected.get(row.id),
            )
            for row in rows
        )


def _in_order(paper: Paper) -> Paper:
    """Return a paper that is to be issued. Raises BadInputError where it is not in order."""
    if paper.missing:
        told, more = "; ".join(paper.missing[:_TOLD]), len(paper.missing) - _TOLD
        raise BadInputError(f"Not in order, so not issued: {told}{f'; and {more} more' if more > 0 else ''}.")
    return paper


def _take_number(db: Session, firm_id: UUID, number: int) -> None:
    """Count a firm's papers up to a number. Raises TakenNumberError where another paper has it, or will have.

    With the paper in one transaction: what is not kept leaves no gap.
    """
    db.execute(insert(FirmCounter).values(firm_id=firm_id, last=0).on_conflict_do_nothing())
    mine = FirmCounter.firm_id == firm_id
    taken = db.execute(update(FirmCounter).where(mine, FirmCounter.last == number - 1).values(last=number))
    if taken.rowcount != 1:  # type: ignore[attr-defined]
        raise TakenNumberError("Another paper was issued meanwhile.")


def _corrected(before: Sequence[IssuedDocument], kind: str, corrects: UUID | None) -> str:
    """Return in words which paper is corrected. Raises BadInputError for one that cannot be, or is already."""
    if corrects is None:
        return ""
    row = next((each for each in before if each.id == corrects and each.kind == kind), None)
    if row is None:
        raise BadInputError("There is no such paper of this kind to correct.")
    if any(each.corrects == corrects for each in before):
        raise BadInputError(f"Number {row.firm_number} is corrected already: correct the one that stands instead.")
    return f"number {row.firm_number} of {row.at.date().isoformat()}"


def _next_number(issued: Sequence[IssuedDocument], kind: str) -> int:
    return 1 + sum(row.kind == kind for row in issued)
