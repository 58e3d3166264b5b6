"""Setting a template of our own as PDF by WeasyPrint. Nothing is fetched while it is made."""

from typing import Any

from jinja2 import Environment, PackageLoader, StrictUndefined

_templates = Environment(
    loader=PackageLoader("lumbek.exchange", "templates"), autoescape=True, undefined=StrictUndefined
)


# WeasyPrint is loaded by who sets a page: the application has that done elsewhere, and starts much sooner without it.


def _fetch_nothing(url: str, *_: Any, **__: Any) -> Any:
    from weasyprint.urls import URLFetchingError  # noqa: PLC0415

    raise URLFetchingError(f"documents hold everything they need; {url} is not fetched")


def render_pdf(template: str, draft: bool, **values: Any) -> bytes:
    """Return the PDF of a template with these values; a draft is marked as one on every page."""
    from weasyprint import HTML  # noqa: PLC0415

    html = _templates.get_template(template).render(draft=draft, **values)
    pdf: bytes = HTML(string=html, url_fetcher=_fetch_nothing).write_pdf()
    return pdf
