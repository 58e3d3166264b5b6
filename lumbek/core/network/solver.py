"""A nodal solver for networks of resistances, in one or several separate parts.

Each connected part is grounded at one node and its conductance matrix inverted once. From that inverse Z
follow the resistance between any two nodes, the same with two further nodes shorted, node potentials for any
injected currents, and branch currents. Kirchhoff's and Ohm's laws; nothing else is assumed. Nodes joined by 0 Ω
(a closed contact, a link) are one node. Where resistances lie further apart than `WIDE`, as insulation beside
copper, single resistances are found by elimination, which keeps every digit.
"""

from collections.abc import Hashable, Iterable, Mapping, Sequence
from functools import cached_property
from itertools import chain
from typing import Generic, TypeVar

import numpy as np
from numpy.typing import NDArray

from lumbek.core.network.elimination import ohm_by_elimination

Node = TypeVar("Node", bound=Hashable)
OPEN = float("inf")
# An inverse loses about as many digits as the greatest resistance has over the least: beyond this it is not used.
WIDE = 1e6
# Up to so many nodes it is quicker to invert a network whole than to take it apart first.
SMALL = 48

Reals = NDArray[np.float64]


class Grid(Generic[Node]):
    """Which nodes the branches of a network join, whatever their Ω: laid out once, solved as often as is asked.

    Pairs of nodes that are `merged` are one, and go by the first of them. Each connected part is grounded at its first
    node.
    """

    def __init__(
        self, index: Mapping[Node, int], ends: Sequence[tuple[int, int]], merged: Sequence[tuple[int, int]] = ()
    ) -> None:
        """Lay out the branches between these `ends`, pairs of indices of `index`."""
        self.index, self.size = index, len(index)
        both = np.array(ends, dtype=np.intp).reshape(-1, 2)
        self.one = parts_of(self.size, merged) if merged else None
        if self.one is not None:
            both = np.array(self.one, dtype=np.intp)[both]
        self.ends = both
        self.part = parts_of(self.size, both.tolist())

    @cached_property
    def _places(self) -> NDArray[np.intp]:
        """Where each branch adds to a flat matrix: to two diagonal and two other entries, shape (4 branches,)."""
        a, b, size = self.ends[:, 0], self.ends[:, 1], self.size
        return np.concatenate((a * (size + 1), b * (size + 1), a * size + b, b * size + a))

    @cached_property
    def _signs(self) -> Reals:
        """What of a branch's conductance is added in those places, shape (4, branches).

        Nothing where its ends meet, and nothing in the rows and columns of nodes that are not live.
        """
        a, b = self._live[self.ends[:, 0]], self._live[self.ends[:, 1]]
        apart = self.ends[:, 0] != self.ends[:, 1]
        return np.asarray(np.array((a, b, -a * b, -a * b)) * apart, dtype=np.float64)

    @cached_property
    def _live(self) -> Reals:
        """1 for each node with a potential of its own, 0 for the grounded and the merged (each a part by itself)."""
        return np.asarray(np.array(self.part) != np.arange(self.size), dtype=np.float64)

    @cached_property
    def _blocks(self) -> list[NDArray[np.intp]]:
        """The live nodes part by part, parts of one size (as a cable's line, neutral and cpc are) together."""
        free: dict[int, list[int]] = {}
        for node in np.flatnonzero(self._live).tolist():
            free.setdefault(self.part[node], []).append(node)
        alike: dict[int, list[list[int]]] = {}
        for nodes in free.values():
            alike.setdefault(len(nodes), []).append(nodes)
        return [np.array(parts, dtype=np.intp) for parts in alike.values()]

    def inverse(self, siemens: Reals) -> Reals:
        """Return the inverse of the network's matrix for branches of `siemens` S, shape (branches,), in Ω.

        Shape (nodes, nodes), zero in the rows of grounded and of merged nodes.
        """
        size = self.size
        entries: Reals = (self._signs * siemens).ravel()
        flat: Reals = np.bincount(self._places, entries, size * size).astype(np.float64, copy=False)
        g = flat.reshape(size, size)
        if size > SMALL:
            # Of a large network it is less work to invert part by part, though each must be picked out.
            z = np.zeros_like(g)
            for rows in self._blocks:
                block = rows[:, :, None], rows[:, None, :]
                z[block] = np.linalg.inv(g[block])
            return z
        # A grounded node stands by itself with 1 S, which leaves the rest as it is and is taken off again.
        g.flat[:: size + 1] += 1.0 - self._live
        z = np.asarray(np.linalg.inv(g), dtype=np.float64)
        z.flat[:: size + 1] *= self._live
        return z


