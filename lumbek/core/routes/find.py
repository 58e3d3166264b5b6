"""The least-cost way between two ends (Dijkstra, by SciPy), and what it meets."""

from collections.abc import Iterable, Sequence
from itertools import pairwise
from math import isfinite
from typing import Any, NamedTuple

import numpy as np

from lumbek.core.routes.graph import Graph


class WayStep(NamedTuple):
    """A stretch of a way, from node to node."""

    one: int
    other: int
    mm: int


class FoundWay(NamedTuple):
    """A way: what it costs, how long it is in mm, and its stretches."""

    cost: float
    mm: int
    steps: tuple[WayStep, ...]


class Finder:
    """Ways on one graph, each source worked out once."""

    def __init__(self, graph: Graph) -> None:
        self._graph = graph
        self._from: dict[str, tuple[Any, Any]] = {}

    def prepare(self, pairs: Iterable[tuple[str, str]]) -> None:
        """Work out as few sources as reach all pairs, at once."""
        wanted = [pair for pair in pairs if set(pair) <= self._graph.ends.keys()]
        sources: set[str] = set()
        while wanted:
            counts: dict[str, int] = {}
            for pair in wanted:
                for each in pair:
                    counts[each] = counts.get(each, 0) + 1
            best = max(counts, key=lambda each: (counts[each], each))
            sources.add(best)
            wanted = [pair for pair in wanted if best not in pair]
        self._work_out([each for each in sorted(sources) if each not in self._from])

    def _work_out(self, sources: Sequence[str]) -> None:
        from scipy.sparse.csgraph import dijkstra  # noqa: PLC0415

        if not sources:
            return
        nodes = [self._graph.ends[each] for each in sources]
        costs, before = dijkstra(self._graph.matrix, directed=False, indices=nodes, return_predecessors=True)
        for at, source in enumerate(sources):
            self._from[source] = costs[at], before[at]

    def way(self, one: str, other: str) -> FoundWay | None:
        """Return the least-cost way from one mark to another; None where none leads there, or one is at no place."""
        if one == other or one not in self._graph.ends or other not in self._graph.ends:
            return None
        is_turned = one not in self._from and other in self._from
        if is_turned:
            one, other = other, one
        if one not in self._from:
            self._work_out([one])
        costs, before = self._from[one]
        node = self._graph.ends[other]
        cost = float(costs[node])
        if not isfinite(cost):
            return None
        path = [node]
        while path[-1] != self._graph.ends[one]:
            path.append(int(before[path[-1]]))
        if not is_turned:
            path.reverse()
        steps = tuple(WayStep(a, b, self._mm(a, b)) for a, b in pairwise(path))
        return FoundWay(cost, sum(step.mm for step in steps), steps)

    def _mm(self, one: int, other: int) -> int:
        spots, way = self._graph.spots, self._graph.ways.get((min(one, other), max(one, other)))
        if way is not None and way.length_mm is not None:
            return way.length_mm
        return int(sum(abs(int(axis[one]) - int(axis[other])) for axis in (spots.x, spots.y, spots.z)))

    def matrix(self, marks: Sequence[str]) -> tuple[Any, Any]:
        """Return what the way between each two of several marks costs, and how long it is in mm; infinite for none."""
        self._work_out([each for each in marks if each not in self._from and each in self._graph.ends])
        count = len(marks)
        costs, lengths = np.full((count, count), np.inf), np.full((count, count), np.inf)
        for at, one in enumerate(marks):
            costs[at, at] = lengths[at, at] = 0
            for to in range(at):
                found = self.way(one, marks[to])
                if found is not None:
                    costs[at, to] = costs[to, at] = found.cost
                    lengths[at, to] = lengths[to, at] = found.mm
        return costs, lengths
