"""A nodal solver for networks of resistances, in one or several separate parts.

Each connected part is grounded at one node and its conductance matrix inverted once. From that inverse Z
follow the resistance between any two nodes, the same with two further nodes shorted, node potentials for any
injected currents, and branch currents. Kirchhoff's and Ohm's laws; nothing else is assumed.
"""

from collections.abc import Hashable, Mapping
from typing import Generic, TypeVar

import numpy as np
from numpy.typing import NDArray

Node = TypeVar("Node", bound=Hashable)
OPEN = float("inf")


class Network(Generic[Node]):
    """Resistances in Ω between named nodes."""

    def __init__(self) -> None:
        self._index: dict[Node, int] = {}
        self._ends: list[tuple[int, int]] = []
        self._ohms: list[float] = []

    def node(self, name: Node) -> int:
        """Return the index of a node, made if it is new."""
        return self._index.setdefault(name, len(self._index))

    def join(self, a: Node, b: Node, ohm: float) -> int:
        """Add a resistance between two nodes and return its branch number. Raises ValueError if not > 0."""
        if not ohm > 0:
            raise ValueError(f"a branch needs a resistance above 0 Ω, not {ohm}")
        index = self._index
        self._ends.append((index.setdefault(a, len(index)), index.setdefault(b, len(index))))
        self._ohms.append(ohm)
        return len(self._ohms) - 1

    def solve(self) -> "Solution[Node]":
        """Invert the network, each connected part grounded at its first-named node."""
        size = len(self._index)
        part = _parts(size, self._ends)
        z = np.zeros((size, size))
        ends = np.array(self._ends, dtype=np.intp).reshape(-1, 2)
        siemens = 1.0 / np.array(self._ohms)
        a, b = ends[:, 0], ends[:, 1]
        # Every branch adds to two diagonal and two other entries; one count over flat indices sums them all.
        places = np.concatenate((a * (size + 1), b * (size + 1), a * size + b, b * size + a))
        entries = np.concatenate((siemens, siemens, -siemens, -siemens))
        g = np.bincount(places, entries, size * size).reshape(size, size)
        # Parts of one size (as a cable's line, neutral and cpc are) are inverted together in one call.
        alike: dict[int, list[list[int]]] = {}
        for nodes in _free_nodes(part):
            alike.setdefault(len(nodes), []).append(nodes)
        for parts in alike.values():
            free = np.array(parts, dtype=np.intp)
            blocks = free[:, :, None], free[:, None, :]
            z[blocks] = np.linalg.inv(g[blocks])
        return Solution(self._index, part, ends, siemens, z)


class Solution(Generic[Node]):
    """A solved network. `z` has shape (nodes, nodes), in Ω, zero in the rows of grounded nodes."""

    def __init__(
        self,
        index: Mapping[Node, int],
        part: list[int],
        ends: NDArray[np.intp],
        siemens: NDArray[np.float64],
        z: NDArray[np.float64],
    ) -> None:
        self._index, self._part, self._ends, self._siemens, self._z = index, part, ends, siemens, z

    def ohm_between(self, a: Node, b: Node) -> float:
        """Return the resistance in Ω between two nodes; infinite where nothing joins them."""
        i, j = self._index.get(a), self._index.get(b)
        if i is None or j is None or self._part[i] != self._part[j]:
            return OPEN
        return self._between(i, j)

    def ohm_between_when_joined(self, a: Node, b: Node, c: Node, d: Node) -> float:
        """Return the resistance in Ω between a and b while c and d are shorted together.

        In separate parts the two ways add. In one part the short is a rank-one change of the inverse
        (Sherman-Morrison), so nothing is solved again.
        """
        indices = [self._index.get(node) for node in (a, b, c, d)]
        if any(index is None for index in indices):
            return OPEN
        i, j, k, m = (index for index in indices if index is not None)
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
        if part[i] != part[k]:
            return self._between(i, j)
        z, across = self._z, self._between(k, m)
        if across == 0:
            return self._between(i, j)
        transfer = z[i, k] - z[i, m] - z[j, k] + z[j, m]
        return self._between(i, j) - float(transfer) ** 2 / across

    def potentials_v(self, injected_a: Mapping[Node, float]) -> NDArray[np.float64]:
        """Return node potentials in V for currents injected at nodes, returning at each part's ground."""
        current = np.zeros(len(self._index))
        for node, ampere in injected_a.items():
            current[self._index[node]] += ampere
        return np.asarray(self._z @ current)

    def potential_of(self, potentials_v: NDArray[np.float64], node: Node) -> float:
        """Return the potential of one node in V."""
        return float(potentials_v[self._index[node]])

    def branch_currents_a(self, potentials_v: NDArray[np.float64]) -> NDArray[np.float64]:
        """Return the current in A in each branch, from its first end to its second."""
        drop = potentials_v[self._ends[:, 0]] - potentials_v[self._ends[:, 1]]
        return np.asarray(drop * self._siemens)

    def _between(self, i: int, j: int) -> float:
        z = self._z
        return float(z[i, i] + z[j, j] - 2 * z[i, j])


def _free_nodes(part: list[int]) -> list[list[int]]:
    """Return the nodes of each part that are not its grounded first one; parts of a single node have none."""
    free: dict[int, list[int]] = {}
    for node, root in enumerate(part):
        if node != root:
            free.setdefault(root, []).append(node)
    return list(free.values())


def _parts(size: int, ends: list[tuple[int, int]]) -> list[int]:
    """Return for each node the lowest node of its connected part (union-find with path halving)."""
    parent = list(range(size))
    for ends_of_branch in ends:
        a, b = ends_of_branch
        while parent[a] != a:
            parent[a] = a = parent[parent[a]]
        while parent[b] != b:
            parent[b] = b = parent[parent[b]]
        parent[max(a, b)] = min(a, b)
    # A parent is never above its child, so going up from the lowest finds each root in one step.
    for node in range(size):
        parent[node] = parent[parent[node]]
    return parent
