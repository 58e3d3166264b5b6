"""Papers to be looked at: the kinds there are, each as data, as PDF and as CSV where it has that form."""

from collections.abc import Callable
from functools import partial
from uuid import UUID

from fastapi import Request, Response
from fastapi.concurrency import run_in_threadpool

from lumbek.api.context import Reader, Services, WithServices
from lumbek.api.download import download, download_csv, hands_out
from lumbek.api.part import part_of_api
from lumbek.core.documents.paper import Paper
from lumbek.core.documents.registry import KINDS, Form, PaperKind, kind_of
from lumbek.exchange.paper_csv import paper_csv
from lumbek.exchange.paper_pdf import paper_pdf
from lumbek.services.deeds import Deed
from lumbek.services.errors import NotFoundError
from lumbek.services.heavy import Piece
from lumbek.services.person import Person

router = part_of_api("papers")

_FORMS = hands_out("application/pdf", "text/csv")


@router.get("/papers")
def kinds(_: Reader) -> tuple[PaperKind, ...]:
    """Say which kinds of paper there are, of what, in which forms, and for whom."""
    return KINDS


@router.get("/jobs/{job_id}/papers/{kind}.{form}", response_class=Response, responses=_FORMS)
async def job_paper_file(
    job_id: UUID, kind: str, form: Form, request: Request, services: WithServices, person: Reader
) -> Response:
    """Hand out a paper of a job, to be looked at: what is issued is issued by a deed of its own."""
    return await _file(request, services, person, job_id, kind, form, services.papers.of_job)


@router.get("/jobs/{job_id}/papers/{kind}")
def job_paper(job_id: UUID, kind: str, services: WithServices, person: Reader) -> Paper:
    """Return a paper of a job as data."""
    return services.papers.of_job(person, job_id, kind)


@router.get("/circuits/{circuit_id}/papers/{kind}.{form}", response_class=Response, responses=_FORMS)
async def circuit_paper_file(
    circuit_id: UUID, kind: str, form: Form, request: Request, services: WithServices, person: Reader
) -> Response:
    """Hand out a paper of a circuit, to be looked at."""
    return await _file(request, services, person, circuit_id, kind, form, services.papers.of_circuit)


@router.get("/circuits/{circuit_id}/papers/{kind}")
def circuit_paper(circuit_id: UUID, kind: str, services: WithServices, person: Reader) -> Paper:
    """Return a paper of a circuit as data."""
    return services.papers.of_circuit(person, circuit_id, kind)


async def _file(
    request: Request,
    services: Services,
    person: Person,
    subject: UUID,
    kind_id: str,
    form: Form,
    of: Callable[[Person, UUID, str], Paper],
) -> Response:
    def prepare() -> tuple[Paper, dict[str, bytes], str]:
        kind = kind_of(kind_id)
        if kind is None or form not in kind.forms:
            raise NotFoundError("There is no such document here.")
        paper = of(person, subject, kind_id)
        if kind.issued and form == "pdf" and not paper.draft:
            paper = paper.held_back("In order, and not issued yet: a qualified supervisor issues it under Documents.")
        said = f"{kind.title.lower()}{', draft' if paper.draft else ''}{', CSV' if form == 'csv' else ''}"
        services.audit.note(person, Deed.EXPORTED, subject, said)
        photos = services.papers.photos(person, subject, paper) if form == "pdf" and kind.of == "job" else {}
        return paper, photos, f"{paper.of or paper.job} {kind.title.lower()}.{form}"

    paper, photos, name = await run_in_threadpool(prepare)
    if form == "csv":
        return download_csv(paper_csv(paper), name)
    return download(
        await services.pool.do(request, Piece(partial(paper_pdf, paper, photos=photos))), "application/pdf", name
    )
