"""A paper's tables as CSV: a heading line, then a line a row."""

import csv
import io

from lumbek.core.documents.paper import Paper


def inert(cell: str) -> str:
    """Keep a spreadsheet from taking a name for a formula."""
    return f"'{cell}" if cell[:1] in ("=", "+", "-", "@", "\t") else cell


def paper_csv(paper: Paper) -> str:
    """Return all tables of a paper as CSV (RFC 4180); tables of the same columns are one, under one heading line."""
    out = io.StringIO()
    writer = csv.writer(out)
    under = None
    for table in paper.tables:
        if table.columns != under:
            writer.writerow([column.heading for column in table.columns])
            under = table.columns
        for row in table.rows:
            writer.writerow([inert(row.cells[column.key]) for column in table.columns])
    return out.getvalue()
