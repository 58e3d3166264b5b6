"""The schedule as CSV: a heading line, then a line a circuit."""

import csv
import io

from lumbek.core.documents.schedule import Schedule


def inert(cell: str) -> str:
    """Keep a spreadsheet from taking a name for a formula."""
    return f"'{cell}" if cell[:1] in ("=", "+", "-", "@", "\t") else cell


def schedule_csv(schedule: Schedule) -> str:
    """Return the schedule as CSV (RFC 4180), the state of the document in the last column."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow([*(column.heading for column in schedule.columns), "State"])
    for row in schedule.rows:
        state = "; ".join(row.failures) or "in order"
        writer.writerow([*(inert(row.cells[column.key]) for column in schedule.columns), inert(state)])
    return out.getvalue()
