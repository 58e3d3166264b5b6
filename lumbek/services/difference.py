"""What a change changed, in words for the audit: each field from what it said to what it says."""

from collections.abc import Iterator
from typing import Any

# So many changes are named, so many letters of each value, and so many fields of what is new or gone.
_MOST, _LETTERS = 6, 40
_NOTHING = "–"


def difference(before: dict[str, Any], after: dict[str, Any]) -> str:
    """Return what is otherwise in a document than it was: `device rating_a: 32 → 20; legs L2: gone`."""
    found = list(_of(before, after, ""))
    more = f"; and {len(found) - _MOST} more" if len(found) > _MOST else ""
    return "; ".join(found[:_MOST]) + more


def _of(before: object, after: object, where: str) -> Iterator[str]:
    if before == after:
        return
    if isinstance(before, dict) and isinstance(after, dict):
        for key in dict.fromkeys((*before, *after)):
            yield from _of(before.get(key), after.get(key), f"{where} {key}".strip())
    elif (mine := _by_id(before)) is not None and (theirs := _by_id(after)) is not None and (mine or theirs):
        for each in dict.fromkeys((*mine, *theirs)):
            yield from _of_one(mine.get(each), theirs.get(each), f"{where} {each}")
        if list(mine) != list(theirs) and mine.keys() == theirs.keys():
            yield f"{where}: in another order"
    else:
        yield f"{where}: {_said(before)} → {_said(after)}"


def _of_one(before: object, after: object, where: str) -> Iterator[str]:
    if before is None:
        yield f"{where}: new{_called(after)}"
    elif after is None:
        yield f"{where}: gone{_called(before)}"
    else:
        yield from _of(before, after, where)


def _called(value: object) -> str:
    name = value.get("name") if isinstance(value, dict) else None
    return f", {_said(name)}" if name else ""


def _by_id(value: object) -> dict[str, object] | None:
    """Return the members of a list by their ids; None for anything else, or where one has none."""
    if not isinstance(value, list):
        return None
    found: dict[str, object] = {}
    for each in value:
        if not isinstance(each, dict) or "id" not in each:
            return None
        found[str(each["id"])] = {key: said for key, said in each.items() if key != "id"}
    return found


def _said(value: object) -> str:
    """Return a value as one says it; what holds several things by how many there are."""
    if value is None or value in ("", [], {}):
        return _NOTHING
    match value:
        case bool():
            return "yes" if value else "no"
        case dict():
            return ", ".join(f"{key} {_said(each)}" for key, each in value.items() if each not in (None, ""))[:_LETTERS]
        case list():
            return f"{len(value)} of them"
        case _:
            text = str(value)
            return text if len(text) <= _LETTERS else text[: _LETTERS - 1] + "…"
