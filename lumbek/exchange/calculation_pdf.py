"""The calculation sheet as PDF."""

from lumbek.core.documents.calculation import make_calculation_sheet
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.job import JobHead
from lumbek.core.model.supply import Supply
from lumbek.exchange.pdf import render_pdf


def calculation_pdf(head: JobHead, supply: Supply, circuit: Circuit, draft: bool = False) -> bytes:
    """Return the calculation sheet of a circuit as a PDF, A4 upright; a draft is marked as one.

    So is every sheet for somebody who may not issue it: `draft`.
    """
    sheet = make_calculation_sheet(head, supply, circuit)
    return render_pdf("calculation_sheet.html", draft or sheet.draft, sheet=sheet)
