"""Ranges of what a figure may be, and several of them side by side."""

from collections.abc import Iterable
from typing import NamedTuple

# Far less than any figure is known to, far more than adding some hundred of them loses.
_HAIR = 1e-9


class Interval(NamedTuple):
    """The least and the most that a figure can be."""

    least: float
    most: float

    def meet(self, other: "Interval") -> "Interval":
        """Return what both allow; empty where they do not overlap."""
        return Interval(max(self.least, other.least), min(self.most, other.most))

    def plus(self, other: "Interval") -> "Interval":
        """Return the sums of one of each."""
        return Interval(self.least + other.least, self.most + other.most)

    def less(self, other: "Interval") -> "Interval":
        """Return the differences of one of each."""
        return Interval(self.least - other.most, self.most - other.least)

    def times(self, factor: float) -> "Interval":
        """Return it scaled by a factor of zero or more."""
        return Interval(self.least * factor, self.most * factor)

    @property
    def is_empty(self) -> bool:
        """Whether it allows nothing; a hair of binary fractions parts nothing."""
        return self.least > self.most + _HAIR


ANYTHING = Interval(0.0, float("inf"))
Intervals = tuple[Interval, ...]


def hull(some: Iterable[Interval]) -> Interval | None:
    """Return the least interval that holds all of these; None of none."""
    every = tuple(some)
    if not every:
        return None
    return Interval(min(each.least for each in every), max(each.most for each in every))


def merged(some: Iterable[Interval]) -> Intervals:
    """Return the same figures as intervals apart from each other, in their order."""
    found: list[Interval] = []
    for each in sorted(interval for interval in some if not interval.is_empty):
        if found and each.least <= found[-1].most:
            found[-1] = Interval(found[-1].least, max(found[-1].most, each.most))
        else:
            found.append(each)
    return tuple(found)


def meets(some: Intervals, others: Intervals) -> Intervals:
    """Return what both of two sets allow."""
    return merged(one.meet(other) for one in some for other in others)


def spread(some: Intervals, step: Interval) -> Intervals:
    """Return where one comes from anywhere in a set by a step."""
    return merged(each.plus(step) for each in some)
