"""How long work takes: minutes for one, or for a metre, by the firm's own figures, else by those it begins with."""

from collections.abc import Iterable, Mapping
from decimal import ROUND_UP, Decimal
from functools import cache

from lumbek.core.items.take_off import TakeOffItem
from lumbek.core.items.terms import QuoteTerms
from lumbek.core.rulebooks.rules import PackData
from lumbek.core.rulebooks.tables import DATA

MINUTES_AN_HOUR = 60


class LabourRules(PackData):
    """The file `labour.json`."""

    source: str
    minutes: Mapping[str, int]


@cache
def labour_rules() -> LabourRules:
    """Return the minutes that a firm begins with."""
    return LabourRules.model_validate_json((DATA / "common" / "labour.json").read_text(encoding="utf-8"))


def minutes_of(items: Iterable[TakeOffItem], terms: QuoteTerms) -> Decimal:
    """Return how long all of it takes, in minutes."""
    begun, minutes = labour_rules().minutes, Decimal(0)
    for item in items:
        each = terms.minutes.get(item.key, terms.minutes.get(item.sort, begun.get(item.key, begun.get(item.sort, 0))))
        minutes += each * item.quantity
    return minutes


def hours_of(items: Iterable[TakeOffItem], terms: QuoteTerms) -> Decimal:
    """Return how long all of it takes, in hours to a hundredth, up."""
    return (minutes_of(items, terms) / MINUTES_AN_HOUR).quantize(Decimal("0.01"), rounding=ROUND_UP)
