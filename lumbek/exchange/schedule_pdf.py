"""The schedule as PDF."""

from itertools import groupby

from lumbek.core.documents.issue import Issue
from lumbek.core.documents.schedule import Schedule
from lumbek.exchange.pdf import render_pdf


def schedule_pdf(schedule: Schedule, issue: Issue | None = None) -> bytes:
    """Return the schedule as a PDF, A4 landscape, marked DRAFT on every page unless it is in order.

    Issued, it says by whom, when, and which issue it is.
    """
    groups = [
        (group, len(list(columns))) for group, columns in groupby(schedule.columns, key=lambda column: column.group)
    ]
    return render_pdf("schedule.html", schedule.draft, schedule=schedule, issue=issue, groups=groups)