class Solution(Generic[Node]):
    """A solved network. `z` has shape (nodes, nodes), in Ω, zero in the rows of grounded and of merged nodes."""

    def __init__(self, grid: Grid[Node], ohms: Reals) -> None:
        """Invert the network for branches of `ohms` Ω, shape (branches,)."""
        self._index, self._one, self._part, self._ends = grid.index, grid.one, grid.part, grid.ends
        self._siemens = 1.0 / ohms
        self._wide = bool(ohms.size) and bool(ohms.max() > WIDE * ohms.min())
        self._z = grid.inverse(self._siemens)

    def with_joined(self, pairs: Sequence[tuple[Node, Node]]) -> "Solution[Node] | None":
        """Return the same network with the nodes of each pair made one; None where that must be solved anew.

        Parts that are joined at one node keep their own potentials from it; a pair within one part is a short, which
        is a rank-one change of the inverse (Sherman-Morrison). Nothing is inverted.
        """
        found = [(self._index.get(a), self._index.get(b)) for a, b in pairs]
        if self._wide or None in chain.from_iterable(found):
            return None
        z, part = self._z.copy(), np.array(self._part)
        one = np.arange(len(part)) if self._one is None else np.array(self._one)
        touched: set[int] = set()
        for i, j in found:
            assert i is not None and j is not None
            a, b = sorted((int(one[i]), int(one[j])))
            if a == b:
                continue
            if part[a] == part[b]:
                _short(z, a, b)
            else:
                _make_one(z, part, a, b)
            touched.add(int(part[a]))
            one[one == b] = a
            z[b, :] = z[:, b] = 0.0
        for root in touched:
            _ground(z, part == root, root)
        joined: Solution[Node] = object.__new__(Solution)
        joined._index, joined._one, joined._part, joined._z = self._index, one.tolist(), part.tolist(), z
        joined._ends, joined._siemens, joined._wide = one[self._ends], self._siemens, self._wide
        return joined

    def _at(self, node: Node) -> int | None:
        index = self._index.get(node)
        return index if index is None or self._one is None else self._one[index]

    def _pairs_at(self, pairs: Sequence[tuple[Node, Node]]) -> list[tuple[int | None, int | None]]:
        get, one = self._index.get, self._one
        if one is None:
            return [(get(a), get(b)) for a, b in pairs]
        return [(self._at(a), self._at(b)) for a, b in pairs]

    def ohm_between(self, a: Node, b: Node) -> float:
        """Return the resistance in Ω between two nodes; infinite where nothing joins them."""
        i, j = self._at(a), self._at(b)
        if i is None or j is None or self._part[i] != self._part[j]:
            return OPEN
        return self._between(i, j)

    def ohm_between_when_joined(self, a: Node, b: Node, c: Node, d: Node) -> float:
        """Return the resistance in Ω between a and b while c and d are shorted together.

        In separate parts the two ways add. In one part the short is a rank-one change of the inverse
        (Sherman-Morrison), so nothing is solved again.
        """
        i, j, k, m = self._at(a), self._at(b), self._at(c), self._at(d)
        if i is None or j is None or k is None or m is None:
            return OPEN
        part = self._part
        if part[k] != part[m]:
            if part[i] == part[j]:
                return self._between(i, j)
            if part[i] == part[m] and part[j] == part[k]:
                k, m = m, k
            if part[i] != part[k] or part[j] != part[m]:
                return OPEN
            return self._between(i, k) + self._between(j, m)
        if part[i] != part[j]:
            return OPEN
        if part[i] != part[k] or k == m:
            return self._between(i, j)
        if self._wide:
            ends = np.where(self._ends == m, k, self._ends)
            return ohm_by_elimination(ends, self._siemens, *(k if each == m else each for each in (i, j)))
        z, across = self._z, self._between(k, m)
        if across == 0:
            return self._between(i, j)
        transfer = z[i, k] - z[i, m] - z[j, k] + z[j, m]
        return self._between(i, j) - float(transfer) ** 2 / across

    def potentials_v(self, injected_a: Mapping[Node, float]) -> Reals:
        """Return node potentials in V for currents injected at nodes, returning at each part's ground."""
        current = np.zeros(len(self._index))
        for node, ampere in injected_a.items():
            at = self._at(node)
            if at is None:
                raise KeyError(node)
            current[at] += ampere
        return np.asarray(self._z @ current)

    def potential_of(self, potentials_v: Reals, node: Node) -> float:
        """Return the potential of one node in V; KeyError where it is not in the network."""
        at = self._at(node)
        if at is None:
            raise KeyError(node)
        return float(potentials_v[at])

    def potentials_of(self, potentials_v: Reals, nodes: Sequence[Node]) -> list[float]:
        """Return the potentials of several nodes in V, as `potential_of` does."""
        indices = [at for at in (self._at(each) for each in nodes) if at is not None]
        if len(indices) < len(nodes):
            raise KeyError(next(each for each in nodes if self._at(each) is None))
        found: list[float] = potentials_v[indices].tolist() if indices else []
        return found

    def joined(self, a: Node, b: Node) -> bool:
        """Whether any way leads from one node to the other."""
        i, j = self._at(a), self._at(b)
        return i is not None and j is not None and self._part[i] == self._part[j]

    def branch_currents_a(self, potentials_v: Reals) -> Reals:
        """Return the current in A in each branch, from its first end to its second."""
        across_v = potentials_v[self._ends]
        return np.asarray((across_v[:, 0] - across_v[:, 1]) * self._siemens)

    def ohms_between(self, pairs: Sequence[tuple[Node, Node]]) -> list[float]:
        """Return the resistance in Ω between the nodes of each pair, as `ohm_between` does, many at once."""
        indices = self._pairs_at(pairs)
        part = self._part
        if self._wide or any(i is None or j is None or part[i] != part[j] for i, j in indices):
            return [self.ohm_between(a, b) for a, b in pairs]
        at = np.array(indices, dtype=np.intp)
        i, j, z, own = at[:, 0], at[:, 1], self._z, self._z.diagonal()
        found: list[float] = (own[i] + own[j] - 2 * z[i, j]).tolist()
        return found

    def _out_and_back(self, out: int, back: int, pairs: Sequence[tuple[int | None, int | None]]) -> bool:
        """Whether these are two parts, and every pair joins one to the other."""
        part = self._part
        return out != back and all(
            k is not None and m is not None and part[k] == out and part[m] == back for k, m in pairs
        )

    def ohms_between_when_joined(self, a: Node, b: Node, pairs: Sequence[tuple[Node, Node]]) -> list[float]:
        """Return the resistance in Ω between a and b with the nodes of each pair shorted in turn, many at once."""
        i, j, part, z = self._at(a), self._at(b), self._part, self._z
        indices = self._pairs_at(pairs)
        # All at once only in the usual case: out by one part, back by another.
        if i is None or j is None or self._wide or not self._out_and_back(part[i], part[j], indices):
            return [self.ohm_between_when_joined(a, b, c, d) for c, d in pairs]
        at = np.array(indices, dtype=np.intp)
        k, m, own = at[:, 0], at[:, 1], z.diagonal()
        found: list[float] = (own[i] + own[j] + own[k] + own[m] - 2 * (z[i][k] + z[j][m])).tolist()
        return found

    def ohms_across_two_links(
        self, links: Sequence[tuple[Node, Node]], pairs: Sequence[tuple[Node, Node]]
    ) -> list[float] | None:
        """Return the resistance in Ω between the nodes of each pair while two links join the parts they lie in.

        By one link the two ways add; the other is a short across that, a rank-one change (Sherman-Morrison). None where
        the links are not two between the same two parts, or a pair does not lie one in each: then it must be solved.
        """
        if len(links) != 2 or self._wide:
            return None
        part = self._part
        found = self._pairs_at((*links, *pairs))
        if any(i is None or j is None for i, j in found):
            return None
        out, back = (part[at] for at in found[0] if at is not None)
        if out == back or any(part[i] != out or part[j] != back for i, j in found if i is not None and j is not None):
            return None
        at = np.array(found, dtype=np.intp)
        (a, b), (c, d) = at[:2].tolist()
        i, j = at[2:, 0], at[2:, 1]
        # The inverse is symmetric: a row stands for its column.
        z, own = self._z, self._z.diagonal()
        by_a, by_b = z[a], z[b]
        near = by_a[a] + by_b[b]
        round_both = near + own[c] + own[d] - 2 * (by_a[c] + by_b[d])
        if not round_both > 0:
            return None
        to_a, to_b = by_a[i], by_b[j]
        by_one = own[i] + own[j] + near - 2 * (to_a + to_b)
        # What stands between the ends of the other link while 1 A flows by the first.
        across = z[c][i] - to_a + z[d][j] - to_b + (near - by_a[c] - by_b[d])
        ohms: list[float] = (by_one - across**2 / round_both).tolist()
        return ohms

    def _between(self, i: int, j: int) -> float:
        if self._wide:
            return ohm_by_elimination(self._ends, self._siemens, i, j)
        z = self._z
        return float(z[i, i] + z[j, j] - 2 * z[i, j])


