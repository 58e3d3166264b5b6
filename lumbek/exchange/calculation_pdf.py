"""The calculation sheet as PDF."""

from lumbek.core.documents.calculation import CalculationSheet
from lumbek.exchange.pdf import render_pdf


def calculation_pdf(sheet: CalculationSheet) -> bytes:
    """Return the sheet as a PDF, A4 upright; a draft is marked as one."""
    return render_pdf("calculation_sheet.html", sheet=sheet)
