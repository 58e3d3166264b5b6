"""A paper that stands: PDF/A-3 with the job's data and the schedule inside, the same bytes for the same data."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from hashlib import sha256
from typing import Any

from lumbek.core.documents.issue import Issue
from lumbek.core.documents.paper import Paper
from lumbek.exchange.paper_pdf import NO_PHOTOS, paper_fetcher, paper_html
from lumbek.exchange.signed_pdf import SigningKey, sign_pdf


@dataclass(frozen=True)
class Inside:
    """A file inside a paper; `source` where the paper was made from it."""

    name: str
    data: bytes
    source: bool


def standing_pdf(
    paper: Paper, issue: Issue, inside: tuple[Inside, ...], at: datetime, photos: Mapping[str, bytes] = NO_PHOTOS
) -> bytes:
    """Return a paper as PDF/A-3b with files inside it."""
    from weasyprint import HTML, Attachment  # noqa: PLC0415

    files = [
        Attachment(
            string=each.data.decode(),
            name=each.name,
            description=each.name,
            created=at,
            modified=at,
            relationship="Source" if each.source else "Data",
        )
        for each in sorted(inside, key=lambda each: each.name)
    ]
    html = HTML(string=paper_html(paper, issue), url_fetcher=paper_fetcher(photos))
    pdf: bytes = html.write_pdf(pdf_variant="pdf/a-3b", attachments=files, finisher=_each_file_once)
    return pdf


def _each_file_once(_: Any, pdf: Any) -> None:
    """Keep each file once in the catalog's list: it comes twice by itself."""
    files = pdf.catalog.get("AF")
    if files is not None:
        files[:] = list(dict.fromkeys(files))


def signed_paper(
    paper: Paper,
    issue: Issue,
    inside: tuple[Inside, ...],
    at: datetime,
    key: SigningKey,
    photos: Mapping[str, bytes] = NO_PHOTOS,
) -> bytes:
    """Return a paper that stands, signed by its firm."""
    return sign_pdf(standing_pdf(paper, issue, inside, at, photos), key, f"{paper.title}, number {issue.firm_number}")


def hash_of(data: bytes) -> str:
    """Return the SHA-256 of some data as it is printed."""
    return sha256(data).hexdigest()
