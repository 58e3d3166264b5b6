"""A quote: what a job takes by the firm's prices, its labour, margin and tax, to the penny.

Money is in decimals. A line is rounded to the penny; tax by each line or by the sum of its rate, half up or half even,
as it was chosen and is kept with the quote (five lines of 0.07 at 20 % are 0.05 or 0.07).
"""

from collections.abc import Sequence
from decimal import ROUND_HALF_EVEN, ROUND_HALF_UP, Decimal

from lumbek.core.items.labour import hours_of
from lumbek.core.items.prices import Money, PriceLine, PriceList
from lumbek.core.items.take_off import TakeOff, TakeOffItem
from lumbek.core.items.terms import QuoteOption, QuoteTerms
from lumbek.core.value import Frozen

GATES = ("photo of the board", "gas and water pipes", "RCD", "bonding")
_PENNY = Decimal("0.01")


class QuoteLine(Frozen):
    """A line: how much of what, at which price, and what that is without tax."""

    key: str
    what: str
    count: Decimal
    unit: str
    price: Money
    net: Decimal


class OptionSum(Frozen):
    """What the quote comes to with an option."""

    name: str
    what: str
    price: Decimal
    net: Decimal
    tax: Decimal
    total: Decimal


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
    options: tuple[OptionSum, ...] = ()

    @property
    def is_whole(self) -> bool:
        """Whether nothing is without a price, and everything that had to be asked was answered."""
        return not (self.unpriced or self.open_gates or self.wants_labour_price)


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
    hours = hours_of(take_off.items, terms)
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
        options=tuple(_with(option, net, nets, terms) for option in terms.options),
    )


def _with(option: QuoteOption, net: Decimal, nets: Sequence[Decimal], terms: QuoteTerms) -> OptionSum:
    """Return what a quote comes to with an option: taxed as all else is."""
    tax, more = _tax([*nets, option.price], terms), net + option.price
    return OptionSum(**dict(option), net=more, tax=tax, total=more + tax)


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


def _tax(nets: Sequence[Decimal], terms: QuoteTerms) -> Decimal:
    rate = terms.tax_percent / 100
    if terms.tax_by == "line":
        return sum((_rounded(net * rate, terms) for net in nets), Decimal(0))
    return _rounded(sum(nets, Decimal(0)) * rate, terms)


def _rounded(amount: Decimal, terms: QuoteTerms) -> Decimal:
    return amount.quantize(_PENNY, rounding=ROUND_HALF_UP if terms.half == "up" else ROUND_HALF_EVEN)
