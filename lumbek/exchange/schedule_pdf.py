"""The schedule as PDF, set by WeasyPrint from a template of our own. Nothing is fetched while it is made."""

from itertools import groupby
from typing import Any

from jinja2 import Environment, PackageLoader, StrictUndefined
from weasyprint import HTML
from weasyprint.urls import URLFetchingError

from lumbek.exchange.schedule import Schedule

_templates = Environment(
    loader=PackageLoader("lumbek.exchange", "templates"), autoescape=True, undefined=StrictUndefined
)


def _fetch_nothing(url: str, *_: Any, **__: Any) -> Any:
    raise URLFetchingError(f"documents hold everything they need; {url} is not fetched")


def schedule_pdf(schedule: Schedule) -> bytes:
    """Return the schedule as a PDF, A4 landscape, marked DRAFT on every page unless it is in order."""
    groups = [
        (group, len(list(columns))) for group, columns in groupby(schedule.columns, key=lambda column: column.group)
    ]
    html = _templates.get_template("schedule.html").render(schedule=schedule, groups=groups)
    pdf: bytes = HTML(string=html, url_fetcher=_fetch_nothing).write_pdf()
    return pdf
