"""A firm's prices as CSV, out and in again: code, name, unit, price, supplier; separators and headings forgivingly."""

import csv
import io
import re
from decimal import Decimal, InvalidOperation

from pydantic import ValidationError

from lumbek.core.items.prices import MOST_LINES, PriceLine, PriceList
from lumbek.exchange.paper_csv import inert
from lumbek.exchange.problems import problems_of
from lumbek.exchange.separated import separated

COLUMNS = ("code", "name", "unit", "price", "supplier")
_ALSO = {"description": "name", "item": "name", "cost": "price", "number": "code", "from": "supplier"}
_TOLD = 5
# One mark, and three digits behind it.
_TWO_WAYS = re.compile(r"[1-9]\d{0,2}[.,]\d{3}")


class PricesError(Exception):
    """A file is no list of prices; the message says in which lines and why."""


def write_prices(prices: PriceList) -> str:
    """Return a list of prices as CSV (RFC 4180)."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(COLUMNS)
    for line in prices.lines:
        said = line.model_dump()
        writer.writerow([inert(str(said[column])) for column in COLUMNS])
    return out.getvalue()


def read_prices(text: str) -> PriceList:
    """Return the prices that a file holds, all of them or none. Raises PricesError."""
    text, separator = separated(text)
    rows = list(csv.reader(io.StringIO(text), delimiter=separator))
    if len(rows) > MOST_LINES + 1:
        raise PricesError(f"A list holds {MOST_LINES} prices, and this one has {len(rows) - 1}.")
    at = _columns(rows[0] if rows else [])
    lines, troubles = [], []
    for number, row in enumerate(rows[1:], start=2):
        if not any(map(str.strip, row)):
            continue
        try:
            if len(row) > len(rows[0]):
                raise ValueError("it has more cells than the first line")
            lines.append(_line({name: row[place] for name, place in at.items() if place < len(row)}))
        except ValidationError as error:
            problem = problems_of(error)[0]
            troubles.append(f"line {number}: {problem.field} {problem.reason}")
        except ValueError as error:
            troubles.append(f"line {number}: {error}")
    if troubles:
        more = len(troubles) - _TOLD
        raise PricesError("; ".join(troubles[:_TOLD]) + (f"; and {more} more" if more > 0 else "") + ".")
    try:
        return PriceList(lines=tuple(lines))
    except ValidationError as error:
        raise PricesError(f"{problems_of(error)[0].reason}.") from error


def _columns(heading: list[str]) -> dict[str, int]:
    at: dict[str, int] = {}
    for place, said in enumerate(heading):
        name = said.strip().lower()
        at.setdefault(_ALSO.get(name, name), place)
    missing = [column for column in ("code", "name", "price") if column not in at]
    if missing:
        raise PricesError(f"The first line names no {' and no '.join(missing)}: it is {', '.join(COLUMNS)}.")
    return {name: place for name, place in at.items() if name in COLUMNS}


def _line(cells: dict[str, str]) -> PriceLine:
    said = {name: cell.strip().removeprefix("'") for name, cell in cells.items() if cell.strip()}
    return PriceLine.model_validate(said | {"price": _money(said.get("price", ""))})


def _money(said: str) -> Decimal:
    """Return an amount as it was written, with a point or a comma.

    Raises ValueError for what is none, and for what could be read two ways: 1,250 is more than a thousand to one reader
    and little more than one to another.
    """
    bare = said.strip("£$€ ")
    if _TWO_WAYS.fullmatch(bare):
        raise ValueError(f"price: {bare} can be read two ways; write it with two decimals, or without a mark")
    grouping = "," if bare.rfind(".") > bare.rfind(",") else "."
    try:
        return Decimal(bare.replace(grouping, "").replace(" ", "").replace(",", "."))
    except InvalidOperation:
        raise ValueError(f"price: {said[:20]!r} is no amount") from None
