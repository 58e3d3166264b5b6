"""The test results as CSV: a heading line, then a line a reading, those that a later one stands for included."""

import csv
import io

from lumbek.core.documents.results import Results
from lumbek.exchange.schedule_csv import inert

_HEADINGS = ("No.", "Circuit", "Step", "Test", "Place", "Reading", "Limit", "Verdict", "Note", "Instrument", "By", "At")


def results_csv(results: Results) -> str:
    """Return the results as CSV (RFC 4180)."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow([*_HEADINGS, "Struck"])
    for part in results.parts:
        for row in part.rows:
            cells = (
                *("" if part.number is None else str(part.number), part.title, row.step, row.test, row.place),
                *(row.reading, row.limit, row.verdict, row.note, row.instrument, row.by, row.at),
                "struck" if row.struck else "",
            )
            writer.writerow([inert(cell) for cell in cells])
    return out.getvalue()
