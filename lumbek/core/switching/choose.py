"""Choosing how every control is wired so that all together take the least cable, then cores, then joints.

Controls share line and neutral, so the least of each alone is not the least of all: ways are combined control by
control, and of every combination only those are kept that no other beats in every run. What a run costs never falls
with its cores, so nothing that could be the least is lost.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from itertools import islice
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD
from lumbek.core.model.scheme import GangAt, Route, Scheme
from lumbek.core.switching.cost import MOST_CORES, Fill, RunCost
from lumbek.core.switching.options import Needs, Option, Ways, ways_of_a_row
from lumbek.core.switching.pareto import least
from lumbek.core.switching.tree import Counts, Tree, trees_of

# A core that is missing weighs more than all the cable of a house.
_MISSING = 1e6
_MOST_ROUNDS = 12
# Ways of wiring rows of switches, over all trees, that are looked at.
_MOST_WAYS = 40_000
# What adding up some prices may lose.
_HAIR = 1e-6


class Price(NamedTuple):
    """What decides between plans, in this order: cable in metres of two-core, cores in m, joints."""

    cable_m: float
    cores_m: float
    joints: int


class Chosen(NamedTuple):
    """A way of wiring every control on one tree, the cores of each run, and what it costs."""

    tree: Tree
    options: tuple[Option, ...]
    cores: Counts
    price: Price


class OverLimit(NamedTuple):
    """A run that cannot carry what the least of all ways asks of it."""

    route: Route
    holds: int
    needs: int


@dataclass(frozen=True)
class Chooser:
    """A scheme to find the wiring of. `usual_length_m` is what a run is taken for whose length is unknown."""

    circuit: Circuit
    scheme: Scheme
    prices: Mapping[int, float]
    usual_length_m: float
    without: frozenset[tuple[object, ...]] = frozenset()
    # For each run, how many cores it holds at no price while a missing core is looked for.
    missing_from: Mapping[int, int] | None = None
    _costs: dict[frozenset[str], RunCost] = field(default_factory=dict, compare=False, repr=False)

    @cached_property
    def only_ends(self) -> frozenset[GangAt]:
        """Gangs that can be no intermediate: dimmers, and gangs of a plate of several that is no grid."""
        gangs = [gang for control in self.scheme.controls for gang in control.gangs]
        return frozenset(gang for gang in gangs if self._is_only_end(gang, gangs))

    def _is_only_end(self, gang: GangAt, gangs: Sequence[GangAt]) -> bool:
        point = self.circuit.point(gang.point)
        here = {other.gang for other in gangs if other.point == point.id}
        here |= {accessory.gang for accessory in point.accessories}
        mine = point.accessory(gang.gang)
        return (mine is not None and mine.dims) or (len(here) > 1 and not point.plate.grid)

    @cached_property
    def trees(self) -> tuple[Tree, ...]:
        """The trees of runs that reach every place; none where the routes do not."""
        places = set(self.scheme.places)
        every = (tree for tree in trees_of(self.scheme.feed, self.scheme.routes) if places <= set(tree.places))
        return tuple(islice(every, self.most_trees))

    @property
    def most_trees(self) -> int:
        """How many trees are tried: the more ways a row of switches can be wired, the fewer."""
        ways = sum(ways_of_a_row(len(control.gangs)) for control in self.scheme.controls)
        return max(1, _MOST_WAYS // max(1, ways))

    def neutral_at(self, tree: Tree) -> list[str]:
        """Return the places that need the neutral: the feed, what it lights, sensors, and switches where wished."""
        found = [tree.root, *self.through]
        for control in self.scheme.controls:
            found += [output.point for output in control.outputs]
            found += [sensor.point for sensor in control.sensors]
            found += [gang.point for gang in control.gangs] if self.scheme.wishes.neutral_at_switches else []
        return found

    @cached_property
    def through(self) -> tuple[str, ...]:
        """Places that feed something else on: line and neutral must be there."""
        return feeding_on(self.circuit, self.scheme)

    def best(self) -> Chosen | None:
        """Return the least of all ways; None where no way fits what the runs can hold."""
        found = [chosen for tree in self.trees if (chosen := self._on(tree)) is not None]
        return min(found, key=lambda each: each.price, default=None)

    def _shared(self, tree: Tree) -> Counts:
        """Return the cores that every way needs: the neutral, and what is linked."""
        shared = tree.hull(self.neutral_at(tree)).astype(np.int16)
        for link in self.scheme.links:
            shared = shared + tree.hull([end.point for end in link.ends])
        return shared.astype(np.int16)

    def _on(self, tree: Tree) -> Chosen | None:
        """Return the least of all ways on one tree.

        What is surely dearer than a way that has been found is left out first, of the rest what another beats in every
        run; then control by control they are put together, and both is done again.
        """
        needs = [Needs(tree, control, self.only_ends, self.without) for control in self.scheme.controls]
        ways = [each.ways() for each in needs]
        if not all(len(each.own) for each in ways):
            return None
        # A core that is missing is one, however long the run.
        counted = self.missing_from is not None
        lengths = np.array([1.0 if counted else route.length_m or self.usual_length_m for route in tree.routes])
        table = self._table(tree) * lengths[:, None]
        line = tree.hull([tree.root, *self.through]).astype(np.int16)
        start = _Held(np.zeros((1, len(line)), np.int16), line[None, :], np.zeros(1, np.int16))
        shared = self._shared(tree)
        bound = _Bound(table, shared, [each.own for each in ways])
        most = bound.prices(_descended(bound, start, ways))[0] + _HAIR
        if not np.isfinite(most):
            most = np.inf
        kept = [self._kept(bound, start, ways, index, most, needs[index]) for index in range(len(ways))]
        # Those with the fewest ways first, so that little is carried along.
        order = sorted(range(len(ways)), key=lambda index: len(kept[index][0].own))
        held, picks = start, np.zeros((1, 0), np.intp)
        for step, index in enumerate(order):
            held, picks = _with(held, picks, kept[index][1])
            near = np.flatnonzero(bound.below(held, order[step + 1 :]) <= most)
            held, picks = held.only(near), picks[near]
            rows = least(np.concatenate((held.own, held.line, held.joints[:, None]), axis=1))
            held, picks = held.only(rows), picks[rows]
        cores = held.own + held.line + shared
        cable = bound.prices(held)
        if not np.isfinite(cable).any():
            return None
        core_m = (cores * lengths).sum(axis=1)
        first = int(np.lexsort((held.joints, np.round(core_m, 6), np.round(cable, 6)))[0])
        options = tuple(kept[index][0].option(int(picks[first, order.index(index)])) for index in range(len(ways)))
        price = Price(round(float(cable[first]), 6), round(float(core_m[first]), 6), int(held.joints[first]))
        return Chosen(tree, options, cores[first], price)

    def _kept(
        self, bound: "_Bound", start: "_Held", ways: Sequence[Ways], index: int, most: float, needs: Needs
    ) -> tuple[Ways, "_Held"]:
        """Return the ways of one control that could be in the least of all, and the same with their joints."""
        mine = ways[index]
        alone, _ = _with(
            start, np.zeros((1, 0), np.intp), _Held(mine.own, mine.line, np.zeros(len(mine.own), np.int16))
        )
        others = [other for other in range(len(ways)) if other != index]
        near = mine.only(np.flatnonzero(bound.below(alone, others) <= most))
        joints = np.array(
            [needs.joints(near.option(row), near.switched[row]) for row in range(len(near.own))], np.int16
        )
        rows = least(np.concatenate((near.own, near.line, joints[:, None]), axis=1))
        return near.only(rows), _Held(near.own[rows], near.line[rows], joints[rows])

    def cost_of(self, route: Route) -> RunCost:
        """Return what a run costs by its cores."""
        return self._costs.setdefault(frozenset((route.a, route.b)), RunCost(route, self.scheme.wishes, self.prices))

    def _table(self, tree: Tree) -> NDArray[np.float64]:
        """Return the price of a metre of each run by its cores, shape (runs, cores); infinite where they do not fit."""
        if self.missing_from is not None:
            over = np.arange(MOST_CORES + 1)[None, :] - np.array(list(self.missing_from.values()))[:, None]
            priced: NDArray[np.float64] = np.maximum(over, 0) * _MISSING + 1.0 * np.arange(MOST_CORES + 1)
            return priced
        found: dict[tuple[object, ...], list[float]] = {}
        rows = []
        for route in tree.routes:
            # Runs that hold the same cost the same.
            like = (route.closed, *route.cables)
            if like not in found:
                fills = (self.cost_of(route).fill(cores) for cores in range(MOST_CORES + 1))
                found[like] = [np.inf if fill is None else fill.price for fill in fills]
            rows.append(found[like])
        return np.array(rows, dtype=np.float64).reshape(-1, MOST_CORES + 1)

    def fill(self, route: Route, cores: int) -> Fill:
        """Return the cables of a run of a chosen plan."""
        return self.cost_of(route).fill(cores) or Fill(0.0)

    def shortage(self) -> tuple[OverLimit, ...]:
        """Return where cores are missing in the way that misses fewest, where nothing fits."""
        best: tuple[int, tuple[OverLimit, ...]] | None = None
        for tree in self.trees:
            most = np.array(
                [MOST_CORES if (held := self.cost_of(route).most) is None else held for route in tree.routes]
            )
            eased = replace(self, scheme=_eased(self.scheme), _costs={}, missing_from=dict(enumerate(most.tolist())))
            chosen = eased._on(tree)
            if chosen is None:
                continue
            over = np.maximum(chosen.cores - most, 0)
            if best is None or int(over.sum()) < best[0]:
                runs = np.flatnonzero(over)
                found = tuple(OverLimit(tree.routes[run], int(most[run]), int(chosen.cores[run])) for run in runs)
                best = int(over.sum()), found
        return best[1] if best else ()


def feeding_on(circuit: Circuit, scheme: Scheme) -> tuple[str, ...]:
    """Return the places of a scheme that feed something else on, those that the supply arrives at left out."""
    places = set(scheme.places)
    beyond = [leg for leg in circuit.legs if (leg.a in places) != (leg.b in places) and BOARD not in (leg.a, leg.b)]
    ends = (end for leg in beyond for end in (leg.a, leg.b))
    return tuple(sorted({end for end in ends if end in places and end != scheme.feed}))


class _Held(NamedTuple):
    """Ways of wiring one control, or several together, side by side: cores and line by run, joints."""

    own: Counts
    line: Counts
    joints: Counts

    def only(self, rows: NDArray[np.intp]) -> "_Held":
        return _Held(self.own[rows], self.line[rows], self.joints[rows])


def _with(held: _Held, picks: NDArray[np.intp], more: _Held) -> tuple[_Held, NDArray[np.intp]]:
    """Return every way held with every way of one more control, and which were picked for each."""
    # With everything in one place there is no run at all: how many ways there are is not to be made out of the size.
    runs, count = held.own.shape[1], len(more.own)
    every = (len(held.own) * count, runs)
    both = _Held(
        (held.own[:, None, :] + more.own[None]).reshape(every),
        np.maximum(held.line[:, None, :], more.line[None]).reshape(every),
        (held.joints[:, None] + more.joints[None]).reshape(-1),
    )
    rows = np.repeat(picks, count, axis=0)
    return both, np.concatenate((rows, np.tile(np.arange(count), len(picks))[:, None]), axis=1)


class _Bound:
    """The price of ways, and what ways of some controls cost at least once the others are added.

    `table` has shape (runs, cores): the price of each run by its cores. With f(c) the price of a run and a the least
    of f(c)/c, f(c) >= a c + min over c' >= base of (f(c') - a c') for any c >= base: what is still to come counts for
    a each core, whatever it shares a cable with.
    """

    def __init__(self, table: NDArray[np.float64], shared: Counts, own: Sequence[Counts]) -> None:
        self._table, self._shared = table, shared
        self._runs = np.arange(len(table))
        each = np.arange(1, table.shape[1])
        self._rate = (table[:, 1:] / each).min(axis=1) if len(table) else np.zeros(0)
        self._rate[~np.isfinite(self._rate)] = 0.0
        slack = table - self._rate[:, None] * np.arange(table.shape[1])
        self._slack = np.minimum.accumulate(slack[:, ::-1], axis=1)[:, ::-1]
        self._rest = [float((ways @ self._rate).min()) for ways in own]

    def _cores(self, ways: _Held) -> Counts:
        cores: Counts = np.minimum(ways.own + ways.line + self._shared, MOST_CORES).astype(np.int16)
        return cores

    def prices(self, ways: _Held) -> NDArray[np.float64]:
        """Return the price of each way as it stands; infinite where it does not fit."""
        found: NDArray[np.float64] = self._table[self._runs, self._cores(ways)].sum(axis=1)
        return found

    def below(self, ways: _Held, to_come: Sequence[int]) -> NDArray[np.float64]:
        """Return what each way costs at least once the controls to come are added."""
        cores = self._cores(ways)
        least_yet = self._slack[self._runs, cores] + self._rate * cores
        found: NDArray[np.float64] = least_yet.sum(axis=1) + sum(self._rest[index] for index in to_come)
        return found


def _descended(bound: _Bound, start: _Held, ways: Sequence[Ways]) -> _Held:
    """Return a good way of all together: each control in turn takes what is best beside the others, until none moves.

    What it costs is as much as the least of all can cost.
    """
    every = [_Held(each.own, each.line, np.zeros(len(each.own), np.int16)) for each in ways]
    none = np.zeros((1, 0), np.intp)
    picked = [0] * len(ways)

    def together(but: int = -1) -> _Held:
        held = start
        for index, pick in enumerate(picked):
            if index != but:
                held, _ = _with(held, none, every[index].only(np.array([pick])))
        return held

    for _ in range(_MOST_ROUNDS):
        before = list(picked)
        for index, each in enumerate(every):
            tried, _ = _with(together(but=index), none, each)
            prices = bound.prices(tried)
            picked[index] = int(prices.argmin()) if np.isfinite(prices).any() else int(tried.own.sum(axis=1).argmin())
        if picked == before:
            break
    return together()


def _eased(scheme: Scheme) -> Scheme:
    """Return a scheme whose walls can be opened."""
    routes = tuple(route.model_copy(update={"closed": False}) for route in scheme.routes)
    return scheme.model_copy(update={"routes": routes})


def without(chosen: Chosen, control: int) -> frozenset[tuple[object, ...]]:
    """Return what is to be left out so that one control is wired in another order or by another method."""
    return frozenset({chosen.options[control].label})
