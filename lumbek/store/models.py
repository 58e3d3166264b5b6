"""The tables. Designs are documents held to the core's models; readings and revisions are only ever added.

`format` is the version of the document beside it: old ones are brought forward when they are read.
"""

from datetime import datetime
from typing import Any
from uuid import UUID, uuid4

from sqlalchemy import (
    BigInteger,
    Computed,
    DateTime,
    ForeignKey,
    Identity,
    Index,
    LargeBinary,
    String,
    Text,
    UniqueConstraint,
    func,
    text,
)
from sqlalchemy.dialects.postgresql import ARRAY, JSONB
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    """All tables; every time is kept with its zone."""

    type_annotation_map = {
        datetime: DateTime(timezone=True),
        dict[str, Any]: JSONB,
        list[str]: ARRAY(Text),
        str: Text,
    }


class Firm(Base):
    """A firm: who shares jobs."""

    __tablename__ = "firm"
    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    name: Mapped[str]


class User(Base):
    """A person who signs in."""

    __tablename__ = "app_user"
    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    firm_id: Mapped[UUID] = mapped_column(ForeignKey("firm.id"))
    email: Mapped[str] = mapped_column(unique=True)
    name: Mapped[str]
    password_hash: Mapped[str]
    roles: Mapped[list[str]] = mapped_column(server_default=text("'{}'::text[]"))
    locked_at: Mapped[datetime | None]
    # The second factor: its secret once it has been proved, and the last step of it that was used.
    totp_secret: Mapped[str | None]
    totp_step: Mapped[int | None] = mapped_column(BigInteger)
    # When somebody last tried so many wrong passwords that sign-ins from elsewhere were held back.
    held_at: Mapped[datetime | None]


class SignedIn(Base):
    """A session; only the hash of its token is kept."""

    __tablename__ = "signed_in"
    token_hash: Mapped[str] = mapped_column(String(64), primary_key=True)
    # What it is known by where sessions are listed: the token's hash is nobody's business.
    id: Mapped[UUID] = mapped_column(unique=True, default=uuid4, server_default=text("gen_random_uuid()"))
    user_id: Mapped[UUID] = mapped_column(ForeignKey("app_user.id"), index=True)
    csrf_token: Mapped[str]
    begun_at: Mapped[datetime] = mapped_column(server_default=func.now())
    seen_at: Mapped[datetime] = mapped_column(server_default=func.now())
    # When the password was last given in it.
    proved_at: Mapped[datetime] = mapped_column(server_default=func.now())
    expires_at: Mapped[datetime] = mapped_column(index=True)
    address: Mapped[str] = mapped_column(server_default="")
    device: Mapped[str] = mapped_column(server_default="")


class KnownDevice(Base):
    """A device that somebody has signed in on; only the hash of what it is known by is kept."""

    __tablename__ = "known_device"
    token_hash: Mapped[str] = mapped_column(String(64), primary_key=True)
    user_id: Mapped[UUID] = mapped_column(ForeignKey("app_user.id"), primary_key=True, index=True)
    seen_at: Mapped[datetime] = mapped_column(server_default=func.now())


class OneTimeLink(Base):
    """A link that lets somebody in once: to begin, to join a firm, to set a new password. Only its hash is kept."""

    __tablename__ = "one_time_link"
    token_hash: Mapped[str] = mapped_column(String(64), primary_key=True)
    # What it is known by where invitations are listed.
    id: Mapped[UUID] = mapped_column(unique=True, default=uuid4, server_default=text("gen_random_uuid()"))
    made_by: Mapped[UUID | None] = mapped_column(ForeignKey("app_user.id"), index=True)
    purpose: Mapped[str]
    firm_id: Mapped[UUID | None] = mapped_column(ForeignKey("firm.id"), index=True)
    user_id: Mapped[UUID | None] = mapped_column(ForeignKey("app_user.id"), index=True)
    email: Mapped[str] = mapped_column(server_default="")
    name: Mapped[str] = mapped_column(server_default="")
    roles: Mapped[list[str]] = mapped_column(server_default=text("'{}'::text[]"))
    made_at: Mapped[datetime] = mapped_column(server_default=func.now())
    expires_at: Mapped[datetime]


