"""Papers of a job and of a circuit, of every kind in the registry: to be looked at. Issuing one is another deed."""

from dataclasses import replace
from typing import Literal
from uuid import UUID

from sqlalchemy.orm import Session

from lumbek.core.documents.paper import Paper
from lumbek.core.documents.registry import PaperKind, kind_of, make_paper
from lumbek.services.circuits import need_circuit
from lumbek.services.errors import NotFoundError
from lumbek.services.follows import covered
from lumbek.services.jobs import JobService, need_job
from lumbek.services.person import Person
from lumbek.services.prices import prices_of
from lumbek.services.quote_terms import terms_of
from lumbek.store.attachments import bytes_of
from lumbek.store.database import Database


class PaperService:
    """Makes papers from what stands."""

    def __init__(self, database: Database, jobs: JobService) -> None:
        self._database, self._jobs = database, jobs

    def of_job(self, person: Person, job_id: UUID, kind_id: str) -> Paper:
        """Return a paper of a job; a draft for whoever may not issue it. Raises NotFoundError."""
        kind = need_kind(kind_id, "job")
        with self._database.transaction() as db:
            job = need_job(db, person, job_id)
            gathered = self._jobs.gather(db, job, kind.every_reading, covered(db, job))
            if kind.priced:
                gathered = replace(gathered, prices=prices_of(db, job.firm_id), terms=terms_of(db, job))
        return _for(person, kind, make_paper(kind, gathered))

    def photos(self, person: Person, job_id: UUID, paper: Paper) -> dict[str, bytes]:
        """Return the bytes of the photos that a paper of a job shows."""
        with self._database.transaction() as db:
            return photos_in(db, need_job(db, person, job_id).id, paper)

    def of_circuit(self, person: Person, circuit_id: UUID, kind_id: str) -> Paper:
        """Return a paper of a circuit; a draft for whoever may not issue it. Raises NotFoundError."""
        kind = need_kind(kind_id, "circuit")
        with self._database.transaction() as db:
            row, job = need_circuit(db, person, circuit_id)
            gathered = self._jobs.gather_circuit(db, row, job)
        return _for(person, kind, make_paper(kind, gathered))


def photos_in(db: Session, job_id: UUID, paper: Paper) -> dict[str, bytes]:
    """Return the bytes of the photos that a paper shows, by their ids."""
    blocks = [block for section in paper.sections for block in section.blocks if block.block == "photos"]
    ids = [UUID(photo.id) for block in blocks for photo in block.photos]
    return {str(key): data for key, data in bytes_of(db, job_id, ids).items()} if ids else {}


def need_kind(kind_id: str, of: Literal["job", "circuit"]) -> PaperKind:
    """Return a kind of paper. Raises NotFoundError."""
    kind = kind_of(kind_id)
    if kind is None or kind.of != of:
        raise NotFoundError("There is no such document here.")
    return kind


def _for(person: Person, kind: PaperKind, paper: Paper) -> Paper:
    if kind.at_once or not person.has_drafts:
        return paper
    return paper.held_back(f"Only a qualified supervisor issues documents; {person.name} is none here.")
