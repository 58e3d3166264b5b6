"""What a meter reads on a network that is not as it was drawn, many changes at once, without solving each anew.

One inverse Z of the network serves every change of it (Sherman, Morrison and Woodbury): branches whose conductance
changes, and paths between two nodes that nobody drew, make of a reading R = e'Ze

    R' = e'Ze - e'ZU inv(inv(D) + U'ZU) U'Ze

U being the ends of what changes and D the changes of conductance. The current in every branch follows as well, and
with it how the reading depends on each resistance: dR/dr = i² for a unit current (Tellegen). A link that is made for
one reading alone is one more change, of 0 Ω.

Parts that hang together by nothing are tied by a leak of `LEAK_OHM`, one for each part: far above what a low-ohm meter
reads, far below what would cost digits.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lumbek.core.network.measure import Measurement
from lumbek.core.network.solver import parts_of
from lumbek.core.network.wiring import Laid, Node

Reals = NDArray[np.float64]
Places = NDArray[np.intp]
# What ties parts of a network that nothing joins.
LEAK_OHM = 1e5
# What a break is taken as.
BROKEN_OHM = 1e5
# A low-ohm meter shows more than this as open.
OPEN_FROM_OHM = 2e3
# What is nearer to nothing than this is rounding.
_NOTHING = 1e-9


def leaky_inverse(size: int, ends: Places, siemens: Reals) -> Reals:
    """Return the inverse of a network of `size` nodes, shape (size, size), in Ω.

    `ends` has shape (branches, 2), `siemens` (branches,). Each connected part is counted from its first node, and tied
    to all others there by the leak.
    """
    g = np.zeros((size, size))
    a, b = ends[:, 0], ends[:, 1]
    apart = np.where(a == b, 0.0, siemens)
    for rows, columns, sign in ((a, a, 1), (b, b, 1), (a, b, -1), (b, a, -1)):
        np.add.at(g, (rows, columns), sign * apart)
    part = np.array(parts_of(size, ends[apart > 0].tolist()))
    free = (part != np.arange(size)).astype(np.float64)
    g *= free[:, None] * free[None, :]
    g.flat[:: size + 1] += 1.0 - free
    z = np.asarray(np.linalg.inv(g), dtype=np.float64)
    z.flat[:: size + 1] *= free
    return np.asarray(z + LEAK_OHM * (part[:, None] == part[None, :]))


@dataclass(frozen=True)
class Changes:
    """Networks that differ from one another in a few places each: as many changes a case, shape (cases, changes).

    `nodes` are the two ends of what changes, shape (cases, changes, 2), -1 where one is not in the network: nothing
    changes there. `branch` is the branch whose own ends they are and which has `ohm` more in series, or -1: then a path
    of `ohm` is new.
    """

    nodes: Places
    branch: Places
    ohm: Reals


@dataclass(frozen=True)
class Readings:
    """What is read, shape (cases, readings) in Ω, and the current in each branch, (cases, readings, branches).

    The currents are in A for 1 A through the meter; no branch is there where nobody asked for them. `slope` is how a
    reading goes with the logarithm of what has changed, all of it alike, in Ω.
    """

    ohm: Reals
    ampere: Reals
    slope: Reals


class Meters:
    """The readings that are taken of one network, as rows over its nodes, by meters that find other conductors in its
    terminals: shapes (meters, readings, nodes), and (meters, readings) for what is probed at no node and reads open.
    """

    def __init__(self, found: Sequence[Mapping[Node, int]], size: int, taken: Sequence[Measurement]) -> None:
        """Find the probes and links of each reading, by where each meter finds the terminals."""
        shape = (len(found), len(taken))
        self.probes, self.links = np.zeros((*shape, size)), np.zeros((*shape, size))
        self.nowhere = np.zeros(shape, dtype=np.bool_)
        for meter, at in enumerate(found):
            for row, each in enumerate(taken):
                places = [at.get(name) for name in (*each.probes, *(each.linked or ()))]
                if None in places:
                    self.nowhere[meter, row] = True
                    continue
                a, b, *linked = (place for place in places if place is not None)
                self.probes[meter, row, a] += 1
                self.probes[meter, row, b] -= 1
                if linked:
                    self.links[meter, row, linked[0]] += 1
                    self.links[meter, row, linked[1]] -= 1


class DrawnNetwork:
    """One network as it is drawn and set up: readings on it, and on all that differ from it in a few places."""

    def __init__(self, laid: Laid, ohms: Reals, meters: Meters) -> None:
        """Solve the network of branches of `ohms` Ω once."""
        self.laid, self.ohms, self._meters = laid, ohms, meters
        self._siemens = np.where(laid.whole, 1.0 / ohms, 0.0)
        self._z = leaky_inverse(laid.size, laid.ends, self._siemens)
        self._by_probe, self._by_link = meters.probes @ self._z, meters.links @ self._z
        self._alone = (self._by_probe * meters.probes).sum(axis=2)
        self._across = (self._by_probe * meters.links).sum(axis=2)
        self._seen = (self._by_link * meters.links).sum(axis=2)
        self._has_link = np.asarray(meters.links.any(axis=2))

    def read(self, changes: Changes, meter: Places, currents: bool = True) -> Readings:
        """Return what is read, case by case, `meter` being which of the meters reads each, shape (cases,).

        Currents are not asked for where they are not needed: they are most of the work.
        """
        z = self._z
        there = np.asarray((changes.nodes >= 0).all(axis=2))
        nodes = np.where(there[:, :, None], changes.nodes, 0)
        a, b = nodes[..., 0], nodes[..., 1]
        mutual = _at_ports(z, a, b)
        inner = np.asarray(np.linalg.inv(mutual + _diagonal(self._inverse_change(changes, there, mutual))))
        # Shape (cases, readings, changes).
        port_probe, port_link = (
            np.where(there[:, :, None], each[meter[:, None], :, a] - each[meter[:, None], :, b], 0.0).transpose(0, 2, 1)
            for each in (self._by_probe, self._by_link)
        )
        pulled, pulled_link = port_probe @ inner, port_link @ inner
        ohm = self._alone[meter] - (pulled * port_probe).sum(axis=2)
        across = self._across[meter] - (pulled * port_link).sum(axis=2)
        seen = self._seen[meter] - (pulled_link * port_link).sum(axis=2)
        has_link = self._has_link[meter]
        by = np.where(has_link, across / np.where(has_link, np.maximum(seen, _NOTHING), 1.0), 0.0)
        ohm = np.where(self._meters.nowhere[meter], 2 * LEAK_OHM, ohm - by * across)
        pull = pulled - by[:, :, None] * pulled_link
        slope = np.asarray((pull**2 * self._inverse_slope(changes)[:, None, :]).sum(axis=2))
        if not currents:
            return Readings(ohm, np.zeros((*ohm.shape, 0)), slope)
        one, other = self.laid.ends.T
        from_port = z[:, a] - z[:, b]
        branch_port = from_port[one] - from_port[other]
        branch_probe, branch_link = (
            (each[:, :, one] - each[:, :, other])[meter] for each in (self._by_probe, self._by_link)
        )
        volts = branch_probe - by[:, :, None] * branch_link - pull @ branch_port.transpose(1, 2, 0)
        return Readings(ohm, np.asarray(volts * self._changed_siemens(changes)[:, None, :]), slope)

    def _own_ohm(self, changes: Changes) -> Reals:
        """Return the resistance of the branch of each change; 0 for a new path."""
        return np.where(changes.branch >= 0, self.ohms[changes.branch], 0.0)

    def _inverse_change(self, changes: Changes, there: NDArray[np.bool_], mutual: Reals) -> Reals:
        """Return 1/d of each change in Ω: of a new path its own resistance, of a branch with s in series -r - r²/s.

        Where a branch is the only way across, q is exactly its own resistance: what rounding makes of it is taken off.
        """
        r = self._own_ohm(changes)
        q = np.diagonal(mutual, axis1=1, axis2=2)
        found = np.where(changes.branch >= 0, -r - r * r / changes.ohm, changes.ohm)
        found = found + np.where((changes.branch >= 0) & (np.abs(q - r) < _NOTHING), r - q, 0.0)
        return np.where(there, found, 1.0 - q)

    def _inverse_slope(self, changes: Changes) -> Reals:
        """Return how 1/d of each change goes with the logarithm of its size, in Ω."""
        r = self._own_ohm(changes)
        return np.where(r > 0, r * r / changes.ohm, changes.ohm)

    def _changed_siemens(self, changes: Changes) -> Reals:
        """Return the conductance of each branch in each case: what is in series carries its current too."""
        found = np.repeat(self._siemens[None], len(changes.ohm), axis=0)
        case, place = np.nonzero(changes.branch >= 0)
        branch = changes.branch[case, place]
        found[case, branch] = 1.0 / (self.ohms[branch] + changes.ohm[case, place])
        return found


def _at_ports(z: Reals, a: Places, b: Places) -> Reals:
    """Return U'ZU case by case, shape (cases, changes, changes), of the ports between `a` and `b`, (cases, changes)."""
    rows_a, rows_b, a, b = a[:, :, None], b[:, :, None], a[:, None, :], b[:, None, :]
    return np.asarray(z[rows_a, a] - z[rows_a, b] - z[rows_b, a] + z[rows_b, b])


def _diagonal(rows: Reals) -> Reals:
    """Return a diagonal matrix for each row."""
    return np.asarray(rows[:, :, None] * np.eye(rows.shape[1]))