class SignInFailure(Base):
    """A failed attempt to sign in, counted against account and address together."""

    __tablename__ = "sign_in_failure"
    id: Mapped[int] = mapped_column(BigInteger, primary_key=True)
    email: Mapped[str] = mapped_column(index=True)
    address: Mapped[str] = mapped_column(index=True)
    at: Mapped[datetime] = mapped_column(index=True)


class JobRow(Base):
    """A job: its head, supply and boards as documents, counted up by `version` at every change."""

    __tablename__ = "job"
    __table_args__ = (
        Index("ix_job_listed", "firm_id", text("changed_at DESC"), "id", postgresql_where=text("removed_at IS NULL")),
        # Any part of what a job is called by.
        Index(
            "ix_job_searched",
            text("(name || E'\\n' || client || E'\\n' || address) gin_trgm_ops"),
            postgresql_using="gin",
        ),
    )
    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    firm_id: Mapped[UUID] = mapped_column(ForeignKey("firm.id"), index=True)
    version: Mapped[int] = mapped_column(default=1)
    name: Mapped[str]
    client: Mapped[str]
    address: Mapped[str]
    rulebook: Mapped[str]
    edition: Mapped[str] = mapped_column(server_default="")
    protection_school: Mapped[str] = mapped_column(server_default="rcbo-each")
    extent: Mapped[dict[str, Any]] = mapped_column(server_default=text("'{}'::jsonb"))
    supply: Mapped[dict[str, Any]]
    # The boards, as one document; the circuits in them by their ids.
    house: Mapped[dict[str, Any]] = mapped_column(server_default=text("'{}'::jsonb"))
    format: Mapped[int] = mapped_column(server_default="1")
    changed_by: Mapped[str]
    changed_at: Mapped[datetime] = mapped_column(server_default=func.now())
    removed_at: Mapped[datetime | None]


class JobRevision(Base):
    """Every state a job's head, supply and boards have been in.

    `part` is what was changed, the survey or the boards, none where it was all of it; undoing and redoing go from one
    state of a part to another.
    """

    __tablename__ = "job_revision"
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"), primary_key=True)
    version: Mapped[int] = mapped_column(primary_key=True)
    document: Mapped[dict[str, Any]]
    format: Mapped[int] = mapped_column(server_default="1")
    part: Mapped[str | None]
    undo_to: Mapped[int | None]
    redo_to: Mapped[int | None]
    by: Mapped[str]
    by_id: Mapped[UUID | None] = mapped_column(ForeignKey("app_user.id"))
    at: Mapped[datetime] = mapped_column(server_default=func.now())


class PlacesRow(Base):
    """The storeys and rooms of a job as they stand, known by its id, counted up by `version` at every change."""

    __tablename__ = "places"
    id: Mapped[UUID] = mapped_column("job_id", ForeignKey("job.id"), primary_key=True)
    version: Mapped[int] = mapped_column(default=1)
    document: Mapped[dict[str, Any]]
    format: Mapped[int]
    changed_by: Mapped[str]
    changed_at: Mapped[datetime] = mapped_column(server_default=func.now())


class PlacesRevision(Base):
    """Every state the storeys and rooms of a job have been in, and the ones undoing and redoing it lead to."""

    __tablename__ = "places_revision"
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"), primary_key=True)
    version: Mapped[int] = mapped_column(primary_key=True)
    document: Mapped[dict[str, Any]]
    format: Mapped[int]
    undo_to: Mapped[int | None]
    redo_to: Mapped[int | None]
    by: Mapped[str]
    by_id: Mapped[UUID | None] = mapped_column(ForeignKey("app_user.id"))
    at: Mapped[datetime] = mapped_column(server_default=func.now())


