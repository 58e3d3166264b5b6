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
from typing import Any, Literal, NamedTuple

import numpy as np

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
    spacing: int | None = None

    @property
    def ideal(self) -> tuple[Fraction, ...]:
        """A divided span: half a spacing from the walls, a whole one between lamps; or a spacing that was said."""
        if self.spacing is not None:
            first = Fraction(self.low + self.high - self.spacing * (self.lamps - 1), 2)
            return tuple(first + self.spacing * at for at in range(self.lamps))
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


class Axes:
    """Every even axis within a shift, the least first; each is made only when it is asked for.

    What counts of an axis is kept in columns: whether it is unsymmetric, its greatest shift and the sum of its shifts,
    both squared, then its first place and its spacing in whole mm.
    """

    def __init__(self, span: GridSpan, columns: Any) -> None:
        self._span, self._columns = span, columns

    def __len__(self) -> int:
        """Return how many there are."""
        return len(self._columns)

    def __getitem__(self, at: int) -> Axis:
        """Return one of them."""
        unsymmetric, greatest2, sum2, first, spacing = map(int, self._columns[at])
        return Axis(unsymmetric, greatest2, sum2, tuple(first + spacing * lamp for lamp in range(self._span.lamps)))

    @property
    def unsymmetric(self) -> "Axes":
        """Those of them that are not symmetric in the room."""
        return Axes(self._span, self._columns[self._columns[:, 0] == 1])

    @property
    def reach(self) -> tuple[int, int]:
        """From the lowest place of any of them to the highest."""
        first, spacing = self._columns[:, 3], self._columns[:, 4]
        return int(first.min()), int((first + spacing * (self._span.lamps - 1)).max())

    def clear_of(self, shut: Sequence[tuple[int, int]]) -> "Axes":
        """Return those of which no place lies within what is shut, ends open."""
        places = self._columns[:, 3, None] + self._columns[:, 4, None] * np.arange(self._span.lamps)
        kept = np.ones(len(self), dtype=bool)
        for one, two in shut:
            kept &= ~((one < places) & (places < two)).any(axis=1)
        return Axes(self._span, self._columns[kept])


def axes_of(span: GridSpan, parts: int, most_mm: int = MOST_SHIFT_MM, only_symmetric: bool = False) -> Axes:
    """Return every even axis within a shift, the least first; shifts in so many parts of a millimetre."""
    ideal, gaps = span.ideal, span.lamps - 1
    starts, ends = _within(ideal[0], most_mm), _within(ideal[-1], most_mm)
    first = np.arange(max(starts.start, span.low), starts.stop, dtype=np.int64)
    if gaps == 0:
        spacing = np.zeros((len(first), 1), dtype=np.int64)
    elif only_symmetric:
        # As much behind the last lamp as before the first, within a millimetre.
        spacing = (span.low + span.high - 2 * first[:, None] + np.array([-1, 0, 1])) // gaps
    else:
        widest = (ends.stop - 1 - starts.start) // gaps
        spacing = np.tile(np.arange(1, max(widest, 1) + 1, dtype=np.int64), (len(first), 1))
    firsts, spacings = np.broadcast_to(first[:, None], spacing.shape).ravel(), spacing.ravel()
    last = firsts + spacings * gaps
    near = (ends.start <= last) & (last < ends.stop) & (last <= span.high) & ((spacings > 0) | (gaps == 0))
    firsts, spacings = firsts[near], spacings[near]
    exact = np.array([int(parts * each) for each in ideal], dtype=np.int64)
    shifts2 = (parts * (firsts[:, None] + spacings[:, None] * np.arange(span.lamps)) - exact) ** 2
    aside = np.abs((firsts - span.low) - (span.high - firsts - spacings * gaps))
    unsymmetric = (aside > SYMMETRIC_MM).astype(np.int64)
    columns = np.stack([unsymmetric, shifts2.max(axis=1), shifts2.sum(axis=1), firsts, spacings], axis=1)
    if only_symmetric:
        columns = np.unique(columns[unsymmetric == 0], axis=0)
    return Axes(span, columns[np.lexsort(columns.T[::-1])])


def _within(ideal: Fraction, most_mm: int) -> range:
    """Return the places in whole mm that are no farther than a shift from where a lamp would stand."""
    return range(ceil(ideal - most_mm), floor(ideal + most_mm) + 1)


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
        """Return the least grid of which one axis at least is not symmetric; one only goes before both."""
        best = None
        for most in self._within:
            found = [self._first_free(*axes) for axes in self._mixed(most)]
            best = min((each for each in found if each is not None), key=_worth, default=None)
            # What shifts farther than was looked is no better than this.
            if best is not None and best.greatest_mm <= most:
                return best
        return best

    def _mixed(self, most: int) -> Iterator[tuple[Axes, Axes]]:
        far = self._within[-1]
        columns = axes_of(self._across, self._parts, most).unsymmetric
        rows = axes_of(self._up, self._parts, most).unsymmetric
        yield columns, axes_of(self._up, self._parts, far, only_symmetric=True)
        yield axes_of(self._across, self._parts, far, only_symmetric=True), rows
        yield columns, rows

    def _first_free(self, columns: Axes, rows: Axes) -> Nudged | None:
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


def _clear_of_bars(axes: Axes, others: Axes, bars: Sequence[tuple[int, int, int, int]], clear_mm: int) -> Axes:
    """Return the axes that clear what spans all that the other axis can reach: a joist from wall to wall.

    Of each bar its sides along the axis, then its ends along the other.
    """
    if not len(others) or not len(axes):
        return axes
    low, high = others.reach
    return axes.clear_of(
        [(one - clear_mm, two + clear_mm) for one, two, start, end in bars if start <= low and high <= end]
    )


def _pairs(columns: Axes, rows: Axes) -> Iterator[tuple[Axis, Axis]]:
    """Yield pairs of axes, the least first."""
    if not len(columns) or not len(rows):
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
    even = axes_of(up, parts, min(most_mm, _GROWING[-1]))
    for rows in map(even.__getitem__, range(min(len(even), _MOST_ROWS))):
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
