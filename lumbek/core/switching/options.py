"""The ways of wiring one control over a tree of runs, each by the cores it needs in every run.

Two methods make a two-way: *commons at the ends*, with line on the common of the first switch, switched line on that of
the last and strappers between; and *commons joined*, with the two commons wired together and line and switched line
tapping one pair of strappers. Only the ends matter for the first: a walk that passes every run off the way between
them twice needs the least in every run at once. The second is tried over every way of parting the switches at the
tapped pair, where the same holds for either part.
"""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations
from typing import Literal, NamedTuple

import numpy as np

from lumbek.core.model.scheme import Control, GangAt
from lumbek.core.switching.pareto import least
from lumbek.core.switching.tree import Counts, Runs, Tree

Method = Literal["permanent", "sensor", "one-way", "commons-at-ends", "commons-joined"]


class Option(NamedTuple):
    """One way of wiring a control: which gangs are its ends, and what it needs.

    `own` are the cores that only it uses, by run; `line` the runs its line needs from the feed, which it may share;
    `joints` the places where cores of its own meet that no terminal takes. With commons joined the tapped pair runs
    between `taps`, and `near` are the switches on the side of the first.
    """

    control: str
    method: Method
    own: Counts
    line: Runs
    joints: int
    first: GangAt | None = None
    last: GangAt | None = None
    taps: tuple[GangAt, GangAt] | None = None
    near: frozenset[GangAt] = frozenset()

    @property
    def label(self) -> tuple[object, ...]:
        """What tells it from other ways of wiring the same control: method and ends."""
        return label_of(self.control, self.method, self.first, self.last)


def label_of(control: str, method: Method, first: GangAt | None, last: GangAt | None) -> tuple[object, ...]:
    """Return what tells a way of wiring a control from others; joined commons are the same from either end."""
    ends: object = frozenset((first, last)) if method == "commons-joined" else (first, last)
    return control, method, ends