class CircuitRow(Base):
    """A circuit's design as it stands."""

    __tablename__ = "circuit"
    __table_args__ = (
        Index("ix_circuit_job_place", "job_id", "place"),
        # Deferred: circuits that change numbers with each other do so one after the other.
        UniqueConstraint("job_id", "number", name="circuit_number_once", deferrable=True, initially="DEFERRED"),
    )
    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    place: Mapped[int]
    version: Mapped[int] = mapped_column(default=1)
    design: Mapped[dict[str, Any]]
    format: Mapped[int] = mapped_column(server_default="1")
    changed_by: Mapped[str]
    changed_at: Mapped[datetime] = mapped_column(server_default=func.now())
    removed_at: Mapped[datetime | None]
    # The number of a circuit that was not removed, kept by the database.
    number: Mapped[int | None] = mapped_column(
        Computed("CASE WHEN removed_at IS NULL THEN (design ->> 'number')::int END", persisted=True)
    )


class CircuitRevision(Base):
    """Every state a circuit's design has been in, and the ones that undoing and redoing it lead to."""

    __tablename__ = "circuit_revision"
    circuit_id: Mapped[UUID] = mapped_column(ForeignKey("circuit.id"), primary_key=True)
    version: Mapped[int] = mapped_column(primary_key=True)
    design: Mapped[dict[str, Any]]
    format: Mapped[int] = mapped_column(server_default="1")
    undo_to: Mapped[int | None]
    redo_to: Mapped[int | None]
    by: Mapped[str]
    by_id: Mapped[UUID | None] = mapped_column(ForeignKey("app_user.id"))
    at: Mapped[datetime] = mapped_column(server_default=func.now())


class ReadingRow(Base):
    """A reading, of a circuit or of the installation whole. Rows are added, never changed.

    The last for its quantity and point (or test) stands. `more` holds what few readings have. `by_id` is who entered it
    here: a reading that came in with a job file has none, whatever name it bears.
    """

    __tablename__ = "reading"
    id: Mapped[int] = mapped_column(BigInteger, primary_key=True)
    circuit_id: Mapped[UUID | None] = mapped_column(ForeignKey("circuit.id"), index=True)
    job_id: Mapped[UUID | None] = mapped_column(ForeignKey("job.id"), index=True)
    quantity: Mapped[str]
    point: Mapped[str | None]
    value: Mapped[float | None]
    beyond: Mapped[bool] = mapped_column(server_default=text("false"))
    correct: Mapped[bool | None]
    test: Mapped[str | None]
    more: Mapped[dict[str, Any]] = mapped_column(server_default=text("'{}'::jsonb"))
    by: Mapped[str]
    by_id: Mapped[UUID | None] = mapped_column(ForeignKey("app_user.id"))
    at: Mapped[datetime]


