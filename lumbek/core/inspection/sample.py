"""Opening some accessories of each kind, and what that proves of those that were not opened.

Exact: the hypergeometric distribution, in whole numbers.
"""

import math
from collections.abc import Iterable, Sequence

from pydantic import computed_field

from lumbek.core.value import Frozen

# A sample this good would be this rare, or rarer, where more were faulty.
_RARE = 20
# So many of a kind are opened at first, of so many: a tenth, and never fewer than these.
_LEAST, _ONE_OF = 2, 10


def still_faulty(total: int, opened: int, faulty: int) -> int:
    """Return how many at most are still faulty among those not opened, of `total` with `faulty` of `opened` found so.

    The largest D with P(X <= f) > 5 %, X hypergeometric with N items, D of them faulty, n drawn; less those found.
    Raises ValueError for counts that cannot be.
    """
    if not 0 <= faulty <= opened <= total:
        raise ValueError(f"{faulty} of {opened} of {total}: no such sample")
    if opened == 0:
        return total
    every = math.comb(total, opened)
    for bad in range(total - opened + faulty, faulty - 1, -1):
        ways = sum(math.comb(bad, found) * math.comb(total - bad, opened - found) for found in range(faulty + 1))
        if ways * _RARE > every:
            return bad - faulty
    return 0


def wanted(total: int, opened: int, faulty: int) -> int:
    """Return how many of a kind are to be opened: more where faults were found, twice as many, then all."""
    first = min(total, max(_LEAST, math.ceil(total / _ONE_OF)))
    if faulty == 0:
        return first
    return total if opened >= min(total, 2 * first) else min(total, 2 * first)


class SamplePoint(Frozen):
    """An accessory that may be opened: of which circuit and room, and whether it was, with what came of it."""

    circuit: str
    number: int
    point: str
    title: str
    room: str
    opened: bool = False
    sound: bool | None = None
    read: bool = False


class SampleKind(Frozen):
    """Accessories of one kind: how many there are, which were opened, what that proves, which to open next."""

    kind: str
    title: str
    total: int
    opened: int
    read: int
    faulty: int
    wanted: int
    still_faulty: int
    next: tuple[SamplePoint, ...]

    @computed_field  # type: ignore[prop-decorator]
    @property
    def proves(self) -> str:
        """What the sample proves, in words."""
        left = self.total - self.opened
        if left == 0:
            return f"All {self.total} opened: {self.faulty} faulty"
        if self.opened == 0:
            return f"None of {self.total} opened: nothing is proved"
        return (
            f"{self.opened} of {self.total} opened, {self.faulty} faulty: "
            f"of the {left} not opened up to {self.still_faulty} may still be"
        )


def sample_of(kind: str, title: str, points: Sequence[SamplePoint]) -> SampleKind:
    """Return how the sample of a kind stands, and which accessories to open next."""
    opened = [each for each in points if each.opened]
    faulty = sum(each.sound is False for each in opened)
    want = wanted(len(points), len(opened), faulty)
    return SampleKind(
        kind=kind,
        title=title,
        total=len(points),
        opened=len(opened),
        read=sum(each.read for each in points),
        faulty=faulty,
        wanted=want,
        still_faulty=still_faulty(len(points), len(opened), faulty),
        next=tuple(_spread(opened, [each for each in points if not each.opened], max(0, want - len(opened)))),
    )


def _spread(done: Iterable[SamplePoint], left: Sequence[SamplePoint], count: int) -> list[SamplePoint]:
    """Return accessories to open, spread over circuits and rooms: each time one of where the fewest are."""
    chosen, rest = list(done), list(left)
    found: list[SamplePoint] = []
    while rest and len(found) < count:
        best = min(rest, key=lambda each: (_alike(chosen, each), rest.index(each)))
        rest.remove(best)
        chosen.append(best)
        found.append(best)
    return found


def _alike(chosen: Sequence[SamplePoint], each: SamplePoint) -> tuple[int, int]:
    """Return how many were chosen of its circuit and of its room already: together first, then of its circuit."""
    circuits = sum(one.circuit == each.circuit for one in chosen)
    return circuits + sum(one.room == each.room for one in chosen), circuits
