"""The test results as PDF."""

from lumbek.core.documents.results import Results
from lumbek.exchange.pdf import render_pdf


def results_pdf(results: Results, draft: bool = False) -> bytes:
    """Return the results as a PDF, A4, a table for the installation and for each circuit with readings."""
    return render_pdf("results.html", draft, results=results)
