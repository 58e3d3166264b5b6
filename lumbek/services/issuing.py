"""Issuing a document: a deed of a qualified supervisor, done once, kept as it was, and never changed.

It takes two steps, for setting the page takes seconds: what is to be issued is gathered, and kept with its file only
where nothing it follows from has changed meanwhile.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from hashlib import sha256
from typing import Any
from uuid import UUID

from sqlalchemy.orm import Session

from lumbek.core.documents.issue import Issue
from lumbek.core.documents.paper import Paper
from lumbek.core.documents.registry import make_paper
from lumbek.services import audit
from lumbek.services.clock import moment, now, stamp
from lumbek.services.deeds import Deed
from lumbek.services.errors import BadInputError, ChangedMeanwhileError, NotFoundError
from lumbek.services.follows import follows
from lumbek.services.jobs import JobService, need_job
from lumbek.services.papers import need_kind
from lumbek.services.person import Person
from lumbek.services.views import Issued
from lumbek.services.writes import is_new
from lumbek.store import issued as store
from lumbek.store.database import Database
from lumbek.store.models import IssuedDocument, JobRow

# So many reasons are told where something cannot be issued.
_TOLD = 6


@dataclass(frozen=True)
class Prepared:
    """What is to be issued: the paper as it stands, which issue it will be, and what it follows from."""

    paper: Paper
    issue: Issue
    follows: dict[str, Any]


class IssuingService:
    """Issues documents and hands out what was issued."""

    def __init__(self, database: Database, jobs: JobService) -> None:
        self._database, self._jobs = database, jobs

    def issued(self, person: Person, job_id: UUID) -> tuple[Issued, ...]:
        """Return what was issued of a job."""
        with self._database.transaction() as db:
            return self._issued(db, need_job(db, person, job_id))

    def gather(self, person: Person, job_id: UUID, write_id: UUID, kind_id: str) -> Prepared | None:
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
            paper = make_paper(kind, self._jobs.gather(db, job, kind.every_reading))
            if paper.missing:
                told, more = "; ".join(paper.missing[:_TOLD]), len(paper.missing) - _TOLD
                raise BadInputError(f"Not in order, so not issued: {told}{f'; and {more} more' if more > 0 else ''}.")
            issue = Issue(number=_next_number(before, kind.id), by=person.name, at=stamp(now()))
            return Prepared(paper, issue, stands)

    def keep(self, person: Person, job_id: UUID, write_id: UUID, made: Prepared, data: bytes) -> tuple[Issued, ...]:
        """Keep an issue with its file, once. Raises ChangedMeanwhileError where it does not say what stands now."""
        with self._database.transaction() as db:
            job = need_job(db, person, job_id, lock=True)
            if is_new(db, person, write_id, job_id, IssuedDocument):
                number = _next_number(store.issued_of(db, job.id), made.paper.kind)
                if (follows(db, job), number) != (made.follows, made.issue.number):
                    raise ChangedMeanwhileError("The job has changed meanwhile: look at it again, then issue it.", {})
                sha = sha256(data).hexdigest()
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
                        at=moment(made.issue.at),
                    )
                )
                said = f"{made.paper.kind}, issue {made.issue.number}, {sha}"
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
        return tuple(
            Issued(
                id=row.id,
                kind=row.kind,
                number=row.number,
                by=row.by,
                at=row.at,
                sha256=row.sha256,
                stands=row.follows == stands,
            )
            for row in store.issued_of(db, job.id)
        )


def _next_number(issued: Sequence[IssuedDocument], kind: str) -> int:
    return 1 + sum(row.kind == kind for row in issued)
