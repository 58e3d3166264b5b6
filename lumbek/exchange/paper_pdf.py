"""Setting a paper as PDF by WeasyPrint, in the typeface that is shipped. Nothing is fetched while it is made."""

from collections.abc import Mapping
from functools import cache
from io import BytesIO
from itertools import groupby
from pathlib import Path
from types import MappingProxyType
from typing import Any

from lumbek.core.documents.issue import Issue
from lumbek.core.documents.paper import Paper, Table
from lumbek.exchange.core_colours import fill_of
from lumbek.exchange.pictures import for_paper

# The bytes of photos by their ids: a paper that names one without its bytes leaves its place empty.
NO_PHOTOS: Mapping[str, bytes] = MappingProxyType({})
_FONTS = Path(__file__).parent / "fonts"
# What our own fonts are asked for by, in the template.
_FONT = "font:"
# And the photos of a paper, by their ids.
_PHOTO = "photo:"


def _spans(table: Table) -> list[tuple[str, int]]:
    """Return the groups that the columns of a table stand under, with how many there are of each; none if nameless."""
    shown = [column.group for column in table.columns if column.only == ""]
    return [(group, len(list(some))) for group, some in groupby(shown)] if any(shown) else []


# Jinja and WeasyPrint are loaded by who sets a page: the application has that done elsewhere, and starts much sooner
# without them.


@cache
def _templates() -> Any:
    from jinja2 import Environment, PackageLoader, StrictUndefined  # noqa: PLC0415

    found = Environment(
        loader=PackageLoader("lumbek.exchange", "templates"), autoescape=True, undefined=StrictUndefined
    )
    found.globals.update(
        fill=fill_of,
        spans=_spans,
        fonts=sorted(each.stem for each in _FONTS.glob("*.woff2")),
        verdicts={"pass": "passes", "fail": "FAILS", "cannot-tell": "cannot tell", "not-applicable": ""},
    )
    return found


@cache
def _font(name: str) -> bytes:
    """Return a font unpacked: to unpack all of them for each paper takes a third of its time."""
    from fontTools.ttLib import woff2  # noqa: PLC0415

    unpacked = BytesIO()
    woff2.decompress(BytesIO((_FONTS / name).read_bytes()), unpacked)
    return unpacked.getvalue()


def paper_fetcher(photos: Mapping[str, bytes]) -> Any:
    """Return what fetches our own fonts and the photos of a paper, and nothing else."""
    from weasyprint.urls import URLFetcher, URLFetcherResponse, URLFetchingError  # noqa: PLC0415

    class OwnParts(URLFetcher):  # type: ignore[misc]
        def fetch(self, url: str, *_: Any, **__: Any) -> Any:
            photo = photos.get(url.removeprefix(_PHOTO)) if url.startswith(_PHOTO) else None
            if photo is not None:
                return URLFetcherResponse(url, for_paper(photo), {"Content-Type": "image/jpeg"})
            name = url.removeprefix(_FONT)
            if not url.startswith(_FONT) or name not in {each.name for each in _FONTS.iterdir()}:
                raise URLFetchingError(f"papers hold everything they need; {url} is not fetched")
            return URLFetcherResponse(url, _font(name), {"Content-Type": "font/ttf"})

    return OwnParts()


def paper_html(paper: Paper, issue: Issue | None = None) -> str:
    """Return a paper as the page it is set from."""
    found: str = _templates().get_template("paper.html").render(paper=paper, issue=issue)
    return found


def paper_pdf(
    paper: Paper, issue: Issue | None = None, plain: bool = False, photos: Mapping[str, bytes] = NO_PHOTOS
) -> bytes:
    """Return a paper as PDF, A4, marked DRAFT on every page where it is one; `plain` packs nothing.

    Issued, it says by whom, when, and which issue it is.
    """
    from weasyprint import HTML  # noqa: PLC0415

    html = HTML(string=paper_html(paper, issue), url_fetcher=paper_fetcher(photos))
    pdf: bytes = html.write_pdf(uncompressed_pdf=plain)
    return pdf
