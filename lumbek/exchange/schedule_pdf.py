"""The schedule as PDF."""

from itertools import groupby

from lumbek.core.documents.schedule import Schedule
from lumbek.exchange.pdf import render_pdf


def schedule_pdf(schedule: Schedule) -> bytes:
    """Return the schedule as a PDF, A4 landscape, marked DRAFT on every page unless it is in order."""
    groups = [
        (group, len(list(columns))) for group, columns in groupby(schedule.columns, key=lambda column: column.group)
    ]
    return render_pdf("schedule.html", schedule=schedule, groups=groups)
