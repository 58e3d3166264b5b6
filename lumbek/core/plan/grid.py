"""A grid of downlights, nudged so that every cut-out clears joists, pipes and ducts: the least change that does.

An axis is a first place and a spacing, in whole millimetres, so rows stay straight and even. What counts, in this
order: axes that are not symmetric in the room, the greatest shift of any lamp, the sum of all shifts squared. Axes are
sorted by it and paired from a heap: the first pair that is free is the least there is, for the order of sums is that
of their parts.
"""

from collections.abc import Iterator, Sequence
from fractions import Fraction
from heapq import heappop, heappush
from math import ceil, floor, sqrt
from typing import Literal, NamedTuple

from lumbek.core.value import Frozen

MOST_SHIFT_MM = 300
# Symmetric within so much; where that costs more than this, the grid without it is shown beside.
SYMMETRIC_MM, DEAR_MM = 1, 60
_GROWING = (15, 40, 100)
# Where each column goes to its own bay, so many ways to lay the rows are tried.
_MOST_ROWS = 200
# So many pairs are tried at most: more than any house has asked for.
_MOST_PAIRS = 400_000


GaveWay = Literal["symmetry", "even spacing"]


class GridSpan(NamedTuple):
    """The room along one axis, in mm, and how many lamps stand along it."""

    low: int
    high: int
    lamps: int

    @property
    def ideal(self) -> tuple[Fraction, ...]:
        """A divided span: half a spacing from the walls, a whole one between lamps."""
        share = Fraction(self.high - self.low, 2 * self.lamps)
        return tuple(self.low + share * (2 * at + 1) for at in range(self.lamps))


class Barred(NamedTuple):
    """What a cut-out has to clear: a rectangle in plan, in mm."""

    left: int
    right: int
    low: int
    high: int


class Axis(NamedTuple):
    """Where lamps stand along one axis, and what that costs: shifts are counted in so many parts of a millimetre that
    they are whole numbers, and ties are ties."""

    unsymmetric: int
    greatest2: int
    sum2: int
    places: tuple[int, ...]


class Nudged(Frozen):
    """A grid that is free: where its columns and rows are, the greatest shift, and what gave way for it."""

    columns: tuple[int, ...]
    rows: tuple[int, ...]
    greatest_mm: int
    gave_way: tuple[GaveWay, ...]
    unsymmetric: int = 0


def axes_of(span: GridSpan, parts: int, most_mm: int = MOST_SHIFT_MM, only_symmetric: bool = False) -> list[Axis]:
    """Return every even axis within a shift, the least first; shifts in so many parts of a millimetre."""
    ideal = span.ideal
    exact = tuple(int(parts * each) for each in ideal)
    found = []
    for first in _within(ideal[0], most_mm):
        for spacing in _symmetric(span, first) if only_symmetric else _spacings(span, first, most_mm):
            places = tuple(first + spacing * at for at in range(span.lamps))
            near = abs(places[-1] - ideal[-1]) <= most_mm
            if span.low <= places[0] and places[-1] <= span.high and near:
                found.append(_axis(span, parts, exact, places))
    return sorted(axis for axis in found if not (only_symmetric and axis.unsymmetric))


def _within(ideal: Fraction, most_mm: int) -> range:
    """Return the places in whole mm that are no farther than a shift from where a lamp would stand."""
    return range(ceil(ideal - most_mm), floor(ideal + most_mm) + 1)


