"""A plan as a table, out and in again: a row for each storey, room, wall, part and mark; or lines as a tape is read.

A row that says `typed` is read as on the page: without a room it is one more room, `Bedroom 4.20 x 3.60 h 2.40`; with
one, something in it, `bed 1500 w middle`. Any other row says in `what` what it is, and its fields by their names. A
table with the columns `name` and `lumens` is one of lamps, as their makers give them.
"""

import csv
import io
from collections.abc import Iterable, Iterator
from typing import Any

from pydantic import ValidationError

from lumbek.core.model import plan as model
from lumbek.core.model.places import Places, Storey, folded
from lumbek.core.model.routes import RouteRules
from lumbek.core.places.commands import PlacesCommand
from lumbek.core.plan.commands import TakeIn, TypeLine, TypeRoom
from lumbek.core.plan.tape import TapeError, read_room
from lumbek.core.value import Frozen
from lumbek.exchange.paper_csv import inert
from lumbek.exchange.problems import problems_of
from lumbek.exchange.separated import separated

MOST_ROWS = 6000
_HEAD = ("storey", "room", "typed", "what", "id", "name")
_OF_OUTLINE: dict[str, type[Frozen]] = {
    "walls": model.Wall,
    "openings": model.Opening,
    "things": model.Thing,
    "above": model.AboveCeiling,
}
_OF_PLACES: dict[str, type[Frozen]] = {"between": model.SharedWall, "marks": model.Mark, "lamps": model.LampSaid}
_OF_WAYS = ("barred", "closed", "outside", "forced")
# Which of its fields says of what sort a value is: written even where it is as it would be by itself.
_SORTS = ("rule", "height")
_TUPLES = ("parts_mm",)


class PlanFileError(Exception):
    """A file is no plan; the message says in which line and why."""


def write_plan(places: Places) -> str:
    """Return a plan as CSV (RFC 4180): reading it gives the same plan."""
    rows = [*_rows(places)]
    columns = dict.fromkeys(_HEAD) | dict.fromkeys(key for row in rows for key in row)
    out = io.StringIO()
    writer = csv.DictWriter(out, tuple(columns), restval="")
    writer.writeheader()
    writer.writerows({key: inert(value) for key, value in row.items()} for row in rows)
    return out.getvalue()


def _rows(places: Places) -> Iterator[dict[str, str]]:
    for storey in places.storeys:
        yield {"what": "storey"} | _flat(storey)
    for room in places.rooms:
        own = room.model_dump(mode="json", exclude_defaults=True)
        outline = own.pop("outline", {})
        parts = {what: outline.pop(what, None) for what in _OF_OUTLINE}
        yield {"what": "room", **_flattened(own), **_flattened(outline, "outline.")}
        if room.outline is None:
            continue
        for what in parts:
            for each in getattr(room.outline, what):
                yield {"what": what, "room": room.id} | _flat(each)
    for what in _OF_PLACES:
        for each in getattr(places, what):
            yield {"what": what} | _flat(each)
    yield from _ways(places.ways)


def _ways(ways: RouteRules) -> Iterator[dict[str, str]]:
    """Yield what is said of the ways of cable: figures in a row, then what is barred, closed, outside, one by one."""
    said = ways.model_dump(mode="json", exclude_defaults=True, exclude={"barred", "closed", "outside"})
    if ways != RouteRules():
        yield {"what": "ways", **_flattened(said)}
    for face in ways.barred:
        yield {"what": "barred"} | _flat(face)
    for room in ways.closed:
        yield {"what": "closed", "room": room}
    for way in ways.outside:
        yield {"what": "outside"} | _flat(way)


def _flat(value: Frozen) -> dict[str, str]:
    said = value.model_dump(mode="json", exclude_defaults=True)
    for sort in _SORTS:
        of_sort = getattr(value, sort, None)
        if sort in said and isinstance(said[sort], dict):
            said[sort][sort] = getattr(of_sort, sort)
    return _flattened(said)


def _flattened(said: dict[str, Any], before: str = "") -> dict[str, str]:
    found: dict[str, str] = {}
    for key, value in said.items():
        if isinstance(value, dict):
            found |= _flattened(value, f"{before}{key}.")
        elif isinstance(value, list):
            found[before + key] = " ".join(map(str, value))
        else:
            found[before + key] = str(value).lower() if isinstance(value, bool) else str(value)
    return found


