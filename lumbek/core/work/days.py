"""The days of the work: its steps in their order, as many on a day as there are hours; what the van brings that day."""

from collections import Counter
from collections.abc import Mapping, Sequence
from decimal import Decimal
from functools import cache

from lumbek.core.items.amounts import Sum
from lumbek.core.items.labour import MINUTES_AN_HOUR
from lumbek.core.items.take_off import TakeOffItem, items_of
from lumbek.core.items.terms import QuoteTerms
from lumbek.core.rulebooks.rules import PackData
from lumbek.core.rulebooks.tables import DATA
from lumbek.core.value import Frozen
from lumbek.core.work.step import WorkStep


class WorkDay(Frozen):
    """A day: its steps by their keys, how long they take together, and what the van brings for them."""

    number: int
    steps: tuple[str, ...]
    minutes: Decimal
    van: tuple[TakeOffItem, ...]
    tools: tuple[str, ...] = ()


def days_of(steps: Sequence[WorkStep], terms: QuoteTerms) -> tuple[WorkDay, ...]:
    """Return the days; a step that does not end on its day goes on the next one, and is brought for on its first."""
    a_day = terms.hours_a_day * MINUTES_AN_HOUR * terms.hands
    days: dict[int, list[WorkStep]] = {}
    gone = Decimal(0)
    for step in steps:
        days.setdefault(1 + int(gone // a_day), []).append(step)
        gone += step.minutes
    return tuple(
        WorkDay(
            number=number,
            steps=tuple(step.key for step in each),
            minutes=sum((step.minutes for step in each), Decimal(0)),
            van=van_of(each),
            tools=tools_for(each),
        )
        for number, each in days.items()
    )


class ToolRules(PackData):
    """The file `tools.json`: what is always brought, and what a key or a sort of the take-off wants besides."""

    source: str
    always: tuple[str, ...]
    by: Mapping[str, tuple[str, ...]]


@cache
def tool_rules() -> ToolRules:
    """Return the tools that a firm begins with."""
    return ToolRules.model_validate_json((DATA / "common" / "tools.json").read_text(encoding="utf-8"))


def tools_for(steps: Sequence[WorkStep]) -> tuple[str, ...]:
    """Return the tools that some steps want: what is always brought first, each once."""
    rules = tool_rules()
    wanted = {key for step in steps for item in step.takes for key in (item.key, item.sort)}
    found = [*rules.always, *(tool for key, tools in rules.by.items() if key in wanted for tool in tools)]
    return tuple(dict.fromkeys(found)) if wanted else ()


def van_of(steps: Sequence[WorkStep]) -> tuple[TakeOffItem, ...]:
    """Return what is brought for some steps; work is not."""
    counts: Counter[Sum] = Counter()
    for step in steps:
        for item in step.takes:
            if item.sort != "work":
                counts[Sum(item.key, item.sort, item.what, item.unit)] += item.count
    return items_of(counts)