def _symmetric(span: GridSpan, first: int) -> Sequence[int]:
    """Return the spacings that leave as much behind the last lamp as before the first, within a millimetre."""
    if span.lamps == 1:
        return (0,)
    gaps, wide = span.lamps - 1, span.low + span.high - 2 * first
    return [each for each in {(wide + off) // gaps for off in (-1, 0, 1)} if each > 0]


def _spacings(span: GridSpan, first: int, most_mm: int) -> range:
    if span.lamps == 1:
        return range(1)
    last, gaps = _within(span.ideal[-1], most_mm), span.lamps - 1
    return range(max(ceil((last.start - first) / gaps), 1), (last.stop - 1 - first) // gaps + 1)


def _axis(span: GridSpan, parts: int, exact: tuple[int, ...], places: tuple[int, ...]) -> Axis:
    shifts2 = [(parts * place - ideal) ** 2 for place, ideal in zip(places, exact, strict=True)]
    aside = abs((places[0] - span.low) - (span.high - places[-1]))
    return Axis(int(aside > SYMMETRIC_MM), max(shifts2), sum(shifts2), places)


def nudge(
    across: GridSpan, up: GridSpan, barred: Sequence[Barred], clear_mm: int, most_mm: int = MOST_SHIFT_MM
) -> tuple[Nudged, ...]:
    """Return the least grid that is free; a second one beside it where symmetry costs it dear; none where none is.

    `clear_mm` is half the cut-out and what has to be clear round it.
    """
    if not _can_be(across, up, barred, clear_mm, most_mm):
        return ()
    search = _Search(across, up, barred, clear_mm, most_mm)
    found = search.symmetric() or search.unsymmetric()
    if found is None:
        bays = _each_to_its_bay(across, up, barred, clear_mm, most_mm)
        return () if bays is None else (bays,)
    if found.gave_way or found.greatest_mm <= DEAR_MM:
        return (found,)
    other = search.unsymmetric()
    if other is None or found.greatest_mm - other.greatest_mm <= DEAR_MM:
        return (found,)
    return (found, other)


def _can_be(across: GridSpan, up: GridSpan, barred: Sequence[Barred], clear_mm: int, most_mm: int) -> bool:
    """Whether every lamp has some place of its own within a shift, between what goes from wall to wall."""
    bars = [(bar.left, bar.right) for bar in barred if bar.low <= up.low and up.high <= bar.high]
    rows = [(bar.low, bar.high) for bar in barred if bar.left <= across.low and across.high <= bar.right]
    return all(
        any(
            not any(one - clear_mm < place < two + clear_mm for one, two in shut)
            for place in _within(ideal, most_mm)
            if span.low <= place <= span.high
        )
        for span, shut in ((across, bars), (up, rows))
        for ideal in span.ideal
    )


class _Search:
    """The search for one room: shifts that are tried grow, for the least are mostly small."""

    def __init__(self, across: GridSpan, up: GridSpan, barred: Sequence[Barred], clear_mm: int, most_mm: int) -> None:
        self._across, self._up, self._barred, self._clear_mm = across, up, barred, clear_mm
        self._parts = _parts(across, up)
        self._within = [*(each for each in _GROWING if each < most_mm), most_mm]

    def symmetric(self) -> Nudged | None:
        """Return the least grid of two symmetric axes."""
        most = self._within[-1]
        columns = axes_of(self._across, self._parts, most, only_symmetric=True)
        return self._first_free(columns, axes_of(self._up, self._parts, most, only_symmetric=True))

    def unsymmetric(self) -> Nudged | None:
        """Return the least grid, fewer unsymmetric axes first."""
        best = None
        for most in self._within:
            found = [self._first_free(*axes) for axes in self._mixed(most)]
            best = min((each for each in found if each is not None), key=_worth, default=None)
            # What shifts farther than was looked is no better than this.
            if best is not None and best.greatest_mm <= most:
                return best
        return best

    def _mixed(self, most: int) -> Iterator[tuple[list[Axis], list[Axis]]]:
        far = self._within[-1]
        columns, rows = axes_of(self._across, self._parts, most), axes_of(self._up, self._parts, most)
        yield columns, axes_of(self._up, self._parts, far, only_symmetric=True)
        yield axes_of(self._across, self._parts, far, only_symmetric=True), rows
        yield columns, rows

    def _first_free(self, columns: list[Axis], rows: list[Axis]) -> Nudged | None:
        clear = self._clear_mm
        columns = _clear_of_bars(columns, rows, self._barred, clear)
        rows = _clear_of_bars(rows, columns, [(bar.low, bar.high, bar.left, bar.right) for bar in self._barred], clear)
        for one, other in _pairs(columns, rows):
            if _is_free(one.places, other.places, self._barred, clear):
                gave: tuple[GaveWay, ...] = ("symmetry",) if one.unsymmetric or other.unsymmetric else ()
                shift = _shift_mm(one, other, self._parts)
                return Nudged(
                    columns=one.places,
                    rows=other.places,
                    greatest_mm=shift,
                    gave_way=gave,
                    unsymmetric=one.unsymmetric + other.unsymmetric,
                )
        return None


def _worth(grid: Nudged) -> tuple[int, int]:
    return grid.unsymmetric, grid.greatest_mm


def _parts(across: GridSpan, up: GridSpan) -> int:
    """Return in how many parts of a millimetre every shift of both axes is a whole number."""
    return 2 * across.lamps * up.lamps


def _shift_mm(one: Axis, other: Axis, parts: int) -> int:
    """Return the greatest shift of any lamp in whole mm, rounded up."""
    return -int(-(sqrt(one.greatest2 + other.greatest2) / parts) // 1)


def _clear_of_bars(
    axes: list[Axis], others: list[Axis], bars: Sequence[tuple[int, int, int, int]], clear_mm: int
) -> list[Axis]:
    """Return the axes that clear what spans all that the other axis can reach: a joist from wall to wall.

    Of each bar its sides along the axis, then its ends along the other.
    """
    if not others:
        return []
    low, high = min(other.places[0] for other in others), max(other.places[-1] for other in others)
    shut = [(one - clear_mm, two + clear_mm) for one, two, start, end in bars if start <= low and high <= end]
    return [axis for axis in axes if not any(one < place < two for one, two in shut for place in axis.places)]


def _pairs(columns: list[Axis], rows: list[Axis]) -> Iterator[tuple[Axis, Axis]]:
    """Yield pairs of axes, the least first."""
    if not columns or not rows:
        return
    many_rows, many_columns = len(rows[0].places), len(columns[0].places)

    def cost(at: int, by: int) -> tuple[int, int, int]:
        one, other = columns[at], rows[by]
        return (
            one.unsymmetric + other.unsymmetric,
            one.greatest2 + other.greatest2,
            many_rows * one.sum2 + many_columns * other.sum2,
        )

    heap, seen, tried = [(cost(0, 0), 0, 0)], {(0, 0)}, 0
    while heap and tried < _MOST_PAIRS:
        _, at, by = heappop(heap)
        tried += 1
        yield columns[at], rows[by]
        for then in ((at + 1, by), (at, by + 1)):
            if then[0] < len(columns) and then[1] < len(rows) and then not in seen:
                seen.add(then)
                heappush(heap, (cost(*then), *then))


def _is_free(columns: Sequence[int], rows: Sequence[int], barred: Sequence[Barred], clear_mm: int) -> bool:
    """Whether every cut-out, as a disc, is off every rectangle: by squared distance, touching allowed."""
    return all(
        max(bar.left - x, 0, x - bar.right) ** 2 + max(bar.low - y, 0, y - bar.high) ** 2 >= clear_mm**2
        for bar in barred
        for x in columns
        for y in rows
    )


def _each_to_its_bay(
    across: GridSpan, up: GridSpan, barred: Sequence[Barred], clear_mm: int, most_mm: int
) -> Nudged | None:
    """Rows stay straight, their spacing uneven: each column goes to the nearest place where it is free on all rows."""
    parts = _parts(across, up)
    even = axes_of(up, parts, min(most_mm, _GROWING[-1]))[:_MOST_ROWS]
    for rows in even:
        columns = []
        for ideal in across.ideal:
            near = sorted(_within(ideal, most_mm), key=lambda x: (abs(x - ideal), x))
            free = next((x for x in near if _is_free((x,), rows.places, barred, clear_mm)), None)
            if free is None:
                break
            columns.append(free)
        else:
            one = _axis(across, parts, tuple(int(parts * each) for each in across.ideal), tuple(columns))
            shift = _shift_mm(one, rows, parts)
            gave: tuple[GaveWay, ...] = ("symmetry", "even spacing")
            return Nudged(columns=one.places, rows=rows.places, greatest_mm=shift, gave_way=gave, unsymmetric=2)
    return None
