"""The prices of a firm: put down as a whole, each time anew; what was before stays on record."""

from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from lumbek.core.items.prices import PriceList
from lumbek.core.numbers import counted
from lumbek.exchange.prices_csv import PricesError, read_prices
from lumbek.services import audit
from lumbek.services.clock import now
from lumbek.services.deeds import Deed
from lumbek.services.errors import BadInputError
from lumbek.services.person import Person
from lumbek.services.writes import is_new
from lumbek.store.database import Database
from lumbek.store.models import PriceListRow


class PriceService:
    """Use cases on prices."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def list(self, person: Person) -> PriceList:
        """Return the prices that count."""
        with self._database.transaction() as db:
            return prices_of(db, person.firm_id)

    def put(self, person: Person, write_id: UUID, text: str) -> PriceList:
        """Take the prices of a CSV file instead of all that counted, once. Raises BadInputError: then none is taken."""
        try:
            prices = read_prices(text)
        except PricesError as error:
            raise BadInputError(str(error)) from error
        with self._database.transaction() as db:
            if is_new(db, person, write_id, person.firm_id, PriceListRow):
                who = {"by": person.name, "by_id": person.user_id, "at": now()}
                document = prices.model_dump(mode="json")
                db.add(PriceListRow(id=write_id, firm_id=person.firm_id, document=document, **who))
                audit.note(
                    db, person, Deed.PRICES_CHANGED, person.firm_id, counted(len(prices.lines), "price", "prices")
                )
                db.flush()
            return prices_of(db, person.firm_id)


def prices_of(db: Session, firm_id: UUID) -> PriceList:
    """Return the prices of a firm that count."""
    query = select(PriceListRow.document).where(PriceListRow.firm_id == firm_id)
    document = db.scalar(query.order_by(PriceListRow.place.desc()).limit(1))
    return PriceList() if document is None else PriceList.model_validate(document)
