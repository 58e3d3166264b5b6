"""Offering a quote to the customer by a link that ends, and what the customer says to it, once."""

import secrets
from datetime import timedelta
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field
from sqlalchemy import select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from lumbek.core.items.quote import Quote
from lumbek.core.model.text import GivenName, Name, Note
from lumbek.core.value import Frozen
from lumbek.services import audit
from lumbek.services.clock import now, stamp
from lumbek.services.deeds import Deed
from lumbek.services.errors import BadInputError, NotFoundError
from lumbek.services.jobs import need_job
from lumbek.services.mail import Mail
from lumbek.services.person import Person
from lumbek.services.sessions import digest
from lumbek.services.views import QuoteView
from lumbek.services.writes import is_new
from lumbek.settings import Settings
from lumbek.store import audit as audit_store
from lumbek.store.database import Database
from lumbek.store.models import QuoteAnswer, QuoteOffer

_GONE = "This link is too old, or was never made. Ask for a new one."


class OfferedQuote(Frozen):
    """A quote as it is offered: by whom, for what, until when, what it does not hold."""

    firm: str
    job: str
    address: str
    until: str
    quote: Quote
    excluded: tuple[str, ...]
    note: str


class CustomerSays(Frozen):
    """What a customer says to an offer: taken, with an option or none, or not taken."""

    accepted: bool
    name: GivenName
    option: Name = ""
    note: Note = ""


class OfferAnswered(CustomerSays):
    """What was said, and when."""

    at: str


class OfferSeen(Frozen):
    """An offer as whoever has its link sees it."""

    offered: OfferedQuote
    is_open: bool
    answer: OfferAnswered | None


class OfferLine(Frozen):
    """An offer as the firm sees it."""

    id: UUID
    email: str
    at: str
    until: str
    total: str
    state: Literal["open", "accepted", "declined", "ended"]
    answer: OfferAnswered | None


class OfferMade(Frozen):
    """The link to an offer, whether a mail server took it, and every offer of the job."""

    path: str
    mailed: bool
    offers: tuple[OfferLine, ...]


EmailTo = Annotated[str, Field(min_length=3, max_length=200, pattern=r"^[^@\s]+@[^@\s]+$")]


class OfferService:
    """Use cases on offers."""

    def __init__(self, database: Database, settings: Settings, mail: Mail) -> None:
        self._database, self._settings, self._mail = database, settings, mail

    def list(self, person: Person, job_id: UUID) -> tuple[OfferLine, ...]:
        """Return the offers of a job, the latest first."""
        with self._database.transaction() as db:
            return _lines(db, need_job(db, person, job_id).id)

    def make(self, person: Person, job_id: UUID, write_id: UUID, email: str, view: QuoteView) -> OfferMade:
        """Offer a quote as it is, and send the link. Raises BadInputError for one that is an estimate yet."""
        quote, terms = view.quote, view.terms
        if not quote.is_whole:
            raise BadInputError("It is an estimate yet: give everything a price, and answer what comes first.")
        if not quote.lines:
            raise BadInputError("There is nothing to offer yet.")
        token, made_at = secrets.token_urlsafe(24), now()
        until = made_at + timedelta(days=terms.valid_days)
        with self._database.transaction() as db:
            job = need_job(db, person, job_id)
            if not is_new(db, person, write_id, job_id, QuoteOffer):
                raise BadInputError("That was offered already.")
            offered = OfferedQuote(
                firm=person.firm,
                job=job.name,
                address=job.address,
                until=until.date().isoformat(),
                quote=quote,
                excluded=tuple(terms.excluded),
                note=terms.note,
            )
            db.add(
                QuoteOffer(
                    id=write_id,
                    job_id=job.id,
                    firm_id=person.firm_id,
                    token_hash=digest(token),
                    document=offered.model_dump(mode="json"),
                    email=email,
                    expires_at=until,
                    by=person.name,
                    by_id=person.user_id,
                    at=made_at,
                )
            )
            audit.note(db, person, Deed.QUOTE_OFFERED, job.id, f"{quote.total} to {email}")
            db.flush()
            lines = _lines(db, job.id)
        path = f"/offer/{token}"
        words = (
            f"{person.firm} offers its work on {offered.job} for {quote.total}, tax included.\n\n"
            f"Look at it, and say yes or no, here: {self._settings.address}{path}\n\n"
            f"It stands until {until:%d %B %Y}.\n"
        )
        return OfferMade(path=path, mailed=self._mail.tell(email, f"A quote from {person.firm}", words), offers=lines)

    def see(self, token: str) -> OfferSeen:
        """Return the offer that a link leads to. Raises NotFoundError where there is none, or it was never answered
        and has ended."""
        with self._database.transaction() as db:
            return _seen(db, _need(db, token))

    def answer(self, token: str, said: CustomerSays, address: str) -> OfferSeen:
        """Keep what the customer says, once; said again, what was said first stands.

        Raises NotFoundError, BadInputError for an option that is not in the offer.
        """
        with self._database.transaction() as db:
            row = _need(db, token)
            offered = OfferedQuote.model_validate(row.document)
            if said.option and said.option not in {each.name for each in offered.quote.options}:
                raise BadInputError("There is no such option in this quote.")
            kept = {"offer_id": row.id, "document": said.model_dump(mode="json"), "address": address, "at": now()}
            # Of two at once the database keeps the first.
            added = insert(QuoteAnswer).values(**kept).on_conflict_do_nothing().returning(QuoteAnswer.offer_id)
            if db.scalar(added) is not None:
                word = "accepted" if said.accepted else "declined"
                option = f" with {said.option}" if said.option else ""
                told = f"{word} by {said.name}{option}, {offered.quote.total}"
                audit_store.add(db, row.firm_id, None, address, Deed.QUOTE_ANSWERED, str(row.job_id), told)
            return _seen(db, row)


def _need(db: Session, token: str) -> QuoteOffer:
    row = db.scalar(select(QuoteOffer).where(QuoteOffer.token_hash == digest(token)))
    if row is None or (row.expires_at < now() and db.get(QuoteAnswer, row.id) is None):
        raise NotFoundError(_GONE)
    return row


def _answered(db: Session, offer_id: UUID) -> OfferAnswered | None:
    row = db.get(QuoteAnswer, offer_id)
    return None if row is None else OfferAnswered.model_validate({**row.document, "at": stamp(row.at)})


def _seen(db: Session, row: QuoteOffer) -> OfferSeen:
    answer = _answered(db, row.id)
    return OfferSeen(offered=OfferedQuote.model_validate(row.document), is_open=answer is None, answer=answer)


def _lines(db: Session, job_id: UUID) -> tuple[OfferLine, ...]:
    rows = db.scalars(select(QuoteOffer).where(QuoteOffer.job_id == job_id).order_by(QuoteOffer.at.desc()))
    return tuple(_line(db, row) for row in rows)


def _line(db: Session, row: QuoteOffer) -> OfferLine:
    answer = _answered(db, row.id)
    offered = OfferedQuote.model_validate(row.document)
    state: Literal["open", "accepted", "declined", "ended"] = "open" if row.expires_at >= now() else "ended"
    if answer is not None:
        state = "accepted" if answer.accepted else "declined"
    return OfferLine(
        id=row.id,
        email=row.email,
        at=stamp(row.at),
        until=offered.until,
        total=str(offered.quote.total),
        state=state,
        answer=answer,
    )
