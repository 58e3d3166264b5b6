"""The tests of RCDs that several circuits share: once for each, on the sheet of the house."""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import partial

from lumbek.core.board.shared_rcds import SharedRcd
from lumbek.core.judging.check import Check, Step, Verdict, hold
from lumbek.core.judging.question import Question
from lumbek.core.model.device import Rcd
from lumbek.core.model.reading import Quantity, Reading
from lumbek.core.numbers import plain
from lumbek.core.rulebooks import Rulebook
from lumbek.core.testing.house_item import HouseItem, HouseReadings
from lumbek.core.testing.kind import Limit, said
from lumbek.core.testing.rcd_times import trip_bounds_ms
from lumbek.core.testing.sheet import Item


@dataclass(frozen=True)
class _Kind:
    """One test of a shared RCD; what is `beside` may be done as well, and is asked of nobody."""

    quantity: Quantity
    title: str
    unit: str
    beside: bool = False


_KINDS = (
    _Kind("shared-rcd-half", "Holds at half IΔn", "", beside=True),
    _Kind("shared-rcd-trip", "Trip time at IΔn", "ms"),
    _Kind("shared-rcd-five", "Trip time at 5 IΔn", "ms", beside=True),
    _Kind("shared-rcd-ramp", "Trips at, by ramp", "mA", beside=True),
    _Kind("shared-rcd-wave", "Trips with the waveform of its type", "", beside=True),
    _Kind("shared-rcd-button", "Test button", ""),
)


def rcd_items_of(book: Rulebook, rcds: Iterable[SharedRcd], read: HouseReadings) -> Iterator[Item]:
    """Yield what is read of each RCD that circuits share."""
    for shared in rcds:
        for kind in _KINDS:
            limit = _limit(book, shared.known, kind.quantity)
            item = HouseItem(
                kind.quantity, shared.key, kind.title, kind.unit, "test-rcd", limit, kind.beside, shared.place
            )
            yield item.line(book, read, partial(_figure, book, shared, kind, limit))


def _limit(book: Rulebook, rcd: Rcd | None, quantity: Quantity) -> Limit | None:
    if quantity in ("shared-rcd-trip", "shared-rcd-five"):
        most = trip_bounds_ms(book, rcd, quantity == "shared-rcd-five")[1]
        return Limit(most, "at most", plain(most))
    if quantity == "shared-rcd-ramp" and rcd is not None and rcd.rated_ma is not None:
        return Limit(rcd.rated_ma, "at most", plain(rcd.rated_ma))
    return None


def _figure(
    book: Rulebook, shared: SharedRcd, kind: _Kind, limit: Limit | None, question: Question, reading: Reading
) -> Check:
    value, words = reading.value or 0.0, said(reading, kind.unit)
    if limit is None:
        missing = (f"rated residual current of {shared.place.name}",)
        return question.cannot_tell(book, missing, answer=words, place=shared.place)
    verdict, margin = hold(value, limit.value, "at most")
    least = _least(book, shared.known, kind.quantity)
    if reading.beyond or value < least:
        verdict = Verdict.FAIL
    return question.check(
        book,
        verdict,
        words,
        value=value,
        limit=limit.value,
        sense="at most",
        unit=kind.unit,
        decimals=0,
        margin=margin,
        place=shared.place,
        steps=(Step(text=f"At most {limit.shown} {kind.unit}{f', at least {plain(least)}' if least else ''}"),),
    )


def _least(book: Rulebook, rcd: Rcd | None, quantity: Quantity) -> float:
    """Return the least that a test may read: a delayed RCD waits, and none trips at half of what it is rated for."""
    if quantity == "shared-rcd-ramp":
        return rcd.rated_ma / 2 if rcd is not None and rcd.rated_ma is not None else 0.0
    return trip_bounds_ms(book, rcd, quantity == "shared-rcd-five")[0]
