"""Pipes in a slab from a board to places: laid square, in the order at the board that crosses least.

Each pipe runs along x and y: straight, once or twice bent (an L either way, a Z by a lane near the board). What counts,
in this order: pipes laid on each other, crossings, mm, bends. Found depth first over pipes, slots at the board and
shapes, bounded by the least that is still to come (an assignment of what is left to slots): exact to 9 pipes, unless it
takes too long, which is said. More pipes are put where they are shortest, then changed over while that is better.
"""

from collections.abc import Sequence
from itertools import pairwise
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

MOST_PROVED = 9
# From pipe to pipe at the board, in mm.
PITCH_MM = 60
_MOST_NODES = 30_000
_MOST_ROUNDS = 6
# Weights that keep the order of what counts: no house is a thousand kilometres of pipe.
_ON_TOP, _CROSSING, _MM = 10**15, 10**12, 100

Spot = tuple[int, int]


class PipeRun(NamedTuple):
    """How one pipe runs: its slot at the board, and its corners from there to its place."""

    slot: int
    corners: tuple[Spot, ...]

    @property
    def mm(self) -> int:
        """How long it is."""
        return sum(abs(a - c) + abs(b - d) for (a, b), (c, d) in pairwise(self.corners))

    @property
    def bends(self) -> int:
        """How often it is bent in the slab."""
        return len(self.corners) - 2


class LaidPipes(NamedTuple):
    """Pipes as they are laid, in the order asked; which pairs cross or lie on each other; if none is better."""

    runs: tuple[PipeRun, ...]
    crossings: tuple[tuple[int, int], ...]
    on_top: tuple[tuple[int, int], ...]
    is_proved: bool


def slots_at(board: Spot, along: Spot, count: int) -> tuple[Spot, ...]:
    """Return where pipes leave a board, side by side along its wall, its middle in the middle."""
    return tuple(
        (
            board[0] + round(along[0] * PITCH_MM * (at - (count - 1) / 2)),
            board[1] + round(along[1] * PITCH_MM * (at - (count - 1) / 2)),
        )
        for at in range(count)
    )


def lay_pipes(slots: Sequence[Spot], places: Sequence[Spot]) -> LaidPipes:
    """Return the least layout of a pipe to each place, each from a slot of its own."""
    if not places:
        return LaidPipes((), (), (), True)
    assert len(slots) >= len(places), "every pipe has a slot"
    search = _Search(slots, places)
    if len(places) <= MOST_PROVED:
        chosen, is_proved = search.exact()
    else:
        chosen, is_proved = search.improved(), False
    runs = tuple(search.runs[at] for at in chosen)
    pairs = [(a, b) for a in range(len(runs)) for b in range(a)]
    return LaidPipes(
        runs,
        tuple((b, a) for a, b in pairs if search.crossing[chosen[a], chosen[b]]),
        tuple((b, a) for a, b in pairs if search.on_top[chosen[a], chosen[b]]),
        is_proved,
    )


def runs_between(slot: int, start: Spot, end: Spot, lanes: int) -> list[PipeRun]:
    """Return how a pipe may run: straight, once bent either way, twice bent by a lane near the board."""
    (x, y), (u, v) = start, end
    shapes: list[tuple[Spot, ...]] = [(start, (u, y), end), (start, (x, v), end)]
    for lane in range(1, lanes + 1):
        for sign in (-1, 1):
            off = sign * lane * PITCH_MM
            shapes.append((start, (x, y + off), (u, y + off), end))
            shapes.append((start, (x + off, y), (x + off, v), end))
    found = {_straightened(shape): None for shape in shapes}
    return [PipeRun(slot, corners) for corners in found]


def _straightened(corners: Sequence[Spot]) -> tuple[Spot, ...]:
    kept: list[Spot] = []
    for spot in corners:
        if kept and kept[-1] == spot:
            continue
        if len(kept) > 1 and (kept[-2][0] == kept[-1][0] == spot[0] or kept[-2][1] == kept[-1][1] == spot[1]):
            kept[-1] = spot
        else:
            kept.append(spot)
    return tuple(kept)


def _assigned(least: NDArray[np.int64]) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    """Return rows and columns of the least assignment of one to the other."""
    # Loaded where somebody lays pipes in a slab: it takes as long to load as a fifth of all else.
    from scipy.optimize import linear_sum_assignment  # noqa: PLC0415

    rows, columns = linear_sum_assignment(least)
    return rows, columns


