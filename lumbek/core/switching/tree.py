"""The places of a scheme as a tree of runs: which runs a set of places needs, and the trees that a graph holds."""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import product

import numpy as np
from numpy.typing import NDArray

from lumbek.core.circuit.routes import reached_by
from lumbek.core.model.scheme import Route
from lumbek.core.switching.states import Bits

Counts = NDArray[np.int16]
Runs = NDArray[np.bool_]
# More trees than these are not tried: the places hang together in too many ways.
MOST_TREES = 600


@dataclass(frozen=True)
class Tree:
    """Places joined by runs without loops, seen from a root.

    `below` has shape (runs, places): whether a place lies beyond a run, seen from the root.
    """

    root: str
    places: tuple[str, ...]
    routes: tuple[Route, ...]
    below: Runs

    @cached_property
    def at(self) -> dict[str, int]:
        """Each place by its column."""
        return {place: index for index, place in enumerate(self.places)}

    def hull(self, places: Iterable[str]) -> Runs:
        """Return the runs that part some of these places from others: what joins them all needs (shape (runs,))."""
        columns = self.below[:, [self.at[place] for place in dict.fromkeys(places)]]
        return np.asarray(columns.any(axis=1) & ~columns.all(axis=1), dtype=np.bool_)

    def path(self, a: str, b: str) -> Runs:
        """Return the runs between two places."""
        return self.below[:, self.at[a]] ^ self.below[:, self.at[b]]

    @cached_property
    def _beside(self) -> dict[str, list[tuple[int, str]]]:
        found: dict[str, list[tuple[int, str]]] = {place: [] for place in self.places}
        for run, route in enumerate(self.routes):
            found[route.a].append((run, route.b))
            found[route.b].append((run, route.a))
        return found

    def runs_at(self, place: str) -> list[int]:
        """Return the runs that end at a place."""
        return [run for run, _ in self._beside[place]]

    def towards_root(self, place: str) -> int | None:
        """Return the run that leads from a place towards the root; None at the root itself."""
        column = self.at[place]
        return next((run for run, _ in self._beside[place] if self.below[run, column]), None)

    def tour(self, stops: Sequence[tuple[str, object]], first: object, last: object) -> list[object]:
        """Return the stops in the order of a walk from the first to the last that passes no run more than need be.

        Each stop is a place with what stands there. Branches off the way between the two ends are walked out and
        back, so every run off that way is passed twice and every run on it once: the least there is.
        """
        here: dict[str, list[object]] = {}
        for place, what in stops:
            if what not in (first, last):
                here.setdefault(place, []).append(what)
        place_of = {what: place for place, what in stops}
        start, end = place_of[first], place_of[last]
        on_way = set(np.flatnonzero(self.path(start, end)).tolist())
        order: list[object] = [first]
        stack: list[tuple[str, int]] = [(start, -1)]
        # Depth first, with the branch that leads to the end kept for last.
        while stack:
            place, came_by = stack.pop()
            order += here.get(place, [])
            onward = [(there, run) for run, there in self._beside[place] if run != came_by]
            stack += sorted(onward, key=lambda each: (each[1] not in on_way, each[1]))
        return [*order, last] if first != last else order


def tree_of(root: str, routes: Sequence[Route]) -> Tree | None:
    """Return the tree of these routes as far as the root reaches; None where they close a loop."""
    beside: dict[str, list[int]] = {}
    for index, route in enumerate(routes):
        beside.setdefault(route.a, []).append(index)
        beside.setdefault(route.b, []).append(index)
    places, used, up = [root], list[int](), dict[str, int]()
    for here in places:
        for index in beside.get(here, ()):
            if index in used:
                continue
            there = routes[index].b if routes[index].a == here else routes[index].a
            if there in places:
                return None
            places.append(there)
            used.append(index)
            up[there] = len(used) - 1
    runs = tuple(routes[index] for index in used)
    return Tree(root, tuple(places), runs, _below(root, places, runs, up))


def _below(root: str, places: Sequence[str], runs: Sequence[Route], up: Mapping[str, int]) -> Bits:
    """Return which places lie beyond each run, shape (runs, places); `up` is the run that leads to each place."""
    below = np.zeros((len(runs), len(places)), dtype=np.bool_)
    for column, place in enumerate(places):
        here = place
        while here != root:
            below[up[here], column] = True
            route = runs[up[here]]
            here = route.b if route.a == here else route.a
    return below


def trees_of(root: str, routes: Sequence[Route]) -> Iterator[Tree]:
    """Yield every tree that the routes hold and that reaches all the root can reach: one where they have no loop.

    The shortest comes first, then those that differ from it in one run, in two and so on: by exchanging runs one comes
    to every tree there is.
    """
    whole = tree_of(root, routes)
    if whole is not None:
        yield whole
        return
    reached = reached_by(root, routes)
    inside = [route for route in routes if route.a in reached]
    first = _shortest(inside)
    seen, queue = {first}, [first]
    for chosen in queue:
        tree = tree_of(root, [inside[index] for index in sorted(chosen)])
        if tree is not None:
            yield tree
        for added, dropped in product(sorted(set(range(len(inside))) - chosen), chosen):
            other = chosen - {dropped} | {added}
            if len(seen) < MOST_TREES and other not in seen and _spans(inside, other, len(reached)):
                seen.add(other)
                queue.append(other)


def _shortest(routes: Sequence[Route]) -> frozenset[int]:
    """Return the shortest runs that join all places (Kruskal); a run of unknown length counts as a long one."""
    parent: dict[str, str] = {}

    def root(place: str) -> str:
        while parent.setdefault(place, place) != place:
            place = parent[place]
        return place

    found = set()
    for index in sorted(range(len(routes)), key=lambda each: (routes[each].length_m or 1e3, each)):
        a, b = root(routes[index].a), root(routes[index].b)
        if a != b:
            parent[a] = b
            found.add(index)
    return frozenset(found)


def _spans(routes: Sequence[Route], chosen: frozenset[int], places: int) -> bool:
    """Whether runs join all places: as a tree has one run less than places, they then close no loop."""
    return len(reached_by(routes[next(iter(chosen))].a, [routes[index] for index in chosen])) == places
