"""The calculation sheet as PDF."""

from lumbek.core.documents.calculation import make_calculation_sheet
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.job import JobHead
from lumbek.core.model.supply import Supply
from lumbek.exchange.pdf import render_pdf


def calculation_pdf(head: JobHead, supply: Supply, circuit: Circuit) -> bytes:
    """Return the calculation sheet of a circuit as a PDF, A4 upright; a draft is marked as one."""
    return render_pdf("calculation_sheet.html", sheet=make_calculation_sheet(head, supply, circuit))
