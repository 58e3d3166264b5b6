"""The terms of a quote: what a person says of prices, of how long work takes, of margin and tax."""

from decimal import Decimal
from typing import Annotated, Literal

from pydantic import Field

from lumbek.core.items.prices import Code
from lumbek.core.model.text import GivenName, Name, Note
from lumbek.core.value import Frozen

Percent = Annotated[Decimal, Field(ge=0, le=100, decimal_places=2)]
Key = Annotated[str, Field(min_length=1, max_length=120)]


class Variation(Frozen):
    """Something that was agreed on after the quote: what, for how much, with whom and when."""

    what: GivenName
    price: Annotated[Decimal, Field(ge=-1_000_000, le=1_000_000, decimal_places=2)]
    agreed_by: Name = ""
    on: Name = ""


class QuoteOption(Frozen):
    """Something that the customer may choose: what it is, and what it costs more or less than the quote, net."""

    name: GivenName
    what: Note = ""
    price: Annotated[Decimal, Field(ge=-1_000_000, le=1_000_000, decimal_places=2)]


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
    # How many hours a day is worked, by how many.
    hours_a_day: Annotated[Decimal, Field(gt=0, le=24, decimal_places=2)] = Decimal(8)
    hands: Annotated[int, Field(ge=1, le=40)] = 1
    excluded: Annotated[tuple[GivenName, ...], Field(max_length=40)] = ()
    # What has to be answered before it is more than an estimate.
    answered: Annotated[tuple[Name, ...], Field(max_length=20)] = ()
    valid_days: Annotated[int, Field(ge=1, le=365)] = 30
    note: Note = ""
    variations: Annotated[tuple[Variation, ...], Field(max_length=100)] = ()
    # Each is chosen by itself, or none is.
    options: Annotated[tuple[QuoteOption, ...], Field(max_length=12)] = ()
