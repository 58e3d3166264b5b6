"""The code that an inspector usually gives a departure of something existing, with the reason: suggested, never set.

C1 danger present, C2 potentially dangerous, C3 improvement recommended, FI further investigation; or nothing to record.
"""

import json
from collections.abc import Iterable
from functools import cache

from lumbek.core.judging.check import Check, Verdict
from lumbek.core.judging.graver import FINGER, OPEN_LOOP, UNEXPLAINED
from lumbek.core.rulebooks.tables import DATA

# The gravest first; what nobody has coded before what is nothing to record.
BY_GRAVITY = ("C1", "C2", "FI", "C3", "", "none")


@cache
def _usual() -> dict[str, tuple[str, str]]:
    raw = json.loads((DATA / "common" / "codes.json").read_text(encoding="utf-8"))
    return {key: (code, why) for key, (code, why) in raw.items()}


def coded(check: Check, turns_on: str = "") -> Check:
    """Return a check that fails as a departure of something existing: with its usual code, and why.

    `turns_on` is what makes it graver than usual: sockets that serve outdoors, a bath room.
    """
    if check.verdict is not Verdict.FAIL or check.code:
        return check
    key = check.id if check.id in _usual() else _general(check.id)
    found = _usual().get(key)
    if found is None:
        return check
    code, why = _of_answer(check) or (("C2", turns_on) if turns_on else found)
    return check.model_copy(update={"code": code, "code_why": why})


def gravest_part(of: str, parts: Iterable[Check]) -> Check:
    """Return of the parts of a check that fail the gravest by its usual code, the first of several; with that code."""
    found = (coded(each.model_copy(update={"id": f"{of}-{each.id}"})) for each in parts)
    return min(found, key=lambda each: BY_GRAVITY.index(each.code))


def _of_answer(check: Check) -> tuple[str, str] | None:
    """Return the code of a departure that its answer makes graver, or less sure, than usual."""
    if check.id == "zs" and OPEN_LOOP in check.answer:
        return "C2", "No way back to earth"
    if check.id == "zs" and UNEXPLAINED in check.answer:
        return "FI", "No cable explains the loop"
    if check.id.startswith("enclosure") and FINGER in check.answer:
        return "C1", "Live parts within reach of a finger"
    return None


def _general(check_id: str) -> str:
    """Return the question that a check of one board, group or way asks, without its part."""
    parts = check_id.split("-")
    return next(
        ("-".join(parts[:count]) for count in range(len(parts), 0, -1) if "-".join(parts[:count]) in _usual()), ""
    )