class Network(Generic[Node]):
    """Resistances in Ω between named nodes, put together one by one."""

    def __init__(self) -> None:
        self._index: dict[Node, int] = {}
        self._ends: list[tuple[int, int]] = []
        self._ohms: list[float] = []
        self._merged: list[tuple[int, int]] = []

    def node(self, name: Node) -> int:
        """Return the index of a node, made if it is new."""
        return self._index.setdefault(name, len(self._index))

    def join(self, a: Node, b: Node, ohm: float) -> None:
        """Add a resistance between two nodes; 0 Ω makes them one. Raises ValueError for less, and for no number."""
        if not ohm >= 0:
            raise ValueError(f"a branch needs a resistance of 0 Ω or more, not {ohm}")
        ends = (self.node(a), self.node(b))
        if ohm == 0:
            self._merged.append(ends)
            return
        self._ends.append(ends)
        self._ohms.append(ohm)

    def solve(self) -> Solution[Node]:
        """Return the network solved, each connected part grounded at its first-named node."""
        return Solution(Grid(self._index, self._ends, self._merged), np.array(self._ohms))


def _short(z: Reals, a: int, b: int) -> None:
    """Join two nodes of one part in its inverse (Sherman-Morrison)."""
    across = z[:, a] - z[:, b]
    between = float(across[a] - across[b])
    if between > 0:
        z -= across[:, None] * (across / between)


