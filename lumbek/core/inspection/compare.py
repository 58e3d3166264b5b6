"""This time beside last time, place by place: what moved by more than two testers can differ is named."""

from collections.abc import Iterable, Iterator, Mapping

from lumbek.core.documents.gathered import Gathered
from lumbek.core.model.inspection import LastReading, LastTime
from lumbek.core.model.reading import Quantity, Reading, standing
from lumbek.core.numbers import plain
from lumbek.core.rulebooks import Rulebook
from lumbek.core.value import Frozen

# Which way is worse: a loop that rises, insulation that falls, an RCD that takes longer.
_RISES: tuple[str, ...] = (
    "zs",
    "ze",
    "r1",
    "rn",
    "r2",
    "r1+r2",
    "cross-le",
    "cross-ln",
    "rcd-trip",
    "bonding",
    "electrode",
    "own-electrode",
)
_FALLS: tuple[str, ...] = ("insulation-ll", "insulation-le", "insulation-l-e", "insulation-n-e", "fault-current")
_LIVE = ("zs", "ze")
# Of insulation what a megohmmeter may be off by on either visit, as a part; it falls when it is less than half.
_HALVED = 0.5
# An RCD is timed to so many milliseconds, and trips within that of itself.
_RCD_MS = 10.0


class ComparedLine(Frozen):
    """A place as it was read last time and now."""

    circuit: int | None
    place: str
    quantity: str
    then: str
    then_day: str
    now: str
    now_day: str
    moved: bool
    words: str


def compare(gathered: Gathered, last: Iterable[LastTime]) -> tuple[ComparedLine, ...]:
    """Return every reading of earlier papers that was taken again, what moved first."""
    lines = [line for each in last for line in _of(gathered, each)]
    return tuple(sorted(lines, key=lambda line: not line.moved))


def _of(gathered: Gathered, last: LastTime) -> Iterator[ComparedLine]:
    by_number = {circuit.design.number: circuit for circuit in gathered.job.circuits}
    for then in last.readings:
        if then.circuit is None:
            readings, titles = standing(gathered.job.readings), {}
        elif then.circuit in by_number:
            circuit = by_number[then.circuit]
            readings = standing(circuit.readings)
            titles = {point.id: circuit.design.point_title(point.id) for point in circuit.design.points}
        else:
            continue
        now = _same_place(readings, titles, then)
        if now is not None and now.value is not None:
            yield _line(gathered.rulebook, then, now, then.day or last.paper.day or "")


def _same_place(
    readings: Mapping[tuple[Quantity, str | None], Reading], titles: Mapping[str, str], then: LastReading
) -> Reading | None:
    """Return the reading of now for a place of then; where then named none, the worst of now."""
    mine = {key: each for key, each in readings.items() if key[0] == then.quantity and each.value is not None}
    if not mine:
        return None
    wanted = then.place.casefold()
    if wanted:
        named = (each for (_, point), each in mine.items() if titles.get(point or "", point or "").casefold() == wanted)
        return next(named, None)
    by_value = sorted(mine.values(), key=lambda each: (each.beyond, each.value or 0.0))
    return by_value[-1] if then.quantity in _RISES else by_value[0]


def _line(book: Rulebook, then: LastReading, now: Reading, day: str) -> ComparedLine:
    value = now.value or 0.0
    worse = moved_for_worse(book, then.quantity, then.value, value, then.beyond, now.beyond)
    return ComparedLine(
        circuit=then.circuit,
        place=then.place,
        quantity=then.quantity,
        then=f"{'>' if then.beyond else ''}{plain(then.value)}",
        then_day=day,
        now=f"{'>' if now.beyond else ''}{plain(value)}",
        now_day=now.when[:10],
        moved=worse,
        words=_words(then.quantity, then.value, value) if worse else "",
    )


def _words(quantity: str, then: float, now: float) -> str:
    risen = "has risen" if now > then else "has fallen"
    return f"{quantity} {risen}: {plain(then)} to {plain(now)}, more than two testers differ"


def moved_for_worse(
    book: Rulebook, quantity: str, then: float, now: float, then_beyond: bool = False, now_beyond: bool = False
) -> bool:
    """Return whether a reading is worse by more than two testers can differ, each off by its band at most.

    In the unit of the reading. What lies beyond a display is as good as that says, or better.
    """
    if quantity in _FALLS:
        return not now_beyond and now < then * _HALVED
    if quantity not in _RISES or then_beyond:
        return False
    if quantity.startswith("rcd"):
        return now - then > 2 * _RCD_MS
    rules = book.evidence
    part, ohm = (rules.live_part, rules.live_ohm) if quantity in _LIVE else (rules.dead_part, rules.dead_ohm)
    return now - then > part * (then + now) + 2 * ohm