class _Search:
    """Every run of every pipe from every slot, and which of them cross."""

    def __init__(self, slots: Sequence[Spot], places: Sequence[Spot]) -> None:
        lanes = min(len(places), 3)
        self._bounds: dict[frozenset[int], int] = {}
        self.runs: list[PipeRun] = []
        self.of: list[list[int]] = []
        for place in places:
            there = [run for at, slot in enumerate(slots) for run in runs_between(at, slot, place, lanes)]
            self.of.append(list(range(len(self.runs), len(self.runs) + len(there))))
            self.runs += there
        self.slot = np.array([run.slot for run in self.runs])
        self.own = np.array([run.mm * _MM + run.bends for run in self.runs], dtype=np.int64)
        self.crossing, self.on_top = _meetings(self.runs)
        self.pair = self.crossing * np.int64(_CROSSING) + self.on_top * np.int64(_ON_TOP)
        # The least of each pipe from each slot, whatever it meets.
        self.least = np.full((len(places), len(slots)), np.iinfo(np.int64).max // 4, dtype=np.int64)
        for pipe, mine in enumerate(self.of):
            for at in mine:
                self.least[pipe, self.slot[at]] = min(self.least[pipe, self.slot[at]], self.own[at])

    def exact(self) -> tuple[list[int], bool]:
        """Return the least choice of runs; whether that is proved."""
        best = self.improved()
        self._best, self._cost, self._nodes = best, self._cost_of(best), 0
        # The farthest first: it has the fewest ways out.
        order = sorted(range(len(self.of)), key=lambda pipe: -int(self.least[pipe].min()))
        self._deeper(order, {}, 0, np.zeros(len(self.runs), dtype=np.int64))
        return self._best, self._nodes < _MOST_NODES

    def _deeper(self, order: Sequence[int], chosen: dict[int, int], cost: int, met: Any) -> None:
        if self._nodes >= _MOST_NODES:
            return
        self._nodes += 1
        if len(chosen) == len(order):
            if cost < self._cost:
                self._cost, self._best = cost, [chosen[pipe] for pipe in range(len(order))]
            return
        pipe, rest = order[len(chosen)], order[len(chosen) + 1 :]
        taken = {int(self.slot[at]) for at in chosen.values()}
        mine = np.array([at for at in self.of[pipe] if int(self.slot[at]) not in taken])
        after = cost + self.own[mine] + met[mine]
        for at in mine[np.argsort(after, kind="stable")]:
            now = int(cost + self.own[at] + met[at])
            if now + self._bound(rest, taken | {int(self.slot[at])}) >= self._cost:
                continue
            self._deeper(order, {**chosen, pipe: int(at)}, now, met + self.pair[at])

    def _bound(self, rest: Sequence[int], taken: set[int]) -> int:
        """Return the least that the pipes that are left cost, each from a slot of its own."""
        if not rest:
            return 0
        # Which pipes are left follows from how many slots are taken.
        key = frozenset(taken)
        if key not in self._bounds:
            free = [slot for slot in range(self.least.shape[1]) if slot not in taken]
            table = self.least[np.ix_(list(rest), free)]
            self._bounds[key] = int(table[_assigned(table)].sum())
        return self._bounds[key]

    def _cost_of(self, chosen: Sequence[int]) -> int:
        at = np.array(chosen)
        return int(self.own[at].sum() + np.triu(self.pair[np.ix_(at, at)], 1).sum())

    def improved(self) -> list[int]:
        """Return a good choice: each pipe where it is shortest, changed over and bent otherwise while that helps."""
        slots = _assigned(self.least)[1]
        chosen = [self._best_of(pipe, int(slot), []) for pipe, slot in enumerate(slots)]
        for _ in range(_MOST_ROUNDS):
            before = self._cost_of(chosen)
            for pipe in range(len(chosen)):
                chosen = self._bent(chosen, pipe)
                for other in range(pipe):
                    chosen = self._changed_over(chosen, pipe, other)
            if self._cost_of(chosen) == before:
                break
        return chosen

    def _best_of(self, pipe: int, slot: int, others: Sequence[int]) -> int:
        mine = [at for at in self.of[pipe] if self.slot[at] == slot]
        return min(mine, key=lambda at: int(self.own[at] + self.pair[at, list(others)].sum()))

    def _bent(self, chosen: list[int], pipe: int) -> list[int]:
        others = [at for each, at in enumerate(chosen) if each != pipe]
        return [*chosen[:pipe], self._best_of(pipe, int(self.slot[chosen[pipe]]), others), *chosen[pipe + 1 :]]

    def _changed_over(self, chosen: list[int], pipe: int, other: int) -> list[int]:
        tried = list(chosen)
        rest = [at for each, at in enumerate(chosen) if each not in (pipe, other)]
        tried[pipe] = self._best_of(pipe, int(self.slot[chosen[other]]), rest)
        tried[other] = self._best_of(other, int(self.slot[chosen[pipe]]), [*rest, tried[pipe]])
        return tried if self._cost_of(tried) < self._cost_of(chosen) else chosen


def _meetings(runs: Sequence[PipeRun]) -> tuple[Any, Any]:
    """Return which runs cross or touch, and which lie on each other, as tables."""
    most = max(len(run.corners) for run in runs) - 1
    # A straight stretch as its box; what a run has not is an empty one, far away.
    boxes = np.full((len(runs), most, 4), 10**8, dtype=np.int64)
    boxes[:, :, 1::2] = -(10**8)
    for at, run in enumerate(runs):
        for leg, ((x, y), (u, v)) in enumerate(pairwise(run.corners)):
            boxes[at, leg] = (min(x, u), max(x, u), min(y, v), max(y, v))
    count = len(runs)
    cross, on_top = np.zeros((count, count), dtype=np.int64), np.zeros((count, count), dtype=bool)
    for one in range(most):
        for other in range(most):
            a, b = boxes[:, None, one], boxes[None, :, other]
            wide = np.minimum(a[..., 1], b[..., 1]) - np.maximum(a[..., 0], b[..., 0])
            high = np.minimum(a[..., 3], b[..., 3]) - np.maximum(a[..., 2], b[..., 2])
            meet = (wide >= 0) & (high >= 0)
            along = meet & ((wide > 0) | (high > 0))
            on_top |= along
            cross += meet & ~along
    return (cross > 0).astype(np.int64), on_top.astype(np.int64)