def read_plan(text: str, places: Places) -> tuple[PlacesCommand, ...]:
    """Return the commands that take a file in. Raises PlanFileError, with the line that is to blame."""
    text, separator = separated(text)
    rows = list(csv.DictReader(io.StringIO(text), delimiter=separator, restkey="more"))
    if rows and {"name", "lumens"} <= set(rows[0]):
        rows = [{"what": "lamps", **row} for row in rows]
    if not rows or not {"what", "typed"} & set(rows[0]):
        raise PlanFileError("The first line names the columns: storey, room, typed; and rows follow.")
    if len(rows) > MOST_ROWS:
        raise PlanFileError(f"A plan has {MOST_ROWS} rows at most, and this one has {len(rows)}.")
    told = [(number, _said(row)) for number, row in enumerate(rows, start=2)]
    whole = [(number, row) for number, row in told if "what" in row]
    typed = [(number, row) for number, row in told if "typed" in row]
    found: list[PlacesCommand] = [_taken_in(whole)] if whole else []
    return (*found, *_typed(typed, places))


def _said(row: dict[Any, Any]) -> dict[str, str]:
    """Return the cells of a row that say something."""
    return {
        key.strip().lower(): cell.strip().removeprefix("'")
        for key, cell in row.items()
        if isinstance(cell, str) and cell.strip()
    }


def _typed(rows: Iterable[tuple[int, dict[str, str]]], places: Places) -> Iterator[PlacesCommand]:
    storeys = {folded(said): storey.id for storey in places.storeys for said in (storey.id, storey.name)}
    made, then = {folded(room.name): room.id for room in places.rooms}, places
    for number, row in rows:
        name, storey = folded(row.get("room", "")), row.get("storey", "")
        if storey and folded(storey) not in storeys:
            raise PlanFileError(f"Line {number}: no storey is called {storey!r}.")
        if not name:
            try:
                called = read_room(row["typed"]).name
            except TapeError as error:
                raise PlanFileError(f"Line {number}: {error}.") from error
            then, room = then.with_room(called or "room")
            made[folded(called)] = room.id
            yield TypeRoom(typed=row["typed"], storey=storeys.get(folded(storey)))
        elif name in made:
            yield TypeLine(room=made[name], typed=row["typed"])
        else:
            raise PlanFileError(f"Line {number}: no room is called {row['room']!r}.")


def _taken_in(rows: Iterable[tuple[int, dict[str, str]]]) -> TakeIn:
    storeys: list[Storey] = []
    rooms: dict[str, dict[str, Any]] = {}
    others: dict[str, list[Any]] = {what: [] for what in _OF_PLACES}
    ways: dict[str, Any] = {}
    for number, row in rows:
        what = row.pop("what")
        try:
            if what == "storey":
                storeys.append(Storey.model_validate(_nested(row)))
            elif what == "room":
                rooms[row["id"]] = _nested(row)
            elif what in _OF_OUTLINE:
                part = _OF_OUTLINE[what].model_validate(_nested({k: v for k, v in row.items() if k != "room"}))
                rooms[row["room"]].setdefault("outline", {}).setdefault(what, []).append(part.model_dump())
            elif what in _OF_PLACES:
                others[what].append(_OF_PLACES[what].model_validate(_nested(row)))
            elif not _is_of_ways(what, row, ways):
                raise PlanFileError(f"Line {number}: {what!r} is nothing that a plan has.")
        except ValidationError as error:
            problem = problems_of(error)[0]
            raise PlanFileError(f"Line {number}: {problem.field} {problem.reason}.") from error
        except KeyError as error:
            raise PlanFileError(f"Line {number}: its room comes in a row before it, with an id.") from error
    try:
        return TakeIn.model_validate({"storeys": storeys, "rooms": [*rooms.values()], "ways": ways or None, **others})
    except ValidationError as error:
        problem = problems_of(error)[0]
        raise PlanFileError(f"{problem.field} {problem.reason}.") from error


def _is_of_ways(what: str, row: dict[str, str], ways: dict[str, Any]) -> bool:
    """Take in what a row says of the ways of cable; whether it does."""
    if what == "ways":
        ways |= _nested(row)
    elif what in _OF_WAYS:
        ways.setdefault(what, []).append(row["room"] if what == "closed" else _nested(row))
    else:
        return False
    return True


def _nested(row: dict[str, str]) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for key, cell in row.items():
        *path, last = key.split(".")
        at = found
        for part in path:
            at = at.setdefault(part, {})
        at[last] = tuple(cell.split()) if last in _TUPLES else cell
    return found
