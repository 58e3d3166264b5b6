"""What the application says of a house, as lines: every verdict with its figures, a line a check."""

from collections.abc import Iterable, Iterator

from lumbek.core.documents.gathered import gather
from lumbek.core.documents.paper import BLANK
from lumbek.core.judging.answers import CircuitAnswer
from lumbek.core.judging.check import Check
from lumbek.core.model.job import Job
from lumbek.core.testing.sheet import Sheet
from lumbek.core.value import Frozen

# What is longer than so many characters is cut there, and sealed: a change of the rest shows in its checksum.
LONG = 300


def said_of(job: Job) -> Iterator[str]:
    """Yield all that is said of a job: its supply, its boards, each circuit with its figures and its tests."""
    gathered = gather(job)
    yield f"{job.name}, {gathered.rulebook.id}"
    yield from _checks("supply", gathered.survey.checks)
    yield from _checks("boards", gathered.shared.checks)
    yield from _figures("board", gathered.shared.boards)
    yield from _figures("trip", gathered.shared.trips)
    yield from _figures("", [each for each in (gathered.shared.headroom, gathered.shared.lines) if each is not None])
    yield from _tests(gathered.sheet)
    for answer in gathered.answers:
        yield from _circuit(answer)


def _circuit(answer: CircuitAnswer) -> Iterator[str]:
    result = answer.result
    worst = f"tightest {result.tightest}, {result.lengths}"
    yield f"circuit {answer.number}: {result.shape.title}, {result.verdict}, {worst}"
    yield from _checks("", result.checks)
    yield from _figures("ring", [result.ring] if result.ring else [])
    yield from _figures("point", result.points)
    yield from _figures("leg", result.legs)
    yield from _figures("facts", [answer.facts])
    yield from _tests(answer.tests)


def _tests(sheet: Sheet) -> Iterator[str]:
    waits, unplug = len(sheet.waits_for), len(sheet.unplug)
    yield f"tests: {sheet.verdict}, {sheet.taken} of {sheet.total}, waits {waits}, unplug {unplug}"
    for item in sheet.items:
        expected = item.expected
        band = f"{_number(expected.low)} to {_number(expected.high)}" if expected else "-"
        aside = "beside" if item.beside else ""
        yield " ".join(
            (" ", item.quantity, item.point or "", band, item.limit, aside, _check(item.check) if item.check else "")
        ).rstrip()
    yield from _checks("between", sheet.between)


def _checks(of: str, checks: Iterable[Check]) -> Iterator[str]:
    """Yield a line a check, those that do not apply on one."""
    found = list(checks)
    for each in found:
        if each.verdict != "not-applicable":
            yield f"  {of} {each.id} {_check(each)}".replace("   ", "  ")
    yield f"  {of} n/a: {' '.join(each.id for each in found if each.verdict == 'not-applicable')}"


def _check(check: Check) -> str:
    place = check.place.id if check.place else ""
    sums = "; ".join(step.sum for step in check.steps if step.sum)
    figures = (check.verdict, check.shown_value, check.shown_limit, place, check.code)
    parts = (*figures, "minds" if check.caution else "", *check.missing_codes, f"({sums})" if sums else "")
    return " ".join(each for each in parts if each)


def _figures(of: str, several: Iterable[Frozen]) -> Iterator[str]:
    """Yield a line of each of several sets of figures."""
    for each in several:
        yield f"  {of} {in_words(each)}"


def field_lines(of: str, found: Frozen, apart: bool = False) -> Iterator[str]:
    """Yield a line a field; where `apart`, one for each of what a field holds several of."""
    for name in type(found).model_fields:
        held = getattr(found, name)
        for each in held if apart and isinstance(held, tuple) else (held,):
            yield f"{of}{name}: {in_words(each)}"


def in_words(value: object) -> str:
    """Return anything as one line: what is empty is left out."""
    match value:
        case Frozen():
            return in_words(value.model_dump(mode="json", exclude_defaults=True))
        case dict():
            kept = {name: each for name, each in value.items() if each not in ("", None, [], {}, BLANK)}
            return "{" + ", ".join(f"{name}: {in_words(each)}" for name, each in kept.items()) + "}"
        case list() | tuple():
            return "[" + ", ".join(map(in_words, value)) + "]"
        case float():
            return _number(value)
        case _:
            return str(value)


def _number(value: float) -> str:
    # Less than that is the noise of binary fractions.
    return f"{round(value, 9) + 0.0:.6g}"
