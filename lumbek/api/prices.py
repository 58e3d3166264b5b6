"""The firm's prices: to look at, as CSV out, and in again as a whole."""

from typing import Annotated

from fastapi import Response
from pydantic import Field

from lumbek.api.context import Designer, Reader, WithServices
from lumbek.api.download import download_csv, hands_out
from lumbek.api.part import part_of_api
from lumbek.api.writes import Write
from lumbek.core.items.prices import PriceList
from lumbek.exchange.prices_csv import write_prices

router = part_of_api("prices")


class PricesFile(Write):
    """A file of prices."""

    text: Annotated[str, Field(max_length=1_500_000)]


@router.get("/prices")
def prices(services: WithServices, person: Reader) -> PriceList:
    """Return the firm's prices."""
    return services.prices.list(person)


@router.get("/prices.csv", response_class=Response, responses=hands_out("text/csv"))
def prices_file(services: WithServices, person: Reader) -> Response:
    """Hand out the firm's prices."""
    return download_csv(write_prices(services.prices.list(person)), "prices.csv")


@router.post("/prices", status_code=201)
def put_prices(file: PricesFile, services: WithServices, person: Designer) -> PriceList:
    """Take in prices instead of those that counted; all of the file or none."""
    return services.prices.put(person, file.id, file.text)
