"""Reading the tables of a rulebook from its CSV files, and looking figures up in them."""

import csv
from collections.abc import Mapping
from importlib.resources import files
from importlib.resources.abc import Traversable

DATA = files("lumbek.core.rulebooks") / "data"

# Absolute zero: no table entry lies here; a floor that lets `next_above` start anywhere.
_TINY = 1e-9


def rows(path: Traversable) -> list[dict[str, str]]:
    """Return the rows of a CSV file, each a mapping of column name to text."""
    return list(csv.DictReader(path.read_text(encoding="utf-8").splitlines()))


def at_or_above(table: Mapping[float, float], key: float) -> float | None:
    """Return the entry for `key`, or for the next larger key; None beyond the table.

    For factors that fall as the key grows (grouping, insulation, ambient) this never errs in favour.
    """
    fitting = [each for each in table if each >= key - _TINY]
    return table[min(fitting)] if fitting else None