@dataclass(frozen=True)
class Needs:
    """One control on a tree: the places of its outputs, switches and sensor, and which gangs can only be ends."""

    tree: Tree
    control: Control
    only_ends: frozenset[GangAt] = frozenset()
    # Ends and methods that are not to be taken: to find the next best.
    without: frozenset[tuple[object, ...]] = frozenset()

    def options(self) -> Iterator[Option]:
        """Yield every way of wiring it that could be the least, and few others."""
        gangs, sensor = self.control.gangs, self.control.sensor
        if len(gangs) >= 2:
            yield from self._commons_at_ends()
            yield from self._commons_joined()
        elif gangs:
            yield self._plain("one-way", gangs[0])
        elif sensor is not None:
            yield self._plain("sensor", None)
        else:
            yield self._option("permanent", self._none, self._outputs)

    @property
    def _none(self) -> Counts:
        return np.zeros(len(self.tree.routes), dtype=np.int16)

    @property
    def _outputs(self) -> list[str]:
        return [output.point for output in self.control.outputs]

    def _option(self, method: Method, own: Counts, line_at: Iterable[str], joints: int = 0, **ends: object) -> Option:
        line = self.tree.hull([self.tree.root, *line_at])
        return Option(self.control.id, method, own, line, joints, **ends)  # type: ignore[arg-type]

    def _plain(self, method: Method, gang: GangAt | None) -> Option:
        """Return the way of a single switch, a sensor, or a sensor with a switch beside it."""
        both = [each.point for each in (gang, self.control.sensor) if each is not None]
        switched = [*self._outputs, *both]
        own = self.tree.hull(switched).astype(np.int16)
        joints = self._joints(self.tree.hull(switched), switched)
        return self._option(method, own, both, joints, first=gang, last=gang)

    def _joints(self, runs: Runs, terminals: Iterable[str]) -> int:
        """Return at how many places cores of one net meet without a terminal of it."""
        held = set(terminals)
        return sum(
            1 for place in self.tree.places if place not in held and int(runs[self.tree.runs_at(place)].sum()) > 1
        )

    def _ends(self, gangs: Sequence[GangAt]) -> Iterator[tuple[GangAt, GangAt]]:
        """Yield every two gangs that a row of these can begin and end at; of one gang, itself twice."""
        if len(gangs) == 1:
            yield gangs[0], gangs[0]
            return
        for a in gangs:
            for b in gangs:
                if a != b and self.only_ends.intersection(gangs) <= {a, b}:
                    yield a, b

    def _strappers(self, gangs: Sequence[GangAt], a: GangAt, b: GangAt) -> Counts:
        """Return the cores of a row of switches from a to b: two for each pass, on the least walk."""
        hull = self.tree.hull([gang.point for gang in gangs])
        return (2 * (2 * hull - self.tree.path(a.point, b.point).astype(np.int16))).astype(np.int16)

    def _commons_at_ends(self) -> Iterator[Option]:
        for a, b in self._ends(self.control.gangs):
            if label_of(self.control.id, "commons-at-ends", a, b) in self.without:
                continue
            switched = [*self._outputs, b.point]
            hull = self.tree.hull(switched)
            own = self._strappers(self.control.gangs, a, b) + hull
            yield self._option("commons-at-ends", own, [a.point], self._joints(hull, switched), first=a, last=b)

    def _commons_joined(self) -> Iterator[Option]:
        """Yield the ways with commons joined, those that others of them beat everywhere left out.

        The row is parted at the tapped pair in every way; all four ends of the two parts are tried at once.
        """
        gangs, tree = self.control.gangs, self.tree
        at = tree.below[:, [tree.at[gang.point] for gang in gangs]].T
        outputs = tree.below[:, [tree.at[place] for place in self._outputs]]
        some, every = outputs.any(axis=1), outputs.all(axis=1)
        index = {gang: number for number, gang in enumerate(gangs)}
        found: list[tuple[Counts, Runs, GangAt, GangAt, GangAt, GangAt, frozenset[GangAt]]] = []
        for near, far in _parted(gangs):
            near_rows = [(a, x, self._strappers(near, a, x)) for a, x in self._rows(near)]
            far_rows = [(y, b, self._strappers(far, y, b)) for b, y in self._rows(far)]
            for a, x, near_own in near_rows if far_rows else ():
                ys, bs = [index[row[0]] for row in far_rows], [index[row[1]] for row in far_rows]
                switched = (some | at[index[x]] | at[ys]) & ~(every & at[index[x]] & at[ys])
                own = np.array([row[2] for row in far_rows]) + near_own + (at[index[a]] ^ at[bs]) + switched
                line = at[index[x]] | at[ys]
                kept = [row for row, (_, b, _) in enumerate(far_rows) if self._wanted(a, b)]
                if not kept:
                    continue
                own, line = own[kept], line[kept]
                for row in least(np.concatenate((own, line), axis=1).astype(np.int16)):
                    y, b, _ = far_rows[kept[row]]
                    found.append((own[row].astype(np.int16), line[row], a, x, y, b, frozenset(near)))
        if not found:
            return
        vectors = np.array([np.concatenate((own, line)) for own, line, *_ in found], dtype=np.int16)
        for row in least(vectors):
            own, line, a, x, y, b, side = found[row]
            switched_at = [x.point, y.point, *self._outputs]
            joints = self._joints(tree.hull(switched_at), switched_at)
            yield Option(self.control.id, "commons-joined", own, line, joints, a, b, (x, y), side)

    def _wanted(self, a: GangAt, b: GangAt) -> bool:
        return label_of(self.control.id, "commons-joined", a, b) not in self.without

    def _rows(self, gangs: Sequence[GangAt]) -> Iterator[tuple[GangAt, GangAt]]:
        """Yield outer and inner end of a row on one side of the tapped pair: only the outer is an end of the whole."""
        if len(gangs) == 1:
            yield gangs[0], gangs[0]
            return
        held = self.only_ends.intersection(gangs)
        yield from ((a, x) for a in gangs if held <= {a} for x in gangs if a != x)


def _parted(gangs: Sequence[GangAt]) -> Iterator[tuple[list[GangAt], list[GangAt]]]:
    """Yield the ways of parting switches in two, each once; the first switch is among the near ones."""
    for size in range(len(gangs) - 1):
        for others in combinations(gangs[1:], size):
            yield [gangs[0], *others], [gang for gang in gangs[1:] if gang not in others]
