"""What is written at the boards as PDF, in true size, to be cut out and stuck."""

from collections.abc import Sequence

from lumbek.core.board.labels import MODULE_MM, BoardSheet
from lumbek.exchange.pdf import render_pdf

# So many labels lie side by side on a page.
IN_A_STRIP = 14


def labels_pdf(job: str, sheets: Sequence[BoardSheet], draft: bool = False) -> bytes:
    """Return labels, circuit chart, notices and the note of each board as a PDF, A4 landscape."""
    strips = [
        [sheet.labels[start : start + IN_A_STRIP] for start in range(0, len(sheet.labels), IN_A_STRIP)]
        for sheet in sheets
    ]
    boards = list(zip(sheets, strips, strict=True))
    return render_pdf("labels.html", draft, job=job, boards=boards, module_mm=MODULE_MM)
