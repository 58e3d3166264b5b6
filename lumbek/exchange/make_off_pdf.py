"""The make-off sheet as PDF, a box to a block, to be taken into the loft."""

from lumbek.core.switching.make_off import MakeOff
from lumbek.exchange.core_colours import fill_of
from lumbek.exchange.pdf import render_pdf


def make_off_pdf(sheet: MakeOff, draft: bool = False) -> bytes:
    """Return the make-off sheet of a circuit as a PDF, A4 portrait."""
    return render_pdf("make_off.html", draft, sheet=sheet, fill=fill_of)
