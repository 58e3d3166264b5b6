"""The quote: what is done for how much, what is excluded, what has to be answered first."""

from decimal import Decimal

from lumbek.core.documents.gathered import Gathered
from lumbek.core.documents.paper import BLANK, Block, Column, Fact, Facts, Paper, Row, Section, Signature, Table, Words
from lumbek.core.items.quote import Quote, quote_of
from lumbek.core.items.terms import QuoteTerms
from lumbek.core.numbers import plain

_LINES = (
    Column(key="what", heading="What", strong=True),
    Column(key="count", heading="How much", align="right"),
    Column(key="unit", heading="Unit"),
    Column(key="price", heading="Each", align="right"),
    Column(key="net", heading="Net", align="right", strong=True),
)
_CHOICES = (
    Column(key="name", heading="Instead, or besides", strong=True),
    Column(key="what", heading="What"),
    Column(key="price", heading="Net", align="right"),
    Column(key="total", heading="Total with it", align="right", strong=True),
)


def quote_paper(gathered: Gathered) -> Paper:
    """Return a quote; while something has no price, or has not been answered, it is an estimate and says so."""
    terms = gathered.terms
    quote = quote_of(gathered.take_off, gathered.prices, terms)
    missing = [f"No price yet: {item.what}" for item in quote.unpriced]
    missing += ["No price yet for an hour of work"] if quote.wants_labour_price else []
    missing += [f"To be answered first: {gate}" for gate in quote.open_gates]
    lines = [
        Row(
            cells={
                "what": line.what,
                "count": f"{line.count.normalize():f}",
                "unit": line.unit,
                "price": f"{line.price:.2f}",
                "net": f"{line.net:.2f}",
            }
        )
        for line in quote.lines
    ]
    sections = (
        [Section(title="What it is made of", blocks=(Table(columns=_LINES, rows=tuple(lines)),))] if lines else []
    )
    sections.append(Section(title="Sum", blocks=(_sums(quote, terms),)))
    return Paper(
        kind="quote",
        title="Quote" if quote.is_whole else "Estimate",
        **gathered.head,
        sections=(*sections, *_options(quote), *_more(terms)),
        statements=(f"It stands for {terms.valid_days} days.", *((terms.note,) if terms.note else ())),
        signatures=(Signature(role="Accepted by the customer"),) if quote.is_whole else (),
        missing=tuple(missing),
    )


def _sums(quote: Quote, terms: QuoteTerms) -> Facts:
    by = "by line" if terms.tax_by == "line" else "on the sum"
    half = "half up" if terms.half == "up" else "half to even"
    facts = [
        ("Material", quote.material),
        (f"Labour, {quote.hours} h", quote.labour),
        (f"Margin, {plain(float(terms.margin_percent))} %", quote.margin),
        ("Variations agreed", quote.variations),
        ("Net", quote.net),
        (f"Tax, {plain(float(terms.tax_percent))} % {by}, {half}", quote.tax),
        ("Total", quote.total),
    ]
    return Facts(
        facts=tuple(Fact(name=label, value=f"{amount:.2f}") for label, amount in facts if _counts(label, amount))
    )


def _counts(label: str, amount: Decimal) -> bool:
    return bool(amount) or label in ("Net", "Total")


def _options(quote: Quote) -> list[Section]:
    if not quote.options:
        return []
    rows = tuple(
        Row(
            cells={
                "name": each.name,
                "what": each.what or BLANK,
                "price": f"{each.price:+.2f}",
                "total": f"{each.total:.2f}",
            }
        )
        for each in quote.options
    )
    return [Section(title="To choose from", blocks=(Table(columns=_CHOICES, rows=rows),))]


def _more(terms: QuoteTerms) -> list[Section]:
    found = []
    if terms.excluded:
        blocks: tuple[Block, ...] = (Words(lines=tuple(terms.excluded)),)
        found.append(Section(title="Not in it", blocks=blocks))
    if terms.variations:
        lines = tuple(
            f"{each.what}: {each.price:.2f}, agreed by {each.agreed_by or '?'} {each.on}".rstrip()
            for each in terms.variations
        )
        found.append(Section(title="Variations", blocks=(Words(lines=lines),)))
    return found
