"""Cuts of cable from drums: as few metres bought as will give them all, proved where that takes a moment.

Counts of drums are tried in order of their metres, and the first that packs is the least: longest cut first, drums
alike tried once. Unproved is said so, with the bound: no less than the sum
of the cuts, rounded up to what drums give.
"""

from collections.abc import Iterator, Sequence
from itertools import product

from lumbek.core.value import Frozen

DRUMS_MM = (25_000, 50_000, 100_000)
# So many places are tried for one set of drums and for all of them: a moment's work.
_MOST_FOR_ONE, _MOST_TRIED, _MOST_SETS = 10_000, 60_000, 400


class Drum(Frozen):
    """A drum and the cuts that come off it, the longest first, in mm."""

    size_mm: int
    cuts_mm: tuple[int, ...]

    @property
    def left_mm(self) -> int:
        """What is left on it."""
        return self.size_mm - sum(self.cuts_mm)


class DrumPlan(Frozen):
    """Drums to buy; `bound_mm` is what is needed at the least, `is_proved` where none buys less."""

    drums: tuple[Drum, ...]
    bound_mm: int
    is_proved: bool

    @property
    def bought_mm(self) -> int:
        """How much is bought."""
        return sum(drum.size_mm for drum in self.drums)

    @property
    def waste_mm(self) -> int:
        """How much is left over."""
        return sum(drum.left_mm for drum in self.drums)


def drums_for(cuts_mm: Sequence[int], sizes_mm: Sequence[int] = DRUMS_MM) -> DrumPlan | None:
    """Return the drums for some cuts; None where one is longer than the largest drum."""
    cuts = sorted((cut for cut in cuts_mm if cut > 0), reverse=True)
    if not cuts:
        return DrumPlan(drums=(), bound_mm=0, is_proved=True)
    if cuts[0] > max(sizes_mm):
        return None
    bound, proved, left = 0, True, _MOST_TRIED
    for sizes in _sets(sum(cuts), sorted(sizes_mm, reverse=True)):
        bound = bound or sum(sizes)
        packed, tried = _packed(cuts, sizes, min(left, _MOST_FOR_ONE))
        left -= tried
        if packed is not None:
            drums = tuple(Drum(size_mm=size, cuts_mm=tuple(each)) for size, each in zip(sizes, packed, strict=True))
            return DrumPlan(drums=drums, bound_mm=bound, is_proved=proved)
        proved = proved and tried < _MOST_FOR_ONE and left > 0
        if left <= 0:
            break
    return DrumPlan(drums=_one_by_one(cuts, max(sizes_mm)), bound_mm=bound, is_proved=False)


def _one_by_one(cuts: Sequence[int], size_mm: int) -> tuple[Drum, ...]:
    """Put each cut, the longest first, on the fullest of the largest drums that holds it, else on a new one."""
    held: list[list[int]] = []
    for cut in cuts:
        fits = [each for each in held if sum(each) + cut <= size_mm]
        if fits:
            max(fits, key=sum).append(cut)
        else:
            held.append([cut])
    return tuple(Drum(size_mm=size_mm, cuts_mm=tuple(each)) for each in held)


def _sets(needed_mm: int, sizes: Sequence[int]) -> Iterator[tuple[int, ...]]:
    """Yield sets of drums that hold so much, the least first, then the fewest drums."""
    most = [needed_mm // size + 3 for size in sizes]
    found = []
    for counts in product(*(range(min(each, 12) + 1) for each in most)):
        total = sum(count * size for count, size in zip(counts, sizes, strict=True))
        if total >= needed_mm:
            found.append((total, sum(counts), counts))
    for _, _, counts in sorted(found)[:_MOST_SETS]:
        yield tuple(size for count, size in zip(counts, sizes, strict=True) for _ in range(count))


def _packed(cuts: Sequence[int], sizes: Sequence[int], most: int) -> tuple[list[list[int]] | None, int]:
    """Return the cuts of each drum, or None, and how many places were tried; with so many it is not sure."""
    room, held = list(sizes), [[] for _ in sizes]  # type: list[int], list[list[int]]
    tried = 0

    def place(at: int) -> bool:
        nonlocal tried
        if at == len(cuts):
            return True
        tried += 1
        if tried >= most:
            return False
        seen = set()
        # The fullest that holds it first.
        for drum in sorted(range(len(room)), key=lambda each: (room[each], each)):
            if room[drum] < cuts[at] or room[drum] in seen:
                continue
            seen.add(room[drum])
            room[drum] -= cuts[at]
            held[drum].append(cuts[at])
            if place(at + 1):
                return True
            if tried >= most:
                return False
            held[drum].pop()
            room[drum] += cuts[at]
        return False

    if place(0):
        return held, tried
    return None, tried
