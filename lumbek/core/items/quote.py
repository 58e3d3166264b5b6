"""A quote: what a job takes by the firm's prices, its labour, margin and tax, to the penny.

Money is in decimals. A line is rounded to the penny; tax by each line or by the sum of its rate, half up or half even,
as it was chosen and is kept with the quote (five lines of 0.07 at 20 % are 0.05 or 0.07).
"""

from collections.abc import Mapping, Sequence
from decimal import ROUND_HALF_EVEN, ROUND_HALF_UP, Decimal
from functools import cache
from typing import Annotated, Literal

from pydantic import Field

from lumbek.core.items.prices import Code, Money, PriceLine, PriceList
from lumbek.core.items.take_off import TakeOff, TakeOffItem
from lumbek.core.model.text import GivenName, Name, Note
from lumbek.core.rulebooks.rules import PackData
from lumbek.core.rulebooks.tables import DATA
from lumbek.core.value import Frozen

Percent = Annotated[Decimal, Field(ge=0, le=100, decimal_places=2)]
Key = Annotated[str, Field(min_length=1, max_length=120)]
GATES = ("photo of the board", "gas and water pipes", "RCD", "bonding")
_PENNY = Decimal("0.01")
_MINUTES_AN_HOUR = 60


class Variation(Frozen):
    """Something that was agreed on after the quote: what, for how much, with whom and when."""

    what: GivenName
    price: Annotated[Decimal, Field(ge=-1_000_000, le=1_000_000, decimal_places=2)]
    agreed_by: Name = ""
    on: Name = ""


class QuoteTerms(Frozen):
    """What a person says of a quote: which price each thing has, how long work takes, margin, tax, what is excluded."""

    codes: Annotated[dict[Key, Code], Field(max_length=1000)] = {}
    # Minutes for one, or for a metre; where nothing is said, the beginning that ships.
    minutes: Annotated[dict[Key, Annotated[int, Field(ge=0, le=6000)]], Field(max_length=200)] = {}
    labour_code: Name = ""
    margin_percent: Percent = Decimal(0)
    tax_percent: Percent = Decimal(20)
    tax_by: Literal["line", "rate"] = "rate"
    half: Literal["up", "even"] = "up"
    whole_drums: bool = True
    excluded: Annotated[tuple[GivenName, ...], Field(max_length=40)] = ()
    # What has to be answered before it is more than an estimate.
    answered: Annotated[tuple[Name, ...], Field(max_length=20)] = ()
    valid_days: Annotated[int, Field(ge=1, le=365)] = 30
    note: Note = ""
    variations: Annotated[tuple[Variation, ...], Field(max_length=100)] = ()


class QuoteLine(Frozen):
    """A line: how much of what, at which price, and what that is without tax."""

    key: str
    what: str
    count: Decimal
    unit: str
    price: Money
    net: Decimal


class Quote(Frozen):
    """A quote to the penny; `unpriced` are things without a price, `open_gates` what nobody has answered."""

    lines: tuple[QuoteLine, ...]
    hours: Decimal
    material: Decimal
    labour: Decimal
    margin: Decimal
    variations: Decimal
    net: Decimal
    tax: Decimal
    total: Decimal
    unpriced: tuple[TakeOffItem, ...]
    wants_labour_price: bool
    open_gates: tuple[str, ...]

    @property
    def is_whole(self) -> bool:
        """Whether nothing is without a price, and everything that had to be asked was answered."""
        return not (self.unpriced or self.open_gates or self.wants_labour_price)


class LabourRules(PackData):
    """The file `labour.json`."""

    source: str
    minutes: Mapping[str, int]


@cache
def labour_rules() -> LabourRules:
    """Return the minutes that a firm begins with."""
    return LabourRules.model_validate_json((DATA / "common" / "labour.json").read_text(encoding="utf-8"))


def quote_of(take_off: TakeOff, prices: PriceList, terms: QuoteTerms) -> Quote:
    """Return a quote for what a job takes."""
    by_code = {line.code: line for line in prices.lines}
    lines: list[QuoteLine] = []
    unpriced = []
    for item in take_off.items:
        if item.sort == "work":
            continue
        price = by_code.get(terms.codes.get(item.key, ""))
        if price is None:
            unpriced.append(item)
        else:
            lines.append(_line(item.key, item.what, _bought(item, take_off, terms), price, terms))
    material = sum((line.net for line in lines), Decimal(0))
    hours = _hours(take_off.items, terms)
    rate = by_code.get(terms.labour_code)
    labour = Decimal(0)
    if rate is not None and hours:
        lines.append(_line("labour", rate.name, hours, rate, terms))
        labour = lines[-1].net
    margin = _rounded((material + labour) * terms.margin_percent / 100, terms)
    varied = sum((each.price for each in terms.variations), Decimal(0))
    net = material + labour + margin + varied
    nets = [*(line.net for line in lines), margin, *(each.price for each in terms.variations)]
    tax = _tax(nets, terms)
    return Quote(
        lines=tuple(lines),
        hours=hours,
        material=material,
        labour=labour,
        margin=margin,
        variations=varied,
        net=net,
        tax=tax,
        total=net + tax,
        unpriced=tuple(unpriced),
        wants_labour_price=rate is None and hours > 0,
        open_gates=tuple(gate for gate in GATES if gate not in terms.answered),
    )


def _bought(item: TakeOffItem, take_off: TakeOff, terms: QuoteTerms) -> Decimal:
    """Return how much is paid for: of cable whole drums, where the firm sells them so; metres in metres."""
    if item.unit == "each":
        return Decimal(item.count)
    drums = next((cut.drums for cut in take_off.cuts if cut.key == item.key), None)
    mm = drums.bought_mm if terms.whole_drums and drums is not None else item.count
    return Decimal(mm) / 1000


def _line(key: str, what: str, count: Decimal, price: PriceLine, terms: QuoteTerms) -> QuoteLine:
    net = _rounded(count * price.price, terms)
    return QuoteLine(key=key, what=what, count=count, unit=price.unit, price=price.price, net=net)


def _hours(items: Sequence[TakeOffItem], terms: QuoteTerms) -> Decimal:
    """Return how long all of it takes, in hours to a hundredth, up."""
    begun, minutes = labour_rules().minutes, Decimal(0)
    for item in items:
        each = terms.minutes.get(item.key, terms.minutes.get(item.sort, begun.get(item.key, begun.get(item.sort, 0))))
        minutes += each * (Decimal(item.count) / 1000 if item.unit == "m" else Decimal(item.count))
    hours = minutes / _MINUTES_AN_HOUR
    down = hours.quantize(_PENNY, rounding="ROUND_DOWN")
    return down if down == hours else down + _PENNY


def _tax(nets: Sequence[Decimal], terms: QuoteTerms) -> Decimal:
    rate = terms.tax_percent / 100
    if terms.tax_by == "line":
        return sum((_rounded(net * rate, terms) for net in nets), Decimal(0))
    return _rounded(sum(nets, Decimal(0)) * rate, terms)


def _rounded(amount: Decimal, terms: QuoteTerms) -> Decimal:
    return amount.quantize(_PENNY, rounding=ROUND_HALF_UP if terms.half == "up" else ROUND_HALF_EVEN)