def _make_one(z: Reals, part: NDArray[np.intp], a: int, b: int) -> None:
    """Join two parts at a node of each: each counts its potentials from it, and both have the lesser number."""
    _ground(z, part == part[a], a)
    _ground(z, part == part[b], b)
    kept, gone = sorted((int(part[a]), int(part[b])))
    part[part == gone] = kept


def _ground(z: Reals, rows: NDArray[np.bool_], node: int) -> None:
    """Count the potentials of a part, given by its rows, from one of its nodes: z is changed in place."""
    column = z[:, node]
    if not column.any():
        # It is counted from there already.
        return
    # Half of what goes off every entry, once for its row and once for its column.
    off = np.where(rows, column - column[node] / 2, 0.0)
    z -= off[:, None] * rows
    z -= rows[:, None] * off


def parts_of(size: int, ends: Iterable[Sequence[int]]) -> list[int]:
    """Return for each node the lowest node of its connected part (union-find with path halving)."""
    parent = list(range(size))
    for one, other in ends:
        a, b = one, other
        while parent[a] != a:
            parent[a] = a = parent[parent[a]]
        while parent[b] != b:
            parent[b] = b = parent[parent[b]]
        if a < b:
            parent[b] = a
        else:
            parent[a] = b
    # A parent is never above its child, so going up from the lowest finds each root in one step.
    for node in range(size):
        parent[node] = parent[parent[node]]
    return parent
