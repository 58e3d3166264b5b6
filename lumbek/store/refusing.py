"""Going back to an older schema without losing anything: what it has no place for makes it refuse."""

import sqlalchemy as sa
from alembic import op


def refuse_if(query: str, what: str) -> None:
    """Raise RuntimeError where a query has rows: things that the older version cannot keep."""
    if op.get_bind().scalar(sa.text(f"SELECT EXISTS ({query})")):
        raise RuntimeError(f"the older version cannot keep {what}: nothing was changed")
