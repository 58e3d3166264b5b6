"""The ways of wiring one control over a tree of runs, each by the cores it needs in every run.

Two methods make a two-way: *commons at the ends*, with line on the common of the first switch, switched line on that of
the last and strappers between; and *commons joined*, with the two commons wired together and line and switched line
tapping one pair of strappers. Only the ends matter for the first: a walk that passes every run off the way between
them twice needs the least in every run at once. The second is tried over every way of parting the switches at the
tapped pair, where the same holds for either part.
"""

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cache, cached_property
from itertools import combinations
from math import comb
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray

from lumbek.core.model.scheme import Control, GangAt
from lumbek.core.switching.tree import Counts, Runs, Tree

Method = Literal["permanent", "sensor", "one-way", "commons-at-ends", "commons-joined"]


class Option(NamedTuple):
    """One way of wiring a control: the method, and which gangs are its ends.

    With commons joined the tapped pair runs between `taps`, and `near` are the switches on the side of the first.
    """

    control: str
    method: Method
    first: GangAt | None = None
    last: GangAt | None = None
    taps: tuple[GangAt, GangAt] | None = None
    near: frozenset[GangAt] = frozenset()

    @property
    def label(self) -> tuple[object, ...]:
        """What tells it from other ways of wiring the same control: method and ends."""
        return label_of(self.control, self.method, self.first, self.last)


@cache
def ways_of_a_row(switches: int) -> int:
    """Return in how many ways a row of so many switches can be wired."""

    def ends(count: int) -> int:
        return 1 if count == 1 else count * (count - 1)

    if switches < 2:
        return 1
    joined = sum(comb(switches - 1, near - 1) * ends(near) * ends(switches - near) for near in range(1, switches))
    return ends(switches) + joined


def label_of(control: str, method: Method, first: GangAt | None, last: GangAt | None) -> tuple[object, ...]:
    """Return what tells a way of wiring a control from others; joined commons are the same from either end."""
    ends: object = frozenset((first, last)) if method == "commons-joined" else (first, last)
    return control, method, ends


@dataclass(frozen=True)
class Ways:
    """Ways side by side. `own` are the cores that only they use, shape (ways, runs); `line` the runs that their line
    needs from the feed, which it may share; `switched` those of the switched line. `option` says which a row is.
    """

    own: Counts
    line: Counts
    switched: Runs
    option: Callable[[int], Option]

    def only(self, rows: NDArray[np.bool_] | NDArray[np.intp]) -> "Ways":
        """Return some of the ways."""
        at = np.arange(len(self.own))[rows]
        return Ways(self.own[at], self.line[at], self.switched[at], lambda row: self.option(int(at[row])))