class VisitRow(Base):
    """A visit: with which instruments, and how warm it was."""

    __tablename__ = "visit"
    id: Mapped[UUID] = mapped_column(primary_key=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"), index=True)
    document: Mapped[dict[str, Any]]
    by: Mapped[str]
    at: Mapped[datetime]


class FoundRecord(Base):
    """What was found on a job: a board traced, cables belled out, a fault. Rows are added, never changed."""

    __tablename__ = "found_record"
    id: Mapped[UUID] = mapped_column(primary_key=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"), index=True)
    document: Mapped[dict[str, Any]]
    by: Mapped[str]
    at: Mapped[datetime]


class InspectionRecordRow(Base):
    """What an inspection says: a finding, items, a task, a signature; `what` is which. Rows are added, never changed.

    The last of each matter stands, in the order of `place`.
    """

    __tablename__ = "inspection_record"
    __table_args__ = (
        Index("ix_inspection_record_job_id", "job_id", "place"),
        Index("ix_inspection_particulars", "job_id", "place", postgresql_where=text("what = 'particulars'")),
    )
    id: Mapped[UUID] = mapped_column(primary_key=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    what: Mapped[str]
    document: Mapped[dict[str, Any]]
    by: Mapped[str]
    by_id: Mapped[UUID | None] = mapped_column(ForeignKey("app_user.id"))
    at: Mapped[datetime]
    place: Mapped[int] = mapped_column(BigInteger, Identity())


class IssuedDocument(Base):
    """A document as it was issued: what it says, the file itself and its hash, and the versions it follows from.

    Rows are added, never changed; `number` counts the issues of a kind in a job, `firm_number` all that a firm issued.
    """

    __tablename__ = "issued_document"
    __table_args__ = (
        UniqueConstraint("job_id", "kind", "number", name="issue_number_once"),
        UniqueConstraint("firm_id", "firm_number", name="firm_number_once"),
        UniqueConstraint("code", name="issued_code_once"),
    )
    id: Mapped[UUID] = mapped_column(primary_key=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    kind: Mapped[str]
    number: Mapped[int]
    document: Mapped[dict[str, Any]]
    follows: Mapped[dict[str, Any]]
    data: Mapped[bytes]
    sha256: Mapped[str] = mapped_column(index=True)
    by: Mapped[str]
    by_id: Mapped[UUID] = mapped_column(ForeignKey("app_user.id"))
    at: Mapped[datetime]
    firm_id: Mapped[UUID] = mapped_column(ForeignKey("firm.id"))
    firm_number: Mapped[int]
    # What it is found by from outside: random, and on its last page.
    code: Mapped[str]
    # Of the job's data inside it, as the page says it.
    job_sha256: Mapped[str] = mapped_column(server_default="")
    # The issue that it stands instead of; the key it was signed with, none of what is older than keys.
    corrects: Mapped[UUID | None] = mapped_column(ForeignKey("issued_document.id"), index=True)
    key_id: Mapped[UUID | None] = mapped_column(ForeignKey("firm_key.id"))


class PaperLink(Base):
    """A link to an issued paper for somebody outside, until it ends; only its hash is kept."""

    __tablename__ = "paper_link"
    token_hash: Mapped[str] = mapped_column(String(64), primary_key=True)
    issued_id: Mapped[UUID] = mapped_column(ForeignKey("issued_document.id"), index=True)
    email: Mapped[str]
    made_by: Mapped[UUID] = mapped_column(ForeignKey("app_user.id"))
    made_at: Mapped[datetime] = mapped_column(server_default=func.now())
    expires_at: Mapped[datetime]


class Notification(Base):
    """Work that an office is notified of, as it was handed in. Added, never changed."""

    __tablename__ = "notification"
    id: Mapped[UUID] = mapped_column(primary_key=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"), index=True)
    firm_id: Mapped[UUID] = mapped_column(ForeignKey("firm.id"))
    document: Mapped[dict[str, Any]]
    by: Mapped[str]
    by_id: Mapped[UUID] = mapped_column(ForeignKey("app_user.id"))
    at: Mapped[datetime]


class NotificationAnswer(Base):
    """What the office said of a notification: its receipt, or why it was refused. None while it waits."""

    __tablename__ = "notification_answer"
    notification_id: Mapped[UUID] = mapped_column(ForeignKey("notification.id"), primary_key=True)
    outcome: Mapped[str]
    receipt: Mapped[str]
    said: Mapped[str]
    at: Mapped[datetime]


class FirmCounter(Base):
    """The last number that a firm has issued a paper under: counted up with the paper, in one transaction."""

    __tablename__ = "firm_counter"
    firm_id: Mapped[UUID] = mapped_column(ForeignKey("firm.id"), primary_key=True)
    last: Mapped[int]


class FirmKey(Base):
    """A key that a firm signs with, from when until when, sealed by the server's own; the newest is used.

    Rows are added, never changed: what was signed with an old key is checked by it.
    """

    __tablename__ = "firm_key"
    id: Mapped[UUID] = mapped_column(primary_key=True)
    firm_id: Mapped[UUID] = mapped_column(ForeignKey("firm.id"), index=True)
    certificate: Mapped[bytes]
    sealed: Mapped[bytes]
    from_at: Mapped[datetime]
    until_at: Mapped[datetime]
    by: Mapped[str]
    at: Mapped[datetime] = mapped_column(server_default=func.now())


class Audit(Base):
    """Who did what, when, from where. Rows are added, never changed; `audit_link` chains them."""

    __tablename__ = "audit"
    __table_args__ = (
        Index("ix_audit_firm_id_action_id", "firm_id", "action", "id"),
        Index("ix_audit_firm_id_at", "firm_id", "at"),
        # Whether somebody has signed in from an address before.
        Index("ix_audit_signed_in_from", "user_id", "address", postgresql_where=text("action = 'sign-in'")),
    )
    id: Mapped[int] = mapped_column(BigInteger, primary_key=True)
    firm_id: Mapped[UUID | None] = mapped_column(ForeignKey("firm.id"), index=True)
    user_id: Mapped[UUID | None] = mapped_column(ForeignKey("app_user.id"))
    at: Mapped[datetime] = mapped_column(server_default=func.now())
    action: Mapped[str]
    subject: Mapped[str]
    address: Mapped[str] = mapped_column(server_default="")
    detail: Mapped[str] = mapped_column(server_default="")


class AuditLink(Base):
    """A link of the chain over the audit and all records: a hash of a row and of the link before it, made at commit.

    The database makes it. `what` is the row's table; a row of the audit is known by `audit_id`, any other by `row_id`,
    with the `shape` that says which of its fields are in the link.
    """

    __tablename__ = "audit_link"
    __table_args__ = (UniqueConstraint("what", "row_id", name="audit_link_once"),)
    place: Mapped[int] = mapped_column(BigInteger, primary_key=True, autoincrement=False)
    audit_id: Mapped[int | None] = mapped_column(BigInteger, ForeignKey("audit.id"), unique=True)
    what: Mapped[str] = mapped_column(server_default="audit")
    row_id: Mapped[str | None]
    shape: Mapped[int | None]
    hash: Mapped[bytes] = mapped_column(LargeBinary)


class Chained(Base):
    """Which fields of a table are in the links of its rows, and what a row is known by: a new shape for new fields."""

    __tablename__ = "chained"
    what: Mapped[str] = mapped_column(primary_key=True)
    shape: Mapped[int] = mapped_column(primary_key=True)
    key: Mapped[list[str]] = mapped_column(ARRAY(Text))
    fields: Mapped[list[str]] = mapped_column(ARRAY(Text))


class LibraryCircuit(Base):
    """A circuit that a firm uses again: one of its own usual ones."""

    __tablename__ = "library_circuit"
    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    firm_id: Mapped[UUID] = mapped_column(ForeignKey("firm.id"), index=True)
    name: Mapped[str]
    design: Mapped[dict[str, Any]]
    format: Mapped[int] = mapped_column(server_default="1")
    by: Mapped[str]
    at: Mapped[datetime] = mapped_column(server_default=func.now())
    removed_at: Mapped[datetime | None]


class PriceListRow(Base):
    """The prices of a firm as somebody put them down: the last counts. Rows are added, never changed."""

    __tablename__ = "price_list"
    __table_args__ = (Index("ix_price_list_firm", "firm_id", "place"),)
    id: Mapped[UUID] = mapped_column(primary_key=True)
    firm_id: Mapped[UUID] = mapped_column(ForeignKey("firm.id"))
    document: Mapped[dict[str, Any]]
    by: Mapped[str]
    by_id: Mapped[UUID] = mapped_column(ForeignKey("app_user.id"))
    at: Mapped[datetime]
    place: Mapped[int] = mapped_column(BigInteger, Identity())


class QuoteRow(Base):
    """What somebody said of a job's quote: the last counts. Rows are added, never changed."""

    __tablename__ = "quote"
    __table_args__ = (Index("ix_quote_job", "job_id", "place"),)
    id: Mapped[UUID] = mapped_column(primary_key=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"))
    document: Mapped[dict[str, Any]]
    by: Mapped[str]
    by_id: Mapped[UUID] = mapped_column(ForeignKey("app_user.id"))
    at: Mapped[datetime]
    place: Mapped[int] = mapped_column(BigInteger, Identity())


class QuoteOffer(Base):
    """A quote as it was offered to somebody, by a link of which only the hash is kept. Added, never changed."""

    __tablename__ = "quote_offer"
    id: Mapped[UUID] = mapped_column(primary_key=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"), index=True)
    firm_id: Mapped[UUID] = mapped_column(ForeignKey("firm.id"))
    token_hash: Mapped[str] = mapped_column(String(64), unique=True)
    document: Mapped[dict[str, Any]]
    email: Mapped[str]
    expires_at: Mapped[datetime]
    by: Mapped[str]
    by_id: Mapped[UUID] = mapped_column(ForeignKey("app_user.id"))
    at: Mapped[datetime]


class QuoteAnswer(Base):
    """What the customer said to an offer, once. Added, never changed."""

    __tablename__ = "quote_answer"
    offer_id: Mapped[UUID] = mapped_column(ForeignKey("quote_offer.id"), primary_key=True)
    document: Mapped[dict[str, Any]]
    address: Mapped[str]
    at: Mapped[datetime]


class PracticeSet(Base):
    """An exercise that was set to everybody of a firm. Added, never changed."""

    __tablename__ = "practice_set"
    id: Mapped[UUID] = mapped_column(primary_key=True)
    firm_id: Mapped[UUID] = mapped_column(ForeignKey("firm.id"), index=True)
    document: Mapped[dict[str, Any]]
    by: Mapped[str]
    by_id: Mapped[UUID] = mapped_column(ForeignKey("app_user.id"))
    at: Mapped[datetime]


class PracticeRun(Base):
    """An exercise that somebody began: its kind, level, seed and school. Added, never changed."""

    __tablename__ = "practice_run"
    id: Mapped[UUID] = mapped_column(primary_key=True)
    firm_id: Mapped[UUID] = mapped_column(ForeignKey("firm.id"), index=True)
    user_id: Mapped[UUID] = mapped_column(ForeignKey("app_user.id"), index=True)
    set_id: Mapped[UUID | None] = mapped_column(ForeignKey("practice_set.id"))
    document: Mapped[dict[str, Any]]
    at: Mapped[datetime]


class PracticeAct(Base):
    """Something that was done in an exercise, and the marks where it ended by it. Added, never changed."""

    __tablename__ = "practice_act"
    __table_args__ = (UniqueConstraint("run_id", "place", name="practice_act_once"),)
    id: Mapped[UUID] = mapped_column(primary_key=True)
    run_id: Mapped[UUID] = mapped_column(ForeignKey("practice_run.id"))
    place: Mapped[int]
    document: Mapped[dict[str, Any]]
    marks: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    at: Mapped[datetime]


class WiringRecord(Base):
    """How a circuit was connected at a moment, before somebody took it apart."""

    __tablename__ = "wiring_record"
    id: Mapped[UUID] = mapped_column(primary_key=True)
    circuit_id: Mapped[UUID] = mapped_column(ForeignKey("circuit.id"), index=True)
    taken_at: Mapped[datetime]
    by: Mapped[str]
    note: Mapped[str]
    design: Mapped[dict[str, Any]]
    format: Mapped[int] = mapped_column(server_default="1")


class Attachment(Base):
    """A photo or a paper, with what it shows: `shows` is of which sort that is, `of` its id. Rows are only added."""

    __tablename__ = "attachment"
    id: Mapped[UUID] = mapped_column(primary_key=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"), index=True)
    # The circuit it belongs to: removed, it hides what is attached to it.
    circuit_id: Mapped[UUID | None] = mapped_column(ForeignKey("circuit.id"))
    shows: Mapped[str]
    of: Mapped[str]
    note: Mapped[str] = mapped_column(server_default="")
    kind: Mapped[str]
    data: Mapped[bytes]
    sha256: Mapped[str]
    by: Mapped[str]
    by_id: Mapped[UUID | None] = mapped_column(ForeignKey("app_user.id"))
    taken_at: Mapped[datetime]
    at: Mapped[datetime] = mapped_column(server_default=func.now())


class DoneWrite(Base):
    """A write that has been done, by the id its sender made: sent twice, it is done once. `subject` is what it made."""

    __tablename__ = "done_write"
    id: Mapped[UUID] = mapped_column(primary_key=True)
    firm_id: Mapped[UUID] = mapped_column(ForeignKey("firm.id"))
    subject: Mapped[UUID]
    # A hash of what it said, where that was JSON.
    content: Mapped[str] = mapped_column(server_default="")
    at: Mapped[datetime] = mapped_column(server_default=func.now())
