"""The chain over the audit and all records that are only added, worked out again in our own words."""

import hashlib
from collections.abc import Iterator, Mapping, Sequence
from typing import Any, NamedTuple

from sqlalchemy import ColumnElement, Table, Text, and_, cast, func, literal_column, select, text, tuple_
from sqlalchemy.orm import Session

from lumbek.store.models import Audit, AuditLink, Base, Chained

_AT_ONCE = 1000
_AUDIT = "audit"


class Verified(NamedTuple):
    """What checking the chain found: how many links hold, the last hash, and what is wrong first, if anything."""

    links: int
    last: str
    trouble: str


def verify(db: Session) -> Verified:
    """Work every hash of the chain out again, and see that no line and no record stands outside it."""
    # Times read alike wherever they are read.
    db.execute(text("SET LOCAL timezone = 'UTC'"))
    shapes = {(each.what, each.shape): each for each in db.scalars(select(Chained))}
    last, count = b"", 0
    for links in _parts(db):
        said = _said(db, shapes, links)
        for link in links:
            trouble = _trouble(link, count + 1, said.get(link.place))
            if trouble:
                return Verified(count, last.hex(), trouble)
            count, last = count + 1, hashlib.sha256(last + said[link.place].encode()).digest()
            if last != link.hash:
                return Verified(
                    count - 1, last.hex(), f"{_named(link)} is not as it was written: link {count} does not hold"
                )
    return Verified(count, last.hex(), _outside(db))


def holds(db: Session, place: int) -> str:
    """Return the hash that the chain has at a place, to be compared with one that was kept elsewhere; else nothing."""
    kept = db.scalar(select(AuditLink.hash).where(AuditLink.place == place))
    return "" if kept is None else bytes(kept).hex()


def _parts(db: Session) -> Iterator[Sequence[AuditLink]]:
    """Yield the links in their order, some at a time."""
    after = -(2**62)
    query = select(AuditLink).order_by(AuditLink.place).limit(_AT_ONCE)
    while links := db.scalars(query.where(AuditLink.place > after)).all():
        yield links
        after = links[-1].place
        db.expunge_all()


def _named(link: AuditLink) -> str:
    if link.what == _AUDIT:
        return f"line {link.audit_id}"
    return f"{link.what.replace('_', ' ')} {link.row_id}"


def _trouble(link: AuditLink, place: int, said: str | None) -> str:
    if link.place != place:
        return f"link {place} is missing: the next is {link.place}, of {_named(link)}"
    return f"link {place} is of {_named(link)}, which is gone" if said is None else ""


def _said(db: Session, shapes: Mapping[tuple[str, int], Chained], links: Sequence[AuditLink]) -> dict[int, str]:
    """Return what is hashed of the row of each link, by the link's place; nothing for a row that is gone."""
    found: dict[int, str] = {}
    lines = {link.audit_id: link.place for link in links if link.what == _AUDIT}
    for row in db.scalars(select(Audit).where(Audit.id.in_([each for each in lines if each is not None]))):
        found[lines[row.id]] = _line(row)
    of_shape: dict[tuple[str, int | None], dict[str, int]] = {}
    for link in links:
        if link.what != _AUDIT and link.row_id is not None:
            of_shape.setdefault((link.what, link.shape), {})[link.row_id] = link.place
    for (what, number), places in of_shape.items():
        shape = None if number is None else shapes.get((what, number))
        if shape is not None:
            for known_by, fields in _records(db, shape, list(places)):
                found[places[known_by]] = f"{what}:{known_by}:{_text(fields)}"
    return found


def _records(db: Session, shape: Chained, ids: Sequence[str]) -> Iterator[tuple[str, Sequence[str | None]]]:
    """Yield records of one shape with their fields as text."""
    table = Base.metadata.tables[shape.what]
    key = [table.c[name] for name in shape.key]
    wanted = [
        tuple(column.type.python_type(part) for column, part in zip(key, each.split("/"), strict=True)) for each in ids
    ]
    query = select(_known_by(key), *(_field(table, name) for name in shape.fields)).where(tuple_(*key).in_(wanted))
    for known_by, *fields in db.execute(query):
        yield known_by, fields


def _field(table: Table, name: str) -> ColumnElement[Any]:
    """Return a field as the text that JSON has for it; of bytes, by a name that ends in #, their hash."""
    column = table.c[name.rstrip("#")]
    if name.endswith("#"):
        return func.encode(func.sha256(column), "hex")
    return func.to_jsonb(column).op("#>>", return_type=Text())(literal_column("'{}'"))


def _known_by(key: Sequence[ColumnElement[Any]]) -> ColumnElement[str]:
    return func.concat_ws("/", *(cast(column, Text) for column in key))


def _outside(db: Session) -> str:
    """Return a line or record that is in no link; nothing where all are."""
    line = db.scalar(
        select(Audit.id).outerjoin(AuditLink, AuditLink.audit_id == Audit.id).where(AuditLink.place.is_(None)).limit(1)
    )
    if line is not None:
        return f"line {line} is in no link"
    for shape in db.scalars(select(Chained).where(Chained.shape == 1)).all():
        table = Base.metadata.tables[shape.what]
        known_by = _known_by([table.c[name] for name in shape.key])
        linked = and_(AuditLink.what == shape.what, AuditLink.row_id == known_by)
        query = select(known_by).select_from(table).outerjoin(AuditLink, linked).where(AuditLink.place.is_(None))
        found = db.scalar(query.limit(1))
        if found is not None:
            return f"{shape.what.replace('_', ' ')} {found} is in no link"
    return ""


def _text(fields: Sequence[str | None]) -> str:
    """Return fields as they are hashed: each with its length in bytes before it, a dash for none."""
    return "".join("-" if field is None else f"{len(field.encode())}:{field}" for field in fields)


def _line(row: Audit) -> str:
    """Return a line of the audit as it is hashed."""
    microseconds = round(row.at.timestamp() * 1_000_000)
    fields = (row.id, row.firm_id or "", row.user_id or "", microseconds)
    return _text([*map(str, fields), row.action, row.subject, row.address, row.detail])