@dataclass(frozen=True)
class Needs:
    """One control on a tree: the places of its outputs, switches and sensor, and which gangs can only be ends."""

    tree: Tree
    control: Control
    only_ends: frozenset[GangAt] = frozenset()
    # Ends and methods that are not to be taken: to find the next best.
    without: frozenset[tuple[object, ...]] = frozenset()

    def ways(self) -> Ways:
        """Return every way of wiring it; none where too many of its gangs can only be ends."""
        gangs = self.control.gangs
        if not gangs and not self._sensors:
            line = self.tree.hull([self.tree.root, *self._outputs])
            none = np.zeros_like(line)
            return _one(none, line, none, Option(self.control.id, "permanent"))
        if len(gangs) >= 2:
            found = _together([self._commons_at_ends(), *self._commons_joined()], len(self.tree.routes))
        else:
            found = self._plain("one-way" if gangs else "sensor", gangs[0] if gangs else None)
        if not self._sensors:
            return found
        if self.control.sensors_behind:
            beyond = self.tree.hull([*self._sensors, *self._lights]).astype(np.int16)
            return replace(found, own=found.own + beyond)
        line = self.tree.hull([self.tree.root, *self._sensors]).astype(np.int16)
        return replace(found, line=np.maximum(found.line, line))

    @property
    def _lights(self) -> list[str]:
        return [output.point for output in self.control.outputs]

    @property
    def _sensors(self) -> list[str]:
        return [sensor.point for sensor in self.control.sensors]

    @property
    def _outputs(self) -> list[str]:
        """Where what the switches put out goes: to the sensors behind them, else to lights and sensors alike."""
        return self._sensors if self.control.sensors_behind else [*self._lights, *self._sensors]

    def _plain(self, method: Method, gang: GangAt | None) -> Ways:
        """Return the way of a single switch, or of sensors with none."""
        own = [] if gang is None else [gang.point]
        switched = self.tree.hull([*self._outputs, *own])
        line = self.tree.hull([self.tree.root, *(own or self._sensors)])
        return _one(switched, line, switched, Option(self.control.id, method, gang, gang))

    def joints(self, option: Option, switched: Runs) -> int:
        """Return at how many places cores of the switched line meet without a terminal of it."""
        held = {*self._outputs, *(gang.point for gang in (option.taps or (option.last,)) if gang is not None)}
        held |= {*self._sensors}
        tree = self.tree
        return sum(1 for place in tree.places if place not in held and int(switched[tree.runs_at(place)].sum()) > 1)

    # Rows of switches

    @cached_property
    def _at(self) -> Runs:
        """For each gang the runs between it and the root, shape (gangs, runs)."""
        columns = [self.tree.at[gang.point] for gang in self.control.gangs]
        return np.asarray(self.tree.below[:, columns].T, dtype=np.bool_)

    @cached_property
    def _lamps(self) -> tuple[Runs, Runs]:
        """The runs that have some of its outputs beyond them, and those that have every one."""
        columns = self.tree.below[:, [self.tree.at[place] for place in self._outputs]]
        return np.asarray(columns.any(axis=1)), np.asarray(columns.all(axis=1))

    def _switched(self, beyond_some: Runs, beyond_all: Runs) -> Runs:
        """Return the runs of the switched line to the outputs from places with some, or all, beyond a run."""
        some, every = self._lamps
        return np.asarray((some | beyond_some) & ~(every & beyond_all), dtype=np.bool_)

    def _strappers(self, gangs: Sequence[int], a: NDArray[np.intp], b: NDArray[np.intp]) -> Counts:
        """Return the cores of rows of switches from each a to its b: two for each pass, on the least walk."""
        at = self._at[list(gangs)]
        hull = at.any(axis=0) & ~at.all(axis=0)
        return np.asarray(4 * hull.astype(np.int16) - 2 * (self._at[a] ^ self._at[b]), dtype=np.int16)

    def _held(self, gangs: Iterable[int]) -> set[int]:
        return {gang for gang in gangs if self.control.gangs[gang] in self.only_ends}

    def _commons_at_ends(self) -> Ways:
        gangs = self.control.gangs
        every = range(len(gangs))
        held = self._held(every)
        pairs = [
            (a, b)
            for a in every
            for b in every
            if a != b
            and held <= {a, b}
            and label_of(self.control.id, "commons-at-ends", gangs[a], gangs[b]) not in self.without
        ]
        first, last = _columns(pairs)
        switched = self._switched(self._at[last], self._at[last])
        own = self._strappers(every, first, last) + switched

        def option(row: int) -> Option:
            a, b = pairs[row]
            return Option(self.control.id, "commons-at-ends", gangs[a], gangs[b])

        return Ways(own.astype(np.int16), self._at[first].astype(np.int16), switched, option)

    def _commons_joined(self) -> Iterator[Ways]:
        """Yield the ways with commons joined, for each way of parting the row at the tapped pair."""
        for near, far in _parted(len(self.control.gangs)):
            ways = self._parted(near, far)
            if ways is not None:
                yield ways

    def _parted(self, near: Sequence[int], far: Sequence[int]) -> Ways | None:
        """Return the ways with these switches on either side of the tapped pair; None where there is none."""
        gangs = self.control.gangs
        one, other = self._rows(near), self._rows(far)
        if not one or not other:
            return None
        # Every row of one side with every row of the other.
        rows = np.stack(np.meshgrid(np.arange(len(one)), np.arange(len(other)), indexing="ij"), axis=-1).reshape(-1, 2)
        (outer, inner), (end, start) = _columns(one), _columns(other)
        a, x, b, y = outer[rows[:, 0]], inner[rows[:, 0]], end[rows[:, 1]], start[rows[:, 1]]
        if self.without:
            wanted = [
                label_of(self.control.id, "commons-joined", gangs[first], gangs[last]) not in self.without
                for first, last in zip(a, b, strict=True)
            ]
            a, x, b, y = a[wanted], x[wanted], b[wanted], y[wanted]
        at = self._at
        switched = self._switched(np.asarray(at[x] | at[y]), np.asarray(at[x] & at[y]))
        own = self._strappers(near, a, x) + self._strappers(far, y, b) + (at[a] ^ at[b]) + switched
        side = frozenset(gangs[each] for each in near)

        def option(row: int) -> Option:
            taps = gangs[x[row]], gangs[y[row]]
            return Option(self.control.id, "commons-joined", gangs[a[row]], gangs[b[row]], taps, side)

        return Ways(own.astype(np.int16), (at[x] | at[y]).astype(np.int16), switched, option)

    def _rows(self, gangs: Sequence[int]) -> list[tuple[int, int]]:
        """Return outer and inner end of the rows on one side of the tapped pair: only the outer is an end of all."""
        if len(gangs) == 1:
            return [(gangs[0], gangs[0])]
        held = self._held(gangs)
        return [(a, x) for a in gangs if held <= {a} for x in gangs if a != x]


def _columns(pairs: Sequence[tuple[int, int]]) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    both = np.array(pairs, dtype=np.intp).reshape(-1, 2)
    return both[:, 0], both[:, 1]


def _one(own: Runs, line: Runs, switched: Runs, option: Option) -> Ways:
    return Ways(own.astype(np.int16)[None], line.astype(np.int16)[None], switched[None], lambda _: option)


def _together(ways: Sequence[Ways], runs: int) -> Ways:
    """Return several sets of ways as one."""
    starts = np.cumsum([0, *(len(each.own) for each in ways)])

    def option(row: int) -> Option:
        at = int(np.searchsorted(starts, row, side="right")) - 1
        return ways[at].option(row - int(starts[at]))

    def stacked(parts: Sequence[NDArray[np.int16]]) -> Counts:
        return np.concatenate([part.reshape(-1, runs) for part in parts])

    switched = np.concatenate([each.switched.reshape(-1, runs) for each in ways])
    return Ways(stacked([each.own for each in ways]), stacked([each.line for each in ways]), switched, option)


def _parted(gangs: int) -> Iterator[tuple[list[int], list[int]]]:
    """Yield the ways of parting switches in two, each once; the first switch is among the near ones."""
    others = range(1, gangs)
    for size in range(gangs - 1):
        for more in combinations(others, size):
            yield [0, *more], [gang for gang in others if gang not in more]
