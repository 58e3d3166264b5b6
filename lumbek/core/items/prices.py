"""A firm's own prices: material and labour, each for a unit. Money is in decimals, never floats."""

from decimal import Decimal
from typing import Annotated, Self

from pydantic import Field, StringConstraints, model_validator

from lumbek.core.model.text import GivenName, Name
from lumbek.core.value import Frozen

MOST_LINES = 5000
Money = Annotated[Decimal, Field(ge=0, le=1_000_000, max_digits=11, decimal_places=4, allow_inf_nan=False)]
Code = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=40)]


class PriceLine(Frozen):
    """Something by its code, and what one unit of it costs, without tax."""

    code: Code
    name: GivenName
    unit: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=12)] = "each"
    price: Money
    supplier: Name = ""


class PriceList(Frozen):
    """All prices of a firm; each code once."""

    lines: Annotated[tuple[PriceLine, ...], Field(max_length=MOST_LINES)] = ()

    @model_validator(mode="after")
    def _each_code_once(self) -> Self:
        seen: set[str] = set()
        for line in self.lines:
            if line.code in seen:
                raise ValueError(f"code: {line.code} is there twice")
            seen.add(line.code)
        return self
